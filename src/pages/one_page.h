// What is painted on one page, and nothing else of its file: pictures are one grey pixel where they stand (what they
// hold is never unpacked), blends are plain paint.
#pragma once

#include "pages/answers.h"

#include <string>
#include <vector>

namespace frelm::pages {

struct OnePage {
  std::string pdf;
  int number = 1;                       // of the page in `pdf`
  int pages = 1;                        // of the file
  double unit = 1;                      // points that one unit of the page is long (UserUnit, PDF 1.6)
  bool soft_masks = false;              // painted as pictures, as large as the page is painted
  int effects = 0;                      // blends taken out
  std::vector<std::string> other_faces; // named, but not in the file
  std::string damage;                   // what was mended, in one line
};

// What can't be taken apart is handed on as it is, for the painter to try.
Answer take_page(const std::string& pdf, int number, OnePage& out);

} // namespace frelm::pages
