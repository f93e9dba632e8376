#include "formats/export.h"

#include "formats/svg.h"

#include <algorithm>
#include <cctype>

namespace frelm {

Result<ExportFormat> export_format(const std::string& path) {
  const std::size_t slash = path.rfind('/') + 1, dot = path.rfind('.');
  std::string suffix = dot == std::string::npos || dot < slash ? "" : path.substr(dot + 1);
  std::transform(suffix.begin(), suffix.end(), suffix.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  if (suffix == "svg")
    return ExportFormat::Svg;
  if (suffix == "png")
    return ExportFormat::Png;
  return bad_input(FRELM_WORDS("core", "only .svg and .png can be written yet; choose a name that ends in one of them"),
                   as_it_is(path));
}

Result<std::string> write_as(ExportFormat format, const CutSheet& sheet, const ExportOptions& options) {
  return format == ExportFormat::Svg ? Result<std::string>(write_svg(sheet))
                                     : write_png(sheet, options.picture_width, options.view);
}

} // namespace frelm
