#include "formats/page_content.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr const char* prolog =
    "/m {moveto} bind def /l {lineto} bind def /c {curveto} bind def /h {closepath} bind def\n"
    "/f {fill} bind def /S {stroke} bind def /w {setlinewidth} bind def\n"
    "/j {setlinejoin} bind def /rg {setrgbcolor} bind def /RG {setrgbcolor} bind def\n";

std::string in_brackets(const std::string& text) {
  std::string out = "(";
  for (const char c : text) {
    if (c == '(' || c == ')' || c == '\\')
      out.push_back('\\');
    out.push_back(static_cast<unsigned char>(c) < 0x20 ? ' ' : c);
  }
  return out + ")";
}

// All of it, less the ink's share of what it takes away of white.
std::string spot_space(const std::string& name, Colour c) {
  return fmt::format(
      "/spot {{[/Separation {} cvn /DeviceRGB {{dup {:.4f} mul 1 exch sub exch dup {:.4f} mul 1 exch sub "
      "exch {:.4f} mul 1 exch sub}}] setcolorspace 1 setcolor}} bind def\n",
      in_brackets(name), 1 - c.r / 255.0, 1 - c.g / 255.0, 1 - c.b / 255.0);
}

} // namespace

std::string write_eps(const CutPlan& plan, const PageOptions& options) {
  PageOptions one = options;
  one.page_a_layer = false;
  const DrawnPage page = std::move(pages_of(plan, one).front());
  const double width = page.frame.width() * points_per_mm, height = page.frame.height() * points_per_mm;
  std::string out = fmt::format("%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 {:.0f} {:.0f}\n"
                                "%%HiResBoundingBox: 0 0 {:.4f} {:.4f}\n%%LanguageLevel: 2\n",
                                std::ceil(width), std::ceil(height), width, height);
  const auto first = std::find_if(page.items.begin(), page.items.end(), [](const PageItem& i) { return i.spot; });
  const bool spot = first != page.items.end();
  if (spot)
    out += fmt::format("%%DocumentCustomColors: {}\n", in_brackets(options.spot));
  out += "%%EndComments\ngsave\n8 dict begin\n";
  out.append(prolog);
  if (spot)
    out += spot_space(options.spot, first->colour);
  out += page_content(page, {.spot_fill = "spot\n", .spot_line = "spot\n"});
  return out + "end\ngrestore\n%%EOF\n";
}

} // namespace frelm
