// Path data, the text notation for curves of SVG 1.1, chapter 8.3: the one parser and the one writer.
//
// Coordinates are what the caller says they are (mm throughout Frelm). All commands M L H V C S Q T A Z, absolute and
// relative. Arcs stay exact arcs in pieces; an error in the data is reported with its position.
#pragma once

#include "geom/curve.h"
#include "geom/result.h"

#include <optional>
#include <string>
#include <string_view>

namespace frelm {

struct Subpath {
  std::vector<CurvePiece> pieces;
  bool closed = false;
  Point start = {}; // also where there are no pieces
};

Result<std::vector<Subpath>> parse_path_data(std::string_view text);

// What stands before the first error (SVG 1.1, F.2), and the error.
struct PathReading {
  std::vector<Subpath> subpaths;
  std::optional<Error> error;
};
PathReading read_path_data(std::string_view text);

// One curve from path data with exactly one subpath.
Result<Curve> parse_curve(std::string_view text);

// What a subpath is that ends where it starts without Z: drawings mean a closed one; Frelm's own writer says Z where it
// means it, so that a ring broken at a node stays open.
enum class EndsMeet { Closes, StaysOpen };
// As outline contours, arcs within the tolerance (same unit as the data).
Outline to_outline(const std::vector<Subpath>& subpaths, double arc_tolerance, EndsMeet ends = EndsMeet::Closes);
Result<Outline> parse_outline(std::string_view text, EndsMeet ends = EndsMeet::Closes);

// M, L, C and Z, absolute. decimals < 0: the shortest text that reads back to the same doubles.
std::string path_data(const Outline& outline, int decimals);
// With A for what lies on a circle within the tolerance (unit of the outline), at most a third of a turn each: an arc
// of half a turn would move by far more than the rounding of its radius.
std::string path_data_with_arcs(const Outline& outline, int decimals, double tolerance);

} // namespace frelm
