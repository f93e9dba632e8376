// An independent walk along a path: parts given by point and derivative, lengths by Gauss–Legendre quadrature, places
// by bisection on them. Nothing of geom/curve is used.
//
// Nodes and weights of the five-point rule: Abramowitz & Stegun, Handbook of Mathematical Functions, table 25.4.
#pragma once

#include "geom/point.h"

#include <functional>
#include <vector>

namespace frelm::test {

struct PathPart {
  std::function<Point(double)> at;       // u in [0, 1]
  std::function<Vec(double)> derivative; // d/du
};

class PathWalk {
public:
  explicit PathWalk(std::vector<PathPart> parts) : parts_(std::move(parts)) {
    for (std::size_t i = 0; i < parts_.size(); ++i)
      for (int k = 0; k < panels; ++k)
        ends_.push_back(length() + piece(i, part_of(k), part_of(k + 1)));
  }
  double length() const { return ends_.empty() ? 0 : ends_.back(); }
  struct Place {
    Point point;
    Vec tangent;
  };
  Place at(double s) const {
    std::size_t panel = 0;
    while (panel + 1 < ends_.size() && ends_[panel] < s)
      ++panel;
    const std::size_t part = panel / panels;
    const double u0 = part_of(static_cast<int>(panel % panels)), before = panel > 0 ? ends_[panel - 1] : 0;
    double low = u0, high = u0 + part_of(1);
    for (int i = 0; i < 60; ++i) {
      const double middle = (low + high) / 2;
      (before + piece(part, u0, middle) < s ? low : high) = middle;
    }
    return {parts_[part].at(low), unit(parts_[part].derivative(low))};
  }

  static PathPart line(Point a, Point b) {
    return {[=](double u) { return lerp(a, b, u); }, [=](double) { return b - a; }};
  }
  static PathPart cubic(Point a, Point b, Point c, Point d) {
    return {[=](double u) {
              const double v = 1 - u;
              return a * (v * v * v) + b * (3 * v * v * u) + c * (3 * v * u * u) + d * (u * u * u);
            },
            [=](double u) {
              const double v = 1 - u;
              return (b - a) * (3 * v * v) + (c - b) * (6 * v * u) + (d - c) * (3 * u * u);
            }};
  }
  // centre + turn·(rx cos a, ry sin a), a from `from` to `from + sweep`, radians.
  static PathPart arc(Point centre, double rx, double ry, double turn, double from, double sweep) {
    const auto turned = [turn](Vec v) {
      return Vec{v.x * std::cos(turn) - v.y * std::sin(turn), v.x * std::sin(turn) + v.y * std::cos(turn)};
    };
    return {[=](double u) {
              return centre + turned({rx * std::cos(from + sweep * u), ry * std::sin(from + sweep * u)});
            },
            [=](double u) {
              return turned({-rx * sweep * std::sin(from + sweep * u), ry * sweep * std::cos(from + sweep * u)});
            }};
  }
  static PathPart spiral(Point centre, double inner, double outer, double from, double sweep) {
    return {[=](double u) { return centre + direction(from + sweep * u) * (inner + (outer - inner) * u); },
            [=](double u) {
              const double a = from + sweep * u, r = inner + (outer - inner) * u;
              return direction(a) * (outer - inner) + Vec{-std::sin(a), std::cos(a)} * (r * sweep);
            }};
  }

private:
  static constexpr int panels = 400;
  static double part_of(int k) { return static_cast<double>(k) / panels; }
  double piece(std::size_t part, double u0, double u1) const {
    constexpr double x[] = {0, 0.5384693101056831, 0.9061798459386640};
    constexpr double w[] = {0.5688888888888889, 0.4786286704993665, 0.2369268850561891};
    const double middle = (u0 + u1) / 2, half = (u1 - u0) / 2;
    double sum = w[0] * frelm::length(parts_[part].derivative(middle));
    for (int i = 1; i < 3; ++i)
      for (const double sign : {-1.0, 1.0})
        sum += w[i] * frelm::length(parts_[part].derivative(middle + sign * half * x[i]));
    return sum * half;
  }
  std::vector<PathPart> parts_;
  std::vector<double> ends_;
};

} // namespace frelm::test
