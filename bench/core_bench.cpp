// Times of the core, and of GEOS on the same work in the same run. Cases: docs/performance.md.
#include "geom/weld.h"
#include "lettering/gaps.h"
#include "reference/geos_union.h"
#include "support/fixtures.h"

#include <benchmark/benchmark.h>
#include <fstream>
#include <sstream>

using namespace frelm;
using namespace frelm::test;

namespace {

std::string rhyme(std::size_t letters) {
  std::ifstream file(FRELM_CASES "/tide-rhyme.txt");
  std::stringstream text;
  text << file.rdbuf();
  std::string line = text.str(), out;
  line.pop_back();
  std::size_t n = 0;
  for (std::size_t i = 0; n < letters; i = (i + 1) % line.size()) {
    out.push_back(line[i]);
    n += line[i] != ' ' ? 1 : 0;
  }
  return out;
}

// An Archimedean spiral of 18 mm pitch from r 40 mm outwards, as cubics of a sixteenth turn (within 0.001 mm).
Curve spiral(double turns) {
  const double a = 18 / (2 * pi);
  std::vector<CurvePiece> pieces;
  const auto at = [&](double t) { return direction(t) * (40 + a * t); };
  const auto d = [&](double t) { return direction(t) * a + Vec{-std::sin(t), std::cos(t)} * (40 + a * t); };
  const double step = 2 * pi / 16;
  for (int i = 0; i < static_cast<int>(turns * 16); ++i) {
    const double t0 = i * step, t1 = t0 + step;
    pieces.push_back(Segment::cubic(at(t0), at(t0) + d(t0) * (step / 3), at(t1) - d(t1) * (step / 3), at(t1)));
  }
  return Curve(std::move(pieces));
}

std::vector<Outline> word(std::int64_t letters) {
  if (letters == 14)
    return letter_outlines(on_circle(letters_of("Saltmarsh Lane"), 120));
  const Letters l = letters_of(rhyme(static_cast<std::size_t>(letters)), {"Dancing Script", "Bold"}, 10);
  const auto set = set_text(l, Ligatures::On, **bundled_faces().face(l.face));
  return letter_outlines(
      *seat_on_curve(space_text(*set, {}, Alignment::Left), std::make_shared<const Curve>(spiral(40)), {}));
}

void weld_letters(benchmark::State& state) {
  const auto letters = word(state.range(0));
  std::size_t in = 0, out = 0;
  for (auto _ : state) {
    const auto w = weld(letters);
    in = w->report.nodes_in, out = w->report.nodes_out;
    benchmark::DoNotOptimize(out);
  }
  state.counters["nodes_in"] = static_cast<double>(in);
  state.counters["nodes_out"] = static_cast<double>(out);
}
BENCHMARK(weld_letters)->Arg(14)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void geos_union_at_2_micrometres(benchmark::State& state) {
  const auto letters = word(state.range(0));
  for (auto _ : state)
    benchmark::DoNotOptimize(geos_union(letters, 0.002));
}
BENCHMARK(geos_union_at_2_micrometres)->Arg(14)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void drag_step(benchmark::State& state) {
  CircleJob job = circle_job(rhyme(static_cast<std::size_t>(state.range(0))), static_cast<double>(state.range(0)) * 4);
  job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
    p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
  });
  const DocumentEvaluator evaluator(bundled_faces());
  double angle = 0;
  for (auto _ : state) {
    angle += 0.37;
    const Document d =
        edit_piece(job.document, job.lettering, [&](Piece& p) { p.lettering()->recipe.bend.guide.angle = angle; });
    benchmark::DoNotOptimize(evaluator.piece(d, job.lettering, Depth::Seat));
  }
}
BENCHMARK(drag_step)->Arg(60)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void gaps(benchmark::State& state) {
  const SeatedText text =
      on_circle(letters_of(rhyme(static_cast<std::size_t>(state.range(0)))), static_cast<double>(state.range(0)) * 4);
  for (auto _ : state)
    benchmark::DoNotOptimize(measure_gaps(text));
}
BENCHMARK(gaps)->Arg(60)->Arg(400)->Unit(benchmark::kMillisecond);

void arc_length_lookup(benchmark::State& state) {
  const Curve c = spiral(60.0 / 16);
  double s = 0;
  for (auto _ : state) {
    s = std::fmod(s + 17.31, c.length());
    benchmark::DoNotOptimize(c.at(s));
  }
}
BENCHMARK(arc_length_lookup)->Unit(benchmark::kMicrosecond);

} // namespace

BENCHMARK_MAIN();
