// frelm-cli plan JOB -o OUT.{json,plt,svg,…} [--pen]: what the knife does, in which order, how far and how long. A
// .json has each path; other files are written as `render` does.
#include "cli/open_job.h"
#include "cutting/cut_time.h"
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
  bool pen = false;
};

Json paths_json(const CutPlan& plan) {
  Json out = Json::array();
  for (const CutPath& p : plan.order) {
    const CutPiece& piece = plan.sheet.pieces[p.piece];
    const Contour& c = piece.outline.contours[p.contour];
    out.push_back({{"start", {p.start.x, p.start.y}},
                   {"closed", c.closed},
                   {"inside", p.inside ? Json(*p.inside) : Json(nullptr)},
                   {"length", c.length()},
                   {"piece", piece.id},
                   {"layer", plan.layers[plan.layer_of[p.piece]].name}});
  }
  return out;
}

Result<int> run_plan(const PlanCommandOptions& o, CommandContext& context) {
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  Result<CutSheet> sheet = cut_sheet(job->document, evaluator);
  if (!sheet)
    return sheet.error();
  const PlanChoice what{{}, {}, true, o.pen};
  const CutPlan plan = cut_plan(std::move(*sheet), job->document.materials, what);
  const CutTime time = cut_time(plan, job->document.materials);
  Json summary{{"cut_mm", time.cut}, {"travel_mm", time.travel}, {"seconds", time.seconds}};
  for (const std::string& path : o.outputs) {
    if (!path.ends_with(".json")) {
      const ExportChoice choice{{path}, what, false, usual_options(job->document), o.job};
      if (const Result<Exported> done = export_job(job->document, evaluator, choice, context.storage); !done)
        return done.error();
      continue;
    }
    Json whole{{"paths", paths_json(plan)}};
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
  c->callback([=, &context] { context.run = [=, &context] { return run_plan(*o, context); }; });
}

} // namespace frelm
