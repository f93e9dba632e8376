// frelm-cli trace IN.png --width MM [--threshold SHARE] [--light-ink] [--speckle PIXELS] [--tolerance MM] -o OUT.svg
#include "cli/geometry.h"
#include "formats/png_read.h"
#include "geom/trace.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct TraceCommandOptions {
  TraceOptions trace;
  GeometryFiles files;
};

Result<int> run_trace(const TraceCommandOptions& o, CommandContext& context) {
  const std::string& path = o.files.inputs.front();
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  const Result<GreyPicture> picture = read_png(*bytes);
  if (!picture)
    return at_place(picture.error(), path);
  std::vector<double> seconds;
  const Result<ThinResult> result = run_timed([&] { return trace(*picture, o.trace); }, o.files.repeat, seconds);
  if (!result)
    return result.error();
  GeometryInput input;
  input.name = path.substr(path.find_last_of('/') + 1);
  const double height = o.trace.width * picture->height / picture->width;
  input.frame = {0, 0, o.trace.width, height};
  nlohmann::ordered_json json;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["worst_deviation"] = result->report.worst;
  json["fallbacks"] = {{"contours_left", result->report.contours_left}};
  return write_geometry({result->outline}, o.files, input, json, std::move(seconds), context);
}

} // namespace

void add_trace_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<TraceCommandOptions>();
  CLI::App* c = app.add_subcommand("trace", "The dark areas of a PNG picture as outlines");
  c->add_option("--width", o->trace.width, "mm, of the whole picture")->required();
  c->add_option("--threshold", o->trace.threshold, "darker than this share of white is ink");
  c->add_flag("--light-ink", o->trace.light_ink, "trace what is lighter instead");
  c->add_option("--speckle", o->trace.speckle, "areas of at most so many pixels go");
  c->add_option("--tolerance", o->trace.tolerance, "mm, for thinning; a quarter of a pixel if not given")
      ->check(CLI::PositiveNumber);
  add_geometry_files(*c, o->files, 1, 1, "PNG file");
  c->callback([=, &context] { context.run = [=, &context] { return run_trace(*o, context); }; });
}

} // namespace frelm
