// A document: an immutable value with shared structure. Every edit is a function Document → Document (edits.h).
#pragma once

#include "document/backing.h"
#include "document/material.h"
#include "document/name_list.h"
#include "document/piece.h"
#include "type/carried_face.h"

namespace frelm {

enum class Unit { Millimetre, Inch };

struct Sheet {
  double width = 600, height = 400; // mm, more than 0
  bool operator==(const Sheet&) const = default;
};

// Pieces that are handled as one; what it holds stands in these (piece_groups.h).
struct PieceGroup {
  GroupId id = 0;
  std::string name;   // empty: named after what it holds
  GroupId inside = 0; // the group that it stands in; 0: none
  bool operator==(const PieceGroup&) const = default;
};

// A straight line across the bench (ruler_lines.h).
struct RulerLine {
  Point at;         // a place on it, mm
  double angle = 0; // degrees, clockwise; 0: level, 90: upright
  bool locked = false;
  bool operator==(const RulerLine&) const = default;
};

// A measured distance that stays (marks.h).
struct MarkEnd {
  PieceId piece = 0; // that it follows; 0: none
  Point at;          // mm; of a piece: shares of what its ink covers, from its top left corner
  bool operator==(const MarkEnd&) const = default;
};
struct DimensionMark {
  MarkEnd from, to;
  double beside = 0; // mm from what is measured to its line
  bool operator==(const DimensionMark&) const = default;
};

// What was asked for; 0: not said. The Cut check compares.
struct Ordered {
  double width = 0, height = 0; // mm, of all that is cut
  int parts = 0;                // that leave each sheet of material
  bool operator==(const Ordered&) const = default;
};
inline constexpr int most_ordered_parts = 100'000;

// A finding of the Cut check that was looked at and left, with the reason.
struct SetAside {
  std::string finding; // its id
  PieceId piece = 0;   // whose it is; 0: of the whole job
  std::string reason;
  bool operator==(const SetAside&) const = default;
};
inline constexpr std::size_t most_set_aside = 1000, longest_reason = 500;

// A contour of a piece's layer as it is cut, by its number; one that is no longer there is passed over.
struct CutTurn {
  PieceId piece = 0;
  std::string layer; // "ring-1"; empty where the piece has one layer
  std::size_t contour = 0;
  auto operator<=>(const CutTurn&) const = default;
};
inline constexpr std::size_t most_by_hand = 200'000, longest_turn_layer = 40; // bytes

struct Document {
  Sheet sheet;
  Unit unit = Unit::Millimetre;
  std::vector<Material> materials;                  // no two of one colour
  std::vector<Backing> backings;                    // under all pieces; the last is in front
  std::vector<std::shared_ptr<const Piece>> pieces; // drawn in this order: the last is in front
  std::vector<PieceGroup> groups;
  std::vector<RulerLine> ruler_lines;
  std::vector<DimensionMark> marks;
  Ordered ordered;
  std::vector<SetAside> set_aside;
  std::vector<CutTurn> order_by_hand;    // these are cut first, one after the other, but inner lines before outer ones
  std::shared_ptr<const NameList> names; // null: none
  bool finish_grows = false; // rings, shades and tabs of what is sized grow along; else they keep their measures
  std::uint64_t next_id = 1; // for pieces, groups, characters and releases
  // Shapes that came with the job file, for faces this machine may lack; kept so that saving again keeps them. They are
  // luggage, not part of the value.
  std::shared_ptr<const std::vector<CarriedShapes>> carried;

  const Piece* find(PieceId id) const;
  std::size_t index_of(PieceId id) const;       // pieces.size() if there is none
  bool operator==(const Document& other) const; // by value, without what is carried
};

} // namespace frelm
