#include "document/ruler_lines.h"

namespace frelm {
namespace {

constexpr double level_enough = 1e-9; // degrees

bool is_turned_by(double angle, double wanted) {
  return std::abs(std::remainder(angle - wanted, 180.0)) <= level_enough;
}

} // namespace

Vec way_of(const RulerLine& line) {
  if (level_at(line))
    return {1, 0};
  if (upright_at(line))
    return {0, 1};
  return direction(radians(line.angle));
}

std::optional<double> upright_at(const RulerLine& line) {
  return is_turned_by(line.angle, 90) ? std::optional(line.at.x) : std::nullopt;
}

std::optional<double> level_at(const RulerLine& line) {
  return is_turned_by(line.angle, 0) ? std::optional(line.at.y) : std::nullopt;
}

Point foot_on(const RulerLine& line, Point p) {
  const Vec v = way_of(line);
  return line.at + dot(p - line.at, v) * v;
}

std::optional<Point> crossing_of(const RulerLine& a, const RulerLine& b) {
  const Vec u = way_of(a), v = way_of(b);
  const double turn = cross(u, v);
  if (std::abs(turn) < 1e-12)
    return std::nullopt;
  return a.at + (cross(b.at - a.at, v) / turn) * u;
}

std::optional<std::pair<Point, Point>> part_inside(const RulerLine& line, const Box& box) {
  const Vec v = way_of(line);
  double from = -1e18, to = 1e18;
  const auto cut = [&](double at, double step, double low, double high) {
    if (step == 0) {
      if (at < low || at > high)
        from = 1, to = 0;
      return;
    }
    const double a = (low - at) / step, b = (high - at) / step;
    from = std::max(from, std::min(a, b)), to = std::min(to, std::max(a, b));
  };
  cut(line.at.x, v.x, box.x0, box.x1);
  cut(line.at.y, v.y, box.y0, box.y1);
  if (from > to)
    return std::nullopt;
  return std::pair{line.at + from * v, line.at + to * v};
}

std::optional<std::size_t> ruler_line_at(const Document& document, Point p, double reach) {
  std::optional<std::size_t> best;
  for (std::size_t i = 0; i < document.ruler_lines.size(); ++i)
    if (const double d = distance(foot_on(document.ruler_lines[i], p), p); d <= reach)
      best = i, reach = d;
  return best;
}

Document add_ruler_line(Document document, const RulerLine& line) {
  document.ruler_lines.push_back(line);
  return document;
}

Document with_ruler_line(Document document, std::size_t at, const RulerLine& line) {
  if (at < document.ruler_lines.size())
    document.ruler_lines[at] = line;
  return document;
}

Document without_ruler_line(Document document, std::size_t at) {
  if (at < document.ruler_lines.size())
    document.ruler_lines.erase(document.ruler_lines.begin() + static_cast<std::ptrdiff_t>(at));
  return document;
}

} // namespace frelm
