#include "formats/svg.h"

#include "geom/path_data.h"
#include "geom/short_number.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace frelm {
namespace {

constexpr int svg_decimals = 5;
constexpr double pixels_per_mm = 96 / 25.4;

std::string plain_number(double v) {
  return short_number(v, svg_decimals);
}

// A name as an id that every reader takes, and no two the same.
std::string as_id(const std::string& name, std::set<std::string>& taken) {
  std::string id;
  for (const char c : name)
    if (const auto u = static_cast<unsigned char>(c); u < 0x80 && std::isalnum(u) != 0)
      id.push_back(c);
    else if (!id.empty() && id.back() != '-')
      id.push_back('-');
  if (id.empty() || std::isalpha(static_cast<unsigned char>(id.front())) == 0)
    id.insert(0, "layer-");
  while (id.back() == '-')
    id.pop_back();
  const std::string wanted = id;
  for (int n = 2; !taken.insert(id).second; ++n)
    id = wanted + "-" + std::to_string(n);
  return id;
}

struct Group {
  Colour colour;
  std::string id, name; // empty: none
  std::vector<std::pair<const CutPiece*, Outline>> pieces;
};

class Writer {
public:
  explicit Writer(const SvgOptions& options) : options_(options) {}

  std::string write(const Box& frame, const std::vector<Group>& groups, const std::string& first = {}) {
    const double k = options_.pixels ? pixels_per_mm : 1;
    if (options_.pixels)
      to_file_ = Affine{k, 0, 0, k, -frame.x0 * k, -frame.y0 * k};
    const std::string size = options_.pixels ? "" : "mm";
    out_ = fmt::format("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
                       "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" width=\"{0}{2}\" height=\"{1}{2}\"",
                       plain_number(frame.width() * k), plain_number(frame.height() * k), size);
    if (!options_.pixels)
      out_ += fmt::format(" viewBox=\"{} {} {} {}\"", plain_number(frame.x0), plain_number(frame.y0),
                          plain_number(frame.width()), plain_number(frame.height()));
    out_ += ">\n";
    out_ += first;
    for (const Group& g : groups)
      group(g);
    return out_ + "</svg>\n";
  }

private:
  std::string look(Colour c, ExportInk ink) const {
    if (ink == ExportInk::Areas)
      return fmt::format(" fill=\"{}\" fill-rule=\"nonzero\"", to_hex(c));
    return fmt::format(" fill=\"none\" stroke=\"{}\" stroke-width=\"{}\"", to_hex(c),
                       plain_number(hairline * to_file_.a));
  }
  std::string data(const Outline& outline) const {
    const Outline placed = options_.pixels ? outline.transformed(to_file_) : outline;
    return options_.arcs ? path_data_with_arcs(placed, svg_decimals, svg_arc_tolerance * to_file_.a)
                         : path_data(placed, svg_decimals);
  }
  void group(const Group& g) {
    if (!options_.plain) {
      const std::string id = g.id.empty() ? "" : fmt::format(" id=\"{}\"", g.id);
      out_ += fmt::format("  <g{}{}>\n", id, look(g.colour, options_.ink));
      if (!g.name.empty())
        out_ += fmt::format("    <title>{}</title>\n", xml_text(g.name));
    }
    for (const auto& [piece, outline] : g.pieces)
      if (options_.ink == ExportInk::Lines) {
        path(g, *piece, outline, ExportInk::Lines);
      } else { // readers would close and fill what is open
        const OutlineParts parts = parts_of(outline);
        path(g, *piece, parts.closed, ExportInk::Areas);
        path(g, *piece, parts.open, ExportInk::Lines);
      }
    if (!options_.plain)
      out_ += "  </g>\n";
  }
  void path(const Group& g, const CutPiece& piece, const Outline& outline, ExportInk ink) {
    if (outline.empty())
      return;
    if (options_.plain) {
      out_ += fmt::format("  <path{} d=\"{}\"/>\n", look(g.colour, ink), data(outline));
      return;
    }
    std::string title = piece.name;
    if (!piece.layer.empty() && g.id != piece.layer)
      title += (title.empty() ? "" : " · ") + piece.layer;
    out_ += fmt::format("    <path{} d=\"{}\"><title>{}</title></path>\n",
                        ink == options_.ink ? "" : look(g.colour, ink), data(outline), xml_text(title));
  }

  SvgOptions options_;
  Affine to_file_;
  std::string out_;
};

} // namespace

std::string xml_text(const std::string& text) {
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

// The groups come as they are drawn, back to front by their first piece; in each, pieces and contours as they are cut.
std::string write_svg(const CutPlan& plan, const SvgOptions& options) {
  std::vector<Group> groups(plan.layers.size());
  std::set<std::string> ids;
  for (std::size_t i = 0; i < plan.layers.size(); ++i)
    groups[i] = {plan.layers[i].colour, as_id(plan.layers[i].name, ids), plan.layers[i].name, {}};
  std::vector<std::optional<std::size_t>> begun(plan.sheet.pieces.size()); // its place in its group
  for (const CutPath& path : plan.order) {
    const CutPiece& piece = plan.sheet.pieces[path.piece];
    auto& pieces = groups[plan.layer_of[path.piece]].pieces;
    if (!begun[path.piece]) {
      begun[path.piece] = pieces.size();
      pieces.emplace_back(&piece, Outline{});
    }
    pieces[*begun[path.piece]].second.contours.push_back(piece.outline.contours[path.contour]);
  }
  std::vector<std::size_t> drawn;
  for (const std::size_t layer : plan.layer_of)
    if (std::find(drawn.begin(), drawn.end(), layer) == drawn.end())
      drawn.push_back(layer);
  std::vector<Group> back_to_front;
  back_to_front.reserve(groups.size());
  for (const std::size_t layer : drawn)
    back_to_front.push_back(std::move(groups[layer]));
  return Writer(options).write(plan.sheet.frame, back_to_front);
}

std::string write_svg(const CutSheet& sheet) {
  const bool layers = std::all_of(sheet.pieces.begin(), sheet.pieces.end(), [&](const CutPiece& p) {
    return !p.layer.empty() && p.id == sheet.pieces.front().id;
  });
  std::vector<Group> groups;
  for (const CutPiece& piece : sheet.pieces) {
    if (piece.outline.empty())
      continue;
    const std::string id = layers ? piece.layer : std::string();
    auto group = std::find_if(groups.begin(), groups.end(),
                              [&](const Group& g) { return g.colour == piece.colour && g.id == id; });
    if (group == groups.end())
      group = groups.insert(groups.end(), {piece.colour, id, {}, {}});
    group->pieces.emplace_back(&piece, piece.outline);
  }
  return Writer({}).write(sheet.frame, groups);
}

std::string write_svg_as_drawn(const CutSheet& sheet, const std::string& metadata) {
  std::vector<Group> groups;
  for (const CutPiece& piece : sheet.pieces) {
    if (piece.outline.empty())
      continue;
    if (groups.empty() || groups.back().colour != piece.colour)
      groups.push_back({piece.colour, {}, {}, {}});
    groups.back().pieces.emplace_back(&piece, piece.outline);
  }
  return Writer({}).write(sheet.frame, groups, metadata);
}

} // namespace frelm
