// frelm-cli thin IN.svg --tolerance MM -o OUT.svg
// frelm-cli thin IN.svg [--per-100 NODES] [--apart MM] [--most-off MM] -o OUT.svg
#include "cli/geometry.h"
#include "geom/few_nodes.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct ThinCommandOptions {
  ThinOptions thin;
  NodeTarget target;
  GeometryFiles files;
};

Result<int> run_thin(const ThinCommandOptions& o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  const Outline outline = input->all();
  std::vector<double> seconds;
  nlohmann::ordered_json json;
  const auto few = [&]() -> Result<ThinResult> {
    if (!(o.target.per_100 > 0 || o.target.apart > 0))
      return thin(outline, o.thin);
    Result<FewNodes> made = few_nodes(outline, o.target);
    if (!made)
      return made.error();
    json["reached"] = made->reached;
    return ThinResult{std::move(made->outline), made->report};
  };
  const Result<ThinResult> result = run_timed(few, o.files.repeat, seconds);
  if (!result)
    return result.error();
  const NodeDensity density = node_density(result->outline);
  json["per_100"] = density.per_100;
  json["apart"] = density.apart;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["worst_deviation"] = result->report.worst;
  json["fallbacks"] = {{"contours_left", result->report.contours_left}};
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_thin_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<ThinCommandOptions>();
  CLI::App* c = app.add_subcommand("thin", "Leave few nodes, within a tolerance or for a machine; corners stay");
  auto* tolerance = c->add_option("--tolerance", o->thin.tolerance, "mm");
  auto* per_100 = c->add_option("--per-100", o->target.per_100, "nodes for each 100 mm of line, at most")
                      ->check(CLI::PositiveNumber)
                      ->excludes(tolerance);
  auto* apart = c->add_option("--apart", o->target.apart, "mm from node to node along the line, at least")
                    ->check(CLI::PositiveNumber)
                    ->excludes(tolerance);
  c->add_option("--most-off", o->target.most_off, "mm that this may cost")->check(CLI::PositiveNumber);
  add_geometry_files(*c, o->files);
  c->callback([=, &context] {
    if (tolerance->count() + per_100->count() + apart->count() == 0)
      throw CLI::RequiredError("--tolerance, --per-100 or --apart");
    context.run = [=, &context] { return run_thin(*o, context); };
  });
}

} // namespace frelm
