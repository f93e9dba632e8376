// Ruler lines: straight lines across the whole bench that nothing cuts; what is drawn and moved is caught by them.
#pragma once

#include "document/document.h"

#include <optional>

namespace frelm {

Vec way_of(const RulerLine& line); // of length 1
// The x of an upright line, the y of a level one; nothing for slanted ones (by more than 1e-9 degrees).
std::optional<double> upright_at(const RulerLine& line);
std::optional<double> level_at(const RulerLine& line);
// The nearest place on it.
Point foot_on(const RulerLine& line, Point p);
// Where two cross; nothing for parallel ones.
std::optional<Point> crossing_of(const RulerLine& a, const RulerLine& b);
// What of it lies in a box; nothing if it passes by.
std::optional<std::pair<Point, Point>> part_inside(const RulerLine& line, const Box& box);
// The place among the document's of the nearest one within reach, mm.
std::optional<std::size_t> ruler_line_at(const Document& document, Point p, double reach);

Document add_ruler_line(Document document, const RulerLine& line);
Document with_ruler_line(Document document, std::size_t at, const RulerLine& line);
Document without_ruler_line(Document document, std::size_t at);

} // namespace frelm
