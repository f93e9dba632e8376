#include "formats/hpgl_read.h"

#include "formats/hpgl.h"
#include "formats/line_drawing.h"
#include "formats/svg_in/values.h"
#include "geom/arc_cubics.h"
#include "geom/curve.h"

#include <charconv>
#include <map>
#include <optional>

namespace frelm {
namespace {

constexpr char escape = '\x1b', end_of_text = '\x03';

struct PlotTooLong {};

class Plot {
public:
  explicit Plot(std::string_view text) : text_(text) {}

  std::map<int, std::vector<Contour>> lines; // by pen; mm, y down
  LeftOutList left_out;
  std::size_t known = 0; // instructions

  void read(const std::stop_token& stop) {
    while (at_ < text_.size() && !stop.stop_requested()) {
      const char c = text_[at_];
      if (c == escape) {
        device();
      } else if (std::isalpha(static_cast<unsigned char>(c)) != 0 && at_ + 1 < text_.size() &&
                 std::isalpha(static_cast<unsigned char>(text_[at_ + 1])) != 0) {
        std::string name{c, text_[at_ + 1]};
        for (char& letter : name)
          letter = static_cast<char>(std::toupper(static_cast<unsigned char>(letter)));
        at_ += 2;
        instruction(name);
      } else {
        ++at_;
      }
    }
    end_line();
  }

private:
  // "ESC.X…:" of the device: parameters up to a colon, or none; other sequences up to a capital (PCL).
  void device() {
    ++at_;
    if (at_ < text_.size() && text_[at_] == '.') {
      at_ = std::min(at_ + 2, text_.size());
      while (at_ < text_.size() && (std::isdigit(static_cast<unsigned char>(text_[at_])) != 0 || text_[at_] == ';'))
        ++at_;
      if (at_ < text_.size() && text_[at_] == ':')
        ++at_;
      return;
    }
    constexpr std::size_t longest = 32;
    for (std::size_t n = 0; n < longest && at_ < text_.size(); ++n)
      if (std::isupper(static_cast<unsigned char>(text_[at_++])) != 0)
        return;
  }

  std::vector<double> numbers() {
    std::vector<double> out;
    while (at_ < text_.size()) {
      while (at_ < text_.size() && (std::isspace(static_cast<unsigned char>(text_[at_])) != 0 || text_[at_] == ','))
        ++at_;
      const std::size_t from = at_ + (at_ < text_.size() && text_[at_] == '+' ? 1 : 0);
      double v = 0;
      const auto [end, status] = std::from_chars(text_.data() + from, text_.data() + text_.size(), v);
      if (status != std::errc() || !std::isfinite(v))
        break;
      at_ = static_cast<std::size_t>(end - text_.data());
      constexpr double farthest = 1e9; // units; what is further out than a sheet is left out later
      out.push_back(std::clamp(v, -farthest, farthest));
      if (out.size() > most)
        throw PlotTooLong{};
    }
    return out;
  }

  Point mm(Point user) const { // y turned down
    const Point p = scaled_ ? to_units_(user) : user;
    return {p.x / hpgl_units_per_mm, -p.y / hpgl_units_per_mm};
  }

  void instruction(const std::string& name) {
    if (name == "LB") {
      const std::size_t end = std::min(text_.find(end_of_text_, at_), text_.size());
      const Point at = mm(pen_);
      constexpr double high = 3; // mm, about
      left_out.add(Lost::Text, {at.x, at.y - high, at.x + high, at.y});
      at_ = std::min(end + 1, text_.size());
      ++known;
      return;
    }
    if (name == "DT") {
      if (at_ < text_.size())
        end_of_text_ = text_[at_++];
      return;
    }
    if (name == "PE") {
      ++known;
      encoded_places();
      return;
    }
    const std::vector<double> v = numbers();
    ++known;
    if (name == "PU" || name == "PD") {
      down_ = name == "PD";
      if (!down_)
        end_line();
      moves(v);
    } else if (name == "PA" || name == "PR") {
      relative_ = name == "PR";
      moves(v);
    } else if (name == "SP") {
      end_line();
      pen_number_ = v.empty() ? 0 : static_cast<int>(std::clamp(v[0], 0.0, 999.0));
    } else if (name == "IN" || name == "DF") {
      end_line();
      relative_ = scaled_ = false;
      down_ = down_ && name == "DF";
    } else if (name == "AA" || name == "AR") {
      if (v.size() >= 3)
        arc(name == "AR" ? pen_ + Vec{v[0], v[1]} : Point{v[0], v[1]}, v[2]);
    } else if (name == "CI") {
      if (!v.empty() && v[0] != 0)
        circle(std::abs(v[0]));
    } else if (name == "EA" || name == "ER") {
      if (v.size() >= 2)
        rectangle(name == "ER" ? pen_ + Vec{v[0], v[1]} : Point{v[0], v[1]});
    } else if (name == "EW") {
      if (v.size() >= 3)
        wedge(v[0], v[1], v[2]);
    } else if (name == "IP") {
      if (v.size() >= 4)
        corner_ = {v[0], v[1]}, other_corner_ = {v[2], v[3]};
      set_scale();
    } else if (name == "SC") {
      window_ = v;
      set_scale();
    } else if (name == "RA" || name == "RR" || name == "WG" || name == "FP" || name == "SM") {
      left_out.add(Lost::Unread, {}, name);
    } else if (name == "PM") {
      polygon(v.empty() ? 0 : static_cast<int>(v[0]));
    } else if (name == "EP") {
      for (Contour& c : polygon_)
        lines[pen_number_].push_back(c);
    } else {
      --known; // how, not where; or not of the language
    }
  }

  // A number in digits of base 64 (or 32), the least first, the last one marked; its lowest bit is the sign.
  std::optional<double> encoded(bool seven_bits) {
    const int base = seven_bits ? 32 : 64, first = 63, last = seven_bits ? 95 : 191;
    double value = 0, weight = 1;
    constexpr int most_digits = 10; // beyond all places
    for (int n = 0; n < most_digits && at_ < text_.size(); ++n) {
      const int c = static_cast<unsigned char>(text_[at_]);
      const bool ends = c >= last && c < last + base;
      if (!ends && (c < first || c >= first + base))
        return std::nullopt;
      ++at_;
      value += weight * (c - (ends ? last : first));
      weight *= base;
      if (ends)
        return std::fmod(value, 2) != 0 ? -std::floor(value / 2) : value / 2;
    }
    return std::nullopt;
  }
  // Steps with the pen down, unless told otherwise for the one that follows.
  void encoded_places() {
    bool seven_bits = false, absolute = false, up = false;
    double unit = 1;
    while (at_ < text_.size() && text_[at_] != ';') {
      const char c = text_[at_];
      if (c == '7' || c == '<' || c == '=') {
        (c == '7' ? seven_bits : c == '<' ? up : absolute) = true;
        ++at_;
      } else if (c == ':' || c == '>') {
        ++at_;
        const std::optional<double> n = encoded(seven_bits);
        if (n && c == '>') {
          constexpr double most_bits = 30;
          unit = std::ldexp(1.0, -static_cast<int>(std::clamp(*n, -most_bits, most_bits)));
        } else if (n) {
          end_line();
          pen_number_ = static_cast<int>(std::clamp(*n, 0.0, 999.0));
        }
      } else if (static_cast<unsigned char>(c) <= ' ') {
        ++at_;
      } else {
        const std::optional<double> x = encoded(seven_bits), y = x ? encoded(seven_bits) : x;
        if (!y) {
          left_out.add(Lost::Unread, {}, "PE");
          at_ = std::min(text_.find(';', at_), text_.size());
          break;
        }
        down_ = !up;
        if (up)
          end_line();
        move(absolute ? Point{*x * unit, *y * unit} : pen_ + Vec{*x * unit, *y * unit});
        up = absolute = false;
      }
    }
    down_ = down_ && !up;
  }

  void set_scale() {
    scaled_ = window_.size() >= 4 && window_[1] != window_[0] && window_[3] != window_[2];
    if (!scaled_)
      return;
    const double kx = (other_corner_.x - corner_.x) / (window_[1] - window_[0]),
                 ky = (other_corner_.y - corner_.y) / (window_[3] - window_[2]);
    to_units_ = {kx, 0, 0, ky, corner_.x - window_[0] * kx, corner_.y - window_[2] * ky};
  }

  void moves(const std::vector<double>& v) {
    for (std::size_t i = 0; i + 1 < v.size(); i += 2)
      move(relative_ ? pen_ + Vec{v[i], v[i + 1]} : Point{v[i], v[i + 1]});
  }
  void move(Point to) {
    if (++places_ > most)
      throw PlotTooLong{};
    const Point from = line_.empty() ? mm(pen_) : line_.back().p3; // an arc ends beside its place, by rounding
    if (down_ && distance(from, mm(to)) > 0)
      line_.push_back(Segment::line(from, mm(to)));
    else if (!down_)
      end_line();
    pen_ = to;
  }
  // Counter-clockwise where positive, degrees.
  void arc(Point centre, double turn) {
    const Vec from = pen_ - centre;
    turn = std::clamp(turn, -360.0, 360.0);
    const double radius = length(from), start = std::atan2(from.y, from.x);
    const Point to = centre + radius * direction(start + radians(turn));
    if (down_ && radius > 0 && turn != 0)
      add_arc(centre, radius, start, radians(turn));
    pen_ = std::abs(turn) == 360 ? pen_ : to;
  }
  void add_arc(Point centre, double radius, double start, double sweep) {
    for (const Segment& s :
         arc_cubics(centre, radius, radius, 0, start, sweep, default_arc_tolerance * hpgl_units_per_mm)) {
      Segment placed = Segment::cubic(mm(s.p0), mm(s.p1), mm(s.p2), mm(s.p3));
      if (!line_.empty())
        placed.p0 = line_.back().p3;
      line_.push_back(placed);
    }
  }
  void circle(double radius) {
    const Point centre = pen_;
    const bool was_down = down_;
    end_line();
    add_arc(centre, radius, 0, 2 * pi);
    end_line();
    down_ = was_down;
  }
  void rectangle(Point to) {
    end_line();
    const Point p[]{pen_, {to.x, pen_.y}, to, {pen_.x, to.y}};
    for (std::size_t i = 0; i < 4; ++i)
      if (const Segment s = Segment::line(mm(p[i]), mm(p[(i + 1) % 4])); distance(s.p0, s.p3) > 0)
        line_.push_back(s);
    end_line();
  }
  void wedge(double radius, double start, double turn) {
    end_line();
    const Point centre = pen_;
    const double from = radians(start), by = radians(std::clamp(turn, -360.0, 360.0));
    if (!(std::abs(radius) > 0) || by == 0)
      return;
    line_.push_back(Segment::line(mm(centre), mm(centre + radius * direction(from))));
    add_arc(centre, std::abs(radius), radius < 0 ? from + pi : from, by);
    line_.push_back(Segment::line(line_.back().p3, mm(centre)));
    end_line();
  }
  void polygon(int mode) {
    end_line();
    if (mode == 0)
      polygon_.clear();
    in_polygon_ = mode != 2;
    down_ = false;
  }

  void end_line() {
    if (line_.empty())
      return;
    Contour c{std::move(line_), false};
    line_.clear();
    constexpr double unit = 1 / hpgl_units_per_mm;
    Segment& last = c.segments.back();
    if (c.segments.size() > 1 && distance(last.p3, c.segments.front().p0) < unit / 100) {
      last.p3 = c.segments.front().p0;
      if (last.is_line())
        last = Segment::line(last.p0, last.p3);
      c.closed = true;
    }
    (in_polygon_ ? polygon_ : lines[pen_number_]).push_back(std::move(c));
  }

  static constexpr std::size_t most = 2'000'000;
  std::string_view text_;
  std::size_t at_ = 0, places_ = 0;
  char end_of_text_ = end_of_text;
  Point pen_, corner_{0, 0}, other_corner_{hpgl_units_per_mm * 1000, hpgl_units_per_mm * 1000};
  std::vector<double> window_;
  Affine to_units_;
  bool down_ = false, relative_ = false, scaled_ = false, in_polygon_ = false;
  int pen_number_ = 1;
  std::vector<Segment> line_;
  std::vector<Contour> polygon_;
};

// Pens have numbers, not colours; common practice, no source.
Colour pen_colour(int pen) {
  constexpr Colour colours[]{{0, 0, 0},          {0xc8, 0x1e, 0x1e}, {0x1e, 0x8c, 0x3c}, {0x1e, 0x50, 0xc8},
                             {0x1e, 0xa0, 0xb4}, {0xb4, 0x3c, 0xa0}, {0xc8, 0xa0, 0x14}, {0x78, 0x50, 0x28}};
  return colours[static_cast<std::size_t>(std::max(pen - 1, 0)) % std::size(colours)];
}

} // namespace

bool looks_like_hpgl(std::string_view bytes) {
  constexpr std::size_t head = 2000;
  std::string_view first = bytes.substr(0, head);
  while (!first.empty() && (std::isspace(static_cast<unsigned char>(first.front())) != 0 || first.front() == ';'))
    first.remove_prefix(1);
  if (first.starts_with(escape))
    return first.find("IN") != std::string_view::npos || first.find("PU") != std::string_view::npos;
  const std::string word = lower_case(first.substr(0, 2));
  for (const char* begins : {"in", "df", "sp", "pu", "pa", "pd", "bp", "co", "vs", "ip", "ps"})
    if (word == begins) {
      const char next = first.size() > 2 ? first[2] : ' ';
      return std::string_view(";,-+ \r\n\"").find(next) != std::string_view::npos ||
             std::isdigit(static_cast<unsigned char>(next)) != 0 || std::isupper(static_cast<unsigned char>(next)) != 0;
    }
  return false;
}

Result<Drawing> read_hpgl(std::string_view bytes, const DrawingReadOptions& options) {
  constexpr std::size_t most_bytes = 64'000'000;
  if (!looks_like_hpgl(bytes))
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "is not HP-GL"), {}};
  if (bytes.size() > most_bytes)
    return bad_input(FRELM_WORDS("core", "holds more than 64 MB; split the drawing up first"));
  Plot plot(bytes);
  try {
    plot.read(options.stop);
  } catch (const PlotTooLong&) {
    return bad_input(FRELM_WORDS("core", "has more than 2,000,000 places; split the drawing up first"));
  }
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  if (plot.known == 0)
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "is not HP-GL"), {}};
  Drawing out;
  for (auto& [pen, lines] : plot.lines)
    add_lines(out, plot.left_out, std::move(lines), "pen-" + std::to_string(pen), pen_colour(pen), options.clean);
  out.left_out = plot.left_out.list();
  if (out.frame.empty())
    out.frame = {0, 0, 1, 1};
  return out;
}

} // namespace frelm
