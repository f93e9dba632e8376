#include "geom/close_gaps.h"

#include "geom/along.h"

namespace frelm {
namespace {

constexpr double least_edge = 5 * widest_closed; // mm that both lines share; corners that only come near stay apart
constexpr double opposite = -0.9999;             // cosine of the turn between the lines, at most

// What the two lines share, less widest_closed at both ends, as a rectangle that reaches into both sides.
void cover(const Segment& a, const Segment& b, std::vector<Outline>& out) {
  const Vec along = unit(a.p3 - a.p0), across = up_of(along);
  if (dot(along, unit(b.p3 - b.p0)) > opposite)
    return;
  const auto at = [&](Point p) { return dot(p - a.p0, along); };
  const double from = std::max(0.0, at(b.p3)), to = std::min(distance(a.p0, a.p3), at(b.p0));
  if (to - from < least_edge)
    return;
  const auto off = [&](double s) { // of b from a
    const double share = (s - at(b.p0)) / (at(b.p3) - at(b.p0));
    return dot(lerp(b.p0, b.p3, share) - a.p0, across);
  };
  if (std::abs(off(from)) > widest_closed || std::abs(off(to)) > widest_closed)
    return;
  const auto corner = [&](double s, double side) {
    return a.p0 + along * s + across * (off(s) / 2 + side * widest_closed);
  };
  const double s0 = from + widest_closed, s1 = to - widest_closed;
  const Point corners[] = {corner(s0, 1), corner(s1, 1), corner(s1, -1), corner(s0, -1)};
  Contour c;
  for (std::size_t i = 0; i < 4; ++i)
    c.segments.push_back(Segment::line(corners[i], corners[(i + 1) % 4]));
  out.push_back({{std::move(c)}});
}

} // namespace

std::vector<Outline> slit_covers(const Outline& outline) {
  struct Lines {
    Box box;
    std::vector<const Segment*> lines;
  };
  std::vector<Lines> contours;
  for (const Contour& c : outline.contours) {
    Lines l;
    for (const Segment& s : c.segments)
      if (c.closed && s.is_line() && distance(s.p0, s.p3) >= least_edge)
        l.box.add(s.p0), l.box.add(s.p3), l.lines.push_back(&s);
    if (!l.lines.empty())
      contours.push_back(std::move(l));
  }
  std::sort(contours.begin(), contours.end(), [](const Lines& a, const Lines& b) { return a.box.x0 < b.box.x0; });
  std::vector<Outline> out;
  for (std::size_t i = 0; i < contours.size(); ++i)
    for (std::size_t j = i + 1; j < contours.size() && contours[j].box.x0 <= contours[i].box.x1 + widest_closed; ++j) {
      if (contours[i].box.distance_to(contours[j].box) > widest_closed)
        continue;
      const Box there = contours[j].box.grown(widest_closed), here = contours[i].box.grown(widest_closed);
      for (const Segment* a : contours[i].lines)
        if (const Box box = a->control_box(); box.overlaps(there))
          for (const Segment* b : contours[j].lines)
            if (const Box other = b->control_box(); other.overlaps(here) && box.distance_to(other) <= widest_closed)
              cover(*a, *b, out);
    }
  return out;
}

} // namespace frelm
