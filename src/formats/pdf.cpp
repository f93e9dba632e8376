#include "formats/page_content.h"
#include "formats/pdf_file.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr double largest_page = 14'400; // points

std::optional<PdfSpot> spot_of(const std::vector<DrawnPage>& pages, const std::string& name) {
  for (const DrawnPage& page : pages)
    for (const PageItem& item : page.items)
      if (item.spot)
        return PdfSpot{name, item.colour.r / 255.0, item.colour.g / 255.0, item.colour.b / 255.0};
  return std::nullopt;
}

} // namespace

Result<std::string> write_pdf(const std::vector<DrawnPage>& pages, const std::vector<std::string>& layers,
                              const std::string& spot) {
  PageWords words;
  if (!layers.empty()) {
    words.begin_layer = [](std::size_t i) { return fmt::format("/OC /L{} BDC\n", i); };
    words.end_layer = "EMC\n";
  }
  words.spot_fill = "/Spot cs 1 scn\n", words.spot_line = "/Spot CS 1 SCN\n";
  std::vector<PdfPage> made;
  for (const DrawnPage& page : pages) {
    const double width = page.frame.width() * points_per_mm, height = page.frame.height() * points_per_mm;
    if (!(width > 0 && width <= largest_page && height > 0 && height <= largest_page))
      return bad_input(FRELM_WORDS("core", "the sheet is too large for this format, which ends at 5 m; write "
                                           "an SVG or DXF file, or make the sheet smaller"),
                       FRELM_WORDS("core", "PDF"));
    made.push_back({width, height, page_content(page, words)});
  }
  try {
    return pdf_file(made, layers, spot_of(pages, spot));
  } catch (const std::exception& e) {
    return Error{ErrorCode::Internal, as_it_is(e.what()), FRELM_WORDS("core", "PDF")};
  }
}

Result<std::string> write_pdf(const CutPlan& plan, const PageOptions& options) {
  std::vector<std::string> layers;
  for (const PlanLayer& l : plan.layers)
    layers.push_back(l.name);
  return write_pdf(pages_of(plan, options), layers, options.spot);
}

} // namespace frelm
