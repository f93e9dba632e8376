#include "formats/read_back.h"

#include "formats/dxf_read.h"
#include "formats/hpgl_read.h"
#include "formats/page_read.h"

#include <fmt/format.h>

namespace frelm {
namespace {

Error differs(Words what, double wanted, double found) {
  return {ErrorCode::Internal,
          say(FRELM_WORDS("core", "the file was read back and is not what was to leave (%1: %2 instead of %3); it "
                                  "must not be cut. Try another format, and tell us"),
              what, fmt::format("{:.6g}", found), fmt::format("{:.6g}", wanted)),
          {}};
}

// One contour: how far it reaches, how long it is, what it holds.
struct DrawnLine {
  Box box;                     // mm
  double length = 0, area = 0; // mm, mm²
  std::size_t segments = 0;
  bool closed = false;
  bool smaller_than(double size) const { return box.width() < size && box.height() < size; }
};

void add_lines_of(const Outline& outline, Vec by, std::vector<DrawnLine>& to) {
  for (const Contour& c : outline.contours)
    if (const Box b = c.bounds(); !c.segments.empty())
      to.push_back({{b.x0 + by.x, b.y0 + by.y, b.x1 + by.x, b.y1 + by.y},
                    c.length(),
                    std::abs(c.area()),
                    c.segments.size(),
                    c.closed});
}

// Places that are off by no more than `off` make a line of n pieces longer or shorter by 2 n of it at the most, and
// what it holds by its length of it.
bool alike(const DrawnLine& wanted, const DrawnLine& found, double off) {
  constexpr double share = 1e-6;
  const auto near = [&](double x, double y) { return std::abs(x - y) <= off; };
  const double pieces = double(std::max(wanted.segments, found.segments)),
               longer = std::max(wanted.length, found.length);
  return (found.closed || !wanted.closed) && near(wanted.box.x0, found.box.x0) && near(wanted.box.y0, found.box.y0) &&
         near(wanted.box.x1, found.box.x1) && near(wanted.box.y1, found.box.y1) &&
         std::abs(wanted.length - found.length) <= 2 * off * pieces + share * longer &&
         std::abs(wanted.area - found.area) <= off * longer + share * wanted.area;
}

// off: of any place, mm. Lines smaller than `least` may be lost in rounding; those near it may be there or not.
Result<Done> same(const CutSheet& sheet, const Drawing& drawing, double off, double least) {
  std::vector<DrawnLine> wanted, found;
  for (const CutPiece& p : sheet.pieces)
    add_lines_of(p.outline, {-sheet.frame.x0, -sheet.frame.y0}, wanted);
  for (const DrawnShape& s : drawing.shapes)
    add_lines_of(s.outline, {-drawing.frame.x0, -drawing.frame.y0}, found);
  const auto count = [](const std::vector<DrawnLine>& lines, double size) {
    return std::count_if(lines.begin(), lines.end(), [&](const DrawnLine& l) { return !l.smaller_than(size); });
  };
  const auto there = count(found, least);
  if (there < count(wanted, least + 2 * off) || there > count(wanted, std::max(0.0, least - 2 * off)))
    return differs(FRELM_WORDS("core", "lines"), double(count(wanted, least)), double(there));
  std::sort(found.begin(), found.end(), [](const DrawnLine& a, const DrawnLine& b) { return a.box.x0 < b.box.x0; });
  std::vector<bool> used(found.size(), false);
  for (const DrawnLine& w : wanted) {
    if (w.smaller_than(least + 2 * off))
      continue;
    auto f = std::lower_bound(found.begin(), found.end(), w.box.x0 - off,
                              [](const DrawnLine& l, double x) { return l.box.x0 < x; });
    const auto free = [&] { return !used[static_cast<std::size_t>(f - found.begin())]; };
    while (f != found.end() && f->box.x0 <= w.box.x0 + off && !(free() && alike(w, *f, off)))
      ++f;
    if (f == found.end() || f->box.x0 > w.box.x0 + off)
      return differs(FRELM_WORDS("core", "a line of the length, mm"), w.length, 0);
    used[static_cast<std::size_t>(f - found.begin())] = true;
  }
  return Done{};
}

Drawing moved(Drawing drawing, const Affine& m) {
  for (DrawnShape& s : drawing.shapes)
    s.outline = s.outline.transformed(m);
  drawing.frame = {};
  drawing.frame.add(Point{});
  return drawing;
}

// The pages on top of each other.
Result<Drawing> on_one_page(const CutPlan& plan, const std::string& bytes, const PageOptions& options) {
  DrawingReadOptions reading;
  reading.widest_line = 1; // mm; all that is a stroke is one of our hairlines
  Result<Drawing> out = read_drawing(bytes, reading);
  const auto pages = static_cast<int>(pages_of(plan, options).size());
  for (reading.page = 2; reading.page <= pages && out.ok(); ++reading.page) {
    Result<Drawing> more = read_drawing(bytes, reading);
    if (!more)
      return more;
    for (DrawnShape& s : more->shapes)
      out->shapes.push_back(std::move(s));
  }
  return out;
}

Result<Done> same_in_pages(const CutPlan& plan, const std::string& bytes, const PageOptions& options) {
  const Result<Drawing> drawing = on_one_page(plan, bytes, options);
  if (!drawing)
    return drawing.error();
  constexpr double off = 0.002; // mm
  return same(plan.sheet, *drawing, off, 2 * off);
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
  const bool chords = options.version == DxfVersion::R12 || options.curves_as_arcs;
  const double off = chords ? options.flatten + 0.001 : 0.001;
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

Result<Done> same_in_pdf(const CutPlan& plan, const std::string& bytes, const PageOptions& options) {
  return same_in_pages(plan, bytes, options);
}

Result<Done> same_in_eps(const CutPlan& plan, const std::string& bytes) {
  return same_in_pages(plan, bytes, {});
}

} // namespace frelm
