// Documents share their pieces, so an edit copies the list and the pieces it changes. What takes something away that
// others follow ends in `detached` (document/following).
#include "document/edits.h"

#include "document/following.h"

#include <algorithm>
#include <set>

namespace frelm {
std::vector<PieceId> sources_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  const auto* pieces = l != nullptr ? std::get_if<PiecesSource>(&l->recipe.source) : nullptr;
  return pieces != nullptr ? pieces->pieces : std::vector<PieceId>{};
}

Added add_piece(Document document, Piece piece) {
  piece.id = document.next_id++;
  const PieceId id = piece.id;
  document.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
  return {std::move(document), id};
}

Document edit_piece(Document document, PieceId id, const std::function<void(Piece&)>& change) {
  const std::size_t i = document.index_of(id);
  if (i == document.pieces.size())
    return document;
  auto piece = std::make_shared<Piece>(*document.pieces[i]);
  change(*piece);
  piece->id = id;
  document.pieces[i] = std::move(piece);
  return document;
}

Removed remove_pieces(Document document, const std::vector<PieceId>& ids) {
  Removed out;
  std::set<PieceId> gone(ids.begin(), ids.end());
  for (const PieceId source : sources_only_of(document, ids))
    gone.insert(source);
  std::set<PieceId> riders;
  for (const PieceId id : gone) {
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->lettering() != nullptr)
      continue;
    std::vector<PieceId> riding = riders_of(document, id);
    std::erase_if(riding, [&](PieceId rider) { return gone.contains(rider); });
    if (!riding.empty() && own_shape(document, id).ok())
      out.guides.push_back(*piece);
    riders.insert(riding.begin(), riding.end());
  }
  out.riders.assign(riders.begin(), riders.end());
  Document left = document;
  std::erase_if(left.pieces, [&](const auto& p) { return gone.contains(p->id); });
  out.document = detached(document, std::move(left));
  return out;
}

Document bring_back_guide(Document document, const Piece& guide) {
  if (document.find(guide.id) == nullptr)
    document.pieces.insert(document.pieces.begin(), std::make_shared<const Piece>(guide));
  for (const PieceId rider : riders_of(document, guide.id))
    document = edit_piece(std::move(document), rider, [&](Piece& p) {
      for (GuideRef* ref : p.lettering()->recipe.bend.remembered())
        if (ref->guide == guide.id)
          ref->own.reset();
    });
  return document;
}

Document straighten(Document document, const std::vector<PieceId>& ids,
                    const std::function<Point(PieceId)>& ink_centre) {
  for (const PieceId id : ids) {
    const Point centre = ink_centre(id);
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (Lettering* l = p.lettering()) {
        l->recipe.bend.kind = BendKind::Straight;
        const Letters* letters = l->recipe.letters();
        l->placement = {{centre.x, centre.y + (letters != nullptr ? letters->size / 2 : 0)}, 0};
      }
    });
  }
  return document;
}

Document reorder_piece(Document document, PieceId id, std::size_t index) {
  const std::size_t from = document.index_of(id);
  if (from == document.pieces.size())
    return document;
  auto piece = document.pieces[from];
  document.pieces.erase(document.pieces.begin() + static_cast<std::ptrdiff_t>(from));
  index = std::min(index, document.pieces.size());
  document.pieces.insert(document.pieces.begin() + static_cast<std::ptrdiff_t>(index), std::move(piece));
  return document;
}

Piece new_lettering(Document& document, const std::u32string& text, Point at) {
  Piece piece;
  Lettering lettering;
  Letters letters;
  letters.text = retyped({}, text, document.next_id);
  lettering.recipe.source = std::move(letters);
  lettering.placement.at = at;
  piece.content = std::move(lettering);
  return piece;
}

bool always_shape(std::size_t kind) {
  return kind == GuideShape(PlateGuide{}).index() || kind == GuideShape(RibbonGuide{}).index();
}

Piece new_guide(GuideShape shape, GuideUse use) {
  Piece piece;
  if (use == GuideUse::Guide && !always_shape(shape.index()))
    piece.colour = {0x0f, 0x6e, 0x73}, piece.destination = Destination::Guide;
  piece.content = Guide{std::move(shape)};
  return piece;
}

Piece new_circle(Point centre, double radius) {
  return new_guide(CircleGuide{centre, radius, 0});
}

void ride_on(Lettering& lettering, PieceId guide, const GuideLine& line) {
  Bend& bend = lettering.recipe.bend;
  bend.kind = BendKind::Guide;
  bend.guide.guide = guide;
  bend.guide.own.reset();
  const bool open = !line.curve->closed();
  if (open && bend.guide.by == AlongBy::Angle) {
    bend.guide.by = AlongBy::Percent;
    bend.guide.percent = 50;
  }
  if (line.sense == GuideSense::Round && open) { // a spiral is read from its first winding on
    bend.guide.anchor = Anchor::StartsAt;
    bend.guide.percent = 0;
  }
  if (!open && bend.guide.by == AlongBy::Percent)
    bend.guide.by = AlongBy::Angle;
}

void turn_tops(Lettering& lettering, Tops tops) {
  GuideBend& bend = lettering.recipe.bend.guide;
  if (bend.tops == tops)
    return;
  bend.tops = tops;
  bend.percent = bend.anchor == Anchor::CentredAt ? 100 - bend.percent : bend.percent;
}

Document set_tweak(Document document, PieceId id, const LetterTweak& tweak) {
  return edit_piece(std::move(document), id, [&](Piece& p) {
    if (Lettering* l = p.lettering()) {
      std::erase_if(l->recipe.tweaks, [&](const LetterTweak& t) { return t.id == tweak.id; });
      if (!tweak.idle())
        l->recipe.tweaks.push_back(tweak);
      std::sort(l->recipe.tweaks.begin(), l->recipe.tweaks.end(),
                [](const LetterTweak& a, const LetterTweak& b) { return a.id < b.id; });
    }
  });
}

} // namespace frelm
