// A list of materials as text, for the user's own list.
#pragma once

#include "document/validity.h"

#include <optional>
#include <string_view>

namespace frelm {

std::string write_materials(const std::vector<Material>& list);
// Nothing: it can't be read, or breaks the rules of document/validity.
std::optional<std::vector<Material>> read_materials(std::string_view text);

} // namespace frelm
