// The formats that a plan can be written in, chosen by the suffix of the file's name in any case. The window and the
// command line both write through here; a new format is one row of the table.
#pragma once

#include "cutting/cut_plan.h"
#include "formats/dxf.h"
#include "formats/page.h"
#include "formats/png.h"

#include <span>

namespace frelm {

struct ExportOptions {
  int picture_width = 2000; // px
  PictureView view = PictureView::Ink;
  double flatten = 0.01; // mm: chords of formats without curves
  PageOptions page = {};
  DxfVersion dxf = DxfVersion::R2000;
};

struct ExportFormat {
  std::string_view suffix;
  Words name;
  bool picture = false; // for people; else for a cutter
  Result<std::string> (*write)(const CutPlan& plan, const ExportOptions& options) = nullptr;
};
std::span<const ExportFormat> export_formats();

// Errors: a suffix that no format has, or none; it says which there are.
Result<const ExportFormat*> export_format(const std::string& path);

} // namespace frelm
