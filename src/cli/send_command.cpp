// frelm-cli send JOB --to tcp:HOST:PORT|serial:DEVICE[:BAUD]|file:PATH|queue:NAME [--from PATH] [--sheet MATERIAL]
//                [--pen] [--patience S] [--log FILE] [the tool's options]
#include "cli/open_job.h"
#include "cli/tool_options.h"
#include "send/cut_log.h"
#include "send/print_queue.h"
#include "send/send_job.h"
#include "send/send_to.h"

#include <CLI/CLI.hpp>
#include <csignal>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {
namespace {

using Json = nlohmann::ordered_json;

struct SendOptions {
  std::string job, to, material, log;
  std::size_t from = 1; // path
  bool pen = false;
  double patience = 2.5; // s
  std::shared_ptr<ToolOptions> tool;
};

// Ctrl+C ends the sending, not the program: the blade is lifted, and what is left is told.
volatile std::sig_atomic_t interrupted = 0;

Result<int> run_send(const SendOptions& o, CommandContext& context) {
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  const Result<Document> document =
      o.tool->changes() ? with_tools(job->document, *o.tool) : Result<Document>(job->document);
  if (!document)
    return document.error();
  SendChoice choice;
  choice.what.pen = o.pen, choice.what.panel = o.tool->panel.value_or(0);
  if (!o.material.empty()) {
    const Result<Colour> colour = colour_of(o.material, *document);
    if (!colour)
      return colour.error();
    choice.what.only = *colour;
  }
  const Result<ToSend> work = to_send(*document, DocumentEvaluator(*job->faces), choice);
  if (!work)
    return work.error();
  const std::size_t paths = work->program.paths.size();
  if (o.from < 1 || o.from > paths)
    return misuse("from 1 to " + std::to_string(paths), "--from");
  SendReport report{paths, work->cut, 0, true, {}};
  if (o.to.starts_with("file:")) {
    HpglProgram rest = work->program;
    rest.paths.erase(rest.paths.begin(), rest.paths.begin() + static_cast<std::ptrdiff_t>(o.from - 1));
    if (const Result<Done> done = context.storage.write(o.to.substr(5), program_text(rest)); !done)
      return done.error();
  } else {
    std::stop_source stop;
    interrupted = 0;
    void (*before)(int) = nullptr;
    if (!is_queue(o.to)) // which tells nothing on the way that could be ended then
      before = std::signal(SIGINT, [](int) { interrupted = 1; });
    SendWatch watch{stop.get_token(), nullptr,
                    [&](const SendState&) {
                      if (interrupted != 0)
                        stop.request_stop();
                    },
                    Milliseconds(static_cast<long>(o.patience * 1000))};
    report = send_to(o.to, work->program, o.from - 1, watch);
    if (!is_queue(o.to))
      std::signal(SIGINT, before);
    if (!o.log.empty()) {
      CutLogEntry entry;
      entry.job = o.job, entry.material = o.material, entry.cutter = o.to;
      if (const Result<Done> logged = add_to_cut_log(context.storage, o.log, ended_now(entry, report, paths)); !logged)
        return logged.error();
    }
  }
  const Json summary{{"paths", paths},
                     {"cut", report.next},
                     {"cut_mm", report.cut},
                     {"estimated_seconds", work->time.seconds},
                     {"seconds", report.seconds},
                     {"handed_over", report.handed_over},
                     {"go_on_from", report.next < paths ? Json(report.next + 1) : Json(nullptr)},
                     {"stopped", report.stopped ? Json(report.stopped->text()) : Json(nullptr)}};
  context.out << summary.dump() << "\n";
  if (report.stopped)
    return at_place(*report.stopped, o.to);
  return 0;
}

} // namespace

void add_send_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<SendOptions>();
  CLI::App* c = app.add_subcommand("send", "Send a job to a cutter, as its materials' tools move");
  c->add_option("JOB", o->job, ".frelm file, or an SVG with a job in it")->required();
  c->add_option("--to", o->to, "tcp:HOST:PORT, serial:DEVICE[:BAUD], file:PATH, or queue:NAME, a printer queue")
      ->required();
  c->add_option("--from", o->from, "the path to go on from, as go_on_from told")->capture_default_str();
  c->add_option("--sheet", o->material, "one material, by its name or as #rrggbb");
  c->add_flag("--pen", o->pen, "what the pen draws as well");
  c->add_option("--patience", o->patience, "s to wait for a cutter that was paused or is out of material")
      ->check(CLI::Range(0.0, 86'400.0));
  c->add_option("--log", o->log, "a file to which what was cut is added");
  o->tool = add_tool_options(*c);
  c->callback([=, &context] { context.run = [=, &context] { return run_send(*o, context); }; });
}

} // namespace frelm
