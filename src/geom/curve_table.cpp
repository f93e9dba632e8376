#include "geom/curve_table.h"

namespace frelm {
namespace {

constexpr double longest_step = 1;                          // mm
constexpr std::size_t most_cells = 2000, fewest_cells = 16; // of a stretch
constexpr double beside = 1e-7;                             // mm from a joint, where its two sides are looked at
constexpr double kink = 1e-4;                               // radians: less is rounding
constexpr double bend_jump = 2e-3;                          // 1/mm of curvature: less is lost in a step

} // namespace

CurveTable::CurveTable(const Curve& curve) : length_(curve.length()), closed_(curve.closed()) {
  std::vector<double> stops{0};
  for (const double s : curve.joints()) {
    if (s <= beside || s >= length_ - beside)
      continue;
    const CurvePlace before = curve.at(s - beside), after = curve.at(s + beside);
    if (std::abs(cross(before.tangent, after.tangent)) > kink || dot(before.tangent, after.tangent) < 0 ||
        std::abs(before.curvature - after.curvature) > bend_jump)
      stops.push_back(s);
  }
  stops.push_back(length_);
  for (std::size_t i = 0; i + 1 < stops.size(); ++i) {
    const double from = stops[i], whole = stops[i + 1] - from;
    if (!(whole > 0))
      continue;
    Stretch stretch{from, 0, places_.size(),
                    std::clamp(static_cast<std::size_t>(std::ceil(whole / longest_step)), fewest_cells, most_cells)};
    stretch.step = whole / static_cast<double>(stretch.cells);
    for (std::size_t k = 0; k <= stretch.cells; ++k) {
      // Directions at the ends of a stretch are its own.
      const double s = from + stretch.step * static_cast<double>(k);
      const double inside =
          std::clamp(s, from + std::min(beside, whole / 4), stops[i + 1] - std::min(beside, whole / 4));
      const CurvePlace p = curve.at(inside);
      places_.push_back({p.point + p.tangent * (s - inside), p.tangent});
    }
    stretches_.push_back(stretch);
  }
}

CurveTable::Place CurveTable::at(double s) const {
  if (stretches_.empty())
    return {{}, {1, 0}};
  if (closed_) {
    s = std::fmod(s, length_);
    s = s < 0 ? s + length_ : s;
  } else if (s < 0) {
    return {places_.front().point + places_.front().along * s, places_.front().along};
  } else if (s > length_) {
    return {places_.back().point + places_.back().along * (s - length_), places_.back().along};
  }
  const auto next = std::upper_bound(stretches_.begin() + 1, stretches_.end(), s,
                                     [](double at, const Stretch& stretch) { return at < stretch.from; });
  const Stretch& stretch = *(next - 1);
  const double in = (s - stretch.from) / stretch.step;
  const std::size_t cell = std::min(static_cast<std::size_t>(std::max(in, 0.0)), stretch.cells - 1);
  const double t = in - static_cast<double>(cell), u = 1 - t, h = stretch.step;
  const Place &a = places_[stretch.first + cell], &b = places_[stretch.first + cell + 1];
  const Vec chord = b.point - a.point;
  return {a.point + chord * (t * t * (3 - 2 * t)) + a.along * (h * t * u * u) - b.along * (h * t * t * u),
          chord * (6 * t * u / h) + a.along * (u * (1 - 3 * t)) + b.along * (t * (3 * t - 2))};
}

} // namespace frelm
