// The steps from the letters to what is cut, as plain values; what they make of outlines: lettering/finish_layers.h.
//
// mm, degrees. Every distance is measured from the letters as they stand when the step's turn comes, unless the step
// says otherwise. A step that is off is as if it weren't there.
#pragma once

#include "geom/holes.h"
#include "geom/offset.h"
#include "geom/round_corners.h"
#include "geom/tab.h"
#include "geom/ties.h"

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <variant>
#include <vector>

namespace frelm {

// Where a piece or a layer goes. Only Knife and Pen reach a file, so a guide does only when it is set to one of them.
enum class Destination { Knife, Pen, Guide, Off };

struct Colour {
  std::uint8_t r = 0x1f, g = 0x2a, b = 0x33;
  auto operator<=>(const Colour&) const = default;
};
// To the eye they would be taken for one sheet: no channel differs by 24 or more.
bool alike(Colour a, Colour b);
// The first that none of the used ones is like.
std::optional<Colour> unlike(const std::vector<Colour>& used, std::span<const Colour> offered);

// What the measures of the steps can be.
inline constexpr double least_tolerance = 0.001, most_tolerance = 10; // mm
inline constexpr double least_ring = 0.01, most_distance = 1000;      // mm
inline constexpr double most_mitre_limit = 100;
inline constexpr double least_opening = 1;                      // degrees between the sides of corners
inline constexpr double least_tab = 0.5, least_tab_depth = 0.1; // mm
inline constexpr double farthest_share = 100;
inline constexpr std::size_t most_rings_of_border = 12, most_finish_steps = 24;

// Letters that touch become one outline.
struct WeldStep {
  bool operator==(const WeldStep&) const = default;
};
// All layers that stand so far, with fewer nodes: as few as a tolerance allows, or as few as a machine takes well,
// which may cost more (geom/few_nodes).
enum class NodeAim { Tolerance, Machine };
inline constexpr double most_per_100 = 10'000;
struct ThinStep {
  double tolerance = 0.05; // mm, more than 0
  NodeAim aim = NodeAim::Tolerance;
  double per_100 = 20; // nodes for each 100 mm, at most; 0: any number
  double apart = 0.5;  // mm from node to node, at least; 0: any
  double most_off = 1; // mm that this may cost
  bool operator==(const ThinStep&) const = default;
};

// Corners of all layers that stand so far become arcs, as large as fit (geom/round_corners).
struct RoundStep {
  double radius = 1; // mm, at least least_rounding
  WhichCorners which = WhichCorners::All;
  double sharper_than = 150; // degrees between the sides, least_opening to 180
  bool operator==(const RoundStep&) const = default;
};

struct BorderRing {
  double distance = 2.5; // mm, more than 0
  Colour colour{0x0f, 0x6e, 0x73};
  Destination destination = Destination::Knife;
  bool operator==(const BorderRing&) const = default;
};
// Outside: an area around the letters, beneath them. Inside: a band along their edge, on them. Both: a band half of
// which lies outside, on them.
enum class BorderSide { Outside, Inside, Both };
enum class BorderOf { Letters, AllSoFar };
struct BorderStep {
  std::vector<BorderRing> rings{BorderRing{}};
  BorderSide side = BorderSide::Outside;
  BorderOf of = BorderOf::Letters;
  JoinStyle join = JoinStyle::Round;
  double mitre_limit = 4; // at least 1
  HoleRule holes = HoleRule::Keep;
  double hole_size = 12; // mm, for DropSmall
  // What lies on a ring, or on the letters, is taken out of it (laid side by side), less an overlap; else layers lie
  // whole over one another.
  bool taken_out = false;
  double overlap = 0; // mm, 0 or more
  bool operator==(const BorderStep&) const = default;
};

std::vector<std::size_t> nearest_first(const std::vector<BorderRing>& rings); // as they are numbered

enum class ShadeKind { Block, Drop };
enum class ShadeOf { LastRing, Letters }; // the outermost ring so far, where there is none the letters
struct ShadeStep {
  ShadeKind kind = ShadeKind::Block;
  double angle = 45; // 0 = to the right, clockwise
  double depth = 8;  // mm, 0 or more
  ShadeOf of = ShadeOf::LastRing;
  bool apart = false;     // without what throws it, and `gap` mm from it; else whole, beneath it
  double gap = 0;         // mm, 0 or more
  bool with_ring = false; // part of the last ring instead of a layer of its own
  Colour colour{0x9b, 0x2f, 0x45};
  Destination destination = Destination::Knife;
  bool operator==(const ShadeStep&) const = default;
};

// A ring to hang it by, joined to the outermost ring so far, where there is none to the letters. It stands on the edge
// nearest to a place that is a share of the letters' extent, so that it keeps to its side when they change.
struct TabStep {
  double outer = 14, inner = 6;  // diameters, mm; inner: of its hole, 0: none; it leaves a ring at least
  double depth = 3;              // mm that it reaches into the edge, at most all of it
  double across = 0.5, down = 0; // of the place: 0, 0 = their left and top
  TabRing ring() const;
  bool operator==(const TabStep&) const = default;
};

// Ties (geom/ties): from part to part of the letters, so that they leave in one piece; or across the strokes around
// counters, so that these stay with the sheet.
enum class TieKind { Parts, Stencil };
// Set by hand: from place to place, as shares of the letters' extent; each end stands on the edge nearest to its place.
struct HandTie {
  Point from, to;
  bool operator==(const HandTie&) const = default;
};
struct TieStep {
  TieKind kind = TieKind::Parts;
  TieForm form;
  BridgeChoice bridges; // of a stencil
  std::vector<HandTie> by_hand;
  bool all = true; // besides those by hand all that are wanted yet
  bool operator==(const TieStep&) const = default;
};
inline constexpr std::size_t most_hand_ties = 200;

// Left and right change places where it is cut, for work that is seen from behind; on the sheet it stays readable.
struct MirrorStep {
  bool operator==(const MirrorStep&) const = default;
};

using FinishAction = std::variant<WeldStep, ThinStep, RoundStep, BorderStep, ShadeStep, TabStep, TieStep, MirrorStep>;
Words step_name(const FinishAction& what); // "Border"
struct FinishStep {
  FinishAction what = WeldStep{};
  bool on = true;
  bool operator==(const FinishStep&) const = default;
};
struct Finish {
  std::vector<FinishStep> steps{FinishStep{}};
  bool operator==(const Finish&) const = default;
  bool welds() const; // a weld step that is on
  bool does_anything() const;
  bool keeps_parts() const;             // no step makes one of the letters, or takes from them
  bool makes_layers() const;            // besides the letters, or turns them about
  Box around(const Box& letters) const; // where the layers can reach, but for mitres
  std::size_t hash() const;
};

// The weld step switched on or off where it stands; added as the first where there is none.
void set_weld(Finish& finish, bool on);

// Every measure of the steps k times as large (k > 0), as far as it can be; tolerances stay.
void scale_finish(Finish& finish, double k);

} // namespace frelm
