// Layers of a finish against GEOS on finely flattened curves: buffers, differences, unions over copies; how the steps
// work together by properties.
#include "lettering/finish_layers.h"

#include "geom/boolean.h"
#include "geom/path_data.h"
#include "reference/geos_union.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.01; // mm, both ways
constexpr double fine = 1e-4;  // mm, of the flattened curves

std::shared_ptr<const Finished> made(const std::vector<Outline>& parts, const Finish& steps, FinishMemo* memo = nullptr,
                                     std::shared_ptr<const void> identity = nullptr) {
  return *finish([&] { return parts; }, std::move(identity), steps, {.memo = memo});
}
Finish steps(const std::vector<FinishAction>& actions) {
  Finish out{{}};
  for (const FinishAction& a : actions)
    out.steps.emplace_back().what = a;
  return out;
}
const Outline& layer(const Finished& f, const std::string& id) {
  for (const Layer& l : f.layers)
    if (layer_id(l.role, l.number) == id)
      return *l.outline;
  qFatal("no layer %s", id.c_str());
}
std::string ids(const Finished& f) {
  std::string out;
  for (const Layer& l : f.layers)
    out += (out.empty() ? "" : " ") + layer_id(l.role, l.number);
  return out;
}
std::string fault(const Outline& got, const std::vector<Ring>& truth) {
  if (const std::string open = closed_fault(got); !open.empty())
    return open;
  const std::vector<Ring> rings = rings_of(got, fine);
  const double off = boundary_distance(rings, truth);
  const double area = std::abs(got.area() - total_area(truth)), per = total_length(truth) * bound;
  return off < bound && area < per ? "" : fmt::format("{:.4f} mm off, area {:.3f} of {:.3f}", off, area, per);
}
std::vector<Outline> word() {
  static const std::vector<Outline> letters =
      straight_letters(sanitized ? "Sa" : "Salty", {"Dancing Script", "Bold"}, 40);
  return letters;
}

} // namespace

class TestFinish : public QObject {
  Q_OBJECT

private slots:
  void rings_are_buffers_data() {
    QTest::addColumn<double>("distance");
    for (const double d : {0.3, 2.5, 7.0})
      QTest::addRow("%g", d) << d;
  }
  void rings_are_buffers() {
    QFETCH(double, distance);
    BorderStep border{.rings = {{.distance = distance}, {.distance = 2 * distance}, {.distance = 3 * distance}}};
    const auto got = made(word(), steps({WeldStep{}, border}));
    QCOMPARE(ids(*got), std::string("ring-3 ring-2 ring-1 letters"));
    for (int i = 1; i <= 3; ++i) {
      const Outline& ring = layer(*got, fmt::format("ring-{}", i));
      const std::string off = fault(ring, geos_buffer(word(), i * distance, 2e-4));
      QVERIFY2(off.empty(), off.c_str());
      // They do not drift: each is what it is alone.
      border.rings = {{.distance = i * distance}};
      QVERIFY(layer(*made(word(), steps({border})), "ring-1") == ring);
    }
  }

  void laid_side_by_side_they_tile_data() {
    QTest::addColumn<BorderSide>("side");
    QTest::newRow("outside") << BorderSide::Outside;
    QTest::newRow("inside") << BorderSide::Inside;
    QTest::newRow("both") << BorderSide::Both;
  }
  void laid_side_by_side_they_tile() {
    QFETCH(BorderSide, side);
    const std::vector<Ring> letters = geos_union(word(), fine);
    BorderStep border{.rings = {{.distance = 0.4}, {.distance = 0.9}}, .side = side, .taken_out = true};
    const auto got = made(word(), steps({WeldStep{}, border}));
    std::vector<Outline> layers;
    double sum = 0, around = 0;
    for (const Layer& l : got->layers) {
      QVERIFY2(closed_fault(*l.outline).empty(), closed_fault(*l.outline).c_str());
      sum += l.outline->area(), around += l.outline->length(), layers.push_back(*l.outline);
    }
    // No gap and no overlap: the areas add up to the area of all, which is the letters grown or not.
    const std::vector<Ring> all = side == BorderSide::Inside ? letters : geos_buffer(word(), 0.9, 2e-4);
    QVERIFY2(std::abs(sum - total_area(all)) < 5e-4 * around + bound * total_length(all),
             fmt::format("{} {}", sum, total_area(all)).c_str());
    for (std::size_t i = 0; i < layers.size(); ++i)
      for (std::size_t j = i + 1; j < layers.size(); ++j) {
        const double shared = total_area(geos_combine('i', {layers[i]}, {layers[j]}, 1e-3));
        QVERIFY2(std::abs(shared) < 5e-4 * (layers[i].length() + layers[j].length()),
                 fmt::format("{}", shared).c_str());
      }
  }
  void an_overlap_lies_under_what_lies_on_it() {
    BorderStep border{.rings = {{.distance = 3}}, .taken_out = true, .overlap = 0.3};
    const auto got = made(word(), steps({WeldStep{}, border}));
    const Outline inner = layer(*made(word(), steps({BorderStep{.rings = {{.distance = 3}}}})), "ring-1");
    const auto lid = geos_buffer(word(), -0.3, 2e-4);
    const double want = inner.area() - total_area(lid);
    QVERIFY2(std::abs(layer(*got, "ring-1").area() - want) < bound * (inner.length() + total_length(lid)),
             fmt::format("{} {}", layer(*got, "ring-1").area(), want).c_str());
  }

  void block_shade_is_the_union_over_the_way() {
    // The Minkowski sum with a segment: the union of the outline at many places of the way.
    const ShadeStep shade{.angle = 45, .depth = 3, .of = ShadeOf::Letters};
    const auto got = made(word(), steps({WeldStep{}, shade}));
    QCOMPARE(ids(*got), std::string("shade letters"));
    std::vector<Outline> copies;
    const int n = sanitized ? 40 : 160;
    for (int i = 0; i <= n; ++i)
      for (const Outline& o : word())
        copies.push_back(o.transformed(Affine::translation(direction(radians(45)) * (3.0 * i / n))));
    // Between two copies the boundary of the union lies a little inside.
    const std::vector<Ring> truth = geos_union(copies, 1e-3);
    const double off = boundary_distance(rings_of(layer(*got, "shade"), 1e-3), truth);
    QVERIFY2(off < 3.0 / n + bound, fmt::format("{}", off).c_str());
    QVERIFY(layer(*got, "shade").area() > total_area(truth) - 1e-3 * total_length(truth));
  }
  void a_shade_falls_from_the_last_ring_or_is_part_of_it() {
    BorderStep border{.rings = {{.distance = 2}, {.distance = 4}}};
    ShadeStep shade{.angle = 90, .depth = 5};
    const auto own = made(word(), steps({WeldStep{}, border, shade}));
    QCOMPARE(ids(*own), std::string("shade ring-2 ring-1 letters"));
    const Box ring = layer(*own, "ring-2").bounds(), thrown = layer(*own, "shade").bounds();
    QVERIFY(std::abs(thrown.y1 - ring.y1 - 5) < bound && std::abs(thrown.y0 - ring.y0) < bound);
    shade.with_ring = true;
    const auto part = made(word(), steps({WeldStep{}, border, shade}));
    QCOMPARE(ids(*part), std::string("ring-2 ring-1 letters"));
    QVERIFY(std::abs(layer(*part, "ring-2").area() - layer(*own, "shade").area()) < 0.1);
    shade.with_ring = false, shade.apart = true, shade.gap = 1;
    const auto apart = made(word(), steps({WeldStep{}, border, shade}));
    const double near =
        boundary_distance(rings_of(layer(*apart, "ring-2"), 0.01), rings_of(layer(*apart, "shade"), 0.01));
    QVERIFY(near > 0.9);
  }

  void around_all_lies_behind_all() {
    const BorderStep all{.rings = {{.distance = 2}}, .of = BorderOf::AllSoFar};
    const auto got = made(word(), steps({WeldStep{}, ShadeStep{.angle = 0, .depth = 6}, all}));
    QCOMPARE(ids(*got), std::string("ring-1 shade letters"));
    const Box shade = layer(*got, "shade").bounds(), ring = layer(*got, "ring-1").bounds();
    QVERIFY(std::abs(ring.x1 - shade.x1 - 2) < bound && std::abs(ring.x0 - shade.x0 + 2) < bound);
  }

  void holes_go_as_asked() {
    const std::vector<Outline> o{*parse_outline("M0 0H30V30H0Z M10 10V20H20V10Z")};
    const auto contours = [&](HoleRule rule, double size) {
      const auto got = made(o, steps({BorderStep{.rings = {{.distance = 1}}, .holes = rule, .hole_size = size}}));
      return layer(*got, "ring-1").contours.size();
    };
    QCOMPARE(contours(HoleRule::Keep, 0), std::size_t{2});
    QCOMPARE(contours(HoleRule::Drop, 0), std::size_t{1});
    QCOMPARE(contours(HoleRule::DropSmall, 7), std::size_t{2});
    QCOMPARE(contours(HoleRule::DropSmall, 9), std::size_t{1});
  }

  void fewer_nodes_says_how_many_and_how_far() {
    Outline round = circle_outline();
    const auto got = made({round}, steps({ThinStep{0.05}}));
    QVERIFY(got->steps[0].nodes_out < got->steps[0].nodes_in);
    QVERIFY(got->steps[0].worst <= 0.05);
    QCOMPARE(got->steps[0].nodes_out, got->letters().outline->node_count());
    QVERIFY(boundary_distance(rings_of(round, fine), rings_of(*got->letters().outline, fine)) < 0.051);
  }

  void round_corners_goes_over_all_layers() {
    const std::vector<Outline> square{*parse_outline("M0 0H30V20H0Z")};
    const BorderStep border{.rings = {{.distance = 5}}, .join = JoinStyle::Mitre};
    const auto got = made(square, steps({border, RoundStep{.radius = 2}}));
    QCOMPARE(got->steps[1].rounded, std::size_t{8}); // of ring and letters
    for (const char* id : {"ring-1", "letters"})
      QCOMPARE(corner_count(layer(*got, id), 1), std::size_t{0});
    // What comes later works on the rounded letters: a ring of round corners about them.
    const auto later = made(square, steps({RoundStep{.radius = 2}, border}));
    QCOMPARE(corner_count(layer(*later, "ring-1"), 1), std::size_t{0});
    const auto outer = made(square, steps({RoundStep{.which = WhichCorners::Inner}}));
    QVERIFY(*outer->letters().outline == square[0]);
  }

  // The ring outside the edge of a straight side: its area less the segment that lies within it (height = depth), less
  // its hole's; source: the area of a circular segment, r² acos(1 - h/r) - (r - h) sqrt(2 r h - h²) (Bronstein and
  // Semendyayev, Handbook of Mathematics, 2.5, from memory).
  void a_tab_joins_a_straight_edge_by_the_formula_data() {
    QTest::addColumn<double>("outer");
    QTest::addColumn<double>("inner");
    QTest::addColumn<double>("depth");
    QTest::addColumn<double>("across");
    QTest::addColumn<double>("down");
    QTest::newRow("top") << 14.0 << 6.0 << 3.0 << 0.5 << 0.0;
    QTest::newRow("right") << 14.0 << 6.0 << 3.0 << 1.0 << 0.5;
    QTest::newRow("from-far-below") << 9.0 << 2.0 << 1.0 << 0.3 << 50.0;
    QTest::newRow("barely") << 20.0 << 12.0 << 0.1 << 0.5 << 0.0;
    QTest::newRow("no-hole") << 14.0 << 0.0 << 6.9 << 0.5 << 0.0;
  }
  void a_tab_joins_a_straight_edge_by_the_formula() {
    QFETCH(double, outer);
    QFETCH(double, inner);
    QFETCH(double, depth);
    QFETCH(double, across);
    QFETCH(double, down);
    const std::vector<Outline> plate{*parse_outline("M0 0H80V60H0Z")};
    const TabStep tab{.outer = outer, .inner = inner, .depth = depth, .across = across, .down = down};
    const auto got = made(plate, steps({tab}));
    const double r = outer / 2, h = depth;
    const double segment = r * r * std::acos(1 - h / r) - (r - h) * std::sqrt(2 * r * h - h * h);
    const double truth = 80 * 60 + pi * r * r - segment - pi * inner * inner / 4;
    const Outline& letters = *got->letters().outline;
    QVERIFY(closed_fault(letters).empty());
    QVERIFY2(std::abs(letters.area() - truth) < 0.003, qPrintable(QString::number(letters.area() - truth)));
    QCOMPARE(letters.contours.size(), std::size_t(inner > 0 ? 2 : 1));
    QVERIFY(got->steps[0].at.has_value());
    QVERIFY(!got->letters_apart);
  }

  void a_tab_on_letters_is_what_geos_makes() {
    const TabStep tab{.outer = 10, .inner = 4, .depth = 1.5, .across = 0.2, .down = 0};
    const auto got = made(word(), steps({WeldStep{}, tab}));
    const auto foot = edge_nearest(*made(word(), steps({WeldStep{}}))->letters().outline, *got->steps[1].at);
    QVERIFY(foot.has_value());
    const Point at = tab_centre(*foot, tab.ring());
    std::vector<Outline> all = word();
    all.push_back(Outline{{circle_contour(at, 5)}});
    const auto off = fault(*got->letters().outline, geos_combine('d', all, {Outline{{circle_contour(at, 2)}}}, fine));
    QVERIFY2(off.empty(), off.c_str());
    // It reaches as deep into the edge as is asked: its middle is so far from the word.
    QVERIFY(std::abs(distance(foot->at, at) - 3.5) < 1e-6);
    QVERIFY(std::abs(distance(foot->at, *got->steps[1].at) - 7) < 1e-6); // in the middle of its band
  }

  void a_tab_belongs_to_the_outermost_ring_before_it() {
    const std::vector<Outline> plate{*parse_outline("M0 0H80V60H0Z")};
    const BorderStep border{.rings = {{.distance = 2}, {.distance = 5}}};
    const TabStep tab{.across = 1, .down = 0.5};
    const ShadeStep shade{.angle = 0, .depth = 4};
    const auto ringed = made(plate, steps({border, tab, shade}));
    const auto without = made(plate, steps({border, shade}));
    QVERIFY(*ringed->letters().outline == plate[0]);
    QVERIFY(layer(*ringed, "ring-1") == layer(*without, "ring-1"));
    QVERIFY(std::abs(layer(*ringed, "ring-2").bounds().x1 - (85 + 14 - 3)) < 1e-3);
    QVERIFY(std::abs(layer(*ringed, "shade").bounds().x1 - (85 + 14 - 3 + 4)) < 1e-3); // thrown by the tab too
    QVERIFY(ringed->letters_apart);
    // Before the border it is the letters', and the rings go around it.
    const auto first = made(plate, steps({tab, border}));
    QVERIFY(std::abs(first->letters().outline->bounds().x1 - (80 + 14 - 3)) < 1e-3);
    QVERIFY(std::abs(layer(*first, "ring-2").bounds().x1 - (80 + 14 - 3 + 5)) < 0.01);
    // Rings laid side by side: the ring that is left gets it.
    BorderStep apart = border;
    apart.taken_out = true;
    const auto side = made(plate, steps({apart, tab}));
    QVERIFY(std::abs(layer(*side, "ring-2").bounds().x1 - (85 + 14 - 3)) < 1e-3);
    QVERIFY(std::abs(layer(*side, "ring-2").area() - layer(*made(plate, steps({apart})), "ring-2").area() -
                     (layer(*ringed, "ring-2").area() - layer(*without, "ring-2").area())) < 0.01);
  }

  void odd_tabs_are_kept_in_their_measures() {
    const std::vector<Outline> plate{*parse_outline("M0 0H80V60H0Z")};
    const auto wide = made(plate, steps({TabStep{.outer = 10, .inner = 300, .depth = 900}}));
    QVERIFY(closed_fault(*wide->letters().outline).empty());
    QVERIFY(wide->letters().outline->area() < 80 * 60); // all of it inside: a hole, and a ring that shows nowhere
    const auto none = made({Outline{}}, steps({TabStep{}}));
    QVERIFY(!none->steps[0].at && none->letters().outline->empty());
    const auto corner = made(plate, steps({TabStep{.across = 0, .down = 0}})); // off the corner along its bisector
    const Point at = *corner->steps[0].at;
    QVERIFY(std::abs(at.x - at.y) < 1e-9 && at.x < 0);
    const auto several = made(plate, steps({TabStep{}, TabStep{.across = 0, .down = 0.5}, TabStep{}}));
    QVERIFY(closed_fault(*several->letters().outline).empty());
  }

  void mirrored_is_cut_the_other_way_round_but_not_inside_out() {
    const std::vector<Outline> o{*parse_outline("M0 0H30V30H0Z M5 10V20H10V10Z")};
    const auto got = made(o, steps({WeldStep{}, BorderStep{.rings = {{.distance = 2}}}, MirrorStep{}}));
    for (const Layer& l : got->layers) {
      const Outline cut = got->as_cut_of(*l.outline);
      QVERIFY(std::abs(cut.area() - l.outline->area()) < 1e-9 && cut.area() > 0);
      QVERIFY(closed_fault(cut).empty());
      const Box was = l.outline->bounds(), now = cut.bounds();
      QVERIFY(std::abs(was.x0 - now.x0) < 1e-9 && std::abs(was.y1 - now.y1) < 1e-9);
    }
    QVERIFY(winding_number(*got->letters().outline, {7, 15}) == 0);
    QVERIFY(winding_number(got->as_cut_of(*got->letters().outline), {23, 15}) == 0);
    const auto plain = made(o, steps({WeldStep{}}));
    QVERIFY(plain->as_cut_of(*plain->letters().outline) == *plain->letters().outline);
  }

  // Random steps in random order on random pieces: closed, repeatable, with and without what was kept; off is as if it
  // weren't there.
  void any_steps_in_any_order() {
    auto random = random_source(16);
    const auto pick = [&](std::size_t n) {
      return static_cast<std::size_t>(uniform(random, 0, static_cast<double>(n) - 1e-9));
    };
    MemoryBudget budget(std::size_t{64} << 20);
    FinishMemo memo(budget);
    const int rounds = qEnvironmentVariable("FRELM_FINISH_RUNS", sanitized ? "12" : "150").toInt();
    for (int round = 0; round < rounds; ++round) {
      std::vector<Outline> parts;
      for (std::size_t i = 0; i <= pick(3); ++i)
        parts.push_back(
            random_blob(random, {uniform(random, 0, 40), uniform(random, 0, 20)}, uniform(random, 4, 12), 5));
      const auto source = std::make_shared<const int>(round);
      Finish all{{}}, on{{}};
      for (std::size_t i = 0; i <= pick(5); ++i) {
        const FinishStep s = random_step(random);
        all.steps.push_back(s);
        if (s.on)
          on.steps.push_back(s);
      }
      const auto told = fmt::format("round {}, {} steps", round, all.steps.size());
      const auto got = finish([&] { return parts; }, source, all, {.memo = &memo});
      QVERIFY2(got.ok(), (told + (got.ok() ? "" : ": " + got.error().text())).c_str());
      const auto again = made(parts, all), without = made(parts, on, &memo, source);
      QCOMPARE((*got)->layers.size(), again->layers.size());
      QCOMPARE((*got)->layers.size(), without->layers.size());
      QVERIFY((*got)->as_cut == without->as_cut);
      QCOMPARE((*got)->steps.size(), all.steps.size());
      for (std::size_t i = 0; i < again->layers.size(); ++i) {
        const Outline& o = *(*got)->layers[i].outline;
        QVERIFY2(closed_fault(o).empty(), (told + ": " + closed_fault(o)).c_str());
        QVERIFY2(path_data(o, -1) == path_data(*again->layers[i].outline, -1), told.c_str());
        QVERIFY2(path_data(o, -1) == path_data(*without->layers[i].outline, -1), told.c_str());
      }
    }
  }

  void what_comes_before_a_change_is_not_worked_out_again() {
    MemoryBudget budget(std::size_t{64} << 20);
    FinishMemo memo(budget);
    const auto source = std::make_shared<const int>(1);
    const auto letters = word();
    int asked = 0;
    const auto run = [&](double depth) {
      return *finish(
          [&] {
            ++asked;
            return letters;
          },
          source, steps({WeldStep{}, BorderStep{}, ShadeStep{.depth = depth}}), {.memo = &memo});
    };
    const auto first = run(5), second = run(6);
    QCOMPARE(asked, 2); // as they are and united, once
    QVERIFY(first->letters().outline == second->letters().outline);
    QVERIFY(first->layers[1].outline == second->layers[1].outline);
    QVERIFY(first->layers[0].outline != second->layers[0].outline);
  }

  void a_stop_ends_it() {
    std::stop_source stop;
    stop.request_stop();
    const auto letters = word();
    const auto got =
        finish([&] { return letters; }, nullptr, steps({WeldStep{}, BorderStep{}}), {.stop = stop.get_token()});
    QVERIFY(!got.ok());
    QCOMPARE(got.error().code, ErrorCode::Cancelled);
  }

private:
  static Outline circle_outline() {
    std::string data = "M20 0";
    for (int i = 1; i < 400; ++i)
      data += fmt::format("L{} {}", 20 * std::cos(2 * pi * i / 400), 20 * std::sin(2 * pi * i / 400));
    return *parse_outline(data + "Z");
  }
};

QTEST_APPLESS_MAIN(TestFinish)
#include "test_finish.moc"
