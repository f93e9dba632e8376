// frelm-cli render JOB -o OUT.{svg,dxf,pdf,eps,plt,png}... [--sheet MATERIAL] [--destination knife,pen] [--split]
//                  [--flatten MM] [--arcs] [--curves-as-arcs] [--filled] [--lines] [--plain] [--pixels] [--pages]
//                  [--spot NAME] [--r12]
//                  [--inches] [--from-middle] [--turned] [--mirrored] [--spaces] [--page-size] [--back-home]
//                  [--picture-width PX] [--ground none|#rrggbb] [--with-job]
#include "cli/open_job.h"
#include "formats/export.h"
#include "formats/job_svg.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

namespace frelm {
namespace {

struct RenderOptions {
  std::string job, view = "ink", material, spot, ground = "#ffffff";
  std::vector<std::string> outputs, destinations{"knife", "pen"};
  bool split = false, filled = false, lines = false, plain = false, pixels = false, arcs = false, curve_arcs = false,
       pages = false, r12 = false, inches = false, with_job = false;
  HpglOptions hpgl;
  int picture_width = 1600; // px
  double flatten = HpglOptions{}.flatten;
};

Result<PictureGround> ground_of(const std::string& ground) {
  if (ground == "none")
    return PictureGround();
  const Result<Colour> colour = colour_from_hex(ground);
  if (!colour)
    return misuse("none, or a colour like #22303a", "--ground");
  return PictureGround(*colour);
}

Result<ExportOptions> options_of(const RenderOptions& o) {
  ExportOptions out;
  const ExportInk ink = o.filled ? ExportInk::Areas : ExportInk::Lines;
  out.svg = {o.lines ? ExportInk::Lines : ExportInk::Areas, o.arcs, o.plain, o.pixels};
  out.dxf = {o.r12 ? DxfVersion::R12 : DxfVersion::R2000, o.flatten, o.inches ? Unit::Inch : Unit::Millimetre, o.arcs,
             o.curve_arcs};
  out.hpgl = o.hpgl;
  out.hpgl.flatten = o.flatten;
  out.page = {ink, o.pages, o.spot};
  if (o.view != "ink" && o.view != "lines")
    return misuse("ink or lines", "--view");
  if (!(o.flatten >= least_flatten && o.flatten <= most_flatten))
    return misuse(fmt::format("from {} to {} mm", least_flatten, most_flatten), "--flatten");
  if (!(o.picture_width >= 1 && o.picture_width <= most_picture_width))
    return misuse(fmt::format("from 1 to {} px", most_picture_width), "--picture-width");
  const Result<PictureGround> ground = ground_of(o.ground);
  if (!ground)
    return ground.error();
  out.picture = {o.picture_width, o.view == "ink" ? ExportInk::Areas : ExportInk::Lines, *ground};
  return out;
}

// The sheet as it is seen, with the job in it.
Result<int> run_with_job(const RenderOptions& o, const OpenJob& job, CommandContext& context) {
  const std::string bytes = write_job_svg(job.document, DocumentEvaluator(*job.faces));
  for (const std::string& path : o.outputs) {
    const Result<const ExportFormat*> format = export_format(path);
    if (!format || (*format)->suffix != "svg")
      return misuse("only an .svg holds a job", "--with-job");
    if (const Result<Done> done = context.storage.write(path, bytes); !done)
      return done.error();
  }
  return 0;
}

Result<int> run_render(const RenderOptions& o, CommandContext& context) {
  const Result<ExportOptions> options = options_of(o);
  if (!options)
    return options.error();
  bool pictures = true;
  for (const std::string& path : o.outputs) {
    const Result<const ExportFormat*> format = export_format(path);
    if (!format)
      return format.error();
    pictures = pictures && (*format)->picture;
  }
  if (!pictures && o.view != "ink")
    return misuse("a view is for pictures; a cut file holds the outlines", "--view");
  const Result<OpenJob> job = open_job(o.job, context);
  if (!job)
    return job.error();
  if (o.with_job)
    return run_with_job(o, *job, context);
  ExportChoice choice{o.outputs, {{}, {}, false, false}, o.split, *options, o.job};
  for (const std::string& d : o.destinations)
    (d == "pen" ? choice.what.pen : choice.what.knife) = true;
  if (!o.material.empty()) {
    const Result<Colour> only = colour_of(o.material, job->document);
    if (!only)
      return only.error();
    choice.what.only = *only;
  }
  const Result<Exported> done = export_job(job->document, DocumentEvaluator(*job->faces), choice, context.storage);
  if (!done)
    return done.error();
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
  c->add_flag("--with-job", o->with_job, "SVG: the sheet as it is seen with the job in it, which opens live again");
  c->add_flag("--arcs", o->arcs, "SVG and DXF: circular arcs as arcs");
  c->add_flag("--curves-as-arcs", o->curve_arcs, "DXF: every curve as arcs, within --flatten");
  c->add_flag("--lines", o->lines, "SVG: hairlines instead of areas");
  c->add_flag("--plain", o->plain, "SVG: only paths, for readers that know no groups");
  c->add_flag("--pixels", o->pixels, "SVG: 96 px an inch, for readers that know no units");
  c->add_option("--spot", o->spot, "PDF and EPS: the name of the spot colour of what the knife cuts");
  c->add_flag("--inches", o->inches, "DXF: in inches");
  c->add_flag("--from-middle", o->hpgl.from_middle, "HP-GL: 0,0 is the sheet's middle");
  c->add_flag("--turned", o->hpgl.turned, "HP-GL: turned by 90 degrees");
  c->add_flag("--mirrored", o->hpgl.mirrored, "HP-GL: left and right change places");
  c->add_flag("--spaces", o->hpgl.spaces, "HP-GL: spaces between numbers instead of commas");
  c->add_flag("--page-size", o->hpgl.page_size, "HP-GL: with the sheet's size");
  c->add_flag("--back-home", o->hpgl.back_home, "HP-GL: the pen goes to 0,0 at the end");
  c->add_option("--picture-width", o->picture_width, "PNG: px");
  c->add_option("--ground", o->ground, "PNG: none (transparent) or #rrggbb");
  c->add_flag("--filled", o->filled, "PDF and EPS: filled with the material's colour instead of lines to cut along");
  c->add_flag("--pages", o->pages, "PDF: a page for each material");
  c->add_flag("--r12", o->r12, "DXF: the older version, with polylines instead of curves");
  c->callback([=, &context] { context.run = [=, &context] { return run_render(*o, context); }; });
}

} // namespace frelm
