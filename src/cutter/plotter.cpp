#include "cutter/plotter.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <utility>

namespace frelm::cutter {
namespace {

constexpr double units = 40;           // a mm
constexpr double gravity = 9806.65;    // mm/s²
constexpr std::size_t most_steps = 64; // that it sees ahead
constexpr double to_radians = 3.14159265358979323846 / 180;
constexpr int noisy_bytes = 6;
constexpr double ends_after = 3; // mm: of OutOfBounds, to the end of the material

double distance(Place a, Place b) {
  return std::hypot(b.x - a.x, b.y - a.y);
}
// Rounding the corner by an arc that stays within `off` of it, at the acceleration that holds it there: v² = a · r,
// with r · (1 / sin(h) − 1) = off, h half the angle between the two sides.
double corner_speed(Place a, Place b, Place c, double off, double acceleration) {
  const double before = std::atan2(b.y - a.y, b.x - a.x), after = std::atan2(c.y - b.y, c.x - b.x);
  const double turn = std::abs(std::remainder(after - before, 360 * to_radians));
  const double h = std::sin((180 * to_radians - turn) / 2);
  return h > 1 - 1e-12 ? 1e9 : std::sqrt(acceleration * off * h / (1 - h));
}

} // namespace

Plotter::Plotter(const PlotterOptions& options) : options_(options), random_(options.seed) {
  meet_fault();
}

std::size_t Plotter::room() const {
  return options_.buffer - std::min(options_.buffer, buffer_.size());
}

void Plotter::receive(std::string_view bytes) {
  if (off_ || fault_is(FaultKind::Stall))
    return;
  for (char c : bytes) {
    if (noise_left_ > 0 && random_() % 4 == 0) {
      --noise_left_, line_error_ = 15; // the parity is wrong
      if (noise_left_ == noisy_bytes - 1)
        troubles_.push_back("garbled bytes on the line");
      continue;
    }
    take(c);
  }
  most_ = std::max(most_, buffer_.size());
}

void Plotter::take(char c) {
  constexpr char esc = 27;
  if (c == esc) {
    escape_ = c;
  } else if (escape_.size() == 1 && c == '.') {
    escape_ += c;
  } else if (escape_.size() == 2) {
    const bool with_numbers = std::string_view("@HIMNTP").find(c) != std::string_view::npos;
    escape_ = with_numbers ? "..." : "";
    if (!with_numbers)
      escape(c);
  } else if (escape_.size() == 3) { // its numbers, up to a colon
    if (c == ':')
      escape_.clear();
  } else if (room() > 0) {
    escape_.clear();
    buffer_.push_back(c);
  } else {
    ++lost_, line_error_ = 16;
    if (lost_ == 1)
      troubles_.push_back("more than the buffer holds");
  }
}

int Plotter::status() const {
  return stopped_ + (idle() ? 8 : 0);
}

void Plotter::escape(char letter) {
  const auto say = [&](std::size_t n) { replies_ += fmt::format("{}\r", n); };
  switch (letter) {
  case 'B':
    return say(room());
  case 'L':
    return say(options_.buffer);
  case 'O':
    return say(static_cast<std::size_t>(status()));
  case 'E':
    say(static_cast<std::size_t>(line_error_));
    line_error_ = 0;
    return;
  case 'K':
  case 'R':
    buffer_.clear(), steps_.clear(), name_.clear(), number_.clear(), numbers_.clear();
    partly_ = false, speed_ = 0, left_ = 0;
    if (!strokes_.empty() && down_)
      strokes_.back().to = now_;
    down_ = parsed_down_ = false, parsed_ = {at_.x * units, at_.y * units};
    if (letter == 'R')
      said_speed_ = said_acceleration_ = 0, error_ = 0, relative_ = false;
    return;
  default: // what has nothing to do here: on, off, …
    return;
  }
}

void Plotter::error(int code, const std::string& what) {
  Step step;
  step.what = Step::What::Error, step.pen = code;
  steps_.push_back(step);
  troubles_.push_back(what);
}

void Plotter::parse() {
  while (!buffer_.empty() && steps_.size() < most_steps) {
    const char c = buffer_.front();
    buffer_.pop_front();
    if (std::isalpha(static_cast<unsigned char>(c)))
      letter(static_cast<char>(std::toupper(static_cast<unsigned char>(c))));
    else if (std::isdigit(static_cast<unsigned char>(c)) || c == '-' || c == '+' || c == '.')
      number_ += c;
    else if (c == ';')
      instruction_ends();
    else
      number_ends(); // a comma or a blank
  }
}

void Plotter::letter(char c) {
  if (name_.size() == 2)
    instruction_ends();
  name_ += c;
  if (name_.size() < 2)
    return;
  pairs_ = name_ == "PU" || name_ == "PD" || name_ == "PA" || name_ == "PR";
  if (name_ == "PU" || name_ == "PD")
    put(name_ == "PD");
  if (name_ == "PA" || name_ == "PR")
    relative_ = name_ == "PR";
}

void Plotter::number_ends() {
  if (number_.empty())
    return;
  double value = 0;
  const char* first = number_.data() + (number_.front() == '+' ? 1 : 0);
  const auto [end, fault] = std::from_chars(first, number_.data() + number_.size(), value);
  if (fault != std::errc() || end != number_.data() + number_.size() || !(std::abs(value) <= 8'388'607))
    bad_number_ = true, value = 0;
  number_.clear();
  numbers_.push_back(value);
  if (pairs_ && numbers_.size() == 2) {
    if (!bad_number_)
      relative_ ? move_to(parsed_.x + numbers_[0], parsed_.y + numbers_[1]) : move_to(numbers_[0], numbers_[1]);
    numbers_.clear();
  }
}

void Plotter::instruction_ends() {
  number_ends();
  const std::string name = std::exchange(name_, "");
  const std::vector<double> n = std::exchange(numbers_, {});
  const bool bad = std::exchange(bad_number_, false);
  if (name.empty() && n.empty())
    return;
  if (std::exchange(unknown_next_, false))
    return error(1, "an instruction that it does not know: " + name);
  if (bad)
    return error(3, "a number that can't be in " + name);
  const auto one = [&] { return n.size() == 1 && n[0] > 0; };
  if (pairs_) {
    if (!n.empty())
      error(2, "a number is missing in " + name);
  } else if (name == "IN" || name == "DF") {
    put(false);
    relative_ = false, said_speed_ = said_acceleration_ = 0;
  } else if (name == "SP") {
    Step step;
    step.what = Step::What::Pen;
    step.pen = n.empty() ? 0 : static_cast<int>(n[0]);
    put(false);
    steps_.push_back(step);
  } else if (name == "VS") {
    one() ? void(said_speed_ = n[0] * 10) : error(3, "a number that can't be in VS");
  } else if (name == "AS") {
    one() ? void(said_acceleration_ = n[0] * gravity) : error(3, "a number that can't be in AS");
  } else if (name == "AA" || name == "AR") {
    arc(n, name == "AR");
  } else if (name == "CI") {
    circle(n);
  } else if (name == "OA" || name == "OE" || name == "OH" || name == "OI" || name == "OF" || name == "OS") {
    Step step;
    step.what = Step::What::Answer;
    step.answer = name;
    steps_.push_back(step);
  } else if (name != "PS" && name != "LT" && name != "FS") {
    error(1, "an instruction that it does not know: " + name);
  }
  pairs_ = false;
}

void Plotter::put(bool down) {
  if (down == parsed_down_)
    return;
  parsed_down_ = down;
  Step step;
  step.what = down ? Step::What::Down : Step::What::Up;
  steps_.push_back(step);
}

void Plotter::move_to(double x, double y) {
  Step step;
  const double reach_x = options_.length * units, reach_y = options_.width * units;
  step.down = parsed_down_;
  if (x < 0 || y < 0 || x > reach_x || y > reach_y) {
    error(6, fmt::format("a place beyond the sheet: {},{}", x, y));
    x = std::clamp(x, 0.0, reach_x), y = std::clamp(y, 0.0, reach_y);
    step.down = false; // it is lifted there
  }
  const Place from{parsed_.x / units, parsed_.y / units};
  step.to = {x / units, y / units};
  step.length = distance(from, step.to);
  step.speed = parsed_down_ ? (said_speed_ > 0 ? said_speed_ : options_.cut) : options_.travel;
  step.acceleration = said_acceleration_ > 0 ? said_acceleration_ : options_.acceleration;
  parsed_ = {x, y};
  if (step.length > 0)
    steps_.push_back(step);
}

void Plotter::arc(const std::vector<double>& n, bool relative) {
  if (n.size() < 3 || n.size() > 4)
    return error(2, "a number is missing in an arc");
  const Place centre{n[0] + (relative ? parsed_.x : 0), n[1] + (relative ? parsed_.y : 0)};
  const double step = std::clamp(n.size() == 4 ? std::abs(n[3]) : 5.0, 0.5, 180.0);
  const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(n[2]) / step)));
  const double r = distance(centre, parsed_), first = std::atan2(parsed_.y - centre.y, parsed_.x - centre.x);
  for (int i = 1; i <= steps; ++i) {
    const double a = first + n[2] * to_radians * i / steps;
    move_to(std::round(centre.x + r * std::cos(a)), std::round(centre.y + r * std::sin(a)));
  }
}

void Plotter::circle(const std::vector<double>& n) {
  if (n.empty() || n.size() > 2)
    return error(2, "a number is missing in a circle");
  const Place centre = parsed_;
  const bool down = parsed_down_;
  put(false);
  move_to(centre.x + n[0], centre.y);
  put(true);
  arc({centre.x, centre.y, 360, n.size() == 2 ? n[1] : 5}, false);
  put(false);
  move_to(centre.x, centre.y);
  put(down);
}

void Plotter::answer(const std::string& which) {
  if (which == "OA") {
    replies_ +=
        fmt::format("{},{},{}\r", std::lround(at_.x * units), std::lround(at_.y * units), really_down() ? 1 : 0);
  } else if (which == "OE") {
    replies_ += fmt::format("{}\r", error_);
    error_ = 0;
  } else if (which == "OH") {
    replies_ += fmt::format("0,0,{},{}\r", std::lround(options_.length * units), std::lround(options_.width * units));
  } else if (which == "OI") {
    replies_ += "PRACTICE\r";
  } else if (which == "OF") {
    replies_ += "40,40\r";
  } else {
    replies_ += fmt::format("{}\r", (really_down() ? 1 : 0) + 16 + (error_ != 0 ? 32 : 0));
  }
}

std::string Plotter::take_replies() {
  return fault_is(FaultKind::Stall) || off_ ? std::string() : std::exchange(replies_, "");
}

bool Plotter::idle() const {
  return buffer_.empty() && steps_.empty();
}

// A move of a line that is not whole yet is begun when enough is known of what follows.
bool Plotter::ready(bool starved) const {
  const auto ends = [](const Step& s) { return s.what != Step::What::Move; };
  return starved || steps_.size() >= most_steps || !steps_.front().down ||
         std::any_of(steps_.begin(), steps_.end(), ends);
}

double Plotter::speed_after_first() const {
  std::size_t n = 1; // moves that follow one another without a stop
  while (n < steps_.size() && steps_[n].what == Step::What::Move && steps_[n].down == steps_[0].down)
    ++n;
  double after = 0;
  for (std::size_t i = n; i-- > 1;) {
    const Step& s = steps_[i];
    const double reach = std::sqrt(after * after + 2 * s.acceleration * s.length);
    const Place before = i >= 2 ? steps_[i - 2].to : at_;
    after = std::min({reach, s.speed, steps_[i - 1].speed,
                      corner_speed(before, steps_[i - 1].to, s.to, options_.corner, s.acceleration)});
  }
  return after;
}

void Plotter::begin_step() {
  Step& s = steps_.front();
  partly_ = true;
  switch (s.what) {
  case Step::What::Move: {
    const double a = s.acceleration, most = s.speed, in = std::min(speed_, most);
    const double out = std::min(speed_after_first(), std::sqrt(in * in + 2 * a * s.length));
    const double peak = std::min(most, std::sqrt(a * s.length + (in * in + out * out) / 2));
    const double changing = (2 * peak * peak - in * in - out * out) / (2 * a);
    left_ = std::abs(2 * peak - in - out) / a + std::max(0.0, s.length - changing) / peak;
    leaves_at_ = out;
    return;
  }
  case Step::What::Down:
    left_ = options_.down;
    return;
  case Step::What::Up:
    left_ = options_.up;
    return;
  default:
    left_ = 0;
  }
}

void Plotter::end_step() {
  const Step s = steps_.front();
  steps_.pop_front();
  partly_ = false;
  switch (s.what) {
  case Step::What::Move:
    (s.down ? cut_ : travelled_) += s.length;
    at_ = s.to, speed_ = leaves_at_;
    if (s.down && really_down() && !strokes_.empty())
      strokes_.back().places.push_back(at_), strokes_.back().to = now_;
    else if (!s.down && really_down()) // beyond the sheet
      strokes_.push_back({pen_, {at_}, now_, now_});
    break;
  case Step::What::Down:
    down_ = true, speed_ = 0;
    if (really_down())
      strokes_.push_back({pen_, {at_}, now_, now_});
    break;
  case Step::What::Up:
    down_ = false, speed_ = 0;
    break;
  case Step::What::Pen:
    pen_ = s.pen;
    break;
  case Step::What::Answer:
    answer(s.answer);
    break;
  case Step::What::Error:
    error_ = s.pen;
    break;
  }
  meet_fault();
}

void Plotter::meet_fault() {
  if (met_ || options_.fault == FaultKind::None || cut_ < options_.fault_at)
    return;
  met_ = true;
  waits_ = options_.fault_lasts;
  switch (options_.fault) {
  case FaultKind::UnknownCommand:
    unknown_next_ = true;
    break;
  case FaultKind::OutOfBounds:
    options_.length = std::min(options_.length, at_.x + ends_after);
    break;
  case FaultKind::Noise:
    noise_left_ = noisy_bytes;
    break;
  case FaultKind::PaperOut:
    stopped_ = 32;
    troubles_.push_back("no material");
    break;
  case FaultKind::Pause:
    stopped_ = 16;
    troubles_.push_back("paused at the machine");
    break;
  case FaultKind::PowerLoss:
    off_ = true;
    troubles_.push_back("the power went");
    break;
  case FaultKind::Stall:
    troubles_.push_back("it stands still");
    break;
  case FaultKind::BladeLifted:
    troubles_.push_back("the blade does not come down");
    break;
  case FaultKind::None:
    break;
  }
}

void Plotter::go_on() {
  stopped_ = 0;
}

void Plotter::advance(double seconds, bool starved) {
  while (seconds > 0 || !steps_.empty() || !buffer_.empty()) {
    if (off_ || fault_is(FaultKind::Stall))
      return;
    if (stopped_ != 0) {
      now_ += seconds;
      if (waits_ > 0 && (waits_ -= seconds) <= 0)
        go_on();
      return;
    }
    parse();
    if (!partly_) {
      if (steps_.empty() || !ready(starved)) {
        now_ += seconds;
        return;
      }
      begin_step();
    }
    const double t = std::min(left_, seconds);
    left_ -= t, seconds -= t, now_ += t, busy_ += t;
    if (left_ > 1e-12)
      return;
    end_step();
  }
}

} // namespace frelm::cutter
