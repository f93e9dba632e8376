#include "geom/biarcs.h"

#include "geom/along.h"

#include <cmath>
#include <optional>

namespace frelm {
namespace {

constexpr int places = 32;          // looked at on each stretch
constexpr int most_halvings = 12;   // of what is tried
constexpr double flattest = 1e6;    // mm of radius: beyond it is a line
constexpr double least_turn = 1e-9; // radians: less is straight

// From a place in a direction to another place.
ViewPiece arc_or_line(Point from, Vec way, Point to) {
  const Vec chord = to - from;
  const double half = turn_between(way, chord); // of the arc's sweep
  const double radius = length(chord) / (2 * std::sin(std::abs(half)));
  if (std::abs(half) < least_turn || !(radius < flattest))
    return LineStretch{from, to};
  const Vec normal = unit(Vec{-way.y, way.x}) * (half > 0 ? 1.0 : -1.0); // towards the centre
  return ArcStretch{from, to, from + normal * radius, radius, 2 * half};
}
double off(const ViewPiece& piece, Point p) {
  if (const auto* arc = std::get_if<ArcStretch>(&piece))
    return std::abs(distance(arc->centre, p) - arc->radius);
  const auto& line = std::get<LineStretch>(piece);
  return distance_to_chord(line.from, line.to, p);
}

struct Biarc {
  ViewPiece first, second;
  Point joint;
};
// With equal distances from the ends to the joint's corners.
std::optional<Biarc> biarc(const Segment& s) {
  const Vec v = s.p3 - s.p0, a = s.start_tangent(), b = s.end_tangent();
  const Vec sum = a + b;
  const double vv = dot(v, v), along = dot(v, sum), turn = 2 * (1 - dot(a, b));
  if (!(vv > 0))
    return std::nullopt;
  double d = 0;
  if (turn > 1e-12) {
    d = (-along + std::sqrt(along * along + turn * vv)) / turn;
  } else if (dot(v, b) > 0) {
    d = vv / (4 * dot(v, b));
  }
  if (!(d > 0) || !std::isfinite(d))
    return std::nullopt;
  const Point joint = lerp(s.p0 + a * d, s.p3 - b * d, 0.5);
  const Vec across = (s.p3 - b * d) - (s.p0 + a * d); // the direction at the joint
  if (!(length(across) > 0))
    return std::nullopt;
  return Biarc{arc_or_line(s.p0, a, joint), arc_or_line(joint, across, s.p3), joint};
}

bool follows(const Biarc& b, const Segment& s, double tolerance) {
  for (const ViewPiece* p : {&b.first, &b.second})
    if (const auto* arc = std::get_if<ArcStretch>(p); arc != nullptr && std::abs(arc->sweep) > 1.9 * pi)
      return false;
  // Up to the place nearest to the joint the first one counts, from there on the second.
  int joint = 0;
  const auto at = [&](int i) { return s.at(static_cast<double>(i) / places); };
  for (int i = 1; i <= places; ++i)
    if (distance(at(i), b.joint) < distance(at(joint), b.joint))
      joint = i;
  const auto to_chord = [&](int i) {
    return i < 0 || i >= places ? distance(at(joint), b.joint) : distance_to_chord(at(i), at(i + 1), b.joint);
  };
  if (std::min(to_chord(joint - 1), to_chord(joint)) > tolerance)
    return false;
  for (int i = 1; i < places; ++i) {
    const double first = off(b.first, at(i)), second = off(b.second, at(i));
    if ((i < joint ? first : i > joint ? second : std::min(first, second)) > tolerance)
      return false;
  }
  return true;
}

void add_arcs(const Segment& cubic, double tolerance, std::vector<ViewPiece>& out) {
  double from = 0;
  while (from < 1) {
    double to = 1;
    std::optional<Biarc> found;
    for (int i = 0; i < most_halvings; ++i, to = from + (to - from) / 2) {
      const Segment part = cubic.part(from, to);
      found = biarc(part);
      if (found && follows(*found, part, tolerance))
        break;
      found.reset();
    }
    if (found) {
      out.push_back(found->first), out.push_back(found->second);
    } else { // a cusp: as short as that is
      out.push_back(LineStretch{cubic.at(from), cubic.at(to)});
    }
    from = to;
  }
}

} // namespace

std::vector<ViewPiece> as_arcs(const Contour& contour, double tolerance) {
  std::vector<ViewPiece> out;
  for (const ViewPiece& piece : arc_view(contour, {.tolerance = tolerance}))
    if (const auto* cubic = std::get_if<CubicStretch>(&piece))
      add_arcs(cubic->cubic, tolerance, out);
    else
      out.push_back(piece);
  return out;
}

} // namespace frelm
