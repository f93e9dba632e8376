// frelm-cli letters JOB [--piece NAME]
#include "cli/open_job.h"
#include "document/evaluate.h"

#include <CLI/CLI.hpp>
#include <ostream>

namespace frelm {

namespace {

Result<int> run_letters(const std::string& path, const std::string& name, CommandContext& context) {
  Result<OpenJob> job = open_job(path, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  bool found = false;
  for (const auto& piece : job->document.pieces) {
    if (piece->lettering() == nullptr || (!name.empty() && piece->name != name))
      continue;
    const Result<PieceResult> result = evaluator.piece(job->document, piece->id, Depth::Seat);
    if (!result)
      return result.error();
    if (result->seated == nullptr)
      continue;
    found = true;
    context.out << letters_json(*result->seated) << "\n";
  }
  if (!found)
    return Error{ErrorCode::NotFound,
                 as_it_is(name.empty() ? "the job has no lettering" : "the job has no lettering of that name"),
                 as_it_is(name.empty() ? path : name)};
  return 0;
}

} // namespace

void add_letters_command(CLI::App& app, CommandContext& context) {
  auto path = std::make_shared<std::string>();
  auto name = std::make_shared<std::string>();
  CLI::App* c = app.add_subcommand("letters", "Placed letters of a job as JSON, one line a lettering");
  c->add_option("job", *path, "job file")->required();
  c->add_option("--piece", *name, "only the piece of this name");
  c->callback([=, &context] { context.run = [=, &context] { return run_letters(*path, *name, context); }; });
}

} // namespace frelm
