// Faults planted in made-up drawings, six of a kind, each found and, where there is a cure, gone after it; clean ones
// in which nothing is found; findings set aside.
#include "cutting/check.h"
#include "cutting/order_check.h"
#include "cutting/sheet_parts.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/material.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId put(Document& d, const QString& path, Colour colour = {}) {
  Piece p;
  p.colour = colour;
  p.content = OutlinePiece{std::make_shared<const Outline>(drawn(path)), Finish{{}}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
PieceId put_word(Document& d, const std::string& text, const FaceName& face, double size, Point at) {
  Piece p;
  Lettering l;
  Letters letters = letters_of(text, face, size);
  letters.text = retyped({}, from_utf8(text), d.next_id); // ids of this document
  l.recipe.source = std::move(letters);
  l.placement.at = at;
  p.content = std::move(l);
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}

// A drawing with one fault of the kind; n: 0 to 5.
Document planted(FindingKind kind, int n) {
  Document d;
  const double x = 20 + 15.5 * n, y = 30 + 7 * n, w = 40 + 3 * n;
  switch (kind) {
  case FindingKind::CutTwice: {
    put(d, box(x, y, w, 30));
    // The same line begun at another corner, the other way round, among others, or in one piece.
    const QString again[]{box(x, y, w, 30),
                          box_hole(x, y, w, 30),
                          QString("M%1 %2v30h-%3v-30z").arg(x + w).arg(y).arg(w),
                          box(x, y, w, 30) + box(x + 100, y, 20, 20),
                          box(x + 0.0002, y, w, 30),
                          QString("M%1 %2h%3h%3v30h-%4z").arg(x).arg(y).arg(w / 2).arg(w)};
    put(d, again[n]);
    break;
  }
  case FindingKind::SizeNotOrdered:
    put(d, box(x, y, w, 30));
    d.ordered = n % 3 == 0 ? Ordered{w + 0.2, 0, 0} : n % 3 == 1 ? Ordered{0, 29, 0} : Ordered{w, 31, 0};
    break;
  case FindingKind::PartsNotOrdered:
    for (int i = 0; i <= n; ++i)
      put(d, box(20 + 60 * (i % 4), 30 + 60 * (i / 4), 40, 30));
    d.ordered.parts = n == 0 ? 2 : 1;
    break;
  case FindingKind::ColourUnlisted:
    d.materials = shipped_materials();
    put(d, box(x, y, w, 30), {static_cast<std::uint8_t>(3 + n), 200, static_cast<std::uint8_t>(90 + 20 * n)});
    break;
  case FindingKind::PictureOnly:
    d.backings.push_back({});
    d.backings.back().name = "scan " + std::to_string(n);
    if (n % 2 == 1)
      put(d, box(x, y, w, 30)), d = edit_piece(d, d.pieces[0]->id, [](Piece& p) { p.destination = Destination::Off; });
    break;
  case FindingKind::HolesFilled: {
    QString path = box(x, y, w, 60);
    for (int i = 0; i <= n % 3; ++i)
      path += box(x + 5 + 11 * i, y + 10, 8, 20 + n);
    put(d, path);
    break;
  }
  case FindingKind::HolesClosed: {
    const PieceId id = put(d, box(x, y, w, 40) + box_hole(x + 10, y + 10, 3 + 0.2 * n, 20));
    d = edit_piece(d, id, [](Piece& p) { p.finish()->steps = {{BorderStep{.rings = {{.distance = 2.5}}}, true}}; });
    break;
  }
  case FindingKind::NodesClose:
    put(d, QString("M%1 %2h%3l%4 0h20v30h-%5z")
               .arg(x)
               .arg(y)
               .arg(w)
               .arg(0.001 + 0.0015 * n)
               .arg(w + 20.0 + 0.001 + 0.0015 * n));
    break;
  case FindingKind::Spikes:
    put(d,
        n < 3 ? QString("M%1 %2h%3l%4 %5l-%4 -%6v30h-%3z")
                    .arg(x)
                    .arg(y)
                    .arg(w)
                    .arg(10 + n)
                    .arg(0.1)
                    .arg(0.1 - 0.01 * (n + 1))
              : QString("M%1 %2h%3h9v%4h-9v30h-%3z").arg(x).arg(y).arg(w).arg(0.008 * n)); // a hair
    break;
  case FindingKind::LinesTiny: {
    QString path = QString("M%1 %2h%3").arg(x).arg(y).arg(w);
    for (int i = 0; i < 12 + n; ++i)
      path += QString("l%1 %2").arg(0.2 * std::cos(0.1 * i)).arg(0.2 * std::sin(0.1 * i));
    put(d, path + QString("V%1H%2z").arg(y + 30).arg(x));
    break;
  }
  case FindingKind::NodesDense: {
    Material tin{"Tin", {}, 600, 400};
    tin.machine = Machine::Torch;
    QString path;
    if (n % 2 == 0) { // a circle of many lines
      tin.nodes_per_100 = 10;
      for (int i = 0; i < 200; ++i)
        path += QString("%1%2 %3")
                    .arg(i == 0 ? "M" : "L")
                    .arg(200 + 80 * std::cos(pi * i / 100), 0, 'f', 6)
                    .arg(200 + 80 * std::sin(pi * i / 100), 0, 'f', 6);
      path += "z";
    } else { // a bevel that the torch would stand still at
      tin.nodes_apart = 2;
      path = QString("M%1 %2h%3l%4 %4v30h-%5z").arg(x).arg(y).arg(w).arg(0.3 + 0.1 * n).arg(w + 0.3 + 0.1 * n);
    }
    d.materials = {tin};
    put(d, path);
    break;
  }
  case FindingKind::GuideCut: {
    const CircleJob job = circle_job("Tern", 60 + 10 * n);
    d = edit_piece(job.document, job.guide, [](Piece& p) { p.destination = Destination::Knife; });
    break;
  }
  case FindingKind::OutsideSheet:
    put(d, n % 2 == 0 ? box(-1 - n, y, w, 30) : box(x, d.sheet.height - 20, w, 25 + n));
    break;
  case FindingKind::PiecesCross:
    put(d, box(x, y, w, 30));
    put(d, n % 2 == 0 ? box(x + 10, y + 10, w, 30) : box(x + w / 3, y - 10, w / 4, 60));
    break;
  case FindingKind::OverlapCut:
    if (n % 2 == 0) {
      const PieceId id = put_word(d, "Saltmarsh", {"Dancing Script", "Bold"}, 30 + n, {300, 200});
      d = edit_piece(d, id, [](Piece& p) { set_weld(*p.finish(), false); });
    } else {
      put(d, box(x, y, w, 30) + box(x + 5, y + 5, w, 40));
    }
    break;
  case FindingKind::NotClosed:
    put(d, QString("M%1 %2h%3v30").arg(x).arg(y).arg(w) + (n % 2 == 0 ? QString() : "h-10"));
    break;
  case FindingKind::CrossesItself:
    put(d, n % 2 == 0 ? QString("M%1 %2l%3 30h-%3l%3 -30z").arg(x).arg(y).arg(w)
                      : QString("M%1 %2c%3 40 %4 40 %5 0v-20H%1z").arg(x).arg(y + 20).arg(2 * w).arg(-w).arg(w));
    break;
  case FindingKind::StrokesThin:
  case FindingKind::GapsThin: {
    Material foil{"Foil", {}, 600, 400};
    foil.least_stroke = foil.least_gap = 0.5 + 0.1 * n;
    d.materials = {foil};
    const double thin = 0.3 + 0.1 * n;
    put(d, kind == FindingKind::StrokesThin ? box(x, y, 40, thin) : box(x, y, w, 20) + box(x, y + 20 + thin, w, 20));
    break;
  }
  case FindingKind::TooLarge:
    d.materials = {{"Strip", {}, 30, n % 2 == 0 ? 0.0 : 200.0}};
    put(d, box(20, 30, n % 2 == 0 ? 80 : 240, 40 + n));
    break;
  default:
    break;
  }
  return d;
}

std::size_t count(const CheckReport& r, FindingKind kind) {
  return static_cast<std::size_t>(
      std::count_if(r.findings.begin(), r.findings.end(), [&](const Finding& f) { return f.kind == kind; }));
}

} // namespace

class TestOrderCheck : public QObject {
  Q_OBJECT

private slots:
  void planted_faults_are_found_and_cured_data() {
    QTest::addColumn<int>("kind");
    QTest::addColumn<int>("n");
    for (const FindingKind kind :
         {FindingKind::CutTwice,       FindingKind::SizeNotOrdered, FindingKind::PartsNotOrdered,
          FindingKind::ColourUnlisted, FindingKind::PictureOnly,    FindingKind::HolesFilled,
          FindingKind::HolesClosed,    FindingKind::NodesClose,     FindingKind::Spikes,
          FindingKind::LinesTiny,      FindingKind::NodesDense,     FindingKind::GuideCut,
          FindingKind::OutsideSheet,   FindingKind::PiecesCross,    FindingKind::OverlapCut,
          FindingKind::NotClosed,      FindingKind::CrossesItself,  FindingKind::StrokesThin,
          FindingKind::GapsThin,       FindingKind::TooLarge})
      for (int n = 0; n < 6; ++n)
        QTest::addRow("%s %d", finding_id(kind), n) << static_cast<int>(kind) << n;
  }
  void planted_faults_are_found_and_cured() {
    QFETCH(int, kind);
    QFETCH(int, n);
    const auto wanted = static_cast<FindingKind>(kind);
    const Document d = planted(wanted, n);
    const CheckReport r = check(d, evaluator());
    const auto at =
        std::find_if(r.findings.begin(), r.findings.end(), [&](const Finding& f) { return f.kind == wanted; });
    QVERIFY(at != r.findings.end());
    QVERIFY(!english(at->detail).empty());
    if (wanted != FindingKind::PictureOnly)
      QVERIFY(!at->where.empty());
    for (const Cure c : at->cures) {
      const auto made = cured(d, at->piece, c, evaluator());
      QVERIFY(made.ok());
      QVERIFY2(count(check(*made, evaluator()), wanted) == 0, cure_id(c));
    }
    if (wanted == FindingKind::LinesTiny || wanted == FindingKind::NodesDense || wanted == FindingKind::HolesFilled ||
        wanted == FindingKind::NodesClose || wanted == FindingKind::Spikes)
      QVERIFY(!at->cures.empty());
    // Set aside it is a note, also after saving; taken back it counts again.
    const Document left = with_set_aside(d, wanted, at->piece, "the customer wants it so");
    if (wanted != FindingKind::PictureOnly) { // whose picture is none
      const Document read = *read_job(write_job(left, bundled_faces()));
      QVERIFY(read.set_aside == left.set_aside && read.ordered == left.ordered);
    }
    for (const Finding& f : check(left, evaluator()).findings)
      if (f.kind == wanted && f.piece == at->piece)
        QVERIFY(f.weight == Weight::Note && f.aside == "the customer wants it so");
    QVERIFY(with_set_aside(left, wanted, at->piece, "") == d);
    // What it was about is gone, and with it the note.
    if (at->piece != 0)
      QVERIFY(remove_pieces(left, {at->piece}).document.set_aside.empty());
  }

  void clean_drawings_are_clean_data() {
    QTest::addColumn<int>("n");
    for (int n = 0; n < 30; ++n)
      QTest::addRow("%d", n) << n;
  }
  void clean_drawings_are_clean() {
    QFETCH(int, n);
    auto random = random_source(static_cast<std::uint64_t>(n) + 1);
    Document d;
    if (n % 3 == 0) { // a word, welded, perhaps with a ring
      const auto& faces = bundled_faces().entries();
      const PieceId id =
          put_word(d, "Saltmarsh", faces[static_cast<std::size_t>(n) % faces.size()].name, 30, {300, 200});
      if (n % 2 == 0)
        d = edit_piece(d, id, [](Piece& p) {
          p.finish()->steps.push_back({BorderStep{.rings = {{.distance = 0.4}}}, true});
        });
    } else if (n % 3 == 1) { // plates with holes, side by side
      for (int i = 0; i < 3; ++i)
        put(d, box(20 + 150 * i, 40, 120, 80) + box_hole(40 + 150 * i, 60, uniform(random, 20, 70), 30));
    } else { // blobs in a row
      for (int i = 0; i < 4; ++i) {
        Outline blob = random_blob(random, {80.0 + 140 * i, 150}, 40, 6);
        blob.make_area_positive();
        Piece p;
        p.content = OutlinePiece{std::make_shared<const Outline>(std::move(blob)), Finish{{}}, nullptr, {}};
        d = add_piece(std::move(d), std::move(p)).document;
      }
    }
    const auto parts = sheet_parts(d, evaluator());
    QVERIFY(parts.ok());
    if (parts->size() == 1) { // asked for just what it is
      d.ordered.parts = static_cast<int>(parts->front().parts.size());
      Box all;
      for (const CutPart& p : parts->front().parts)
        all.add(p.box);
      d.ordered.width = all.width(), d.ordered.height = all.height();
    }
    const CheckReport r = check(d, evaluator());
    for (const Finding& f : r.findings)
      QVERIFY2(f.weight == Weight::Note, (std::string(finding_id(f.kind)) + ": " + english(f.detail)).c_str());
  }

  void parts_of_each_sheet() {
    Document d;
    d.materials = shipped_materials();
    const Colour first = d.materials[0].colour, second = d.materials[1].colour;
    put(d, box(0, 0, 60, 60) + box_hole(10, 10, 40, 40), first);
    put(d, box(20, 20, 10, 10), first); // in the hole
    put(d, box(100, 0, 40, 40), second);
    put(d, box(160, 0, 40, 40), second);
    put(d, box(130, 18, 40, 4), second);
    const auto sheets = sheet_parts(d, evaluator());
    QVERIFY(sheets.ok() && sheets->size() == 2);
    QCOMPARE((*sheets)[0].parts.size(), std::size_t{2});
    QCOMPARE((*sheets)[0].counters.size(), std::size_t{1});
    QCOMPARE((*sheets)[1].parts.size(), std::size_t{1});
    QVERIFY((*sheets)[1].weakest && std::abs((*sheets)[1].weakest->width - 4) < 0.005);
    QCOMPARE((*sheets)[0].name, d.materials[0].name);
    std::stop_source stop;
    stop.request_stop();
    QVERIFY(!sheet_parts(d, evaluator(), Links::LookedFor, stop.get_token()).ok());
  }

  // Ties as a step of the finish: an ordered word in one piece, cured by one click; ties by hand move with the letters.
  void a_word_in_one_piece() {
    Document d;
    const PieceId id = put_word(d, "jib", {"Lato", "Bold"}, 60, {200, 150});
    d.ordered.parts = 1;
    const CheckReport r = check(d, evaluator());
    const auto at = std::find_if(r.findings.begin(), r.findings.end(),
                                 [](const Finding& f) { return f.kind == FindingKind::PartsNotOrdered; });
    QVERIFY(at != r.findings.end() && at->piece == id && at->cures == std::vector{Cure::TieParts});
    const Document tied = *cured(d, id, Cure::TieParts, evaluator());
    QCOMPARE(count(check(tied, evaluator()), FindingKind::PartsNotOrdered), std::size_t{0});
    QCOMPARE(sheet_parts(tied, evaluator())->front().parts.size(), std::size_t{1});
    const Document read = *read_job(write_job(tied, bundled_faces()));
    QVERIFY(*read.find(id)->finish() == *tied.find(id)->finish());
    // Another text: they follow.
    const Document other = edit_piece(tied, id, [](Piece& p) {
      p.lettering()->recipe.source = letters_of("minigolf", {"Lato", "Bold"}, 60);
    });
    QCOMPARE(sheet_parts(other, evaluator())->front().parts.size(), std::size_t{1});
  }
};

QTEST_APPLESS_MAIN(TestOrderCheck)
#include "test_order_check.moc"
