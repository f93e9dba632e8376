// How a lettering's proportions and gaps compare with what a standard for signs asks for.
//
// Source: U.S. Department of Justice, 2010 ADA Standards for Accessible Design, 703.5 "Visual characters": 703.5.4
// character proportions, 703.5.7 stroke thickness, 703.5.8 character spacing, 703.5.9 line spacing. The figures are
// given from memory, not read from the text here. The reading distance is common practice, no source.
#pragma once

#include "lettering/gaps.h"

#include <string>
#include <vector>

namespace frelm {

struct LegibilityReading {
  Words what;                 // "Width of O to height of I"
  double low = 0, high = 0;   // measured, as ratios; the same where there is one figure; mm for the reading distance
  double least = 0, most = 0; // asked for; both 0: a note, nothing is asked
  std::string source;         // "703.5.4"
  bool holds() const { return most == 0 || (low >= least && high <= most); }
};

// All lengths relative to the height of the capital I as cut. gaps: of the text, as measured on the bend. Readings that
// the lettering has nothing for (gaps of one letter, pitch of one line, a face without I or O) are left out.
std::vector<LegibilityReading> legibility(const Letters& letters, const SeatedText& text, const std::vector<Gap>& gaps,
                                          const Face& face);

} // namespace frelm
