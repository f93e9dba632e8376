// What a cutter has cut, as a picture, as a drawing, and in numbers. Pictures and drawings as it lies on the machine:
// the sheet's lower left corner is the cutter's origin.
#pragma once

#include "cutter/plotter.h"

namespace frelm::cutter {

// "strokes": each with "pen", "points" (mm, y up), "from" and "to" (s); "seconds" in motion, "cut_mm", "travel_mm",
// "troubles", "lost_bytes", "most_in_buffer".
std::string drawn_json(const Plotter& plotter);
std::string drawn_svg(const Plotter& plotter);
// By the file's suffix: .json, .svg or .png. Nothing, or what went wrong.
std::string write_drawing(const Plotter& plotter, const std::string& path);

} // namespace frelm::cutter
