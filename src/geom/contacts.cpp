// What both cover falls into parts. The edge of a part is made of stretches of a's and of b's edge, in turn; where they
// change the edges cross. A stretch of b's edge is an opening through which a runs into b, from its one end to the
// other. Stretches without any overlap are found where edges run along each other.
#include "geom/contacts.h"

#include "geom/along.h"
#include "geom/boolean.h"
#include "geom/components.h"
#include "geom/crossings.h"
#include "geom/free_circle.h"
#include "geom/nodes.h"

#include <algorithm>

namespace frelm {
namespace {

double to_edge(const Outline& outline, Point p) {
  const auto n = nearest_on(outline, p);
  return n ? n->distance : std::numeric_limits<double>::infinity();
}

// The segments of closed contours with their boxes, those near a box only.
struct EdgePart {
  const Segment* segment;
  Box box;
};
std::vector<EdgePart> pieces_near(const Outline& outline, const Box& box) {
  std::vector<EdgePart> out;
  for (const Contour& c : outline.contours)
    if (c.closed)
      for (const Segment& s : c.segments)
        if (const Box b = s.control_box().grown(touch_distance); b.overlaps(box))
          out.push_back({&s, b});
  return out;
}

Contact overlap_contact(const Outline& part, const Outline& a, const Outline& b) {
  Contact out;
  double through_a = 0, through_b = 0; // the widest opening in each edge
  bool crosses = false;
  for (const Contour& c : part.contours) {
    std::vector<bool> of_a; // each segment: on whose edge it lies
    for (const Segment& s : c.segments) {
      const Point middle = s.at(0.5);
      of_a.push_back(to_edge(a, middle) <= to_edge(b, middle));
      if (of_a.back())
        out.shared += Contour{{s}, false}.length();
    }
    const std::size_t n = of_a.size();
    for (std::size_t i = 0; i < n; ++i) {
      if (of_a[i] == of_a[(i + n - 1) % n])
        continue;
      std::size_t end = i;
      while (of_a[(end + 1) % n] == of_a[i])
        end = (end + 1) % n;
      crosses = true;
      double& widest = of_a[i] ? through_a : through_b;
      widest = std::max(widest, distance(c.segments[i].p0, c.segments[end].p3));
    }
  }
  const auto room = free_circle(part);
  out.at = room ? room->centre : part.bounds().centre();
  out.width = crosses ? std::min(through_a, through_b) : room ? 2 * room->radius : 0;
  return out;
}

// A stretch of a segment of a that runs along b's edge, or one place that meets it.
struct Touch {
  Point from, to;
  double length = 0;
};

// Of what touches, each connected stretch once.
std::vector<Contact> joined_touches(std::vector<Touch> touches) {
  std::vector<Contact> out;
  for (bool grew = true; grew;) {
    grew = false;
    for (std::size_t i = 0; i < touches.size() && !grew; ++i)
      for (std::size_t k = i + 1; k < touches.size() && !grew; ++k)
        for (const bool turned : {false, true}) {
          Touch& t = touches[i];
          const Point from = turned ? touches[k].to : touches[k].from, to = turned ? touches[k].from : touches[k].to;
          const bool after = distance(t.to, from) <= touch_distance, before = distance(t.from, to) <= touch_distance;
          if (!after && !before)
            continue;
          (after ? t.to : t.from) = after ? to : from;
          t.length += touches[k].length;
          touches.erase(touches.begin() + static_cast<std::ptrdiff_t>(k));
          grew = true;
          break;
        }
  }
  for (const Touch& t : touches) {
    Contact c;
    c.at = lerp(t.from, t.to, 0.5), c.width = distance(t.from, t.to), c.shared = t.length;
    if (c.shared <= touch_distance)
      c.width = c.shared = 0;
    out.push_back(c);
  }
  return out;
}

std::vector<Touch> touches_of(const Outline& a, const Outline& b, const std::vector<Outline>& overlaps) {
  const Box near = b.bounds().grown(touch_distance);
  const std::vector<EdgePart> of_b = pieces_near(b, a.bounds().grown(touch_distance));
  std::vector<Box> boxes;
  for (const Outline& o : overlaps)
    boxes.push_back(o.bounds().grown(2 * touch_distance));
  const auto overlapping = [&](Point p) {
    for (std::size_t i = 0; i < overlaps.size(); ++i)
      if (boxes[i].contains(p) && to_edge(overlaps[i], p) <= 2 * touch_distance)
        return true;
    return false;
  };
  std::vector<Touch> out;
  for (const EdgePart& s : pieces_near(a, near)) {
    std::vector<double> places;
    for (const EdgePart& t : of_b)
      if (s.box.overlaps(t.box))
        for (const CurveCrossing& c : crossings(*s.segment, *t.segment))
          places.push_back(c.t);
    std::sort(places.begin(), places.end());
    for (std::size_t i = 0; i < places.size(); ++i) {
      const Point here = s.segment->at(places[i]);
      if (overlapping(here))
        continue;
      // Does it go on along b's edge?
      std::size_t last = i;
      while (last + 1 < places.size() &&
             to_edge(b, s.segment->at((places[last] + places[last + 1]) / 2)) <= meet_distance)
        ++last;
      const Segment part = s.segment->part(places[i], places[last]);
      out.push_back({part.p0, part.p3, last > i ? Contour{{part}, false}.length() : 0});
      i = last;
    }
  }
  return out;
}

} // namespace

Result<std::vector<Contact>> contacts(const Outline& a, const Outline& b, std::stop_token stop) {
  std::vector<Contact> out;
  if (!a.bounds().grown(touch_distance).overlaps(b.bounds()))
    return out;
  WeldOptions options;
  options.stop = stop;
  const Result<WeldResult> both = combine(BooleanOp::Intersection, {a}, {b}, options);
  if (!both)
    return both.error();
  const std::vector<Outline> parts = components(both->outline);
  for (const Outline& part : parts)
    if (part.contours.front().closed)
      out.push_back(overlap_contact(part, a, b));
  for (const Contact& c : joined_touches(touches_of(a, b, parts)))
    out.push_back(c);
  std::stable_sort(out.begin(), out.end(), [](const Contact& x, const Contact& y) { return x.width > y.width; });
  return out;
}

} // namespace frelm
