#include "document/edits.h"

#include "document/measure.h"
#include "lettering/seat.h"
#include "lettering/set_text.h"

#include <algorithm>
#include <map>
#include <set>

namespace frelm {
namespace {

void move_circle(CircleGuide& c, Vec by) {
  c.centre += by;
}

void move_piece(Piece& piece, Vec by) {
  if (Lettering* l = piece.lettering()) {
    l->placement.at += by;
    if (l->recipe.bend.guide.own)
      move_circle(*l->recipe.bend.guide.own, by);
  } else if (Guide* g = piece.guide()) {
    move_circle(g->circle, by);
  } else if (OutlinePiece* o = piece.outline()) {
    const Affine m = Affine::translation(by);
    o->outline = std::make_shared<const Outline>(o->outline->transformed(m));
    o->moved = m * o->moved;
  }
}

void scale_circle(CircleGuide& c, Point about, double k) {
  c.centre = Affine::scaling_about(about, k, k)(c.centre);
  c.radius *= k;
}

void scale_recipe(Recipe& recipe, double k, GuideScaling guide) {
  if (Letters* l = recipe.letters())
    l->size *= k;
  recipe.spacing.letter *= k;
  recipe.spacing.word *= k;
  recipe.bend.offset *= k;
  if (guide == GuideScaling::Kept)
    return;
  recipe.bend.guide.distance *= k;
  if (recipe.bend.arc.by != ArcBy::Sweep)
    recipe.bend.arc.value *= k;
}

bool rides_on_piece(const Document& document, const Piece& piece) {
  const Lettering* l = piece.lettering();
  if (l == nullptr || l->recipe.bend.kind != BendKind::Guide)
    return false;
  const Piece* guide = document.find(l->recipe.bend.guide.guide);
  return guide != nullptr && guide->guide() != nullptr;
}

} // namespace

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
  const std::set<PieceId> gone(ids.begin(), ids.end());
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->guide() == nullptr)
      continue;
    const Piece guide = *piece;
    bool carried = false;
    for (const PieceId rider : riders_of(document, id)) {
      if (gone.contains(rider))
        continue;
      document = edit_piece(std::move(document), rider,
                            [&](Piece& p) { p.lettering()->recipe.bend.guide.own = guide.guide()->circle; });
      out.riders.push_back(rider);
      carried = true;
    }
    if (carried)
      out.guides.push_back(guide);
  }
  std::erase_if(document.pieces, [&](const auto& p) { return gone.contains(p->id); });
  out.document = std::move(document);
  return out;
}

Document bring_back_guide(Document document, const Piece& guide) {
  if (document.find(guide.id) == nullptr)
    document.pieces.insert(document.pieces.begin(), std::make_shared<const Piece>(guide));
  for (const PieceId rider : riders_of(document, guide.id))
    document = edit_piece(std::move(document), rider, [](Piece& p) { p.lettering()->recipe.bend.guide.own.reset(); });
  return document;
}

Document straighten(Document document, const std::vector<PieceId>& ids,
                    const std::function<Point(PieceId)>& ink_centre) {
  for (const PieceId id : ids) {
    const Point centre = ink_centre(id);
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (Lettering* l = p.lettering()) {
        l->recipe.bend.kind = BendKind::Straight;
        l->recipe.bend.guide.own.reset();
        const Letters* letters = l->recipe.letters();
        l->placement = {{centre.x, centre.y + (letters != nullptr ? letters->size / 2 : 0)}, 0};
      }
    });
  }
  return document;
}

Duplicated duplicate_pieces(Document document, const std::vector<PieceId>& ids, Vec by) {
  Duplicated out;
  std::map<PieceId, PieceId> copies;
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr)
      continue;
    Piece copy = *piece;
    if (Letters* letters = copy.lettering() != nullptr ? copy.lettering()->recipe.letters() : nullptr)
      for (TypedChar& c : letters->text)
        c.id = document.next_id++;
    move_piece(copy, by);
    Added added = add_piece(std::move(document), std::move(copy));
    document = std::move(added.document);
    copies[id] = added.id;
    out.ids.push_back(added.id);
  }
  for (const PieceId id : out.ids)
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (Lettering* l = p.lettering())
        if (const auto it = copies.find(l->recipe.bend.guide.guide); it != copies.end())
          l->recipe.bend.guide.guide = it->second;
    });
  out.document = std::move(document);
  return out;
}

Document move_pieces(Document document, const std::vector<PieceId>& ids, Vec by) {
  std::set<PieceId> moving;
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->locked)
      continue;
    moving.insert(rides_on_piece(document, *piece) ? piece->lettering()->recipe.bend.guide.guide : id);
  }
  for (const PieceId id : moving)
    if (const Piece* piece = document.find(id); piece != nullptr && !piece->locked)
      document = edit_piece(std::move(document), id, [&](Piece& p) { move_piece(p, by); });
  return document;
}

Document scale_piece(Document document, PieceId id, Point about, double k, GuideScaling scaling) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked || !(k > 0) || !std::isfinite(k))
    return document;
  const Affine m = Affine::scaling_about(about, k, k);
  const bool with_guide = rides_on_piece(document, *piece) && scaling == GuideScaling::Along;
  const PieceId guide = with_guide ? piece->lettering()->recipe.bend.guide.guide : 0;
  if (with_guide && !document.find(guide)->locked)
    document = edit_piece(std::move(document), guide, [&](Piece& p) { scale_circle(p.guide()->circle, about, k); });
  return edit_piece(std::move(document), id, [&](Piece& p) {
    if (Lettering* l = p.lettering()) {
      if (auto* drawn = std::get_if<OutlineSource>(&l->recipe.source); drawn != nullptr && drawn->outline != nullptr)
        drawn->outline = std::make_shared<const Outline>(drawn->outline->transformed(m));
      scale_recipe(l->recipe, k, scaling);
      if (scaling == GuideScaling::Along) {
        l->placement.at = m(l->placement.at);
        if (l->recipe.bend.guide.own)
          scale_circle(*l->recipe.bend.guide.own, about, k);
      }
    } else if (Guide* g = p.guide()) {
      scale_circle(g->circle, about, k);
    } else if (OutlinePiece* o = p.outline()) {
      o->outline = std::make_shared<const Outline>(o->outline->transformed(m));
      o->moved = m * o->moved;
    }
  });
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

Piece new_circle(Point centre, double radius) {
  Piece piece;
  piece.colour = {0x0f, 0x6e, 0x73};
  piece.destination = Destination::Guide;
  piece.content = Guide{{centre, radius, 0}};
  return piece;
}

std::string display_name(const Piece& piece, Unit unit) {
  if (!piece.name.empty())
    return piece.name;
  if (const Guide* guide = piece.guide())
    return "Circle r " + format_length(guide->circle.radius, unit);
  if (const Lettering* l = piece.lettering()) {
    if (const Letters* letters = l->recipe.letters()) {
      std::u32string text = cased(plain_text(letters->text), letters->capitals);
      std::replace(text.begin(), text.end(), U'\n', U' ');
      const std::string out = to_utf8(text);
      return out.find_first_not_of(' ') == std::string::npos ? "Empty lettering" : out;
    }
    return "Made from pieces";
  }
  return "Outline";
}

} // namespace frelm
