#include "document/following.h"

#include "document/edits.h"
#include "document/marks.h"
#include "document/piece_groups.h"
#include "document/references.h"

#include <algorithm>
#include <map>
#include <set>

namespace frelm {
namespace {

// Can this shape still be followed, whether or not the circles of a midway lie well just now?
bool follows(const Document& document, const GuideShape& shape) {
  if (const auto* between = std::get_if<MidwayGuide>(&shape)) {
    const Piece *a = document.find(between->first), *b = document.find(between->second);
    return a != nullptr && b != nullptr && circle_of(*a) && circle_of(*b);
  }
  if (const auto* edge = std::get_if<OutlineGuide>(&shape))
    return follow_outline(document, *edge).ok();
  return true;
}

bool follows(const Document& document, const GuideRef& ref) {
  return ref.guide == 0 || ref.own || guide_piece(document, ref) != nullptr;
}

GuideShape one_circle(const Document& document, const MidwayGuide& between) {
  for (const PieceId id : {between.first, between.second})
    if (const Piece* p = document.find(id); p != nullptr)
      if (const auto circle = circle_of(*p))
        return *circle;
  return CircleGuide{};
}

// A recipe's guides and a guide's shape made its own where they are not to be had in `after`. Nothing: all is well.
std::optional<Piece> freed(const Document& before, const Document& after, const Piece& piece,
                           const std::vector<Piece>& along = {}) {
  const auto there = [&](PieceId id) {
    return std::any_of(along.begin(), along.end(), [&](const Piece& p) { return p.id == id; });
  };
  if (const Guide* g = piece.guide(); g != nullptr && !follows(after, g->shape)) {
    Piece out = piece;
    if (const Result<GuideShape> own = own_shape(before, g->shape); own)
      out.guide()->shape = *own;
    else if (const auto* between = std::get_if<MidwayGuide>(&g->shape)) // circles apart: the one that is left
      out.guide()->shape = one_circle(before, *between);
    else
      return std::nullopt;
    return out;
  }
  const Lettering* l = piece.lettering();
  if (l == nullptr)
    return std::nullopt;
  Piece out = piece;
  bool changed = false;
  for (GuideRef* ref : out.lettering()->recipe.bend.remembered())
    if (!follows(after, *ref) && !there(ref->guide)) {
      if (const Result<GuideShape> own = own_shape(before, ref->guide); own)
        ref->own = *own;
      else
        ref->guide = 0; // it could not be followed before either
      changed = true;
    }
  return changed ? std::optional(std::move(out)) : std::nullopt;
}

// Hidden copies of sources that are gone; they may follow something themselves.
bool copy_missing_sources(const Document& before, Document& after) {
  std::map<PieceId, PieceId> copies;
  for (std::size_t i = 0; i < after.pieces.size(); ++i) {
    const Lettering* l = after.pieces[i]->lettering();
    const auto* made_from = l != nullptr ? std::get_if<PiecesSource>(&l->recipe.source) : nullptr;
    if (made_from == nullptr)
      continue;
    PiecesSource sources = *made_from;
    for (PieceId& id : sources.pieces) {
      const Piece* was = before.find(id);
      if (after.find(id) != nullptr || was == nullptr)
        continue;
      if (!copies.contains(id)) {
        Piece copy = *was;
        copy.visible = false;
        Added added = add_piece(std::move(after), std::move(copy));
        after = std::move(added.document);
        copies[id] = added.id;
      }
      id = copies[id];
    }
    if (const PieceId block = after.pieces[i]->id; sources != *made_from)
      after = edit_piece(std::move(after), block, [&](Piece& p) { p.lettering()->recipe.source = std::move(sources); });
  }
  return !copies.empty();
}

// What a block that was put aside is made from goes with it when it leaves the document.
bool take_along_sources(const Document& before, const Document& after, Origin& origin) {
  std::vector<PieceId> look;
  const auto made_from = [&](const Piece& p) {
    if (const Lettering* l = p.lettering())
      if (const auto* sources = std::get_if<PiecesSource>(&l->recipe.source))
        look.insert(look.end(), sources->pieces.begin(), sources->pieces.end());
  };
  made_from(origin.lettering);
  for (const Piece& p : origin.along)
    made_from(p);
  bool changed = false;
  while (!look.empty()) {
    const PieceId id = look.back();
    look.pop_back();
    const Piece* was = before.find(id);
    const bool has = std::any_of(origin.along.begin(), origin.along.end(), [&](const Piece& p) { return p.id == id; });
    if (has || was == nullptr || after.find(id) != nullptr)
      continue;
    origin.along.insert(origin.along.begin(), *was);
    origin.along.front().visible = false;
    made_from(*was);
    changed = true;
  }
  return changed;
}

// What releases put aside; the pieces of one release go on sharing it.
void free_origins(const Document& before, Document& after) {
  std::map<const Origin*, std::shared_ptr<const Origin>> renewed;
  for (std::size_t i = 0; i < after.pieces.size(); ++i) {
    const OutlinePiece* o = after.pieces[i]->outline();
    if (o == nullptr || o->origin == nullptr)
      continue;
    const Origin* was = o->origin.get();
    if (renewed.try_emplace(was, o->origin).second) {
      Origin origin = *o->origin;
      bool changed = take_along_sources(before, after, origin);
      const auto free = [&](Piece& p) {
        if (std::optional<Piece> own = freed(before, after, p, origin.along))
          p = std::move(*own), changed = true;
      };
      free(origin.lettering);
      for (Piece& p : origin.along)
        free(p);
      if (changed)
        renewed[was] = std::make_shared<const Origin>(std::move(origin));
    }
    if (const PieceId id = after.pieces[i]->id; renewed.at(was) != o->origin)
      after = edit_piece(std::move(after), id, [&](Piece& p) { p.outline()->origin = renewed.at(was); });
  }
}

} // namespace

Document detached(const Document& before, Document after) {
  while (copy_missing_sources(before, after))
    ;
  for (std::size_t i = 0; i < after.pieces.size(); ++i)
    if (std::optional<Piece> own = freed(before, after, *after.pieces[i]))
      after.pieces[i] = std::make_shared<const Piece>(std::move(*own));
  free_origins(before, after);
  std::erase_if(after.set_aside, [&](const SetAside& s) { return s.piece != 0 && after.find(s.piece) == nullptr; });
  std::erase_if(after.order_by_hand, [&](const CutTurn& t) { return after.find(t.piece) == nullptr; });
  const auto gone = [&](PieceId id) { return after.find(id) == nullptr; };
  const auto rule_lost = [&](const NameRule& r) { return gone(r.piece); };
  const auto hand_lost = [&](const NameByHand& h) { return gone(h.piece) || gone(h.by); };
  if (const NameList* names = after.names.get();
      names != nullptr && (std::any_of(names->rules.begin(), names->rules.end(), rule_lost) ||
                           std::any_of(names->by_hand.begin(), names->by_hand.end(), hand_lost))) {
    NameList kept = *names;
    std::erase_if(kept.rules, rule_lost);
    std::erase_if(kept.by_hand, hand_lost);
    after.names = std::make_shared<const NameList>(std::move(kept));
  }
  return without_lost_marks(without_idle_groups(std::move(after)));
}

std::vector<PieceId> sources_only_of(const Document& document, const std::vector<PieceId>& ids) {
  std::set<PieceId> going(ids.begin(), ids.end());
  std::vector<PieceId> out, look = ids;
  while (!look.empty()) {
    const PieceId block = look.back();
    look.pop_back();
    for (const PieceId source : sources_of(document, block)) {
      const Piece* piece = document.find(source);
      if (piece == nullptr || piece->visible || going.contains(source))
        continue;
      const bool used = std::any_of(document.pieces.begin(), document.pieces.end(), [&](const auto& p) {
        const std::vector<PieceId> made_from = sources_of(document, p->id);
        return !going.contains(p->id) && std::find(made_from.begin(), made_from.end(), source) != made_from.end();
      });
      if (used)
        continue;
      going.insert(source);
      out.push_back(source);
      look.push_back(source);
    }
  }
  return out;
}

} // namespace frelm
