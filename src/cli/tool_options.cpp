#include "cli/tool_options.h"

#include "cli/command.h"
#include "document/validity.h"

#include <CLI/CLI.hpp>

namespace frelm {
namespace {

const std::map<std::string, Machine> machines{
    {"blade", Machine::Blade}, {"laser", Machine::Laser}, {"torch", Machine::Torch}, {"router", Machine::Router}};
const std::map<std::string, Lead> leads{{"none", Lead::None}, {"line", Lead::Line}, {"arc", Lead::Arc}};
const std::map<std::string, Seam> seams{{"corners", Seam::Corners}, {"hidden", Seam::Hidden}};
const std::map<std::string, PartSide> sides{
    {"either", PartSide::Either}, {"left", PartSide::Left}, {"right", PartSide::Right}};

template <class T> void take(T& into, const std::optional<T>& from) {
  if (from)
    into = *from;
}

void apply(Material& m, const ToolOptions& o) {
  if (o.machine)
    m.machine = *o.machine, m.tool = usual_tool(m.machine);
  CutTool& t = m.tool;
  take(t.tip, o.tip), take(t.swivel, o.swivel), take(t.overcut, o.overcut), take(t.kerf, o.kerf);
  take(t.lead, o.lead), take(t.lead_length, o.lead_length), take(t.passes, o.passes), take(t.seam, o.seam);
  take(m.width, o.roll), take(m.panel_overlap, o.panels);
  if (o.roll)
    m.length = 0;
  take(t.side, o.side), take(t.speed, o.speed), take(t.acceleration, o.acceleration);
}

} // namespace

bool ToolOptions::any() const {
  return as_driven || machine || lead || seam || side || tip || swivel || overcut || kerf || lead_length || speed ||
         acceleration || passes;
}

bool ToolOptions::changes() const {
  return any() || roll || panels;
}

std::shared_ptr<ToolOptions> add_tool_options(CLI::App& c) {
  auto o = std::make_shared<ToolOptions>();
  c.add_flag("--as-driven", o->as_driven, "as the machine moves, by the job's materials");
  c.add_option("--machine", o->machine, "its usual tool, for all materials")
      ->transform(CLI::CheckedTransformer(machines));
  c.add_option("--tip", o->tip, "mm that the blade's tip trails behind its axis");
  c.add_option("--swivel", o->swivel, "degrees: larger turns are gone around by the blade");
  c.add_option("--overcut", o->overcut, "mm over the beginning once more");
  c.add_option("--kerf", o->kerf, "mm lost along the line");
  c.add_option("--lead", o->lead, "the way in and out")->transform(CLI::CheckedTransformer(leads));
  c.add_option("--lead-length", o->lead_length, "mm");
  c.add_option("--passes", o->passes, "times over every line");
  c.add_option("--seam", o->seam, "where lines begin")->transform(CLI::CheckedTransformer(seams));
  c.add_option("--side", o->side, "of the tool on which the part lies")->transform(CLI::CheckedTransformer(sides));
  c.add_option("--speed", o->speed, "mm/s");
  c.add_option("--acceleration", o->acceleration, "mm/s²");
  c.add_option("--roll", o->roll, "mm: all materials are rolls so wide");
  c.add_option("--panels", o->panels, "mm: work larger than its material is cut in panels that overlap so far");
  c.add_option("--panel", o->panel, "only this one of the panels, from 1 on");
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
