#include "formats/svg.h"

#include "geom/path_data.h"

#include <algorithm>
#include <fmt/format.h>

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
  // A group a colour; of one piece in layers a group a layer, named by it.
  const bool layers = std::all_of(sheet.pieces.begin(), sheet.pieces.end(), [&](const CutPiece& p) {
    return !p.layer.empty() && p.id == sheet.pieces.front().id;
  });
  struct Group {
    Colour colour;
    std::string id, paths;
  };
  std::vector<Group> groups;
  for (const CutPiece& piece : sheet.pieces) {
    if (piece.outline.empty())
      continue;
    const std::string id = layers ? piece.layer : std::string();
    auto group = std::find_if(groups.begin(), groups.end(),
                              [&](const Group& g) { return g.colour == piece.colour && g.id == id; });
    if (group == groups.end())
      group = groups.insert(groups.end(), {piece.colour, id, {}});
    std::string title = piece.name;
    if (!piece.layer.empty() && !layers)
      title += (title.empty() ? "" : " · ") + piece.layer;
    group->paths += fmt::format("    <path d=\"{}\"><title>{}</title></path>\n", path_data(piece.outline, svg_decimals),
                                escaped(title));
  }
  const Box& f = sheet.frame;
  std::string out =
      fmt::format("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
                  "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" width=\"{0}mm\" "
                  "height=\"{1}mm\" viewBox=\"{2} {3} {0} {1}\">\n",
                  plain_number(f.width()), plain_number(f.height()), plain_number(f.x0), plain_number(f.y0));
  for (const Group& g : groups)
    out += fmt::format("  <g{} fill=\"{}\" fill-rule=\"nonzero\">\n{}  </g>\n",
                       g.id.empty() ? "" : fmt::format(" id=\"{}\"", g.id), to_hex(g.colour), g.paths);
  return out + "</svg>\n";
}

} // namespace frelm
