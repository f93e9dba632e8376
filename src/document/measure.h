// Measures as people type them: numbers with units, fractions and sums.
//
//   sum      = product (("+" | "-") product)*
//   product  = factor (("*" | "x" | "/") factor)*        at most one factor has a unit; no division by one
//   factor   = ["-"] (quantity | "(" sum ")")
//   quantity = number | number "/" number | number " " number "/" number, each with an optional unit
// Numbers take a decimal point or comma. A quantity without a unit is in the field's own unit.
#pragma once

#include "document/document.h"

namespace frelm {

enum class MeasureKind { Length, Angle, Percent, Count };

// Length → mm (units mm cm m in " ft ' pt), Angle → degrees (° or deg), Percent → percent, Count → the number.
// Errors name what could not be read.
Result<double> parse_measure(const std::string& text, MeasureKind kind, Unit unit);

// mm with two decimals, inches with three, without trailing zeros; no unit.
std::string format_length(double mm, Unit unit);
// The unit's short name: mm, in.
const char* unit_name(Unit unit);
inline constexpr double mm_per_inch = 25.4;

} // namespace frelm
