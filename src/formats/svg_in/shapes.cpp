#include "formats/svg_in/shapes.h"

#include <fmt/format.h>

namespace frelm {
namespace {

class ShapeReader {
public:
  ShapeReader(const pugi::xml_node& node, const ElementStyle& style, const LengthScale& scale)
      : node_(node), style_(style), scale_(scale) {}

  ShapeReading read() {
    const std::string_view name = node_.name();
    if (name == "path")
      path();
    else if (name == "polygon" || name == "polyline")
      polygon(svg_numbers(node_.attribute("points").value()), name == "polygon");
    else if (name == "line")
      polygon({number("x1", LengthAlong::X), number("y1", LengthAlong::Y), number("x2", LengthAlong::X),
               number("y2", LengthAlong::Y)},
              false);
    else if (name == "rect")
      rectangle();
    else if (name == "circle" || name == "ellipse")
      ellipse(name == "circle");
    return std::move(out_);
  }

private:
  // "auto" is as if nothing stood there.
  std::optional<double> length(const char* name, LengthAlong along) {
    const std::string_view says = style_.value(name);
    if (says.empty() || lower_case(says) == "auto")
      return std::nullopt;
    const auto v = svg_length(says, scale_, along);
    if (!v)
      out_.wrong = fmt::format("{} \u201c{}\u201d", name, says);
    return v;
  }
  double number(const char* name, LengthAlong along) { return length(name, along).value_or(0); }

  void path() {
    const std::string_view data = node_.attribute("d").value();
    if (trimmed(data) == "none")
      return;
    PathReading read = read_path_data(data);
    out_.subpaths = std::move(read.subpaths);
    if (read.error) {
      out_.broken_path = true;
      out_.wrong = fmt::format("{}: {}", node_.attribute("id").value(), read.error->text());
    }
  }

  void polygon(std::vector<double> v, bool closed) {
    Subpath s;
    s.closed = closed;
    if (v.size() < 2)
      return;
    s.start = {v[0], v[1]};
    for (std::size_t i = 0; i + 3 < v.size(); i += 2)
      s.pieces.emplace_back(Segment::line({v[i], v[i + 1]}, {v[i + 2], v[i + 3]}));
    if (s.pieces.empty())
      return;
    const Point last{v[v.size() / 2 * 2 - 2], v[v.size() / 2 * 2 - 1]};
    if (closed && last != s.start)
      s.pieces.emplace_back(Segment::line(last, s.start));
    out_.subpaths.push_back(std::move(s));
  }

  void ellipse(bool circle) {
    auto rx = length(circle ? "r" : "rx", circle ? LengthAlong::Other : LengthAlong::X);
    auto ry = circle ? rx : length("ry", LengthAlong::Y);
    rx = rx ? rx : ry, ry = ry ? ry : rx; // SVG 2, 7.4: auto
    if (!rx || !(*rx > 0) || !(*ry > 0))
      return;
    const Point c{number("cx", LengthAlong::X), number("cy", LengthAlong::Y)};
    out_.subpaths.push_back({{ArcPiece{c, *rx, *ry, 0, 0, 2 * pi}}, true, c + Vec{*rx, 0}});
  }

  void rectangle() {
    const double x = number("x", LengthAlong::X), y = number("y", LengthAlong::Y), w = number("width", LengthAlong::X),
                 h = number("height", LengthAlong::Y);
    if (!(w > 0) || !(h > 0))
      return;
    auto rx = length("rx", LengthAlong::X), ry = length("ry", LengthAlong::Y);
    rx = rx && *rx >= 0 ? rx : ry, ry = ry && *ry >= 0 ? ry : rx;
    const double a = std::clamp(rx.value_or(0), 0.0, w / 2), b = std::clamp(ry.value_or(0), 0.0, h / 2);
    if (a == 0 || b == 0) {
      polygon({x, y, x + w, y, x + w, y + h, x, y + h}, true);
      return;
    }
    const double q = pi / 2;
    out_.subpaths.push_back(
        {{Segment::line({x + a, y}, {x + w - a, y}), ArcPiece{{x + w - a, y + b}, a, b, 0, -q, q},
          Segment::line({x + w, y + b}, {x + w, y + h - b}), ArcPiece{{x + w - a, y + h - b}, a, b, 0, 0, q},
          Segment::line({x + w - a, y + h}, {x + a, y + h}), ArcPiece{{x + a, y + h - b}, a, b, 0, q, q},
          Segment::line({x, y + h - b}, {x, y + b}), ArcPiece{{x + a, y + b}, a, b, 0, 2 * q, q}},
         true,
         {x + a, y}});
  }

  const pugi::xml_node& node_;
  const ElementStyle& style_;
  const LengthScale& scale_;
  ShapeReading out_;
};

void end_at_start(Contour& c, double tolerance) {
  const Point start = c.segments.front().p0;
  const auto gap = [&] { return distance(c.segments.back().p3, start); };
  const Segment& last = c.segments.back();
  // A closing line that is only rounding: what stands before it ends there.
  if (c.segments.size() > 2 && last.is_line() && gap() == 0 && distance(last.p0, last.p3) <= tolerance)
    c.segments.pop_back();
  if (gap() > tolerance || c.segments.size() < 2) {
    if (gap() > 0)
      c.segments.push_back(Segment::line(c.segments.back().p3, start));
  } else if (Segment& end = c.segments.back(); end.is_line()) {
    end = Segment::line(end.p0, start);
  } else {
    end.p3 = start;
  }
  c.closed = true;
}

} // namespace

bool is_svg_shape(std::string_view name) {
  return name == "path" || name == "rect" || name == "circle" || name == "ellipse" || name == "line" ||
         name == "polyline" || name == "polygon";
}

ShapeReading svg_shape(const pugi::xml_node& node, const ElementStyle& style, const LengthScale& scale) {
  return ShapeReader(node, style, scale).read();
}

Outline contours_of(const std::vector<Subpath>& subpaths, double tolerance, Ends ends) {
  Outline out;
  for (const Subpath& s : subpaths) {
    Contour c = Curve(s.pieces, s.closed).contour(tolerance);
    if (c.segments.empty())
      continue;
    c.closed = false;
    const bool meet = c.segments.size() > 1 && distance(c.segments.front().p0, c.segments.back().p3) <= tolerance;
    if (ends == Ends::Closed || s.closed || meet)
      end_at_start(c, tolerance);
    out.contours.push_back(std::move(c));
  }
  return out;
}

bool is_flat(const Contour& contour, double within) {
  if (contour.segments.empty())
    return true;
  const Point from = contour.segments.front().p0;
  Point far = from;
  const auto each = [&](const auto& look) {
    for (const Segment& s : contour.segments)
      for (const Point p : {s.p0, s.p1, s.p2, s.p3})
        look(p);
  };
  each([&](Point p) { far = distance(from, p) > distance(from, far) ? p : far; });
  const Vec along = far - from;
  const double reach = length(along);
  if (reach <= within)
    return true;
  bool flat = true;
  each([&](Point p) { flat = flat && std::abs(cross(along, p - from)) <= within * reach; });
  return flat;
}

bool is_tangled(const Outline& outline) {
  std::vector<Box> boxes;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      boxes.push_back(s.control_box());
  std::sort(boxes.begin(), boxes.end(), [](const Box& a, const Box& b) { return a.x0 < b.x0; });
  // Neighbours meet, and that is no matter: two for each, and as many more for small ones in a heap.
  constexpr std::size_t most = 10'000, harmless = 4, looks_each = 200;
  std::size_t meetings = 0, looks = 0;
  for (std::size_t i = 0; i < boxes.size(); ++i)
    for (std::size_t j = i + 1; j < boxes.size() && boxes[j].x0 <= boxes[i].x1; ++j) {
      meetings += boxes[i].overlaps(boxes[j]) ? 1 : 0;
      if (meetings > most + harmless * boxes.size() || ++looks > looks_each * (most + boxes.size()))
        return true;
    }
  return false;
}

} // namespace frelm
