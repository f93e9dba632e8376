// Where a no becomes a yes: halving, for what jumps or is only known by its sign. Where there is a derivative Newton's
// method within a bracket is quicker (geom/rails, geom/recover).
#pragma once

namespace frelm {

struct Bracket {
  double low, high;
};

// low counts as a no, high as a yes; neither is asked. Returns a stretch between them of which the same holds, halved
// so often; 60 halvings leave nothing between two doubles of like size.
template <class Yes> Bracket bisect(Bracket b, const Yes& yes, int halvings = 60) {
  for (int i = 0; i < halvings; ++i) {
    const double middle = (b.low + b.high) / 2;
    (yes(middle) ? b.high : b.low) = middle;
  }
  return b;
}

} // namespace frelm
