// frelm-cli thin IN.svg --tolerance MM -o OUT.svg
#include "cli/geometry.h"
#include "geom/thin.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct ThinCommandOptions {
  ThinOptions thin;
  GeometryFiles files;
};

Result<int> run_thin(const ThinCommandOptions& o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  const Outline outline = input->all();
  std::vector<double> seconds;
  const Result<ThinResult> result = run_timed([&] { return thin(outline, o.thin); }, o.files.repeat, seconds);
  if (!result)
    return result.error();
  nlohmann::ordered_json json;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["worst_deviation"] = result->report.worst;
  json["fallbacks"] = {{"contours_left", result->report.contours_left}};
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_thin_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<ThinCommandOptions>();
  CLI::App* c = app.add_subcommand("thin", "Leave few nodes, within a tolerance; corners stay");
  c->add_option("--tolerance", o->thin.tolerance, "mm")->required();
  add_geometry_files(*c, o->files);
  c->callback([=, &context] { context.run = [=, &context] { return run_thin(*o, context); }; });
}

} // namespace frelm
