// Adaptive Gauss–Legendre quadrature; the one integrator behind every length.
#pragma once

#include <array>
#include <cmath>

namespace frelm {

// Nodes and weights of the 8-point rule on [-1, 1], positive half (Abramowitz & Stegun, Handbook of Mathematical
// Functions, 1964, table 25.4).
inline constexpr std::array<double, 4> gauss8_nodes{0.183434642495649805, 0.525532409916328986, 0.796666477413626740,
                                                    0.960289856497536232};
inline constexpr std::array<double, 4> gauss8_weights{0.362683783378361983, 0.313706645877887287, 0.222381034453374471,
                                                      0.101228536290376259};

template <class F> double gauss8(const F& f, double a, double b) {
  const double m = (a + b) / 2, h = (b - a) / 2;
  double sum = 0;
  for (std::size_t i = 0; i < gauss8_nodes.size(); ++i)
    sum += gauss8_weights[i] * (f(m - h * gauss8_nodes[i]) + f(m + h * gauss8_nodes[i]));
  return sum * h;
}

// ∫ f over [a, b]; halves until two halves agree with the whole within `relative`, at most 2^-depth of the range.
template <class F> double integrate(const F& f, double a, double b, double relative, int depth = 14) {
  const double whole = gauss8(f, a, b), m = (a + b) / 2;
  const double halves = gauss8(f, a, m) + gauss8(f, m, b);
  if (depth == 0 || std::abs(halves - whole) <= relative * std::abs(halves))
    return halves;
  return integrate(f, a, m, relative, depth - 1) + integrate(f, m, b, relative, depth - 1);
}

} // namespace frelm
