// A copy is made anew as the changed piece under the map from its pose to the copy's own; what it names is named in the
// copy's own company: the pieces that were copied together.
#include "document/links.h"

#include "document/arrange.h"
#include "document/edits.h"
#include "document/guides.h"
#include "document/references.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>
#include <unordered_map>

namespace frelm {
namespace {

using Place = std::pair<std::uint64_t, std::uint64_t>; // of a thing in a company: Link::of, Link::copy

struct Copies {
  std::map<std::uint64_t, std::vector<PieceId>> of; // by the thing, in drawing order
  std::map<Place, PieceId> at;
};
Copies copies_in(const Document& document) {
  Copies out;
  for (const auto& p : document.pieces)
    if (p->link) {
      out.of[p->link->of].push_back(p->id);
      out.at.emplace(Place{p->link->of, p->link->copy}, p->id);
    }
  return out;
}

bool any_link(const Document& document) {
  return std::any_of(document.pieces.begin(), document.pieces.end(), [](const auto& p) { return p->link.has_value(); });
}

Document without_link(Document document, PieceId id) {
  return edit_piece(std::move(document), id, [](Piece& p) { p.link.reset(); });
}

bool only_shifts(const Affine& m) {
  constexpr double rounding = 1e-12;
  return std::abs(m.a - 1) < rounding && std::abs(m.b) < rounding && std::abs(m.c) < rounding &&
         std::abs(m.d - 1) < rounding;
}

// How far a guide was moved by its typed centre, where that is all that changed.
std::optional<Vec> shifted(const Piece& was, const Piece& now) {
  const Guide *before = was.guide(), *after = now.guide();
  if (before == nullptr || after == nullptr)
    return std::nullopt;
  const Vec by = shape_centre(after->shape) - shape_centre(before->shape);
  return by != Vec{} && transformed(before->shape, Similarity::move(by)) == after->shape ? std::optional(by)
                                                                                         : std::nullopt;
}

// Letters that stand by their placement, before and now, keep it as their own, also where it was typed.
bool placed_anew(const Piece& was, const Piece& now) {
  const Lettering *before = was.lettering(), *after = now.lettering();
  return before != nullptr && after != nullptr && before->placement != after->placement &&
         !before->recipe.bend.placed_by_guides() && !after->recipe.bend.placed_by_guides();
}

Affine frame_of(const Placement& p) {
  return Affine::translation(p.at) * Affine::rotation(radians(p.angle));
}

bool same_recipe(const Recipe& was, const Recipe& now) {
  Recipe as_now = was; // private copies of guides move with their rider
  const std::vector<GuideRef*> refs = as_now.bend.remembered();
  const std::vector<const GuideRef*> own = now.bend.remembered();
  for (std::size_t i = 0; i < refs.size(); ++i)
    refs[i]->own = own[i]->own;
  return as_now == now;
}

// Did more change than where it stands, how it is turned and how large it is?
bool thing_changed(const Piece& was, const Piece& now) {
  if (was.colour != now.colour || was.destination != now.destination)
    return true;
  const Affine by = now.link->pose * was.link->pose.inverse();
  const bool stays = now.link->pose == was.link->pose, shifts = only_shifts(by);
  if (const Lettering* before = was.lettering(), *after = now.lettering(); before != nullptr) {
    const Letters *text = before->recipe.letters(), *letters = after->recipe.letters();
    return before->line_colours != after->line_colours ||
           (shifts ? !same_recipe(before->recipe, after->recipe)
                   : text != nullptr && letters != nullptr && text->text != letters->text);
  }
  if (const Guide* before = was.guide(), *after = now.guide(); before != nullptr)
    return before->finish != after->finish || (stays && before->shape != after->shape);
  const OutlinePiece &before = *was.outline(), &after = *now.outline();
  return before.finish != after.finish || (stays && !same_value(before.outline, after.outline)) ||
         before.outline->node_count() != after.outline->node_count();
}

class Remaker {
public:
  Remaker(Document document, Copies copies) : document_(std::move(document)), copies_(std::move(copies)) { look_up(); }

  Document take() { return std::move(document_); }

  // The copy as its changed sister is, under its own pose. No: what it would be made from is not in its company.
  bool remake(PieceId changed, PieceId copy) {
    const Piece from = *at(changed), was = *at(copy);
    const Affine by = was.link->pose * from.link->pose.inverse();
    Piece made = from;
    made.link = was.link;
    pose_piece(made, by);
    made.link = was.link;
    made.id = was.id, made.name = was.name, made.locked = was.locked, made.visible = was.visible;
    made.group = was.group;
    if (OutlinePiece* o = made.outline()) {
      const OutlinePiece& before = *was.outline();
      o->origin = before.origin, o->moved = before.moved;
      o->reshaped = before.origin != nullptr && (before.reshaped || !same_value(before.outline, o->outline));
    }
    if (!name_in_company(made, from, was, by))
      return false;
    document_.pieces[places_.at(copy)] = std::make_shared<const Piece>(std::move(made));
    return true;
  }

private:
  // Thousands of copies are asked for by their ids.
  void look_up() {
    places_.clear();
    for (std::size_t i = 0; i < document_.pieces.size(); ++i)
      places_[document_.pieces[i]->id] = i;
  }
  const Piece* at(PieceId id) const {
    const auto it = places_.find(id);
    return it != places_.end() ? document_.pieces[it->second].get() : nullptr;
  }

  PieceId sister(PieceId of, const Link& from, const Link& to) const {
    const Piece* piece = at(of);
    if (piece == nullptr || !piece->link || piece->link->copy != from.copy)
      return 0;
    const auto it = copies_.at.find({piece->link->of, to.copy});
    return it != copies_.at.end() ? it->second : 0;
  }

  bool name_in_company(Piece& made, const Piece& from, const Piece& was, const Affine& by) {
    if (made.guide() != nullptr) {
      bool all = true;
      for_each_reference(made.content, [&](PieceId& id) {
        id = sister(id, *from.link, *was.link);
        all = all && id != 0;
      });
      return all;
    }
    Lettering* l = made.lettering();
    if (l == nullptr)
      return true;
    if (auto* sources = std::get_if<PiecesSource>(&l->recipe.source))
      for (PieceId& id : sources->pieces)
        if ((id = sister(id, *from.link, *was.link)) == 0)
          return false;
    std::vector<GuideRef*> refs = l->recipe.bend.remembered();
    const std::vector<const GuideRef*> old = was.lettering()->recipe.bend.remembered();
    for (std::size_t i = 0; i < refs.size(); ++i) {
      if (refs[i]->guide == 0)
        continue;
      const PieceId mine = sister(refs[i]->guide, *from.link, *was.link);
      if (mine != 0) {
        refs[i]->guide = mine;
      } else if (const PieceId made_now = old[i]->own ? 0 : copied_guide(refs[i]->guide, *from.link, *was.link, by);
                 made_now != 0) {
        refs[i]->guide = made_now;
      } else if (old[i]->guide != 0 || old[i]->own) { // its own stays
        refs[i]->guide = old[i]->guide, refs[i]->own = old[i]->own;
      } else if (const Result<GuideShape> shape = own_shape(document_, refs[i]->guide); shape && !refs[i]->own) {
        Piece private_copy;
        private_copy.content = Guide{*shape, Finish{{}}};
        pose_piece(private_copy, by);
        refs[i]->own = private_copy.guide()->shape;
      }
    }
    return true;
  }

  // A guide that was not copied yet, with its shape, in the copy's company. 0: there is none, or can be none.
  PieceId copied_guide(PieceId id, const Link& from, const Link& to, const Affine& by) {
    const Piece* guide = at(id);
    if (guide == nullptr || guide->guide() == nullptr || (guide->link && guide->link->copy != from.copy))
      return 0;
    bool follows = false; // another piece, which would have to be copied first
    Piece copy = *guide;
    for_each_reference(copy.content, [&](PieceId&) { follows = true; });
    if (follows)
      return 0;
    if (!copy.link) {
      copy.link = Link{document_.next_id++, from.copy, {}};
      document_ = edit_piece(std::move(document_), id, [&](Piece& p) { p.link = copy.link; });
    }
    const Link link = *copy.link;
    pose_piece(copy, by);
    copy.link->copy = to.copy;
    copy.group = 0;
    Added added = add_piece(std::move(document_), std::move(copy));
    document_ = stacked_on(std::move(added.document), {added.id}, id);
    look_up();
    copies_.at[{link.of, from.copy}] = id;
    copies_.at[{link.of, to.copy}] = added.id;
    return added.id;
  }

  Document document_;
  Copies copies_;
  std::unordered_map<PieceId, std::size_t> places_; // among the document's pieces
};

} // namespace

Document followed_links(const Document& before, Document after) {
  if (!any_link(after))
    return after;
  std::unordered_map<PieceId, const Piece*> old;
  for (const auto& p : before.pieces)
    old[p->id] = p.get();
  const auto before_of = [&](PieceId id) -> const Piece* {
    const auto it = old.find(id);
    return it != old.end() ? it->second : nullptr;
  };
  std::set<Place> taken;
  std::vector<PieceId> free;
  std::map<PieceId, Affine> moved; // by what was typed: no change of the thing
  for (const auto& p : after.pieces) {
    if (!p->link)
      continue;
    const Piece* was = before_of(p->id);
    const bool same = was != nullptr && was->link && was->link->of == p->link->of && was->link->copy == p->link->copy;
    if (!taken.insert({p->link->of, p->link->copy}).second || (same && was->content.index() != p->content.index())) {
      free.push_back(p->id);
    } else if (same && was != p.get() && was->link->pose == p->link->pose) {
      if (const auto by = shifted(*was, *p))
        moved[p->id] = Affine::translation(*by);
      else if (placed_anew(*was, *p))
        moved[p->id] = frame_of(p->lettering()->placement) * frame_of(was->lettering()->placement).inverse();
    }
  }
  for (const PieceId id : free)
    after = without_link(std::move(after), id);
  for (const auto& [id, by] : moved)
    after = edit_piece(std::move(after), id, [&, m = by](Piece& p) { p.link->pose = m * p.link->pose; });
  if (!moved.empty()) // what rides on a guide goes with it
    for (std::shared_ptr<const Piece>& p : after.pieces)
      if (const Lettering* l = p->lettering(); l != nullptr && p->link && l->recipe.bend.rides())
        if (const auto it = moved.find(l->recipe.bend.guide.guide); it != moved.end()) {
          Piece along = *p;
          pose_piece(along, it->second);
          p = std::make_shared<const Piece>(std::move(along));
        }

  const Copies copies = copies_in(after);
  std::vector<std::pair<PieceId, PieceId>> anew; // from, to; guides and sources before what follows them
  std::vector<PieceId> order;
  for (const auto& p : after.pieces)
    if (const Piece* was = before_of(p->id); p->link && was != nullptr && was != p.get() && was->link &&
                                             was->link->of == p->link->of && thing_changed(*was, *p))
      order.push_back(p->id);
  std::stable_sort(order.begin(), order.end(), [&](PieceId a, PieceId b) {
    return (after.find(a)->lettering() == nullptr) > (after.find(b)->lettering() == nullptr);
  });
  std::set<std::uint64_t> done;
  for (const PieceId id : order)
    if (const std::uint64_t of = after.find(id)->link->of; done.insert(of).second)
      for (const PieceId copy : copies.of.at(of))
        if (copy != id)
          anew.emplace_back(id, copy);
  Remaker remaker(std::move(after), copies);
  free.clear();
  for (const auto& [from, to] : anew)
    if (!remaker.remake(from, to))
      free.push_back(to);
  after = remaker.take();
  for (const PieceId id : free)
    after = without_link(std::move(after), id);
  for (const auto& [of, ids] : copies_in(after).of)
    if (ids.size() == 1)
      after = without_link(std::move(after), ids[0]);
  return after;
}

Document with_links(Document document, const std::vector<PieceId>& ids) {
  std::uint64_t company = 0;
  for (const PieceId id : ids)
    if (const Piece* piece = document.find(id); piece != nullptr && !piece->link) {
      if (company == 0)
        company = document.next_id++;
      const std::uint64_t of = document.next_id++;
      document = edit_piece(std::move(document), id, [&](Piece& p) { p.link = Link{of, company, {}}; });
    }
  return document;
}

Document freed_links(Document document, const std::vector<PieceId>& ids) {
  std::set<PieceId> free;
  std::vector<PieceId> look = ids;
  while (!look.empty()) {
    const PieceId id = look.back();
    look.pop_back();
    const Piece* piece = document.find(id);
    if (piece == nullptr || !free.insert(id).second)
      continue;
    Piece named = *piece;
    for_each_reference(named.content, [&](PieceId& other) {
      const Piece* along = document.find(other);
      if (along != nullptr && along->link && piece->link && along->link->copy == piece->link->copy)
        look.push_back(other);
    });
  }
  for (const PieceId id : free)
    if (document.find(id)->link)
      document = without_link(std::move(document), id);
  for (const auto& [of, left] : copies_in(document).of)
    if (left.size() == 1)
      document = without_link(std::move(document), left[0]);
  return document;
}

std::vector<PieceId> linked_with(const Document& document, const std::vector<PieceId>& ids) {
  std::set<std::uint64_t> things;
  for (const PieceId id : ids)
    if (const Piece* piece = document.find(id); piece != nullptr && piece->link)
      things.insert(piece->link->of);
  std::vector<PieceId> out;
  for (const auto& p : document.pieces)
    if ((p->link && things.contains(p->link->of)) || std::find(ids.begin(), ids.end(), p->id) != ids.end())
      out.push_back(p->id);
  return out;
}

std::size_t copies_of(const Document& document, const Piece& piece) {
  if (!piece.link)
    return 1;
  return static_cast<std::size_t>(std::count_if(document.pieces.begin(), document.pieces.end(), [&](const auto& p) {
    return p->link && p->link->of == piece.link->of;
  }));
}

} // namespace frelm
