// Stage 3, seat: from unrolled places (s, h) to places on the sheet. Nothing else maps one to the other.
//
// A letter turns about the middle of its own advance (the rule of SVG 1.1, 10.13.3 "Text on a path layout rules"):
// with P(s), T(s) the guide's point and tangent at the middle, and U the side of the tops,
//   origin = P + h U − advance/2 T.
// Bound: 0.001 mm and 0.001° on lines, circles and arcs.
#pragma once

#include "geom/curve.h"
#include "lettering/space_text.h"

namespace frelm {

struct PlacedLetter {
  std::size_t line = 0;
  std::size_t first = 0, count = 1; // code points of the whole text
  double s = 0, h = 0;              // unrolled: middle of the advance along the guide; baseline above the guide
  double advance = 0;
  Point origin;        // on the baseline, after turning
  double angle = 0;    // radians, clockwise
  bool beyond = false; // past an end of an open guide
  bool space = false, missing = false;
  std::shared_ptr<const Outline> shape;

  bool blank() const { return shape->empty(); }
  Affine placement() const { return Affine::translation(origin) * Affine::rotation(angle); }
  bool operator==(const PlacedLetter&) const = default;
};

struct SeatedText {
  std::shared_ptr<const SpacedText> spaced;
  std::shared_ptr<const Curve> guide;
  std::vector<PlacedLetter> letters;                  // in line order, then from left to right
  double guide_length = 0;                            // mm; of a straight setting: the longest line
  double used_length = 0;                             // of the longest line
  double overflow = 0;                                // mm of the longest line that find no room
  double arc_radius = 0, arc_rise = 0, arc_sweep = 0; // of an Arc bend: mm, mm, degrees
  Box ink;                                            // of all letters, exact
  std::size_t bytes() const { return sizeof *this + letters.size() * sizeof(PlacedLetter); }
};

enum class Centring { Advances, Ink };

// Where a run lies along a guide: the anchor of the run at arc length s of the guide.
enum class RunAnchor { Start, Middle, End };
struct RunPlace {
  double s = 0;
  RunAnchor anchor = RunAnchor::Start;
  double height = 0;     // mm of the first baseline above the guide
  double line_pitch = 0; // mm each further line lies lower
  Centring centring = Centring::Advances;
};

SeatedText seat_on_curve(std::shared_ptr<const SpacedText> spaced, Curve guide, const RunPlace& place);

// The radius (mm) of the arc on which a run of this length (mm) has the given measure. A rise must be less than the
// run's length (at that point the arc is nearly closed); r = h/2 + c²/(8h) with the chord c that it then spans.
Result<double> arc_radius(const ArcBend& arc, double run_length);
// Rise (mm) and sweep (degrees) of a run of this length on that radius.
double arc_rise(double radius, double run_length);
double arc_sweep(double radius, double run_length);

Curve curve_of(const CircleGuide& guide);
// The full circle an arched run sits on, its seam opposite the run; the run's middle (s = π radius) is at the
// placement.
Curve arc_curve(ArcSide side, double radius, const Placement& placement);
// The drop of the baseline below the guide so that base, middle or cap line lies on it.
double sit_height(SitBy sit_by, double cap_height);

// A recipe's letters on its bend. guide: the circle for BendKind::Guide. Errors: radius, rise or sweep out of range,
// no guide chosen.
Result<std::shared_ptr<const SeatedText>> seat(std::shared_ptr<const SpacedText> spaced, const Recipe& recipe,
                                               const Placement& placement, const CircleGuide* guide);

} // namespace frelm
