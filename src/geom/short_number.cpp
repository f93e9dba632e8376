#include "geom/short_number.h"

#include <fmt/format.h>

namespace frelm {

std::string short_number(double value, int decimals) {
  std::string text = fmt::format("{:.{}f}", value, decimals);
  if (text.find('.') != std::string::npos) {
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.')
      text.pop_back();
  }
  return text == "-0" ? "0" : text;
}

} // namespace frelm
