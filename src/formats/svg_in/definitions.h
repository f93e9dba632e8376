// What a drawing's elements refer to: each other by their ids, style sheets, paint servers.
#pragma once

#include "formats/drawing.h"
#include "formats/svg_in/paint.h"

#include <unordered_map>

namespace frelm {

class SvgDefinitions {
public:
  // Style sheets that can't be read are told, and so is later what a paint server loses. root and left_out outlive it.
  SvgDefinitions(const pugi::xml_node& root, LeftOutList& left_out);

  const ElementStyle& style(const pugi::xml_node& node) const; // stays where it is
  pugi::xml_node find(const std::string& id) const;            // the first that has it; else none
  static std::string href(const pugi::xml_node& node);
  // The one colour that stands for a paint server, with the most opaque of its stops; nothing: it paints nothing.
  std::optional<SeenColour> server_colour(const Paint& paint, const Box& where) const;

private:
  LeftOutList& left_out_;
  StyleSheets sheets_;
  mutable std::unordered_map<std::size_t, ElementStyle> styles_;
  std::unordered_map<std::string, pugi::xml_node> by_id_;
};

} // namespace frelm
