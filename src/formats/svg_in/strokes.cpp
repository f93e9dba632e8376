// A stroke is the offset of its line by half its width. A closed line is an open one that goes on into its first
// segment, so that it has a join where it meets itself. Widths that a transform makes uneven are drawn before it.
#include "formats/svg_in/strokes.h"

#include "geom/arc_cubics.h"

namespace frelm {
namespace {

double scale_of(const Affine& m) {
  return std::sqrt(std::abs(m.determinant()));
}

CurvePiece scaled(const CurvePiece& piece, double k) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return s->transformed(Affine::scaling(k, k));
  ArcPiece arc = std::get<ArcPiece>(piece); // path data has no spirals
  arc.centre = arc.centre * k, arc.rx *= k, arc.ry *= k;
  return arc;
}

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

// Dashes along one curve, and the places of those without length; too many to be of use are a whole line.
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
  return line.width * (line.of_the_screen ? px_to_mm : scale_of(to_mm));
}

Result<Outline> stroke_outline(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm,
                               double px_to_mm, const std::stop_token& stop) {
  const double k = scale_of(to_mm), width = stroke_width(line, to_mm, px_to_mm);
  const Affine drawn = line.of_the_screen ? to_mm : Affine::scaling(k, k); // to where the width is even
  const Affine rest = line.of_the_screen ? Affine{} : to_mm * Affine::scaling(1 / k, 1 / k);
  const double tolerance = std::clamp(width / 100, 0.0005, 0.01);
  Outline lines, dots;
  for (const Subpath& s : subpaths) {
    std::vector<CurvePiece> pieces;
    for (const CurvePiece& p : s.pieces)
      pieces.push_back(scaled(p, k));
    const Curve curve(std::move(pieces), s.closed);
    if (!(curve.length() > 0)) {
      add_dot(dots, drawn(s.start), {1, 0}, width / 2, line.cap);
      continue;
    }
    const Affine to_even = line.of_the_screen ? to_mm * Affine::scaling(1 / k, 1 / k) : Affine{};
    Dashes dashes;
    if (line.dashes.empty())
      dashes.lines.push_back(curve.contour(tolerance));
    else
      dashes = dashed(curve, line, k, tolerance);
    for (const CurvePlace& place : dashes.dots)
      add_dot(dots, to_even(place.point), unit(to_even.linear(place.tangent)), width / 2, line.cap);
    for (Contour& c : dashes.lines) {
      if (c.closed) {
        c.segments.push_back(c.segments.front().part(0, 0.5));
        c.closed = false;
      }
      for (Segment& seg : c.segments)
        seg = line.of_the_screen ? seg.transformed(to_even) : seg;
      lines.contours.push_back(std::move(c));
    }
  }
  OffsetOptions options;
  options.join = line.join, options.cap = line.cap, options.mitre_limit = line.mitre_limit;
  options.tolerance = tolerance, options.stop = stop;
  Outline out = std::move(dots);
  if (!lines.empty()) {
    Result<OffsetResult> made = offset(lines, width / 2, options);
    if (!made)
      return made.error();
    if (!made->rings.empty())
      out.append(made->rings.front());
  }
  return turned_over(out, rest);
}

Outline stroke_lines(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm) {
  const double tolerance = default_arc_tolerance / std::max(scale_of(to_mm), 1e-9);
  if (line.dashes.empty() || line.of_the_screen)
    return line_outline(subpaths, tolerance).transformed(to_mm);
  Outline out;
  for (const Subpath& s : subpaths)
    for (Contour& c : dashed(Curve(s.pieces, s.closed), line, 1, tolerance).lines)
      if (!c.segments.empty())
        out.contours.push_back(std::move(c));
  return out.transformed(to_mm);
}

} // namespace frelm
