// The recipe of a lettering: Letters → Bend → Spacing → Finish, as plain values.
//
// Lengths in mm, angles in degrees (0 = top or upright, clockwise), shares as ratios (1 = 100 %).
#pragma once

#include "geom/net.h"
#include "geom/rails.h"
#include "geom/shared_value.h"
#include "geom/upright_fill.h"
#include "lettering/finish.h"
#include "lettering/guide_shape.h"
#include "type/face.h"

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <variant>
#include <vector>

namespace frelm {

// A typed character and the id it keeps for life; text edits are diffed so that ids survive them.
struct TypedChar {
  char32_t c = 0;
  std::uint64_t id = 0;
  bool operator==(const TypedChar&) const = default;
};
using TypedText = std::vector<TypedChar>;

std::u32string plain_text(const TypedText& text);
// `text` retyped as `now`: characters of the longest common start and end, and those in order between, keep their
// ids; new ones take ids from next_id on, which is advanced.
TypedText retyped(const TypedText& text, const std::u32string& now, std::uint64_t& next_id);

enum class SizeBy { Capitals, XHeight, Full, Em };
enum class Capitals { AsTyped, Capitals, Lower, Title };
enum class Alignment { Left, Centre, Right, Justified };

// A feature of the face switched for the whole text, or for one letter to bring an alternate.
struct FeatureSetting {
  std::string tag;
  std::uint32_t value = 1;
  bool operator==(const FeatureSetting&) const = default;
};
struct LetterAlternate {
  std::uint64_t id = 0; // of the letter's first character
  FeatureSetting by;
  bool operator==(const LetterAlternate&) const = default;
};

struct Letters {
  TypedText text;
  FaceName face{"Cabin", "Regular"};
  SizeBy size_by = SizeBy::Capitals;
  double size = 30; // mm; more than 0
  double width = 1; // horizontal scale of letters and advances; more than 0
  Capitals capitals = Capitals::AsTyped;
  Alignment alignment = Alignment::Centre;
  double line_pitch = 1.6;  // baseline to baseline, in cap heights
  bool downwards = false;   // letters stand one below the other, lines side by side
  bool equal_width = false; // each line is scaled until its ink is as wide as the widest line's, the ink gaps kept
  std::vector<FeatureSetting> features = {};    // by tag; what differs from the face's usual
  std::vector<LetterAlternate> alternates = {}; // by id
  bool operator==(const Letters&) const = default;
};
// Drawn outlines take the letters' place.
struct OutlineSource {
  std::shared_ptr<const Outline> outline;
  bool operator==(const OutlineSource& o) const { return same_value(outline, o.outline); }
};
// Other pieces of the document take the letters' place.
struct PiecesSource {
  std::vector<PieceId> pieces;
  bool operator==(const PiecesSource&) const = default;
};
using Source = std::variant<Letters, OutlineSource, PiecesSource>;

// Rails and Net warp the block as it stands before them; letters keep their outlines' order and joins.
enum class BendKind { Straight, Arc, Guide, Rails, Net };
enum class ArcBy { Radius, Rise, Sweep };
enum class ArcSide { Over, Under }; // Over: tops point away from the centre; Under: towards it
enum class SitBy { Base, Middle, Caps };
enum class Anchor { CentredAt, StartsAt, EndsAt };
enum class AlongBy { Angle, Distance, Percent };
// Turn: letters stand across the guide. Stand: they stay upright. Lean: their verticals stay vertical, their base
// follows. Flow: their shapes bend along the guide.
enum class Stance { Turn, Stand, Lean, Flow };
// Side by side: no letter straddles a corner. Over: letters go on over it (Flow rounds it off).
enum class Corners { SideBySide, Over };
// Further lines of the text: each below the one before, the last one on the guide, or one after another along it.
enum class LinesGo { Below, Above, FollowOn };

// One of the three measures is kept while the text changes; the others follow from the run's length.
struct ArcBend {
  ArcBy by = ArcBy::Radius;
  double value = 150; // mm, or degrees for Sweep; more than 0
  ArcSide side = ArcSide::Over;
  bool operator==(const ArcBend&) const = default;
};
// A guide or an outline of the document that a bend follows.
struct GuideRef {
  PieceId guide = 0;             // 0: none
  std::optional<GuideShape> own; // a private copy, when the guide itself has been deleted
  bool operator==(const GuideRef&) const = default;
};
struct GuideBend : GuideRef {
  Tops tops = Tops::Outward; // on open guides Outward is up and Inward turned over
  Anchor anchor = Anchor::CentredAt;
  AlongBy by = AlongBy::Angle; // which of the three places the anchor; on open guides Angle means their middle
  double angle = 0;            // degrees, seen from the guide's centre; CentredAt: of the middle of the ink
  double distance = 0;         // mm from the guide's start in reading direction; EndsAt: before its end
  double percent = 50;         // of the guide's length, likewise
  bool fit_height = false;     // capitals as high as the guide's band has room for
  bool operator==(const GuideBend&) const = default;
};

// The shape of an edge of the block, over its width from 0 to 1; up is positive. Arch: a circular arc; Dip: the same
// downwards; Wave: a sine; Peak: straight up to a corner and down again; Ramp: straight from 0 to its depth.
enum class ProfileKind { Straight, Arch, Dip, Wave, Peak, Ramp, Guide };
struct RailProfile {
  ProfileKind kind = ProfileKind::Straight;
  double depth = 30;  // mm, or % of the block's height
  double periods = 1; // Wave; more than 0
  double phase = 0;   // Wave: degrees of a period; Peak: where its corner is, % of the width from the middle
  bool operator==(const RailProfile&) const = default;
};
// Guide as the first profile: the edge is that guide, and there is nothing to add.
struct RailEdge : GuideRef {
  RailProfile first, plus;
  bool operator==(const RailEdge&) const = default;
};
// What the bottom edge does: its own, the same as the top edge, or the same upside down.
enum class EdgeLink { Free, Same, Mirrored };
enum class DepthIn { Percent, Millimetre };
enum class RailsInto { Edges, Shape };
// Smooth: geom/fill_map; Upright: geom/upright_fill, every letter as high as its line.
enum class FillStyle { Smooth, Upright };
// Smooth only. Stretched: ink reaches the whole shape. Natural: letters keep their proportions and are as wide as the
// shape.
enum class FillHeight { Stretched, Natural };
struct ShapeFill : GuideRef {
  // Smooth only. Shares of the shape's boundary from its start, clockwise: top left, top right, bottom right, bottom
  // left. None: where they are found (geom/fill_map.h).
  std::optional<std::array<double, 4>> corners;
  FillStyle style = FillStyle::Smooth;
  UprightFill upright; // of Upright
  FillHeight height = FillHeight::Stretched;
  double margin = 0; // mm that letters stay off the shape's edge; not negative
  bool operator==(const ShapeFill&) const = default;
};
struct RailsBend {
  RailsInto into = RailsInto::Edges;
  RailEdge top{{}, {ProfileKind::Arch, 30}, {}}, bottom{{}, {ProfileKind::Arch, 30}, {}};
  EdgeLink link = EdgeLink::Same;
  DepthIn depth_in = DepthIn::Percent;
  Verticals verticals = Verticals::Kept;
  // % from -90 to 90. along: lower at the left (positive) or right end; across: narrower at the bottom (positive) or
  // top.
  double taper_along = 0, taper_across = 0;
  ShapeFill fill;
  bool operator==(const RailsBend&) const = default;
};
// Displacements over the bend that the net was started from, in the frame in which the block stands (block_bend.h).
struct NetBend {
  BendKind base = BendKind::Straight; // not Net
  Net net = flat_net(2, 1);
  bool mirror = false; // pulls are made on both sides of the middle
  bool operator==(const NetBend&) const = default;
};
struct Bend {
  BendKind kind = BendKind::Straight;
  ArcBend arc;
  GuideBend guide;
  RailsBend rails;
  NetBend net;
  double least_stroke = 1;    // mm; thinner strokes of a warp are "too far"; 0: none asked for
  SitBy sit_by = SitBy::Base; // these: Arc and Guide
  double offset = 0;          // mm towards the tops
  Stance stance = Stance::Turn;
  bool stretch = false; // Flow: the run is stretched along the guide from end to end
  Corners corners = Corners::SideBySide;
  LinesGo lines = LinesGo::Below;
  bool operator==(const Bend&) const = default;
  bool warps() const { return kind == BendKind::Rails || kind == BendKind::Net; }
  // The bend under a net, else the bend itself.
  BendKind laid_by() const { return kind == BendKind::Net ? net.base : kind; }
  // Letters ride on a guide, under a net or not.
  bool rides() const { return laid_by() == BendKind::Guide; }
  bool fills() const { return laid_by() == BendKind::Rails && rails.into == RailsInto::Shape; }
  // Does an edge follow a guide, so that guides decide where the block stands?
  bool between_guides() const {
    return laid_by() == BendKind::Rails && rails.into == RailsInto::Edges &&
           (rails.top.first.kind == ProfileKind::Guide || bottom_profile().kind == ProfileKind::Guide);
  }
  // Guides decide, rather than the placement.
  bool placed_by_guides() const { return rides() || fills() || between_guides(); }
  const RailProfile& bottom_profile() const {
    return rails.link == EdgeLink::Free ? rails.bottom.first : rails.top.first;
  }
  // The guides that the bend follows now, and all that it remembers.
  std::vector<const GuideRef*> followed() const;
  std::vector<GuideRef*> remembered() { return {&guide, &rails.top, &rails.bottom, &rails.fill}; }
  std::vector<const GuideRef*> remembered() const { return {&guide, &rails.top, &rails.bottom, &rails.fill}; }
};

// Even gaps: on the bend every pair's optical gap is what it is in the straight setting. Keep joined: every join is as
// deep as there, and what doesn't join is evened. Both keep the letter at the anchor where it is.
enum class SpacingMode { AsSet, EvenGaps, KeepJoined, Spread, Repeat };
enum class SpreadOver { Guide, Length, Angle };
// What Even gaps aims at: each pair's own straight gap, one gap for all, or its own gap and as much more as fills the
// guide.
enum class GapAim { Own, Typed, Fill };
struct Spacing {
  double letter = 0; // mm between letters, none after the last
  double word = 0;   // mm added to every space
  SpacingMode mode = SpacingMode::AsSet;
  GapAim aim = GapAim::Own;
  double gap = 3;                      // mm, optical, for GapAim::Typed
  double least_gap = 0;                // mm, closest distance that can be cut and weeded; 0: none asked for
  SpreadOver over = SpreadOver::Guide; // Spread: what the run is to fill
  double length = 200;                 // mm, for Length; of a straight run, which has no other room, its ink
  double angle = 120;                  // degrees seen from the guide's centre, for Angle
  std::u32string separator = U" • ";   // Repeat: between copies
  std::uint64_t copies = 0;            // Repeat; 0: as many as find room
  bool operator==(const Spacing&) const = default;
};

// A letter moved by hand; kept while its character lives. Raise and nudge in cap heights.
struct LetterTweak {
  std::uint64_t id = 0; // of its first character
  double turn = 0;      // degrees about the middle of its base
  double size = 1;      // more than 0
  double raise = 0;     // towards the tops
  double nudge = 0;     // along the guide
  bool operator==(const LetterTweak&) const = default;
  bool idle() const { return turn == 0 && size == 1 && raise == 0 && nudge == 0; }
};

// A gap changed by hand, with all that follows; kept while both characters live and in force while they stand side by
// side (spaces between them don't count).
struct PairTweak {
  std::uint64_t left = 0, right = 0; // ids of the letters' first characters, as they stand
  double gap = 0;                    // cap heights added between them
  bool operator==(const PairTweak&) const = default;
};

struct Recipe {
  Source source = Letters{};
  Bend bend;
  Spacing spacing;
  Finish finish;
  std::vector<LetterTweak> tweaks = {}; // by id
  std::vector<PairTweak> pairs = {};    // by ids
  bool operator==(const Recipe&) const = default;
  const Letters* letters() const { return std::get_if<Letters>(&source); }
  Letters* letters() { return std::get_if<Letters>(&source); }
  const LetterTweak* tweak(std::uint64_t id) const {
    for (const LetterTweak& t : tweaks)
      if (t.id == id)
        return &t;
    return nullptr;
  }
  const PairTweak* pair(std::uint64_t left, std::uint64_t right) const {
    for (const PairTweak& t : pairs)
      if (left != 0 && t.left == left && t.right == right)
        return &t;
    return nullptr;
  }
};

// Where a straight or arched lettering stands: the point of its first baseline given by the alignment (left end,
// middle, right end; the middle for an arc), and its turn. On a guide the guide decides instead.
struct Placement {
  Point at;
  double angle = 0; // degrees
  bool operator==(const Placement&) const = default;
};

} // namespace frelm
