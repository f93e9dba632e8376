#include "formats/proof.h"

#include "document/measure.h"
#include "formats/export.h"
#include "formats/text_lines.h"

namespace frelm {
namespace {

constexpr Colour ink{0x1f, 0x2a, 0x33}, muted{0x6b, 0x74, 0x7b}, edge{0xcf, 0xc9, 0xbb};
constexpr double margin = 14, stroke = 0.18, hair = 0.12;                          // mm
constexpr double title_caps = 5, words_caps = 2.6, small_caps = 2.2, pitch = 2.05; // mm; of a line, in cap heights

Outline stretch(Point a, Point b) {
  return {{Contour{{Segment::line(a, b)}, false}}};
}
Outline box_outline(const Box& b) {
  const Point p[]{{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
  Contour c;
  for (int i = 0; i < 4; ++i)
    c.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
  return {{c}};
}

class Paperwork {
public:
  Paperwork(const FaceLibrary& faces, Unit unit) : text_(faces), unit_(unit) {}

  enum class Side { Left, Middle, Right };
  void words(const std::string& words, double caps, Point at, Colour colour, Side side = Side::Left,
             const Affine& turn = {}) {
    const double w = text_.width(words, caps);
    const double shift = side == Side::Left ? 0 : side == Side::Middle ? -w / 2 : -w;
    const Affine place = Affine::translation({at.x, at.y}) * turn * Affine::translation({shift, 0});
    if (Outline line = text_.line(words, caps); !line.empty())
      page.items.push_back({line.transformed(place), colour});
  }
  void line(Point a, Point b, Colour colour, double width) { page.items.push_back({stretch(a, b), colour, width}); }
  void area(const Box& box, Colour colour) { page.items.push_back({box_outline(box), colour}); }
  void frame(const Box& box, Colour colour, double width) { page.items.push_back({box_outline(box), colour, width}); }
  // To 0.1 mm, or 0.01 in.
  std::string number(double mm) const {
    const double least = unit_ == Unit::Inch ? mm_per_inch / 100 : 0.1;
    return format_length(std::round(mm / least) * least, unit_);
  }
  std::string measure(double mm) const { return number(mm).append(" ").append(unit_name(unit_)); }

  // Between two places at this distance from the work, with oblique strokes at its ends and the number beside it; from
  // `begin` on lines lead to it.
  void dimension(Point a, Point b, Vec away, double begin, double distance, double value) {
    const Vec along = (b - a) * (1 / std::max(length(b - a), 1e-9));
    const Point from = a + away * distance, to = b + away * distance;
    constexpr double beyond = 1.5, tick = 1.2; // mm
    for (const auto& [work, end] : {std::pair{a, from}, std::pair{b, to}})
      line(work + away * begin, end + away * beyond, muted, hair);
    line(from - along * beyond, to + along * beyond, muted, hair);
    for (const Point end : {from, to})
      line(end - (along - away) * tick, end + (along - away) * tick, ink, stroke);
    const Affine turn = std::abs(along.x) > 0.5 ? Affine{} : Affine::rotation(-pi / 2);
    const double raise = std::abs(along.x) > 0.5 ? small_caps + 1.6 : -1.6; // below the line, or left of it
    words(measure(value), small_caps, lerp(from, to, 0.5) + away * std::abs(raise), ink, Side::Middle, turn);
  }

  TextLines& text() { return text_; }
  DrawnPage page;

private:
  TextLines text_;
  Unit unit_;
};

struct Used {
  Colour colour;
  std::string name, size;
};

std::vector<Used> used(const CutSheet& work, const std::vector<Material>& materials, const Paperwork& sheet) {
  std::vector<Used> out;
  for (const MaterialUse& use : used_materials(work, materials)) {
    const Material* m = material_of(materials, use.colour);
    out.push_back({use.colour, m != nullptr ? m->name : std::string(),
                   sheet.number(use.box.width()) + " × " + sheet.measure(use.box.height())});
  }
  return out;
}

} // namespace

Result<DrawnPage> proof_page(const CutSheet& work, const std::vector<Material>& materials, Unit unit,
                             const ProofForm& form, const FaceLibrary& faces) {
  Box ink_box;
  for (const CutPiece& p : work.pieces)
    ink_box.add(p.outline.bounds());
  if (ink_box.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing to show yet; the sheet has no letters or outlines"));
  const bool wide = ink_box.width() >= ink_box.height();
  double width = form.paper == Paper::A4 ? 210 : 215.9, height = form.paper == Paper::A4 ? 297 : 279.4;
  if (wide)
    std::swap(width, height);
  Paperwork sheet(faces, unit);
  sheet.page.frame = {0, 0, width, height};
  sheet.area(sheet.page.frame, {255, 255, 255});
  const double right = width - margin, across = right - margin;

  // From the top: title and date, addressee.
  double top = margin;
  const double date_width = form.date.empty() ? 0 : sheet.text().width(form.date, words_caps) + 6;
  if (!form.title.empty() || !form.date.empty()) {
    top += title_caps;
    sheet.words(sheet.text().fitted(form.title, title_caps, std::max(20.0, across - date_width)), title_caps,
                {margin, top}, ink);
    sheet.words(sheet.text().fitted(form.date, words_caps, across / 2), words_caps, {right, top}, muted,
                Paperwork::Side::Right);
    top += 3.5;
  }
  if (!form.addressee.empty()) {
    top += words_caps;
    sheet.words(sheet.text().fitted(form.addressee, words_caps, across), words_caps, {margin, top}, muted);
    top += 3.5;
  }
  if (top > margin) {
    sheet.line({margin, top}, {right, top}, edge, stroke);
    top += 7;
  }

  // From the bottom: the line to sign at the right, remarks, materials beside them.
  double bottom = height - margin;
  const double half = across / 2 - 5;
  double left_bottom = bottom, right_bottom = bottom;
  if (!form.sign.empty()) {
    const double x = right - std::min(half, 80.0);
    sheet.words(sheet.text().fitted(form.sign, small_caps, right - x), small_caps, {x, bottom}, muted);
    sheet.line({x, bottom - small_caps - 2}, {right, bottom - small_caps - 2}, ink, stroke);
    right_bottom = bottom - small_caps - 2 - 14; // room to sign
  }
  const bool lists = form.materials;
  const double remarks_left = lists ? margin + across / 2 + 5 : margin, remarks_width = lists ? half : across;
  constexpr std::size_t most_lines = 8;
  const std::vector<std::string> remarks = sheet.text().wrapped(form.remarks, words_caps, remarks_width, most_lines);
  const double line_pitch = words_caps * pitch;
  for (std::size_t i = 0; i < remarks.size(); ++i)
    sheet.words(remarks[i], words_caps, {remarks_left, right_bottom - line_pitch * double(remarks.size() - 1 - i)},
                ink);
  if (!remarks.empty())
    right_bottom -= line_pitch * double(remarks.size() - 1) + words_caps;
  if (lists) {
    std::vector<Used> list = used(work, materials, sheet);
    constexpr std::size_t most_rows = 8;
    const std::size_t more = list.size() > most_rows ? list.size() - (most_rows - 1) : 0;
    if (more > 0)
      list.resize(most_rows - 1);
    constexpr double row = 6.4, side = 4.2;
    double y = left_bottom - row * double(list.size() + (more > 0 ? 1 : 0)) + (row - side);
    left_bottom = y;
    for (const Used& u : list) {
      const Box swatch{margin, y, margin + side * 1.5, y + side};
      sheet.area(swatch, u.colour);
      sheet.frame(swatch, edge, hair);
      const double size_width = sheet.text().width(u.size, small_caps), at = margin + side * 1.5 + 3;
      const double base = y + (side + small_caps) / 2;
      sheet.words(sheet.text().fitted(u.name, small_caps, half - (at - margin) - size_width - 4), small_caps,
                  {at, base}, ink);
      sheet.words(u.size, small_caps, {margin + half, base}, muted, Paperwork::Side::Right);
      y += row;
    }
    if (more > 0)
      sheet.words("+ " + std::to_string(more), small_caps, {margin + side * 1.5 + 3, y + (side + small_caps) / 2},
                  muted);
  }
  bottom = std::min(left_bottom, right_bottom);
  if (bottom < height - margin)
    bottom -= 7;

  // The work between them.
  const double room_left = margin + (form.sizes ? 9 : 0), room_bottom = bottom - (form.sizes ? 10 : 0);
  const Box room{room_left, top, right, std::max(top + 20, room_bottom)};
  const double around = form.ground ? 0.06 * std::max(ink_box.width(), ink_box.height()) : 0;
  const double k = std::min(
      {(room.width()) / (ink_box.width() + 2 * around), (room.height()) / (ink_box.height() + 2 * around), 2.0});
  const Affine place = Affine::translation({room.centre().x, room.centre().y}) * Affine::scaling(k, k) *
                       Affine::translation({-ink_box.centre().x, -ink_box.centre().y});
  const Point low = place({ink_box.x0, ink_box.y0}), high = place({ink_box.x1, ink_box.y1});
  const Box shown{low.x, low.y, high.x, high.y};
  if (form.ground)
    sheet.area(shown.grown(around * k), *form.ground);
  for (const CutPiece& p : work.pieces)
    if (!p.outline.empty())
      add_areas(sheet.page.items, {p.outline.transformed(place), p.colour}, stroke);
  if (form.sizes) {
    const double begin = 1 + around * k, distance = 4 + around * k;
    sheet.dimension({shown.x0, shown.y1}, {shown.x1, shown.y1}, {0, 1}, begin, distance, ink_box.width());
    sheet.dimension({shown.x0, shown.y1}, {shown.x0, shown.y0}, {-1, 0}, begin, distance, ink_box.height());
  }
  return std::move(sheet.page);
}

Result<std::string> write_proof(const Document& document, const DocumentEvaluator& evaluator, const ProofForm& form,
                                const std::string& path, const std::stop_token& stop, int picture_width) {
  const Result<const ExportFormat*> format = export_format(path);
  if (!format || ((*format)->suffix != "pdf" && (*format)->suffix != "png"))
    return bad_input(say(FRELM_WORDS("core", "choose a name that ends in one of %1"), std::string(".pdf, .png")),
                     as_it_is(path));
  const Result<CutSheet> work = cut_sheet(document, evaluator, stop, SheetSide::Seen);
  if (!work)
    return work.error();
  const Result<DrawnPage> page = proof_page(*work, document.materials, document.unit, form, evaluator.faces());
  if (!page)
    return page.error();
  if ((*format)->suffix == "pdf")
    return write_pdf({*page});
  return write_png(*page, picture_width);
}

} // namespace frelm
