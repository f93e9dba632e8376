// The order of cutting: nesting at any depth, travel against the best there is and against the order of the file.
#include "cutting/cut_order.h"
#include "cutting/cut_plan.h"
#include "cutting/cut_time.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/material.h"
#include "document/storage.h"
#include "support/cases.h"
#include "support/drawn.h"
#include "support/fixtures.h"
#include "support/travel.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

CutSheet sheet_of(std::vector<Outline> pieces) {
  CutSheet out;
  out.frame = {0, 0, 400, 300};
  PieceId id = 0;
  for (Outline& o : pieces)
    out.pieces.push_back({++id, "", {}, Destination::Knife, std::move(o)});
  return out;
}
Contour square(const Box& b, std::size_t first) {
  const Point p[] = {{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
  Contour c;
  for (std::size_t i = 0; i < 4; ++i)
    c.segments.push_back(Segment::line(p[(first + i) % 4], p[(first + i + 1) % 4]));
  return c;
}
// Boxes in boxes in boxes, side by side in each.
void nest_boxes(std::mt19937_64& random, const Box& in, int depth, std::vector<Box>& out) {
  const int n = 1 + static_cast<int>(random() % 3);
  const double w = in.width() / n;
  for (int i = 0; i < n; ++i) {
    const Box b{in.x0 + w * i + 0.05 * w, in.y0 + 0.1 * in.height(), in.x0 + w * (i + 1) - 0.05 * w,
                in.y1 - uniform(random, 0.05, 0.2) * in.height()};
    out.push_back(b);
    if (depth > 0 && random() % 4 != 0)
      nest_boxes(random, {b.x0 + 0.1 * w, b.y0 + 0.1 * b.height(), b.x1 - 0.1 * w, b.y1 - 0.1 * b.height()}, depth - 1,
                 out);
  }
}

// The shortest travel of all orders that keep to the nesting, with the same places to begin at (Held, Karp, A dynamic
// programming approach to sequencing problems, 1962).
double least_travel(const CutSheet& sheet, const std::vector<Box>& boxes, Point from) {
  const std::size_t n = boxes.size(), starts = 4;
  std::vector<std::size_t> inner(n, 0); // what must be done before, as bits
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = 0; j < n; ++j)
      if (i != j && boxes[i].contains(boxes[j]))
        inner[i] |= std::size_t{1} << j;
  const auto place = [&](std::size_t i, std::size_t s) { return sheet.pieces[i].outline.contours[0].segments[s].p0; };
  constexpr double far = 1e18;
  std::vector<std::vector<double>> best(std::size_t{1} << n, std::vector<double>(n * starts, far));
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t s = 0; s < starts && inner[i] == 0; ++s)
      best[std::size_t{1} << i][i * starts + s] = distance(from, place(i, s));
  for (std::size_t done = 1; done < best.size(); ++done)
    for (std::size_t a = 0; a < n * starts; ++a)
      if (best[done][a] < far)
        for (std::size_t i = 0; i < n; ++i)
          if ((done >> i & 1) == 0 && (inner[i] & ~done) == 0)
            for (std::size_t s = 0; s < starts; ++s) {
              double& b = best[done | std::size_t{1} << i][i * starts + s];
              b = std::min(b, best[done][a] + distance(place(a / starts, a % starts), place(i, s)));
            }
  return *std::min_element(best.back().begin(), best.back().end());
}

} // namespace

class TestCutOrder : public QObject {
  Q_OBJECT

private slots:
  void inner_lines_come_before_outer_ones() { // 500 of them
    std::mt19937_64 random = random_source(1);
    for (int n = 0; n < 500; ++n) {
      std::vector<Box> boxes;
      nest_boxes(random, {0, 0, 400, 300}, 4, boxes);
      // Over a few pieces, in any order.
      std::shuffle(boxes.begin(), boxes.end(), random);
      std::vector<Outline> pieces(1 + random() % 4);
      std::vector<std::pair<std::size_t, std::size_t>> where;
      for (const Box& b : boxes) {
        const std::size_t p = random() % pieces.size();
        where.emplace_back(p, pieces[p].contours.size());
        pieces[p].contours.push_back(square(b, random() % 4));
      }
      const CutSheet sheet = sheet_of(pieces);
      const auto order = cut_order(sheet);
      QCOMPARE(order.size(), boxes.size());
      std::vector<std::size_t> place(boxes.size());
      for (std::size_t i = 0; i < boxes.size(); ++i) {
        const auto it = std::find_if(order.begin(), order.end(), [&](const CutPath& p) {
          return p.piece == where[i].first && p.contour == where[i].second;
        });
        QVERIFY(it != order.end());
        place[i] = static_cast<std::size_t>(it - order.begin());
      }
      for (std::size_t i = 0; i < boxes.size(); ++i) {
        std::size_t depth = 0;
        std::optional<std::size_t> smallest;
        for (std::size_t j = 0; j < boxes.size(); ++j)
          if (i != j && boxes[j].contains(boxes[i])) {
            ++depth;
            QVERIFY(place[i] < place[j]);
            if (!smallest ||
                boxes[j].width() * boxes[j].height() < boxes[*smallest].width() * boxes[*smallest].height())
              smallest = j;
          }
        const CutPath& path = order[place[i]];
        QCOMPARE(path.depth, depth);
        QVERIFY(path.inside == (smallest ? std::optional(place[*smallest]) : std::nullopt));
        const Contour cut = as_cut(sheet, path);
        QVERIFY(cut.segments.front().p0 == path.start && cut.segments.size() == 4);
      }
    }
  }

  void travel_is_near_the_least_there_is_data() {
    QTest::addColumn<int>("n");
    for (int n = 0; n < 20; ++n)
      QTest::addRow("%d", n) << n;
  }
  void travel_is_near_the_least_there_is() {
    QFETCH(int, n);
    std::mt19937_64 random = random_source(static_cast<std::uint64_t>(n) + 40);
    std::vector<Box> boxes;
    std::vector<Outline> pieces;
    const std::size_t count = 6 + static_cast<std::size_t>(n) % 7; // up to 12
    while (boxes.size() < count) {
      const double x = uniform(random, 0, 360), y = uniform(random, 0, 260), s = uniform(random, 8, 60);
      const Box b{x, y, x + s, y + s};
      const bool crosses = std::any_of(boxes.begin(), boxes.end(),
                                       [&](const Box& o) { return o.overlaps(b) && !o.contains(b) && !b.contains(o); });
      if (crosses)
        continue;
      boxes.push_back(b);
      pieces.push_back({{square(b, 0)}});
    }
    const CutSheet sheet = sheet_of(pieces);
    const Point from{0, 300};
    const double ours = travel(sheet, cut_order(sheet), from), least = least_travel(sheet, boxes, from);
    QVERIFY2(ours <= 1.08 * least + 1e-9 && ours >= least - 1e-6, fmt::format("{} of {}", ours, least).c_str());
  }

  void the_poem_is_cut_in_six_tenths_of_the_travel() {
    const Result<std::string> bytes = DiskStorage().read(FRELM_SOURCE_DIR "/assets/demo/tide-spiral.frelm");
    const auto job = read_job(*bytes);
    const auto sheet_or = cut_sheet(*job, evaluator());
    const CutSheet& sheet = *sheet_or;
    const Point from{sheet.frame.x0, sheet.frame.y1};
    double in_file = 0;
    Point knife = from;
    for (const CutPiece& p : sheet.pieces)
      for (const Contour& c : p.outline.contours)
        in_file += distance(knife, c.segments.front().p0), knife = c.segments.front().p0;
    const double ours = travel(sheet, cut_order(sheet), from);
    QVERIFY2(ours <= 0.6 * in_file, fmt::format("{} of {}: {}", ours, in_file, ours / in_file).c_str());
  }

  void open_lines_are_begun_at_the_nearer_end() {
    const CutSheet sheet = sheet_of({drawn("M10 290H200"), drawn("M390 280H210"), drawn("M400 270V10")});
    const auto order = cut_order(sheet);
    QCOMPARE(order.size(), std::size_t{3});
    QVERIFY(!order[0].reversed && order[1].reversed && !order[2].reversed);
    QVERIFY(order[1].start == (Point{210, 280}) && order[1].heading == (Vec{1, 0}));
    QVERIFY(as_cut(sheet, order[1]).segments.back().p3 == (Point{390, 280}));
    QVERIFY(
        std::abs(travel(sheet, order, {0, 300}) - (distance({0, 300}, {10, 290}) + distance({200, 290}, {210, 280}) +
                                                   distance({390, 280}, {400, 270}))) < 1e-9);
  }
  void seams_lie_in_corners() {
    // A drop: round but for its tip.
    const CutSheet sheet = sheet_of({drawn("M100 100C140 140 130 180 100 180C70 180 60 140 100 100Z")});
    QVERIFY(cut_order(sheet).front().start == (Point{100, 100}));
  }
  void the_plan_is_begun_as_ordered() {
    Document d = circle_job("Bo").document;
    const CutPlan plan = cut_plan(*cut_sheet(d, evaluator()), {});
    QVERIFY(plan.order.size() >= 4);
    for (const CutPath& p : plan.order) {
      const Contour& c = plan.sheet.pieces[p.piece].outline.contours[p.contour];
      QVERIFY(p.first == 0 && !p.reversed && c.segments.front().p0 == p.start);
    }
  }
  // A line of 100 mm at 100 mm/s, 1000 mm/s²: 0.1 s and 5 mm to reach that, as much to stop; textbook kinematics. A
  // square stops at its corners but for what these may be rounded by.
  void time_by_hand() {
    const CutPace pace{.cut = 100, .travel = 100, .acceleration = 1000, .corner = 1e-9, .down = 0, .up = 0};
    QVERIFY(std::abs(seconds_along({{0, 0}, {100, 0}}, 100, pace) - (0.2 + 90.0 / 100)) < 1e-9);
    QVERIFY(std::abs(seconds_along({{0, 0}, {50, 0}, {100, 0}}, 100, pace) - 1.1) < 1e-9); // no corner
    QVERIFY(std::abs(seconds_along({{0, 0}, {100, 0}, {100, 100}}, 100, pace) - 2.2) < 1e-3);
    QVERIFY(std::abs(seconds_along({{0, 0}, {2.5, 0}}, 100, pace) - 0.1) < 1e-9); // up to 50 mm/s and back
    QCOMPARE(seconds_along({{3, 3}}, 100, pace), 0.0);
    QCOMPARE(seconds_along({{3, 3}, {3, 3}}, 100, pace), 0.0);
    CutPace wide = pace;
    wide.corner = 0.1;
    QVERIFY(seconds_along({{0, 0}, {100, 0}, {100, 100}}, 100, wide) < 2.2 - 0.01);
    // Each layer at its own machine's pace.
    Document d;
    for (const Colour c : {Colour{1, 2, 3}, Colour{200, 2, 3}}) {
      Piece p;
      p.colour = c;
      p.content = OutlinePiece{std::make_shared<const Outline>(drawn(box(0, 200, 100, 100))), Finish{{}}, nullptr, {}};
      d = add_piece(std::move(d), std::move(p)).document;
    }
    d.sheet = {400, 300};
    d.materials = {{"Vinyl", {1, 2, 3}}, {"Tin", {200, 2, 3}}};
    const auto seconds = [&] {
      const CutTime t = cut_time(cut_plan(*cut_sheet(d, evaluator()), d.materials), d.materials);
      return std::abs(t.cut - 800) < 1e-9 && t.travel < 1e-9 ? t.seconds : -1;
    };
    const double vinyl = seconds();
    d.materials[1].machine = Machine::Torch;
    QVERIFY(vinyl > 0 && seconds() > vinyl + 5);
  }
  // Wherever the line of time is asked: it goes on, never jumps, and ends with all that is cut.
  void the_timeline_goes_on() {
    const Document d = circle_job("Bo").document;
    const CutPlan plan = cut_plan(*cut_sheet(d, evaluator()), {});
    const CutTimeline line(plan, {});
    const CutTime time = cut_time(plan, {});
    QVERIFY(line.seconds() == time.seconds && line.legs().size() == plan.order.size());
    CutMoment last = line.at(0);
    QVERIFY(!last.down && last.cut == 0 && last.path == 0);
    constexpr double step = 1e-3;
    for (double t = step; t < line.seconds(); t += step) {
      const CutMoment now = line.at(t);
      QVERIFY(now.cut >= last.cut && now.travel >= last.travel - 1e-9 && now.path >= last.path);
      QVERIFY2(distance(now.knife, last.knife) < 1,
               fmt::format("{} at {}", distance(now.knife, last.knife), t).c_str());
      QVERIFY(!now.down || line.cut_of(now.path, t).back() == now.knife);
      last = now;
    }
    const CutMoment end = line.at(line.seconds());
    QVERIFY(std::abs(end.cut - time.cut) < 1e-9 && std::abs(end.travel - time.travel) < 1e-9 && !end.down);
    QVERIFY(line.at(1e9).knife == end.knife);
    QVERIFY(CutTimeline().at(3).cut == 0 && CutTimeline().seconds() == 0);
    // 100 mm at 100 mm/s and 1000 mm/s² (time_by_hand): half of the way is passed after half of the time.
    const std::vector<double> passed =
        times_along({{0, 0}, {50, 0}, {100, 0}}, 100, {.acceleration = 1000, .corner = 1e-9, .down = 0, .up = 0});
    QVERIFY(std::abs(passed[1] - 0.55) < 1e-9 && std::abs(passed[2] - 1.1) < 1e-9 && passed[0] == 0);
  }
  void nothing_one_and_stopped() {
    QVERIFY(cut_order(sheet_of({})).empty());
    QVERIFY(cut_order(sheet_of({Outline{}})).empty());
    QCOMPARE(cut_order(sheet_of({drawn(disc(50, 50, 20))})).size(), std::size_t{1});
    std::stop_source stop;
    stop.request_stop();
    const CutSheet sheet = sheet_of(case_letters(14));
    QCOMPARE(cut_order(sheet, stop.get_token()).size(), cut_order(sheet).size());
    // The same twice over: neither lies in the other.
    const auto twice = cut_order(sheet_of({drawn(box(10, 10, 20, 20)), drawn(box(10, 10, 20, 20))}));
    QVERIFY(twice.size() == 2 && twice[0].depth == 0 && twice[1].depth == 0);
  }
};

QTEST_APPLESS_MAIN(TestCutOrder)
#include "test_cut_order.moc"
