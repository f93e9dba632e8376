// The optical gap of two neighbouring letters: the emptiness between their facing sides, as one length.
//
// mm. Both letters are looked at in one frame: x along the guide's tangent at the place midway between them, y upwards
// from the baseline there. Over the band that both share, from the baseline to the x-height, or to the cap height where
// both reach higher than small letters,
//   gap = mean over the band of (left edge of the right letter − right edge of the left letter),
// each edge retreating from its letter's own extreme in the band by at most `retreat_share` of the band's height, so
// that the open side of an L or a T does not count as emptiness without end. The two means are separate, so the gap
// grows by one for every mm that a letter moves along the frame.
// Bound: the flattening of the outlines (flat_letter_tolerance); the integral over the band is exact.
// Sources: David Kindersley, "Optical letter spacing for new printing systems", 1976 (letters are evenly spaced when
// what lies between them weighs the same); that open sides count only to a depth is common practice of type founding,
// no source. The mean over a band with capped retreat is our own.
#pragma once

#include "geom/parallel.h"
#include "lettering/set_text.h"

#include <span>

namespace frelm {

inline constexpr double retreat_share = 0.3;

// A letter's outline as closed polylines in its own coordinates, for measuring; of two points: a single line.
struct FlatLetter {
  std::vector<Point> points;
  std::vector<std::size_t> ends; // of each closed line: one past its last point
};
FlatLetter flat_letter(const Outline& letter, double tolerance);
double flat_letter_tolerance(double cap_height); // mm
// The closed lines through its points, wherever they stand, as an outline.
Outline polygons(const FlatLetter& letter, std::span<const Point> points);

// Heights above the baseline, mm.
struct Band {
  double low = 0, high = 0;
  double height() const { return high - low; }
};

// x along, y up, from a point of the baseline.
struct PairFrame {
  Point base;
  Vec along{1, 0};
  double x(Point p) const { return dot(p - base, along); }
  double y(Point p) const { return dot(p - base, up_of(along)); }
};

enum class Facing { Right, Left }; // a letter's right side faces its right neighbour

// Mean x of the letter's edge over the band; `points` are the letter's, in the same order, wherever they stand.
double mean_edge(const FlatLetter& letter, std::span<const Point> points, const PairFrame& frame, Band band,
                 Facing side);

// The deepest reach of one letter into the other over the band: the largest of right edge of the left letter − left
// edge of the right one at the same height, found within a 4000th of the band. Negative: they stand apart there.
double deepest_reach(const FlatLetter& left, std::span<const Point> left_points, const FlatLetter& right,
                     std::span<const Point> right_points, const PairFrame& frame, Band band);

// The band that two letters share, by what each reaches above the baseline.
Band shared_band(const SetCluster& left, const SetCluster& right, const SetText& set);

// The frame of two letters whose middles stand at these places of the line, baseline `height` above the guide: at the
// place midway between them; where a corner lies between them, along the chord of their two places.
PairFrame pair_frame(const Parallel& line, double left_at, double right_at, double height);
// The band as it lies in the frame: leaning letters are lower across the guide; standing ones face each other over the
// heights that both have ink at.
Band bent_band(Band straight, Stance stance, const PairFrame& frame, std::span<const Point> left,
               std::span<const Point> right);

} // namespace frelm
