// frelm-cli render JOB -o OUT.{svg,png}
#include "cli/open_job.h"
#include "document/job_file.h"
#include "formats/export.h"

#include <CLI/CLI.hpp>

namespace frelm {
namespace {

constexpr int picture_width = 1600; // px

struct RenderOptions {
  std::string job, output, view = "ink";
};

Result<int> run_render(const RenderOptions& o, CommandContext& context) {
  const Result<ExportFormat> format = export_format(o.output);
  if (!format)
    return format.error();
  if (o.view != "ink" && o.view != "lines")
    return misuse("only ink and lines are built yet", "--view");
  if (*format == ExportFormat::Svg && o.view != "ink")
    return misuse("a view is for pictures; an SVG file holds the outlines", "--view");
  Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  const DocumentEvaluator evaluator(*job->faces);
  const Result<CutSheet> sheet = cut_sheet(job->document, evaluator);
  if (!sheet)
    return sheet.error();
  const Result<std::string> bytes =
      write_as(*format, *sheet, {picture_width, o.view == "ink" ? PictureView::Ink : PictureView::Lines});
  if (!bytes)
    return bytes.error();
  if (const Result<Done> done = context.storage.write(o.output, *bytes); !done)
    return done.error();
  return 0;
}

} // namespace

void add_render_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<RenderOptions>();
  CLI::App* c = app.add_subcommand("render", "Write a job's cut file (.svg) or a picture of it (.png)");
  c->add_option("job", o->job, "job file")->required();
  c->add_option("-o", o->output, "file to write")->required();
  c->add_option("--view", o->view, "ink or lines, for pictures");
  c->callback([=, &context] { context.run = [=, &context] { return run_render(*o, context); }; });
}

} // namespace frelm
