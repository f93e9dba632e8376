// What a cut sheet can be written as, chosen by the suffix of the file's name in any case. The window and the command
// line both write through here.
#pragma once

#include "formats/png.h"

namespace frelm {

enum class ExportFormat { Svg, Png };

// Errors: a suffix that no format has, or none; it says which there are.
Result<ExportFormat> export_format(const std::string& path);

struct ExportOptions {
  int picture_width = 2000; // px
  PictureView view = PictureView::Ink;
};
Result<std::string> write_as(ExportFormat format, const CutSheet& sheet, const ExportOptions& options = {});

} // namespace frelm
