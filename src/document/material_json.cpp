// Materials in the job file, and in the user's own list.
#include "document/material_json.h"
#include "document/job_json.h"

namespace frelm {
namespace job_json {

FRELM_NAMES(Machine, {Machine::Blade, "blade"}, {Machine::Laser, "laser"}, {Machine::Torch, "torch"},
            {Machine::Router, "router"});
FRELM_NAMES(Lead, {Lead::None, "none"}, {Lead::Line, "line"}, {Lead::Arc, "arc"});
FRELM_NAMES(Seam, {Seam::Corners, "corners"}, {Seam::Hidden, "hidden"});
FRELM_NAMES(PartSide, {PartSide::Either, "either"}, {PartSide::Left, "left"}, {PartSide::Right, "right"});

namespace {

Json tool_json(const CutTool& t) {
  return {{"tip", t.tip},
          {"swivel", t.swivel},
          {"overcut", t.overcut},
          {"kerf", t.kerf},
          {"lead", name_of(t.lead)},
          {"lead_length", t.lead_length},
          {"passes", t.passes},
          {"seam", name_of(t.seam)},
          {"side", name_of(t.side)},
          {"speed", t.speed},
          {"acceleration", t.acceleration}};
}
CutTool read_tool(const At& t) {
  CutTool out{t["tip"].number(), t["swivel"].number(), t["overcut"].number(), t["kerf"].number()};
  out.lead = t["lead"].choice<Lead>(), out.lead_length = t["lead_length"].number();
  out.passes = static_cast<int>(std::min<std::uint64_t>(t["passes"].whole(), most_passes + 1));
  out.seam = t["seam"].choice<Seam>(), out.side = t["side"].choice<PartSide>();
  out.speed = t["speed"].number(), out.acceleration = t["acceleration"].number();
  return out;
}

} // namespace

Json materials(const std::vector<Material>& list) {
  Json out = Json::array();
  for (const Material& m : list)
    out.push_back({{"name", m.name},
                   {"colour", to_hex(m.colour)},
                   {"width", m.width},
                   {"length", m.length},
                   {"least_stroke", m.least_stroke},
                   {"least_gap", m.least_gap},
                   {"machine", name_of(m.machine)},
                   {"nodes_per_100", m.nodes_per_100},
                   {"nodes_apart", m.nodes_apart},
                   {"mirrored", m.mirrored},
                   {"tool", tool_json(m.tool)},
                   {"panel_overlap", m.panel_overlap}});
  return out;
}

Material material(const At& m) {
  const Result<Colour> colour = colour_from_hex(m["colour"].text());
  if (!colour)
    m["colour"].refuse(colour.error().what);
  Material out{m["name"].text(),       *colour, m["width"].number(), m["length"].number(), m["least_stroke"].number(),
               m["least_gap"].number()};
  out.mirrored = m["mirrored"].flag();
  if (m.has("machine")) { // since version 14
    out.machine = m["machine"].choice<Machine>();
    out.nodes_per_100 = m["nodes_per_100"].number(), out.nodes_apart = m["nodes_apart"].number();
  }
  if (m.has("tool")) // since version 15
    out.tool = read_tool(m["tool"]);
  if (m.has("panel_overlap")) // since version 16
    out.panel_overlap = m["panel_overlap"].number();
  return out;
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
