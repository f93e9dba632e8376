// Weld: the union of outlines that keeps their curves.
//
// Requires: finite coordinates within 10 m. Fill is nonzero; each shape is turned to positive total area first, so
// that a counter stays a counter whichever way a face draws its letters. Open contours pass through untouched.
// Guarantee: every segment of the result is a stretch of a source segment (the same curve), or joins two of them;
// the boundary is within 0.002 mm of the true union's (0.004 mm near tangency); contours are closed with equal
// doubles; nodes that were smooth in the source stay so; contours of mean width under 2 x flattening go; straight edges
// of two shapes less than 0.002 mm apart are one, and what lies between them is filled.
// weld({}) is empty; weld({a, a}) = weld({a}); moving, mirroring and reordering the input do the same to the result.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <stop_token>
#include <vector>

namespace frelm {

// What becomes of a loop at a joint that is too small for the flattening (geom/small_loops): cut off, or turned so that
// its area counts like the rest.
enum class SmallLoops { Cut, Turned };

struct WeldOptions {
  // Largest distance (mm) of the polylines used to find crossings; the result's curves stay exact. 0.01 is enough
  // for a preview. Cost grows with its inverse root.
  double flattening = 0.002;
  SmallLoops small_loops = SmallLoops::Cut;
  std::stop_token stop = {};
};

struct WeldReport {
  std::size_t nodes_in = 0;
  std::size_t nodes_out = 0;
  std::size_t clusters = 0;          // groups of shapes whose boxes touch
  std::size_t snapped_joins = 0;     // crossings where the two curves had no common point and both ends were moved
  double worst_move = 0;             // mm, largest such move
  std::size_t polyline_contours = 0; // contours that had to be left as polylines
  std::size_t small_loops = 0;       // loops under the flattening, at joints, cut off or turned
  std::size_t closed_slits = 0;      // between shapes that meet along an edge but for rounding (geom/close_gaps)
  bool operator==(const WeldReport&) const = default;
  // What another part of the same work did besides: all but the nodes.
  void add(const WeldReport& other);
};

struct WeldResult {
  Outline outline;
  WeldReport report;
};

Result<WeldResult> weld(const std::vector<Outline>& shapes, const WeldOptions& options = {});

// Groups of indices whose boxes touch, directly or through others; near-linear in the number of boxes.
std::vector<std::vector<std::size_t>> touching_groups(const std::vector<Box>& boxes);

} // namespace frelm
