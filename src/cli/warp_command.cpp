// frelm-cli warp IN.svg --top "path data" --bottom "path data" [--verticals kept|follow] [--tolerance MM] -o OUT.svg
#include "cli/geometry.h"
#include "geom/path_data.h"
#include "geom/rails.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct WarpCommandOptions {
  std::string top, bottom;
  Verticals verticals = Verticals::Follow;
  WarpOptions warp;
  GeometryFiles files;
};

Result<Curve> rail(const std::string& data, const char* option) {
  Result<Curve> curve = parse_curve(data);
  if (!curve)
    return Error{curve.error().code, curve.error().text(), option};
  return curve;
}

Result<int> run_warp(const WarpCommandOptions& o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  const Result<Curve> top = rail(o.top, "--top"), bottom = rail(o.bottom, "--bottom");
  if (!top)
    return top.error();
  if (!bottom)
    return bottom.error();
  const Outline outline = input->all();
  const Result<WarpMap> map = rails_map(outline.bounds(), {*top, *bottom, o.verticals});
  if (!map)
    return map.error();
  std::vector<double> seconds;
  const Result<WarpResult> result = run_timed([&] { return warp(outline, *map, o.warp); }, o.files.repeat, seconds);
  if (!result)
    return result.error();
  if (result->report.folds > 0)
    return bad_input("the outline folds over itself between these rails; move them apart there",
                     fmt::format("x {:.1f} to {:.1f}, y {:.1f} to {:.1f}", result->report.fold_box.x0,
                                 result->report.fold_box.x1, result->report.fold_box.y0, result->report.fold_box.y1));
  const WarpStretch stretch = stretch_of(outline, *map);
  nlohmann::ordered_json json;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["worst_deviation"] = result->report.worst;
  json["fallbacks"] = nlohmann::ordered_json::object();
  json["narrowest"] = stretch.narrowest;
  json["widest"] = stretch.widest;
  json["steepest_shear_deg"] = degrees(stretch.steepest_shear);
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_warp_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<WarpCommandOptions>();
  CLI::App* c = app.add_subcommand("warp", "Bend outlines between two rails");
  const std::map<std::string, Verticals> verticals{{"kept", Verticals::Kept}, {"follow", Verticals::Follow}};
  c->add_option("--top", o->top, "path data of the top rail, mm")->required();
  c->add_option("--bottom", o->bottom, "path data of the bottom rail, mm")->required();
  c->add_option("--verticals", o->verticals, "kept or follow")->transform(CLI::CheckedTransformer(verticals));
  c->add_option("--tolerance", o->warp.tolerance, "mm from the exact bend");
  add_geometry_files(*c, o->files);
  c->callback([=, &context] { context.run = [=, &context] { return run_warp(*o, context); }; });
}

} // namespace frelm
