#include "document/line_work.h"

#include "document/edits.h"
#include "document/outline_edits.h"
#include "document/piece_name.h"
#include "geom/boolean.h"
#include "geom/snip.h"

#include <map>

namespace frelm {

Result<LineWork> line_work(const Document& document, const DocumentEvaluator& evaluator, double bridged,
                           std::stop_token stop) {
  LineWork out;
  std::vector<Outline> outlines;
  const auto add = [&](PieceId owner, Outline outline) {
    out.owners.push_back(owner);
    outlines.push_back(std::move(outline));
  };
  const Sheet& sheet = document.sheet;
  const Point a{0, 0}, b{sheet.width, 0}, c{sheet.width, sheet.height}, d{0, sheet.height};
  add(0, {{{{Segment::line(a, b), Segment::line(b, c), Segment::line(c, d), Segment::line(d, a)}, true}}});
  for (const auto& piece : document.pieces) {
    if (!piece->visible)
      continue;
    if (piece->lettering() == nullptr) {
      if (const Result<Outline> drawn = nodes_of(document, piece->id); drawn)
        add(piece->id, *drawn);
      continue;
    }
    const Result<PieceResult> result = evaluator.piece(document, piece->id, Depth::Finish, stop);
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    if (!result || result->outline == nullptr)
      continue;
    for (const PieceLayer& layer : layers_of(*piece, *result))
      add(piece->id, *layer.outline);
  }
  Result<Spaces> spaces = Spaces::build(outlines, bridged, stop);
  if (!spaces)
    return spaces.error();
  out.spaces = std::move(*spaces);
  return out;
}

const Piece* owner_of(const Document& document, const LineWork& work, const ArrangedStretch& stretch) {
  return document.find(work.owners.at(stretch.from.outline));
}

Said why_not_snip(const Document& document, const LineWork& work, const ArrangedStretch& stretch) {
  const Piece* piece = owner_of(document, work, stretch);
  if (piece == nullptr)
    return FRELM_WORDS("core", "This is the edge of the sheet");
  if (piece->lettering() != nullptr)
    return FRELM_WORDS("core", "Release the letters first; then their lines can be snipped");
  if (piece->locked)
    return say(FRELM_WORDS("core", "%1 is locked; unlock it first"), display_name(*piece, document.unit));
  return {};
}

Result<Document> snipped(const Document& document, const LineWork& work,
                         const std::vector<ArrangedStretch>& stretches) {
  if (stretches.empty())
    return bad_input(FRELM_WORDS("core", "there is no line to snip"));
  std::map<PieceId, std::vector<ArrangedStretch>> of;
  for (const ArrangedStretch& s : stretches) {
    if (Said why = why_not_snip(document, work, s); !why.empty())
      return bad_input(std::move(why));
    of[owner_of(document, work, s)->id].push_back(s);
  }
  Document out = document;
  for (const auto& [id, gone] : of) {
    const Result<Outline> drawn = nodes_of(document, id);
    if (!drawn)
      return drawn.error();
    Outline rest = without_stretches(*drawn, gone);
    if (rest.empty())
      out = remove_pieces(std::move(out), {id}).document;
    else
      out = edit_nodes(std::move(out), id, [&](Outline) { return rest; });
  }
  return out;
}

Result<SpaceTaken> take_space(const Document& document, const std::vector<Outline>& spaces, PieceId into) {
  if (spaces.empty())
    return bad_input(FRELM_WORDS("core", "no lines enclose this place"));
  const Piece* piece = document.find(into);
  if (piece != nullptr && (piece->outline() == nullptr || piece->locked))
    piece = nullptr;
  Outline taken = spaces.front();
  if (piece != nullptr || spaces.size() > 1) {
    std::vector<Outline> all = spaces;
    if (piece != nullptr)
      all.push_back(*piece->outline()->outline);
    Result<WeldResult> united = combine(BooleanOp::Union, all, {});
    if (!united)
      return united.error();
    taken = std::move(united->outline);
  }
  if (piece != nullptr)
    return SpaceTaken{edit_nodes(document, into, [&](const Outline&) { return taken; }), into};
  Piece made;
  made.content = OutlinePiece{std::make_shared<const Outline>(std::move(taken)), Finish{{}}, {}, {}};
  Added added = add_piece(document, std::move(made));
  return SpaceTaken{std::move(added.document), added.id};
}

} // namespace frelm
