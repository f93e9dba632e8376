#include "reference/glyph_points.h"
#include "reference/hb_shape.h"
#include "reference/pixel_face.h"
#include "reference/python.h"
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

namespace {

// How far the letters' points and advances are apart at most, font units; infinite where they are built otherwise.
double apart(const Face& a, const Face& b, const std::u32string& text) {
  constexpr double never = std::numeric_limits<double>::infinity();
  const auto one = a.shape(text, Ligatures::On), other = b.shape(text, Ligatures::On);
  if (one.size() != other.size())
    return never;
  double worst = 0;
  for (std::size_t i = 0; i < one.size(); ++i) {
    worst = std::max(worst, std::abs(one[i].advance - other[i].advance));
    if (one[i].glyphs.size() != other[i].glyphs.size())
      return never;
    for (std::size_t g = 0; g < one[i].glyphs.size(); ++g) {
      const auto m = a.outline(one[i].glyphs[g].glyph), n = b.outline(other[i].glyphs[g].glyph);
      if (m->contours.size() != n->contours.size())
        return never;
      for (std::size_t c = 0; c < m->contours.size(); ++c) {
        const auto &s = m->contours[c].segments, &t = n->contours[c].segments;
        if (s.size() != t.size())
          return never;
        for (std::size_t k = 0; k < s.size(); ++k)
          for (const auto& [p, q] :
               {std::pair{s[k].p0, t[k].p0}, {s[k].p1, t[k].p1}, {s[k].p2, t[k].p2}, {s[k].p3, t[k].p3}})
            worst = std::max(worst, distance(p, q));
      }
    }
  }
  return worst;
}

} // namespace

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
      const double worst = apart(**face, **plain, U"HxI O"), changed = apart(**face, **by_default, U"HxI O");
      QVERIFY2(worst <= 1, qPrintable(QString("%1: %2").arg(name).arg(worst)));
      QCOMPARE(changed > 3, name != "Regular");
    }
  }

  // Places between the styles: three faces (one made up, two of Debian's), five places each, against fontTools'
  // instancer within one unit, which it rounds to, and hb-shape with the same variations exactly.
  void places_on_the_axes_data() {
    QTest::addColumn<QString>("file");
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("place");
    QTest::addColumn<QString>("plain");
    const auto add = [&](const char* name, const QString& file, const QString& text, const QStringList& places) {
      QVERIFY2(QFile::exists(file), qPrintable(file));
      QDir().mkpath(axes_dir_.filePath(name));
      QVERIFY(run_python("instance_face.py", QStringList{file, axes_dir_.filePath(name), text} + places));
      for (int i = 0; i < places.size(); ++i)
        QTest::addRow("%s, %s", name, qPrintable(places[i]))
            << file << text << places[i] << axes_dir_.filePath(QString("%1/plain-%2.bin").arg(name).arg(i));
    };
    QVERIFY(run_python("make_variable_face.py", {axes_dir_.path()}));
    add("Creek Flex", axes_dir_.filePath("CreekFlex.ttf"), "HxI O",
        {"wght=233", "wght=651,wdth=88", "wdth=75", "wght=900,wdth=130", "wght=512.5,wdth=99.5"});
    add("Inter", "/usr/share/fonts/truetype/inter-vf/Inter.var.ttf", "Saltmarsh AVBoat 28",
        {"wght=100", "wght=333,slnt=-4", "wght=650", "wght=900,slnt=-10", "wght=471.5,slnt=-7.25"});
    add("Karla", "/usr/share/fonts/truetype/karla-variable/Karla[wght].ttf", "Marigold & Upper Creek",
        {"wght=200", "wght=288", "wght=450.5", "wght=633", "wght=800"});
  }
  void places_on_the_axes() {
    QFETCH(QString, file);
    QFETCH(QString, text);
    QFETCH(QString, place);
    QFETCH(QString, plain);
    std::vector<AxisValue> values;
    for (const QString& pair : place.split(','))
      values.push_back({pair.section('=', 0, 0).toStdString(), pair.section('=', 1).toDouble()});
    const auto style = open_font(file.toStdString());
    const auto face = (*style)->varied(values);
    QVERIFY(face != nullptr);
    const auto reference = open_font(plain.toStdString());
    const std::u32string letters = from_utf8(text.toStdString());
    const double off = apart(*face, **reference, letters), changed = apart(*face, **style, letters);
    QVERIFY2(off <= 1, qPrintable(QString::number(off)));
    QVERIFY2(changed > 5, qPrintable(QString::number(changed)));
    QVERIFY(std::abs(face->metrics().cap_height - (*reference)->metrics().cap_height) <= 1);
    QVERIFY(std::abs(face->metrics().x_height - (*reference)->metrics().x_height) <= 1);
    const auto by_hb = hb_shape(file, text, {"--variations=" + place});
    std::size_t g = 0;
    for (const ShapedCluster& c : face->shape(letters, Ligatures::On)) {
      double advance = 0;
      for (const ShapedGlyph& glyph : c.glyphs) {
        QVERIFY(g < by_hb.size());
        QCOMPARE(static_cast<int>(glyph.glyph), by_hb[g].glyph);
        advance += by_hb[g++].advance;
      }
      QCOMPARE(c.advance, advance);
    }
  }

  // What is asked beyond an axis's end is its end; an axis the face lacks is refused; styles are places too.
  void axes_have_ends_and_styles_a_place() {
    QVERIFY(run_python("make_variable_face.py", {axes_dir_.path()}));
    QDir(axes_dir_.path()).mkpath("alone");
    QFile::copy(axes_dir_.filePath("CreekFlex.ttf"), axes_dir_.filePath("alone/CreekFlex.ttf"));
    const FaceLibrary library(axes_dir_.filePath("alone").toStdString(), false);
    const auto bold = library.face({"Creek Flex", "Bold"});
    const std::vector<FaceAxis> axes = (*bold)->axes();
    QCOMPARE(axes.size(), std::size_t{2});
    QVERIFY((axes[0] == FaceAxis{"wght", "Weight", 200, 700, 900}));
    QVERIFY((axes[1] == FaceAxis{"wdth", "Width", 75, 100, 130}));
    const auto varied = [&](std::vector<AxisValue> v) { return library.face({"Creek Flex", "Bold", std::move(v)}); };
    QCOMPARE(apart(**varied({{"wght", 4000}}), **varied({{"wght", 900}}), U"HxIO"), 0.0);
    QCOMPARE(apart(**varied({{"wght", 700}}), **bold, U"HxIO"), 0.0);
    QVERIFY(*varied({{"wght", 650}}) == *varied({{"wght", 650}})); // the last ones are kept
    QVERIFY((*varied({{"wght", 650}}))->name().text() == "Creek Flex Bold, wght 650");
    const auto lacking = varied({{"slnt", -5}});
    QVERIFY(!lacking.ok() && lacking.error().message().find("can't be varied") != std::string::npos);
    QVERIFY(!(*library.face({"Creek Flex", "Regular"}))->varied({{"opsz", 12}}));
    for (int i = 0; i < 2000; ++i) // as a hand drags: all are given back but the last few
      QVERIFY(varied({{"wght", 200 + i * 0.25}}).ok());
  }

  void faces_without_outlines_are_told_apart() {
    const PixelFace pixels; // the only face of this machine
    const FaceLibrary library("", true);
    QVERIFY(library.entries().empty());
    QCOMPARE(library.without_outlines().size(), std::size_t{1});
    QCOMPARE(library.without_outlines()[0].family, std::string(PixelFace::family));
    QVERIFY(library.without_outlines()[0].has == NoOutlines::Pixels);
  }

private:
  QTemporaryDir axes_dir_;
};

QTEST_APPLESS_MAIN(TestFaces)
#include "test_faces.moc"
