// Starters: small arrangements made in one go, to be filled with one's own words.
#pragma once

#include "document/edits.h"
#include "type/face_library.h"

namespace frelm {

struct Starter {
  Document document;
  std::vector<PieceId> pieces; // to be selected
};

// A badge: one band guide, the upper text clockwise outside and the lower one upright on its inside, both with capitals
// that fill the band.
struct BadgeOptions {
  std::u32string upper = U"UPPER TEXT", lower = U"LOWER TEXT";
  Point centre;
  double inner = 70, outer = 100; // mm
  FaceName face{"Lato", "Bold"};
};
// Errors: circles without room between them.
Result<Starter> add_badge(Document document, const BadgeOptions& options);

// A text on a spiral with as many windings as it needs, its letters as high as the windings allow.
struct SpiralOptions {
  PieceId lettering = 0; // a lettering of the document that goes onto the spiral; 0: a new one of text and face
  std::u32string text;
  Point centre;
  double inner = 24, pitch = 17; // mm
  FaceName face{"Lato", "Regular"};
};
// Errors: those of guide_line.
Result<Starter> add_spiral(Document document, const SpiralOptions& options, const FaceLibrary& faces);

} // namespace frelm
