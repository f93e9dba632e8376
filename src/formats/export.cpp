#include "formats/export.h"

#include "cutting/driven.h"
#include "formats/read_back.h"
#include "geom/said.h"

#include <algorithm>
#include <cctype>
#include <filesystem>

namespace frelm {
namespace {

Error of_file(Error error, const std::string& path) {
  error.at = as_it_is(path);
  return error;
}

Error cancelled() {
  return {ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
}

bool same_file(const std::string& a, const std::string& b) {
  std::error_code missing; // what isn't there is no other file
  return a == b || std::filesystem::equivalent(a, b, missing);
}

// What can't stand in a file's name becomes "_", and a second material of the same name gets its number.
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
      name.append("-").append(std::to_string(at + 1));
      break;
    }
  const std::size_t dot = path.rfind('.');
  return path.substr(0, dot).append("-").append(name).append(path, dot);
}

// What is cut, or what is seen, in pictures.
Result<CutPlan> plan_of(const Document& document, const DocumentEvaluator& evaluator, const ExportChoice& choice,
                        SheetSide side, const std::stop_token& stop, const std::function<void(double)>& progress) {
  if (side == SheetSide::Seen) {
    Result<CutSheet> sheet = cut_sheet(document, evaluator, stop, side, progress);
    if (!sheet)
      return sheet.error();
    return cut_plan(std::move(*sheet), document.materials, choice.what, stop);
  }
  Result<CutPlan> lines = job_plan(document, evaluator, choice.what, stop, progress);
  if (!lines || !choice.as_driven)
    return lines;
  Result<DrivenPlan> drive = driven(*lines, document.materials, stop);
  if (!drive)
    return drive.error();
  return std::move(drive->plan);
}

} // namespace

ExportOptions usual_options(const Document& document) {
  ExportOptions out;
  out.dxf.arcs = out.dxf.curves_as_arcs = wants_arcs(document);
  return out;
}

std::span<const ExportFormat> export_formats() {
  static const ExportFormat formats[]{
      {"svg", FRELM_WORDS("core", "SVG"), false,
       [](const CutPlan& p, const ExportOptions& o) { return Result<std::string>(write_svg(p, o.svg)); },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions& o) {
         return same_in_svg(p.sheet, bytes, o.svg);
       }},
      {"dxf", FRELM_WORDS("core", "DXF"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_dxf(p, o.dxf); },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions& o) {
         return same_in_dxf(p.sheet, bytes, o.dxf);
       }},
      {"pdf", FRELM_WORDS("core", "PDF"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_pdf(p, o.page); },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions& o) {
         return same_in_pdf(p, bytes, o.page);
       }},
      {"eps", FRELM_WORDS("core", "EPS"), false,
       [](const CutPlan& p, const ExportOptions& o) { return Result<std::string>(write_eps(p, o.page)); },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions&) { return same_in_eps(p, bytes); }},
      {"plt", FRELM_WORDS("core", "HP-GL"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_hpgl(p, o.hpgl); },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions& o) {
         return same_in_hpgl(p.sheet, bytes, o.hpgl);
       }},
      {"png", FRELM_WORDS("core", "PNG"), true,
       [](const CutPlan& p, const ExportOptions& o) {
         return write_png(p.sheet, o.picture.width, o.picture.ink, o.picture.ground);
       },
       [](const CutPlan& p, const std::string& bytes, const ExportOptions& o) {
         return same_in_png(p.sheet, bytes, o.picture.width, o.picture.ink, o.picture.ground);
       }},
  };
  return formats;
}

Result<const ExportFormat*> export_format(const std::string& path) {
  const std::size_t slash = path.rfind('/') + 1, dot = path.rfind('.');
  std::string suffix = dot == std::string::npos || dot < slash ? "" : path.substr(dot + 1);
  std::transform(suffix.begin(), suffix.end(), suffix.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  std::string known;
  for (const ExportFormat& format : export_formats()) {
    if (format.suffix == suffix)
      return &format;
    known.append(known.empty() ? "." : ", .").append(format.suffix);
  }
  return bad_input(say(FRELM_WORDS("core", "choose a name that ends in one of %1"), known), as_it_is(path));
}

StaysBehind stays_behind(const Document& document) {
  StaysBehind out;
  for (const auto& piece : document.pieces)
    if (piece->is_cut())
      out.live += piece->lettering() != nullptr ? 1 : 0;
    else
      ++(piece->destination == Destination::Guide ? out.guides : out.off);
  return out;
}

Result<Exported> export_job(const Document& document, const DocumentEvaluator& evaluator, const ExportChoice& choice,
                            Storage& storage, const ExportWatch& watch) {
  std::vector<const ExportFormat*> formats;
  for (const std::string& path : choice.paths) {
    const Result<const ExportFormat*> format = export_format(path);
    if (!format)
      return format.error();
    formats.push_back(*format);
  }
  constexpr double shown_of_evaluation = 0.6; // of the progress; the rest is writing
  std::map<SheetSide, std::vector<CutPlan>> plans;
  for (const ExportFormat* format : formats) {
    const SheetSide side = format->picture ? SheetSide::Seen : SheetSide::Cut;
    if (plans.contains(side))
      continue;
    const Result<CutPlan> plan = plan_of(document, evaluator, choice, side, watch.stop, [&](double share) {
      if (watch.progress && plans.empty())
        watch.progress(share * shown_of_evaluation);
    });
    if (!plan)
      return plan.error();
    plans[side] = choice.split ? split(*plan) : std::vector{*plan};
    if (plans[side].empty())
      return bad_input(FRELM_WORDS("core", "nothing of the job is chosen to go out"), as_it_is(choice.paths.front()));
  }
  Exported out;
  out.read_back = !formats.empty();
  for (std::size_t i = 0; i < formats.size(); ++i) {
    const ExportFormat& format = *formats[i];
    const std::vector<CutPlan>& parts = plans[format.picture ? SheetSide::Seen : SheetSide::Cut];
    for (std::size_t k = 0; k < parts.size(); ++k) {
      if (watch.progress)
        watch.progress(shown_of_evaluation + (1 - shown_of_evaluation) *
                                                 (double(i) + double(k) / double(parts.size())) /
                                                 double(formats.size()));
      const std::string path = choice.split ? split_path(choice.paths[i], parts, k) : choice.paths[i];
      if (same_file(path, choice.job_path))
        return bad_input(FRELM_WORDS("core", "this is the job itself; choose another name"), as_it_is(path));
      const Result<std::string> bytes = format.write(parts[k], choice.options);
      if (!bytes)
        return of_file(bytes.error(), path);
      if (const Result<Done> same = format.read_back(parts[k], *bytes, choice.options); !same) {
        if (same.error().code != ErrorCode::Unsupported)
          return of_file(same.error(), path); // what stands there stays
        out.read_back = false;
      }
      if (watch.stop.stop_requested())
        return cancelled();
      if (const Result<Done> done = storage.write(path, *bytes); !done)
        return done.error();
      out.paths.push_back(path);
    }
  }
  return out;
}

} // namespace frelm
