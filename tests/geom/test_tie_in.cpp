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

// All places, sizes and turns on a grid, looked at by pixels of a quarter of a millimetre; those that may hold are
// measured. What the search says can't be, must not be found here.
class BruteForce {
public:
  BruteForce(const Outline& word, const Outline& in) : word_(word), in_(in) {
    box_ = in.bounds().grown(2);
    columns_ = static_cast<int>(box_.width() / px), rows_ = static_cast<int>(box_.height() / px);
    space_ = loose_stock(in).front().outline;
    fill(in, material), fill(space_, open);
    const Point middle = word.bounds().centre();
    for (const Contour& c : word.contours)
      if (c.area() > 0) {
        std::vector<Vec>& ring = rings_.emplace_back();
        for (const Ring& r : rings_of({{c}}, 0.05))
          for (std::size_t i = 0; i < r.size(); ++i)
            for (int k = 0; k < 2; ++k)
              ring.push_back(lerp(r[i], r[(i + 1) % r.size()], k / 2.0) - middle);
      }
  }

  // The first pose that holds, in words; empty: none.
  std::string found(const TieInWish& wish) const {
    for (double k = wish.smallest; k <= wish.largest; k *= 1.03)
      for (double turn = -wish.turn; turn <= wish.turn; turn += wish.turn / 3)
        for (double y = box_.y0; y <= box_.y1; y += 2)
          for (double x = box_.x0; x <= box_.x1; x += 2)
            if (may_hold({x, y}, k, turn, wish) && holds({x, y}, k, turn, wish))
              return QString("%1 %2, %3 times, turned %4").arg(x).arg(y).arg(k).arg(turn).toStdString();
    return {};
  }

private:
  static constexpr double px = 0.25;
  enum : char { nothing, material, open };

  void fill(const Outline& area, char as) {
    if (pixels_.empty())
      pixels_.assign(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_), nothing);
    const std::vector<Ring> rings = rings_of(area, 0.02);
    for (int y = 0; y < rows_; ++y) {
      std::vector<double> at;
      const double v = box_.y0 + (y + 0.5) * px;
      for (const Ring& r : rings)
        for (std::size_t i = 0; i < r.size(); ++i)
          if (const Point a = r[i], b = r[(i + 1) % r.size()]; (a.y <= v) != (b.y <= v))
            at.push_back(a.x + (b.x - a.x) * (v - a.y) / (b.y - a.y));
      std::sort(at.begin(), at.end()); // even and odd: holes are not filled twice
      for (std::size_t i = 0; i + 1 < at.size(); i += 2)
        for (int x = std::max(0, int((at[i] - box_.x0) / px)); x < std::min(columns_, int((at[i + 1] - box_.x0) / px));
             ++x)
          pixels_[static_cast<std::size_t>(y) * static_cast<std::size_t>(columns_) + static_cast<std::size_t>(x)] = as;
    }
  }
  char at(Point p) const {
    const int x = int((p.x - box_.x0) / px), y = int((p.y - box_.y0) / px);
    return x < 0 || y < 0 || x >= columns_ || y >= rows_
               ? char(nothing)
               : pixels_[static_cast<std::size_t>(y) * static_cast<std::size_t>(columns_) +
                         static_cast<std::size_t>(x)];
  }
  static bool round_about(std::vector<double> angles) {
    std::sort(angles.begin(), angles.end());
    double gap = angles.front() + 2 * pi - angles.back();
    for (std::size_t i = 1; i < angles.size(); ++i)
      gap = std::max(gap, angles[i] - angles[i - 1]);
    return gap <= pi;
  }
  bool may_hold(Point middle, double k, double turn, const TieInWish& wish) const {
    const Vec x = direction(radians(turn)) * k;
    std::vector<double> angles;
    for (const std::vector<Vec>& ring : rings_) {
      std::vector<Point> p;
      std::vector<char> in;
      for (const Vec v : ring) {
        p.push_back(middle + Vec{x.x * v.x - x.y * v.y, x.y * v.x + x.x * v.y});
        in.push_back(at(p.back()));
        if (in.back() == nothing)
          return false;
      }
      std::size_t n = p.size(), first = 0;
      while (first < n && in[first] == material)
        ++first;
      for (std::size_t i = 0; i < n && first < n;) {
        const std::size_t from = (first + i) % n;
        if (in[from] != material) {
          ++i;
          continue;
        }
        std::size_t run = 1;
        while (in[(from + run) % n] == material)
          ++run;
        const Point a = p[from], b = p[(from + run - 1) % n];
        if (distance(a, b) > wish.least - 2 * px)
          angles.push_back(std::atan2((a.y + b.y) / 2 - middle.y, (a.x + b.x) / 2 - middle.x));
        i += run;
      }
    }
    return static_cast<int>(angles.size()) >= wish.contacts && round_about(angles);
  }
  bool holds(Point middle, double k, double turn, const TieInWish& wish) const {
    const Outline placed =
        word_.transformed(Affine::translation(middle - Point{}) * Affine::rotation(radians(turn)) *
                          Affine::scaling(k, k) * Affine::translation(-(word_.bounds().centre() - Point{})));
    std::vector<double> angles;
    for (const Contact& c : *contacts(placed, in_))
      if (c.width >= wish.least)
        angles.push_back(std::atan2(c.at.y - middle.y, c.at.x - middle.x));
    if (static_cast<int>(angles.size()) < wish.contacts || !round_about(angles))
      return false;
    return std::abs(combine(BooleanOp::Difference, {placed}, {in_, space_})->outline.area()) < 1e-3;
  }

  const Outline& word_;
  const Outline& in_;
  Outline space_;
  Box box_;
  int columns_ = 0, rows_ = 0;
  std::vector<char> pixels_;
  std::vector<std::vector<Vec>> rings_;
};

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
      const std::string other = BruteForce(letters, in).found(wish);
      QVERIFY2(other.empty(), other.c_str());
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
