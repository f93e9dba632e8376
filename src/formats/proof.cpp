#include "formats/proof.h"

#include "document/measure.h"
#include "formats/export.h"
#include "formats/text_lines.h"

namespace frelm {
namespace {

constexpr Colour words_ink{0x1f, 0x2a, 0x33}, muted{0x6b, 0x74, 0x7b}, edge{0xcf, 0xc9, 0xbb};
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
      line(end - (along - away) * tick, end + (along - away) * tick, words_ink, stroke);
    const bool level = std::abs(along.x) > 0.5; // then the number is below the line, else left of it
    words(measure(value), small_caps, lerp(from, to, 0.5) + away * (level ? small_caps + 1.6 : 1.6), words_ink,
          Side::Middle, level ? Affine{} : Affine::rotation(-pi / 2));
  }

  // One that stands on the work, its number along the line.
  void mark(const MarkDrawn& m, const Affine& place) {
    const Point a = place(m.from), b = place(m.to), from = place(m.line_from), to = place(m.line_to);
    const Vec along = (to - from) * (1 / std::max(length(to - from), 1e-9));
    const double far = length(from - a);
    const Vec away = far > 0 ? (from - a) / far : Vec{along.y, -along.x};
    const Vec oblique = along + Vec{along.y, -along.x};
    constexpr double begin = 0.8, beyond = 1.2, tick = 1; // mm
    for (const auto& [work, end] : {std::pair{a, from}, std::pair{b, to}})
      if (far > begin)
        line(work + away * begin, end + away * beyond, muted, hair);
    line(from, to, muted, hair);
    for (const Point end : {from, to})
      line(end - oblique * tick, end + oblique * tick, words_ink, stroke);
    const Affine turn = Affine::rotation(radians(m.angle));
    words(measure(m.length), small_caps, place(m.middle) + turn.linear({0, -0.8}), words_ink, Side::Middle, turn);
  }

  TextLines& text() { return text_; }
  DrawnPage page;

private:
  TextLines text_;
  Unit unit_;
};

// The parts of the sheet: the head takes what it needs from the top, the foot from the bottom, the work what is left.
class ProofSheet : public Paperwork {
public:
  ProofSheet(const FaceLibrary& faces, Unit unit, const ProofForm& form, const Box& work)
      : Paperwork(faces, unit), form_(form), work_(work) {
    Vec size = form.paper == Paper::A4 ? Vec{210, 297} : Vec{215.9, 279.4};
    if (work.width() >= work.height())
      std::swap(size.x, size.y);
    page.frame = {0, 0, size.x, size.y};
    area(page.frame, white);
    right_ = size.x - margin, across_ = right_ - margin, half_ = across_ / 2 - 5;
    top_ = margin, bottom_ = size.y - margin;
  }

  // Heading and date, whom it is for.
  void head() {
    const std::string date = text().fitted(form_.date, words_caps, across_ / 2);
    if (!form_.title.empty() || !date.empty()) {
      const double beside = date.empty() ? 0 : text().width(date, words_caps) + 6;
      top_ += title_caps;
      words(text().fitted(form_.title, title_caps, across_ - beside), title_caps, {margin, top_}, words_ink);
      words(date, words_caps, {right_, top_}, muted, Side::Right);
      top_ += 3.5;
    }
    if (!form_.addressee.empty()) {
      top_ += words_caps;
      words(text().fitted(form_.addressee, words_caps, across_), words_caps, {margin, top_}, muted);
      top_ += 3.5;
    }
    if (top_ > margin) {
      line({margin, top_}, {right_, top_}, edge, stroke);
      top_ += 7;
    }
  }

  // Materials at the left, remarks and the line to sign at the right.
  void foot(const std::vector<MaterialUse>& used, const std::vector<Material>& materials) {
    const double left = form_.materials ? material_list(used, materials) : bottom_;
    double begins = bottom_;
    if (!form_.sign.empty()) {
      constexpr double longest = 80, room_to_sign = 14; // mm
      const double x = right_ - std::min(half_, longest), y = bottom_ - small_caps - 2;
      words(text().fitted(form_.sign, small_caps, right_ - x), small_caps, {x, bottom_}, muted);
      line({x, y}, {right_, y}, words_ink, stroke);
      begins = y - room_to_sign;
    }
    constexpr std::size_t most_lines = 8;
    const double x = form_.materials ? right_ - half_ : margin;
    const std::vector<std::string> lines = text().wrapped(form_.remarks, words_caps, right_ - x, most_lines);
    for (auto l = lines.rbegin(); l != lines.rend(); ++l, begins -= words_caps * pitch)
      words(*l, words_caps, {x, begins}, words_ink);
    if (!lines.empty())
      begins += words_caps * (pitch - 1);
    const double foot = std::min(left, begins);
    if (foot < bottom_)
      bottom_ = foot - 7;
  }

  void work(const CutSheet& shown, const std::vector<MarkDrawn>& marks) {
    Box all = work_;
    for (const MarkDrawn& m : marks)
      all.add(m.line_from), all.add(m.line_to);
    const double for_sizes = form_.sizes ? 10 : 0, least = 20; // mm
    const Box room{margin + for_sizes, top_, right_, std::max(top_ + least, bottom_ - for_sizes)};
    const double around = form_.ground ? 0.06 * std::max(work_.width(), work_.height()) : 0;
    const double k =
        std::min({room.width() / (all.width() + 2 * around), room.height() / (all.height() + 2 * around), 2.0});
    const Affine place = Affine::translation(room.centre() - Point{}) * Affine::scaling(k, k) *
                         Affine::translation(Point{} - all.centre());
    const Point low = place({work_.x0, work_.y0}), high = place({work_.x1, work_.y1});
    if (form_.ground)
      area(Box{low.x, low.y, high.x, high.y}.grown(around * k), *form_.ground);
    for (const CutPiece& p : shown.pieces)
      add_item(page.items, {p.outline.transformed(place), p.colour}, ExportInk::Areas, stroke);
    if (form_.sizes) {
      const double begin = 1 + around * k, distance = 4 + around * k; // and clear of the marks
      dimension({low.x, high.y}, high, {0, 1}, begin, distance + (all.y1 - work_.y1) * k, work_.width());
      dimension({low.x, high.y}, low, {-1, 0}, begin, distance + (work_.x0 - all.x0) * k, work_.height());
    }
    for (const MarkDrawn& m : marks)
      mark(m, place);
  }

private:
  // Gives where it begins.
  double material_list(const std::vector<MaterialUse>& used, const std::vector<Material>& materials) {
    constexpr std::size_t most_rows = 8;
    constexpr double row = 6.4, side = 4.2, indent = side * 1.5 + 3; // mm
    const std::size_t shown = used.size() > most_rows ? most_rows - 1 : used.size();
    const double begins = bottom_ - row * double(std::min(used.size(), most_rows)) + (row - side);
    double y = begins;
    for (std::size_t i = 0; i < shown; ++i, y += row) {
      const MaterialUse& use = used[i];
      const Box swatch{margin, y, margin + side * 1.5, y + side};
      area(swatch, use.colour);
      frame(swatch, edge, hair);
      const std::string size = number(use.box.width()).append(" × ").append(measure(use.box.height()));
      const double base = y + (side + small_caps) / 2, room = half_ - indent - text().width(size, small_caps) - 4;
      if (const Material* m = material_of(materials, use.colour))
        words(text().fitted(m->name, small_caps, room), small_caps, {margin + indent, base}, words_ink);
      words(size, small_caps, {margin + half_, base}, muted, Side::Right);
    }
    if (shown < used.size())
      words("+ " + std::to_string(used.size() - shown), small_caps, {margin + indent, y + (side + small_caps) / 2},
            muted);
    return begins;
  }

  const ProofForm& form_;
  Box work_; // on its own sheet
  double right_ = 0, across_ = 0, half_ = 0, top_ = 0, bottom_ = 0;
};

} // namespace

Result<DrawnPage> proof_page(const CutSheet& work, const std::vector<Material>& materials, Unit unit,
                             const ProofForm& form, const FaceLibrary& faces, const std::vector<MarkDrawn>& marks) {
  Box ink_box;
  for (const CutPiece& p : work.pieces)
    ink_box.add(p.outline.bounds());
  if (ink_box.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing to show yet; the sheet has no letters or outlines"));
  ProofSheet sheet(faces, unit, form, ink_box);
  sheet.head();
  sheet.foot(used_materials(work, materials), materials);
  sheet.work(work, marks);
  return std::move(sheet.page);
}

Result<DrawnPage> proof_page(const Document& document, const DocumentEvaluator& evaluator, const ProofForm& form,
                             const std::stop_token& stop) {
  const Result<CutSheet> work = cut_sheet(document, evaluator, stop, SheetSide::Seen);
  if (!work)
    return work.error();
  std::vector<MarkDrawn> marks;
  for (const DimensionMark& m : document.marks)
    if (const auto at = drawn(document, m, evaluator))
      marks.push_back(*at);
  return proof_page(*work, document.materials, document.unit, form, evaluator.faces(), marks);
}

Result<std::string> write_proof(const Document& document, const DocumentEvaluator& evaluator, const ProofForm& form,
                                const std::string& path, const std::stop_token& stop, int picture_width) {
  const Result<const ExportFormat*> format = export_format(path);
  if (!format || ((*format)->suffix != "pdf" && (*format)->suffix != "png"))
    return bad_input(say(FRELM_WORDS("core", "choose a name that ends in one of %1"), std::string(".pdf, .png")),
                     as_it_is(path));
  const Result<DrawnPage> page = proof_page(document, evaluator, form, stop);
  if (!page)
    return page.error();
  if ((*format)->suffix == "pdf")
    return write_pdf({*page});
  return write_png(*page, picture_width);
}

} // namespace frelm
