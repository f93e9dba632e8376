// Ties and stencil bridges: drawings worked out by hand, and words in ten faces.
#include "geom/cut_parts.h"
#include "geom/ties.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.005; // mm

// Between the sides of a strip there is nothing but what it is made of (the area, of a bridge the sheet), and beside
// each of them something else, within the bound.
bool exactly_as_wide(const Outline& made, const Tie& tie, double width, bool filled) {
  const Vec way = unit(tie.to - tie.from), aside = up_of(way);
  const double length = distance(tie.from, tie.to);
  const auto strip = [&](double along, double off) {
    return (winding_number(made, tie.from + along * way + off * aside) != 0) == filled;
  };
  constexpr int places = 60;
  for (const double side : {-1.0, 1.0}) {
    bool ends = false;
    for (int i = 0; i <= places; ++i) {
      if (!strip(length * i / places, side * (width / 2 - bound)))
        return false;
      const double along = -width + (length + 2 * width) * i / places; // edges may run at a slant
      ends = ends || !strip(along, side * (width / 2 + bound));
    }
    if (!ends)
      return false;
  }
  return true;
}

struct FaceAndWord {
  FaceName face;
  std::string word;
};
FaceAndWord any_word(std::mt19937_64& random) {
  static const std::vector<FaceName> faces = [] {
    std::vector<FaceName> out; // one of each family
    for (const FaceEntry& entry : bundled_faces().entries())
      if (out.size() < 10 && (out.empty() || out.back().family != entry.name.family))
        out.push_back(entry.name);
    return out;
  }();
  static const char* const words[] = {"Minigolf",  "Bobbin",   "River",  "SALTMARSH", "jib & boom",
                                      "8 o'clock", "Quiet!",   "Gannet", "PORT ROAD", "Dinghi",
                                      "fairlead",  "Oxbow 68", "A4",     "eider"};
  return {faces[random() % faces.size()], words[random() % std::size(words)]};
}

} // namespace

class TestTies : public QObject {
  Q_OBJECT

private slots:
  void by_hand_data() {
    QTest::addColumn<QString>("paths");
    QTest::addColumn<double>("width");
    QTest::addColumn<int>("ties");
    QTest::addColumn<double>("added"); // mm²
    // A dot 6 above a stem: 6 · 2 and the two slivers under the dot, r - √(r² - 1) high in the middle.
    const double sliver = 2 * 6 - (std::sqrt(36.0 - 1) + 36 * std::asin(1.0 / 6)); // 2r - the area under the arc
    QTest::newRow("the dot of an i") << "M0 20h10v50h-10z|" + disc(5, 8, 6) << 2.0 << 1 << 12 + sliver;
    QTest::newRow("two bars beside each other") << "M0 0h10v60h-10z|M18 0h10v60h-10z" << 3.0 << 1 << 24.0;
    QTest::newRow("three") << "M0 0h10v60h-10z|M18 0h10v60h-10z|M33 10h10v20h-10z" << 3.0 << 2 << 24.0 + 15;
    QTest::newRow("an island in a ring") << disc(0, 0, 50) + disc(0, 0, 40, true) + "M-20 -20h40v40h-40z" << 2.0 << 1
                                         << 0.0;
    QTest::newRow("one piece") << "M0 0h10v60h-10z" << 2.0 << 0 << 0.0;
    QTest::newRow("nothing") << "" << 2.0 << 0 << 0.0;
  }
  void by_hand() {
    QFETCH(QString, paths);
    QFETCH(double, width);
    QFETCH(int, ties);
    QFETCH(double, added);
    const Outline area = paths.isEmpty() ? Outline{} : welded(paths);
    for (const TieEnds ends : {TieEnds::Square, TieEnds::Round}) {
      const TieForm form{width, ends};
      const std::vector<Tie> found = ties_for_loose(area, form);
      QCOMPARE(static_cast<int>(found.size()), ties);
      const Outline joined = with_ties(area, found, form)->outline;
      QCOMPARE(cut_parts(joined).size(), std::size_t{area.empty() ? 0U : 1U});
      if (added > 0)
        QVERIFY2(std::abs(joined.area() - area.area() - added) < 0.02,
                 qPrintable(QString::number(joined.area() - area.area())));
      for (const Tie& t : found)
        QVERIFY(exactly_as_wide(joined, t, width, true));
    }
  }

  // Bars that run beside each other are joined in the middle of what they share, whichever way they lie.
  void in_the_middle() {
    for (const double angle : {0.0, 0.3, 1.57, 2.9}) {
      const Affine m = Affine::rotation(angle);
      const Outline area = welded("M0 0h10v60h-10z|M18 20h10v60h-10z").transformed(m);
      const std::vector<Tie> found = ties_for_loose(area, {2, TieEnds::Square});
      QCOMPARE(found.size(), std::size_t{1});
      QVERIFY(distance(lerp(found[0].from, found[0].to, 0.5), m({14, 40})) < 0.3); // within a step of looking
    }
  }

  void alike_in_alike_letters() {
    const Outline word = straight_word("iii", {"Lato", "Bold"}, 40);
    const std::vector<CutPart> parts = cut_parts(word);
    QCOMPARE(parts.size(), std::size_t{6});
    std::vector<Tie> upright;
    for (const Tie& t : ties_for_loose(word, {2, TieEnds::Square}))
      if (std::abs(t.to.y - t.from.y) > std::abs(t.to.x - t.from.x))
        upright.push_back(t);
    QCOMPARE(upright.size(), std::size_t{3});
    const auto place = [](const Tie& t) { return std::min(t.from.y, t.to.y); };
    for (const Tie& t : upright)
      QVERIFY(std::abs(place(t) - place(upright[0])) < 1e-6);
    std::sort(upright.begin(), upright.end(), [](const Tie& a, const Tie& b) { return a.from.x < b.from.x; });
    QVERIFY(std::abs((upright[2].from.x - upright[1].from.x) - (upright[1].from.x - upright[0].from.x)) < 1e-6);
  }

  // Words fall apart into letters, dots and accents: tied they are one, every counter open, each tie as wide as set.
  void words_become_one_piece() {
    const int trials = sanitized ? 8 : 200;
    double worst = 0;
    for (int n = 0; n < trials; ++n) {
      auto random = random_source(static_cast<std::uint64_t>(n) + 1);
      const FaceAndWord w = any_word(random);
      const Outline area = straight_word(w.word, w.face, uniform(random, 25, 60));
      const TieForm form{uniform(random, 0.6, 2.5), random() % 2 == 0 ? TieEnds::Square : TieEnds::Round};
      const std::string name = "seed " + std::to_string(n + 1) + ": " + w.word + " in " + w.face.family;
      const std::vector<CutPart> before = cut_parts(area);
      const std::vector<Tie> ties = ties_for_loose(area, form);
      QVERIFY2(ties.size() + 1 == before.size(), name.c_str());
      const Outline joined = with_ties(area, ties, form)->outline;
      QVERIFY2(cut_parts(joined).size() == 1, name.c_str());
      QVERIFY2(loose_stock(joined).size() == loose_stock(area).size(), name.c_str());
      double least = 0;
      for (const Tie& t : ties) {
        QVERIFY2(exactly_as_wide(joined, t, form.width, true), name.c_str());
        least += distance(t.from, t.to) * form.width;
      }
      if (!ties.empty())
        worst = std::max(worst, (joined.area() - area.area()) / least);
    }
    qInfo("area added, at most %.2f of length times width", worst);
    QVERIFY(worst < 1.5);
  }

  void stencils_data() {
    QTest::addColumn<QString>("paths");
    QTest::addColumn<int>("each");
    QTest::addColumn<double>("angle");
    QTest::addColumn<int>("bridges");
    QTest::addColumn<int>("parts"); // of the letters
    const QString o = disc(50, 50, 40) + disc(50, 50, 30, true);
    const QString eight = disc(50, 30, 30) + disc(50, 30, 18, true) + "|" + disc(50, 75, 33) + disc(50, 75, 20, true);
    QTest::newRow("an O by two") << o << 2 << 90.0 << 2 << 2;
    QTest::newRow("an O by one") << o << 1 << 90.0 << 1 << 1;
    QTest::newRow("an O, level") << o << 2 << 0.0 << 2 << 2;
    QTest::newRow("an O, slanted") << o << 2 << 30.0 << 2 << 2;
    QTest::newRow("an 8, through both counters") << eight << 2 << 90.0 << 3 << 2;
    QTest::newRow("no counter") << "M0 0h40v40h-40z" << 2 << 90.0 << 0 << 1;
  }
  void stencils() {
    QFETCH(QString, paths);
    QFETCH(int, each);
    QFETCH(double, angle);
    QFETCH(int, bridges);
    QFETCH(int, parts);
    const Outline area = welded(paths);
    const TieForm form{3, TieEnds::Square};
    const std::vector<Tie> found = stencil_bridges(area, form, {each, angle});
    QCOMPARE(static_cast<int>(found.size()), bridges);
    const Outline cut = with_bridges(area, found, form)->outline;
    QCOMPARE(static_cast<int>(cut_parts(cut).size()), parts);
    QCOMPARE(loose_stock(cut).size(), std::size_t{0});
    for (const Tie& t : found) {
      QVERIFY(exactly_as_wide(cut, t, form.width, false));
      const double a = degrees(std::atan2(t.to.y - t.from.y, t.to.x - t.from.x)) - angle;
      QVERIFY(std::abs(a - 180 * std::round(a / 180)) < 1e-6);
    }
  }

  void level_bridges_lie_on_one_line() {
    const Outline word = straight_word("OQD", {"Lato", "Bold"}, 60);
    const std::vector<Tie> found = stencil_bridges(word, {3, TieEnds::Square}, {2, 0});
    QCOMPARE(found.size(), std::size_t{6});
    for (const Tie& t : found)
      QVERIFY(std::abs(t.from.y - found[0].from.y) < 1e-6 && std::abs(t.to.y - found[0].from.y) < 1e-6);
  }

  void words_become_stencils() {
    const int trials = sanitized ? 8 : 200;
    for (int n = 0; n < trials; ++n) {
      auto random = random_source(static_cast<std::uint64_t>(n) + 1001);
      const FaceAndWord w = any_word(random);
      const Outline area = straight_word(w.word, w.face, uniform(random, 40, 80));
      const TieForm form{uniform(random, 0.6, 2), random() % 2 == 0 ? TieEnds::Square : TieEnds::Round};
      const BridgeChoice choice{1 + static_cast<int>(random() % 2), random() % 2 == 0 ? 90 : uniform(random, -90, 90)};
      const std::string name = "seed " + std::to_string(n + 1001) + ": " + w.word + " in " + w.face.family;
      const std::vector<Tie> bridges = stencil_bridges(area, form, choice);
      const Outline cut = with_bridges(area, bridges, form)->outline;
      QVERIFY2(loose_stock(cut).empty(), name.c_str());
      for (const Tie& t : bridges)
        QVERIFY2(exactly_as_wide(cut, t, form.width, false), name.c_str());
    }
  }
};

QTEST_APPLESS_MAIN(TestTies)
#include "test_ties.moc"
