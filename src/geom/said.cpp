#include "geom/said.h"

#include <fmt/format.h>

namespace frelm {

Said place_words(double x, double y) {
  return say(FRELM_WORDS("core", "x %1, y %2"), fmt::format("{:.2f}", x), fmt::format("{:.2f}", y));
}

} // namespace frelm
