// A word put into a frame so that it holds there: where, how large and how far turned it meets the frame in enough
// places that are wide enough.
//
// mm, degrees clockwise. The frame is an area with a hole, the space, that the word goes into: the largest one. The
// word may reach into the frame's material, not beyond it and not into its other holes, nor nearer to these than a
// margin.
#pragma once

#include "geom/contacts.h"

#include <functional>
#include <optional>

namespace frelm {

struct TieInWish {
  int contacts = 4;                     // at least 1
  double least = 2;                     // mm, the width that each has
  double turn = 0;                      // that the word may be turned by either way, 0 to 180
  double smallest = 0.5, largest = 1.5; // of the word's size, more than 0
  double margin = 0;                    // mm, to the frame's other holes
  bool operator==(const TieInWish&) const = default;
};

struct TiedIn {
  Point from, at;                // the middle of the word's box, and where it comes to lie
  double scale = 1, turn = 0;    // about that middle
  std::vector<Contact> contacts; // those that are wide enough, the widest first
  double widest_gap = 360;       // degrees between neighbouring contacts as seen from the word's middle
  Affine place() const;
};
struct TieInFound {
  // Up to three that differ, the best first: as many contacts as asked for, as far all round and as little buried in
  // the frame as can be. Each is verified by geom/contacts, and the frame's other holes stay open.
  std::vector<TiedIn> best;
  // None: the one that comes nearest, how many contacts are missing, and by how much the next one is too narrow (the
  // whole width where there is none, or it is not that: all lie on one side, or the word would reach past the frame or
  // into a hole there, and then one counts as missing).
  std::optional<TiedIn> nearest;
  int missing = 0;
  double short_by = 0; // mm
  bool one_sided = false;
};

// Contacts are spread: three or more never lie on one half of the way around, two never on a third of it.
// Requires sound outlines (geom/weld). Errors: no word, no hole in the frame, a wish that can't be; Cancelled.
// Method: poses on a grid are judged by the word's edge in the frame's distance field, the best ones climb, the best of
// these are measured; where none holds, once more on a grid between the first one's places. Bounded work, some seconds
// on one core; the same answer every time.
Result<TieInFound> tie_in(const Outline& word, const Outline& frame, const TieInWish& wish, std::stop_token stop = {},
                          const std::function<void(double)>& progress = {});

} // namespace frelm
