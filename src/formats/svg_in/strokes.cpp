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

// Dashes along one curve; too many to be of use are a whole line.
std::vector<Contour> dashed(const Curve& curve, const StrokeStyle& line, double k, double tolerance) {
  constexpr double most = 20'000;
  double period = 0;
  for (const double d : line.dashes)
    period += d * k;
  if (!(period > 0) || !(curve.length() / period * double(line.dashes.size()) < most))
    return {curve.contour(tolerance)};
  std::vector<Contour> out;
  double s = -std::fmod(line.dash_offset * k, period);
  if (s > 0)
    s -= period;
  for (std::size_t i = 0; s < curve.length(); s += line.dashes[i] * k, i = (i + 1) % line.dashes.size()) {
    const double from = std::max(s, 0.0), to = std::min(s + line.dashes[i] * k, curve.length());
    if (i % 2 == 0 && to > from)
      out.push_back(curve.part(from, to).contour(tolerance));
  }
  return out;
}

void add_dot(Outline& dots, Point at, double radius, CapStyle cap) {
  if (cap == CapStyle::Round)
    dots.contours.push_back(circle_contour(at, radius));
  if (cap != CapStyle::Square)
    return;
  const Point corners[]{at + Vec{-radius, -radius}, at + Vec{radius, -radius}, at + Vec{radius, radius},
                        at + Vec{-radius, radius}};
  Contour square;
  for (std::size_t i = 0; i < 4; ++i)
    square.segments.push_back(Segment::line(corners[i], corners[(i + 1) % 4]));
  dots.contours.push_back(std::move(square));
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
      add_dot(dots, drawn(s.start), width / 2, line.cap);
      continue;
    }
    std::vector<Contour> contours =
        line.dashes.empty() ? std::vector<Contour>{curve.contour(tolerance)} : dashed(curve, line, k, tolerance);
    for (Contour& c : contours) {
      if (c.closed) {
        c.segments.push_back(c.segments.front().part(0, 0.5));
        c.closed = false;
      }
      for (Segment& seg : c.segments)
        seg = line.of_the_screen ? seg.transformed(to_mm * Affine::scaling(1 / k, 1 / k)) : seg;
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
    for (Contour& c : dashed(Curve(s.pieces, s.closed), line, 1, tolerance))
      if (!c.segments.empty())
        out.contours.push_back(std::move(c));
  return out.transformed(to_mm);
}

} // namespace frelm
