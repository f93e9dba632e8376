// A curve's parallel at a distance, parametrised by its own arc length: where further lines of a text stand.
//
// The parallel at distance d towards up_of(tangent) is as long as the curve plus d times the angle it turns through:
// σ(s) = s + d (θ(s) − θ(0)), θ the direction's angle, counted without the jumps at corners.
// Bound: places within 1e-7 mm where 1 + d κ stays positive.
#pragma once

#include "geom/curve.h"
#include "geom/result.h"

namespace frelm {

class Parallel {
public:
  // Errors: the parallel turns back (the curve bends more tightly than d allows).
  static Result<Parallel> make(std::shared_ptr<const Curve> curve, double distance);

  double length() const { return length_; }
  bool closed() const { return curve_->closed(); }
  const Curve& curve() const { return *curve_; }
  double from_curve(double s) const; // arc length on the curve → on the parallel
  double to_curve(double sigma) const;
  // Place on the curve itself (not on the parallel), and its d s / d σ.
  struct Place {
    CurvePlace on_curve;
    double rate = 1;
  };
  Place at(double sigma) const;

private:
  struct Sample {
    double s, sigma;
    Vec tangent; // just after s
  };
  std::shared_ptr<const Curve> curve_;
  double distance_ = 0, length_ = 0;
  std::vector<Sample> samples_; // empty for distance 0
};

} // namespace frelm
