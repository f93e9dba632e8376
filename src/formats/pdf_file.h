// Pages put together to a file by qpdf. Plain values in, bytes out; compiled as C++17, since qpdf 11.3 has a header
// that Clang refuses as C++20 (JSON.hh destroys a vector of what is not complete yet).
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace frelm {

struct PdfPage {
  double width = 0, height = 0; // pt
  std::string content;          // "/L0" is the first layer, "/Spot" the spot colour's space
};
struct PdfSpot {
  std::string name;
  double r = 0, g = 0, b = 0; // of a full tint, 0 to 1
};
// The same input gives the same bytes. Throws std::exception.
std::string pdf_file(const std::vector<PdfPage>& pages, const std::vector<std::string>& layers,
                     const std::optional<PdfSpot>& spot);

} // namespace frelm
