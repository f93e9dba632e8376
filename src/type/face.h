// A face: letters' shapes and how a line of text becomes clusters of glyphs.
//
// Font units throughout, y down (flipped from the font's own sense), baseline at y = 0; lettering/ scales to mm.
// Two implementations: FontFace (a font file: HarfBuzz shapes and gives outlines, unhinted and unscaled, so nothing is
// rounded) and CarriedFace (the shapes a job file carries, for machines without the font).
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <compare>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace frelm {

// How a face is named in a recipe and a job file: "Lato", "Bold".
struct FaceName {
  std::string family;
  std::string style;
  auto operator<=>(const FaceName&) const = default;
  std::string text() const { return style.empty() ? family : family + " " + style; }
};

enum class HeightSource { Capitals, FaceValue, TallestLetter };

struct FaceMetrics {
  double units_per_em = 1000;
  double cap_height = 700; // top of the flat capitals, median of H, I, E
  double x_height = 500;   // top of x, z, v, median
  double ascent = 800;     // above the baseline
  double descent = 200;    // below the baseline, positive
  HeightSource cap_source = HeightSource::Capitals;
  bool operator==(const FaceMetrics&) const = default;
};

struct ShapedGlyph {
  std::uint32_t glyph = 0;
  double x = 0, y = 0; // place of its origin relative to its cluster's origin
  bool operator==(const ShapedGlyph&) const = default;
};

// One letter: the glyphs that HarfBuzz keeps together, with their marks.
struct ShapedCluster {
  std::size_t first = 0; // index of its first code point in the text
  std::size_t count = 1; // code points
  double advance = 0;
  bool missing = false; // the face has no glyph for it; glyph 0 stands in
  std::vector<ShapedGlyph> glyphs;
  bool operator==(const ShapedCluster&) const = default;
};

// Common ligatures (liga, clig) are left out when letters are spaced apart; scripts that must join keep theirs.
enum class Ligatures { On, Off };

// A feature of the face (OpenType 1.9, "Feature tags") switched for a stretch of the line.
struct FeatureUse {
  std::string tag;         // four letters
  std::uint32_t value = 1; // 0: off; for alternates which one, from 1
  std::size_t first = 0;   // code points
  std::size_t count = static_cast<std::size_t>(-1);
  bool operator==(const FeatureUse&) const = default;
};
struct ShapeStyle {
  ShapeStyle(Ligatures common = Ligatures::On, std::vector<FeatureUse> switched = {})
      : ligatures(common), features(std::move(switched)) {}
  Ligatures ligatures;
  std::vector<FeatureUse> features;
  bool operator==(const ShapeStyle&) const = default;
};

// A feature that a person may want to switch.
struct FaceFeature {
  std::string tag;
  std::string name;         // the face's own, or the registered one
  bool normally_on = false; // as liga
  bool operator==(const FaceFeature&) const = default;
};
// Another shape that the face has for a letter, and what brings it.
struct GlyphAlternate {
  std::string tag;
  std::uint32_t value = 1;
  std::uint32_t glyph = 0;
  bool operator==(const GlyphAlternate&) const = default;
};

class Face {
public:
  virtual ~Face() = default;
  virtual const FaceName& name() const = 0;
  virtual const FaceMetrics& metrics() const = 0;
  // Clusters of one line in visual order from left to right. Every code point of the text belongs to one.
  virtual std::vector<ShapedCluster> shape(const std::u32string& line, const ShapeStyle& style) const = 0;
  // What the face can do besides; nothing for carried shapes.
  virtual std::vector<FaceFeature> features() const { return {}; }
  // Each once, without the usual one.
  virtual std::vector<GlyphAlternate> alternates(char32_t) const { return {}; }
  // The glyph's outline with positive total area; empty for blanks. Safe to call from several threads.
  virtual std::shared_ptr<const Outline> outline(std::uint32_t glyph) const = 0;
  // True when a job file's copy stands in for a font that is not on this machine.
  virtual bool carried() const { return false; }
};

std::string to_utf8(const std::u32string& text);
// Invalid sequences become U+FFFD.
std::u32string from_utf8(const std::string& text);

} // namespace frelm
