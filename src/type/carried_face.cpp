// Lines that were carried are given back as they were shaped; others are looked up letter by letter, at plain advances.
#include "type/carried_face.h"

namespace frelm {
namespace {

constexpr double missing_share = 0.5; // of the em: width of the box drawn for a letter that is not carried

// The box that stands for a missing letter: cap height high, with an inner box of a tenth of its width.
Outline missing_box(const FaceMetrics& m) {
  const double w = m.units_per_em * missing_share, h = m.cap_height, d = w / 10, side = w / 12;
  const auto box = [](double x0, double y0, double x1, double y1) {
    Contour c;
    const Point p[]{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}};
    for (int i = 0; i < 4; ++i)
      c.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
    return c;
  };
  return {{box(side, -h, w - side, 0), box(side + d, -h + d, w - side - d, -d).reversed()}};
}

class CarriedFace final : public Face {
public:
  explicit CarriedFace(CarriedShapes shapes) : shapes_(std::move(shapes)) {
    for (const auto& [glyph, data] : shapes_.glyphs)
      outlines_.emplace(glyph, std::make_shared<const Outline>(data.outline));
    if (!outlines_.contains(0))
      outlines_.emplace(0, std::make_shared<const Outline>(missing_box(shapes_.metrics)));
  }
  const FaceName& name() const override { return shapes_.name; }
  const FaceMetrics& metrics() const override { return shapes_.metrics; }
  bool carried() const override { return true; }

  std::vector<ShapedCluster> shape(const std::u32string& line, const ShapeStyle& style) const override {
    const std::string text = to_utf8(line);
    for (const CarriedShapes::Line& known : shapes_.lines)
      if (known.text == text && known.style == style)
        return known.clusters;
    std::vector<ShapedCluster> out;
    for (std::size_t i = 0; i < line.size(); ++i) {
      const auto it = shapes_.characters.find(line[i]);
      const bool known = it != shapes_.characters.end() && shapes_.glyphs.contains(it->second);
      const double em = shapes_.metrics.units_per_em;
      const double advance =
          known ? shapes_.glyphs.at(it->second).advance : em * (line[i] == U' ' ? 0.25 : missing_share);
      const bool blank = line[i] == U' ' && !known;
      ShapedCluster cluster{i, 1, advance, !known && !blank, {}};
      if (!blank)
        cluster.glyphs.push_back({known ? it->second : 0, 0, 0});
      out.push_back(std::move(cluster));
    }
    return out;
  }

  std::shared_ptr<const Outline> outline(std::uint32_t glyph) const override {
    const auto it = outlines_.find(glyph);
    return it != outlines_.end() ? it->second : outlines_.at(0);
  }

private:
  CarriedShapes shapes_;
  std::map<std::uint32_t, std::shared_ptr<const Outline>> outlines_;
};

} // namespace

std::shared_ptr<const Face> make_carried_face(CarriedShapes shapes) {
  return std::make_shared<CarriedFace>(std::move(shapes));
}

void carry(CarriedShapes& shapes, const Face& face, const std::u32string& line, const ShapeStyle& style) {
  const std::string text = to_utf8(line);
  for (const CarriedShapes::Line& known : shapes.lines)
    if (known.text == text && known.style == style)
      return;
  shapes.name = face.name();
  shapes.metrics = face.metrics();
  CarriedShapes::Line entry{text, style, face.shape(line, style)};
  for (const ShapedCluster& cluster : entry.clusters)
    for (const ShapedGlyph& g : cluster.glyphs) {
      CarriedShapes::Glyph& glyph = shapes.glyphs[g.glyph];
      glyph.outline = *face.outline(g.glyph);
      const bool plain = cluster.count == 1 && cluster.glyphs.size() == 1 && !cluster.missing;
      if (!plain)
        continue;
      const char32_t c = line[cluster.first];
      if (shapes.characters.contains(c))
        continue;
      shapes.characters[c] = g.glyph;
      const std::vector<ShapedCluster> alone = face.shape(std::u32string(1, c), style.ligatures);
      glyph.advance = alone.empty() ? cluster.advance : alone.front().advance;
    }
  shapes.lines.push_back(std::move(entry));
}

} // namespace frelm
