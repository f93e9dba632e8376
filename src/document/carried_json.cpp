// Carried shapes in the job file: the letters of a face as they were when the job was saved.
#include "document/job_json.h"

namespace frelm::job_json {

FRELM_NAMES(Ligatures, {Ligatures::On, "on"}, {Ligatures::Off, "off"});
FRELM_NAMES(HeightSource, {HeightSource::Capitals, "capitals"}, {HeightSource::FaceValue, "face"},
            {HeightSource::TallestLetter, "tallest"});

Json carried(const CarriedShapes& s) {
  Json glyphs = Json::array(), characters = Json::array(), lines = Json::array();
  for (const auto& [id, g] : s.glyphs)
    glyphs.push_back({{"glyph", id}, {"advance", g.advance}, {"path", outline(g.outline)}});
  for (const auto& [c, g] : s.characters)
    characters.push_back(Json::array({static_cast<std::uint32_t>(c), g}));
  for (const CarriedShapes::Line& l : s.lines) {
    Json clusters = Json::array();
    for (const ShapedCluster& c : l.clusters) {
      Json shapes = Json::array();
      for (const ShapedGlyph& g : c.glyphs)
        shapes.push_back(Json::array({g.glyph, g.x, g.y}));
      clusters.push_back(
          {{"first", c.first}, {"count", c.count}, {"advance", c.advance}, {"missing", c.missing}, {"glyphs", shapes}});
    }
    Json line = {{"text", l.text}, {"ligatures", name_of(l.style.ligatures)}};
    for (const FeatureUse& f : l.style.features)
      line["features"].push_back(f.count == static_cast<std::size_t>(-1)
                                     ? Json::array({f.tag, f.value})
                                     : Json::array({f.tag, f.value, f.first, f.count}));
    line["clusters"] = clusters;
    lines.push_back(std::move(line));
  }
  const FaceMetrics& m = s.metrics;
  Json out = face_name(s.name);
  out.update({{"metrics",
               {{"units_per_em", m.units_per_em},
                {"cap_height", m.cap_height},
                {"x_height", m.x_height},
                {"ascent", m.ascent},
                {"descent", m.descent},
                {"cap_source", name_of(m.cap_source)}}},
              {"glyphs", glyphs},
              {"characters", characters},
              {"lines", lines}});
  return out;
}
CarriedShapes carried(const At& at) {
  CarriedShapes s;
  s.name = face_name(at);
  const At m = at["metrics"];
  s.metrics = {m["units_per_em"].positive(), m["cap_height"].positive(), m["x_height"].positive(),
               m["ascent"].number(),         m["descent"].number(),      m["cap_source"].choice<HeightSource>()};
  const At glyphs = at["glyphs"], characters = at["characters"], lines = at["lines"];
  for (std::size_t i = 0; i < glyphs.size(); ++i)
    s.glyphs[static_cast<std::uint32_t>(glyphs.item(i)["glyph"].whole())] = {glyphs.item(i)["advance"].number(),
                                                                             outline(glyphs.item(i)["path"])};
  for (std::size_t i = 0; i < characters.size(); ++i)
    s.characters[static_cast<char32_t>(characters.item(i).item(0).whole())] =
        static_cast<std::uint32_t>(characters.item(i).item(1).whole());
  for (std::size_t i = 0; i < lines.size(); ++i) {
    CarriedShapes::Line line{lines.item(i)["text"].text(), lines.item(i)["ligatures"].choice<Ligatures>(), {}};
    if (lines.item(i).has("features")) {
      const At features = lines.item(i)["features"];
      for (std::size_t f = 0; f < features.size(); ++f) {
        const At use = features.item(f);
        FeatureUse& made = line.style.features.emplace_back();
        made.tag = use.item(0).text(), made.value = static_cast<std::uint32_t>(use.item(1).whole());
        if (use.size() > 2)
          made.first = use.item(2).whole(), made.count = use.item(3).whole();
      }
    }
    const std::size_t length = from_utf8(line.text).size();
    const At clusters = lines.item(i)["clusters"];
    for (std::size_t c = 0; c < clusters.size(); ++c) {
      const At cluster = clusters.item(c);
      ShapedCluster shaped{cluster["first"].whole(),
                           cluster["count"].whole(),
                           cluster["advance"].number(),
                           cluster["missing"].flag(),
                           {}};
      if (shaped.first >= length || shaped.count > length - shaped.first)
        cluster.refuse(FRELM_WORDS("core", "lies outside its line"));
      const At shapes = cluster["glyphs"];
      for (std::size_t g = 0; g < shapes.size(); ++g)
        shaped.glyphs.push_back({static_cast<std::uint32_t>(shapes.item(g).item(0).whole()),
                                 shapes.item(g).item(1).number(), shapes.item(g).item(2).number()});
      line.clusters.push_back(std::move(shaped));
    }
    s.lines.push_back(std::move(line));
  }
  return s;
}

} // namespace frelm::job_json
