// Stage 3, seat: from unrolled places (s, h) to places on the sheet. Nothing else maps one to the other.
//
// A letter turns about the middle of its own advance (the rule of SVG 1.1, 10.13.3 "Text on a path layout rules"):
// with P(s), T(s) the guide's point and tangent at the middle, and U the side of the tops,
//   origin = P + h U − advance/2 T.
// Standing letters keep T = (1, 0) for themselves, leaning ones their verticals; flowing ones are mapped point by
// point,
//   (x, y) → P(s + x − advance/2) + (h − y) U.
// Further lines stand on parallels of the guide, spaced by those parallels' own length.
// Bounds: 0.001 mm and 0.001° on lines, circles and arcs; 0.002 mm and 0.005° elsewhere; flow 0.005 mm.
#pragma once

#include "geom/warp.h"
#include "lettering/block_bend.h"
#include "lettering/even_gaps.h"

namespace frelm {

struct PlacedLetter {
  std::size_t line = 0;
  std::size_t first = 0, count = 1; // code points of the whole text (and of a repeat's separator after it)
  std::size_t run = 0;              // of SeatedText::runs
  std::size_t cluster = 0;          // of its line
  double s = 0, h = 0;              // unrolled: middle of the advance along its line; baseline above the guide
  double plain_s = 0;               // the same from its line's start in the plain straight setting
  double advance = 0;
  double stretch = 1;       // along the guide, of a run stretched from end to end
  Point origin;             // on the baseline, after turning
  double angle = 0;         // radians, clockwise
  bool beyond = false;      // past an end of an open guide
  bool meets_start = false; // on a closed guide, past the run's own start
  bool straddles = false;   // over a corner, because no side was long enough
  bool space = false, missing = false;
  bool by_hand = false;                  // turned, sized or moved by a LetterTweak
  Affine place;                          // of shape on the sheet
  Affine unbent;                         // of plain in the block, before a warp of the whole block
  std::shared_ptr<const Outline> shape;  // flowing, or in a warped block: as bent, on the sheet (place is the identity)
  std::shared_ptr<const Outline> flowed; // flowing in a warped block: before the warp, on the sheet
  std::shared_ptr<const Outline> plain;  // as set, baseline origin at 0, 0; hand's turn and size not applied

  bool blank() const { return plain->empty(); }
  const Affine& placement() const { return place; }
  bool operator==(const PlacedLetter&) const = default;
};

// What a run stands on: its letters' s is arc length on `along`, and their baseline `height` above the guide.
struct SeatedRun {
  std::shared_ptr<const Parallel> along;
  double height = 0;
  double plain_length = 0; // of the plain straight setting, mm
};

// Every gap that Even gaps or Keep joined set, by letters.
struct SpacingReport {
  std::vector<EvenPair> pairs;
  double extra = 0;     // mm that filling the guide added to every gap
  bool waiting = false; // too many letters to be evened at once: they stand as set until that is done
};

struct SeatedText {
  std::shared_ptr<const SpacedText> spaced;
  std::shared_ptr<const StraightPairs> straight;
  std::vector<SeatedRun> runs; // none for letters set downwards
  Stance stance = Stance::Turn;
  SpacingReport spacing;
  std::shared_ptr<const Curve> guide;                 // in reading direction
  std::vector<PlacedLetter> letters;                  // in line order, then from left to right
  double guide_length = 0;                            // mm; of a straight setting: the longest line
  double used_length = 0;                             // of the longest line
  double overflow = 0;                                // mm of the longest line that find no room
  bool fills_guide = false;                           // from end to end: its place along the guide is not free
  double flow_worst = 0;                              // mm between flowing letters and their exact image
  std::size_t folds = 0;                              // places where flowing letters fold over
  double arc_radius = 0, arc_rise = 0, arc_sweep = 0; // of an Arc bend: mm, mm, degrees
  std::shared_ptr<const BentBlock> bent;              // of Rails and Net: what the warp of the block was
  Box ink;                                            // of all letters, exact
  std::size_t bytes() const;
  // Not yet what it will be: a run that waits to be evened, a block only sketched.
  bool provisional() const { return spacing.waiting || (bent != nullptr && bent->sketch); }
  // Of a letter as set, in its own coordinates.
  const Box& ink_of(const PlacedLetter& l) const { return spaced->set->lines[l.line][l.cluster].ink; }
};

enum class Centring { Advances, Ink };

// Where a run lies along a guide: the anchor of the run at arc length s of the guide.
enum class RunAnchor { Start, Middle, End };
struct RunPlace {
  double s = 0;
  RunAnchor anchor = RunAnchor::Start;
  double height = 0; // mm of the first baseline above the guide
  double sit = 0;    // the part of height that comes from the letters' sitting line; standing letters take it upright
  double line_pitch = 0; // mm from line to line
  Centring centring = Centring::Advances;
};
// What may be spent on evening gaps.
struct SeatEffort {
  std::size_t most_letters = std::numeric_limits<std::size_t>::max(); // longer runs wait (SpacingReport)
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // share done
};
// How a run is laid and its letters stand; the defaults are the plain setting.
struct RunStyle {
  Stance stance = Stance::Turn;
  bool stretch = false;
  Corners corners = Corners::Over;
  LinesGo lines = LinesGo::Below;
  bool downwards = false;
  Spacing spacing;                                    // only its mode and what belongs to it
  double spread_room = 0;                             // mm, Spread over a length or an angle
  std::size_t text_length = 0;                        // code points; what lies after is a repeat's separator
  const Recipe* recipe = nullptr;                     // for letters moved by hand; may be missing
  std::shared_ptr<const StraightPairs> straight = {}; // of the text; made when missing
  SeatEffort effort = {};
};

// Errors: lines that turn back on a tight guide, flow that has no image; Cancelled.
Result<SeatedText> seat_on_curve(std::shared_ptr<const SpacedText> spaced, std::shared_ptr<const Curve> guide,
                                 const RunPlace& place, const RunStyle& style = {});

// The radius (mm) of the arc on which a run of this length (mm) has the given measure. A rise must be less than the
// run's length (at that point the arc is nearly closed); r = h/2 + c²/(8h) with the chord c that it then spans.
Result<double> arc_radius(const ArcBend& arc, double run_length);
// Rise (mm) and sweep (degrees) of a run of this length on that radius.
double arc_rise(double radius, double run_length);
double arc_sweep(double radius, double run_length);

// The full circle an arched run sits on, its seam opposite the run; the run's middle (s = π radius) is at the
// placement.
Curve arc_curve(ArcSide side, double radius, const Placement& placement);
// The drop of the baseline below the guide so that base, middle or cap line lies on it.
double sit_height(SitBy sit_by, double cap_height);

// A recipe's letters on its bend. guide: for BendKind::Guide. Errors: radius, rise or sweep out of range, no guide
// chosen, those of seat_on_curve.
Result<std::shared_ptr<const SeatedText>> seat(std::shared_ptr<const SpacedText> spaced, const Recipe& recipe,
                                               const Placement& placement, const GuideLine* guide,
                                               std::shared_ptr<const StraightPairs> straight = {},
                                               const SeatEffort& effort = {});
// Can this recipe's spacing be evened or kept joined? Not set downwards, nor stretched from end to end.
bool can_be_evened(const Recipe& recipe);
// Is it a straight run (bent as a block or not) spread over a length?
bool spread_straight(const Recipe& recipe);
// As a hand chooses it: what is spread fills its guide, and without one (or an arc) `length` mm.
void choose_spacing(Recipe& recipe, SpacingMode mode, double length);
// mm from the first ink to the last of the longest line as set, before it is spread or evened.
double ink_along(const SpacedText& text);

// The outer ink edge of a letter at its baseline, x in its own coordinates (mm): the leftmost or rightmost ink within
// 3 % of the cap height of the baseline, else of all its ink.
enum class LetterSide { Left, Right };
double baseline_foot(const Outline& letter, double cap_height, LetterSide side);

} // namespace frelm
