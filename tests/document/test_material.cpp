// Materials: the list's rules, colours that go along, sizes, mirrored sheets, the user's own list, what the check
// finds.
#include "cutting/check.h"
#include "cutting/cut_order.h"
#include "document/edits.h"
#include "document/evaluate.h"
#include "document/job_file.h"
#include "document/material_json.h"
#include "geom/path_data.h"
#include "lettering/finish_edit.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>
#include <set>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr Colour red{200, 10, 10}, blue{10, 10, 200}, green{10, 160, 10};

Piece outline_piece(const char* path, Colour colour) {
  Piece p;
  p.colour = colour;
  OutlinePiece drawn;
  drawn.outline = std::make_shared<const Outline>(*parse_outline(path));
  p.content = std::move(drawn);
  return p;
}

struct Job {
  Document document;
  DocumentEvaluator evaluator{bundled_faces()};
  Job() {
    document.sheet = {400, 300};
    document.materials = {{"Red", red, 610}, {"Blue", blue, 300, 200}};
  }
  PieceId add(const char* path, Colour colour) {
    Added added = add_piece(std::move(document), outline_piece(path, colour));
    document = std::move(added.document);
    return added.id;
  }
  std::size_t found(FindingKind kind) const {
    const CheckReport report = check(document, evaluator);
    return static_cast<std::size_t>(std::count_if(report.findings.begin(), report.findings.end(),
                                                  [&](const Finding& f) { return f.kind == kind; }));
  }
};

} // namespace

class TestMaterial : public QObject {
  Q_OBJECT

private slots:
  void the_list_keeps_its_rules() {
    Job job;
    QVERIFY(faults(job.document).empty());
    QVERIFY(!with_material(job.document, 1, {"Other", red}).ok()); // another one has that colour
    QVERIFY(!with_material(job.document, 7, {"Other", green}).ok());
    std::set<Colour> colours;
    for (std::size_t i = 0; i < most_materials + 3; ++i)
      job.document = with_new_material(std::move(job.document), "New");
    QCOMPARE(job.document.materials.size(), most_materials);
    for (const Material& m : job.document.materials)
      QVERIFY(colours.insert(m.colour).second);
    for (std::size_t i = 2; i < job.document.materials.size(); ++i)
      for (std::size_t j = 0; j < i; ++j)
        QVERIFY(!alike(job.document.materials[i].colour, job.document.materials[j].colour));
    QVERIFY(faults(job.document).empty());
    const auto broken = [](const Material& m) {
      Document d;
      d.materials = {m};
      return !faults(d).empty();
    };
    QVERIFY(broken({"x", red, -1}) && broken({"x", red, std::nan("")}) && broken({"x", red, 1e300}));
    QVERIFY(broken({std::string(1000, 'x'), red}) && broken({"\xff", red}));
    for (const Material& m : shipped_materials())
      QVERIFY(!broken(m));
  }

  void another_colour_goes_to_all_that_has_the_old_one() {
    Job job;
    const PieceId id = job.add("M0 0H50V50H0Z", red);
    job.document = edit_piece(job.document, id, [](Piece& p) {
      p.finish()->steps.emplace_back().what = BorderStep{.rings = {{.distance = 2, .colour = blue}}};
      p.finish()->steps.emplace_back().what = ShadeStep{.colour = red};
    });
    Material changed = job.document.materials[0];
    changed.colour = green;
    const Result<Document> now = with_material(job.document, 0, changed);
    QVERIFY(now.ok());
    const Piece& piece = *now->find(id);
    QVERIFY(piece.colour == green);
    QVERIFY(std::get<BorderStep>(piece.finish()->steps[0].what).rings[0].colour == blue);
    QVERIFY(std::get<ShadeStep>(piece.finish()->steps[1].what).colour == green);
    QVERIFY(recoloured(*now, green, red).pieces.size() == 1 &&
            *recoloured(*now, green, red).find(id) == *job.document.find(id));
    // Without its material a piece keeps its colour.
    QVERIFY(without_material(*now, 0).find(id)->colour == green);
    QVERIFY(without_material(*now, 9).materials == now->materials);
  }

  void saved_opened_and_kept() {
    Job job;
    job.add("M0 0H50V50H0Z", red);
    const std::string bytes = write_job(job.document, bundled_faces());
    const auto back = read_job(bytes);
    QVERIFY(back.ok() && *back == job.document);
    const auto own = read_materials(write_materials(job.document.materials));
    QVERIFY(own && *own == job.document.materials);
    for (const char* broken : {"", "{", "[1]", "[{\"name\":\"x\"}]", "null"})
      QVERIFY(!read_materials(broken));
    // One that is none is left out and told; the rest of the job opens.
    std::string damaged = bytes;
    damaged.replace(damaged.find("\"width\": 300"), 12, "\"width\": -30");
    const auto rest = read_what_can_be_read(damaged);
    QVERIFY(rest.ok());
    QCOMPARE(rest->document.materials.size(), std::size_t{1});
    QCOMPARE(rest->lost.size(), std::size_t{1});
    QCOMPARE(rest->lost[0].name, std::string("Blue"));
    QCOMPARE(rest->document.pieces.size(), std::size_t{1});
  }

  void sizes_fit_as_they_are_or_turned_data() {
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("length");
    QTest::addColumn<double>("w");
    QTest::addColumn<double>("h");
    QTest::addColumn<bool>("fit");
    QTest::newRow("sheet") << 300.0 << 200.0 << 299.0 << 200.0 << true;
    QTest::newRow("sheet-turned") << 300.0 << 200.0 << 150.0 << 290.0 << true;
    QTest::newRow("sheet-too-large") << 300.0 << 200.0 << 250.0 << 201.0 << false;
    QTest::newRow("roll") << 610.0 << 0.0 << 5000.0 << 600.0 << true;
    QTest::newRow("roll-too-narrow") << 610.0 << 0.0 << 700.0 << 650.0 << false;
    QTest::newRow("not-said") << 0.0 << 0.0 << 1e4 << 1e4 << true;
  }
  void sizes_fit_as_they_are_or_turned() {
    QFETCH(double, width);
    QFETCH(double, length);
    QFETCH(double, w);
    QFETCH(double, h);
    QFETCH(bool, fit);
    QCOMPARE(fits({"x", red, width, length}, w, h), fit);
    Job job;
    job.document.sheet = {2e4, 2e4};
    job.document.materials = {{"x", red, width, length}};
    job.add(fmt::format("M1 1h{}v{}h-{}Z", w, h, w).c_str(), red);
    QCOMPARE(job.found(FindingKind::TooLarge), std::size_t(fit ? 0 : 1));
  }

  // A bar of one width, and two that stand apart by one gap.
  void strokes_and_gaps_are_found_data() {
    QTest::addColumn<double>("wide");
    QTest::addColumn<bool>("found");
    for (const double wide : {0.2, 0.45, 0.52, 2.0})
      QTest::addRow("%g", wide) << wide << (wide < 0.5);
  }
  void strokes_and_gaps_are_found() {
    QFETCH(double, wide);
    QFETCH(bool, found);
    const std::string bar = fmt::format("M10 10h60v{}h-60Z", wide);
    const std::string pair = fmt::format("M10 10h60v20h-60Z M10 {}h60v20h-60Z", 30 + wide);
    for (const bool strokes : {true, false})
      for (const Colour colour : {red, blue}) {
        Job job;
        job.document.materials[0].least_stroke = 0.5, job.document.materials[0].least_gap = 0.5;
        job.add(strokes ? bar.c_str() : pair.c_str(), colour);
        const bool here = found && colour == red; // the other material says nothing
        QCOMPARE(job.found(FindingKind::StrokesThin), std::size_t(here && strokes));
        QCOMPARE(job.found(FindingKind::GapsThin), std::size_t(here && !strokes));
        // A pen draws it all the same.
        job.document = edit_piece(job.document, 1, [](Piece& p) { p.destination = Destination::Pen; });
        QCOMPARE(job.found(FindingKind::StrokesThin) + job.found(FindingKind::GapsThin), std::size_t{0});
      }
  }

  // What only runs to a point is no gap, and a short needle no stroke; a long one is.
  void corners_are_not_narrow() {
    Job job;
    job.document.materials[0].least_stroke = 0.5, job.document.materials[0].least_gap = 0.5;
    job.add("M10 10H80V50H46L45 20L44 50H10Z", red); // a notch of 4 degrees
    QCOMPARE(job.found(FindingKind::GapsThin), std::size_t{0});
    Job needle;
    needle.document.materials = job.document.materials;
    needle.add("M10 10L210 11L10 12Z", red);
    QCOMPARE(needle.found(FindingKind::StrokesThin), std::size_t{1});
    Job live; // letters that were never united are looked at one by one
    live.document.materials = job.document.materials;
    live.document.materials[0].least_stroke = 5;
    Piece letters = new_lettering(live.document, U"Ill", {50, 100});
    letters.colour = red;
    live.document = add_piece(live.document, letters).document;
    QCOMPARE(live.found(FindingKind::StrokesThin), std::size_t{1});
    live.document.materials[0].least_stroke = 0.05;
    QCOMPARE(live.found(FindingKind::StrokesThin), std::size_t{0});
  }

  void mirrored_materials_are_turned_about_the_middle_of_the_sheet() {
    Job job;
    job.add("M10 20H60V40H10Z M20 25V35H30V25Z", red);
    job.add("M100 20H160V40H100Z", blue);
    const CutSheet plain = *cut_sheet(job.document, job.evaluator);
    job.document.materials[0].mirrored = true;
    const CutSheet turned = *cut_sheet(job.document, job.evaluator);
    QCOMPARE(turned.pieces.size(), plain.pieces.size());
    const Box was = plain.pieces[0].outline.bounds(), now = turned.pieces[0].outline.bounds();
    QVERIFY(std::abs(now.x0 - (400 - was.x1)) < 1e-9 && std::abs(now.x1 - (400 - was.x0)) < 1e-9);
    QVERIFY(now.y0 == was.y0 && now.y1 == was.y1);
    QVERIFY(std::abs(turned.pieces[0].outline.area() - plain.pieces[0].outline.area()) < 1e-9);
    QVERIFY(winding_number(turned.pieces[0].outline, {400 - 25, 30}) == 0); // the hole went along
    QVERIFY(turned.pieces[1].outline == plain.pieces[1].outline);
    // The same piece mirrored by a step as well is turned back where it stands, and moved.
    job.document = edit_piece(job.document, 1, [](Piece& p) { p.finish()->steps.emplace_back().what = MirrorStep{}; });
    const CutSheet twice = *cut_sheet(job.document, job.evaluator);
    const Outline back = twice.pieces[0].outline.transformed(Affine::translation({-(400 - 70), 0}));
    QVERIFY(std::abs(back.bounds().x0 - was.x0) < 1e-9);
    QVERIFY(winding_number(back, {25, 30}) == 0 && winding_number(back, {45, 30}) != 0);
  }

  void layers_of_one_colour_are_told_apart() {
    Job job;
    const PieceId id = job.add("M20 20H60V40H20Z", red);
    job.document = edit_piece(job.document, id, [](Piece& p) {
      p.finish()->steps.emplace_back().what =
          BorderStep{.rings = {{.distance = 2, .colour = red}, {.distance = 4, .colour = red}}};
    });
    QCOMPARE(job.found(FindingKind::PiecesCross), std::size_t{2});
    const auto now = cured(job.document, id, Cure::ColourApart, job.evaluator);
    QVERIFY(now.ok());
    job.document = *now;
    QCOMPARE(job.found(FindingKind::PiecesCross), std::size_t{0});
    QVERIFY(job.document.find(id)->colour == red);
    // Two pieces over each other: the front one gets another colour.
    Job two;
    two.add("M20 20H60V40H20Z", red);
    const PieceId front = two.add("M40 30H80V50H40Z", red);
    QCOMPARE(two.found(FindingKind::PiecesCross), std::size_t{1});
    two.document = *cured(two.document, front, Cure::ColourApart, two.evaluator);
    QCOMPARE(two.found(FindingKind::PiecesCross), std::size_t{0});
  }

  void what_is_used_is_in_the_order_of_the_list() {
    Job job;
    job.add("M0 0H10V10H0Z", green); // in no list
    job.add("M20 0H50V10H20Z M70 5H80V15H70Z", blue);
    const PieceId id = job.add("M0 50H30V60H0Z", red);
    job.document = edit_piece(job.document, id, [](Piece& p) {
      p.finish()->steps.emplace_back().what = BorderStep{.rings = {{.distance = 2, .colour = blue}}};
    });
    const auto used = used_materials(*cut_sheet(job.document, job.evaluator), job.document.materials);
    QCOMPARE(used.size(), std::size_t{3});
    QVERIFY(used[0].colour == red && used[1].colour == blue && used[2].colour == green);
    QCOMPARE(used[1].lines, std::size_t{3});
    QVERIFY(std::abs(used[1].box.x0 + 2) < 0.01 && used[1].box.x1 == 80 && std::abs(used[1].box.y1 - 62) < 0.01);
    for (const CutPath& path : cut_order(*cut_sheet(job.document, job.evaluator)))
      QVERIFY(path.colour == red || path.colour == blue || path.colour == green);
  }

  // The layers that a finish names are those that it makes.
  void layers_are_named_as_they_are_made() {
    auto random = random_source(61);
    for (int round = 0; round < (sanitized ? 20 : 150); ++round) {
      Finish steps{{}};
      for (int i = 0; i < 4; ++i)
        steps.steps.push_back(random_step(random));
      const std::vector<Outline> parts{random_blob(random, {0, 0}, 20, 5)};
      const auto made = finish([&] { return parts; }, nullptr, steps);
      if (!made)
        continue;
      std::vector<std::string> named, there;
      for_each_layer(steps, [&](LayerRole role, int number, const Colour&, const Destination&) {
        named.push_back(layer_id(role, number));
      });
      for (const Layer& l : (*made)->layers)
        if (l.role != LayerRole::Letters)
          there.push_back(layer_id(l.role, l.number));
      std::sort(named.begin(), named.end());
      std::sort(there.begin(), there.end());
      QVERIFY(named == there);
    }
  }
};

QTEST_APPLESS_MAIN(TestMaterial)
#include "test_material.moc"
