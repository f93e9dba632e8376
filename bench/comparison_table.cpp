// The geometry's work beside the same work by Clipper, GEOS and Qt's painter paths, in one run, as a Markdown table:
//   build/release/bench/comparison_table
// Times are medians of `repeats` runs. Area error and worst deviation (both ways) are against a fine reference: GEOS on
// curves flattened at 5e-5 mm for unions, the definition sampled (tests/reference/offset_truth) for offsets.
#include "geom/boolean.h"
#include "geom/offset.h"
#include "geom/shade.h"
#include "geom/thin.h"
#include "lettering/seat.h"
#include "reference/geos_union.h"
#include "reference/offset_truth.h"
#include "support/cases.h"
#include "support/noisy_blob.h"
#include "support/warp_case.h"

#include <QPainterPath>
#include <QPainterPathStroker>
#include <chrono>
#include <cstdio>
#include <polyclipping/clipper.hpp>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr int repeats = 5;
constexpr double flattening = 0.002, offset_tolerance = 0.01; // mm

struct Answer {
  std::vector<Ring> rings;
  std::size_t nodes = 0;
};
std::size_t points_in(const std::vector<Ring>& rings) {
  std::size_t n = 0;
  for (const Ring& r : rings)
    n += r.size();
  return n;
}
Answer of(const Outline& o) {
  return {rings_of(o, 2e-4), o.node_count()};
}
Answer of(std::vector<Ring> rings) {
  const std::size_t n = points_in(rings);
  return {std::move(rings), n};
}

Answer of(const QPainterPath& path);

template <class F> std::pair<Answer, double> timed(const F& work, int times = repeats) {
  std::vector<double> ms;
  Answer answer;
  for (int i = 0; i < times; ++i) {
    const auto begin = std::chrono::steady_clock::now();
    auto result = work();
    ms.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
    answer = of(std::move(result));
  }
  std::sort(ms.begin(), ms.end());
  return {answer, ms[ms.size() / 2]};
}

void row(const char* work, const char* who, const std::pair<Answer, double>& got, const std::vector<Ring>* reference,
         double area) {
  std::printf("| %s | %s | %.2f | %zu |", work, who, got.second, got.first.nodes);
  if (reference == nullptr)
    std::printf(" | |\n");
  else
    std::printf(" %.4f | %.4f |\n", std::abs(total_area(got.first.rings) - area),
                boundary_distance(got.first.rings, *reference));
  std::fflush(stdout);
}

constexpr double units = 1e5;
ClipperLib::Paths clipper_paths(const std::vector<Outline>& shapes, double tolerance) {
  ClipperLib::Paths out;
  for (const Outline& o : shapes)
    for (const Ring& r : rings_of(o, tolerance)) {
      ClipperLib::Path& p = out.emplace_back();
      for (const Point q : r)
        p.emplace_back(std::llround(q.x * units), std::llround(q.y * units));
    }
  return out;
}
std::vector<Ring> rings_from(const ClipperLib::Paths& paths) {
  std::vector<Ring> out;
  for (const ClipperLib::Path& p : paths) {
    Ring& r = out.emplace_back();
    for (const auto& q : p)
      r.push_back({static_cast<double>(q.X) / units, static_cast<double>(q.Y) / units});
  }
  return out;
}
std::vector<Ring> clipper_union(const std::vector<Outline>& shapes) {
  ClipperLib::Clipper c;
  c.AddPaths(clipper_paths(shapes, flattening), ClipperLib::ptSubject, true);
  ClipperLib::Paths out;
  c.Execute(ClipperLib::ctUnion, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  return rings_from(out);
}
std::vector<Ring> clipper_offset(const Outline& shape, double d) {
  ClipperLib::ClipperOffset c(2, offset_tolerance * units);
  c.AddPaths(clipper_paths({shape}, offset_tolerance / 2), ClipperLib::jtRound, ClipperLib::etClosedPolygon);
  ClipperLib::Paths out;
  c.Execute(out, d * units);
  return rings_from(out);
}

QPainterPath painter_path(const std::vector<Outline>& shapes) {
  QPainterPath path;
  path.setFillRule(Qt::WindingFill);
  const auto q = [](Point p) { return QPointF(p.x, p.y); };
  for (const Outline& o : shapes)
    for (const Contour& c : o.contours) {
      path.moveTo(q(c.segments.front().p0));
      for (const Segment& s : c.segments)
        s.is_line() ? path.lineTo(q(s.p3)) : path.cubicTo(q(s.p1), q(s.p2), q(s.p3));
      path.closeSubpath();
    }
  return path;
}
Answer of(const QPainterPath& path) {
  Outline out;
  for (int i = 0; i < path.elementCount(); ++i) {
    const auto at = [&](int k) { return Point{path.elementAt(k).x, path.elementAt(k).y}; };
    if (path.elementAt(i).isMoveTo()) {
      out.contours.emplace_back();
    } else if (path.elementAt(i).isLineTo()) {
      if (at(i) != at(i - 1))
        out.contours.back().segments.push_back(Segment::line(at(i - 1), at(i)));
    } else {
      out.contours.back().segments.push_back(Segment::cubic(at(i - 1), at(i), at(i + 1), at(i + 2)));
      i += 2;
    }
  }
  std::erase_if(out.contours, [](const Contour& c) { return c.segments.empty(); });
  return of(out);
}

void head(const char* title) {
  std::printf("\n%s\n\n| work | by | ms | nodes | area error mm² | worst mm |\n|---|---|---|---|---|---|\n", title);
}

void unions() {
  head("Union of letters");
  for (const std::size_t n : {14u, 400u, 2000u}) {
    const std::vector<Outline> letters = case_letters(n);
    const std::string work = std::to_string(n) + " letters";
    const bool judged = n <= 400;
    std::vector<Ring> reference = judged ? geos_union(letters, 5e-5) : std::vector<Ring>{};
    const double area = total_area(reference);
    const auto* r = judged ? &reference : nullptr;
    row(work.c_str(), "Frelm", timed([&] { return weld(letters)->outline; }), r, area);
    row(work.c_str(), "Clipper, lines at 0.002 mm",
        timed([&] { return clipper_union(letters); }, n > 400 ? 1 : repeats), r, area);
    row(work.c_str(), "GEOS, lines at 0.002 mm",
        timed([&] { return geos_union(letters, flattening); }, n > 14 ? 1 : repeats), r, area);
    if (n <= 400)
      row(work.c_str(), "Qt painter path",
          timed([&] { return painter_path(letters).simplified(); }, n > 14 ? 1 : repeats), r, area);
  }
}

void offsets() {
  head("Offset by +2.5 mm, round joins, 0.01 mm");
  for (const std::size_t n : {14u, 400u}) {
    const Outline source = weld(case_letters(n))->outline;
    const std::string work = std::to_string(n) + " letters";
    const bool judged = n == 14;
    const std::vector<Ring> reference = judged ? offset_boundary(source, 2.5, 0.01) : std::vector<Ring>{};
    const double area = total_area(geos_buffer({source}, 2.5, 1e-4));
    const auto* r = judged ? &reference : nullptr;
    row(work.c_str(), "Frelm", timed([&] { return offset(source, 2.5)->rings.front(); }), r, area);
    row(work.c_str(), "Clipper", timed([&] { return clipper_offset(source, 2.5); }), r, area);
    row(work.c_str(), "GEOS buffer", timed([&] { return geos_buffer({source}, 2.5, offset_tolerance); }), r, area);
    if (n == 14)
      row(work.c_str(), "Qt path stroker", timed([&] {
            QPainterPathStroker stroker;
            stroker.setWidth(5);
            stroker.setJoinStyle(Qt::RoundJoin);
            stroker.setCurveThreshold(offset_tolerance);
            const QPainterPath path = painter_path({source});
            return (path + stroker.createStroke(path)).simplified();
          }),
          r, area);
  }
}

void growth() {
  std::printf("\nGrowth with size, ms (and µs a letter)\n\n| letters | weld | offset +0.5 mm | block shade 2 mm "
              "|\n|---|---|---|---|\n");
  for (const std::size_t n : {500u, 1000u, 2000u, 4000u}) {
    const std::vector<Outline> letters = case_letters(n);
    const Outline source = weld(letters)->outline;
    const double w = timed([&] { return weld(letters)->outline; }, 3).second;
    const double o = timed([&] { return offset(source, 0.5)->rings.front(); }, 3).second;
    const double s = timed([&] { return block_shade(source, {1.4, 1.4})->outline; }, 3).second;
    const double each = 1000.0 / static_cast<double>(n);
    std::printf("| %zu | %.0f (%.0f) | %.0f (%.0f) | %.0f (%.0f) |\n", n, w, w * each, o, o * each, s, s * each);
    std::fflush(stdout);
  }
}

void others() {
  std::printf("\nOther work\n\n| work | ms | nodes in | nodes out |\n|---|---|---|---|\n");
  const Outline blob = noisy_blob().outline();
  const auto thinned = timed([&] { return thin(blob, {0.05})->outline; });
  std::printf("| thin the noisy blob at 0.05 mm | %.0f | %zu | %zu |\n", thinned.second, blob.node_count(),
              thinned.first.nodes);
  for (const WarpCase& c : warp_cases()) {
    const auto got = timed([&] { return warp(c.letters, c.map)->outline; });
    std::printf("| warp 64 letters: %s | %.1f (%.2f a letter) | %zu | %zu |\n", c.name.c_str(), got.second,
                got.second / 64, c.letters.node_count(), got.first.nodes);
  }
  const Outline letters = weld(case_letters(14))->outline;
  const auto shade = timed([&] { return block_shade(letters, {4, 4})->outline; });
  std::printf("| block shade of 14 letters | %.1f | %zu | %zu |\n", shade.second, letters.node_count(),
              shade.first.nodes);
}

} // namespace

int main() {
  unions();
  offsets();
  growth();
  others();
}
