// Stage 1, shape: the recipe's letters as lines of clusters with outlines in mm. Pure; no bend, no spacing.
#pragma once

#include "lettering/recipe.h"

namespace frelm {

struct SetCluster {
  std::size_t first = 0; // index of its first code point in the whole text
  std::size_t count = 1;
  double advance = 0;                   // mm, kerning included
  std::shared_ptr<const Outline> shape; // mm, y down, baseline origin at (0, 0); marks included; may be empty
  Box ink;                              // of shape
  bool space = false;                   // a word space
  bool missing = false;                 // the face lacks it
  double scale = 1;                     // of its line, where lines are made equally wide
  bool blank() const { return ink.empty(); }
};

struct SetText {
  std::vector<std::vector<SetCluster>> lines;
  std::vector<std::size_t> line_starts; // index of each line's first code point
  double mm_per_unit = 0;
  double cap_height = 0, x_height = 0, ascent = 0, descent = 0; // mm
  HeightSource cap_source = HeightSource::Capitals;
  std::u32string missing;           // characters the face lacks, each once
  bool carried_face = false;        // set from the job's own shapes: the font is not on this machine
  std::size_t letter_count() const; // clusters with ink
  std::size_t bytes() const;
};

// The text as set: capitals mode applied, control characters as spaces, one code point for each typed one.
std::u32string cased(const std::u32string& text, Capitals mode);
// What is shaped with ligatures off; the rule of CSS Text 3, 8.2: optional ligatures go when letters are spaced.
Ligatures ligatures_for(const Spacing& spacing);
// The lines of the text, split at line feeds; at least one, perhaps empty.
std::vector<std::u32string> split_lines(const std::u32string& text);

// How the line that begins at this code point is shaped: features of the text, alternates of its letters.
ShapeStyle shape_style(const Letters& letters, Ligatures ligatures, std::size_t line_start, std::size_t line_length);

// Errors: a size or width that is not more than 0 (or over 10 m).
Result<std::shared_ptr<const SetText>> set_text(const Letters& letters, Ligatures ligatures, const Face& face);

} // namespace frelm
