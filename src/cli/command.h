// What the subcommands share. Each lives in its own file: its options, and a run function that gives the exit code.
#pragma once

#include "document/storage.h"
#include "lettering/seat.h"
#include "type/face_library.h"

#include <functional>
#include <iosfwd>

namespace CLI {
class App;
}

namespace frelm {

struct CommandContext {
  CommandContext(std::ostream& stream, std::ostream& notes) : out(stream), err(notes) {}

  std::ostream& out;
  std::ostream& err; // notes; what went wrong is told there by the program
  DiskStorage storage;
  std::function<Result<int>()> run; // of the subcommand that was given
};

void add_render_command(CLI::App& app, CommandContext& context);
void add_import_command(CLI::App& app, CommandContext& context);
void add_proof_command(CLI::App& app, CommandContext& context);
void add_letters_command(CLI::App& app, CommandContext& context);
void add_seat_command(CLI::App& app, CommandContext& context);
void add_weld_command(CLI::App& app, CommandContext& context);
void add_offset_command(CLI::App& app, CommandContext& context);
void add_shade_command(CLI::App& app, CommandContext& context);
void add_finish_command(CLI::App& app, CommandContext& context);
void add_thin_command(CLI::App& app, CommandContext& context);
void add_lines_commands(CLI::App& app, CommandContext& context); // snip, space
void add_warp_command(CLI::App& app, CommandContext& context);
void add_trace_command(CLI::App& app, CommandContext& context);
void add_parts_commands(CLI::App& app, CommandContext& context); // parts, ties, tie-in
void add_plan_command(CLI::App& app, CommandContext& context);
void add_names_command(CLI::App& app, CommandContext& context);
void add_send_command(CLI::App& app, CommandContext& context);
void add_check_command(CLI::App& app, CommandContext& context);

// Where the bundled faces and the demo jobs are: beside an installed program, else in the source tree.
std::string data_directory(const std::string& name);

// What is wrong with what was typed: the sentence, and the option or file it is about.
inline Error misuse(std::string what, std::string at) {
  return bad_input(as_it_is(std::move(what)), as_it_is(std::move(at)));
}
inline Error at_place(const Error& error, std::string at) {
  return {error.code, as_it_is(error.text()), as_it_is(std::move(at))};
}

// The documented JSON of placed letters.
std::string letters_json(const SeatedText& text);

} // namespace frelm
