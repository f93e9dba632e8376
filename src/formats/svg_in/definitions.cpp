#include "formats/svg_in/definitions.h"

#include <fmt/format.h>

namespace frelm {
namespace {

pugi::xml_node next_of(pugi::xml_node n, const pugi::xml_node& root) { // depth first
  if (n.first_child())
    return n.first_child();
  while (n != root && !n.next_sibling())
    n = n.parent();
  return n == root ? pugi::xml_node() : n.next_sibling();
}

std::string css_of(const pugi::xml_node& style) {
  std::string out;
  for (const pugi::xml_node part : style.children())
    out += part.value();
  return out;
}

} // namespace

SvgDefinitions::SvgDefinitions(const pugi::xml_node& root, LeftOutList& left_out) : left_out_(left_out) {
  // Not by pugixml's find_node for each reference: that would be quadratic.
  for (pugi::xml_node n = root; n; n = next_of(n, root)) {
    if (const char* id = n.attribute("id").value(); *id != 0)
      by_id_.emplace(id, n);
    if (std::string_view(n.name()) == "style")
      sheets_.add(css_of(n));
    if (std::string_view(n.name()) == "other:stylesheet")
      left_out.add(Lost::OtherStyles, {}, n.attribute("says").value());
  }
  if (sheets_.imports())
    left_out.add(Lost::OtherStyles);
  for (const std::string& selector : sheets_.passed_over())
    left_out.add(Lost::Unread, {}, fmt::format("the style of \u201c{}\u201d", selector));
}

const ElementStyle& SvgDefinitions::style(const pugi::xml_node& node) const {
  const auto [at, fresh] = styles_.try_emplace(node.hash_value());
  if (fresh)
    at->second = sheets_.of(node);
  return at->second;
}

pugi::xml_node SvgDefinitions::find(const std::string& id) const {
  const auto at = by_id_.find(id);
  return at == by_id_.end() ? pugi::xml_node() : at->second;
}

std::string SvgDefinitions::href(const pugi::xml_node& node) {
  std::string out = node.attribute("href").value();
  return out.empty() ? node.attribute("xlink:href").value() : out;
}

std::optional<SeenColour> SvgDefinitions::server_colour(const Paint& paint, const Box& where) const {
  pugi::xml_node server = find(paint.server);
  if (std::string_view(server.name()) == "pattern") {
    left_out_.add(Lost::Pattern, where);
    return paint.colour ? paint.colour : SeenColour{{0x80, 0x80, 0x80}, 1};
  }
  if (std::string_view(server.name()) != "linearGradient" && std::string_view(server.name()) != "radialGradient")
    return paint.colour;
  double r = 0, g = 0, b = 0, weight = 0, alpha = 0, least = 1;
  std::size_t stops = 0;
  constexpr std::size_t most_links = 16;
  for (std::size_t links = 0; server && stops == 0 && links < most_links; ++links) {
    for (const pugi::xml_node stop : server.children("stop")) {
      const ElementStyle& says = style(stop);
      const SeenColour c = css_colour(says.value("stop-color")).value_or(SeenColour{{0, 0, 0}, 1});
      const double a = c.alpha * share_of_one(says.value("stop-opacity")).value_or(1), w = a + 1e-6;
      r += w * c.colour.r, g += w * c.colour.g, b += w * c.colour.b, weight += w;
      alpha = std::max(alpha, a), least = std::min(least, a), ++stops;
    }
    const std::string to = href(server);
    server = to.starts_with("#") ? find(to.substr(1)) : pugi::xml_node();
  }
  if (stops == 0)
    return std::nullopt;
  if (stops > 1 && alpha >= least_opacity)
    left_out_.add(least < least_opacity ? Lost::Fading : Lost::Gradient, where);
  const auto part = [&](double sum) { return static_cast<std::uint8_t>(std::lround(sum / weight)); };
  return SeenColour{{part(r), part(g), part(b)}, alpha};
}

} // namespace frelm
