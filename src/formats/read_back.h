// Whether a file holds what was to leave: its contours, extents, length and area, as our own reader sees them.
#pragma once

#include "formats/dxf.h"
#include "formats/hpgl.h"
#include "formats/svg.h"

namespace frelm {

struct DrawnTotals {
  std::size_t contours = 0;    // that are larger than the least; the sheet's corner is the origin
  Box box;                     // mm
  double length = 0, area = 0; // mm, mm²
  std::size_t segments = 0;
};
DrawnTotals totals_of(const CutSheet& sheet, double least = 0.001);
DrawnTotals totals_of(const Drawing& drawing, double least = 0.001);

// Bounds: as many contours; extents within 0.00002 mm, with arcs 0.001 mm; length and area within what places that are
// as far off can make, and 1e-6 of them. Errors: it can't be read, or which of these differs and by how much.
Result<Done> same_in_svg(const CutSheet& sheet, const std::string& bytes, const SvgOptions& options = {});
// The same of DXF, within 0.001 mm and, where curves are chords, by how far these may be off; and of HP-GL, within a
// unit and the chords, wherever its origin is and whichever way it is turned. What is smaller than two units or chords
// is not counted.
Result<Done> same_in_dxf(const CutSheet& sheet, const std::string& bytes, const DxfOptions& options = {});
Result<Done> same_in_hpgl(const CutSheet& sheet, const std::string& bytes, const HpglOptions& options = {});

} // namespace frelm
