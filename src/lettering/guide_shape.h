// The shapes a guide can have, as plain values; and what letters need to know of one: GuideLine.
//
// mm, y down; angles in degrees, 0 = top or upright, clockwise. Round shapes start at their top and run clockwise
// unless they say otherwise.
#pragma once

#include "geom/curve.h"
#include "geom/result.h"
#include "geom/ribbon.h"

#include <cstdint>
#include <optional>
#include <string>

namespace frelm {

using PieceId = std::uint64_t;

struct LineGuide {
  Point from, to;
  bool operator==(const LineGuide&) const = default;
};
struct ArcGuide {
  Point centre;
  double radius = 100; // more than 0
  double start = -60;  // of its first end
  double sweep = 120;  // clockwise; within ±360, not 0
  bool operator==(const ArcGuide&) const = default;
};
struct CircleGuide {
  Point centre;
  double radius = 100; // more than 0
  double start = 0;
  bool operator==(const CircleGuide&) const = default;
};
// The room between two circles about one centre. Letters sit by their middle on the circle halfway; with their height
// fitted, capitals reach within `margin` of both circles.
struct BandGuide {
  Point centre;
  double inner = 80, outer = 110; // more than 0; inner less than outer
  double margin = 4;              // free on both sides
  double start = 0;
  bool operator==(const BandGuide&) const = default;
};
struct EllipseGuide {
  Point centre;
  double rx = 120, ry = 70; // half axes, more than 0
  double turn = 0;
  double start = 0;   // of its own angle, 0 = end of the upper half axis
  double sweep = 360; // less than 360: an open arc of it
  bool operator==(const EllipseGuide&) const = default;
};
enum class Winding { Clockwise, Counterclockwise };
struct SpiralGuide {
  Point centre;
  double inner = 20;                    // radius at its inner end, not negative
  double pitch = 18;                    // between windings, more than 0
  double turns = 3;                     // more than 0
  double start = 0;                     // angle of the inner end
  Winding winding = Winding::Clockwise; // from the inside out
  double outer() const { return inner + pitch * turns; }
  bool operator==(const SpiralGuide&) const = default;
};
struct FrameGuide {
  Point centre;
  double width = 300, height = 180; // more than 0
  double corner = 0;                // radius, 0: sharp
  double turn = 0;
  bool operator==(const FrameGuide&) const = default;
};
struct PolygonGuide {
  Point centre;
  double radius = 100; // of the circle through its corners
  std::uint64_t sides = 6;
  double turn = 0; // 0: a corner at the top
  bool operator==(const PolygonGuide&) const = default;
};
struct StarGuide {
  Point centre;
  double outer = 110, inner = 50; // radii of tips and inner corners
  std::uint64_t points = 5;
  double turn = 0;
  bool operator==(const StarGuide&) const = default;
};
struct HeartGuide {
  Point centre;
  double width = 200, height = 180;
  double turn = 0;
  bool operator==(const HeartGuide&) const = default;
};
struct FreehandGuide {
  std::vector<Point> points; // as the hand drew them
  double smoothing = 5;      // mm
  bool closed = false;
  bool operator==(const FreehandGuide&) const = default;
};
// A pen curve: its nodes and handles are the contour's.
struct PathGuide {
  Contour contour;
  bool operator==(const PathGuide&) const = default;
};
// Follows a contour of another piece: all of it, or its stretch from one corner to the next.
struct OutlineGuide {
  PieceId of = 0;
  std::uint64_t contour = 0;
  std::optional<std::uint64_t> corner; // the stretch that starts at this corner of the contour
  bool operator==(const OutlineGuide&) const = default;
};
// The circle halfway between two circle guides, which it follows.
struct MidwayGuide {
  PieceId first = 0, second = 0;
  double margin = 2; // free between fitted capitals and both circles
  bool operator==(const MidwayGuide&) const = default;
};
// A plate with round screw holes, which stand as far from its edge as `edge` says: in the corners of a rectangle or at
// its sides, at the ends of the axes of an ellipse. Letters ride on its edge. Holes that don't fit are left out.
enum class PlateForm { Rectangle, Ellipse };
enum class PlateHoles { None, Two, Four };
struct PlateGuide {
  Point centre;
  double width = 200, height = 120; // more than 0
  PlateForm form = PlateForm::Rectangle;
  double corner = 8; // radius, of a rectangle
  PlateHoles holes = PlateHoles::Four;
  double hole = 5;  // diameter, mm, more than 0
  double edge = 10; // from a hole's middle to the nearest edges, mm
  double turn = 0;
  bool operator==(const PlateGuide&) const = default;
};
// A ribbon along a line of its own, which letters ride on; with their height fitted, capitals leave a share of its
// width free on both sides.
struct RibbonGuide {
  std::variant<LineGuide, ArcGuide, PathGuide> along;
  RibbonCut cut;
  bool operator==(const RibbonGuide&) const = default;
};
using GuideShape =
    std::variant<CircleGuide, LineGuide, ArcGuide, BandGuide, EllipseGuide, SpiralGuide, FrameGuide, PolygonGuide,
                 StarGuide, HeartGuide, FreehandGuide, PathGuide, OutlineGuide, MidwayGuide, PlateGuide, RibbonGuide>;

// "Circle", "Line", … and where the tops may point.
Words shape_name(const GuideShape& shape);

enum class GuideSense { Round, Open }; // Round: tops go outward or inward; Open: up or turned over

// How high letters may be that fill a band or the room between windings.
enum class FitBy { Capitals, FullHeight };
struct FitHeight {
  double height = 0; // mm; 0 or less: there is no room
  FitBy by = FitBy::Capitals;
  bool operator==(const FitHeight&) const = default;
};

struct GuideLine {
  std::shared_ptr<const Curve> curve, backward; // as drawn, and reversed
  GuideSense sense = GuideSense::Open;
  bool clockwise = true; // Round: as drawn
  Point centre;          // angles are seen from here
  std::optional<CircleGuide> circle;
  std::optional<FitHeight> fit;
  std::size_t bytes() const { return sizeof *this + 2 * curve->bytes(); }
};

// Errors, each naming what to change: a measure that is not more than 0 or not a number, no length at all, a cusp so
// tight that letters have no direction; OutlineGuide and MidwayGuide must be resolved by the document first.
Result<std::shared_ptr<const GuideLine>> guide_line(const GuideShape& shape);
// For a curve that came from elsewhere.
Result<std::shared_ptr<const GuideLine>> guide_line(Curve curve);

// The guide as letters read along it: Round outward clockwise, inward the other way; Open up from left to right,
// turned over the other way; a line that goes straight up or down is taken as drawn.
enum class Tops { Outward, Inward };
struct OrientedGuide {
  std::shared_ptr<const Curve> curve;
  bool reversed = false; // against the way it was drawn
};
OrientedGuide oriented(const GuideLine& line, Tops tops);
// The way down, for letters set downwards.
OrientedGuide oriented_down(const GuideLine& line);

// Arc length on the oriented guide of the place seen at an angle from its centre (the outermost one).
double length_at_angle(const GuideLine& line, const OrientedGuide& guide, double angle);

// Moved, turned and scaled evenly: p → k R(angle) p + shift about the origin.
struct Similarity {
  double scale = 1; // more than 0
  double angle = 0; // degrees
  Vec shift;
  Affine affine() const {
    return Affine::translation(shift) * Affine::rotation(radians(angle)) * Affine::scaling(scale, scale);
  }
  static Similarity move(Vec by) { return {1, 0, by}; }
  static Similarity scaling_about(Point p, double k) { return {k, 0, p - p * k}; }
  static Similarity turning_about(Point p, double angle) {
    return {1, angle, p - Affine::rotation(radians(angle)).linear(p)};
  }
};
// Shapes that follow other pieces stay as they are.
GuideShape transformed(const GuideShape& shape, const Similarity& by);
// Where the shape is held: its centre, or the middle of its ends.
Point shape_centre(const GuideShape& shape);

// What is cut of a shape: its line, of a band both circles, of a plate its holes too, of a ribbon all its parts. Outer
// contours are of positive area, holes negative. Errors: those of a ribbon; none of a sketch, which for ribbons is one
// (geom/ribbon.h) and of other shapes the same.
enum class ShapeWork { Exact, Sketch };
Result<Outline> shape_outline(const GuideShape& shape, const GuideLine& line, ShapeWork work = ShapeWork::Exact);

// The line of a ribbon as a guide of its own, and a ribbon along another: lines, arcs and pen curves as they are,
// others as pen curves. Errors: those of guide_line.
GuideShape ribbon_line(const RibbonGuide& ribbon);
Result<RibbonGuide> along_line(RibbonGuide ribbon, const GuideShape& line);

// Own or fitted nodes: the shape as a pen curve, arcs within 0.0005 mm.
Result<Contour> shape_contour(const GuideShape& shape);

} // namespace frelm
