// Times of the core, and of GEOS on the same work in the same run. Cases: docs/performance.md.
#include "cutting/check.h"
#include "cutting/cut_order.h"
#include "cutting/cut_plan.h"
#include "document/align_catch.h"
#include "document/catching.h"
#include "document/edits.h"
#include "formats/export.h"
#include "geom/offset.h"
#include "geom/weld.h"
#include "lettering/gaps.h"
#include "reference/geos_union.h"
#include "support/cases.h"
#include "support/fixtures.h"
#include "support/travel.h"

#include <benchmark/benchmark.h>

using namespace frelm;
using namespace frelm::test;

namespace {

void weld_letters(benchmark::State& state) {
  const auto letters = case_letters(static_cast<std::size_t>(state.range(0)));
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
  const auto letters = case_letters(static_cast<std::size_t>(state.range(0)));
  for (auto _ : state)
    benchmark::DoNotOptimize(geos_union(letters, 0.002));
}
BENCHMARK(geos_union_at_2_micrometres)->Arg(14)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void offset_letters(benchmark::State& state) {
  const Outline source = weld(case_letters(static_cast<std::size_t>(state.range(0))))->outline;
  std::size_t nodes = 0;
  for (auto _ : state) {
    const auto ring = offset(source, 2.5);
    nodes = ring->report.weld.nodes_out;
    benchmark::DoNotOptimize(nodes);
  }
  state.counters["nodes"] = static_cast<double>(nodes);
}
BENCHMARK(offset_letters)->Arg(14)->Arg(400)->Unit(benchmark::kMillisecond)->UseRealTime();

void geos_buffer_at_10_micrometres(benchmark::State& state) {
  const Outline source = weld(case_letters(static_cast<std::size_t>(state.range(0))))->outline;
  for (auto _ : state)
    benchmark::DoNotOptimize(geos_buffer({source}, 2.5, 0.01));
}
BENCHMARK(geos_buffer_at_10_micrometres)->Arg(14)->Arg(400)->Unit(benchmark::kMillisecond)->UseRealTime();

// A circle's run turned a little further at every step, and seated again.
void drag(benchmark::State& state, SpacingMode mode) {
  const auto letters = static_cast<std::size_t>(state.range(0));
  CircleJob job = circle_job(case_text(letters), static_cast<double>(letters) * 4);
  job.document = edit_piece(job.document, job.lettering, [&](Piece& p) {
    p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    p.lettering()->recipe.spacing.mode = mode;
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
void drag_step(benchmark::State& state) {
  drag(state, SpacingMode::AsSet);
}
BENCHMARK(drag_step)->Arg(60)->Arg(400)->Arg(2000)->Unit(benchmark::kMillisecond);

void gaps(benchmark::State& state) {
  const SeatedText text = on_circle(letters_of(case_text(static_cast<std::size_t>(state.range(0)))),
                                    static_cast<double>(state.range(0)) * 4);
  for (auto _ : state)
    benchmark::DoNotOptimize(measure_gaps(text));
}
BENCHMARK(gaps)->Arg(60)->Arg(400)->Unit(benchmark::kMillisecond);

// Even gaps (0) or Keep joined (1) worked out at every step.
void evened_drag_step(benchmark::State& state) {
  drag(state, state.range(1) == 0 ? SpacingMode::EvenGaps : SpacingMode::KeepJoined);
}
BENCHMARK(evened_drag_step)->ArgsProduct({{60, 2000}, {0, 1}})->Unit(benchmark::kMillisecond);

// The same from nothing known: shaping, straight gaps and joins included.
void even_from_scratch(benchmark::State& state) {
  const Letters letters = letters_of(case_text(static_cast<std::size_t>(state.range(0))));
  Spacing spacing;
  spacing.mode = state.range(1) == 0 ? SpacingMode::EvenGaps : SpacingMode::KeepJoined;
  for (auto _ : state)
    benchmark::DoNotOptimize(on_circle(letters, static_cast<double>(state.range(0)) * 4, spacing));
}
BENCHMARK(even_from_scratch)->ArgsProduct({{60, 2000}, {0, 1}})->Unit(benchmark::kMillisecond);

// 60 letters bent a little differently at every step: sketched as during a drag, or exact. 0: an arch, verticals kept;
// 1: a wave, verticals following; 2: a shape filled; 3: a net over an arch; 4: a shape
// filled upright.
void bend(benchmark::State& state, bool sketch) {
  Document d;
  Piece piece = new_lettering(d, from_utf8(case_text(60)), {});
  Recipe& recipe = piece.lettering()->recipe;
  *recipe.letters() = letters_of(case_text(60), {"Lato", "Regular"}, 40, SizeBy::Capitals);
  recipe.bend.kind = state.range(0) == 3 ? BendKind::Net : BendKind::Rails;
  recipe.bend.net.base = BendKind::Rails;
  recipe.bend.net.net = flat_net(6, 1);
  RailsBend& rails = recipe.bend.rails;
  if (state.range(0) == 1) {
    rails.top.first = {ProfileKind::Wave, 20, 3, 0};
    rails.verticals = Verticals::Follow;
  }
  const Added shape = add_piece(std::move(d), new_guide(EllipseGuide{{300, 200}, 250, 120, 0, 0, 360}));
  if (state.range(0) == 2) {
    rails.into = RailsInto::Shape;
    rails.fill.guide = shape.id;
    rails.fill.corners = {0.9, 0.1, 0.4, 0.6};
  }
  if (state.range(0) == 4) {
    rails.into = RailsInto::Shape;
    rails.fill.guide = shape.id;
    rails.fill.style = FillStyle::Upright;
  }
  const Added word = add_piece(shape.document, piece);
  const DocumentEvaluator evaluator(bundled_faces(), 120, DocumentEvaluator::Warps::Sketched);
  double by = 0;
  for (auto _ : state) {
    by += 0.0007;
    const Document moved = edit_piece(word.document, word.id, [&](Piece& p) {
      Bend& b = p.lettering()->recipe.bend;
      b.rails.top.first.depth += by;
      if (b.rails.fill.corners)
        (*b.rails.fill.corners)[1] = 0.1 + by / 20;
      b.rails.fill.upright.ends[0] = 0.4 + by / 20;
      b.net.net = pulled(b.net.net, {{3, {0, -5 - by}}});
    });
    const auto r = sketch ? evaluator.seat_now(moved, word.id) : evaluator.piece(moved, word.id, Depth::Seat);
    if (!r)
      state.SkipWithError(r.error().text().c_str());
    benchmark::DoNotOptimize(r);
  }
}
void bend_sketched(benchmark::State& state) {
  bend(state, true);
}
void bend_exact(benchmark::State& state) {
  bend(state, false);
}
BENCHMARK(bend_sketched)->DenseRange(0, 4)->Unit(benchmark::kMillisecond);
BENCHMARK(bend_exact)->DenseRange(0, 4)->Unit(benchmark::kMillisecond);

void arc_length_lookup(benchmark::State& state) {
  const Curve c = case_spiral(60.0 / 16);
  double s = 0;
  for (auto _ : state) {
    s = std::fmod(s + 17.31, c.length());
    benchmark::DoNotOptimize(c.at(s));
  }
}
BENCHMARK(arc_length_lookup)->Unit(benchmark::kMicrosecond);

// All that the background does for welded letters with two rings and a block shade when nothing of it is known:
// finished layers and the Cut check. Second argument: with a list of materials.
void finish_and_check(benchmark::State& state) {
  Document document;
  document.sheet = {1000, 1000};
  if (state.range(1) != 0)
    document.materials = shipped_materials();
  Outline all;
  for (const Outline& letter : case_letters(static_cast<std::size_t>(state.range(0))))
    all.append(letter);
  OutlinePiece drawn;
  drawn.outline = std::make_shared<const Outline>(std::move(all));
  drawn.finish.steps.emplace_back().what = WeldStep{};
  drawn.finish.steps.emplace_back().what =
      BorderStep{.rings = {{.distance = 2.5}, {.distance = 5, .colour = {0x7a, 0x4a, 0x14}}}};
  drawn.finish.steps.emplace_back().what = ShadeStep{.depth = 6};
  Piece piece;
  piece.content = std::move(drawn);
  document = add_piece(std::move(document), std::move(piece)).document;
  const PieceId id = document.pieces.front()->id;
  for (auto _ : state) {
    const DocumentEvaluator evaluator(bundled_faces());
    const auto done = evaluator.piece(document, id, Depth::Finish);
    benchmark::DoNotOptimize(done.ok());
    benchmark::DoNotOptimize(check(document, evaluator).findings.size());
  }
}
BENCHMARK(finish_and_check)->ArgsProduct({{14, 400}, {0, 1}})->Unit(benchmark::kMillisecond)->UseRealTime();

// What leaves of a job of so many letters, worked out before: written, and read back where it is.
void export_format_of(benchmark::State& state) {
  const CircleJob job = circle_job(case_text(static_cast<std::size_t>(state.range(0))), 4000);
  Document document = job.document;
  document.sheet = {9000, 9000};
  const DocumentEvaluator evaluator(bundled_faces());
  const CutPlan plan = cut_plan(*cut_sheet(document, evaluator), {});
  const ExportFormat& format = export_formats()[static_cast<std::size_t>(state.range(1))];
  CutPlan shown = plan;
  if (format.suffix == "pdf")
    shown.sheet.frame = {0, 0, 5000, 5000};
  std::size_t size = 0;
  for (auto _ : state) {
    const Result<std::string> bytes = format.write(shown, {});
    if (!bytes.ok() || (format.read_back != nullptr && !format.read_back(shown, *bytes, {}).ok()))
      state.SkipWithError("not written");
    else
      size = bytes->size();
  }
  state.SetLabel(std::string(format.suffix));
  state.counters["kB"] = static_cast<double>(size) / 1024;
}
BENCHMARK(export_format_of)->ArgsProduct({{14, 2000}, {0, 1, 2, 3, 4, 5}})->Unit(benchmark::kMillisecond);

void plan_of_letters(benchmark::State& state) {
  const CircleJob job = circle_job(case_text(static_cast<std::size_t>(state.range(0))), 4000);
  const DocumentEvaluator evaluator(bundled_faces());
  const CutSheet sheet = *cut_sheet(job.document, evaluator);
  for (auto _ : state)
    benchmark::DoNotOptimize(cut_plan(sheet, {}).order.size());
}
BENCHMARK(plan_of_letters)->Arg(14)->Arg(2000)->Unit(benchmark::kMillisecond);

// What catches a hand that moves something among so many outlines of letters, with twenty ruler lines: edges and
// middles, equal gaps; and nodes, edges and crossings under a place.
Document many_outlines(std::size_t n) {
  const std::vector<Outline> letters = case_letters(14);
  Document out;
  auto random = random_source(5);
  for (std::size_t i = 0; i < n; ++i) {
    Piece p;
    p.id = out.next_id++;
    const Vec to{uniform(random, 0, 3000), uniform(random, 0, 3000)};
    p.content =
        OutlinePiece{std::make_shared<const Outline>(letters[i % letters.size()].transformed(Affine::translation(to))),
                     {},
                     nullptr,
                     {}};
    out.pieces.push_back(std::make_shared<const Piece>(std::move(p)));
  }
  for (int i = 0; i < 20; ++i)
    out.ruler_lines.push_back({{uniform(random, 0, 3000), uniform(random, 0, 3000)}, i % 3 * 45.0, false});
  return out;
}

void catching_of_what_is_moved(benchmark::State& state) {
  const Document d = many_outlines(static_cast<std::size_t>(state.range(0)));
  std::vector<PlacedBox> others;
  for (const auto& p : d.pieces)
    others.push_back({p->id, p->outline()->outline->bounds()});
  const AlignLines lines = align_lines(d, std::move(others));
  double x = 0;
  for (auto _ : state) {
    x = std::fmod(x + 7.3, 3000);
    benchmark::DoNotOptimize(align_catch(lines, {0, {x, x, x + 40, x + 30}}, 3).across.has_value());
  }
}
BENCHMARK(catching_of_what_is_moved)->Arg(50)->Arg(5000)->Unit(benchmark::kMillisecond);

void catching_of_a_place(benchmark::State& state) {
  const Document d = many_outlines(static_cast<std::size_t>(state.range(0)));
  const DocumentEvaluator evaluator(bundled_faces());
  double x = 0;
  for (auto _ : state) {
    x = std::fmod(x + 7.3, 3000);
    benchmark::DoNotOptimize(catch_at(d, evaluator, {x, 3000 - x}, 3).has_value());
  }
}
BENCHMARK(catching_of_a_place)->Arg(50)->Arg(5000)->Unit(benchmark::kMillisecond);

// Lines of a sheet put into cutting order: letters of the rhyme in rows, as many as asked for.
void cut_order_of(benchmark::State& state) {
  const std::vector<Outline> letters = case_letters(400);
  CutSheet sheet{{0, 0, 20'000, 20'000}, {}};
  std::size_t lines = 0;
  for (std::size_t i = 0; lines < static_cast<std::size_t>(state.range(0)); ++i) {
    const double copy = static_cast<double>(i / letters.size());
    const Outline& l = letters[i % letters.size()];
    sheet.pieces.push_back(
        {i + 1,
         "",
         {},
         Destination::Knife,
         l.transformed(Affine::translation({300 * std::fmod(copy, 8), 300 * std::floor(copy / 8)}))});
    lines += l.contours.size();
  }
  double way = 0;
  for (auto _ : state)
    way = travel(sheet, cut_order(sheet), {0, 20'000});
  double in_file = 0;
  Point knife{0, 20'000};
  for (const CutPiece& p : sheet.pieces)
    for (const Contour& c : p.outline.contours)
      in_file += distance(knife, c.segments.front().p0), knife = c.segments.front().p0;
  state.counters["travel_of_file_order"] = way / in_file;
}
BENCHMARK(cut_order_of)->Arg(500)->Arg(2000)->Arg(20000)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
