#include "document/sheet_marks.h"

#include "document/edits.h"
#include "geom/rectangle.h"

#include <algorithm>

namespace frelm {
namespace {

// What the pieces cut, on the sheet as it is seen.
Result<std::vector<CutPiece>> cut_of(const Document& document, const std::vector<PieceId>& ids,
                                     const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  CutSheet sheet;
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr)
      continue;
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Finish, Effort(stop));
    if (!r)
      return r.error();
    add_cut_layers(sheet, *piece, *r, SheetSide::Seen);
  }
  std::erase_if(sheet.pieces,
                [](const CutPiece& p) { return p.destination != Destination::Knife || p.outline.empty(); });
  if (sheet.pieces.empty())
    return bad_input(FRELM_WORDS("core", "nothing of it is cut; select what goes to the knife"));
  return std::move(sheet.pieces);
}
// In the order in which colours come.
std::vector<std::pair<Colour, std::vector<const CutPiece*>>> by_colour(const std::vector<CutPiece>& cut) {
  std::vector<std::pair<Colour, std::vector<const CutPiece*>>> out;
  for (const CutPiece& p : cut) {
    auto it = std::find_if(out.begin(), out.end(), [&](const auto& o) { return o.first == p.colour; });
    if (it == out.end())
      it = out.insert(out.end(), {p.colour, {}});
    it->second.push_back(&p);
  }
  return out;
}
void add(Marked& to, Outline outline, Colour colour, const char* name) {
  Piece p;
  p.name = name, p.colour = colour;
  p.content = OutlinePiece{std::make_shared<const Outline>(std::move(outline)), Finish{{}}, nullptr, {}};
  Added added = add_piece(std::move(to.document), std::move(p));
  to.document = std::move(added.document);
  to.ids.push_back(added.id);
}
Contour line(Point a, Point b) {
  return {{Segment::line(a, b)}, false};
}

} // namespace

Result<Marked> with_weeding_box(const Document& document, const std::vector<PieceId>& ids,
                                const DocumentEvaluator& evaluator, double margin, const std::stop_token& stop) {
  const Result<std::vector<CutPiece>> cut = cut_of(document, ids, evaluator, stop);
  if (!cut)
    return cut.error();
  Marked out{document, {}};
  for (const auto& [colour, pieces] : by_colour(*cut)) {
    Box box;
    for (const CutPiece* p : pieces)
      box.add(p->outline.bounds());
    add(out, {{rectangle(box.grown(margin))}}, colour, "Weeding box");
  }
  return out;
}

Result<Marked> with_weeding_lines(const Document& document, const std::vector<PieceId>& ids,
                                  const DocumentEvaluator& evaluator, double least, const std::stop_token& stop) {
  const Result<std::vector<CutPiece>> cut = cut_of(document, ids, evaluator, stop);
  if (!cut)
    return cut.error();
  Marked out{document, {}};
  for (const auto& [colour, pieces] : by_colour(*cut)) {
    std::vector<Box> boxes;
    for (const CutPiece* p : pieces)
      for (const Contour& c : p->outline.contours)
        boxes.push_back(c.bounds());
    Box all;
    for (const Box& b : boxes)
      all.add(b);
    // A box that lies around all others is what the lines run across.
    std::erase_if(boxes, [&](const Box& b) { return boxes.size() > 1 && b.grown(1e-9).contains(all); });
    std::sort(boxes.begin(), boxes.end(), [](const Box& a, const Box& b) { return a.y0 < b.y0; });
    Outline lines;
    double reached = boxes.empty() ? all.y1 : boxes.front().y1;
    for (const Box& b : boxes) {
      if (b.y0 - reached >= least) {
        const double y = (reached + b.y0) / 2;
        lines.contours.push_back(line({all.x0, y}, {all.x1, y}));
      }
      reached = std::max(reached, b.y1);
    }
    if (!lines.empty())
      add(out, std::move(lines), colour, "Weeding lines");
  }
  if (out.ids.empty())
    return bad_input(
        FRELM_WORDS("core", "there is no level line between lines of letters that none of them reaches into"));
  return out;
}

Result<Marked> with_register_marks(const Document& document, const std::vector<PieceId>& ids,
                                   const DocumentEvaluator& evaluator, double size, double distance,
                                   const std::stop_token& stop) {
  const Result<std::vector<CutPiece>> cut = cut_of(document, ids, evaluator, stop);
  if (!cut)
    return cut.error();
  Box all;
  for (const CutPiece& p : *cut)
    all.add(p.outline.bounds());
  const Box at = all.grown(distance);
  Outline crosses;
  const double h = size / 2;
  for (const Point p : {Point{at.x0, at.y0}, {at.x1, at.y0}, {at.x1, at.y1}, {at.x0, at.y1}}) {
    crosses.contours.push_back(line({p.x - h, p.y}, {p.x + h, p.y}));
    crosses.contours.push_back(line({p.x, p.y - h}, {p.x, p.y + h}));
  }
  Marked out{document, {}};
  for (const auto& [colour, pieces] : by_colour(*cut))
    add(out, crosses, colour, "Register marks");
  return out;
}

} // namespace frelm
