// The recipe of a lettering: Letters → Bend → Spacing → Finish, as plain values.
//
// Lengths in mm, angles in degrees (0 = top or upright, clockwise), shares as ratios (1 = 100 %).
#pragma once

#include "geom/outline.h"
#include "type/face.h"

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

struct Letters {
  TypedText text;
  FaceName face{"Cabin", "Regular"};
  SizeBy size_by = SizeBy::Capitals;
  double size = 30; // mm; more than 0
  double width = 1; // horizontal scale of letters and advances; more than 0
  Capitals capitals = Capitals::AsTyped;
  Alignment alignment = Alignment::Centre;
  double line_pitch = 1.6; // baseline to baseline, in cap heights
  bool operator==(const Letters&) const = default;
};
// Drawn outlines take the letters' place.
struct OutlineSource {
  std::shared_ptr<const Outline> outline;
  bool operator==(const OutlineSource&) const = default;
};
// Other pieces of the document take the letters' place.
using PieceId = std::uint64_t;
struct PiecesSource {
  std::vector<PieceId> pieces;
  bool operator==(const PiecesSource&) const = default;
};
using Source = std::variant<Letters, OutlineSource, PiecesSource>;

struct CircleGuide {
  Point centre;
  double radius = 100; // mm; more than 0
  double start = 0;    // degrees
  bool operator==(const CircleGuide&) const = default;
};

enum class BendKind { Straight, Arc, Guide };
enum class ArcBy { Radius, Rise, Sweep };
enum class ArcSide { Over, Under }; // Over: tops point away from the centre; Under: towards it
enum class Tops { Outward, Inward };
enum class SitBy { Base, Middle, Caps };
enum class Anchor { CentredAt, StartsAt, EndsAt };

// One of the three measures is kept while the text changes; the others follow from the run's length.
struct ArcBend {
  ArcBy by = ArcBy::Radius;
  double value = 150; // mm, or degrees for Sweep; more than 0
  ArcSide side = ArcSide::Over;
  bool operator==(const ArcBend&) const = default;
};
struct GuideBend {
  PieceId guide = 0;              // 0: none
  std::optional<CircleGuide> own; // a private copy, when the guide itself has been deleted
  Tops tops = Tops::Outward;
  Anchor anchor = Anchor::CentredAt;
  double angle = 0;    // CentredAt: degrees, of the middle of the ink
  double distance = 0; // StartsAt: mm from the guide's start; EndsAt: mm before its end
  bool operator==(const GuideBend&) const = default;
};
struct Bend {
  BendKind kind = BendKind::Straight;
  ArcBend arc;
  GuideBend guide;
  SitBy sit_by = SitBy::Base; // Arc and Guide
  double offset = 0;          // mm towards the tops
  bool operator==(const Bend&) const = default;
};

struct Spacing {
  double letter = 0; // mm between letters, none after the last
  double word = 0;   // mm added to every space
  bool operator==(const Spacing&) const = default;
};

enum class FinishKind { Weld };
struct FinishStep {
  FinishKind kind = FinishKind::Weld;
  bool on = true;
  bool operator==(const FinishStep&) const = default;
};
struct Finish {
  std::vector<FinishStep> steps{FinishStep{}};
  bool operator==(const Finish&) const = default;
  bool welds() const {
    for (const FinishStep& s : steps)
      if (s.kind == FinishKind::Weld && s.on)
        return true;
    return false;
  }
};

struct Recipe {
  Source source = Letters{};
  Bend bend;
  Spacing spacing;
  Finish finish;
  bool operator==(const Recipe&) const = default;
  const Letters* letters() const { return std::get_if<Letters>(&source); }
  Letters* letters() { return std::get_if<Letters>(&source); }
};

// Where a straight or arched lettering stands: the point of its first baseline given by the alignment (left end,
// middle, right end; the middle for an arc), and its turn. On a guide the guide decides instead.
struct Placement {
  Point at;
  double angle = 0; // degrees
  bool operator==(const Placement&) const = default;
};

} // namespace frelm
