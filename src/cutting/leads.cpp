#include "cutting/leads.h"

#include "geom/along.h"

#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/segment.hpp>
#include <boost/geometry/index/rtree.hpp>

namespace frelm {
namespace {

namespace bg = boost::geometry;
using TreePoint = bg::model::d2::point_xy<double>;
using Chord = bg::model::segment<TreePoint>;

constexpr double flat_line = 0.002;          // mm
constexpr int tries = 4;                     // each half as long
constexpr double clear_by = 0.05;            // mm beside half the kerf
constexpr double least_lead = 0.05;          // mm
constexpr double slack = 0.005;              // mm, of an offset line
constexpr double least_side = 10 * pi / 180; // between a lead and its line
constexpr double nearly_straight = 3 * pi / 180;

Chord chord(Point a, Point b) {
  return {TreePoint(a.x, a.y), TreePoint(b.x, b.y)};
}
// From `out` by way of the waste, radians in (0, 2π].
double angle_in_waste(const LeadPlace& p, Vec d) {
  const double turn = turn_between(p.out, d) * (p.waste_right ? 1 : -1);
  return turn > 1e-9 ? turn : turn + 2 * pi;
}
Vec turned(const LeadPlace& p, double angle) {
  return direction(std::atan2(p.out.y, p.out.x) + (p.waste_right ? angle : -angle));
}

} // namespace

struct LeadFinder::Tree {
  bg::index::rtree<Chord, bg::index::rstar<16>> all, closed;
  double right = 0; // of everything
};

LeadFinder::LeadFinder(const std::vector<const Contour*>& lines, double kerf)
    : tree_(std::make_unique<Tree>()), least_(kerf / 2 - slack) {
  std::vector<Chord> all, closed;
  for (const Contour* c : lines) {
    const std::vector<Point> p = flatten(*c, flat_line);
    for (std::size_t i = 0; i + (c->closed ? 0 : 1) < p.size(); ++i) {
      const Chord next = chord(p[i], p[(i + 1) % p.size()]);
      all.push_back(next);
      if (c->closed)
        closed.push_back(next);
      tree_->right = std::max(tree_->right, p[i].x);
    }
  }
  tree_->all = decltype(tree_->all)(all);
  tree_->closed = decltype(tree_->closed)(closed);
}
LeadFinder::~LeadFinder() = default;

// `lead` runs from the line into the waste, straight or along an arc of this radius. It must get away from its own line
// as it goes.
bool LeadFinder::free(const Segment& lead, double radius) const {
  const std::vector<Point> p = spaced_evenly(flatten({{lead}, false}, flat_line), 64, false);
  for (std::size_t i = 1; i + 1 < p.size(); ++i) {
    const double s = distance(p[i], lead.p0), away = radius > 0 ? 0.1 * s * s / radius : 0.1 * s;
    if (away < 2 * flat_line)
      continue;
    const Chord part = chord(p[i], p[i + 1]);
    std::vector<Chord> found;
    tree_->all.query(bg::index::nearest(part, 1), std::back_inserter(found));
    if (!found.empty() && bg::distance(found.front(), part) < std::max(0.0, least_) + std::min(clear_by, away))
      return false;
  }
  std::vector<Chord> crossed;
  const Chord ray = chord(p.back(), {std::max(tree_->right, p.back().x) + 1, p.back().y});
  tree_->closed.query(bg::index::intersects(ray), std::back_inserter(crossed));
  const double y = p.back().y; // an end on the ray belongs to the chord above it
  return std::count_if(crossed.begin(), crossed.end(),
                       [&](const Chord& c) { return (c.first.y() <= y) != (c.second.y() <= y); }) %
             2 ==
         0;
}

std::optional<Segment> LeadFinder::out(const LeadPlace& place, Lead kind, double length) const {
  if (kind == Lead::None)
    return std::nullopt;
  const double waste = angle_in_waste(place, -place.in), along = angle_in_waste(place, place.in);
  const bool onwards = place.in == place.out || along >= 2 * pi - nearly_straight || along <= waste + nearly_straight;
  Vec straight = turned(place, pi / 4);
  if (waste < pi - nearly_straight || !onwards)
    straight = turned(place, waste / 2);
  if (waste < 2 * least_side)
    return std::nullopt;
  double l = length;
  for (int i = 0; i < tries && l >= least_lead; ++i, l /= 2) {
    Segment lead;
    const double r = l * 2 / pi;
    if (kind == Lead::Line)
      lead = Segment::line(place.at, place.at + straight * l);
    else if (onwards) { // a quarter of a circle, as a cubic within 0.0003 of its radius
      constexpr double handle = 0.5522847498;
      const Point p = place.at;
      const Vec t = place.in, away = place.waste_right ? -up_of(t) : up_of(t);
      lead = Segment::cubic(p, p + t * (handle * r), p + t * r + away * ((1 - handle) * r), p + t * r + away * r);
    } else
      return std::nullopt;
    if (free(lead, kind == Lead::Arc ? r : 0))
      return lead;
  }
  return std::nullopt;
}

std::optional<Segment> LeadFinder::in(const LeadPlace& place, Lead kind, double length) const {
  // The way out, gone backwards: the waste then lies on the other side.
  const std::optional<Segment> back = out({place.at, -place.out, -place.in, !place.waste_right}, kind, length);
  return back ? std::optional(back->reversed()) : std::nullopt;
}

} // namespace frelm
