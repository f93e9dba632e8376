// Stage 2, space: every letter's place along its own line, unrolled. s is the arc length (mm) from the line's start
// to the middle of the letter's advance.
#pragma once

#include "lettering/set_text.h"

namespace frelm {

struct SpacedLine {
  std::vector<double> middles;       // s of each cluster
  std::vector<double> by_hand;       // mm added after each cluster by hand; empty: none
  double length = 0;                 // sum of advances and spaces between
  double ink_start = 0, ink_end = 0; // leftmost and rightmost ink; 0 and length for a line of blanks
};

struct SpacedText {
  std::shared_ptr<const SetText> set;
  std::vector<SpacedLine> lines;
  double longest = 0; // length of the longest line
  double letter = 0;  // letter spacing
  // Lines made equally wide: how far each baseline stands below the first one's, with the same ink gap between all
  // lines. Empty: evenly by the line pitch.
  std::vector<double> drops;
  std::size_t bytes() const;
};

// What the hand added between two letters: after the cluster that begins at this code point.
struct HandGap {
  std::size_t after = 0;
  double gap = 0; // mm
  bool operator==(const HandGap&) const = default;
};
// The recipe's corrections that are in force, in the order of the text as it stands.
std::vector<HandGap> hand_gaps(const Recipe& recipe, const SetText& set);

// gap: mm between the ink of one line and of the next. Each line but the
// widest is scaled, letters and advances, until its ink (letter and word spacing and the hand's gaps kept in mm) is as
// wide as the widest line's.
std::shared_ptr<const SpacedText> space_equal_lines(const SetText& set, const Spacing& spacing,
                                                    const std::vector<HandGap>& by_hand, double gap);
// Justified lines reach the longest line's length by wider word spaces, or wider letter gaps where there is no word
// space; a line of one letter stays. Justification is for straight setting; elsewhere pass another alignment.
std::shared_ptr<const SpacedText> space_text(std::shared_ptr<const SetText> set, const Spacing& spacing,
                                             Alignment alignment, const std::vector<HandGap>& by_hand = {});

} // namespace frelm
