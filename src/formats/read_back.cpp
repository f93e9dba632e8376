#include "formats/read_back.h"

#include <fmt/format.h>

namespace frelm {
namespace {

void add(DrawnTotals& totals, const Outline& outline, Vec by) {
  constexpr double least = 0.001; // mm; smaller ones may be lost in rounding
  for (const Contour& c : outline.contours) {
    const Box box = c.bounds();
    if (c.segments.empty() || (box.width() < least && box.height() < least))
      continue;
    ++totals.contours, totals.segments += c.segments.size();
    totals.box.add(Box{box.x0 + by.x, box.y0 + by.y, box.x1 + by.x, box.y1 + by.y});
    totals.length += c.length();
    totals.area += std::abs(c.area());
  }
}

Error differs(Words what, double wanted, double found) {
  return {ErrorCode::Internal,
          say(FRELM_WORDS("core", "the file was read back and is not what was to leave (%1: %2 instead of %3); it "
                                  "must not be cut. Try another format, and tell us"),
              what, fmt::format("{:.6g}", found), fmt::format("{:.6g}", wanted)),
          {}};
}

} // namespace

DrawnTotals totals_of(const CutSheet& sheet) {
  DrawnTotals out;
  for (const CutPiece& p : sheet.pieces)
    add(out, p.outline, {-sheet.frame.x0, -sheet.frame.y0});
  return out;
}

DrawnTotals totals_of(const Drawing& drawing) {
  DrawnTotals out;
  for (const DrawnShape& s : drawing.shapes)
    add(out, s.outline, {-drawing.frame.x0, -drawing.frame.y0});
  return out;
}

Result<Done> same_in_svg(const CutSheet& sheet, const std::string& bytes, const SvgOptions& options) {
  const DrawnTotals wanted = totals_of(sheet);
  const Result<Drawing> drawing = read_svg(bytes);
  if (!drawing)
    return drawing.error();
  const DrawnTotals found = totals_of(*drawing);
  if (wanted.contours != found.contours)
    return differs(FRELM_WORDS("core", "lines"), double(wanted.contours), double(found.contours));
  if (wanted.contours == 0)
    return Done{};
  const double off = options.arcs ? 0.001 : 0.00002;
  const std::pair<double, double> sides[]{{wanted.box.x0, found.box.x0},
                                          {wanted.box.y0, found.box.y0},
                                          {wanted.box.x1, found.box.x1},
                                          {wanted.box.y1, found.box.y1}};
  for (const auto& [a, b] : sides)
    if (!(std::abs(a - b) <= off))
      return differs(FRELM_WORDS("core", "extent, mm"), a, b);
  constexpr double share = 1e-6;
  if (!(std::abs(wanted.length - found.length) <= share * wanted.length + 2 * off * double(wanted.segments)))
    return differs(FRELM_WORDS("core", "length, mm"), wanted.length, found.length);
  if (!(std::abs(wanted.area - found.area) <= share * wanted.area + off * wanted.length))
    return differs(FRELM_WORDS("core", "area, mm²"), wanted.area, found.area);
  return Done{};
}

} // namespace frelm
