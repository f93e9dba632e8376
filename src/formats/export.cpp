#include "formats/export.h"

#include "formats/hpgl.h"
#include "formats/svg.h"
#include "geom/said.h"

#include <algorithm>
#include <cctype>

namespace frelm {

std::span<const ExportFormat> export_formats() {
  static const ExportFormat formats[]{
      {"svg", FRELM_WORDS("core", "SVG"), false,
       [](const CutPlan& p, const ExportOptions&) { return Result<std::string>(write_svg(p.sheet)); }},
      {"dxf", FRELM_WORDS("core", "DXF"), false,
       [](const CutPlan& p, const ExportOptions& o) {
         return write_dxf(p, {o.dxf, o.flatten});
       }},
      {"pdf", FRELM_WORDS("core", "PDF"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_pdf(p, o.page); }},
      {"eps", FRELM_WORDS("core", "EPS"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_eps(p, o.page); }},
      {"plt", FRELM_WORDS("core", "HP-GL"), false,
       [](const CutPlan& p, const ExportOptions& o) { return write_hpgl(p, {o.flatten}); }},
      {"png", FRELM_WORDS("core", "PNG"), true,
       [](const CutPlan& p, const ExportOptions& o) { return write_png(p.sheet, o.picture_width, o.view); }},
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

} // namespace frelm
