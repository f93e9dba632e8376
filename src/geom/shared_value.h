// Shared immutable values, compared by value.
#pragma once

#include <memory>

namespace frelm {

// Both missing, or equal; the same object needs no look inside.
template <class T> bool same_value(const std::shared_ptr<const T>& a, const std::shared_ptr<const T>& b) {
  return a == b || (a != nullptr && b != nullptr && *a == *b);
}

} // namespace frelm
