#include "geom/parallel.h"

#include "geom/along.h"

namespace frelm {
namespace {

constexpr int samples_per_piece = 32; // a quarter turn between two samples is already much
constexpr double beside = 1e-9;       // mm from a joint, where its own side's direction is taken

} // namespace

Result<Parallel> Parallel::make(std::shared_ptr<const Curve> curve, double distance) {
  Parallel out;
  out.curve_ = std::move(curve);
  out.distance_ = distance;
  out.length_ = out.curve_->length();
  if (distance == 0 || !(out.length_ > 0))
    return out;
  std::vector<double> joints = out.curve_->joints();
  if (out.curve_->closed())
    joints.push_back(out.length_);
  double sigma = 0;
  for (std::size_t j = 0; j + 1 < joints.size(); ++j) {
    const double from = joints[j], to = joints[j + 1];
    int n = samples_per_piece;
    if (const auto* spiral = std::get_if<SpiralPiece>(&out.curve_->pieces()[j]))
      n *= 1 + static_cast<int>(std::abs(spiral->sweep) / pi);
    Vec before = out.curve_->at(from + beside).tangent;
    for (int i = 0; i < n; ++i) {
      const double s0 = from + (to - from) * i / n, s1 = from + (to - from) * (i + 1) / n;
      out.samples_.push_back({s0, sigma, before});
      const Vec after = out.curve_->at(i + 1 == n ? to - beside : s1).tangent;
      const double step = s1 - s0 + distance * turn_between(before, after);
      if (!(step > 0))
        return bad_input(
            FRELM_WORDS("core",
                        "the guide bends more tightly than the lines allow; less line pitch or a wider guide helps"),
            FRELM_WORDS("core", "Bend"));
      sigma += step;
      before = after;
    }
  }
  out.samples_.push_back({out.length_, sigma, out.samples_.back().tangent});
  out.length_ = sigma;
  return out;
}

double Parallel::from_curve(double s) const {
  if (samples_.empty())
    return s;
  const double whole = curve_->length();
  if (closed()) {
    const double turns = std::floor(s / whole);
    return turns * length_ + [&](double rest) {
      const auto after = std::upper_bound(samples_.begin() + 1, samples_.end() - 1, rest,
                                          [](double v, const Sample& x) { return v < x.s; });
      const Sample& a = *(after - 1);
      return a.sigma + rest - a.s + distance_ * turn_between(a.tangent, curve_->at(rest).tangent);
    }(s - turns * whole);
  }
  if (s <= 0)
    return s;
  if (s >= whole)
    return length_ + s - whole;
  const auto after =
      std::upper_bound(samples_.begin() + 1, samples_.end() - 1, s, [](double v, const Sample& x) { return v < x.s; });
  const Sample& a = *(after - 1);
  return a.sigma + s - a.s + distance_ * turn_between(a.tangent, curve_->at(s).tangent);
}

double Parallel::to_curve(double sigma) const {
  if (samples_.empty())
    return sigma;
  double base = 0;
  if (closed()) {
    const double turns = std::floor(sigma / length_);
    base = turns * curve_->length();
    sigma -= turns * length_;
  } else if (sigma <= 0) {
    return sigma;
  } else if (sigma >= length_) {
    return curve_->length() + sigma - length_;
  }
  const auto after = std::upper_bound(samples_.begin() + 1, samples_.end() - 1, sigma,
                                      [](double v, const Sample& x) { return v < x.sigma; });
  const Sample &a = *(after - 1), &b = *after;
  double s = a.s + (sigma - a.sigma) * (b.s - a.s) / (b.sigma - a.sigma);
  for (int i = 0; i < 6; ++i) {
    const CurvePlace p = curve_->at(std::clamp(s, a.s, b.s - beside));
    const double miss = a.sigma + s - a.s + distance_ * turn_between(a.tangent, p.tangent) - sigma;
    const double slope = std::max(1 + distance_ * p.curvature, 1e-6);
    s = std::clamp(s - miss / slope, a.s, b.s);
    if (std::abs(miss) < 1e-9)
      break;
  }
  return base + s;
}

Parallel::Place Parallel::at(double sigma) const {
  const CurvePlace p = curve_->at(to_curve(sigma));
  return {p, 1 / std::max(1 + distance_ * p.curvature, 1e-6)};
}

} // namespace frelm
