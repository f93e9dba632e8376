// frelm-cli render JOB -o OUT.{svg,dxf,pdf,eps,plt,png}... [--sheet MATERIAL] [--destination knife,pen] [--split]
//                  [--flatten MM] [--filled] [--pages] [--r12]
#include "cli/open_job.h"
#include "document/job_file.h"
#include "formats/export.h"

#include <CLI/CLI.hpp>

namespace frelm {
namespace {

constexpr int picture_width = 1600; // px

struct RenderOptions {
  std::string job, view = "ink", material;
  std::vector<std::string> outputs, destinations{"knife", "pen"};
  bool split = false, filled = false, pages = false, r12 = false;
  double flatten = ExportOptions{}.flatten;
};

// By its name in the job's list, or as #rrggbb.
Result<Colour> colour_of(const std::string& material, const Document& document) {
  for (const Material& m : document.materials)
    if (m.name == material)
      return m.colour;
  const Result<Colour> colour = colour_from_hex(material);
  if (!colour)
    return misuse("no material of this job, and no colour like #9b2f45", "--sheet");
  return *colour;
}

// "badge.svg" of "Madder": "badge-Madder.svg"; what can't stand in a file's name becomes "_", and a second material of
// the same name gets its number.
std::string split_path(const std::string& path, const std::vector<CutPlan>& parts, std::size_t at) {
  const auto as_file = [&](std::size_t i) {
    std::string name = parts[i].layers.front().name;
    for (char& c : name)
      if (c == '/' || c == ' ' || c == ',' || c == '#' || static_cast<unsigned char>(c) < 0x20)
        c = '_';
    return name;
  };
  std::string name = as_file(at);
  for (std::size_t i = 0; i < at; ++i)
    if (as_file(i) == name) {
      name += "-" + std::to_string(at + 1);
      break;
    }
  const std::size_t dot = path.rfind('.');
  return path.substr(0, dot) + "-" + name + path.substr(dot);
}

Result<int> run_render(const RenderOptions& o, CommandContext& context) {
  ExportOptions options;
  options.picture_width = picture_width, options.flatten = o.flatten;
  options.dxf = o.r12 ? DxfVersion::R12 : DxfVersion::R2000;
  options.page.ink = o.filled ? PageInk::Filled : PageInk::Hairlines;
  options.page.page_a_layer = o.pages;
  std::vector<const ExportFormat*> formats;
  bool pictures = true;
  for (const std::string& path : o.outputs) {
    const Result<const ExportFormat*> format = export_format(path);
    if (!format)
      return format.error();
    formats.push_back(*format);
    pictures = pictures && (*format)->picture;
  }
  if (o.view != "ink" && o.view != "lines")
    return misuse("only ink and lines are built yet", "--view");
  if (!pictures && o.view != "ink")
    return misuse("a view is for pictures; a cut file holds the outlines", "--view");
  options.view = o.view == "ink" ? PictureView::Ink : PictureView::Lines;
  if (!(o.flatten > 0))
    return misuse("must be more than 0 mm", "--flatten");
  Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  PlanChoice choice{{}, false, false};
  for (const std::string& d : o.destinations)
    (d == "pen" ? choice.pen : choice.knife) = true;
  if (!o.material.empty()) {
    const Result<Colour> only = colour_of(o.material, job->document);
    if (!only)
      return only.error();
    choice.only = *only;
  }
  const DocumentEvaluator evaluator(*job->faces);
  Result<CutSheet> sheet = cut_sheet(job->document, evaluator);
  if (!sheet)
    return sheet.error();
  const CutPlan plan = cut_plan(std::move(*sheet), job->document.materials, choice);
  const auto write = [&](const ExportFormat& format, const CutPlan& what, const std::string& path) -> Result<Done> {
    const Result<std::string> bytes = format.write(what, options);
    if (!bytes)
      return bytes.error();
    return context.storage.write(path, *bytes);
  };
  const std::vector<CutPlan> parts = o.split ? split(plan) : std::vector{plan};
  for (std::size_t i = 0; i < formats.size(); ++i)
    for (std::size_t k = 0; k < parts.size(); ++k) {
      const std::string path = o.split ? split_path(o.outputs[i], parts, k) : o.outputs[i];
      if (const Result<Done> done = write(*formats[i], parts[k], path); !done)
        return done.error();
    }
  return 0;
}

} // namespace

void add_render_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<RenderOptions>();
  CLI::App* c =
      app.add_subcommand("render", "Write a job's cut files (.svg, .dxf, .pdf, .eps, .plt) or a picture (.png)");
  c->add_option("job", o->job, "job file")->required();
  c->add_option("-o", o->outputs, "files to write")->required();
  c->add_option("--view", o->view, "ink or lines, for pictures");
  c->add_option("--sheet", o->material, "only this material, by its name or #rrggbb");
  c->add_option("--destination", o->destinations, "knife, pen or both")
      ->delimiter(',')
      ->check(CLI::IsMember({"knife", "pen"}));
  c->add_flag("--split", o->split, "a file for each material, with its name");
  c->add_option("--flatten", o->flatten, "mm; chords of formats without curves");
  c->add_flag("--filled", o->filled, "PDF and EPS: filled with the material's colour instead of lines to cut along");
  c->add_flag("--pages", o->pages, "PDF: a page for each material");
  c->add_flag("--r12", o->r12, "DXF: the older version, with polylines instead of curves");
  c->callback([=, &context] { context.run = [=, &context] { return run_render(*o, context); }; });
}

} // namespace frelm
