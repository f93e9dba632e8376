// Any bytes as two outlines and an operation: booleans, offsets, shades, thinning, rounding, arrangement, tabs,
// ribbons. Nothing may crash, hang, read or compute out of bounds; every contour of an area comes out closed and
// finite. Built with clang's libFuzzer (Debian's clang and libclang-rt-14-dev):
//   cmake --preset fuzz && cmake --build build/fuzz --target fuzz_geometry
//   build/fuzz/tests/fuzz/fuzz_geometry CORPUS -max_total_time=600
// What it has learnt is kept in corpus.txt (tests/fuzz/keep-corpus), which fuzz/test_replay runs in every build.
#include "geom/arrangement.h"
#include "geom/boolean.h"
#include "geom/distance.h"
#include "geom/offset.h"
#include "geom/ribbon.h"
#include "geom/round_corners.h"
#include "geom/shade.h"
#include "geom/tab.h"
#include "geom/thin.h"

#include <cstdint>
#include <cstdio>
#include <cstdlib>

using namespace frelm;

namespace {

constexpr std::size_t most_contours = 3, most_segments = 6;

class Bytes {
public:
  Bytes(const std::uint8_t* data, std::size_t size) : data_(data), size_(size) {}
  std::uint8_t next() { return at_ < size_ ? data_[at_++] : std::uint8_t{0}; }
  // Whole millimetres mostly, so that things coincide; the odd coordinate off by little.
  double coordinate() {
    const std::uint8_t a = next();
    constexpr double off[] = {0, 1e-6, 1e-5, 1e-4, 1e-3, 1e-2, 0.37, 0.5};
    return (a & 0x1f) + off[a >> 5];
  }
  // As far as a curve of a badly converted face begins the wrong way.
  Vec hair() {
    constexpr double off[] = {0, 1e-5, 1e-4, 1e-3, 0.005, 0.02, 0.1, 0.5};
    const std::uint8_t a = next();
    return {off[a & 7] * (a & 64 ? -1 : 1), off[(a >> 3) & 7] * (a & 128 ? -1 : 1)};
  }
  Point point() {
    const double x = coordinate();
    return {x, coordinate()};
  }

private:
  const std::uint8_t* data_;
  std::size_t size_, at_ = 0;
};

Outline outline_from(Bytes& bytes) {
  Outline out;
  const std::size_t contours = 1 + bytes.next() % most_contours;
  for (std::size_t c = 0; c < contours; ++c) {
    Contour contour;
    const std::uint8_t shape = bytes.next();
    contour.closed = shape % 8 != 0;
    const std::size_t n = 2 + shape / 8 % (most_segments - 1);
    const Point start = bytes.point();
    Point at = start;
    for (std::size_t i = 0; i < n; ++i) {
      const std::uint8_t kind = bytes.next() % 4;
      const bool line = kind % 2 == 0, hooks = kind == 3;
      Point a = line ? Point{} : hooks ? at + bytes.hair() : bytes.point();
      Point b = line || hooks ? Point{} : bytes.point();
      const Point end = i + 1 == n && contour.closed ? start : bytes.point();
      if (hooks)
        b = end + bytes.hair();
      contour.segments.push_back(line ? Segment::line(at, end) : Segment::cubic(at, a, b, end));
      at = end;
    }
    out.contours.push_back(std::move(contour));
  }
  return out;
}

void require(bool good, const char* what) {
  if (good)
    return;
  std::fprintf(stderr, "broken: %s\n", what);
  std::abort();
}

void check_area(const Outline& o) {
  for (const Contour& c : o.contours) {
    if (!c.closed)
      continue;
    require(!c.segments.empty(), "a contour without segments");
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Segment& s = c.segments[i];
      require(finite(s.p0) && finite(s.p1) && finite(s.p2) && finite(s.p3), "a coordinate that is no number");
      require(s.p3 == c.segments[(i + 1) % c.segments.size()].p0, "a contour that is not closed");
    }
  }
}

// By the definition: no node of a round offset is nearer to the united outline, or farther from it, than the distance.
void check_distance(const Outline& source, double d, const Outline& got) {
  if (std::any_of(source.contours.begin(), source.contours.end(), [](const Contour& c) { return !c.closed; }))
    return;
  constexpr double bound = 0.02; // mm: 0.01, and what the lines are flattened by
  WeldOptions uniting;
  uniting.small_loops = SmallLoops::Turned;
  uniting.flattening = 0.001; // as offset does: of slivers as narrow as that more or less is left
  Outline positive = source;
  positive.make_area_positive();
  const auto united = self_union(positive, FillRule::Nonzero, uniting);
  if (!united || united->outline.empty())
    return;
  Boundary lines(united->outline);
  for (const Contour& c : got.contours)
    for (const Segment& s : c.segments) {
      require(!lines.nearer_than(std::abs(d) - bound, s.p0), "an offset that is too near");
      require(lines.nearer_than(std::abs(d) + bound, s.p0).has_value(), "an offset that is too far");
    }
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  Bytes bytes(data, size);
  const std::uint8_t what = bytes.next(), how = bytes.next();
  const Outline a = outline_from(bytes), b = outline_from(bytes);
  switch (what % 8) {
  case 0:
  case 1:
    if (const auto r = combine(static_cast<BooleanOp>(how % 4), {a}, {b}))
      check_area(r->outline);
    break;
  case 2:
    if (const auto r = self_union(a, how % 2 == 0 ? FillRule::Nonzero : FillRule::EvenOdd))
      check_area(r->outline);
    break;
  case 3: {
    OffsetOptions options;
    options.join = static_cast<JoinStyle>(how % 3);
    options.cap = static_cast<CapStyle>(how / 3 % 3);
    options.holes = static_cast<HoleRule>(how / 9 % 3);
    const double d = (static_cast<int>(how) - 128) / 24.0;
    if (const auto r = offset(a, d, options)) {
      check_area(r->rings.front());
      if (options.join == JoinStyle::Round && options.holes == HoleRule::Keep && d != 0)
        check_distance(a, d, r->rings.front());
    }
    break;
  }
  case 4:
    if (const auto r = block_shade(a, {(how & 15) - 8.0, (how >> 4) - 8.0}))
      check_area(r->outline);
    if (const auto r = thin(a))
      check_area(r->outline);
    if (const auto r = round_corners(a, {.radius = 0.1 + how / 32.0, .which = static_cast<WhichCorners>(how % 3)}))
      check_area(r->outline);
    break;
  case 5:
    if (const auto united = self_union(a, FillRule::Nonzero)) {
      const TabRing ring{.outer = 1 + how / 16.0, .inner = (how % 16) / 16.0, .depth = 0.1 + how / 300.0};
      if (const auto r = with_tab(united->outline, {how / 8.0, 16}, ring))
        check_area(r->outline);
    }
    break;
  case 6: {
    const Contour& c = a.contours.front();
    const RibbonCut cut{.width = 0.5 + how / 20.0,
                        .notch = (how % 9) / 2.0,
                        .folds = how % 2 == 0,
                        .tail = 1 + how / 40.0,
                        .drop = (how % 21) - 10.0,
                        .gap = (how % 5) / 4.0};
    if (const auto r = ribbon_parts(Curve({c.segments.begin(), c.segments.end()}, c.closed), cut))
      check_area(*r);
    break;
  }
  default:
    if (const auto r = Arrangement::build({a, b}))
      if (const auto face = r->face_at({16, 16}))
        check_area(*face);
  }
  return 0;
}
