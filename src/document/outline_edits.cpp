// The nodes are changed by geom/nodes on a copy; where lines were torn or joined, followers get the curve they had.
#include "document/outline_edits.h"

#include "document/edits.h"
#include "document/following.h"
#include "geom/arc_cubics.h"

namespace frelm {
namespace {

constexpr double least_line = 1e-6; // mm; shorter lines are none

// Another number of lines, or one of them opened or closed.
bool torn(const Outline& before, const Outline& after) {
  return !std::equal(before.contours.begin(), before.contours.end(), after.contours.begin(), after.contours.end(),
                     [](const Contour& a, const Contour& b) { return a.closed == b.closed; });
}

// With its nodes moved a ribbon lies along a pen curve; every other shape becomes one.
GuideShape redrawn(const GuideShape& was, Contour now) {
  if (const auto* strip = std::get_if<RibbonGuide>(&was))
    return RibbonGuide{PathGuide{std::move(now)}, strip->cut};
  return PathGuide{std::move(now)};
}

// What follows a piece whose lines were torn or joined keeps the curve it had.
Document keep_curves(const Document& before, Document after, PieceId id) {
  const auto same = [](const Result<std::shared_ptr<const GuideLine>>& a,
                       const Result<std::shared_ptr<const GuideLine>>& b) {
    return a.ok() && b.ok() && (*a)->curve->closed() == (*b)->curve->closed() &&
           (*a)->curve->length() == (*b)->curve->length() && (*a)->curve->at(0).point == (*b)->curve->at(0).point;
  };
  for (const PieceId follower : followers_of(before, id))
    if (!same(resolve_guide(before, follower), resolve_guide(after, follower)))
      if (const Result<GuideShape> own = own_shape(before, follower); own)
        after = edit_piece(std::move(after), follower, [&](Piece& p) { p.guide()->shape = *own; });
  if (same(resolve_guide(before, id), resolve_guide(after, id)))
    return after;
  const Result<GuideShape> own = own_shape(before, id);
  for (const PieceId rider : own.ok() ? riders_of(before, id) : std::vector<PieceId>{})
    after = edit_piece(std::move(after), rider, [&](Piece& p) {
      for (GuideRef* ref : p.lettering()->recipe.bend.remembered())
        if (ref->guide == id)
          ref->guide = 0, ref->own = *own;
    });
  return after;
}

} // namespace

Document edit_nodes(Document document, PieceId id, const std::function<Outline(Outline)>& change) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked || piece->lettering() != nullptr)
    return document;
  const Result<Outline> before = nodes_of(document, id);
  if (!before)
    return document;
  Outline after = change(*before);
  std::erase_if(after.contours, [](const Contour& c) { return c.segments.empty() || !(c.length() > least_line); });
  if (after == *before || after.empty())
    return document;
  const bool tears = torn(*before, after);
  Document out = document;
  if (piece->outline() != nullptr) {
    out = edit_piece(std::move(out), id, [&](Piece& p) {
      p.outline()->outline = std::make_shared<const Outline>(std::move(after));
      p.outline()->reshaped = p.outline()->origin != nullptr;
    });
  } else {
    // A guide is one curve: what a break leaves over becomes a guide of its own.
    Piece rest = *piece;
    out = edit_piece(std::move(out), id, [&](Piece& p) {
      p.guide()->shape = redrawn(p.guide()->shape, std::move(after.contours.front()));
    });
    for (std::size_t i = 1; i < after.contours.size(); ++i) {
      rest.content = Guide{redrawn(piece->guide()->shape, std::move(after.contours[i])), piece->guide()->finish};
      out = add_piece(std::move(out), rest).document;
    }
  }
  if (tears)
    out = keep_curves(document, std::move(out), id);
  return detached(document, std::move(out));
}

Result<Outline> nodes_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->lettering() != nullptr)
    return bad_input(FRELM_WORDS("core", "choose a guide or an outline; letters get nodes when they are released"));
  if (const OutlinePiece* o = piece->outline())
    return *o->outline;
  if (const auto* path = std::get_if<PathGuide>(&piece->guide()->shape))
    return Outline{{path->contour}};
  const auto line = resolve_guide(document, id);
  if (!line)
    return line.error();
  return Outline{{(*line)->curve->contour(default_arc_tolerance)}};
}

} // namespace frelm
