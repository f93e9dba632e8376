// The item as points along its lines, the shape as a table of depths, bilinear between its cells: exact along straight
// edges. Sizes: as large as it can be where it stands, then where that size has most room, in turns until nothing is
// gained; last by the exact distance.
#include "geom/even_margins.h"

#include "geom/bisect.h"
#include "geom/deepest.h"
#include "geom/distance.h"

namespace frelm {
namespace {

class DepthTable {
public:
  explicit DepthTable(const Outline& shape) : box_(shape.bounds()) {
    constexpr double fine = 1e-4, along = 256;
    const double shorter = std::min(box_.width(), box_.height());
    if (!(shorter > 0))
      return;
    const SignedDistance depth(shape, fine * shorter);
    if (depth.empty())
      return;
    step_ = std::max(box_.width(), box_.height()) / along;
    columns_ = static_cast<std::size_t>(std::ceil(box_.width() / step_)) + 1;
    rows_ = static_cast<std::size_t>(std::ceil(box_.height() / step_)) + 1;
    depths_.reserve(columns_ * rows_);
    for (std::size_t j = 0; j < rows_; ++j)
      for (std::size_t i = 0; i < columns_; ++i)
        depths_.push_back(depth({box_.x0 + static_cast<double>(i) * step_, box_.y0 + static_cast<double>(j) * step_}));
  }
  bool empty() const { return depths_.empty(); }
  double step() const { return step_; }
  const Box& box() const { return box_; }
  double operator()(Point p) const {
    const Point in{std::clamp(p.x, box_.x0, box_.x1), std::clamp(p.y, box_.y0, box_.y1)};
    const double x = (in.x - box_.x0) / step_, y = (in.y - box_.y0) / step_;
    const std::size_t i = std::min(static_cast<std::size_t>(x), columns_ - 2);
    const std::size_t j = std::min(static_cast<std::size_t>(y), rows_ - 2);
    const double u = x - static_cast<double>(i), v = y - static_cast<double>(j);
    const double* at = &depths_[j * columns_ + i];
    const double here = std::lerp(std::lerp(at[0], at[1], u), std::lerp(at[columns_], at[columns_ + 1], u), v);
    const double beyond = distance(p, in);
    return beyond > 0 ? std::min(here, 0.0) - beyond : here;
  }

private:
  Box box_;
  double step_ = 0;
  std::size_t columns_ = 0, rows_ = 0;
  std::vector<double> depths_;
};

// About its own middle; no two further apart than a hundredth of its size.
std::vector<Point> points_of(const Outline& item, Point middle) {
  constexpr double fine = 5e-4, apart = 0.01;
  const double size = std::max(item.bounds().width(), item.bounds().height());
  if (!(size > 0))
    return std::vector<Point>(item.empty() ? 0 : 1); // a point
  std::vector<Point> out;
  for (const Contour& c : item.contours) {
    std::vector<Point> points = flatten(c, fine * size);
    if (c.closed && !points.empty())
      points.push_back(points.front());
    for (std::size_t i = 0; i < points.size(); ++i) {
      const Point from = i == 0 ? points[i] : points[i - 1];
      const int n = std::max(1, static_cast<int>(std::ceil(distance(from, points[i]) / (apart * size))));
      for (int k = 1; k <= n; ++k)
        out.push_back(Point{} + (lerp(from, points[i], static_cast<double>(k) / n) - middle));
    }
  }
  return out;
}

class Inside {
public:
  Inside(const Outline& item, const Outline& shape)
      : item_(item), shape_(shape), bounds_(item.bounds()), table_(shape), points_(points_of(item, bounds_.centre())) {}
  bool nothing() const { return table_.empty() || points_.empty(); }

  // at: where the item's middle stands.
  double margin(Point at, double scale) const {
    double least = std::numeric_limits<double>::infinity();
    for (const Point p : points_)
      least = std::min(least, table_(at + (p - Point{}) * scale));
    return least;
  }

  // Where it has most room, and is in the middle of that.
  std::optional<Point> best(double scale) const {
    const double w = bounds_.width() / 2 * scale, h = bounds_.height() / 2 * scale;
    const Box& b = table_.box();
    const Box room{b.x0 + w, b.y0 + h, b.x1 - w, b.y1 - h};
    if (room.empty())
      return std::nullopt;
    const double near_enough = 0.002 * std::min(b.width(), b.height());
    Point best;
    double most = -std::numeric_limits<double>::infinity();
    search_cells(
        room.grown(table_.step() / 4), [&](Point p) { return margin(p, scale); },
        [](const Cell& c) { return c.depth + c.reach(); },
        [&](const Cell& c) {
          if (c.depth > most)
            most = c.depth, best = c.centre;
        },
        [&] { return most > 0 ? most + near_enough : 0; });
    if (!(most > 0))
      return std::nullopt;
    climb(best, most, scale);
    constexpr double nearly = 0.995;
    for (const Vec way : {Vec{1, 0}, Vec{0, 1}, Vec{1, 0}})
      best = middle_of_free_way(best, way, nearly * most, scale);
    return best;
  }

  double exact_margin(const PlacedInside& placed) const {
    const Closest c = closest_boundaries(item_.transformed(placed.place()), shape_);
    return c.overlapping ? 0 : c.distance;
  }
  PlacedInside placed(Point at, double scale) const {
    PlacedInside out{bounds_.centre(), scale, at - bounds_.centre(), 0};
    out.margin = exact_margin(out);
    return out;
  }
  double largest_ever() const { // by the boxes
    const Box& b = table_.box();
    const auto ratio = [](double room, double own) {
      return own > 0 ? room / own : std::numeric_limits<double>::infinity();
    };
    return std::min(ratio(b.width(), bounds_.width()), ratio(b.height(), bounds_.height()));
  }

private:
  // Steps that halve, as long as one of eight ways goes up.
  void climb(Point& at, double& most, double scale) const {
    constexpr double finest = 1e-4;
    for (double step = table_.step(); step > finest;) {
      bool up = false;
      for (const Vec way :
           {Vec{1, 0}, Vec{-1, 0}, Vec{0, 1}, Vec{0, -1}, Vec{1, 1}, Vec{-1, 1}, Vec{1, -1}, Vec{-1, -1}})
        if (const double m = margin(at + way * step, scale); m > most)
          at += way * step, most = m, up = true;
      if (!up)
        step /= 2;
    }
  }

  Point middle_of_free_way(Point at, Vec way, double level, double scale) const {
    const auto held = [&](double s) { return margin(at + way * s, scale) < level; };
    const auto end = [&](double sign) {
      Bracket b{0, table_.step()};
      while (!held(sign * b.high))
        b = {b.high, b.high + table_.step()};
      constexpr int halvings = 16;
      return sign * bisect(
                        b, [&](double s) { return held(sign * s); }, halvings)
                        .low;
    };
    return at + way * ((end(1) + end(-1)) / 2);
  }

  const Outline& item_;
  const Outline& shape_;
  Box bounds_;
  DepthTable table_;
  std::vector<Point> points_;
};

} // namespace

Affine PlacedInside::place() const {
  return Affine::translation(by) * Affine::scaling_about(about, scale, scale);
}

std::optional<PlacedInside> evenly_inside(const Outline& item, const Outline& shape) {
  const Inside inside(item, shape);
  if (inside.nothing())
    return std::nullopt;
  const std::optional<Point> at = inside.best(1);
  return at ? std::optional(inside.placed(*at, 1)) : std::nullopt;
}

std::optional<PlacedInside> largest_inside(const Outline& item, const Outline& shape, double margin,
                                           const std::stop_token& stop) {
  const Inside inside(item, shape);
  if (inside.nothing() || !(margin >= 0) || !(inside.largest_ever() < std::numeric_limits<double>::infinity()))
    return std::nullopt;
  std::optional<Point> at = inside.best(0); // the deepest place of the shape
  if (!at || !(inside.margin(*at, 0) > margin))
    return std::nullopt;
  constexpr int halvings = 30;
  double scale = 0;
  constexpr int most_rounds = 24;
  constexpr double gain = 1.0002;
  for (int i = 0; i < most_rounds; ++i) {
    if (stop.stop_requested())
      return std::nullopt;
    const double now = bisect(
                           {scale, inside.largest_ever() * gain},
                           [&](double k) { return inside.margin(*at, k) < std::max(margin, 1e-6); }, halvings)
                           .low;
    const bool done = now <= scale * gain;
    scale = std::max(scale, now);
    const std::optional<Point> next = inside.best(scale);
    if (done || !next)
      break;
    at = next;
  }
  // The table may be wrong by a part of a cell.
  constexpr double wrong = 0.05;
  const auto too_large = [&](double k) {
    const double now = inside.placed(*at, k).margin;
    return now <= 0 || now < margin;
  };
  scale = bisect({scale * (1 - wrong), scale * (1 + wrong)}, too_large, halvings).low;
  return scale > 0 ? std::optional(inside.placed(*at, scale)) : std::nullopt;
}

} // namespace frelm
