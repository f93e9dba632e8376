// frelm-cli plan JOB -o OUT.{json,plt,svg,…} [--pen] [--as-driven] [--moves] [the tool's options]: what the knife does,
// in which order, how far and how long. A .json has each path; other files are written as `render` does.
#include "cli/open_job.h"
#include "cli/tool_options.h"
#include "cutting/cut_time.h"
#include "cutting/driven.h"
#include "formats/export.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

using Json = nlohmann::ordered_json;

struct PlanCommandOptions {
  std::string job;
  std::vector<std::string> outputs;
  bool pen = false, moves = false;
  std::shared_ptr<ToolOptions> tool;
};

Json paths_json(const CutPlan& lines, const DrivenPlan& drive, bool moves) {
  Json out = Json::array();
  const CutPlan& plan = drive.plan;
  for (std::size_t i = 0; i < plan.order.size(); ++i) {
    const CutPath &p = plan.order[i], &line = lines.order[drive.of[i]];
    const CutPiece& piece = plan.sheet.pieces[p.piece];
    const Contour& c = piece.outline.contours[p.contour];
    out.push_back({{"start", {p.start.x, p.start.y}},
                   {"closed", lines.sheet.pieces[line.piece].outline.contours[line.contour].closed},
                   {"inside", p.inside ? Json(*p.inside) : Json(nullptr)},
                   {"length", c.length()},
                   {"piece", piece.id},
                   {"layer", plan.layers[plan.layer_of[p.piece]].name}});
    if (!moves)
      continue;
    Json& places = out.back()["moves"] = Json::array();
    for (const Point at : flatten(c, HpglOptions{}.flatten))
      places.push_back({at.x, at.y});
    if (c.closed)
      places.push_back(places.front());
  }
  return out;
}

Result<int> run_plan(const PlanCommandOptions& o, CommandContext& context) {
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  Document document = job->document;
  if (o.tool->changes()) {
    Result<Document> with = with_tools(std::move(document), *o.tool);
    if (!with)
      return with.error();
    document = std::move(*with);
  }
  const PlanChoice what{{}, {}, true, o.pen, o.tool->panel.value_or(0)};
  const Result<CutPlan> lines = job_plan(document, evaluator, what);
  if (!lines)
    return lines.error();
  // What is not asked for as it is driven follows its lines.
  const Result<DrivenPlan> drive = driven(*lines, o.tool->any() ? document.materials : std::vector<Material>{});
  if (!drive)
    return drive.error();
  const CutPlan& plan = drive->plan;
  const CutTime time = cut_time(plan, document.materials);
  Json summary{{"cut_mm", time.cut}, {"travel_mm", time.travel}, {"seconds", time.seconds}};
  if (o.tool->any())
    summary["gone"] = drive->gone.size(), summary["without_lead"] = drive->without_lead.size();
  for (const std::string& path : o.outputs) {
    if (!path.ends_with(".json")) {
      const ExportChoice choice{{path}, what, false, usual_options(document), o.job, o.tool->any()};
      if (const Result<Exported> done = export_job(document, evaluator, choice, context.storage); !done)
        return done.error();
      continue;
    }
    Json whole{{"paths", paths_json(*lines, *drive, o.moves)}};
    whole.update(summary);
    if (const Result<Done> done = context.storage.write(path, whole.dump(1) + "\n"); !done)
      return done.error();
  }
  summary["paths"] = plan.order.size();
  context.out << summary.dump() << "\n";
  return 0;
}

} // namespace

void add_plan_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<PlanCommandOptions>();
  CLI::App* c = app.add_subcommand("plan", "What the knife does: the order of a job's lines, how far and how long");
  c->add_option("JOB", o->job, ".frelm file, or an SVG with a job in it")->required();
  c->add_option("-o,--output", o->outputs, ".json with each path, or a file for the cutter");
  c->add_flag("--pen", o->pen, "what the pen draws as well");
  c->add_flag("--moves", o->moves, "all places of each path into the .json");
  o->tool = add_tool_options(*c);
  c->callback([=, &context] { context.run = [=, &context] { return run_plan(*o, context); }; });
}

} // namespace frelm
