#include "document/blocks.h"

#include "document/arrange.h"
#include "document/edits.h"
#include "document/following.h"
#include "document/measure.h"
#include "document/piece_name.h"
#include "lettering/block_edit.h"

#include <set>

namespace frelm {
namespace {

bool has_pointed_ends(const Document& document, PieceId shape) {
  constexpr double near = 0.01; // mm
  const auto line = resolve_guide(document, shape);
  if (!line || !(*line)->curve->closed())
    return false;
  const Contour boundary = (*line)->curve->contour(near);
  return std::abs(boundary.area()) > 0 && ShapeHeights(boundary).pointed() &&
         upright_fill({0, 0, 1, 1}, boundary, UprightFill{}).ok();
}

// A drawn outline as a block: it stands about the origin of its frame, which the placement moves to its middle.
void make_block(Piece& piece) {
  const OutlinePiece drawn = *piece.outline();
  const Point middle = drawn.outline->bounds().centre();
  Lettering lettering;
  lettering.recipe.source =
      OutlineSource{std::make_shared<const Outline>(drawn.outline->transformed(Affine::translation(-middle)))};
  lettering.recipe.finish = drawn.finish;
  lettering.placement.at = middle;
  piece.content = std::move(lettering);
}

// A new piece made from these, which are hidden.
Together block_from(const Document& document, const std::vector<PieceId>& pieces, BendKind kind) {
  Document out = document;
  Piece block = *out.find(pieces.front());
  block.name.clear();
  block.locked = false;
  Lettering lettering;
  lettering.recipe.source = PiecesSource{pieces};
  lettering.recipe.bend.kind = kind;
  lettering.recipe.bend.rails.top.first = lettering.recipe.bend.rails.bottom.first = {ProfileKind::Arch, 15, 1, 0};
  block.content = std::move(lettering);
  for (const PieceId id : pieces)
    out = edit_piece(std::move(out), id, [](Piece& p) { p.visible = false; });
  Added added = add_piece(std::move(out), std::move(block));
  return Together{std::move(added.document), added.id};
}

// The pieces moved, locked ones too. A guide that only their letters ride on goes along; of one that others ride on, or
// that follows something itself, they get a copy of their own, so that nothing else moves.
Document moved_off_guides(Document document, const std::vector<PieceId>& pieces, Vec by) {
  const auto one_of_them = [&](PieceId id) { return std::find(pieces.begin(), pieces.end(), id) != pieces.end(); };
  std::set<PieceId> moving(pieces.begin(), pieces.end());
  const auto goes_along = [&](PieceId guide) {
    const std::vector<PieceId> riders = riders_of(document, guide);
    return carriers_of(document, guide) == std::vector{guide} && followers_of(document, guide).empty() &&
           std::all_of(riders.begin(), riders.end(), one_of_them);
  };
  for (const PieceId id : pieces)
    document = edit_piece(document, id, [&](Piece& p) {
      if (p.lettering() == nullptr)
        return;
      for (GuideRef* ref : p.lettering()->recipe.bend.remembered()) {
        if (ref->guide == 0 || ref->own || one_of_them(ref->guide))
          continue;
        if (goes_along(ref->guide))
          moving.insert(ref->guide);
        else if (const Result<GuideShape> own = own_shape(document, ref->guide); own)
          ref->own = *own, ref->guide = 0;
      }
    });
  for (const PieceId id : moving)
    document = edit_piece(std::move(document), id, [&](Piece& p) { move_piece(p, by); });
  return document;
}

} // namespace

Result<Together> begin_warp(const Document& document, PieceId id, BendKind kind, const DocumentEvaluator& evaluator) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->guide() != nullptr)
    return bad_input(FRELM_WORDS("core", "choose letters or an outline; a guide can't be warped"),
                     FRELM_WORDS("core", "Bend"));
  if (piece->locked)
    return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it to bend it"), FRELM_WORDS("core", "Bend"));
  const Result<PieceResult> now = evaluator.seat_now(document, id);
  const Box size = now.value_or({}).ink;
  const Point centre = !size.empty() ? size.centre() : Point{document.sheet.width / 2, document.sheet.height / 2};
  if (piece->outline() != nullptr && piece->outline()->origin != nullptr)
    return block_from(document, {id}, kind);
  Document out = document;
  if (piece->outline() != nullptr)
    out = edit_piece(std::move(out), id, make_block);
  const Bend was = out.find(id)->lettering()->recipe.bend;
  const bool stands = was.laid_by() == BendKind::Straight || was.laid_by() == BendKind::Rails;
  // Off an arc or a guide the word stands straight about its middle before it is warped between edges.
  if (kind != BendKind::Net && !(stands && !was.placed_by_guides()))
    out = straighten(std::move(out), {id}, [&](PieceId) { return centre; });
  out = edit_piece(std::move(out), id, [&](Piece& p) {
    Bend& bend = p.lettering()->recipe.bend;
    if (kind == BendKind::Net && (was.kind != BendKind::Net && was.kind != bend.net.base)) {
      bend.net.base = was.kind;
      bend.net.net = flat_net(was.kind == BendKind::Straight ? 2 : 4, 1);
    }
    if (kind == BendKind::Rails && was.kind == BendKind::Straight && bend.rails == RailsBend{})
      bend.rails.top.first =
          bend.rails.bottom.first = {ProfileKind::Arch, fitting_depth(60, size.width(), size.height()), 1, 0};
    bend.kind = kind;
  });
  return Together{detached(document, std::move(out)), id};
}

Result<Together> bend_together(const Document& document, const std::vector<PieceId>& ids, BendKind kind) {
  PiecesSource source;
  for (const auto& p : document.pieces) // in drawing order
    if (p->guide() == nullptr && std::find(ids.begin(), ids.end(), p->id) != ids.end())
      source.pieces.push_back(p->id);
  if (source.pieces.size() < 2)
    return bad_input(FRELM_WORDS("core", "select two or more letterings or outlines to bend them together"),
                     FRELM_WORDS("core", "Bend"));
  return block_from(document, source.pieces, kind);
}

bool can_be_finished_together(const Piece& piece) {
  return piece.guide() == nullptr || piece.is_cut();
}

Result<Together> finish_together(const Document& document, const std::vector<PieceId>& ids) {
  std::vector<PieceId> pieces;
  for (const auto& p : document.pieces) // in drawing order
    if (can_be_finished_together(*p) && std::find(ids.begin(), ids.end(), p->id) != ids.end())
      pieces.push_back(p->id);
  if (pieces.size() < 2)
    return bad_input(FRELM_WORDS("core", "select two or more letterings, outlines or shapes that are cut"),
                     FRELM_WORDS("core", "Finish"));
  Together together = block_from(document, pieces, BendKind::Straight);
  together.document = edit_piece(std::move(together.document), together.id, [](Piece& p) {
    p.lettering()->recipe.finish.steps.clear();
    p.destination = Destination::Knife;
  });
  return together;
}

Result<TakenApart> take_apart(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const Lettering* block = piece != nullptr ? piece->lettering() : nullptr;
  const auto* source = block != nullptr ? std::get_if<PiecesSource>(&block->recipe.source) : nullptr;
  if (source == nullptr)
    return bad_input(FRELM_WORDS("core", "only what was put together can be taken apart"));
  if (piece->locked)
    return bad_input(say(FRELM_WORDS("core", "%1 is locked; unlock it first"), display_name(*piece, document.unit)));
  if (block->placement.angle != 0)
    return bad_input(FRELM_WORDS("core", "it is turned; turn it back to 0° first"));
  TakenApart out{document, source->pieces};
  if (const Vec by = block->placement.at; by != Vec{})
    out.document = moved_off_guides(std::move(out.document), out.pieces, by);
  for (const PieceId part : out.pieces)
    out.document = edit_piece(std::move(out.document), part, [](Piece& p) { p.visible = true; });
  std::erase_if(out.document.pieces, [id](const auto& p) { return p->id == id; });
  out.document = detached(document, std::move(out.document));
  return out;
}

std::optional<Error> warp_refusal(const Document& before, const Document& after, PieceId id,
                                  const DocumentEvaluator& evaluator) {
  const Result<PieceResult> was = evaluator.seat_now(before, id);
  if (!was || was->bent == nullptr || was->bent->report.folds > 0)
    return std::nullopt;
  const Result<PieceResult> now = evaluator.seat_now(after, id);
  if (!now)
    return now.error();
  if (now->bent == nullptr || now->bent->report.folds == 0)
    return std::nullopt;
  const Point at = now->bent->report.fold_box.centre();
  const auto length = [&](double mm) { return format_length(std::round(mm * 10) / 10, after.unit); };
  return bad_input(
      FRELM_WORDS("core", "the letters would fold over there; bend less"),
      say(FRELM_WORDS("core", "x %1, y %2 %3"), length(at.x), length(at.y), std::string(unit_name(after.unit))));
}

Document fill_into(const Document& document, PieceId id, PieceId shape) {
  return edit_piece(document, id, [&](Piece& p) {
    if (Lettering* l = p.lettering()) {
      Bend& bend = l->recipe.bend;
      if (const ShapeFill& f = bend.rails.fill; f.guide == 0 && !f.own && l->recipe.letters() != nullptr)
        bend.rails.fill.style = has_pointed_ends(document, shape) ? FillStyle::Upright : FillStyle::Smooth;
      if (bend.kind != BendKind::Net)
        bend.kind = BendKind::Rails;
      bend.rails.into = RailsInto::Shape;
      bend.rails.fill.guide = shape;
      bend.rails.fill.own.reset();
      bend.rails.fill.corners.reset();
    }
  });
}

} // namespace frelm
