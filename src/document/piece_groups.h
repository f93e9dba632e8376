// Groups: pieces that are handled as one. A piece is in one group or in none, a group stands in another or in none. The
// drawing order is the pieces' own; grouping brings the members together behind the frontmost of them. What a hand can
// reach of a group is what of it is shown and not locked: that is selected, moved and placed as one. A group without
// pieces is none, and goes with the edit that took its last piece.
#pragma once

#include "document/document.h"

#include <set>

namespace frelm {

const PieceGroup* group_of(const Document& document, GroupId id); // null: there is none
// From the one that the piece stands in itself to the outermost.
std::vector<GroupId> groups_around(const Document& document, PieceId piece);
// At any depth, in drawing order; of `Reached` those that a hand can reach.
enum class Members { All, Reached };
std::vector<PieceId> members_of(const Document& document, GroupId group, Members which);

// What these pieces are as units: whole groups where all that can be reached of one is among them (the outermost such
// group), else single pieces; each where the last of its pieces stands among `ids`.
struct PieceUnit {
  GroupId group = 0; // 0: one piece
  std::vector<PieceId> pieces;
};
std::vector<PieceUnit> units_of(const Document& document, const std::vector<PieceId>& ids);
// The same, but where that is a single group, what it is made of.
std::vector<PieceUnit> parts_to_place(const Document& document, const std::vector<PieceId>& ids);
// With groups whole: one of which only a part is among these is taken whole, or left out.
enum class TornGroups { Taken, Left };
std::vector<PieceId> by_whole_groups(const Document& document, const std::vector<PieceId>& ids, TornGroups torn);
// The group that all these are, if they are just that.
GroupId whole_group(const Document& document, const std::vector<PieceId>& ids);

// What a click on `hit` picks: its outermost group; inside a group that the selection stands in, the next thing in that
// group; with `again`, where that is selected already, one level further in. Never less than the piece.
enum class Click { First, Again };
std::vector<PieceId> picked(const Document& document, const std::vector<PieceId>& selection, PieceId hit, Click click);
// The selection one level out: the group that it is a part of. Nothing: it is in none.
std::vector<PieceId> one_level_out(const Document& document, const std::vector<PieceId>& selection);

// The units as one group, inside the innermost group that holds them all. Errors: fewer than two units.
struct Grouped {
  Document document;
  GroupId group = 0;
};
Result<Grouped> grouped(Document document, const std::vector<PieceId>& ids);
// Each group that is whole among these is taken apart by one level. Errors: there is none.
Result<Document> ungrouped(Document document, const std::vector<PieceId>& ids);
// The units stand in this group from now on (0: in none); a group can't be put into itself.
Document put_into(Document document, const std::vector<PieceId>& ids, GroupId group);
Document with_group_name(Document document, GroupId group, const std::string& name);

// Groups without pieces go, and nothing names a group that is not there.
Document without_idle_groups(Document document);
// The groups of `part` that come into `document` with its pieces: under new ids where all their pieces do, else the
// same group (the same job) or a new one (another).
using GroupIds = std::map<GroupId, GroupId>;
enum class CopyInto { SameJob, OtherJob };
GroupIds add_groups(Document& document, const Document& part, CopyInto into);

} // namespace frelm
