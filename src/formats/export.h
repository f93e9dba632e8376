// What leaves, written: the formats that a plan can be written in, chosen by the suffix of the file's name in any case,
// and the whole way from a job to its files. The window and the command line both export through here; a new format is
// one row of the table.
#pragma once

#include "cutting/cut_plan.h"
#include "document/storage.h"
#include "formats/dxf.h"
#include "formats/hpgl.h"
#include "formats/page.h"
#include "formats/png.h"
#include "formats/svg.h"

#include <span>

namespace frelm {

struct PictureOptions {
  int width = 2000; // px
  ExportInk ink = ExportInk::Areas;
  PictureGround ground = white;
};
inline constexpr double least_flatten = 1e-4, most_flatten = 5; // mm
struct ExportOptions {
  SvgOptions svg = {};
  DxfOptions dxf = {};
  HpglOptions hpgl = {};
  PageOptions page = {};
  PictureOptions picture = {};
};

// For a job of which anything is cut by a machine that drives arcs, curves become arcs where a format has them.
ExportOptions usual_options(const Document& document);

struct ExportFormat {
  std::string_view suffix;
  Words name;
  bool picture = false; // for people: as the sheet shows it; else for a cutter
  Result<std::string> (*write)(const CutPlan& plan, const ExportOptions& options) = nullptr;
  // Errors: what the file holds is not what was to leave; Unsupported: it can't be read back here.
  Result<Done> (*read_back)(const CutPlan& plan, const std::string& bytes, const ExportOptions& options) = nullptr;
};
std::span<const ExportFormat> export_formats();

// Errors: a suffix that no format has, or none; it says which there are.
Result<const ExportFormat*> export_format(const std::string& path);

// What of a job no file gets, and what goes as its outlines but stays live in the job.
struct StaysBehind {
  std::size_t guides = 0, off = 0, live = 0; // pieces
};
StaysBehind stays_behind(const Document& document);

struct ExportChoice {
  std::vector<std::string> paths; // a file each
  PlanChoice what = {};
  bool split = false; // a file for each layer: "badge.svg" gives "badge-Madder.svg"
  ExportOptions options = {};
  std::string job_path = {}; // the job's own file, which no export replaces; empty: none
  bool as_driven = false;    // as the machines move (cutting/driven); not in pictures
};
struct Exported {
  std::vector<std::string> paths;
  bool read_back = false; // all files were, and are the same
};
struct ExportWatch {
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // 0 to 1
};
// Errors: those of export_format, the evaluation, the writers, reading back and the disk, a file that is the job
// itself; what was written before stays.
Result<Exported> export_job(const Document& document, const DocumentEvaluator& evaluator, const ExportChoice& choice,
                            Storage& storage, const ExportWatch& watch = {});

} // namespace frelm
