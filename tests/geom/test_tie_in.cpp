// A word tied into a frame: the answers are united and counted again by GEOS; where none is found a fine grid of places
// finds none either.
#include "geom/boolean.h"
#include "geom/cut_parts.h"
#include "geom/offset.h"
#include "geom/tie_in.h"
#include "reference/geos_tools.h"
#include "reference/geos_union.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QElapsedTimer>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline ring_of(const Outline& outer, double band) {
  return combine(BooleanOp::Difference, {outer}, {offset(outer, -band)->rings.front()})->outline;
}
const Outline& word(const std::string& text) {
  static std::map<std::string, Outline> kept;
  const auto [it, fresh] = kept.try_emplace(text);
  if (fresh)
    it->second = straight_word(text, {"Dancing Script", "Bold"}, 40);
  return it->second;
}

// Made-up frames: blobs like animals, rings, boats and leaves, all some 150 mm wide.
Outline frame(int n) {
  auto random = random_source(static_cast<std::uint64_t>(n) + 7);
  const double band = uniform(random, 6, 12);
  switch (n % 5) {
  case 0: {
    Outline blob = random_blob(random, {0, 0}, uniform(random, 55, 75), 9);
    blob.make_area_positive();
    return ring_of(self_union(blob, FillRule::Nonzero)->outline, band);
  }
  case 1: {
    const double r = uniform(random, 45, 75);
    return ring_of({{circle_contour({0, 0}, r)}}, band);
  }
  case 2: // a boat: a level deck, a round keel
    return ring_of(drawn("M-80 -30H80C75 10 50 40 0 40C-50 40 -75 10 -80 -30z"), band);
  case 3: // a leaf
    return ring_of(drawn("M-85 0C-40 -60 40 -60 85 0C40 60 -40 60 -85 0z"), band);
  default: // a box with an eye
    return combine(BooleanOp::Difference, {ring_of(drawn("M-80 -45h160v90h-160z"), band + 6)},
                   {{{circle_contour({-73, 0}, 3)}}})
        ->outline;
  }
}

// GEOS, on both flattened: how many parts what both cover has that are as wide as that, by how many are left when they
// are shrunk by less than half of it; and how many parts both together have.
struct Counted {
  std::size_t contacts = 0, parts = 0;
};
Counted counted(const Outline& placed, const Outline& in, double least) {
  constexpr double flattening = 1e-3;
  Counted out;
  for (const Ring& r : geos_union({placed, in}, flattening))
    out.parts += ring_area(r) > 0;
  const std::vector<Ring> shared = geos_combine('i', {placed}, {in}, flattening);
  for (const Ring& r : shared) {
    double across = 0;
    for (const Point a : r)
      for (const Point b : r)
        across = std::max(across, distance(a, b));
    out.contacts += ring_area(r) > 0 && across >= least;
  }
  return out;
}

} // namespace

class TestTieIn : public QObject {
  Q_OBJECT

private slots:
  void words_in_frames_data() {
    QTest::addColumn<int>("frame");
    QTest::addColumn<QString>("text");
    const char* const words[] = {"Marigold", "Kestrel", "Oona",   "Wren",  "Saltmarsh",
                                 "Juno",     "Tern",    "Avocet", "Heron", "Dulse"};
    const int each = qEnvironmentVariableIsSet("FRELM_ALL_WORDS") ? 10 : 1; // all take some minutes
    for (int n = 0; n < (sanitized ? 3 : 30); ++n)
      for (int k = 0; k < each; ++k)
        QTest::addRow("frame %d, %s", n, words[(n + k) % 10]) << n << words[(n + k) % 10];
  }
  void words_in_frames() {
    QFETCH(int, frame);
    QFETCH(QString, text);
    const Outline& letters = word(text.toStdString());
    const Outline in = ::frame(frame);
    const TieInWish wish{.contacts = 4, .least = 2.5, .turn = 12, .smallest = 0.6, .largest = 2.2};
    QElapsedTimer clock;
    clock.start();
    const auto found = tie_in(letters, in, wish);
    if (qEnvironmentVariableIsSet("FRELM_ALL_WORDS"))
      qInfo("%lld ms, %zu answers", clock.elapsed(), found->best.size());
    QVERIFY(found.ok());
    if (found->best.empty()) {
      QVERIFY(found->nearest && found->missing > 0);
      qInfo("%d missing, short by %.2f mm%s", found->missing, found->short_by, found->one_sided ? ", one-sided" : "");
      return;
    }
    for (const TiedIn& t : found->best) {
      QVERIFY(static_cast<int>(t.contacts.size()) >= wish.contacts && t.widest_gap <= 180);
      QVERIFY(t.scale >= wish.smallest - 1e-9 && t.scale <= wish.largest + 1e-9 &&
              std::abs(t.turn) <= wish.turn + 1e-9);
      for (const Contact& c : t.contacts)
        QVERIFY(c.width >= wish.least);
      const Outline placed = letters.transformed(t.place());
      const Counted geos = counted(placed, in, wish.least);
      QVERIFY2(static_cast<int>(geos.contacts) >= wish.contacts, qPrintable(QString::number(geos.contacts)));
      // Dots apart: as many parts as the word has besides the one that holds.
      QVERIFY(geos.parts <= cut_parts(letters).size());
      const Outline one = weld({placed, in})->outline;
      QCOMPARE(cut_parts(one).size(), geos.parts);
    }
  }

  void what_can_not_be_is_told() {
    const Outline ring = ring_of({{circle_contour({0, 0}, 60)}}, 8);
    const Outline dot = {{circle_contour({0, 0}, 5)}};
    // A dot too small for the ring touches it in one place only.
    const TieInWish two{.contacts = 2, .least = 2, .smallest = 0.8, .largest = 1.2};
    const auto found = tie_in(dot, ring, two);
    QVERIFY(found.ok() && found->best.empty());
    QCOMPARE(found->missing, 1);
    // A grid of places and sizes, each measured: never two.
    for (double k = 0.8; k <= 1.2; k += 0.2)
      for (double y = -56; y <= 56; y += 8)
        for (double x = -56; x <= 56; x += 8) {
          const auto c = contacts(dot.transformed(Affine::translation({x, y}) * Affine::scaling(k, k)), ring);
          QVERIFY(c.ok() && std::count_if(c->begin(), c->end(), [](const Contact& n) { return n.width >= 2; }) < 2);
        }
    // Where one is enough it is found.
    TieInWish one = two;
    one.contacts = 1;
    QVERIFY(!tie_in(dot, ring, one)->best.empty());
    // A bar across the ring: two contacts, on opposite sides.
    const auto bar =
        tie_in(drawn("M0 0h100v6h-100z"), ring, {.contacts = 2, .least = 5, .smallest = 0.8, .largest = 1.3});
    QVERIFY(bar.ok() && !bar->best.empty() && bar->best.front().contacts.size() >= 2);
    // Wider contacts than the bar is can't be.
    QVERIFY(tie_in(drawn("M0 0h100v6h-100z"), ring, {.contacts = 2, .least = 9, .smallest = 0.8, .largest = 1.2})
                ->best.empty());
  }

  void what_is_no_question() {
    const Outline ring = ring_of({{circle_contour({0, 0}, 60)}}, 8);
    QVERIFY(!tie_in({}, ring, {}).ok());
    QVERIFY(!tie_in(ring, drawn("M0 0h90v90h-90z"), {}).ok()); // no inside
    QVERIFY(!tie_in(ring, ring, {.contacts = 0}).ok());
    QVERIFY(!tie_in(ring, ring, {.smallest = 2, .largest = 1}).ok());
    std::stop_source stop;
    stop.request_stop();
    const auto stopped = tie_in(word("Wren"), ring, {}, stop.get_token());
    QVERIFY(!stopped.ok() && stopped.error().code == ErrorCode::Cancelled);
  }
};

QTEST_APPLESS_MAIN(TestTieIn)
#include "test_tie_in.moc"
