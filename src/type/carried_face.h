// The shapes of a face that a job file carries: enough to show, cut and lightly edit the job on a machine that does
// not have the font.
#pragma once

#include "type/face.h"

#include <map>

namespace frelm {

// Plain data, as it stands in the job file. Glyph outlines in font units, y down.
struct CarriedShapes {
  struct Glyph {
    double advance = 0;
    Outline outline;
    bool operator==(const Glyph&) const = default;
  };
  struct Line {
    std::string text; // UTF-8
    ShapeStyle style;
    std::vector<ShapedCluster> clusters;
    bool operator==(const Line&) const = default;
  };
  FaceName name;
  FaceMetrics metrics;
  std::map<std::uint32_t, Glyph> glyphs;
  std::map<char32_t, std::uint32_t> characters;
  std::vector<Line> lines;
  bool operator==(const CarriedShapes&) const = default;
};

// Lines that the job was saved with are shaped exactly as then; other text is set letter by letter from the
// characters carried, the rest is missing.
std::shared_ptr<const Face> make_carried_face(CarriedShapes shapes);

// Adds what this line needs of the face.
void carry(CarriedShapes& shapes, const Face& face, const std::u32string& line, const ShapeStyle& style);

} // namespace frelm
