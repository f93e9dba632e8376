// Panels: that laid on one another by their marks they are the work again, that each fits, that seams go between
// letters.
#include "cutting/check.h"
#include "cutting/cut_plan.h"
#include "cutting/panels.h"
#include "document/edits.h"
#include "document/material.h"
#include "geom/clip_line.h"
#include "geom/path_data.h"
#include "reference/geos_tools.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr Colour blue{0x1d, 0x3a, 0x6e};

Material vinyl(double width, double length = 0, double overlap = usual_panel_overlap) {
  Material m;
  m.name = "Blue film", m.colour = blue, m.width = width, m.length = length, m.panel_overlap = overlap;
  return m;
}
CutSheet sheet_of(const std::vector<Outline>& shapes) {
  CutSheet out{{0, 0, 3000, 2000}, {}};
  for (const Outline& o : shapes)
    out.pieces.push_back({out.pieces.size() + 1, "", blue, Destination::Knife, o});
  return out;
}
std::vector<const CutPiece*> work_of(const CutSheet& sheet) {
  std::vector<const CutPiece*> out;
  for (const CutPiece& p : sheet.pieces)
    out.push_back(&p);
  return out;
}
Box taken_by(const CutSheet& sheet, std::size_t panel) {
  Box out;
  for (const CutPiece& p : sheet.pieces)
    if (p.panel == panel)
      out.add(p.outline.bounds());
  return out;
}
double area_of(GEOSContextHandle_t h, GEOSGeometry* g) {
  double out = 0;
  GEOSArea_r(h, g, &out);
  GEOSGeom_destroy_r(h, g);
  return out;
}

} // namespace

class TestPanels : public QObject {
  Q_OBJECT

private slots:
  void laid_together_they_are_the_work_data() {
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("length");
    QTest::addColumn<double>("overlap");
    QTest::addColumn<int>("panels");
    QTest::newRow("two strips of a roll") << 330.0 << 0.0 << 10.0 << 2;
    QTest::newRow("many strips of a narrow roll") << 110.0 << 0.0 << 5.0 << 6;
    QTest::newRow("sheets, both ways") << 330.0 << 420.0 << 12.0 << 6;
    QTest::newRow("more overlap than mark") << 330.0 << 0.0 << 60.0 << 2;
    QTest::newRow("a hair of overlap") << 330.0 << 0.0 << 0.5 << 2;
  }
  void laid_together_they_are_the_work() {
    QFETCH(double, width);
    QFETCH(double, length);
    QFETCH(double, overlap);
    QFETCH(int, panels);
    // Letters 560 mm high on 1150, a ring around a letter, and an open line through all.
    std::vector<Outline> shapes = straight_letters("Sea", {"Lobster Two", "Bold"}, 700);
    Box all;
    for (const Outline& o : shapes)
      all.add(o.bounds());
    for (Outline& o : shapes)
      o = o.transformed(Affine::translation({100 - all.x0, 100 - all.y0}));
    const CutSheet work = sheet_of(shapes);
    const Material m = vinyl(width, length, overlap);
    const std::vector<Panel> plan = panels_of(work_of(work), m);
    QCOMPARE(int(plan.size()), panels);
    CutSheet parted = work;
    QVERIFY(part_in_panels(parted, {m}));
    GeosContext geos;
    std::vector<Outline> laid;
    for (std::size_t i = 0; i < plan.size(); ++i) {
      const Box taken = taken_by(parted, i + 1);
      std::vector<Outline> of_panel;
      for (const CutPiece& p : parted.pieces)
        if (p.panel == i + 1 && p.id != 0) {
          of_panel.push_back(p.outline.transformed(Affine::translation(plan[i].moved * -1.0)));
          QVERIFY(plan[i].part.grown(1e-6).contains(of_panel.back().bounds()));
        }
      QVERIFY2(fits(m, taken.width(), taken.height()),
               qPrintable(QString("panel %1: %2 × %3").arg(i + 1).arg(taken.width()).arg(taken.height())));
      // What of the work lies within its part, and no more.
      const Box& b = plan[i].part;
      QVERIFY(!of_panel.empty() && b.width() >= 20 && b.height() >= 20); // nothing that nobody would lay
      GEOSGeometry* whole = geometry_of(geos.h, shapes, 0.005);
      GEOSGeometry* frame =
          geometry_of(geos.h, {*parse_outline(fmt::format("M{} {}H{}V{}H{}Z", b.x0, b.y0, b.x1, b.y1, b.x0))}, 0.005);
      GEOSGeometry* part = geometry_of(geos.h, of_panel, 0.005);
      GEOSGeometry* meant = checked(GEOSIntersection_r(geos.h, whole, frame));
      const double off = area_of(geos.h, checked(GEOSSymDifference_r(geos.h, meant, part)));
      QVERIFY2(off < 0.01 * (b.width() + b.height()) * 2, qPrintable(QString::number(off)));
      for (GEOSGeometry* g : {whole, frame, part, meant})
        GEOSGeom_destroy_r(geos.h, g);
      laid.insert(laid.end(), of_panel.begin(), of_panel.end());
    }
    GEOSGeometry* whole = geometry_of(geos.h, shapes, 0.005);
    GEOSGeometry* together = geometry_of(geos.h, laid, 0.005);
    QVERIFY(area_of(geos.h, checked(GEOSSymDifference_r(geos.h, whole, together))) < 20);
    GEOSGeom_destroy_r(geos.h, whole), GEOSGeom_destroy_r(geos.h, together);
    // Nothing of one panel lies on another where they are cut.
    for (std::size_t i = 0; i < plan.size(); ++i)
      for (std::size_t k = i + 1; k < plan.size(); ++k)
        QVERIFY(!taken_by(parted, i + 1).overlaps(taken_by(parted, k + 1)));
  }

  void neighbours_share_an_overlap_and_two_marks() {
    const CutSheet work = sheet_of({*parse_outline("M0 0H2000V900H0Z")});
    const Material m = vinyl(610);
    const std::vector<Panel> p = panels_of(work_of(work), m);
    QCOMPARE(p.size(), std::size_t{2});
    QCOMPARE(p[0].part.y1 - p[1].part.y0, 10.0);
    QCOMPARE(p[0].part.x1 - p[0].part.x0, 2000.0);
    QCOMPARE(p[0].moved, Vec{});      // the first stays where it is
    QCOMPARE(p[0].marks, p[1].marks); // at the same places of the work
    QCOMPARE(p[0].marks.size(), std::size_t{2});
    for (const Point at : p[0].marks) {
      QCOMPARE(at.y, (p[0].part.y1 + p[1].part.y0) / 2);
      QVERIFY(at.x < 0 || at.x > 2000);
    }
  }

  void seams_lie_between_letters_where_they_can() {
    // Six bars, level, 100 mm high, 40 mm apart: a roll of 500 mm has room for a seam in one of the gaps.
    std::string bars;
    for (int i = 0; i < 6; ++i)
      bars += fmt::format("M0 {}h1500v100h-1500Z", i * 140);
    const CutSheet work = sheet_of({*parse_outline(bars)});
    const std::vector<Panel> p = panels_of(work_of(work), vinyl(500));
    QCOMPARE(p.size(), std::size_t{2});
    CutSheet parted = work;
    QVERIFY(part_in_panels(parted, {vinyl(500)}));
    for (const CutPiece& piece : parted.pieces)
      if (piece.id != 0)
        for (const Contour& c : piece.outline.contours)
          QCOMPARE(c.area(), 150000.0); // all whole
    // No line of letters is cut through either, and upright strips find the gaps between letters.
    const CutSheet letters = sheet_of(straight_letters("I I I I I", {"Roboto Slab", "Bold"}, 400));
    Box all;
    for (const CutPiece& l : letters.pieces)
      all.add(l.outline.bounds());
    CutSheet strips = letters;
    QVERIFY(part_in_panels(strips, {vinyl(all.width() * 0.55, all.height() + 60)}));
    std::size_t whole = 0;
    for (const CutPiece& piece : strips.pieces)
      whole += piece.id != 0 && piece.outline.contours.size() == 1 ? 1 : 0;
    QCOMPARE(whole, std::size_t{5});
  }

  void only_what_is_asked_for_is_parted_data() {
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("overlap");
    QTest::addColumn<int>("panels");
    QTest::newRow("it fits") << 900.0 << 10.0 << 0;
    QTest::newRow("it fits turned") << 901.0 << 10.0 << 0;
    QTest::newRow("not asked for") << 610.0 << 0.0 << 0;
    QTest::newRow("no width said") << 0.0 << 10.0 << 0;
    QTest::newRow("narrower than the overlaps") << 19.0 << 10.0 << 0;
    QTest::newRow("asked for") << 610.0 << 10.0 << 2;
  }
  void only_what_is_asked_for_is_parted() {
    QFETCH(double, width);
    QFETCH(double, overlap);
    QFETCH(int, panels);
    const CutSheet work = sheet_of({*parse_outline("M0 0H9000V900H0Z")});
    CutSheet parted = work;
    QVERIFY(part_in_panels(parted, {vinyl(width, 0, overlap)}));
    std::size_t most = 0;
    for (const CutPiece& p : parted.pieces)
      most = std::max(most, p.panel);
    QCOMPARE(int(most), panels);
    QCOMPARE(int(panel_count(work.pieces.front().outline.bounds(), vinyl(width, 0, overlap))), panels);
    if (panels == 0)
      QCOMPARE(parted.pieces.front().outline, work.pieces.front().outline);
  }

  void a_plan_cuts_panel_after_panel() {
    Document d;
    d.sheet = {3000, 2000};
    d.materials = {vinyl(610)};
    Piece p;
    p.colour = blue;
    p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(
                                 "M100 100H2000V1000H100ZM200 200V900H400V200ZM2100 150H2300V250H2100Z")),
                             Finish{{}},
                             nullptr,
                             {}};
    d = add_piece(d, p).document;
    const Result<CutPlan> plan = job_plan(d, evaluator(), {});
    QVERIFY(plan);
    QCOMPARE(plan->layers.size(), std::size_t{2});
    QCOMPARE(plan->layers[0].name, std::string("Blue film, panel 1 of 2"));
    QCOMPARE(plan->layers[1].panel, std::size_t{2});
    for (std::size_t i = 1; i < plan->order.size(); ++i)
      QVERIFY(plan->layer_of[plan->order[i - 1].piece] <= plan->layer_of[plan->order[i].piece]);
    QVERIFY(tools_of(*plan) == (std::vector<std::size_t>{0, 0})); // one pen, on one roll
    PlanChoice second;
    second.panel = 2;
    const Result<CutPlan> one = job_plan(d, evaluator(), second);
    QVERIFY(one);
    QCOMPARE(one->layers.size(), std::size_t{1});
    QCOMPARE(one->layers[0].name, plan->layers[1].name);
    // By itself it lies where the first one does, on a sheet of its own.
    Box first, alone;
    for (const CutPiece& piece : plan->sheet.pieces)
      if (piece.panel == 1)
        first.add(piece.outline.bounds());
    for (const CutPiece& piece : one->sheet.pieces)
      alone.add(piece.outline.bounds());
    QVERIFY(std::abs(alone.x0 - first.x0) < 1e-6 && alone.y0 > 0 && alone.x1 <= one->sheet.frame.x1);
    // The check no longer says that it is too large.
    const auto cures = [](const Document& of) -> std::optional<std::vector<Cure>> {
      for (const Finding& f : check(of, evaluator()).findings)
        if (f.kind == FindingKind::TooLarge)
          return f.cures;
      return std::nullopt;
    };
    const auto too_large = [&](const Document& of) { return cures(of).has_value(); };
    QVERIFY(!too_large(d));
    d.materials.front().panel_overlap = 0;
    QVERIFY(too_large(d));
    QCOMPARE(job_plan(d, evaluator(), {})->layers.size(), std::size_t{1});
    // Its cure is one click.
    QVERIFY(cures(d) == std::vector{Cure::CutInPanels});
    const Result<Document> better = cured(d, 0, Cure::CutInPanels, evaluator());
    QVERIFY(better && better->materials.front().panel_overlap == usual_panel_overlap && !too_large(*better));
    QVERIFY(!cured(*better, 0, Cure::CutInPanels, evaluator())); // nothing is left to do
    d.materials.front().width = 15;
    QVERIFY(!cured(d, 0, Cure::CutInPanels, evaluator())); // too narrow for it, so it is not offered
    QVERIFY(cures(d) == std::vector<Cure>{});
  }

  void lines_are_clipped_at_the_edges_data() {
    QTest::addColumn<QString>("line");
    QTest::addColumn<int>("stretches");
    QTest::newRow("through") << "M-5 5H15" << 1;
    QTest::newRow("within") << "M1 1L9 9" << 1;
    QTest::newRow("beside") << "M-5 -1H15" << 0;
    QTest::newRow("out and in again") << "M2 2C2 20 8 20 8 2" << 2;
    QTest::newRow("a wave along an edge") << "M-1 10C2 -2 2 22 5 10S8 22 11 10" << 2;
    QTest::newRow("a corner outside") << "M5 5H20V8H5" << 2;
    QTest::newRow("touches an edge") << "M2 -4L5 0L8 -4" << 0;
  }
  void lines_are_clipped_at_the_edges() {
    QFETCH(QString, line);
    QFETCH(int, stretches);
    const Box box{0, 0, 10, 10};
    const Contour whole = parse_outline(line.toStdString())->contours.front();
    const std::vector<Contour> parts = clip_line(whole, box);
    QCOMPARE(int(parts.size()), stretches);
    double length = 0, meant = 0;
    for (const Contour& c : parts) {
      QVERIFY(!c.closed);
      QVERIFY(box.grown(1e-8).contains(c.bounds()));
      length += c.length();
      for (std::size_t i = 1; i < c.segments.size(); ++i)
        QCOMPARE(c.segments[i].p0, c.segments[i - 1].p3);
    }
    const std::vector<Point> fine = flatten(whole, 1e-5);
    for (std::size_t i = 1; i < fine.size(); ++i)
      if (constexpr int steps = 200; true)
        for (int k = 0; k < steps; ++k)
          if (box.contains(lerp(fine[i - 1], fine[i], (k + 0.5) / steps)))
            meant += distance(fine[i - 1], fine[i]) / steps;
    QVERIFY2(std::abs(length - meant) < 0.1, qPrintable(QString("%1, not %2").arg(length).arg(meant)));
  }
};

QTEST_APPLESS_MAIN(TestPanels)
#include "test_panels.moc"
