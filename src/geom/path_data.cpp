// A scanner over the text, one command after the other, with the last control point kept for S and T; arcs are turned
// into their centre form and kept as arcs until cubics are asked for.
#include "geom/path_data.h"

#include "geom/arc_cubics.h"
#include "geom/arc_view.h"
#include "geom/short_number.h"

#include <charconv>
#include <fmt/format.h>
#include <iterator>

namespace frelm {
namespace {

class Reader {
public:
  explicit Reader(std::string_view text) : text_(text) {}

  PathReading read() {
    std::optional<Error> error = all();
    return {std::move(out_), std::move(error)};
  }

private:
  std::optional<Error> all() {
    skip();
    if (at_ < text_.size() && text_[at_] != 'M' && text_[at_] != 'm')
      return fail(FRELM_WORDS("core", "path data must start with M"));
    while (at_ < text_.size()) {
      if (std::isalpha(static_cast<unsigned char>(text_[at_])) != 0) {
        command_ = text_[at_++];
        if (command_ == 'Z' || command_ == 'z') {
          close();
          skip();
          continue;
        }
      } else if (command_ == 0 || command_ == 'Z' || command_ == 'z') {
        return fail(FRELM_WORDS("core", "a command letter is missing"));
      }
      if (!step())
        return fail(error_);
      skip();
    }
    return std::nullopt;
  }
  Error fail(Said what) const {
    return bad_input(std::move(what), say(FRELM_WORDS("core", "path data, character %1"), std::to_string(at_ + 1)));
  }
  void skip() {
    while (at_ < text_.size() && (std::isspace(static_cast<unsigned char>(text_[at_])) != 0 || text_[at_] == ','))
      ++at_;
  }
  bool number(double& value) {
    skip();
    std::size_t start = at_;
    if (start < text_.size() && text_[start] == '+')
      ++start;
    const auto [end, status] = std::from_chars(text_.data() + start, text_.data() + text_.size(), value);
    if (status != std::errc() || !std::isfinite(value)) {
      error_ = FRELM_WORDS("core", "a number is missing");
      return false;
    }
    at_ = static_cast<std::size_t>(end - text_.data());
    return true;
  }
  bool flag(bool& value) {
    skip();
    if (at_ >= text_.size() || (text_[at_] != '0' && text_[at_] != '1')) {
      error_ = FRELM_WORDS("core", "an arc flag must be 0 or 1");
      return false;
    }
    value = text_[at_++] == '1';
    return true;
  }
  bool point(Point& p) {
    if (!number(p.x) || !number(p.y))
      return false;
    if (relative())
      p = p + pen_;
    return true;
  }
  bool relative() const { return std::islower(static_cast<unsigned char>(command_)) != 0; }

  Subpath& open() {
    if (out_.empty() || out_.back().closed) {
      out_.emplace_back().start = pen_;
      start_ = pen_;
    }
    return out_.back();
  }
  void add(CurvePiece piece, Point end) {
    open().pieces.push_back(piece);
    pen_ = end;
  }
  void close() {
    if (out_.empty() || out_.back().closed)
      return;
    if (pen_ != start_)
      out_.back().pieces.push_back(Segment::line(pen_, start_));
    out_.back().closed = true;
    pen_ = start_;
    previous_ = 'Z';
  }

  bool step() {
    const char upper = static_cast<char>(std::toupper(static_cast<unsigned char>(command_)));
    Point a, b, c;
    switch (upper) {
    case 'M':
      if (!point(a))
        return false;
      if (!out_.empty() && out_.back().pieces.empty() && !out_.back().closed)
        out_.pop_back();
      out_.emplace_back().start = a;
      pen_ = start_ = a;
      command_ = relative() ? 'l' : 'L'; // further pairs are lines
      break;
    case 'L':
      if (!point(a))
        return false;
      add(Segment::line(pen_, a), a);
      break;
    case 'H':
      if (!number(a.x))
        return false;
      a = {relative() ? pen_.x + a.x : a.x, pen_.y};
      add(Segment::line(pen_, a), a);
      break;
    case 'V':
      if (!number(a.y))
        return false;
      a = {pen_.x, relative() ? pen_.y + a.y : a.y};
      add(Segment::line(pen_, a), a);
      break;
    case 'C':
    case 'S':
      if (upper == 'C' ? !point(a) : false)
        return false;
      if (upper == 'S')
        a = previous_ == 'C' || previous_ == 'S' ? pen_ * 2.0 - handle_ : pen_;
      if (!point(b) || !point(c))
        return false;
      handle_ = b;
      add(Segment::cubic(pen_, a, b, c), c);
      break;
    case 'Q':
    case 'T':
      if (upper == 'Q' ? !point(a) : false)
        return false;
      if (upper == 'T')
        a = previous_ == 'Q' || previous_ == 'T' ? pen_ * 2.0 - handle_ : pen_;
      if (!point(c))
        return false;
      handle_ = a;
      add(Segment::quadratic(pen_, a, c), c);
      break;
    case 'A':
      if (!arc())
        return false;
      break;
    default:
      --at_; // where it stands
      error_ = say(FRELM_WORDS("core", "'%1' is not a path command"), std::string(1, command_));
      return false;
    }
    previous_ = upper;
    return true;
  }

  // Endpoint to centre form: SVG 1.1, appendix F.6.5 and F.6.6.
  bool arc() {
    double rx = 0, ry = 0, turn = 0;
    bool large = false, sweep = false;
    Point to;
    if (!number(rx) || !number(ry) || !number(turn) || !flag(large) || !flag(sweep) || !point(to))
      return false;
    rx = std::abs(rx), ry = std::abs(ry), turn = radians(turn);
    if (to == pen_)
      return true;
    if (rx == 0 || ry == 0) {
      add(Segment::line(pen_, to), to);
      return true;
    }
    const Vec half = Affine::rotation(-turn).linear((pen_ - to) / 2);
    const double lambda = half.x * half.x / (rx * rx) + half.y * half.y / (ry * ry);
    if (lambda > 1)
      rx *= std::sqrt(lambda), ry *= std::sqrt(lambda);
    const double top = rx * rx * ry * ry - rx * rx * half.y * half.y - ry * ry * half.x * half.x;
    const double under = rx * rx * half.y * half.y + ry * ry * half.x * half.x;
    const double k = (large == sweep ? -1 : 1) * std::sqrt(std::max(0.0, top / under));
    const Vec c{k * rx * half.y / ry, -k * ry * half.x / rx};
    const Point centre = Affine::rotation(turn).linear(c) + (pen_ + to) / 2;
    const double from = std::atan2((half.y - c.y) / ry, (half.x - c.x) / rx);
    double span = std::atan2((-half.y - c.y) / ry, (-half.x - c.x) / rx) - from;
    if (sweep && span < 0)
      span += 2 * pi;
    if (!sweep && span > 0)
      span -= 2 * pi;
    add(ArcPiece{centre, rx, ry, turn, from, span}, to);
    return true;
  }

  std::string_view text_;
  std::size_t at_ = 0;
  char command_ = 0, previous_ = 0;
  Point pen_, start_, handle_;
  std::vector<Subpath> out_;
  Said error_;
};

} // namespace

PathReading read_path_data(std::string_view text) {
  return Reader(text).read();
}

Result<std::vector<Subpath>> parse_path_data(std::string_view text) {
  PathReading read = read_path_data(text);
  if (read.error)
    return *read.error;
  return std::move(read.subpaths);
}

Result<Curve> parse_curve(std::string_view text) {
  Result<std::vector<Subpath>> subpaths = parse_path_data(text);
  if (!subpaths)
    return subpaths.error();
  std::erase_if(*subpaths, [](const Subpath& s) { return s.pieces.empty(); });
  if (subpaths->size() != 1)
    return bad_input(FRELM_WORDS("core", "a guide is one unbroken line; give exactly one subpath"),
                     FRELM_WORDS("core", "guide"));
  Curve curve(subpaths->front().pieces, subpaths->front().closed);
  if (!(curve.length() > 0))
    return bad_input(FRELM_WORDS("core", "the guide has no length"), FRELM_WORDS("core", "guide"));
  return curve;
}

// Lines and cubics just as they stand, without length too; nothing where there are arcs.
static Contour as_written(const Subpath& s) {
  Contour out;
  for (const CurvePiece& piece : s.pieces) {
    const Segment* segment = std::get_if<Segment>(&piece);
    if (segment == nullptr)
      return {};
    out.segments.push_back(*segment);
  }
  return out;
}

Outline to_outline(const std::vector<Subpath>& subpaths, double arc_tolerance, EndsMeet ends) {
  Outline out;
  for (const Subpath& s : subpaths) {
    Contour c = ends == EndsMeet::StaysOpen ? as_written(s) : Contour{{}, false};
    if (c.segments.empty())
      c = Curve(s.pieces, s.closed).contour(arc_tolerance);
    if (c.segments.empty())
      continue;
    c.closed = s.closed || (ends == EndsMeet::Closes && c.segments.front().p0 == c.segments.back().p3);
    out.contours.push_back(std::move(c));
  }
  return out;
}

Result<Outline> parse_outline(std::string_view text, EndsMeet ends) {
  const Result<std::vector<Subpath>> subpaths = parse_path_data(text);
  if (!subpaths)
    return subpaths.error();
  return to_outline(*subpaths, default_arc_tolerance, ends);
}

namespace {

class PathText {
public:
  explicit PathText(int decimals) : decimals_(decimals) {}

  void put(char command, std::initializer_list<double> numbers) {
    out_.push_back(command);
    for (const double v : numbers) {
      if (out_.back() != command)
        out_.push_back(' ');
      number(v);
    }
  }
  void put(char command, Point p) { put(command, {p.x, p.y}); }
  void cubic(const Segment& s) { put('C', {s.p1.x, s.p1.y, s.p2.x, s.p2.y, s.p3.x, s.p3.y}); }
  void close() { out_.push_back('Z'); }
  std::string text() { return std::move(out_); }

private:
  void number(double v) {
    if (decimals_ < 0) {
      fmt::format_to(std::back_inserter(out_), "{}", v);
      return;
    }
    out_ += short_number(v, decimals_);
  }

  int decimals_;
  std::string out_;
};

void put_arc(PathText& to, const ArcStretch& arc) {
  constexpr double longest = 2 * pi / 3 + 1e-9;
  const int parts = std::max(1, static_cast<int>(std::ceil(std::abs(arc.sweep) / longest)));
  for (int i = 1; i <= parts; ++i) {
    const Point end =
        i == parts ? arc.to : arc.centre + Affine::rotation(arc.sweep * i / parts).linear(arc.from - arc.centre);
    to.put('A', {arc.radius, arc.radius, 0, 0, arc.sweep > 0 ? 1.0 : 0.0, end.x, end.y});
  }
}

} // namespace

std::string path_data(const Outline& outline, int decimals) {
  PathText to(decimals);
  for (const Contour& c : outline.contours) {
    if (c.segments.empty())
      continue;
    to.put('M', c.segments.front().p0);
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Segment& s = c.segments[i];
      const bool closing_line = c.closed && i + 1 == c.segments.size() && s.is_line() && i > 0 && s.p0 != s.p3;
      if (closing_line)
        continue;
      if (s.is_line())
        to.put('L', s.p3);
      else
        to.cubic(s);
    }
    if (c.closed)
      to.close();
  }
  return to.text();
}

std::string path_data_with_arcs(const Outline& outline, int decimals, double tolerance) {
  PathText to(decimals);
  for (const Contour& c : outline.contours) {
    if (c.segments.empty())
      continue;
    const std::vector<ViewPiece> view = arc_view(c, {.tolerance = tolerance});
    const auto start = [](const ViewPiece& piece) {
      if (const auto* cubic = std::get_if<CubicStretch>(&piece))
        return cubic->cubic.p0;
      if (const auto* arc = std::get_if<ArcStretch>(&piece))
        return arc->from;
      return std::get<LineStretch>(piece).from;
    };
    to.put('M', start(view.front()));
    for (std::size_t i = 0; i < view.size(); ++i) {
      if (const auto* arc = std::get_if<ArcStretch>(&view[i]))
        put_arc(to, *arc);
      else if (const auto* cubic = std::get_if<CubicStretch>(&view[i]))
        to.cubic(cubic->cubic);
      else if (const auto& line = std::get<LineStretch>(view[i]);
               !c.closed || i + 1 < view.size() || i == 0 || line.from == line.to)
        to.put('L', line.to);
    }
    if (c.closed)
      to.close();
  }
  return to.text();
}

} // namespace frelm
