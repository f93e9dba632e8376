// Which closed lines lie around which, at any depth, also of other pieces.
#pragma once

#include "geom/outline.h"

#include <optional>
#include <span>
#include <stop_token>

namespace frelm {

struct Nest {
  std::optional<std::size_t> around; // the smallest closed line around it
  std::size_t depth = 0;             // how many lie around it
};
// Of lines that don't cross. One that is the same as another lies in none of the two.
std::vector<Nest> nesting(std::span<const Contour* const> lines, const std::stop_token& stop = {});

} // namespace frelm
