// frelm-cli weld A.svg [B.svg] -o OUT.svg, and cutaway, shared, dropshared A.svg B.svg -o OUT.svg
#include "cli/geometry.h"
#include "geom/boolean.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct WeldCommandOptions {
  BooleanOp op = BooleanOp::Union;
  GeometryFiles files;
};

Result<int> run_weld(const WeldCommandOptions& o, CommandContext& context) {
  Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  input->files.resize(2); // the second may be missing
  std::vector<double> seconds;
  const auto work = [&] { return combine(o.op, input->files[0], input->files[1]); };
  const Result<WeldResult> result = run_timed(work, o.files.repeat, seconds);
  if (!result)
    return result.error();
  nlohmann::ordered_json json = weld_report_json(result->report);
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
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
    add_geometry_files(*c, o->files, command.op == BooleanOp::Union ? 1 : 2, 2);
    c->callback([=, &context] { context.run = [=, &context] { return run_weld(*o, context); }; });
  }
}

} // namespace frelm
