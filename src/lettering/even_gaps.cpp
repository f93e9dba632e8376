#include "lettering/even_gaps.h"

#include "geom/distance.h"

namespace frelm {
namespace {

constexpr double close_enough = 1e-6; // mm
constexpr int most_steps = 24;        // of the secant; four or five are usual
constexpr int most_fillings = 16;     // runs laid until one fills the guide

constexpr double untouched_share = 0.03; // cap heights that letters keep apart, or what they are when straight

Box bounds(const std::vector<Point>& points) {
  Box box;
  for (const Point p : points)
    box.add(p);
  return box;
}

class Evener {
public:
  Evener(Run& run, const EvenRun& on, const EvenOptions& options, const StraightPairs& straight)
      : run_(run), on_(on), options_(options), straight_(straight),
        fills_(options.mode == SpacingMode::EvenGaps && options.aim == GapAim::Fill && on.stops.empty()) {
    for (std::size_t i = 0; i < run.cells.size(); ++i)
      if (!run.cells[i].blank)
        inked_.push_back(i);
  }

  Result<EvenResult> work() {
    EvenResult out;
    if (inked_.size() < 2)
      return out;
    for (const std::size_t i : inked_)
      at_.push_back(middle(i));
    const std::vector<double> before = at_;
    points_.resize(inked_.size());
    make_pairs();
    if (!(fills_ ? fill(out) : lay(0)))
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "stopped"), FRELM_WORDS("core", "Spacing")};
    for (std::size_t i = 0; i < pairs_.size(); ++i)
      pairs_[i].result.moved = (at_[i + 1] - at_[i]) - (before[i + 1] - before[i]);
    move_cells(before);
    for (const Pair& p : pairs_)
      if (p.solved)
        out.pairs.push_back(p.result);
    if (fills_ && on_.line.closed())
      out.pairs.push_back(seam_.result);
    return out;
  }

private:
  struct Pair {
    EvenPair result;
    Band band;
    std::shared_ptr<const Join> join;
    double least = 0;   // mm, closest distance to keep; 0: the letters join in the straight setting
    bool solved = true; // not kept apart by a corner
  };

  const SetCluster& cluster(std::size_t cell) const {
    return on_.spaced.set->lines[run_.cells[cell].line][run_.cells[cell].cluster];
  }
  double middle(std::size_t cell) const { return on_.start + run_.cells[cell].at + run_.cells[cell].advance / 2; }
  const FlatLetter& flat(std::size_t letter) {
    flats_.resize(inked_.size());
    if (flats_[letter] == nullptr)
      flats_[letter] = straight_.flat(cluster(inked_[letter]).shape);
    return *flats_[letter];
  }
  void place(std::size_t letter, double at, std::vector<Point>& out) {
    on_.points(run_.cells[inked_[letter]], flat(letter), at, out);
  }

  double by_hand(std::size_t cell) const {
    const std::vector<double>& hand = on_.spaced.lines[run_.cells[cell].line].by_hand;
    return hand.empty() ? 0 : hand[run_.cells[cell].cluster];
  }

  Pair pair_of(std::size_t left, std::size_t right, double apart) {
    Pair p;
    const SetCluster &a = cluster(left), &b = cluster(right);
    p.result.left = left, p.result.right = right;
    p.band = shared_band(a, b, straight_.set());
    std::shared_ptr<const Join> join = straight_.join(a, b, apart);
    if (join == nullptr)
      p.least =
          std::max(options_.least_gap > 0 ? options_.least_gap + flat_letter_tolerance(straight_.set().cap_height) : 0,
                   std::min(straight_.clearance(a, b, apart), untouched_share * straight_.set().cap_height));
    else if (options_.mode == SpacingMode::KeepJoined)
      p.join = std::move(join);
    p.result.joined = p.join != nullptr;
    p.result.target = p.join != nullptr ? p.join->depth : straight_.gap(a, b, apart);
    return p;
  }

  void make_pairs() {
    for (std::size_t i = 0; i + 1 < inked_.size(); ++i) {
      const RunCell &a = run_.cells[inked_[i]], &b = run_.cells[inked_[i + 1]];
      const double apart = b.plain + b.advance / 2 - a.plain - a.advance / 2;
      pairs_.push_back(pair_of(inked_[i], inked_[i + 1], apart));
      // Sides of corners: a stop between the two letters' places.
      for (const CornerStop& s : on_.stops)
        for (const double turn : {-on_.line.length(), 0.0, on_.line.length()})
          if (const double at = s.at + (on_.line.closed() ? turn : 0); at > at_[i] && at < at_[i + 1])
            pairs_.back().solved = false;
    }
    if (options_.mode == SpacingMode::EvenGaps && options_.aim == GapAim::Typed)
      aim_at_typed();
    if (!fills_)
      return;
    const RunCell &last = run_.cells[inked_.back()], &first = run_.cells[inked_.front()];
    seam_ = pair_of(inked_.back(), inked_.front(),
                    first.plain + first.advance / 2 + run_.plain_length + on_.spaced.letter - last.plain -
                        last.advance / 2);
  }

  // One gap for all letters; word spaces keep what they are wider than the middle one of the line's own gaps.
  void aim_at_typed() {
    std::vector<double> own;
    for (const Pair& p : pairs_)
      if (p.result.right == p.result.left + 1)
        own.push_back(p.result.target);
    double usual = 0;
    if (!own.empty()) {
      std::nth_element(own.begin(), own.begin() + static_cast<std::ptrdiff_t>(own.size() / 2), own.end());
      usual = own[own.size() / 2];
    }
    for (Pair& p : pairs_)
      p.result.target = p.result.right == p.result.left + 1 ? options_.gap + by_hand(p.result.left)
                                                            : options_.gap + p.result.target - usual;
  }

  // The measure less the target; it grows with the letters' distance.
  double miss(const Pair& p, std::size_t l, double at_l, const std::vector<Point>& left, std::size_t r, double at_r,
              const std::vector<Point>& right, double extra) {
    const PairFrame frame = pair_frame(on_.line, at_l, at_r, on_.height);
    if (p.join != nullptr) {
      on_.points(run_.cells[inked_[l]], p.join->left_edge, at_l, edges_[0]);
      on_.points(run_.cells[inked_[r]], p.join->right_edge, at_r, edges_[1]);
      return p.result.target -
             reach_of(*p.join, frame, spot(l, at_l, p.join->left), spot(r, at_r, p.join->right), edges_[0], edges_[1]);
    }
    const Band band = bent_band(p.band, on_.stance, frame, left, right);
    return mean_edge(flat(r), right, frame, band, Facing::Left) - mean_edge(flat(l), left, frame, band, Facing::Right) -
           p.result.target - extra;
  }
  // One place of a letter, given in its own coordinates.
  Point spot(std::size_t letter, double at, Point own) {
    const FlatLetter one{{own}, {1}};
    on_.points(run_.cells[inked_[letter]], one, at, spot_);
    return spot_.front();
  }

  // Places letter `mover` beside `fixed` (its neighbour); sense 1: to its right.
  void place_beside(Pair& p, std::size_t fixed, std::size_t mover, double sense, double extra) {
    const double home = at_[fixed], cap = straight_.set().cap_height;
    const auto miss_at = [&](double apart) {
      place(mover, home + sense * apart, points_[mover]);
      return sense > 0 ? miss(p, fixed, home, points_[fixed], mover, home + apart, points_[mover], extra)
                       : miss(p, mover, home - apart, points_[mover], fixed, home, points_[fixed], extra);
    };
    const double guess = std::abs(at_[mover] - home);
    const double low = std::min(guess, 0.05 * cap), high = 2 * guess + 4 * cap + std::abs(p.result.target) + extra;
    double u0 = guess, f0 = miss_at(u0), best = u0, best_miss = std::abs(f0);
    double u1 = std::isfinite(f0) ? std::clamp(u0 - f0, low, high) : u0;
    for (int step = 0; step < most_steps && best_miss > close_enough && u1 != u0; ++step) {
      const double f1 = miss_at(u1);
      if (!std::isfinite(f1))
        break;
      if (std::abs(f1) < best_miss)
        best = u1, best_miss = std::abs(f1);
      const double slope = std::clamp((f1 - f0) / (u1 - u0), 0.3, 3.0);
      u0 = u1, f0 = f1;
      u1 = std::clamp(u1 - f1 / slope, low, high);
    }
    p.result.off = best_miss;
    p.result.held = false;
    if (p.least > 0)
      hold_apart(p, fixed, mover, home, sense, best);
    at_[mover] = home + sense * best;
    place(mover, at_[mover], points_[mover]);
  }

  void hold_apart(Pair& p, std::size_t fixed, std::size_t mover, double home, double sense, double& apart) {
    place(mover, home + sense * apart, points_[mover]);
    if (bounds(points_[fixed]).distance_to(bounds(points_[mover])) >= p.least)
      return;
    const Outline still = polygons(flat(fixed), points_[fixed]);
    double u = apart;
    for (int step = 0; step < most_steps; ++step) {
      place(mover, home + sense * u, points_[mover]);
      const Closest near = closest(still, polygons(flat(mover), points_[mover]));
      const double missing = p.least - near.distance;
      if (std::abs(missing) < 1e-5 || (step == 0 && missing < 0))
        break;
      p.result.held = true;
      u += near.overlapping ? std::max(missing, 0.05 * straight_.set().cap_height) : missing;
    }
    apart = std::max(apart, u);
  }

  // All letters outwards from the anchor's, every target `extra` wider. False: stopped.
  bool lay(double extra) {
    std::size_t from = 0;
    while (from < inked_.size()) {
      std::size_t to = from; // the last letter of this side
      while (to + 1 < inked_.size() && pairs_[to].solved)
        ++to;
      const bool whole = from == 0 && to + 1 == inked_.size();
      const double wanted = at_[from] + (whole ? on_.anchor_share : 0.5) * (at_[to] - at_[from]);
      std::size_t anchor = from;
      for (std::size_t i = from; i <= to; ++i)
        if (std::abs(at_[i] - wanted) < std::abs(at_[anchor] - wanted) - close_enough)
          anchor = i;
      place(anchor, at_[anchor], points_[anchor]);
      // What has not been placed yet moves along, so that the next guess is a good one.
      for (std::size_t i = anchor; i < to; ++i) {
        const double was = at_[i + 1];
        place_beside(pairs_[i], i, i + 1, 1, extra);
        shift(i + 2, to + 1, at_[i + 1] - was);
        if (!tell())
          return false;
      }
      for (std::size_t i = anchor; i > from; --i) {
        const double was = at_[i - 1];
        place_beside(pairs_[i - 1], i, i - 1, -1, extra);
        shift(from, i - 1, at_[i - 1] - was);
        if (!tell())
          return false;
      }
      from = to + 1;
    }
    return true;
  }
  void shift(std::size_t from, std::size_t end, double by) {
    for (std::size_t k = from; k < end; ++k)
      at_[k] += by;
  }

  bool tell() {
    ++done_;
    if (options_.progress && done_ % 16 == 0)
      options_.progress(std::min(static_cast<double>(done_) / static_cast<double>(inked_.size()), 1.0));
    return !options_.stop.stop_requested();
  }

  // Every gap wider by the same optical amount until the run meets itself, or both ends.
  bool fill(EvenResult& out) {
    const double room = on_.line.length();
    const auto gaps = static_cast<double>(inked_.size() - (on_.line.closed() ? 0 : 1));
    if (!on_.line.closed()) // from the very start
      shift(0, inked_.size(), run_.cells[inked_.front()].advance / 2 - at_.front());
    const auto missing = [&](double extra) -> std::optional<double> {
      if (!lay(extra))
        return std::nullopt;
      if (!on_.line.closed())
        return room - at_.back() - run_.cells[inked_.back()].advance / 2;
      std::vector<Point> first;
      place(0, at_.front() + room, first);
      const double more =
          miss(seam_, inked_.size() - 1, at_.back(), points_.back(), 0, at_.front() + room, first, extra);
      seam_.result.off = std::abs(more);
      return more;
    };
    double t0 = 0;
    std::optional<double> f0 = missing(t0);
    double t1 = f0 ? t0 + *f0 / gaps : 0;
    for (int i = 0; i < most_fillings && f0 && std::abs(*f0) > 1e-6; ++i) {
      const std::optional<double> f1 = missing(t1);
      if (!f1)
        return false;
      const double slope = t1 != t0 ? std::clamp((*f1 - *f0) / (t1 - t0), -2 * gaps, -0.5 * gaps) : -gaps;
      t0 = t1, f0 = f1;
      t1 -= *f1 / slope;
    }
    out.extra = t0;
    for (Pair& p : pairs_)
      p.result.target += t0;
    seam_.result.target += t0;
    return f0.has_value();
  }

  // Letters take their new places; spaces between two letters share their distance as before.
  void move_cells(const std::vector<double>& before) {
    std::vector<double> moved;
    std::size_t next = 0; // the first letter not left of the cell
    for (std::size_t i = 0; i < run_.cells.size(); ++i) {
      RunCell& c = run_.cells[i];
      while (next < inked_.size() && inked_[next] < i)
        ++next;
      double now;
      if (next < inked_.size() && inked_[next] == i) {
        now = at_[next];
      } else {
        const double was = middle(i);
        if (next == 0)
          now = was + at_[0] - before[0];
        else if (next == inked_.size())
          now = was + at_.back() - before.back();
        else
          now = at_[next - 1] +
                (was - before[next - 1]) * (at_[next] - at_[next - 1]) / (before[next] - before[next - 1]);
      }
      moved.push_back(now - c.advance / 2 - on_.start);
    }
    for (std::size_t i = 0; i < moved.size(); ++i)
      run_.cells[i].at = moved[i];
  }

  Run& run_;
  const EvenRun& on_;
  const EvenOptions& options_;
  const StraightPairs& straight_;
  const bool fills_;
  std::vector<std::shared_ptr<const FlatLetter>> flats_; // of the letters, once they have been asked for
  std::vector<std::size_t> inked_;                       // cells with ink, left to right: the letters
  std::vector<double> at_;                               // σ of each letter
  std::vector<std::vector<Point>> points_;               // of each letter where it stands now
  std::vector<Pair> pairs_;                              // letter i with i + 1
  Pair seam_;                                            // of a run that fills its guide
  std::vector<Point> spot_, edges_[2];
  std::size_t done_ = 0;
};

} // namespace

Result<EvenResult> even_out(Run& run, const EvenRun& on, const EvenOptions& options, const StraightPairs& straight) {
  return Evener(run, on, options, straight).work();
}

} // namespace frelm
