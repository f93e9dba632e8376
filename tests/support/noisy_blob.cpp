#include "support/noisy_blob.h"

#include "support/fixtures.h"

namespace frelm::test {
namespace {

constexpr int count = 20000, fine = 2000000;
constexpr double noise = 0.02; // mm

Point at(double a) {
  const double r = 140 * (1 + 0.11 * std::cos(2 * a + 0.5) + 0.04 * std::cos(5 * a) +
                          0.08 * std::abs(std::sin(2 * a + 0.3)) - 0.05 * std::abs(std::sin(1.5 * a + 0.9)));
  return direction(a) * r;
}

} // namespace

Outline NoisyBlob::outline() const {
  Contour c;
  for (std::size_t i = 0; i < points.size(); ++i)
    c.segments.push_back(Segment::line(points[i], points[(i + 1) % points.size()]));
  return {{c}};
}

NoisyBlob noisy_blob(std::uint64_t seed) {
  NoisyBlob blob;
  std::vector<double> along{0};
  for (int i = 1; i <= fine; ++i)
    along.push_back(along.back() + distance(at(2 * pi * (i - 1) / fine), at(2 * pi * i / fine)));
  auto random = random_source(seed);
  std::size_t k = 0;
  for (int i = 0; i < count; ++i) {
    const double s = along.back() * i / count;
    while (along[k + 1] < s)
      ++k;
    const double a = 2 * pi * (static_cast<double>(k) + (s - along[k]) / (along[k + 1] - along[k])) / fine;
    const Vec tangent = unit(at(a + 1e-6) - at(a - 1e-6));
    blob.clean.push_back(at(a));
    blob.points.push_back(at(a) + up_of(tangent) * uniform(random, -noise, noise));
  }
  for (int m = 0; m < 8; ++m) {
    const double a = (m * pi - 0.3) / 2, b = (m * pi - 0.9) / 1.5;
    if (a >= 0 && a < 2 * pi)
      blob.corners.push_back(at(a));
    if (b >= 0 && b < 2 * pi)
      blob.corners.push_back(at(b));
  }
  return blob;
}

} // namespace frelm::test
