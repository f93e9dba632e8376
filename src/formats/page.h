// PDF and EPS at true size: pages of areas and lines. PDF is put together by qpdf, with a layer (optional content) for
// each of the page's, EPS by its few PostScript words. 72 points an inch; places are written to 0.0001 point, 0.00004
// mm. The same pages give the same bytes.
//
// Sources: ISO 32000-1:2008, 8.5 (paths), 8.6.6.4 (Separation), 8.11 (optional content), appendix C (14,400 units);
// Adobe, PostScript Language Reference, third edition (1999), and EPSF Specification 3.0 (1992).
#pragma once

#include "cutting/cut_plan.h"
#include "formats/export_ink.h"

namespace frelm {

struct PageItem {
  Outline outline; // mm, y down
  Colour colour;
  double line = 0; // mm: its width; 0: filled, nonzero
  bool spot = false;
  std::size_t layer = 0;
};
struct DrawnPage {
  Box frame; // mm
  std::vector<PageItem> items;
};

// What is to be drawn as areas filled, all else as a line of this width.
void add_item(std::vector<PageItem>& items, PageItem item, ExportInk ink, double line_width);

struct PageOptions {
  ExportInk ink = ExportInk::Lines;
  bool page_a_layer = false; // PDF: a page for each material
  std::string spot = {};     // what the knife cuts is drawn in this named colour; empty: in the material's own
};
// Of a plan; more than one only where each material has its page.
std::vector<DrawnPage> pages_of(const CutPlan& plan, const PageOptions& options);

// layers: their names. Errors: a sheet that is too large for the format (5 m).
Result<std::string> write_pdf(const std::vector<DrawnPage>& pages, const std::vector<std::string>& layers = {},
                              const std::string& spot = {});
Result<std::string> write_pdf(const CutPlan& plan, const PageOptions& options = {});
std::string write_eps(const CutPlan& plan, const PageOptions& options = {});

} // namespace frelm
