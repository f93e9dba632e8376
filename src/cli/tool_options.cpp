#include "cli/tool_options.h"

#include "cli/command.h"
#include "document/validity.h"

#include <CLI/CLI.hpp>

namespace frelm {
namespace {

template <class E> E chosen(const std::string& name, std::initializer_list<std::pair<const char*, E>> all, E usual) {
  for (const auto& [n, value] : all)
    if (name == n)
      return value;
  return usual;
}
template <class T> void take(T& into, const std::optional<T>& from) {
  if (from)
    into = *from;
}

void apply(Material& m, const ToolOptions& o) {
  if (!o.machine.empty()) {
    m.machine =
        chosen(o.machine, {std::pair{"blade", Machine::Blade}, {"laser", Machine::Laser}, {"torch", Machine::Torch}},
               Machine::Router);
    m.tool = usual_tool(m.machine);
  }
  take(m.tool.tip, o.tip), take(m.tool.swivel, o.swivel), take(m.tool.overcut, o.overcut), take(m.tool.kerf, o.kerf);
  take(m.tool.lead_length, o.lead_length), take(m.tool.speed, o.speed), take(m.tool.acceleration, o.acceleration);
  take(m.tool.passes, o.passes);
  if (!o.lead.empty())
    m.tool.lead = chosen(o.lead, {std::pair{"line", Lead::Line}, {"arc", Lead::Arc}}, Lead::None);
  if (!o.seam.empty())
    m.tool.seam = chosen(o.seam, {std::pair{"hidden", Seam::Hidden}}, Seam::Corners);
  if (!o.side.empty())
    m.tool.side = chosen(o.side, {std::pair{"left", PartSide::Left}, {"right", PartSide::Right}}, PartSide::Either);
}

} // namespace

bool ToolOptions::any() const {
  return as_driven || !machine.empty() || !lead.empty() || !seam.empty() || !side.empty() || tip || swivel || overcut ||
         kerf || lead_length || speed || acceleration || passes;
}

std::shared_ptr<ToolOptions> add_tool_options(CLI::App& c) {
  auto o = std::make_shared<ToolOptions>();
  c.add_flag("--as-driven", o->as_driven, "as the machine moves, by the job's materials");
  c.add_option("--machine", o->machine, "its usual tool, for all materials")
      ->check(CLI::IsMember({"blade", "laser", "torch", "router"}));
  c.add_option("--tip", o->tip, "mm that the blade's tip trails behind its axis");
  c.add_option("--swivel", o->swivel, "degrees: larger turns are gone around by the blade");
  c.add_option("--overcut", o->overcut, "mm over the beginning once more");
  c.add_option("--kerf", o->kerf, "mm lost along the line");
  c.add_option("--lead", o->lead, "the way in and out")->check(CLI::IsMember({"none", "line", "arc"}));
  c.add_option("--lead-length", o->lead_length, "mm");
  c.add_option("--passes", o->passes, "times over every line");
  c.add_option("--seam", o->seam, "where lines begin")->check(CLI::IsMember({"corners", "hidden"}));
  c.add_option("--side", o->side, "of the tool on which the part lies")
      ->check(CLI::IsMember({"either", "left", "right"}));
  c.add_option("--speed", o->speed, "mm/s");
  c.add_option("--acceleration", o->acceleration, "mm/s²");
  return o;
}

Result<Document> with_tools(Document document, const ToolOptions& o) {
  std::vector<PieceId> all;
  for (const auto& p : document.pieces)
    all.push_back(p->id);
  document = with_materials_for(std::move(document), all, "Material");
  for (Material& m : document.materials) {
    apply(m, o);
    Document one;
    one.materials = {m};
    if (!faults(one).empty())
      return misuse("one of the tool's numbers is out of range", "--tip … --acceleration");
  }
  return document;
}

} // namespace frelm
