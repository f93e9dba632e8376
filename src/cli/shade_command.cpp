// frelm-cli shade IN.svg --angle DEG --depth MM [--kind block|drop] [--alone] [--gap MM] -o OUT.svg
#include "cli/geometry.h"
#include "geom/shade.h"
#include "lettering/finish.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct ShadeCommandOptions {
  double angle = 0, depth = 0;
  ShadeKind kind = ShadeKind::Block;
  bool alone = false;
  ShadeOptions shade;
  GeometryFiles files;
};

Result<int> run_shade(ShadeCommandOptions o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  o.shade.part = o.alone ? ShadePart::Alone : ShadePart::WithLetters;
  const Result<Outline> painted = input->painted();
  if (!painted)
    return painted.error();
  const Outline& outline = *painted;
  const Vec way = direction(radians(o.angle)) * o.depth;
  const auto work = [&] {
    return o.kind == ShadeKind::Block ? block_shade(outline, way, o.shade) : drop_shade(outline, way, o.shade);
  };
  std::vector<double> seconds;
  const Result<WeldResult> result = run_timed(work, o.files.repeat, seconds);
  if (!result)
    return result.error();
  nlohmann::ordered_json json = weld_report_json(result->report);
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_shade_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<ShadeCommandOptions>();
  CLI::App* c = app.add_subcommand("shade", "Sweep outlines along a straight way, or copy them aside");
  const std::map<std::string, ShadeKind> kinds{{"block", ShadeKind::Block}, {"drop", ShadeKind::Drop}};
  c->add_option("--angle", o->angle, "degrees, 0 = to the right, clockwise")->required();
  c->add_option("--depth", o->depth, "mm")->required()->check(CLI::NonNegativeNumber);
  c->add_option("--kind", o->kind, "block or drop")->transform(CLI::CheckedTransformer(kinds));
  CLI::Option* alone = c->add_flag("--alone", o->alone, "without the outlines themselves");
  c->add_option("--gap", o->shade.gap, "mm between outlines and shade")->needs(alone);
  add_geometry_files(*c, o->files);
  c->callback([=, &context] { context.run = [=, &context] { return run_shade(*o, context); }; });
}

} // namespace frelm
