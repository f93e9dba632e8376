// Groups are a table of parents; what is in one is found by climbing from each piece, with a bound on the depth, so
// that no table, however wrong, leads in a circle.
#include "document/piece_groups.h"

#include <algorithm>

namespace frelm {
namespace {

bool reached(const Piece& p) {
  return p.visible && !p.locked;
}

// For each group its members, and for each piece its groups from the inside out, made once for one question.
class Tree {
public:
  explicit Tree(const Document& document) {
    for (const PieceGroup& g : document.groups)
      inside_[g.id] = g.inside;
  }
  std::vector<GroupId> around(GroupId group) const {
    std::vector<GroupId> out;
    for (auto it = inside_.find(group); it != inside_.end() && out.size() <= inside_.size();
         it = inside_.find(it->second))
      out.push_back(it->first);
    return out;
  }
  bool holds(GroupId outer, GroupId group) const {
    const std::vector<GroupId> all = around(group);
    return outer == 0 || std::find(all.begin(), all.end(), outer) != all.end();
  }
  // How many of these stand in each group, and how many of them a hand can reach.
  struct Count {
    std::size_t reached = 0, all = 0;
  };
  using Counts = std::map<GroupId, Count>;
  void count(const Piece& p, Counts& out) const {
    if (p.group != 0)
      for (const GroupId g : around(p.group))
        ++out[g].all, out[g].reached += reached(p) ? 1 : 0;
  }
  // What counts of a group is what can be reached; of one in which nothing can, all.
  static bool whole(const Count& here, const Count& of) {
    return of.reached > 0 ? here.reached == of.reached : here.all == of.all;
  }

private:
  std::map<GroupId, GroupId> inside_;
};

GroupId group_of_piece(const Document& document, PieceId id) {
  const Piece* p = document.find(id);
  return p != nullptr ? p->group : 0;
}

// The innermost group that holds all of them.
GroupId common_group(const Document& document, const std::vector<PieceId>& ids) {
  const Tree tree(document);
  std::vector<GroupId> common;
  for (std::size_t i = 0; i < ids.size(); ++i) {
    const std::vector<GroupId> here = tree.around(group_of_piece(document, ids[i]));
    if (i == 0)
      common = here;
    else
      std::erase_if(common, [&](GroupId g) { return std::find(here.begin(), here.end(), g) == here.end(); });
  }
  return common.empty() ? 0 : common.front();
}

// Units among `ids`: the outermost groups inside `within` that are whole.
std::vector<PieceUnit> units_within(const Document& document, const std::vector<PieceId>& ids, GroupId within) {
  const Tree tree(document);
  Tree::Counts all, here;
  for (const auto& p : document.pieces)
    tree.count(*p, all);
  for (const PieceId id : ids)
    if (const Piece* p = document.find(id); p != nullptr)
      tree.count(*p, here);
  std::vector<PieceUnit> out;
  std::map<GroupId, std::size_t> place;
  std::vector<std::pair<std::size_t, PieceUnit>> units;
  for (std::size_t i = 0; i < ids.size(); ++i) {
    GroupId group = 0;
    for (const GroupId g : tree.around(group_of_piece(document, ids[i]))) {
      if (g == within)
        break;
      if (Tree::whole(here[g], all[g]))
        group = g;
    }
    const auto known = place.find(group);
    if (group != 0 && known != place.end()) {
      units[known->second].first = i;
      units[known->second].second.pieces.push_back(ids[i]);
      continue;
    }
    place[group] = units.size();
    units.push_back({i, {group, {ids[i]}}});
  }
  std::stable_sort(units.begin(), units.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  for (auto& [at, unit] : units)
    out.push_back(std::move(unit));
  return out;
}

Document with_inside(Document document, const PieceUnit& unit, GroupId group) {
  if (unit.group != 0) {
    for (PieceGroup& g : document.groups)
      if (g.id == unit.group)
        g.inside = group;
    return document;
  }
  for (const PieceId id : unit.pieces)
    if (const std::size_t at = document.index_of(id); at < document.pieces.size()) {
      Piece p = *document.pieces[at];
      p.group = group;
      document.pieces[at] = std::make_shared<const Piece>(std::move(p));
    }
  return document;
}

} // namespace

const PieceGroup* group_of(const Document& document, GroupId id) {
  for (const PieceGroup& g : document.groups)
    if (g.id == id)
      return &g;
  return nullptr;
}

std::vector<GroupId> groups_around(const Document& document, PieceId piece) {
  const GroupId group = group_of_piece(document, piece);
  return group != 0 ? Tree(document).around(group) : std::vector<GroupId>{};
}

std::vector<PieceId> members_of(const Document& document, GroupId group, Members which) {
  const Tree tree(document);
  std::vector<PieceId> out;
  for (const auto& p : document.pieces)
    if (p->group != 0 && (which == Members::All || reached(*p)) && tree.holds(group, p->group))
      out.push_back(p->id);
  return out;
}

std::vector<PieceUnit> units_of(const Document& document, const std::vector<PieceId>& ids) {
  if (document.groups.empty()) {
    std::vector<PieceUnit> out;
    for (const PieceId id : ids)
      out.push_back({0, {id}});
    return out;
  }
  return units_within(document, ids, 0);
}

std::vector<PieceUnit> parts_to_place(const Document& document, const std::vector<PieceId>& ids) {
  std::vector<PieceUnit> out = units_of(document, ids);
  while (out.size() == 1 && out.front().group != 0) {
    std::vector<PieceUnit> parts = units_within(document, ids, out.front().group);
    if (parts.size() == 1 && parts.front().group == out.front().group)
      break;
    out = std::move(parts);
  }
  return out;
}

std::vector<PieceId> by_whole_groups(const Document& document, const std::vector<PieceId>& ids, TornGroups torn) {
  if (document.groups.empty())
    return ids;
  const Tree tree(document);
  const auto outermost = [&](PieceId id) {
    const std::vector<GroupId> around = tree.around(group_of_piece(document, id));
    return around.empty() ? 0 : around.back();
  };
  std::set<GroupId> touched, whole;
  for (const PieceId id : ids)
    touched.insert(outermost(id));
  if (torn == TornGroups::Taken)
    whole = touched;
  else
    for (const PieceUnit& unit : units_within(document, ids, 0))
      whole.insert(unit.group);
  std::vector<PieceId> out;
  for (const PieceId id : ids)
    if (const GroupId g = outermost(id); g == 0)
      out.push_back(id);
  for (const GroupId g : touched)
    if (g != 0 && whole.contains(g))
      for (const PieceId id : members_of(document, g, Members::Reached))
        out.push_back(id);
  return out;
}

GroupId whole_group(const Document& document, const std::vector<PieceId>& ids) {
  if (document.groups.empty())
    return 0;
  const std::vector<PieceUnit> units = units_of(document, ids);
  return units.size() == 1 ? units.front().group : 0;
}

std::vector<PieceId> picked(const Document& document, const std::vector<PieceId>& selection, PieceId hit, Click click) {
  if (document.groups.empty() || group_of_piece(document, hit) == 0)
    return {hit};
  std::vector<std::vector<PieceId>> levels; // from the outermost group to the piece
  for (const GroupId g : groups_around(document, hit))
    levels.insert(levels.begin(), members_of(document, g, Members::Reached));
  levels.push_back({hit});
  const std::set<PieceId> now(selection.begin(), selection.end());
  const auto is_now = [&](const std::vector<PieceId>& level) {
    return now == std::set<PieceId>(level.begin(), level.end());
  };
  const auto inside = [&](const std::vector<PieceId>& level) {
    const std::set<PieceId> all(level.begin(), level.end());
    return !now.empty() && now.size() < all.size() &&
           std::all_of(now.begin(), now.end(), [&](PieceId id) { return all.contains(id); });
  };
  std::size_t at = 0; // one further in than the innermost that the selection stands in
  for (std::size_t i = 0; i + 1 < levels.size(); ++i)
    if (inside(levels[i]))
      at = i + 1;
  while (click == Click::Again && at + 1 < levels.size() && is_now(levels[at]))
    ++at;
  return levels[at];
}

std::vector<PieceId> one_level_out(const Document& document, const std::vector<PieceId>& selection) {
  if (selection.empty() || document.groups.empty())
    return {};
  const GroupId common = common_group(document, selection);
  if (common == 0)
    return {};
  for (const GroupId g : Tree(document).around(common))
    if (std::vector<PieceId> all = members_of(document, g, Members::Reached); all.size() > selection.size())
      return all;
  return {};
}

Result<Grouped> grouped(Document document, const std::vector<PieceId>& ids) {
  std::vector<PieceUnit> units = units_of(document, ids);
  if (units.size() < 2)
    return bad_input(FRELM_WORDS("core", "select two pieces or more to group them"));
  PieceGroup group{document.next_id++, {}, common_group(document, ids)};
  // Whole groups that hold other units' group stay outside: units are whole, so none does.
  document.groups.push_back(group);
  for (const PieceUnit& unit : units)
    document = with_inside(std::move(document), unit, group.id);
  // Together, behind the frontmost.
  const std::vector<PieceId> all = members_of(document, group.id, Members::All);
  const std::set<PieceId> in(all.begin(), all.end());
  std::vector<std::shared_ptr<const Piece>> taken, rest;
  std::size_t at = 0;
  for (const auto& p : document.pieces) {
    const bool member = in.contains(p->id);
    (member ? taken : rest).push_back(p);
    if (member)
      at = rest.size();
  }
  rest.insert(rest.begin() + static_cast<std::ptrdiff_t>(at), taken.begin(), taken.end());
  document.pieces = std::move(rest);
  return Grouped{without_idle_groups(std::move(document)), group.id};
}

Result<Document> ungrouped(Document document, const std::vector<PieceId>& ids) {
  bool any = false;
  for (const PieceUnit& unit : units_of(document, ids)) {
    const PieceGroup* group = unit.group != 0 ? group_of(document, unit.group) : nullptr;
    if (group == nullptr)
      continue;
    any = true;
    const GroupId gone = group->id, outer = group->inside;
    for (PieceGroup& g : document.groups)
      if (g.inside == gone)
        g.inside = outer;
    for (auto& p : document.pieces)
      if (p->group == gone) {
        Piece freed = *p;
        freed.group = outer;
        p = std::make_shared<const Piece>(std::move(freed));
      }
    std::erase_if(document.groups, [&](const PieceGroup& g) { return g.id == gone; });
  }
  if (!any)
    return bad_input(FRELM_WORDS("core", "select a group first"));
  return document;
}

Document put_into(Document document, const std::vector<PieceId>& ids, GroupId group) {
  const Tree tree(document);
  for (PieceUnit unit : units_of(document, ids)) {
    if (unit.pieces.size() == 1)
      unit.group = 0; // the last piece of a group leaves it
    if (unit.group == 0 || !tree.holds(unit.group, group))
      document = with_inside(std::move(document), unit, group);
  }
  return without_idle_groups(std::move(document));
}

Document with_group_name(Document document, GroupId group, const std::string& name) {
  for (PieceGroup& g : document.groups)
    if (g.id == group)
      g.name = name;
  return document;
}

Document without_idle_groups(Document document) {
  if (document.groups.empty() &&
      std::all_of(document.pieces.begin(), document.pieces.end(), [](const auto& p) { return p->group == 0; }))
    return document;
  std::set<GroupId> there, used;
  for (const PieceGroup& g : document.groups)
    there.insert(g.id);
  for (auto& p : document.pieces)
    if (p->group != 0 && !there.contains(p->group)) {
      Piece freed = *p;
      freed.group = 0;
      p = std::make_shared<const Piece>(std::move(freed));
    }
  const Tree tree(document);
  for (const auto& p : document.pieces)
    if (p->group != 0 && !used.contains(p->group))
      for (const GroupId g : tree.around(p->group))
        used.insert(g);
  std::erase_if(document.groups, [&](const PieceGroup& g) { return !used.contains(g.id); });
  for (PieceGroup& g : document.groups)
    if (!used.contains(g.inside))
      g.inside = 0;
  return document;
}

GroupIds add_groups(Document& document, const Document& part, CopyInto into) {
  GroupIds out;
  if (part.groups.empty())
    return out;
  std::set<PieceId> copied;
  for (const auto& p : part.pieces)
    copied.insert(p->id);
  const Tree tree(part), here(document);
  std::set<GroupId> used, torn; // that hold a piece of the part; and one that is not in it
  for (const auto& p : part.pieces)
    for (const GroupId g : tree.around(p->group))
      used.insert(g);
  if (into == CopyInto::SameJob)
    for (const auto& p : document.pieces)
      if (!copied.contains(p->id))
        for (const GroupId g : here.around(p->group))
          torn.insert(g);
  for (const GroupId g : used)
    out[g] = torn.contains(g) ? g : document.next_id++;
  for (const PieceGroup& g : part.groups)
    if (used.contains(g.id) && !torn.contains(g.id)) {
      const auto outer = out.find(g.inside);
      document.groups.push_back({out[g.id], g.name, outer != out.end() ? outer->second : 0});
    }
  return out;
}

} // namespace frelm
