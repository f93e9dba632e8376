// A page as SVG, painted by poppler: text as the outlines of its letters, layers and crop as a reader of pages shows
// them. Sizes are true (1 pt = 1/72 in); places are kept to 1/8192 pt, 0.00005 mm (cairo rounds to 1/256, so everything
// is painted 32 times as large; less where there are soft masks, to 0.0005 mm on A4). Width and height of a page
// up to 100 m. The path of each letter has the id "letter".
#pragma once

#include "pages/one_page.h"

namespace frelm::pages {

Answer svg_of_page(OnePage& page, std::string& svg);

} // namespace frelm::pages
