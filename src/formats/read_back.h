// Whether a file holds what was to leave: its contours with their extents, lengths and areas, as our own readers see
// them. Pictures are compared where they are made (formats/png).
#pragma once

#include "formats/dxf.h"
#include "formats/hpgl.h"
#include "formats/page.h"
#include "formats/svg.h"

namespace frelm {

// Each contour larger than 0.001 mm has one in the file, and the other way round: extents within 0.00002 mm, with arcs
// 0.001 mm; length and area within what places that are as far off can make, and 1e-6 of them. Errors: it can't be
// read, or what is missing.
Result<Done> same_in_svg(const CutSheet& sheet, const std::string& bytes, const SvgOptions& options = {});
// The same of DXF, within 0.001 mm and, where curves are chords, by how far these may be off; and of HP-GL, within a
// unit and the chords, wherever its origin is and whichever way it is turned. What is smaller than two units or chords
// is not counted.
Result<Done> same_in_dxf(const CutSheet& sheet, const std::string& bytes, const DxfOptions& options = {});
Result<Done> same_in_hpgl(const CutSheet& sheet, const std::string& bytes, const HpglOptions& options = {});
// PDF and EPS, as frelm-pages sees their pages (formats/page_read), within 0.002 mm: the page's own size is rounded to
// 0.01 pt. Errors: also Unsupported, where they can't be read here.
Result<Done> same_in_pdf(const CutPlan& plan, const std::string& bytes, const PageOptions& options = {});
Result<Done> same_in_eps(const CutPlan& plan, const std::string& bytes);

} // namespace frelm
