// What a machine does along a line beside following it: a blade's tip that trails, the width that is lost, how it goes
// in and out.
//
// mm, degrees, mm/s. A tool of zeros follows the line and nothing else.
#pragma once

#include <cstdint>

namespace frelm {

// How the tool comes to a closed line, out of what is waste, and leaves it.
enum class Lead : std::uint8_t { None, Line, Arc };
// Where a closed line may be begun: at a corner, or where the seam shows least (a corner that points into the part,
// else its lowest place).
enum class Seam : std::uint8_t { Corners, Hidden };
// On which side of the moving tool the part lies, of closed lines.
enum class PartSide : std::uint8_t { Either, Left, Right };

inline constexpr double most_tip = 5, most_kerf = 50, most_lead = 100, most_overcut = 50; // mm
inline constexpr int most_passes = 100;

struct CutTool {
  double tip = 0;     // its edge behind the axis that it turns about, of a blade that is dragged
  double swivel = 20; // turns of more than this are gone around, the tip staying in the corner
  double overcut = 0; // over the beginning of a closed line once more
  double kerf = 0;    // what is lost along the line: a bit's width, a flame's
  Lead lead = Lead::None;
  double lead_length = 0;
  int passes = 1; // over every line
  Seam seam = Seam::Corners;
  PartSide side = PartSide::Either;
  double speed = 0, acceleration = 0; // mm/s, mm/s²; 0: what such a machine usually does
  bool operator==(const CutTool&) const = default;
  // Does it go anywhere but along the line?
  bool follows_line() const { return tip == 0 && overcut == 0 && kerf == 0 && lead == Lead::None && passes == 1; }
};

} // namespace frelm
