// frelm-cli trace IN.png|IN.jpg --width MM [--threshold SHARE] [--light-ink] [--colours N] [--speckle PIXELS]
// [--corners DEGREES] [--straight MM] [--tolerance MM] -o OUT.svg
#include "cli/geometry.h"
#include "formats/picture_read.h"
#include "formats/picture_trace.h"

#include "geom/picture_levels.h"

#include <CLI/CLI.hpp>
#include <cmath>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct TraceCommandOptions {
  double width = 100; // mm
  double speckle = 4; // px²
  bool light_ink = false;
  int colours = 0; // 0: ink alone
  TraceWish wish;
  GeometryFiles files;
};

Result<int> run_trace(const TraceCommandOptions& o, CommandContext& context) {
  const std::string& path = o.files.inputs.front();
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  const Result<ColourPicture> picture = read_pixels(*bytes);
  if (!picture)
    return at_place(picture.error(), path);
  const double mm_per_px = o.width / picture->width;
  TraceWish wish = o.wish;
  wish.ink = o.colours > 0 ? TraceInk::Colours : o.light_ink ? TraceInk::Light : TraceInk::Dark;
  wish.colours = o.colours;
  wish.specks = std::sqrt(4 / pi * o.speckle) * mm_per_px;
  const Affine place{mm_per_px, 0, 0, mm_per_px, 0, 0};
  std::vector<double> seconds;
  const Result<TracedPicture> result =
      run_timed([&] { return trace_picture(*picture, place, wish); }, o.files.repeat, seconds);
  if (!result)
    return at_place(result.error(), path);
  GeometryInput input;
  input.name = path.substr(path.find_last_of('/') + 1);
  input.frame = {0, 0, o.width, mm_per_px * picture->height};
  nlohmann::ordered_json json;
  json["nodes_in"] = result->points;
  json["nodes_out"] = result->nodes;
  json["worst_deviation"] = result->worst;
  json["fallbacks"] = {{"stretches_left", result->put_back}};
  if (wish.ink != TraceInk::Colours)
    json["threshold"] = result->threshold;
  std::vector<Outline> levels;
  for (const TracedLevel& l : result->levels) {
    levels.push_back(*l.outline);
    if (l.colour)
      json["colours"].push_back(to_hex(*l.colour));
  }
  return write_geometry(levels, o.files, input, json, std::move(seconds), context);
}

} // namespace

void add_trace_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<TraceCommandOptions>();
  CLI::App* c = app.add_subcommand("trace", "The dark areas of a PNG or JPEG picture as outlines");
  c->add_option("--width", o->width, "mm, of the whole picture")->required()->check(CLI::PositiveNumber);
  c->add_option("--threshold", o->wish.threshold, "darker than this share of white is ink; by the picture if not given")
      ->check(CLI::Range(0.0, 1.0));
  c->add_flag("--light-ink", o->light_ink, "trace what is lighter instead");
  c->add_option("--colours", o->colours, "so many colours, each an outline, but the paper's")
      ->check(CLI::Range(2, most_levels));
  c->add_option("--speckle", o->speckle, "areas of less than so many square pixels go")->check(CLI::NonNegativeNumber);
  c->add_option("--corners", o->wish.sharper_than, "degrees: sharper turns are corners")->check(CLI::Range(1.0, 180.0));
  c->add_option("--straight", o->wish.straight, "mm: what bends less is straight; 0.4 pixels if not given")
      ->check(CLI::NonNegativeNumber);
  c->add_option("--tolerance", o->wish.tolerance, "mm, for the curves; 0.4 pixels if not given")
      ->check(CLI::PositiveNumber);
  add_geometry_files(*c, o->files, 1, 1, "PNG or JPEG file");
  c->callback([=, &context] { context.run = [=, &context] { return run_trace(*o, context); }; });
}

} // namespace frelm
