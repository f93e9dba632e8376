// The edge of a letter over a band, exactly: its lines are sorted by height; between two neighbouring heights of
// corners no two lines change places, so one line is outermost, and the mean of the larger of it and the capped
// retreat has a closed form.
#include "lettering/optical.h"

#include <array>

namespace frelm {
namespace {

constexpr std::size_t rows = 32;       // heights looked at for the reach of a join
constexpr int refinements = 2;         // each sixteen times closer
constexpr double small_letters = 1.12; // x-heights: what reaches no higher counts as a small letter

constexpr double least_lean = 0.17; // the steepest lean's cosine (seat)

struct RisingLine {
  double y0, y1, x0, x1; // upwards: y0 < y1
  double at(double y) const { return x0 + (x1 - x0) * (y - y0) / (y1 - y0); }
};

template <class Use> void each_line(const FlatLetter& letter, std::span<const Point> points, const Use& use) {
  std::size_t start = 0;
  for (const std::size_t end : letter.ends) {
    for (std::size_t i = start; i + 1 < end; ++i)
      use(points[i], points[i + 1]);
    if (end > start + 2) // two points are one line
      use(points[end - 1], points[start]);
    start = end;
  }
}

// The mean of max(a straight line from a to b, floor).
double mean_of_larger(double a, double b, double floor) {
  if (a > b)
    std::swap(a, b);
  if (a >= floor)
    return (a + b) / 2;
  if (b <= floor)
    return floor;
  const double over = (b - floor) / (b - a);
  return floor + over * (b - floor) / 2;
}

// The outermost x of the letter at evenly spaced heights; -infinity where it has no ink. sense −1: leftmost, negated.
using Rows = std::array<double, rows>;
Rows edge_rows(const FlatLetter& letter, std::span<const Point> points, const PairFrame& frame, Band band,
               double sense) {
  Rows out;
  out.fill(-std::numeric_limits<double>::infinity());
  const double step = band.height() / rows, first = band.low + step / 2;
  each_line(letter, points, [&](Point p, Point q) {
    double y0 = frame.y(p), y1 = frame.y(q);
    if (y0 == y1 || std::max(y0, y1) < first || std::min(y0, y1) > band.high)
      return;
    double x0 = sense * frame.x(p), x1 = sense * frame.x(q);
    if (y0 > y1)
      std::swap(y0, y1), std::swap(x0, x1);
    const auto from = static_cast<std::size_t>(std::ceil(std::max((y0 - first) / step, 0.0)));
    const double slope = (x1 - x0) / (y1 - y0);
    for (std::size_t r = from; r < rows; ++r) {
      const double y = first + static_cast<double>(r) * step;
      if (y > y1)
        break;
      out[r] = std::max(out[r], x0 + slope * (y - y0));
    }
  });
  return out;
}

// The lowest and highest of the points in the frame.
Band extent(std::span<const Point> points, const PairFrame& frame) {
  Band out{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
  for (const Point p : points)
    out.low = std::min(out.low, frame.y(p)), out.high = std::max(out.high, frame.y(p));
  return out;
}

} // namespace

double flat_letter_tolerance(double cap_height) {
  return std::clamp(cap_height * 2e-4, 0.0005, 0.02);
}

FlatLetter flat_letter(const Outline& letter, double tolerance) {
  FlatLetter out;
  for (const Contour& c : letter.contours) {
    const std::vector<Point> points = flatten(c, tolerance);
    out.points.insert(out.points.end(), points.begin(), points.end());
    out.ends.push_back(out.points.size());
  }
  return out;
}

Outline polygons(const FlatLetter& letter, std::span<const Point> points) {
  Outline out;
  std::size_t start = 0;
  for (const std::size_t end : letter.ends) {
    Contour c;
    for (std::size_t i = start; i < end; ++i)
      c.segments.push_back(Segment::line(points[i], points[i + 1 < end ? i + 1 : start]));
    out.contours.push_back(std::move(c));
    start = end;
  }
  return out;
}

PairFrame pair_frame(const Parallel& line, double left_at, double right_at, double height) {
  const auto base = [&](const CurvePlace& p) { return p.point + up_of(p.tangent) * height; };
  if (const std::vector<CurveCorner> corners = line.curve().corners(); !corners.empty()) {
    const double from = line.to_curve(left_at), to = line.to_curve(right_at);
    for (const CurveCorner& c : corners)
      for (const double turn : {-line.curve().length(), 0.0, line.curve().length()})
        if (const double s = c.s + (line.closed() ? turn : 0); s > from && s < to) {
          const Point a = base(line.at(left_at).on_curve), b = base(line.at(right_at).on_curve);
          return {(a + b) / 2, unit(b - a)};
        }
  }
  const CurvePlace middle = line.at((left_at + right_at) / 2).on_curve;
  return {base(middle), middle.tangent};
}

Band bent_band(Band straight, Stance stance, const PairFrame& frame, std::span<const Point> left,
               std::span<const Point> right) {
  if (stance == Stance::Lean) {
    const double lower = std::max(std::abs(frame.along.x), least_lean);
    return {straight.low * lower, straight.high * lower};
  }
  if (stance != Stance::Stand)
    return straight;
  const Band a = extent(left, frame), b = extent(right, frame);
  const Band both{std::max(a.low, b.low), std::min(a.high, b.high)};
  return both.height() > 0.1 * straight.height() ? both : Band{std::min(a.low, b.low), std::max(a.high, b.high)};
}

Band shared_band(const SetCluster& left, const SetCluster& right, const SetText& set) {
  const double reach = std::min(-left.ink.y0, -right.ink.y0), scale = left.scale;
  return {0, scale * (reach <= small_letters * scale * set.x_height ? set.x_height : set.cap_height)};
}

double mean_edge(const FlatLetter& letter, std::span<const Point> points, const PairFrame& frame, Band band,
                 Facing side) {
  const double sense = side == Facing::Right ? 1 : -1;
  thread_local std::vector<Point> seen; // x outwards, y up
  thread_local std::vector<RisingLine> edges;
  thread_local std::vector<double> heights;
  thread_local std::vector<const RisingLine*> active;
  seen.resize(points.size()), edges.clear(), heights.clear(), active.clear();
  double anywhere = -std::numeric_limits<double>::infinity(), extreme = anywhere;
  for (std::size_t i = 0; i < points.size(); ++i) {
    seen[i] = {sense * frame.x(points[i]), frame.y(points[i])};
    anywhere = std::max(anywhere, seen[i].x);
    if (seen[i].y >= band.low && seen[i].y <= band.high)
      extreme = std::max(extreme, seen[i].x);
  }
  const auto cut = [&](Point p, Point q) {
    RisingLine e = p.y < q.y ? RisingLine{p.y, q.y, p.x, q.x} : RisingLine{q.y, p.y, q.x, p.x};
    if (e.y0 < band.low)
      e.x0 = e.at(band.low), e.y0 = band.low;
    if (e.y1 > band.high)
      e.x1 = e.at(band.high), e.y1 = band.high;
    return e;
  };
  // Lines that cross an end of the band may be outermost there.
  each_line(letter, seen, [&](Point p, Point q) {
    for (const double end : {band.low, band.high})
      if ((p.y < end) != (q.y < end))
        extreme = std::max(extreme, p.x + (q.x - p.x) * (end - p.y) / (q.y - p.y));
  });
  const double depth = retreat_share * band.height();
  if (!std::isfinite(extreme))
    return sense * (anywhere - depth); // all its ink stands outside the band
  const double floor = extreme - depth;
  heights.push_back(band.low), heights.push_back(band.high);
  each_line(letter, seen, [&](Point p, Point q) {
    if (std::max(p.x, q.x) <= floor || std::max(p.y, q.y) <= band.low || std::min(p.y, q.y) >= band.high || p.y == q.y)
      return;
    edges.push_back(cut(p, q));
    heights.push_back(edges.back().y0), heights.push_back(edges.back().y1);
  });
  std::sort(heights.begin(), heights.end());
  std::sort(edges.begin(), edges.end(), [](const RisingLine& a, const RisingLine& b) { return a.y0 < b.y0; });
  double sum = 0;
  std::size_t next = 0;
  for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
    const double a = heights[i], b = heights[i + 1];
    if (!(b > a))
      continue;
    std::erase_if(active, [&](const RisingLine* e) { return e->y1 <= a; });
    for (; next < edges.size() && edges[next].y0 <= a; ++next)
      if (edges[next].y1 > a)
        active.push_back(&edges[next]);
    const RisingLine* outermost = nullptr;
    double best = floor;
    for (const RisingLine* e : active)
      if (const double x = e->at((a + b) / 2); outermost == nullptr || x > best)
        outermost = e, best = x;
    sum += (b - a) * (outermost != nullptr ? mean_of_larger(outermost->at(a), outermost->at(b), floor) : floor);
  }
  return sense * sum / band.height();
}

double deepest_reach(const FlatLetter& left, std::span<const Point> left_points, const FlatLetter& right,
                     std::span<const Point> right_points, const PairFrame& frame, Band band) {
  // The deepest of evenly spaced heights, then closer about that one: a join may come to a point.
  double best = -std::numeric_limits<double>::infinity();
  for (int closer = 0; closer <= refinements; ++closer) {
    const Rows a = edge_rows(left, left_points, frame, band, 1), b = edge_rows(right, right_points, frame, band, -1);
    std::size_t deepest = 0;
    for (std::size_t r = 1; r < a.size(); ++r)
      if (a[r] + b[r] > a[deepest] + b[deepest])
        deepest = r;
    best = std::max(best, a[deepest] + b[deepest]);
    const double step = band.height() / static_cast<double>(rows),
                 here = band.low + step * (static_cast<double>(deepest) + 0.5);
    band = {here - step, here + step};
  }
  return best;
}

} // namespace frelm
