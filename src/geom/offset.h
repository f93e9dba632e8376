// Offset: outlines made fatter or thinner by a distance, and open lines given a width; curves stay curves.
//
// mm. The outline is united first under the nonzero rule, turned to positive total area. distance > 0: every point
// within it of the area or of an open line (its stroke, twice the distance wide); distance < 0: every point of the area
// at least that far from its edge; open lines then have no part and are left out. Corners that point away from the
// growing side stay sharp.
// Guarantee: round joins and caps within `tolerance` both ways of the exact offset, at knife-edge tips too; corners
// between two offset curves lie where those cross. Contours of the result don't cross: outer ones of positive area,
// holes negative, closed with equal doubles. distance 0 is the united outline; an empty outline gives an empty one.
#pragma once

#include "geom/holes.h"
#include "geom/weld.h"

#include <functional>

namespace frelm {

// How the growing side goes around a corner. Mitre: the tangents extended until they meet; a corner whose point would
// be further than mitre_limit x distance away is bevelled (SVG 1.1, 11.4, stroke-miterlimit, where both are halved).
enum class JoinStyle { Round, Mitre, Bevel };
// How an open line ends: half a circle, straight across at its end, or straight across one distance further.
enum class CapStyle { Round, Flat, Square };

struct OffsetOptions {
  JoinStyle join = JoinStyle::Round;
  double mitre_limit = 4; // at least 1
  CapStyle cap = CapStyle::Round;
  HoleRule holes = HoleRule::Keep; // of the result
  double hole_size = 0;            // mm, for DropSmall
  int rings = 1;                   // the offsets by distance, 2 x distance, … ; 1 to 1000
  // mm, more than 0: between the result and the exact offset. Nodes grow with its inverse sixth root.
  double tolerance = 0.01;
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // share done, 0 to 1
};

struct OffsetReport {
  WeldReport weld; // nodes, joins and fallbacks of all rings together
  // Parts of the area that are gone from the innermost ring, and holes grown shut: where they were.
  std::vector<Box> vanished;
  std::vector<Box> closed_holes;
  std::size_t dropped_holes = 0; // by the rule for holes
  std::size_t open_left_out = 0; // open lines, distance < 0
  // Places of the source whose surroundings were found too near after the clipping and added once more.
  std::size_t mended = 0;
  bool operator==(const OffsetReport&) const = default;
};

struct OffsetResult {
  std::vector<Outline> rings; // nearest first
  OffsetReport report;
};

// Errors: a distance or option out of its range, coordinates beyond 10 m, Cancelled.
// Source: raw offset and winding as in Chen & McMains, Polygon offsetting by computing winding numbers (ASME 2005),
// here on curves.
Result<OffsetResult> offset(const Outline& outline, double distance, const OffsetOptions& options = {});

} // namespace frelm
