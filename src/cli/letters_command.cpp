// frelm-cli letters JOB [--piece NAME]; and opening jobs for the other commands.
#include "cli/open_job.h"
#include "document/evaluate.h"
#include "document/job_file.h"

#include <CLI/CLI.hpp>
#include <ostream>

namespace frelm {

Result<OpenJob> open_job(const std::string& path, CommandContext& context) {
  const Result<std::string> bytes = context.storage.read(path);
  if (!bytes)
    return bytes.error();
  Result<Document> document = read_job(*bytes);
  if (!document)
    return Error{document.error().code, document.error().text(), path};
  OpenJob job{std::move(*document), std::make_unique<FaceLibrary>(data_directory("faces"), true)};
  if (job.document.carried)
    job.faces->set_carried(*job.document.carried);
  return job;
}

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
                 name.empty() ? "the job has no lettering" : "the job has no lettering of that name",
                 name.empty() ? path : name};
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
