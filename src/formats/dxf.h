// DXF, written by dxflib: a layer for each of the plan's, y up from the sheet's lower left corner, in mm ($INSUNITS 4)
// or inches (1), contours in cutting order and closed by their flag. R2000: a contour of lines is a polyline, any other
// one spline of degree 3 whose control points are the cubics' own; the same curves. R12, which has no splines:
// polylines within a tolerance. With arcs, contours of lines and arcs are polylines with bulges (the tangent of a
// quarter of the arc's angle, counter-clockwise positive), in R12 all arcs are. With curves as arcs every contour is
// such a polyline, within `flatten` of the curves.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

inline constexpr double dxf_arc_tolerance = 0.0005; // mm

enum class DxfVersion { R12, R2000 };
struct DxfOptions {
  DxfVersion version = DxfVersion::R2000;
  double flatten = 0.01; // mm, R12, and for curves as arcs
  Unit unit = Unit::Millimetre;
  bool arcs = false;           // what lies on a circle within dxf_arc_tolerance
  bool curves_as_arcs = false; // all curves (geom/biarcs)
};
// Errors: no room for the file that dxflib writes into first.
Result<std::string> write_dxf(const CutPlan& plan, const DxfOptions& options = {});

} // namespace frelm
