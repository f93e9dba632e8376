// PDF and EPS at true size, by cairo: every layer's outlines as hairlines to cut along, or filled with the material's
// colour. 72 points an inch; cairo keeps places to 1/256 point, 0.0014 mm.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

enum class PageInk { Hairlines, Filled };
struct PageOptions {
  PageInk ink = PageInk::Hairlines;
  bool page_a_layer = false; // PDF: a page for each material
};
// Errors: a sheet that is too large for the format (5 m; PDF reference 1.7, appendix C: 14,400 units), or that cairo
// refuses.
Result<std::string> write_pdf(const CutPlan& plan, const PageOptions& options = {});
Result<std::string> write_eps(const CutPlan& plan, const PageOptions& options = {});

} // namespace frelm
