// frelm-cli proof JOB -o OUT.{pdf,png} [--title WORDS] [--addressee WORDS] [--date WORDS] [--remarks WORDS] [--sign
// WORDS]
//                 [--paper a4|letter] [--ground #rrggbb] [--no-sizes] [--no-materials] [--picture-width PX]
#include "cli/open_job.h"
#include "formats/export.h"
#include "formats/proof.h"

#include <CLI/CLI.hpp>

namespace frelm {
namespace {

struct ProofOptions {
  std::string job, output, paper = "a4", ground;
  ProofForm form;
  bool no_sizes = false, no_materials = false;
  int picture_width = proof_picture_width;
};

Result<int> run_proof(const ProofOptions& o, CommandContext& context) {
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  ProofForm form = o.form;
  form.paper = o.paper == "letter" ? Paper::Letter : Paper::A4;
  form.sizes = !o.no_sizes, form.materials = !o.no_materials;
  if (!o.ground.empty()) {
    const Result<Colour> ground = colour_from_hex(o.ground);
    if (!ground)
      return misuse("a colour like #22303a", "--ground");
    form.ground = *ground;
  }
  const DocumentEvaluator evaluator(*job->faces);
  const Result<std::string> bytes = write_proof(job->document, evaluator, form, o.output, {}, o.picture_width);
  if (!bytes)
    return bytes.error();
  if (const Result<Done> done = context.storage.write(o.output, *bytes); !done)
    return done.error();
  return 0;
}

} // namespace

void add_proof_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<ProofOptions>();
  CLI::App* c = app.add_subcommand("proof", "Write the customer's sheet of a job (.pdf or .png)");
  c->add_option("job", o->job, "job file")->required();
  c->add_option("-o", o->output, "file to write")->required();
  c->add_option("--title", o->form.title, "at the top");
  c->add_option("--addressee", o->form.addressee, "below it");
  c->add_option("--date", o->form.date, "at the right");
  c->add_option("--remarks", o->form.remarks, "beside the materials");
  c->add_option("--sign", o->form.sign, "below a line to sign on");
  c->add_option("--paper", o->paper, "a4 or letter")->check(CLI::IsMember({"a4", "letter"}));
  c->add_option("--ground", o->ground, "#rrggbb behind the work");
  c->add_flag("--no-sizes", o->no_sizes, "without dimension lines");
  c->add_flag("--no-materials", o->no_materials, "without the list of materials");
  c->add_option("--picture-width", o->picture_width, "PNG: px")->check(CLI::Range(1, most_picture_width));
  c->callback([=, &context] { context.run = [=, &context] { return run_proof(*o, context); }; });
}

} // namespace frelm
