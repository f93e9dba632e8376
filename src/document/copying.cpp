// What the pieces need is gathered first, then named anew by one table of ids, old to new, for pieces, letters and
// releases alike.
#include "document/copying.h"
#include "document/arrange.h"

#include "document/edits.h"
#include "document/following.h"
#include "document/references.h"

#include <algorithm>
#include <map>
#include <set>

namespace frelm {
namespace {

class Inserter {
public:
  Inserter(Document& document, const Document& part, CopyInto into, CopyLinks links)
      : document_(document), into_(into), links_(links), groups_(add_groups(document, part, into)) {
    for (const auto& p : part.pieces)
      ids_[p->id] = document_.next_id++;
  }

  PieceId id(PieceId old) const { return ids_.at(old); }

  void renew(Piece& piece) {
    piece.group = group(piece.group);
    renew_link(piece);
    rename(piece.content, ids_);
    if (Lettering* l = piece.lettering())
      renew_letter_ids(l->recipe, document_.next_id);
    if (OutlinePiece* o = piece.outline(); o != nullptr && o->origin != nullptr)
      o->origin = renewed(o->origin);
  }

private:
  GroupId group(GroupId old) const {
    const auto it = groups_.find(old);
    return it != groups_.end() ? it->second : 0;
  }

  using Ids = std::map<PieceId, PieceId>;

  void renew_link(Piece& piece) {
    if (links_ == CopyLinks::Freed || into_ == CopyInto::OtherJob)
      piece.link.reset();
    if (!piece.link)
      return;
    std::uint64_t& company = companies_[piece.link->copy];
    if (company == 0)
      company = document_.next_id++;
    piece.link->copy = company;
  }

  void rename(decltype(Piece::content)& content, const Ids& ids) const {
    for_each_reference(content, [&](PieceId& named) {
      if (const auto it = ids.find(named); it != ids.end())
        named = it->second;
      else if (into_ == CopyInto::OtherJob)
        named = 0;
    });
  }

  // One for all the pieces of a release.
  std::shared_ptr<const Origin> renewed(const std::shared_ptr<const Origin>& was) {
    std::shared_ptr<const Origin>& known = origins_[was->release];
    if (known != nullptr)
      return known;
    Origin origin = *was;
    origin.release = document_.next_id++;
    Ids ids = ids_;
    ids[origin.lettering.id] = document_.next_id++;
    for (const Piece& p : origin.along)
      ids[p.id] = document_.next_id++;
    const auto renew_inside = [&](Piece& p) {
      p.link.reset();
      p.id = ids.at(p.id);
      p.group = group(p.group);
      rename(p.content, ids);
      if (Lettering* l = p.lettering())
        renew_letter_ids(l->recipe, document_.next_id);
    };
    renew_inside(origin.lettering);
    for (Piece& p : origin.along)
      renew_inside(p);
    return known = std::make_shared<const Origin>(std::move(origin));
  }

  Document& document_;
  CopyInto into_;
  CopyLinks links_;
  std::map<std::uint64_t, std::uint64_t> companies_; // of linked copies, old to new
  GroupIds groups_;
  Ids ids_;
  std::map<std::uint64_t, std::shared_ptr<const Origin>> origins_; // by the release they had
};

// What either job carries; of a face that both carry, all its letters.
std::shared_ptr<const std::vector<CarriedShapes>> both(const std::shared_ptr<const std::vector<CarriedShapes>>& a,
                                                       const std::shared_ptr<const std::vector<CarriedShapes>>& b) {
  if (a == nullptr || b == nullptr || a == b)
    return a != nullptr ? a : b;
  auto out = std::make_shared<std::vector<CarriedShapes>>(*a);
  for (const CarriedShapes& more : *b) {
    const auto had = std::find_if(out->begin(), out->end(), [&](const auto& s) { return s.name == more.name; });
    if (had == out->end()) {
      out->push_back(more);
      continue;
    }
    had->glyphs.insert(more.glyphs.begin(), more.glyphs.end());
    had->characters.insert(more.characters.begin(), more.characters.end());
    for (const CarriedShapes::Line& line : more.lines)
      if (std::find(had->lines.begin(), had->lines.end(), line) == had->lines.end())
        had->lines.push_back(line);
  }
  return out;
}

} // namespace

Document sub_document(const Document& document, const std::vector<PieceId>& ids, CopyGuides guides) {
  std::set<PieceId> wanted;
  std::vector<PieceId> look = ids;
  while (!look.empty()) {
    const Piece* piece = document.find(look.back());
    look.pop_back();
    if (piece == nullptr || !wanted.insert(piece->id).second)
      continue;
    for (const PieceId source : sources_of(document, piece->id))
      look.push_back(source);
    if (const Lettering* l = piece->lettering(); l != nullptr && guides == CopyGuides::Along)
      for (const GuideRef* ref : l->recipe.bend.followed())
        if (const Piece* guide = document.find(ref->guide); guide != nullptr && guide->guide() != nullptr)
          look.push_back(guide->id);
  }
  Document part = document;
  std::erase_if(part.pieces, [&](const auto& p) { return !wanted.contains(p->id); });
  part = without_idle_groups(std::move(part));
  return guides == CopyGuides::Along ? detached(document, std::move(part)) : part;
}

Inserted insert_part(Document document, const Document& part, CopyInto into, Vec by, CopyLinks links) {
  Inserted out;
  std::set<PieceId> sources; // they stand in their block's own frame
  for (const auto& p : part.pieces)
    for (const PieceId source : sources_of(part, p->id))
      sources.insert(source);
  Inserter inserter(document, part, into, links);
  for (const auto& p : part.pieces) {
    Piece copy = *p;
    copy.id = inserter.id(p->id);
    inserter.renew(copy);
    if (!sources.contains(p->id))
      move_piece(copy, by);
    out.ids.push_back(copy.id);
    document.pieces.push_back(std::make_shared<const Piece>(std::move(copy)));
  }
  document.carried = both(document.carried, part.carried);
  out.document = std::move(document);
  return out;
}

Inserted duplicate_pieces(const Document& document, const std::vector<PieceId>& ids, Vec by) {
  return insert_part(document, sub_document(document, ids, CopyGuides::Stay), CopyInto::SameJob, by);
}

} // namespace frelm
