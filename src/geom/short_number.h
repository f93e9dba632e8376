// A number as files and people take it: fixed point whatever the locale, without trailing zeros, never "-0".
#pragma once

#include <string>

namespace frelm {

std::string short_number(double value, int decimals);

} // namespace frelm
