// Editing guide shapes by handles and by measures: what the canvas drags and the guide card types.
#pragma once

#include "lettering/guide_shape.h"

namespace frelm {

enum class ShapeHandleKind { Move, Size, Turn, Bend };
struct ShapeHandle {
  ShapeHandleKind kind = ShapeHandleKind::Move;
  const char* name = ""; // "radius"
  Point at;
  Point root; // where its stalk begins; `at` if it has none
};
// stalk: length (mm) of the stalks of turn handles. Freehand strokes and pen curves have nodes instead, shapes that
// follow other pieces have none.
std::vector<ShapeHandle> shape_handles(const GuideShape& shape, double stalk);

// The shape with handle number `index` dragged to a place. Measures keep their sense: nothing turns negative.
GuideShape with_handle(const GuideShape& shape, std::size_t index, Point to);
// The handle's own measure: "radius 120", with its kind; nothing for a place.
enum class ShapeMeasureKind { Length, Angle, Count };
struct ShapeMeasure {
  Words name;
  ShapeMeasureKind kind = ShapeMeasureKind::Length;
  double value = 0;
  double least = 0, most = 1e5;
};
// All measures of a shape in the order a card shows them; places (x, y) included.
std::vector<ShapeMeasure> shape_measures(const GuideShape& shape);
GuideShape with_measure(const GuideShape& shape, std::size_t index, double value);
// The measure that a handle changes, as an index of shape_measures.
std::optional<std::size_t> measure_of_handle(const GuideShape& shape, std::size_t handle);

// Drawn the other way: start and end change places. Closed shapes other than pen curves and strokes stay as they are.
GuideShape reversed(const GuideShape& shape);

// The arc from a to b through p. Three points in a line: nothing.
std::optional<ArcGuide> arc_through(Point a, Point p, Point b);

// A shape drawn from one place to another: round ones from their centre outwards, frames, ellipses and hearts from
// corner to corner. `kind` is an index of GuideShape.
GuideShape drawn_shape(std::size_t kind, Point from, Point to);
// The shape as it is added without a drag: about a centre, reaching `reach` mm to its sides. Nothing for kinds that
// have to be drawn or pointed at.
std::optional<GuideShape> usual_shape(std::size_t kind, Point centre, double reach);

} // namespace frelm
