// The mark under a gap: what shape and colour say together.
//
//   even    a flat bracket, muted          joined   two linked rings, teal
//   wide    legs bent outward, amber       lost     two rings apart, brick
//   tight   legs bent inward, plum         crashed  a cross, brick
// A word space is dotted. A small diamond: changed by hand. The number is brick only under the least gap.
#pragma once

#include "lettering/gaps.h"

#include <QPainter>

namespace frelm {

struct GapMark {
  GapLook look = GapLook::Even;
  double half = 4; // px, half of the gap's width
  bool chosen = false, by_hand = false, word_space = false, too_narrow = false;
  QString number; // empty: none
};

// at: the middle of the bracket; the number stands below it.
void paint_gap_mark(QPainter& painter, QPointF at, const GapMark& mark);

} // namespace frelm
