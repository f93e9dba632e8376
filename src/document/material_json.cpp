// Materials in the job file, and in the user's own list.
#include "document/material_json.h"
#include "document/job_json.h"

namespace frelm {
namespace job_json {

Json materials(const std::vector<Material>& list) {
  Json out = Json::array();
  for (const Material& m : list)
    out.push_back({{"name", m.name},
                   {"colour", to_hex(m.colour)},
                   {"width", m.width},
                   {"length", m.length},
                   {"least_stroke", m.least_stroke},
                   {"least_gap", m.least_gap},
                   {"mirrored", m.mirrored}});
  return out;
}

Material material(const At& m) {
  const Result<Colour> colour = colour_from_hex(m["colour"].text());
  if (!colour)
    m["colour"].refuse(colour.error().what);
  return {m["name"].text(),           *colour,
          m["width"].number(),        m["length"].number(),
          m["least_stroke"].number(), m["least_gap"].number(),
          m["mirrored"].flag()};
}

} // namespace job_json

std::string write_materials(const std::vector<Material>& list) {
  return job_json::materials(list).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

std::optional<std::vector<Material>> read_materials(std::string_view text) {
  try {
    const nlohmann::ordered_json parsed = nlohmann::ordered_json::parse(text);
    const job_json::At list(parsed, "");
    Document only;
    for (std::size_t i = 0; i < list.size(); ++i)
      only.materials.push_back(job_json::material(list.item(i)));
    if (!faults(only).empty())
      return std::nullopt;
    return std::move(only.materials);
  } catch (const job_json::Refused&) {
  } catch (const std::exception&) {
  }
  return std::nullopt;
}

} // namespace frelm
