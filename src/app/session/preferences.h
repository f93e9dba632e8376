// What a user chooses for all jobs: typed values, the usual ones by default, kept in the settings file under a name
// each. What is missing there, or makes no sense, is as usual.
#pragma once

#include "document/history.h"
#include "document/measure.h"
#include "lettering/evaluate.h"

class QSettings;

namespace frelm {

struct Preferences {
  double text = 100;                                // % of the desktop's size of text
  Unit unit = Unit::Millimetre;                     // of new jobs
  FaceName face = Letters{}.face;                   // of new letterings
  double letters = Letters{}.size;                  // mm, the height of their capitals
  double step_mm = 1, step_inch = mm_per_inch / 16; // mm, of an arrow key; with Shift ten of them
  double catch_px = 7;                              // from where nodes, edges, lines catch a hand; 0: nothing does
  double keep_after = 2;                            // seconds after the last change, for a recovery copy
  double cache_mb = double(usual_cache_bytes >> 20), history_mb = double(usual_history_bytes >> 20);
  bool operator==(const Preferences&) const = default;
};
// What a number among them may be.
struct PreferenceRange {
  double low, high;
};
PreferenceRange range_of(double Preferences::*value);

Preferences read_preferences(const QSettings& settings);
void write_preferences(QSettings& settings, const Preferences& preferences); // what is as usual is left out

// A fresh document's lettering with the face and the size that the user begins with.
Piece new_lettering(const Preferences& preferences, Document& document, const std::u32string& text, Point at);

} // namespace frelm
