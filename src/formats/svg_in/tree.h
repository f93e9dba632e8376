// A drawing's bytes as a tree of elements: unpacked (.svgz), in whatever encoding it says it is, entities of its own
// put in. Nothing outside of the bytes is ever opened.
//
// Elements and attributes of SVG have no prefix, those of XLink the prefix "xlink:", all others "other:", whatever the
// file calls them; without any declaration of SVG everything without a prefix is taken for it.
// Bounds: 200 MB unpacked, entities as expat limits them, 2,000,000 elements.
#pragma once

#include "geom/result.h"

#include <memory>
#include <pugixml.hpp>
#include <string_view>

namespace frelm {

// Errors: not well-formed XML, with line and column; packed data that is damaged; too much of it.
Result<std::shared_ptr<pugi::xml_document>> svg_tree(std::string_view bytes);

} // namespace frelm
