// The connected parts of a sound outline: each outer contour with the holes in it.
#pragma once

#include "geom/outline.h"

namespace frelm {

// Requires contours that don't cross, outer ones of positive area, holes negative (geom/boolean, self_union). Parts in
// the order of their outer contours; an island in a hole is a part of its own; each open contour is one too. A hole in
// no outer contour is left out.
std::vector<Outline> components(const Outline& outline);

} // namespace frelm
