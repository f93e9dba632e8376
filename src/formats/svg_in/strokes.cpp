// A stroke is the offset of its line by half its width. A closed line is an open one that goes on into its first
// segment, so that it has a join where it meets itself. Widths that a transform makes uneven are drawn before it.
#include "formats/svg_in/strokes.h"

#include "geom/arc_cubics.h"

namespace frelm {
namespace {

double scale_of(const Affine& m) {
  return std::sqrt(std::abs(m.determinant()));
}

// Where a stroke is as wide all ways: user units times the middle scale, or for a width of the screen the sheet itself.
// The rest of the way to the sheet comes after it.
struct EvenSpace {
  Affine to_even, rest;
  double scale = 1; // of widths and dashes

  EvenSpace(const StrokeStyle& line, const Affine& to_mm, double px_to_mm) {
    const double k = scale_of(to_mm);
    to_even = line.of_the_screen ? to_mm : Affine::scaling(k, k);
    rest = line.of_the_screen ? Affine{} : to_mm * Affine::scaling(1 / k, 1 / k);
    scale = line.of_the_screen ? px_to_mm : k;
  }
  Curve curve(const Subpath& s, double tolerance) const {
    const Contour c = Curve(s.pieces, s.closed).contour(tolerance / std::max(scale_of(to_even), 1e-9));
    std::vector<CurvePiece> pieces;
    for (const Segment& seg : c.segments)
      pieces.emplace_back(seg.transformed(to_even));
    return Curve(std::move(pieces), s.closed);
  }
};

void add_dot(Outline& dots, Point at, Vec along, double radius, CapStyle cap) {
  if (cap == CapStyle::Round)
    dots.contours.push_back(circle_contour(at, radius));
  if (cap != CapStyle::Square)
    return;
  const Vec u = along * radius, v = Vec{-along.y, along.x} * radius;
  const Point corners[]{at - u - v, at + u - v, at + u + v, at - u + v};
  Contour square;
  for (std::size_t i = 0; i < 4; ++i)
    square.segments.push_back(Segment::line(corners[i], corners[(i + 1) % 4]));
  dots.contours.push_back(std::move(square));
}

// A curve's dashes, and the places of those without length; without dashes, or with too many to be of use, all of it.
struct Dashes {
  std::vector<Contour> lines;
  std::vector<CurvePlace> dots;
};
Dashes dashed(const Curve& curve, const StrokeStyle& line, double k, double tolerance) {
  constexpr double most = 20'000, nothing = 1e-9;
  double period = 0;
  for (const double d : line.dashes)
    period += d * k;
  if (!(period > 0) || !(curve.length() / period * double(line.dashes.size()) < most))
    return {{curve.contour(tolerance)}, {}};
  Dashes out;
  double s = -std::fmod(line.dash_offset * k, period);
  if (s > 0)
    s -= period;
  for (std::size_t i = 0; s < curve.length(); s += line.dashes[i] * k, i = (i + 1) % line.dashes.size()) {
    if (i % 2 != 0)
      continue;
    const double from = std::max(s, 0.0), to = std::min(s + line.dashes[i] * k, curve.length());
    if (to - from > nothing * curve.length())
      out.lines.push_back(curve.part(from, to).contour(tolerance));
    else if (line.dashes[i] == 0 && s >= 0)
      out.dots.push_back(curve.at(s));
  }
  return out;
}

} // namespace

double stroke_width(const StrokeStyle& line, const Affine& to_mm, double px_to_mm) {
  return line.width * EvenSpace(line, to_mm, px_to_mm).scale;
}

Result<Outline> stroke_outline(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm,
                               double px_to_mm, const std::stop_token& stop) {
  const EvenSpace even(line, to_mm, px_to_mm);
  const double width = line.width * even.scale, tolerance = std::clamp(width / 100, 0.0005, 0.01);
  Outline lines, out; // what is not a line: dots
  for (const Subpath& s : subpaths) {
    const Curve curve = even.curve(s, tolerance);
    if (!(curve.length() > 0)) {
      add_dot(out, even.to_even(s.start), {1, 0}, width / 2, line.cap);
      continue;
    }
    Dashes dashes = dashed(curve, line, even.scale, tolerance);
    for (const CurvePlace& place : dashes.dots)
      add_dot(out, place.point, place.tangent, width / 2, line.cap);
    for (Contour& c : dashes.lines) {
      if (c.closed) {
        c.segments.push_back(c.segments.front().part(0, 0.5));
        c.closed = false;
      }
      lines.contours.push_back(std::move(c));
    }
  }
  if (!lines.empty()) {
    OffsetOptions options;
    options.join = line.join, options.cap = line.cap, options.mitre_limit = line.mitre_limit;
    options.tolerance = tolerance, options.stop = stop;
    Result<OffsetResult> made = offset(lines, width / 2, options);
    if (!made)
      return made.error();
    if (!made->rings.empty())
      out.append(made->rings.front());
  }
  return turned_over(out, even.rest);
}

Outline stroke_lines(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm,
                     double px_to_mm) {
  if (line.dashes.empty())
    return contours_of(subpaths, default_arc_tolerance / std::max(scale_of(to_mm), 1e-9), Ends::AsDrawn)
        .transformed(to_mm);
  const EvenSpace even(line, to_mm, px_to_mm);
  Outline out;
  for (const Subpath& s : subpaths)
    for (Contour& c : dashed(even.curve(s, default_arc_tolerance), line, even.scale, default_arc_tolerance).lines)
      if (!c.segments.empty())
        out.contours.push_back(std::move(c));
  return out.transformed(even.rest);
}

} // namespace frelm
