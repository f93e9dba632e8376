#include "send/sender.h"

#include <algorithm>
#include <charconv>
#include <deque>
#include <thread>

namespace frelm {
namespace {

using Clock = std::chrono::steady_clock;

constexpr Milliseconds answer_within{2000}, ask_again{300}, between_looks{4}, seems_still{600};
// This much room is always left, so that an answer about room is never as small as one about errors.
constexpr long kept_free = 20;
constexpr std::size_t most_ahead = 2;                              // paths on their way: a pause comes soon
constexpr long overrun = 16, most_line_error = 16, most_error = 8; // 15: garbled
constexpr long paused_there = 16, no_material = 32;

class Sender {
public:
  Sender(const HpglProgram& program, std::size_t first, CutterWire& wire, const SendWatch& watch)
      : program_(program), wire_(wire), watch_(watch), next_(first), sending_(first) {
    for (std::size_t i = 0; i < first; ++i)
      before_ += program.paths[i].cut;
  }

  SendReport run() {
    const Clock::time_point begun = Clock::now();
    SendReport out;
    const Result<Done> done = all();
    if (!done) {
      out.stopped = done.error();
      lift();
    }
    out.next = next_, out.cut = cut_now_;
    out.seconds = std::chrono::duration<double>(Clock::now() - begun).count();
    return out;
  }

private:
  Result<Done> all() {
    if (const Result<Done> there = greet(); !there)
      return there.error();
    if (const Result<Done> sent = send(program_.begin); !sent)
      return sent.error();
    for (const std::size_t n = program_.paths.size(); sending_ < n; ++sending_) {
      if (const Result<Done> ready = wait_until_at_most(most_ahead - 1); !ready)
        return ready.error();
      const std::string bytes = program_.paths[sending_].bytes + "OA;OE;\n";
      expected_.push_back({sending_, sent_, sent_ + static_cast<long>(bytes.size())});
      if (const Result<Done> sent = send(bytes); !sent)
        return sent.error();
    }
    if (const Result<Done> ready = wait_until_at_most(0); !ready)
      return ready.error();
    return send(program_.end);
  }

  bool pausing() const { return watch_.pause != nullptr && *watch_.pause; }
  // Until no more paths than these are on their way, and nobody wants a pause; in that the blade is lifted.
  Result<Done> wait_until_at_most(std::size_t ahead) {
    for (bool lifted = false; expected_.size() > ahead || pausing();) {
      const bool still = expected_.empty();
      if (still && !lifted) {
        if (const Result<Done> up = put("PU;\n"); !up)
          return up.error();
        lifted = true;
      }
      const SendDoing doing = !pausing() ? SendDoing::Cutting : still ? SendDoing::Paused : SendDoing::Pausing;
      if (const Result<Done> looked = look(doing); !looked)
        return looked.error();
      std::this_thread::sleep_for(between_looks);
    }
    return Done{};
  }

  // A cutter says how large its buffer is.
  Result<Done> greet() {
    if (const Result<Done> asked = put("\x1b.L"); !asked)
      return asked.error();
    const Clock::time_point until = Clock::now() + answer_within;
    while (size_ == 0 && Clock::now() < until) {
      const Result<std::string> came = wire_.read(Milliseconds(50));
      if (!came)
        return came.error();
      heard_ += *came;
      if (const std::size_t end = heard_.find_first_of("\r\n"); end != std::string::npos) {
        size_ = number(heard_.substr(0, end)).value_or(0);
        heard_.erase(0, end + 1);
      }
    }
    if (size_ <= 2 * kept_free)
      return Error{ErrorCode::NotFound,
                   FRELM_WORDS("core", "what is there does not answer as a cutter does; check its address and port"),
                   {}};
    room_ = size_;
    return look(SendDoing::Cutting);
  }

  Result<Done> put(std::string_view bytes) { return wire_.write(bytes, answer_within); }

  Result<Done> send(std::string_view bytes) {
    while (!bytes.empty()) {
      const long free = room_ - kept_free;
      if (free < std::min<long>(static_cast<long>(bytes.size()), size_ / 4)) {
        if (const Result<Done> looked = look(SendDoing::Cutting); !looked)
          return looked.error();
        if (room_ - kept_free < std::min<long>(static_cast<long>(bytes.size()), size_ / 4))
          std::this_thread::sleep_for(between_looks);
        continue;
      }
      const std::string_view part = bytes.substr(0, static_cast<std::size_t>(free));
      if (const Result<Done> done = put(part); !done)
        return done.error();
      room_ -= static_cast<long>(part.size()), sent_ += static_cast<long>(part.size());
      bytes.remove_prefix(part.size());
    }
    return Done{};
  }

  // Asks for the room and the line's errors, and takes all answers that come.
  Result<Done> look(SendDoing doing) {
    if (watch_.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    const long before = room_;
    asked_room_ = asked_line_ = true;
    if (const Result<Done> asked = put("\x1b.E\x1b.B"); !asked)
      return asked.error();
    Clock::time_point asked_at = Clock::now();
    const Clock::time_point until = asked_at + answer_within;
    while (asked_room_ || asked_line_) {
      const Result<std::string> came = wire_.read(Milliseconds(20));
      if (!came)
        return came.error();
      if (const Result<Done> taken = take(*came); !taken)
        return taken.error();
      const Clock::time_point now = Clock::now();
      if (now > until)
        return Error{
            ErrorCode::Unreadable,
            say(FRELM_WORDS("core", "the cutter stopped answering in path %1; switch it off and on, then go on"),
                std::to_string(next_ + 1)),
            {}};
      if (now - asked_at > ask_again && (asked_room_ || asked_line_)) { // what was asked may have been garbled
        asked_at = now;
        if (const Result<Done> asked = put(asked_room_ ? "\x1b.E\x1b.B" : "\x1b.E"); !asked)
          return asked.error();
      }
    }
    if (room_ != before || expected_.empty())
      moved_at_ = Clock::now();
    else if (Clock::now() - moved_at_ > seems_still)
      return ask_why(doing);
    still_since_.reset();
    tell(doing);
    return Done{};
  }

  // Nothing left the buffer for a while: it may be on a long way, or wait for somebody.
  Result<Done> ask_why(SendDoing doing) {
    if (placed_.empty()) {
      if (const Result<Done> asked = put("\x1b.O"); !asked)
        return asked.error();
      const Clock::time_point until = Clock::now() + ask_again;
      asked_why_ = true;
      while (asked_why_ && Clock::now() < until) {
        const Result<std::string> came = wire_.read(Milliseconds(20));
        if (!came)
          return came.error();
        if (const Result<Done> taken = take(*came); !taken)
          return taken.error();
      }
      asked_why_ = false;
    }
    const bool waits = why_ & (paused_there | no_material);
    if (!waits)
      still_since_.reset();
    else if (!still_since_)
      still_since_ = Clock::now();
    if (waits)
      doing = why_ & no_material ? SendDoing::NoMaterial : SendDoing::PausedThere;
    tell(doing);
    if (still_since_ && Clock::now() - *still_since_ >= watch_.patience)
      return Error{ErrorCode::Unreadable,
                   why_ & no_material
                       ? say(FRELM_WORDS("core", "the cutter has no material at path %1; load it, then go on"),
                             std::to_string(next_ + 1))
                       : say(FRELM_WORDS("core", "the cutter was paused at path %1; release it there, then go on"),
                             std::to_string(next_ + 1)),
                   {}};
    return Done{};
  }

  static std::optional<long> number(std::string_view text) {
    long out = 0;
    const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), out);
    return fault == std::errc() && end == text.data() + text.size() ? std::optional(out) : std::nullopt;
  }

  Result<Done> take(const std::string& came) {
    heard_ += came;
    for (std::size_t end = heard_.find_first_of("\r\n"); end != std::string::npos; end = heard_.find_first_of("\r\n")) {
      const std::string line = heard_.substr(0, end);
      heard_.erase(0, end + 1);
      if (line.empty())
        continue;
      const Result<Done> taken = line.find(',') != std::string::npos ? take_place(line) : take_number(line);
      if (!taken)
        return taken.error();
    }
    return Done{};
  }

  Error in_path(ErrorCode code, Words what) const { return {code, say(what, std::to_string(next_ + 1)), {}}; }
  Result<Done> take_place(const std::string& line) {
    const std::size_t a = line.find(','), b = line.find(',', a + 1);
    const auto x = number(line.substr(0, a)), y = number(line.substr(a + 1, b - a - 1));
    const auto pen = b == std::string::npos ? std::nullopt : number(line.substr(b + 1));
    if (!x || !y || !pen || expected_.empty())
      return Done{}; // half a line
    placed_.push_back({*x, *y, *pen == 1});
    return Done{};
  }
  Result<Done> take_number(const std::string& line) {
    const std::optional<long> n = number(line);
    if (!n)
      return Done{};
    if (asked_why_ && placed_.empty()) {
      why_ = *n, asked_why_ = false;
      return Done{};
    }
    if (*n > most_line_error) {
      room_ = *n, asked_room_ = false;
      return Done{};
    }
    if (*n > most_error) {
      asked_line_ = false;
      return in_path(ErrorCode::Unreadable,
                     *n == overrun ? FRELM_WORDS("core", "more came to the cutter than its buffer holds, in path %1; "
                                                         "check the line's settings, then go on")
                                   : FRELM_WORDS("core", "what came to the cutter was garbled in path %1; check the "
                                                         "cable, then go on"));
    }
    if (*n == 0 && asked_line_) {
      asked_line_ = false;
      return Done{};
    }
    return placed_.empty() || expected_.empty() ? Result<Done>(Done{}) : path_done(*n);
  }

  Result<Done> path_done(long error) {
    const HpglPath& path = program_.paths[expected_.front().path];
    const Placed at = placed_.front();
    placed_.pop_front();
    if (error == 6 || error == 3)
      return in_path(ErrorCode::BadInput, FRELM_WORDS("core", "path %1 reaches farther than the cutter; move the work "
                                                              "onto its sheet, then go on"));
    if (error != 0)
      return in_path(ErrorCode::BadInput,
                     FRELM_WORDS("core", "the cutter did not understand path %1; check the kind of cutter and the "
                                         "cable, then go on"));
    if (!at.down)
      return in_path(ErrorCode::Unreadable,
                     FRELM_WORDS("core", "the blade was not down in path %1; see to it, then go on"));
    if (at.x != path.x || at.y != path.y)
      return in_path(ErrorCode::Unreadable, FRELM_WORDS("core", "the cutter did not get where path %1 ends; check the "
                                                                "cable, then go on"));
    cut_now_ += path.cut;
    moved_at_ = Clock::now();
    expected_.pop_front();
    ++next_;
    return Done{};
  }

  // What is cut of the path it is at is what it has taken out of its buffer of that.
  void tell(SendDoing doing) {
    if (!watch_.progress)
      return;
    SendState state{doing, std::min(next_, program_.paths.empty() ? 0 : program_.paths.size() - 1), before_ + cut_now_};
    if (!expected_.empty()) {
      const Expected& at = expected_.front();
      const double taken = double(sent_ - (size_ - room_) - at.first) / double(at.last - at.first);
      state.cut += std::clamp(taken, 0.0, 1.0) * program_.paths[at.path].cut;
    }
    told_ = std::max(told_, state.cut); // what it has taken and lost again is no step back
    state.cut = told_;
    watch_.progress(state);
  }

  // Whatever it does, it forgets it.
  void lift() {
    const std::string_view forget = "\x1b.K;PU;SP0;\n";
    if (!wire_.write(forget, ask_again))
      return; // nobody is there to hear it
  }

  const HpglProgram& program_;
  CutterWire& wire_;
  const SendWatch& watch_;
  std::size_t next_, sending_;
  long size_ = 0, room_ = 0, why_ = 0;
  std::string heard_;
  struct Expected {
    std::size_t path = 0;
    long first = 0, last = 0; // of all bytes that were sent
  };
  std::deque<Expected> expected_; // paths that were sent and are not known to be cut
  long sent_ = 0;                 // bytes that take room
  bool asked_room_ = false, asked_line_ = false, asked_why_ = false;
  struct Placed {
    long x = 0, y = 0;
    bool down = false;
  };
  std::deque<Placed> placed_; // of the first of these it is told where they ended; whether it understood comes next
  Clock::time_point moved_at_ = Clock::now();
  std::optional<Clock::time_point> still_since_;
  double before_ = 0, cut_now_ = 0, told_ = 0; // mm: of the paths before the first one, since, and as it was told
};

} // namespace

SendReport send_program(const HpglProgram& program, std::size_t first, CutterWire& wire, const SendWatch& watch) {
  return Sender(program, first, wire, watch).run();
}

} // namespace frelm
