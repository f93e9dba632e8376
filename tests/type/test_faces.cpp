#include "reference/glyph_points.h"
#include "reference/hb_shape.h"
#include "support/fixtures.h"
#include "type/bidi.h"
#include "type/face_library.h"
#include "type/font_face.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <set>

using namespace frelm;
using namespace frelm::test;

class TestFaces : public QObject {
  Q_OBJECT

private slots:
  void shaping_matches_hb_shape_data() {
    QTest::addColumn<QString>("file");
    QTest::addColumn<QString>("text");
    QTest::newRow("kerning") << "lato/Lato-Regular.ttf"
                             << "AVATAR To Wave";
    QTest::newRow("ligature") << "lato/Lato-Regular.ttf"
                              << "office final";
    QTest::newRow("script") << "dancing-script/DancingScript-Bold.otf"
                            << "Saltmarsh Lane";
    QTest::newRow("capitals") << "bebas-neue/BebasNeue-Book.otf"
                              << "UPPER CREEK";
    QTest::newRow("accent-composed") << "cabin/Cabin-Regular.otf"
                                     << "Ångström";
    QTest::newRow("accent-combining") << "lato/Lato-Regular.ttf" << QString("e\u0301a\u0308x");
    QTest::newRow("arabic") << "amiri/Amiri-Regular.ttf" << QString::fromUtf8("مرحبا بكم");
    QTest::newRow("missing-letter") << "bebas-neue/BebasNeue-Book.otf" << QString::fromUtf8("A本B");
  }
  void shaping_matches_hb_shape() {
    QFETCH(QString, file);
    QFETCH(QString, text);
    const QString path = QString::fromStdString(face_file(file.toStdString()));
    const auto face = open_font(path.toStdString());
    QVERIFY(face.ok());
    const auto ours = (*face)->shape(from_utf8(text.toStdString()), Ligatures::On);
    // Reading in one direction only: hb-shape does no reordering.
    const auto reference = hb_shape(path, text);
    QVERIFY(!reference.empty());
    std::size_t g = 0;
    for (const ShapedCluster& c : ours) {
      double pen = 0, advance = 0;
      for (const ShapedGlyph& glyph : c.glyphs) {
        QVERIFY(g < reference.size());
        QCOMPARE(static_cast<int>(glyph.glyph), reference[g].glyph);
        QCOMPARE(static_cast<int>(c.first), reference[g].cluster);
        QCOMPARE(glyph.x, pen + reference[g].dx);
        QCOMPARE(glyph.y, -reference[g].dy);
        pen += reference[g].advance;
        advance += reference[g].advance;
        ++g;
      }
      QCOMPARE(c.advance, advance);
    }
    QCOMPARE(g, reference.size());
  }

  void features_and_alternates_match_hb_shape_data() {
    QTest::addColumn<QString>("file");
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("tag");
    QTest::addColumn<int>("first"); // the letter it is for; less than 0: all
    QTest::newRow("alternate") << "dancing-script/DancingScript-Bold.otf"
                               << "MUM"
                               << "salt" << 2;
    QTest::newRow("set") << "roboto-slab/RobotoSlab-Regular.otf"
                         << "Gage"
                         << "ss03" << 1;
    QTest::newRow("whole") << "cabin/Cabin-Regular.otf"
                           << "Creek"
                           << "smcp" << -1;
  }
  void features_and_alternates_match_hb_shape() {
    QFETCH(QString, file);
    QFETCH(QString, text);
    QFETCH(QString, tag);
    QFETCH(int, first);
    const QString path = QString::fromStdString(face_file(file.toStdString()));
    const auto face = open_font(path.toStdString());
    ShapeStyle style;
    style.features.push_back({tag.toStdString(), 1});
    if (first >= 0)
      style.features.back().first = static_cast<std::size_t>(first), style.features.back().count = 1;
    const auto ours = (*face)->shape(from_utf8(text.toStdString()), style);
    const QString range = first < 0 ? QString() : QString("[%1:%2]").arg(first).arg(first + 1);
    const auto reference = hb_shape(path, text, {"--features=" + tag + range + "=1"});
    QCOMPARE(ours.size(), reference.size());
    bool differs = false;
    const auto usual = (*face)->shape(from_utf8(text.toStdString()), Ligatures::On);
    for (std::size_t i = 0; i < ours.size(); ++i) {
      QCOMPARE(static_cast<int>(ours[i].glyphs.front().glyph), reference[i].glyph);
      QCOMPARE(ours[i].advance, reference[i].advance);
      differs = differs || ours[i].glyphs != usual[i].glyphs;
    }
    QVERIFY(differs);
    // What is offered for the letter is what the feature brings.
    if (first >= 0) {
      const auto offered = (*face)->alternates(text.toStdU32String()[static_cast<std::size_t>(first)]);
      QVERIFY(std::any_of(offered.begin(), offered.end(), [&](const GlyphAlternate& a) {
        return a.tag == tag.toStdString() && a.glyph == ours[static_cast<std::size_t>(first)].glyphs.front().glyph;
      }));
    }
    const auto features = (*face)->features();
    QVERIFY(std::any_of(features.begin(), features.end(),
                        [&](const FaceFeature& f) { return f.tag == tag.toStdString() && !f.name.empty(); }));
  }

  void clusters_cover_every_code_point_once() {
    for (const char* text : {"office", "AVAT", "e\xcc\x81x", "مرحبا", "abc مرحبا 12 def", ""}) {
      const auto face = bundled_faces().face({"Amiri", "Regular"});
      const std::u32string line = from_utf8(text);
      std::vector<int> seen(line.size(), 0);
      for (const ShapedCluster& c : (*face)->shape(line, Ligatures::On))
        for (std::size_t i = c.first; i < c.first + c.count; ++i)
          ++seen.at(i);
      for (const int n : seen)
        QCOMPARE(n, 1);
    }
  }

  void ligatures_come_apart_when_asked() {
    const auto face = bundled_faces().face({"Lato", "Regular"});
    const std::u32string fi = U"fi";
    QVERIFY((*face)->shape(fi, Ligatures::On).size() <= 2);
    QCOMPARE((*face)->shape(fi, Ligatures::Off).size(), std::size_t{2});
    // Arabic must go on joining.
    const auto amiri = bundled_faces().face({"Amiri", "Regular"});
    const std::u32string word = from_utf8("مرحبا");
    QCOMPARE((*amiri)->shape(word, Ligatures::Off), (*amiri)->shape(word, Ligatures::On));
  }

  void right_to_left_stands_in_visual_order() {
    const std::u32string line = from_utf8("ab \xd7\x90\xd7\x91 cd"); // two Hebrew letters between Latin ones
    const auto runs = bidi_runs(line);
    QCOMPARE(runs.size(), std::size_t{3});
    QVERIFY(!runs[0].right_to_left && runs[1].right_to_left && !runs[2].right_to_left);
    QCOMPARE(runs[1].first, std::size_t{3});
    const std::u32string rtl = from_utf8("\xd7\x90\xd7\x91 12"); // base direction right to left: the number is left
    const auto back = bidi_runs(rtl);
    QVERIFY(back.front().first == 3 && !back.front().right_to_left);
    QVERIFY(bidi_runs(U"").empty());
  }

  // Every glyph against fontTools: implied points in halves, composites and fractions as the face has them.
  void outlines_are_the_face_s_own_data() {
    QTest::addColumn<QString>("file");
    for (const FaceEntry& e : bundled_faces().entries())
      QTest::newRow(e.name.text().c_str()) << QString::fromStdString(e.file);
  }
  void outlines_are_the_face_s_own() {
    QFETCH(QString, file);
    const auto face = open_font(file.toStdString());
    QVERIFY(face.ok());
    const QJsonArray reference = glyph_points(file);
    QVERIFY(reference.size() > 100);
    int drawn = 0;
    for (qsizetype glyph = 0; glyph < reference.size(); ++glyph) {
      const QJsonArray own = reference[glyph].toArray(); // area, x, y, points
      const auto outline = (*face)->outline(static_cast<std::uint32_t>(glyph));
      double x = 0, y = 0;
      int n = 0;
      for (const Contour& c : outline->contours) {
        QVERIFY(c.closed);
        for (const Segment& s : c.segments)
          x += s.p3.x, y -= s.p3.y, ++n;
      }
      const QString which = QString("glyph %1: ").arg(glyph);
      QVERIFY2(n == own[3].toInt(), qPrintable(which + QString("%1 points").arg(n)));
      QVERIFY2(std::abs(x - own[1].toDouble()) < 1e-3 * (n + 1) && std::abs(y - own[2].toDouble()) < 1e-3 * (n + 1),
               qPrintable(which + QString("%1 %2").arg(x - own[1].toDouble()).arg(y - own[2].toDouble())));
      if (n == 0)
        continue;
      ++drawn;
      QVERIFY2(outline->area() >= 0 && std::abs(outline->area() - std::abs(own[0].toDouble())) <=
                                           1e-6 * (1 + std::abs(own[0].toDouble())) + 0.5,
               qPrintable(which + QString::number(outline->area())));
    }
    QVERIFY(drawn > 80);
  }

  void cap_height_is_the_top_of_flat_capitals() {
    for (const FaceName& name :
         {FaceName{"Lato", "Regular"}, FaceName{"Roboto Slab", "Bold"}, FaceName{"Bebas Neue", "Book"}}) {
      const auto face = bundled_faces().face(name);
      const auto shaped = (*face)->shape(U"H", Ligatures::On);
      const Box h = (*face)->outline(shaped[0].glyphs[0].glyph)->bounds();
      QVERIFY(std::abs((*face)->metrics().cap_height + h.y0) <= 2);
      QCOMPARE((*face)->metrics().cap_source, HeightSource::Capitals);
    }
  }

  void the_library_has_ten_families_with_licences() {
    std::set<std::string> families;
    for (const FaceEntry& e : bundled_faces().entries()) {
      families.insert(e.name.family);
      QVERIFY(e.bundled);
      QVERIFY2(QFile::exists(QString::fromStdString(e.file.substr(0, e.file.rfind('/'))) + "/LICENCE.txt"),
               e.file.c_str());
    }
    QVERIFY(families.size() >= 10);
    for (const char* f : {"Dancing Script", "Kaushan Script", "Lobster Two", "Bebas Neue", "Lato", "Roboto Slab",
                          "Quicksand", "Amiri", "Cabin"})
      QVERIFY2(families.contains(f), f);
  }

  void missing_and_broken_fonts_are_errors() {
    QCOMPARE(open_font("/nowhere/x.otf").error().code, ErrorCode::NotFound);
    QCOMPARE(open_font(FRELM_SOURCE_DIR "/LICENSE").error().code, ErrorCode::Unreadable);
    QCOMPARE(bundled_faces().face({"No Such Face", "Regular"}).error().code, ErrorCode::NotFound);
  }

  void a_carried_face_sets_the_saved_line_exactly_and_others_from_its_letters() {
    const auto face = bundled_faces().face({"Lato", "Bold"});
    CarriedShapes shapes;
    carry(shapes, **face, U"AVE office", Ligatures::On);
    const auto carried = make_carried_face(shapes);
    QVERIFY(carried->carried());
    const auto now = carried->shape(U"AVE office", Ligatures::On);
    QCOMPARE(now, (*face)->shape(U"AVE office", Ligatures::On));
    for (const ShapedCluster& c : now)
      for (const ShapedGlyph& g : c.glyphs)
        QVERIFY(*carried->outline(g.glyph) == *(*face)->outline(g.glyph));
    const auto other = carried->shape(U"EVA?", Ligatures::On);
    QCOMPARE(other.size(), std::size_t{4});
    QVERIFY(!other[0].missing && other[3].missing);
    QVERIFY(!carried->outline(other[3].glyphs[0].glyph)->empty()); // shown as a box, never dropped
  }

  void utf8_goes_there_and_back_and_bad_bytes_are_marked() {
    const std::string text = "aé本😀";
    QCOMPARE(to_utf8(from_utf8(text)), text);
    QVERIFY(from_utf8("a\xff\xc3") == U"a\ufffd\ufffd");
    QVERIFY(from_utf8("\xed\xa0\x80").find(U'\xd800') == std::u32string::npos);
  }

  // Named instances of a variable face are styles of it, with the outlines and advances of fontTools' instancer within
  // one unit, which it rounds to; the letters differ from the default ones, and a job carries their shapes.
  void instances_of_a_variable_face() {
    QTemporaryDir dir;
    QProcess python;
    python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/make_variable_face.py", dir.path()});
    QVERIFY(python.waitForFinished(60'000) && python.exitCode() == 0);
    const QStringList names = QString::fromUtf8(python.readAllStandardOutput()).trimmed().split('\n');
    QCOMPARE(names.size(), 5);
    const FaceLibrary library(dir.path().toStdString(), false);
    QCOMPARE(library.entries().size(), std::size_t{5});
    const auto by_default = library.face({"Creek Flex", "Regular"});
    QVERIFY(by_default.ok());
    for (const QString& name : names) {
      const auto face = library.face({"Creek Flex", name.toStdString()});
      QVERIFY2(face.ok(), qPrintable(name));
      const auto plain = open_font(dir.filePath("plain-" + QString(name).replace(' ', '-') + ".bin").toStdString());
      QVERIFY(plain.ok());
      const auto ours = (*face)->shape(U"HxI O", Ligatures::On), theirs = (*plain)->shape(U"HxI O", Ligatures::On);
      QCOMPARE(ours.size(), theirs.size());
      double worst = 0, changed = 0;
      for (std::size_t i = 0; i < ours.size(); ++i) {
        QVERIFY(std::abs(ours[i].advance - theirs[i].advance) <= 1);
        const auto a = (*face)->outline(ours[i].glyphs[0].glyph), b = (*plain)->outline(theirs[i].glyphs[0].glyph),
                   d = (*by_default)->outline(ours[i].glyphs[0].glyph);
        QCOMPARE(a->contours.size(), b->contours.size());
        for (std::size_t c = 0; c < a->contours.size(); ++c) {
          QCOMPARE(a->contours[c].segments.size(), b->contours[c].segments.size());
          for (std::size_t s = 0; s < a->contours[c].segments.size(); ++s) {
            const Segment &m = a->contours[c].segments[s], &n = b->contours[c].segments[s];
            for (const auto& [p, q] : {std::pair{m.p0, n.p0}, {m.p1, n.p1}, {m.p2, n.p2}, {m.p3, n.p3}})
              worst = std::max(worst, distance(p, q));
            changed = std::max(changed, distance(m.p0, d->contours[c].segments[s].p0));
          }
        }
      }
      QVERIFY2(worst <= 1, qPrintable(QString("%1: %2").arg(name).arg(worst)));
      QCOMPARE(changed > 3, name != "Regular");
    }
  }
};

QTEST_APPLESS_MAIN(TestFaces)
#include "test_faces.moc"
