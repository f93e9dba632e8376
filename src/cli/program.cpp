#include "cli/program.h"

#include "cli/command.h"

#include "document/validity.h"

#include <CLI/CLI.hpp>
#include <cmath>
#include <filesystem>
#include <fmt/format.h>

namespace frelm {

std::string data_directory(const std::string& name) {
  std::error_code ignored;
  const std::filesystem::path program = std::filesystem::read_symlink("/proc/self/exe", ignored);
  const std::filesystem::path installed = program.parent_path() / ".." / "share" / "frelm" / name;
  if (std::filesystem::is_directory(installed, ignored))
    return installed.lexically_normal().string();
  return std::filesystem::path(FRELM_SOURCE_FACES).parent_path() / name;
}

namespace {

// CLI11 reads "nan", "inf" and 1e300 as numbers. None of them is a length, an angle or a share of anything.
std::optional<Error> wild_number(const CLI::App& app) {
  for (const CLI::App* command : app.get_subcommands())
    for (const CLI::Option* option : command->get_options())
      if (option->get_type_name().starts_with("FLOAT"))
        for (const std::string& text : option->results()) {
          double value = 0;
          if (!CLI::detail::lexical_cast(text, value) || !(std::abs(value) <= largest_number))
            return misuse(fmt::format("'{}' is not a number up to {:g}", text, largest_number), option->get_name());
        }
  return std::nullopt;
}

} // namespace

int run_program(const std::vector<std::string>& arguments, std::ostream& out, std::ostream& err) {
  CLI::App app{"Frelm on the command line: seat letters on guides, weld outlines, check and render jobs."};
  app.set_version_flag("--version", FRELM_VERSION);
  app.require_subcommand(1);
  CommandContext context(out, err);
  add_import_command(app, context);
  add_render_command(app, context);
  add_proof_command(app, context);
  add_letters_command(app, context);
  add_seat_command(app, context);
  add_weld_command(app, context);
  add_offset_command(app, context);
  add_shade_command(app, context);
  add_finish_command(app, context);
  add_thin_command(app, context);
  add_lines_commands(app, context);
  add_trace_command(app, context);
  add_plan_command(app, context);
  add_send_command(app, context);
  add_names_command(app, context);
  add_warp_command(app, context);
  add_parts_commands(app, context);
  add_check_command(app, context);
  try {
    std::vector<std::string> reversed(arguments.rbegin(), arguments.rend()); // CLI11 takes them from the back
    app.parse(reversed);
  } catch (const CLI::ParseError& e) {
    if (e.get_exit_code() == 0)
      return app.exit(e, out, err);
    std::string text = e.what();
    std::replace(text.begin(), text.end(), '\n', ' ');
    err << "frelm-cli: " << text << " (frelm-cli --help lists the options)\n";
    return 2;
  }
  if (const auto wild = wild_number(app)) {
    err << "frelm-cli: " << wild->text() << "\n";
    return 2;
  }
  const Result<int> code = context.run();
  if (code)
    return *code;
  err << "frelm-cli: " << code.error().text() << "\n";
  return 2;
}

} // namespace frelm
