// PostScript and EPS to PDF by Ghostscript, in its safe mode: no file but the one it is given can be opened, and it has
// the limits of this program once more.
#pragma once

#include "pages/answers.h"

#include <string>

namespace frelm::pages {

// In place. Of an EPS file with a preview (DOS EPS binary header: Adobe Technical Note 5002, 1992) only the PostScript
// is taken.
Answer pdf_of_postscript(std::string& bytes);

} // namespace frelm::pages
