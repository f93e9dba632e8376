// frelm-cli weld A.svg [B.svg] -o OUT.svg, and cutaway, shared, dropshared A.svg B.svg -o OUT.svg
#include "cli/open_job.h"
#include "geom/boolean.h"

#include <CLI/CLI.hpp>
#include <chrono>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

struct WeldCommandOptions {
  BooleanOp op = BooleanOp::Union;
  std::vector<std::string> inputs;
  std::string output;
  int repeat = 0;
};

Result<int> run_weld(const WeldCommandOptions& o, CommandContext& context) {
  std::vector<Outline> first, second;
  Box frame;
  std::string name;
  for (const std::string& path : o.inputs) {
    const Result<SvgDrawing> drawing = read_drawing(path, context);
    if (!drawing)
      return drawing.error();
    for (const SvgShape& s : drawing->shapes)
      (&path == &o.inputs.front() ? first : second).push_back(s.outline);
    frame.add(drawing->frame);
    name += (name.empty() ? "" : " + ") + path.substr(path.find_last_of('/') + 1);
  }
  Result<WeldResult> result = combine(o.op, first, second);
  if (!result)
    return result.error();
  std::vector<double> seconds;
  for (int i = 0; i < o.repeat; ++i) {
    const auto begin = std::chrono::steady_clock::now();
    result = combine(o.op, first, second);
    if (!result)
      return result.error();
    seconds.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
  }
  const CutSheet sheet{frame, {{1, name, {}, Destination::Knife, result->outline}}};
  if (const Result<Done> done = context.storage.write(o.output, write_svg(sheet)); !done)
    return done.error();
  nlohmann::ordered_json json;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["contours"] = result->outline.contours.size();
  json["worst_deviation"] = result->report.worst_move;
  json["fallbacks"] = {{"snapped_joins", result->report.snapped_joins},
                       {"polyline_contours", result->report.polyline_contours}};
  if (!seconds.empty()) {
    std::sort(seconds.begin(), seconds.end());
    json["median_s"] = seconds[seconds.size() / 2];
  }
  context.out << json.dump() << "\n";
  return 0;
}

} // namespace

void add_weld_command(CLI::App& app, CommandContext& context) {
  struct Command {
    const char *name, *about;
    BooleanOp op;
  };
  for (const Command& command :
       {Command{"weld", "Unite all outlines of one or two SVG files, curves kept", BooleanOp::Union},
        Command{"cutaway", "Take the second file's outlines away from the first one's", BooleanOp::Difference},
        Command{"shared", "Keep what the outlines of both files share", BooleanOp::Intersection},
        Command{"dropshared", "Keep what only one of the two files covers", BooleanOp::ExclusiveOr}}) {
    auto o = std::make_shared<WeldCommandOptions>();
    o->op = command.op;
    CLI::App* c = app.add_subcommand(command.name, command.about);
    c->add_option("files", o->inputs, "SVG files")->required()->expected(command.op == BooleanOp::Union ? 1 : 2, 2);
    c->add_option("-o", o->output, "SVG file to write")->required();
    c->add_option("--repeat", o->repeat, "time it N times and report the median")->check(CLI::PositiveNumber);
    c->callback([=, &context] { context.run = [=, &context] { return run_weld(*o, context); }; });
  }
}

} // namespace frelm
