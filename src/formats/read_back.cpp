#include "formats/read_back.h"

#include "formats/dxf_read.h"
#include "formats/hpgl_read.h"

#include <fmt/format.h>

namespace frelm {
namespace {

// least: mm; smaller ones may be lost in rounding.
void add(DrawnTotals& totals, const Outline& outline, Vec by, double least) {
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

DrawnTotals totals_of(const CutSheet& sheet, double least) {
  DrawnTotals out;
  for (const CutPiece& p : sheet.pieces)
    add(out, p.outline, {-sheet.frame.x0, -sheet.frame.y0}, least);
  return out;
}

DrawnTotals totals_of(const Drawing& drawing, double least) {
  DrawnTotals out;
  for (const DrawnShape& s : drawing.shapes)
    add(out, s.outline, {-drawing.frame.x0, -drawing.frame.y0}, least);
  return out;
}

namespace {

struct Told {
  Box box;
  double length = 0, area = 0;
  std::size_t segments = 0;
};

std::vector<Told> each_of(const Outline& outline, Vec by) {
  std::vector<Told> out;
  for (const Contour& c : outline.contours) {
    const Box b = c.bounds();
    if (!c.segments.empty())
      out.push_back(
          {{b.x0 + by.x, b.y0 + by.y, b.x1 + by.x, b.y1 + by.y}, c.length(), std::abs(c.area()), c.segments.size()});
  }
  return out;
}

// Each contour of some size has one in the file that reaches as far, is as long and holds as much.
Result<Done> each_is_there(const CutSheet& sheet, const Drawing& drawing, double off, double least) {
  std::vector<Told> found;
  for (const DrawnShape& s : drawing.shapes)
    for (Told& t : each_of(s.outline, {-drawing.frame.x0, -drawing.frame.y0}))
      found.push_back(t);
  std::sort(found.begin(), found.end(), [](const Told& a, const Told& b) { return a.box.x0 < b.box.x0; });
  std::vector<bool> used(found.size(), false);
  for (const CutPiece& p : sheet.pieces)
    for (const Told& t : each_of(p.outline, {-sheet.frame.x0, -sheet.frame.y0})) {
      if (t.box.width() < least + 2 * off && t.box.height() < least + 2 * off)
        continue;
      const auto from = std::lower_bound(found.begin(), found.end(), t.box.x0 - off,
                                         [](const Told& f, double x) { return f.box.x0 < x; });
      bool there = false;
      for (auto f = from; f != found.end() && f->box.x0 <= t.box.x0 + off && !there; ++f) {
        const auto i = static_cast<std::size_t>(f - found.begin());
        // Places that are off by `off` each way make a line of n pieces longer or shorter by 2 n of it at the most; the
        // rounding of many goes both ways, so that a tenth of that is far more than there ever is.
        const double n = double(std::max(t.segments, f->segments)), longer = 4 * off + 0.2 * off * n;
        there = !used[i] && std::abs(f->box.x1 - t.box.x1) <= off && std::abs(f->box.y0 - t.box.y0) <= off &&
                std::abs(f->box.y1 - t.box.y1) <= off && std::abs(f->length - t.length) <= longer + 1e-6 * t.length &&
                std::abs(f->area - t.area) <= off * t.length + 1e-6 * t.area;
        used[i] = there;
      }
      if (!there)
        return differs(FRELM_WORDS("core", "a line of the length, mm"), t.length, 0);
    }
  return Done{};
}

// off: of any place, mm. Contours near the least size may be there or not.
Result<Done> same(const CutSheet& sheet, const Drawing& drawing, double off, double least) {
  const DrawnTotals wanted = totals_of(sheet, least), found = totals_of(drawing, least);
  const std::size_t fewest = totals_of(sheet, least + 2 * off).contours,
                    most = totals_of(sheet, std::max(0.0, least - 2 * off)).contours;
  if (found.contours < fewest || found.contours > most)
    return differs(FRELM_WORDS("core", "lines"), double(wanted.contours), double(found.contours));
  if (wanted.contours == 0 || found.contours == 0)
    return Done{};
  const double unsure = fewest == most ? 0 : least + 2 * off;
  const std::pair<double, double> sides[]{{wanted.box.x0, found.box.x0},
                                          {wanted.box.y0, found.box.y0},
                                          {wanted.box.x1, found.box.x1},
                                          {wanted.box.y1, found.box.y1}};
  for (const auto& [a, b] : sides)
    if (!(std::abs(a - b) <= off + unsure))
      return differs(FRELM_WORDS("core", "extent, mm"), a, b);
  constexpr double share = 1e-6;
  const double segments = double(std::max(wanted.segments, found.segments));
  const double small = double(most - fewest) * unsure;
  if (!(std::abs(wanted.length - found.length) <= share * wanted.length + 2 * off * segments + 4 * small))
    return differs(FRELM_WORDS("core", "length, mm"), wanted.length, found.length);
  if (!(std::abs(wanted.area - found.area) <= share * wanted.area + off * wanted.length + small * unsure))
    return differs(FRELM_WORDS("core", "area, mm²"), wanted.area, found.area);
  return each_is_there(sheet, drawing, off, least);
}

Drawing moved(Drawing drawing, const Affine& m) {
  for (DrawnShape& s : drawing.shapes)
    s.outline = s.outline.transformed(m);
  drawing.frame = {};
  drawing.frame.add(Point{});
  return drawing;
}

} // namespace

Result<Done> same_in_svg(const CutSheet& sheet, const std::string& bytes, const SvgOptions& options) {
  const Result<Drawing> drawing = read_svg(bytes);
  if (!drawing)
    return drawing.error();
  return same(sheet, *drawing, options.arcs ? 0.001 : 0.00002, 0.001);
}

Result<Done> same_in_dxf(const CutSheet& sheet, const std::string& bytes, const DxfOptions& options) {
  DrawingReadOptions as_written;
  as_written.clean = Clean::AsWritten;
  const Result<Drawing> drawing = read_dxf(bytes, as_written);
  if (!drawing)
    return drawing.error();
  const double off = options.version == DxfVersion::R12 ? options.flatten + 0.001 : 0.001;
  return same(sheet, moved(*drawing, Affine::translation({0, sheet.frame.height()})), off, 2 * off);
}

Result<Done> same_in_hpgl(const CutSheet& sheet, const std::string& bytes, const HpglOptions& options) {
  DrawingReadOptions as_written;
  as_written.clean = Clean::AsWritten;
  const Result<Drawing> drawing = read_hpgl(bytes, as_written);
  if (!drawing)
    return drawing.error();
  // Back to the sheet: y down from its upper left corner.
  const double w = sheet.frame.width(), h = sheet.frame.height();
  Affine back; // from y down with the plot's own origin
  if (options.turned)
    back = Affine{0, 1, -1, 0, 0, 0};
  if (options.from_middle)
    back = Affine::translation({w / 2, h / 2}) * back;
  else if (!options.turned)
    back = Affine::translation({0, h}) * back;
  if (options.mirrored)
    back = Affine{-1, 0, 0, 1, w, 0} * back;
  const double off = 1 / hpgl_units_per_mm + options.flatten;
  return same(sheet, moved(*drawing, back), off, 3 * off);
}

} // namespace frelm
