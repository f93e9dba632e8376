#include "formats/svg.h"

#include "geom/path_data.h"

#include <fmt/format.h>
#include <map>

namespace frelm {
namespace {

constexpr int svg_decimals = 5;

std::string escaped(const std::string& text) {
  std::string out;
  for (const char c : to_utf8(from_utf8(text))) { // names of files may be any bytes
    switch (c) {
    case '&':
      out += "&amp;";
      break;
    case '<':
      out += "&lt;";
      break;
    case '>':
      out += "&gt;";
      break;
    case '"':
      out += "&quot;";
      break;
    default:
      out.push_back(static_cast<unsigned char>(c) < 0x20 ? ' ' : c);
    }
  }
  return out;
}

std::string plain_number(double v) {
  std::string text = fmt::format("{:.{}f}", v, svg_decimals);
  text.erase(text.find_last_not_of('0') + 1);
  if (text.back() == '.')
    text.pop_back();
  return text == "-0" ? "0" : text;
}

} // namespace

std::string write_svg(const CutSheet& sheet) {
  std::vector<Colour> order;
  std::map<Colour, std::string> groups;
  for (const CutPiece& piece : sheet.pieces) {
    if (piece.outline.empty())
      continue;
    if (!groups.contains(piece.colour))
      order.push_back(piece.colour);
    groups[piece.colour] += fmt::format("    <path d=\"{}\"><title>{}</title></path>\n",
                                        path_data(piece.outline, svg_decimals), escaped(piece.name));
  }
  const Box& f = sheet.frame;
  std::string out =
      fmt::format("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
                  "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" width=\"{0}mm\" "
                  "height=\"{1}mm\" viewBox=\"{2} {3} {0} {1}\">\n",
                  plain_number(f.width()), plain_number(f.height()), plain_number(f.x0), plain_number(f.y0));
  for (const Colour colour : order)
    out += fmt::format("  <g fill=\"{}\" fill-rule=\"nonzero\">\n{}  </g>\n", to_hex(colour), groups[colour]);
  return out + "</svg>\n";
}

} // namespace frelm
