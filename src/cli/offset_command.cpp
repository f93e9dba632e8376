// frelm-cli offset IN.svg --distance MM [--join round|mitre|bevel] [--mitre-limit X] [--cap round|flat|square]
//                  [--rings N] [--drop-holes] [--drop-holes-under MM] [--tolerance MM] -o OUT.svg
#include "cli/geometry.h"
#include "geom/offset.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct OffsetCommandOptions {
  double distance = 0;
  OffsetOptions offset;
  bool drop_holes = false;
  double drop_under = -1; // mm; less than 0: not given
  GeometryFiles files;
};

nlohmann::ordered_json boxes_json(const std::vector<Box>& boxes) {
  nlohmann::ordered_json out = nlohmann::ordered_json::array();
  for (const Box& b : boxes)
    out.push_back({{"x", b.x0}, {"y", b.y0}, {"width", b.width()}, {"height", b.height()}});
  return out;
}

Result<int> run_offset(OffsetCommandOptions o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  if (o.drop_holes)
    o.offset.holes = HoleRule::Drop;
  else if (o.drop_under >= 0)
    o.offset.holes = HoleRule::DropSmall, o.offset.hole_size = o.drop_under;
  const Result<Outline> painted = input->painted();
  if (!painted)
    return painted.error();
  const Outline& outline = *painted;
  std::vector<double> seconds;
  const auto work = [&] { return offset(outline, o.distance, o.offset); };
  const Result<OffsetResult> result = run_timed(work, o.files.repeat, seconds);
  if (!result)
    return result.error();
  nlohmann::ordered_json json = weld_report_json(result->report.weld);
  json["vanished"] = boxes_json(result->report.vanished);
  json["closed_holes"] = boxes_json(result->report.closed_holes);
  json["dropped_holes"] = result->report.dropped_holes;
  json["open_left_out"] = result->report.open_left_out;
  json["mended"] = result->report.mended;
  return write_geometry(result->rings, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_offset_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<OffsetCommandOptions>();
  CLI::App* c = app.add_subcommand("offset", "Make outlines fatter or thinner by a distance, curves kept");
  const std::map<std::string, JoinStyle> joins{
      {"round", JoinStyle::Round}, {"mitre", JoinStyle::Mitre}, {"bevel", JoinStyle::Bevel}};
  const std::map<std::string, CapStyle> caps{
      {"round", CapStyle::Round}, {"flat", CapStyle::Flat}, {"square", CapStyle::Square}};
  c->add_option("--distance", o->distance, "mm; more than 0 outside, less than 0 inside")->required();
  c->add_option("--join", o->offset.join, "round, mitre or bevel")->transform(CLI::CheckedTransformer(joins));
  c->add_option("--mitre-limit", o->offset.mitre_limit, "a longer corner is bevelled; in distances");
  c->add_option("--cap", o->offset.cap, "ends of open lines")->transform(CLI::CheckedTransformer(caps));
  c->add_option("--rings", o->offset.rings, "so many, each one distance further");
  CLI::Option* all = c->add_flag("--drop-holes", o->drop_holes, "fill every hole of the result");
  c->add_option("--drop-holes-under", o->drop_under, "fill holes that fit into a square of so many mm")
      ->check(CLI::NonNegativeNumber)
      ->excludes(all);
  c->add_option("--tolerance", o->offset.tolerance, "mm from the exact offset");
  add_geometry_files(*c, o->files);
  c->callback([=, &context] { context.run = [=, &context] { return run_offset(*o, context); }; });
}

} // namespace frelm
