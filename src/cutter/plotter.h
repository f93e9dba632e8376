// A cutter that is only computed: it takes HP-GL into a small buffer, moves a blade over a sheet by speed and
// acceleration, answers, and has faults on request. No sockets, no clock: time comes from outside.
//
// mm, seconds; its own place is counted in plotter units of 0.025 mm, y up from the sheet's lower left corner.
// Instructions: IN DF PA PR PU PD SP VS AS PS AA AR CI LT FS OA OE OH OI OF OS. Out of line, answered or done at once:
// ESC . B (room in the buffer), L (its size), O (0 working, 8 nothing to do, 16 paused at the machine, 32 no
// material), E (0, or 15: garbled, 16: more than the buffer holds), K (forget all and lift), R (as when switched on).
// Sources: Hewlett-Packard, HP 7475A Interfacing and Programming Manual (1983), chapters 2 to 10 and B; AS: HP 7550A
// Interfacing and Programming Manual (1984).
#pragma once

#include <cstddef>
#include <deque>
#include <random>
#include <string>
#include <string_view>
#include <vector>

namespace frelm::cutter {

struct Place {
  double x = 0, y = 0; // mm
};

enum class FaultKind {
  None,
  UnknownCommand, // an instruction that it does not know
  OutOfBounds,    // the material ends a little further on
  Stall,          // it moves no more and answers nothing
  Noise,          // bits fall over on the line
  PaperOut,       // no material
  BladeLifted,    // it doesn't come down any more
  Pause,          // somebody pressed pause at the machine
  PowerLoss       // it goes off
};

struct PlotterOptions {
  std::size_t buffer = 1024;           // bytes
  double width = 610, length = 10'000; // mm of the sheet: y goes up to the width, x along the length
  double cut = 200, travel = 400;      // mm/s, while nothing else is said
  double acceleration = 3000;          // mm/s²
  double corner = 0.05;                // mm that a corner may be rounded by, which says how fast it is taken
  double down = 0.05, up = 0.05;       // s to put the blade down and to lift it
  bool strict = false;                 // what has no room in the buffer is lost, as on a line without a handshake
  FaultKind fault = FaultKind::None;
  double fault_at = 0;    // mm cut before it
  double fault_lasts = 0; // s, of Pause and PaperOut; 0: until `go_on`
  unsigned seed = 1;      // of the noise
};

// One time that the blade was down.
struct Stroke {
  int pen = 0;
  std::vector<Place> places;
  double from = 0, to = 0; // s
};

class Plotter {
public:
  explicit Plotter(const PlotterOptions& options);

  // How many bytes there is room for; with `strict` any number may be given.
  std::size_t room() const;
  void receive(std::string_view bytes);
  // It begins to move when its list of moves is full, a line is whole, or nothing came for a while (`starved`): so it
  // never stops in a line for want of the rest of it.
  void advance(double seconds, bool starved);
  std::string take_replies();
  void go_on(); // at the machine: material is loaded, the pause is over

  bool idle() const; // nothing to do
  bool off() const { return off_; }
  bool waiting() const { return stopped_ != 0; }
  double now() const { return now_; }
  double busy() const { return busy_; } // s in which it moved
  const std::vector<Stroke>& strokes() const { return strokes_; }
  double cut() const { return cut_; }
  double travelled() const { return travelled_; }
  const std::vector<std::string>& troubles() const { return troubles_; }
  std::size_t lost_bytes() const { return lost_; }
  std::size_t most_in_buffer() const { return most_; }
  Place at() const { return at_; }
  bool pen_down() const { return down_; }
  int status() const;

private:
  struct Step { // what is done in order: a move, the blade up or down, an answer, an error met
    enum class What { Move, Down, Up, Pen, Answer, Error } what = What::Move;
    Place to;
    bool down = false;
    double length = 0, speed = 0, acceleration = 0;
    int pen = 0;        // or the error
    std::string answer; // which
  };

  void take(char c);
  void escape(char letter);
  void parse();
  void letter(char c);
  void number_ends();
  void instruction_ends();
  void move_to(double x, double y); // units
  void arc(const std::vector<double>& numbers, bool relative);
  void circle(const std::vector<double>& numbers);
  void put(bool down);
  void error(int code, const std::string& what);
  void answer(const std::string& which);
  void begin_step();
  void end_step();
  bool ready(bool starved) const;
  double speed_after_first() const; // the most at which the first step may be left
  void meet_fault();
  bool fault_is(FaultKind kind) const { return met_ && options_.fault == kind; }
  bool really_down() const { return down_ && !fault_is(FaultKind::BladeLifted); }

  PlotterOptions options_;
  std::deque<char> buffer_;
  std::string replies_, escape_;
  // The instruction that is read.
  std::string name_, number_;
  std::vector<double> numbers_;
  bool pairs_ = false, bad_number_ = false;
  // What was read and is not yet done.
  std::deque<Step> steps_;
  Place parsed_; // units: where it will be then
  bool parsed_down_ = false, relative_ = false;
  int parsed_pen_ = 0;
  double said_speed_ = 0, said_acceleration_ = 0; // VS and AS; 0: not said
  // What it does.
  bool partly_ = false;              // the first step is begun
  double left_ = 0;                  // s of it
  double speed_ = 0, leaves_at_ = 0; // mm/s at which it was entered, at which it will be left
  Place at_;                         // mm
  bool down_ = false;
  int pen_ = 0;
  int error_ = 0, line_error_ = 0;
  int stopped_ = 0; // 16 or 32
  double waits_ = 0;
  bool met_ = false, off_ = false, unknown_next_ = false;
  int noise_left_ = 0;
  std::mt19937 random_;
  double now_ = 0, busy_ = 0, cut_ = 0, travelled_ = 0;
  std::size_t lost_ = 0, most_ = 0;
  std::vector<Stroke> strokes_;
  std::vector<std::string> troubles_;
};

} // namespace frelm::cutter
