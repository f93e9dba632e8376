#include "lettering/evaluate.h"
#include "lettering/gaps.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <set>
#include <thread>

using namespace frelm;
using namespace frelm::test;

namespace {

std::shared_ptr<const SetText> set_of(const Letters& l, const Spacing& spacing = {}) {
  const auto face = bundled_faces().face(l.face);
  const auto set = set_text(l, ligatures_for(spacing), **face);
  return set ? *set : nullptr;
}
Letters lato(const std::string& text, double size = 10, SizeBy by = SizeBy::Capitals) {
  return letters_of(text, {"Lato", "Regular"}, size, by);
}
double ink_height(const SetText& set) {
  Box b;
  for (const auto& line : set.lines)
    for (const SetCluster& c : line)
      b.add(c.ink);
  return b.height();
}

} // namespace

class TestLettering : public QObject {
  Q_OBJECT

private slots:
  // ---- typed text
  void ids_survive_edits_data() {
    QTest::addColumn<QString>("was");
    QTest::addColumn<QString>("now");
    QTest::addColumn<QList<int>>("ids"); // 0 for a new one
    QTest::newRow("append") << "abc"
                            << "abcd" << QList<int>{1, 2, 3, 0};
    QTest::newRow("insert-in-middle") << "abc"
                                      << "abXc" << QList<int>{1, 2, 0, 3};
    QTest::newRow("delete") << "abcd"
                            << "acd" << QList<int>{1, 3, 4};
    QTest::newRow("replace-all") << "abc"
                                 << "xyz" << QList<int>{0, 0, 0};
    QTest::newRow("two-places") << "sea lane"
                                << "see line" << QList<int>{1, 2, 0, 4, 5, 0, 7, 8};
    QTest::newRow("repeated-letter") << "aaa"
                                     << "aaaa" << QList<int>{1, 2, 3, 0};
    QTest::newRow("to-nothing") << "abc"
                                << "" << QList<int>{};
  }
  void ids_survive_edits() {
    QFETCH(QString, was);
    QFETCH(QString, now);
    QFETCH(QList<int>, ids);
    std::uint64_t next = 1;
    const TypedText before = retyped({}, from_utf8(was.toStdString()), next);
    const std::uint64_t first_new = next;
    const TypedText after = retyped(before, from_utf8(now.toStdString()), next);
    QCOMPARE(to_utf8(plain_text(after)), now.toStdString());
    std::set<std::uint64_t> unique;
    for (qsizetype i = 0; i < ids.size(); ++i) {
      const std::uint64_t id = after[static_cast<std::size_t>(i)].id;
      unique.insert(id);
      if (ids[i] != 0)
        QCOMPARE(id, static_cast<std::uint64_t>(ids[i]));
      else
        QVERIFY(id >= first_new);
    }
    QCOMPARE(unique.size(), after.size());
  }

  // ---- set text
  void capitals_modes_keep_what_was_typed_data() {
    QTest::addColumn<int>("mode");
    QTest::addColumn<QString>("shown");
    QTest::newRow("typed") << 0 << "upper Creek's ölüß";
    QTest::newRow("capitals") << 1 << QString("UPPER CREEK'S ÖLÜ\u1e9e");
    QTest::newRow("lower") << 2 << "upper creek's ölüß";
    QTest::newRow("title") << 3 << "Upper Creek's Ölüß";
  }
  void capitals_modes_keep_what_was_typed() {
    QFETCH(int, mode);
    QFETCH(QString, shown);
    const std::u32string typed = from_utf8("upper Creek's ölüß");
    const std::u32string out = cased(typed, static_cast<Capitals>(mode));
    QCOMPARE(QString::fromStdString(to_utf8(out)), shown);
    QCOMPARE(out.size(), typed.size());
  }

  void size_measures_what_it_says() {
    QVERIFY(std::abs(ink_height(*set_of(lato("H"))) - 10) < 0.02);
    QVERIFY(std::abs(ink_height(*set_of(lato("x", 10, SizeBy::XHeight))) - 10) < 0.02);
    QVERIFY(std::abs(ink_height(*set_of(lato("Agp", 10, SizeBy::Full))) - 10) < 1e-9);
    QVERIFY(std::abs(ink_height(*set_of(lato("Agp\nx", 10, SizeBy::Full))) - 10) < 1e-9);
    const auto em = set_of(lato("H", 10, SizeBy::Em));
    QVERIFY(std::abs(em->mm_per_unit * 2000 - 10) < 1e-9); // Lato has 2000 units to the em
  }

  void width_scales_letters_and_advances_only_across() {
    Letters l = lato("Heave");
    const auto plain = set_of(l);
    l.width = 0.5;
    const auto half = set_of(l);
    for (std::size_t i = 0; i < 5; ++i) {
      QVERIFY(std::abs(half->lines[0][i].advance - plain->lines[0][i].advance / 2) < 1e-12);
      QVERIFY(std::abs(half->lines[0][i].ink.height() - plain->lines[0][i].ink.height()) < 1e-12);
    }
  }

  void nonsense_sizes_are_errors_data() {
    QTest::addColumn<double>("size");
    QTest::addColumn<double>("width");
    QTest::newRow("zero") << 0.0 << 1.0;
    QTest::newRow("negative") << -3.0 << 1.0;
    QTest::newRow("not-a-number") << std::nan("") << 1.0;
    QTest::newRow("ten-kilometres") << 1e7 << 1.0;
    QTest::newRow("no-width") << 10.0 << 0.0;
  }
  void nonsense_sizes_are_errors() {
    QFETCH(double, size);
    QFETCH(double, width);
    Letters l = lato("H", size);
    l.width = width;
    QVERIFY(set_of(l) == nullptr);
  }

  void empty_and_blank_texts_set_nothing() {
    for (const char* text : {"", "   ", "\n\n", "\t"}) {
      const auto set = set_of(lato(text));
      QVERIFY(set != nullptr);
      QCOMPARE(set->letter_count(), std::size_t{0});
      QVERIFY(set_of(lato(text, 10, SizeBy::Full)) != nullptr);
    }
    QCOMPARE(set_of(lato("a\n\nb"))->lines.size(), std::size_t{3});
  }

  void letters_the_face_lacks_are_listed_and_drawn() {
    const auto set = set_of(letters_of("A本B本", {"Bebas Neue", "Book"}, 10));
    QVERIFY(set->missing == U"本");
    QCOMPARE(set->letter_count(), std::size_t{4});
    QVERIFY(set->lines[0][1].missing && !set->lines[0][1].blank());
  }

  // ---- spacing
  void letter_spacing_lies_between_letters_only() {
    const auto set = set_of(lato("HIHI"), {2, 0});
    const auto plain = space_text(set, {}, Alignment::Left), wide = space_text(set, {2, 0}, Alignment::Left);
    QVERIFY(std::abs(wide->lines[0].length - plain->lines[0].length - 6) < 1e-9);
    for (std::size_t i = 0; i < 4; ++i)
      QVERIFY(std::abs(wide->lines[0].middles[i] - plain->lines[0].middles[i] - 2.0 * static_cast<double>(i)) < 1e-9);
  }
  void word_spacing_widens_spaces() {
    const auto set = set_of(lato("A B  C"));
    QVERIFY(std::abs(space_text(set, {0, 4}, Alignment::Left)->longest - space_text(set, {}, Alignment::Left)->longest -
                     12) < 1e-9);
  }
  void justified_lines_are_equally_long() {
    const auto set = set_of(lato("Low water\nat four o clock today\nHEAVE\nx"));
    const auto spaced = space_text(set, {}, Alignment::Justified);
    for (std::size_t l = 0; l < 3; ++l)
      QVERIFY(std::abs(spaced->lines[l].length - spaced->longest) < 1e-9);
    QVERIFY(spaced->lines[3].length < spaced->longest); // one letter has nothing to stretch
  }

  // ---- evaluation
  void alignment_places_lines_about_the_placement() {
    Recipe r;
    for (const Alignment a : {Alignment::Left, Alignment::Centre, Alignment::Right}) {
      Letters l = lato("WWWW\nI");
      l.alignment = a;
      r.source = l;
      const auto e = evaluate(r, {{100, 50}, 0}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}});
      const auto& letters = e->seated->letters;
      const double left = letters[0].origin.x, right = letters[3].origin.x + letters[3].advance;
      const double anchor = a == Alignment::Left ? left : a == Alignment::Right ? right : (left + right) / 2;
      QVERIFY(std::abs(anchor - 100) < 1e-9);
      const double second = letters[4].origin.x + (a == Alignment::Left    ? 0
                                                   : a == Alignment::Right ? letters[4].advance
                                                                           : letters[4].advance / 2);
      QVERIFY(std::abs(second - 100) < 1e-9);
      QVERIFY(std::abs(letters[4].origin.y - letters[0].origin.y - l.line_pitch * 10) < 1e-9);
    }
  }

  void turned_straight_lettering_turns_about_its_placement() {
    Recipe r;
    r.source = lato("HI");
    const auto flat = evaluate(r, {{0, 0}, 0}, nullptr, bundled_faces(), {});
    const auto turned = evaluate(r, {{0, 0}, 90}, nullptr, bundled_faces(), {});
    const Affine quarter = Affine::rotation(pi / 2);
    for (std::size_t i = 0; i < 2; ++i)
      QVERIFY(distance(turned->seated->letters[i].origin, quarter(flat->seated->letters[i].origin)) < 1e-9);
  }

  void results_are_equal_with_and_without_the_cache() {
    EvaluateCache cache, tiny(1);
    auto random = random_source(4);
    Recipe r;
    for (int i = 0; i < 60; ++i) {
      Letters l = lato(i % 3 == 0 ? "Saltmarsh" : "Marigold", 10 + static_cast<double>(random() % 4));
      r.source = l;
      r.spacing.letter = static_cast<double>(random() % 3);
      r.bend.kind = static_cast<BendKind>(random() % 3);
      r.bend.guide.angle = static_cast<double>(random() % 5) * 30;
      r.bend.offset = static_cast<double>(random() % 2);
      r.finish.steps[0].on = random() % 2 == 0;
      const CircleGuide circle{{200, 150}, 80 + static_cast<double>(random() % 3) * 20, 0};
      const auto plain = evaluate(r, {{3, 4}, 5}, line_of(circle), bundled_faces(), {});
      for (EvaluateCache* c : {&cache, &tiny}) {
        const auto cached = evaluate(r, {{3, 4}, 5}, line_of(circle), bundled_faces(), {Depth::Finish, c, {}});
        QVERIFY(plain.ok() && cached.ok());
        QVERIFY(*plain->finished->letters().outline == *cached->finished->letters().outline);
        QCOMPARE(plain->seated->letters.size(), cached->seated->letters.size());
        for (std::size_t k = 0; k < plain->seated->letters.size(); ++k)
          QVERIFY(plain->seated->letters[k].origin == cached->seated->letters[k].origin);
      }
    }
    QVERIFY(cache.finished.bytes() <= std::size_t{64} << 20);
  }

  void the_same_recipe_gives_the_same_shared_stages() {
    EvaluateCache cache;
    Recipe r;
    r.source = lato("Marigold");
    const EvaluateOptions options{Depth::Finish, &cache, {}};
    const auto a = evaluate(r, {}, nullptr, bundled_faces(), options);
    r.bend.offset = 1; // straight setting does not shape or space again
    const auto b = evaluate(r, {{9, 9}, 0}, nullptr, bundled_faces(), options);
    QVERIFY(a->seated->spaced == b->seated->spaced);
    QVERIFY(a->seated != b->seated);
  }

  void threads_that_evaluate_the_same_recipe_share_one_result() {
    for (int round = 0; round < 30; ++round) {
      EvaluateCache cache;
      Recipe r;
      r.source = lato("Saltmarsh Boatworks");
      std::vector<std::shared_ptr<const SeatedText>> seen(4);
      {
        std::vector<std::jthread> threads;
        for (std::size_t i = 0; i < seen.size(); ++i)
          threads.emplace_back([&, i] {
            seen[i] = evaluate(r, {}, nullptr, bundled_faces(), {Depth::Seat, &cache, {}})->seated;
          });
      }
      for (const auto& s : seen)
        QVERIFY(s != nullptr && s == seen[0]);
    }
  }

  void stopping_gives_cancelled_and_keeps_nothing() {
    EvaluateCache cache;
    std::stop_source stop;
    stop.request_stop();
    Recipe r;
    r.source = lato("Marigold");
    const auto e = evaluate(r, {}, nullptr, bundled_faces(), {Depth::Finish, &cache, stop.get_token()});
    QCOMPARE(e.error().code, ErrorCode::Cancelled);
    QVERIFY(evaluate(r, {}, nullptr, bundled_faces(), {Depth::Finish, &cache, {}}).ok());
  }

  void bad_bends_are_errors_that_say_what_to_do() {
    Recipe r;
    r.source = lato("Marigold");
    r.bend.kind = BendKind::Guide;
    QVERIFY(QString::fromStdString(evaluate(r, {}, nullptr, bundled_faces(), {}).error().message())
                .contains("choose a guide"));
    const CircleGuide flat{{0, 0}, 0, 0}, negative{{0, 0}, -5, 0}, tiny{{0, 0}, 0.01, 0};
    QVERIFY(!guide_line(GuideShape(flat)).ok());
    QVERIFY(!guide_line(GuideShape(negative)).ok());
    QVERIFY(
        evaluate(r, {}, line_of(tiny), bundled_faces(), {}).ok()); // smaller than the letters: set, and marked too long
    QVERIFY(evaluate(r, {}, line_of(tiny), bundled_faces(), {})->seated->overflow > 0);
    r.bend.kind = BendKind::Arc;
    for (const double v : {0.0, -4.0, std::nan("")}) {
      r.bend.arc.value = v;
      QVERIFY(!evaluate(r, {}, nullptr, bundled_faces(), {}).ok());
    }
    r.bend.arc = {ArcBy::Rise, 1e5, ArcSide::Over};
    QVERIFY(!evaluate(r, {}, nullptr, bundled_faces(), {}).ok());
    r.source = letters_of("x", {"No Face", "At All"}, 5);
    QCOMPARE(evaluate(r, {}, nullptr, bundled_faces(), {}).error().code, ErrorCode::NotFound);
  }

  void without_weld_every_letter_keeps_its_own_outline() {
    Recipe r;
    r.source = letters_of("Marigold");
    const auto welded = evaluate(r, {}, nullptr, bundled_faces(), {});
    r.finish.steps[0].on = false;
    const auto loose = evaluate(r, {}, nullptr, bundled_faces(), {});
    QVERIFY(loose->finished->letters().outline->contours.size() > welded->finished->letters().outline->contours.size());
    QVERIFY(loose->finished->letters().outline->area() > welded->finished->letters().outline->area());
  }

  // ---- gaps
  void gaps_are_the_closest_distances_of_neighbours_in_a_word() {
    const SeatedText text = on_circle(lato("AB CD", 20), 100);
    const auto gaps = measure_gaps(text);
    QCOMPARE(gaps.size(), std::size_t{3});
    QVERIFY(!gaps[0].word_space && gaps[1].word_space && !gaps[2].word_space);
    for (const Gap& g : gaps) {
      const PlacedLetter &a = text.letters[g.left], &b = text.letters[g.right];
      const auto ra = rings_of(a.shape->transformed(a.placement()), 0.0005),
                 rb = rings_of(b.shape->transformed(b.placement()), 0.0005);
      const BoundaryDistance to_b(rb);
      double best = 1e9;
      for (const Ring& ring : ra)
        for (const Point p : ring)
          best = std::min(best, to_b(p));
      const BoundaryDistance to_a(ra);
      for (const Ring& ring : rb)
        for (const Point p : ring)
          best = std::min(best, to_a(p));
      QVERIFY2(std::abs(best - g.closest.distance) <= 0.002,
               qPrintable(QString("%1 %2").arg(best).arg(g.closest.distance)));
    }
  }
  void joined_letters_have_no_gap_and_are_found_as_overlaps() {
    const SeatedText text = on_circle(letters_of("Marigold"), 120);
    const auto gaps = measure_gaps(text);
    const auto joined = std::count_if(gaps.begin(), gaps.end(), [](const Gap& g) { return g.joined(); });
    QVERIFY(joined >= 5);
    for (const Gap& g : gaps)
      if (g.joined())
        QCOMPARE(g.closest.distance, 0.0);
    QVERIFY(find_overlaps(text).size() >= static_cast<std::size_t>(joined));
  }
};

QTEST_APPLESS_MAIN(TestLettering)
#include "test_lettering.moc"
