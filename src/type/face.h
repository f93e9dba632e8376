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

// A value along an axis of a variable face, in the axis's own units: "wght", 650.
struct AxisValue {
  std::string tag; // four letters
  double value = 0;
  auto operator<=>(const AxisValue&) const = default;
};
// An axis that a face can be varied along (OpenType 1.9, "fvar").
struct FaceAxis {
  std::string tag;
  std::string name;                    // the face's own; the tag where it has none
  double low = 0, usual = 0, high = 0; // usual: of the style
  bool operator==(const FaceAxis&) const = default;
};

// How a face is named in a recipe and a job file: "Lato", "Bold".
struct FaceName {
  std::string family;
  std::string style;
  std::vector<AxisValue> axes = {}; // by tag; what differs from the style
  auto operator<=>(const FaceName&) const = default;
  std::string text() const; // "Creek Flex Bold, wght 650"
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
  // What the face can be varied along; nothing for others.
  virtual std::vector<FaceAxis> axes() const { return {}; }
  // The style with these values in place of its own, those beyond an axis's end at its end; null where it lacks one of
  // these axes.
  virtual std::shared_ptr<const Face> varied(const std::vector<AxisValue>&) const { return nullptr; }
  // Of a varied face, which nobody else holds.
  virtual std::size_t bytes() const { return 0; }
  // The glyph's outline with positive total area; empty for blanks. Safe to call from several threads.
  virtual std::shared_ptr<const Outline> outline(std::uint32_t glyph) const = 0;
  // True when a job file's copy stands in for a font that is not on this machine.
  virtual bool carried() const { return false; }
};

std::string to_utf8(const std::u32string& text);
// Invalid sequences become U+FFFD.
std::u32string from_utf8(const std::string& text);

} // namespace frelm
