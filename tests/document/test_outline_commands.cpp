// Outline commands, snips and spaces in documents: areas by closed forms and by GEOS, what goes and comes back, what
// follows what.
#include "document/outline_commands.h"

#include "document/arrange.h"
#include "document/blocks.h"
#include "document/copying.h"
#include "document/job_file.h"
#include "document/line_work.h"
#include "document/references.h"
#include "document/release.h"
#include "document/validity.h"
#include "geom/path_data.h"
#include "reference/geos_union.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Job {
  Document document;
  PieceId add(const char* data, const char* name = "") {
    Piece p;
    p.name = name;
    p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(data)), Finish{{}}, {}, {}};
    Added added = add_piece(document, std::move(p));
    document = std::move(added.document);
    return added.id;
  }
  PieceId letters(const char* text, Point at) {
    Piece p = new_lettering(document, from_utf8(text), at);
    p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    Added added = add_piece(document, std::move(p));
    document = std::move(added.document);
    return added.id;
  }
};

const Outline& drawn(const Document& d, PieceId id) {
  return *d.find(id)->outline()->outline;
}
double area(const Document& d, PieceId id) {
  return std::abs(drawn(d, id).area());
}
Result<OutlinesMade> made(const Document& d, const std::vector<PieceId>& ids, OutlineCommand command,
                          const OutlineMeasures& measures = {}) {
  return make_outlines(d, ids, command, measures, evaluator(), true);
}
std::string sound(const Document& d) {
  if (const auto wrong = faults(d); !wrong.empty())
    return describe(d, wrong);
  const Result<Document> back = read_job(write_job(d, bundled_faces()));
  return !back ? back.error().text() : *back == d ? "" : "reads back as another document";
}

} // namespace

class TestOutlineCommands : public QObject {
  Q_OBJECT

private slots:
  void two_squares_data() {
    QTest::addColumn<OutlineCommand>("command");
    QTest::addColumn<std::vector<double>>("areas");
    QTest::newRow("weld") << OutlineCommand::WeldTogether << std::vector{175.0};
    QTest::newRow("cut away") << OutlineCommand::CutAway << std::vector{75.0};
    QTest::newRow("cut the front") << OutlineCommand::CutAwayBehind << std::vector{75.0};
    QTest::newRow("shared") << OutlineCommand::KeepShared << std::vector{25.0};
    QTest::newRow("not shared") << OutlineCommand::DropShared << std::vector{150.0};
    QTest::newRow("combine") << OutlineCommand::Combine << std::vector{200.0};
  }
  void two_squares() {
    QFETCH(OutlineCommand, command);
    QFETCH(std::vector<double>, areas);
    Job job;
    const PieceId behind = job.add("M0 0H10V10H0Z", "plate"), front = job.add("M5 5H15V15H5Z", "star");
    job.document = edit_piece(job.document, behind, [](Piece& p) { p.colour = {1, 2, 3}; });
    const auto result = made(job.document, {front, behind}, command);
    QVERIFY2(result.ok(), result.ok() ? "" : result.error().text().c_str());
    QCOMPARE(result->pieces.size(), areas.size());
    for (std::size_t i = 0; i < areas.size(); ++i)
      QVERIFY(std::abs(area(result->document, result->pieces[i]) - areas[i]) < 1e-6);
    QCOMPARE(result->document.pieces.size(), areas.size());
    const std::string wrong = sound(result->document);
    QVERIFY2(wrong.empty(), wrong.c_str());
    // Looks of the rearmost, but where the front one is what is left.
    const bool of_front = command == OutlineCommand::CutAwayBehind;
    QCOMPARE(result->document.pieces[0]->name, std::string(of_front ? "star" : "plate"));
    // The picture: what goes was covered before and is no longer.
    const double went = total_area(
        geos_combine('d', {drawn(job.document, behind), drawn(job.document, front)}, {*result->stays}, 1e-4));
    QVERIFY(std::abs(result->goes->area() - went) < 1e-3);
  }

  void a_word_cut_out_of_a_plate_comes_back() {
    Job job;
    const PieceId plate = job.add("M0 0H200V80H0Z", "plate"), word = job.letters("Salty", {30, 55});
    const PieceId aside = job.add("M500 0h5v5h-5Z", "aside");
    const auto cut = made(job.document, {plate, word}, OutlineCommand::CutAway);
    QVERIFY2(cut.ok(), cut.ok() ? "" : cut.error().text().c_str());
    QCOMPARE(cut->pieces, std::vector{plate});
    QCOMPARE(cut->released.size(), std::size_t{1});
    QVERIFY(cut->document.find(word) == nullptr && cut->document.find(aside) != nullptr);
    const Outline letters = *evaluator().piece(job.document, word, Depth::Finish)->outline;
    const auto truth = geos_combine('d', {drawn(job.document, plate)}, {letters}, 1e-4);
    QVERIFY(boundary_distance(rings_of(drawn(cut->document, plate), 1e-4), truth) < 0.01);
    QVERIFY2(sound(cut->document).empty(), sound(cut->document).c_str());
    // Reopen: word and plate, just as they were.
    const auto back = reopen(cut->document, plate);
    QVERIFY(back.ok());
    QVERIFY(*back->document.find(plate) == *job.document.find(plate));
    QVERIFY(*back->document.find(word) == *job.document.find(word));
    QVERIFY(back->document.index_of(plate) < back->document.index_of(word));
    QCOMPARE(back->document.pieces.size(), job.document.pieces.size());
    // Moved and scaled in between, both come back moved and scaled.
    Document moved = move_pieces(cut->document, {plate}, {20, 30});
    moved = scale_piece(moved, plate, {20, 30}, 2, GuideScaling::Along);
    QVERIFY2(sound(moved).empty(), sound(moved).c_str());
    const auto later = reopen(moved, plate);
    QVERIFY(later.ok());
    const Box b = drawn(later->document, plate).bounds();
    QVERIFY(std::abs(b.x0 - 20) < 1e-6 && std::abs(b.x1 - 420) < 1e-6 && std::abs(b.y1 - 190) < 1e-6);
    const Box was = evaluator().piece(job.document, word, Depth::Seat)->ink,
              now = evaluator().piece(later->document, word, Depth::Seat)->ink;
    QVERIFY(std::abs(now.width() - 2 * was.width()) < 0.01 && std::abs(now.x0 - (20 + 2 * was.x0)) < 0.01);
    // Copied, the copy has an origin of its own.
    QVERIFY(later->document.find(word)->lettering()->recipe.letters()->text ==
            job.document.find(word)->lettering()->recipe.letters()->text);
  }

  void several_letterings_and_their_guide() {
    CircleJob on = circle_job("Salty Dog");
    Job job{on.document};
    const PieceId star = job.add("M280 170h40v40h-40Z", "star"), second = job.letters("Yard", {270, 260});
    const auto all = made(job.document, {on.lettering, star, second}, OutlineCommand::WeldTogether);
    QVERIFY2(all.ok(), all.ok() ? "" : all.error().text().c_str());
    QCOMPARE(all->released.size(), std::size_t{2});
    QVERIFY2(sound(all->document).empty(), sound(all->document).c_str());
    QVERIFY(all->document.find(on.guide)->destination == Destination::Guide);
    const auto back = reopen(all->document, all->pieces.at(0));
    QVERIFY(back.ok());
    for (const PieceId id : {on.lettering, star, second})
      QVERIFY(back->document.find(id) != nullptr && *back->document.find(id) == *job.document.find(id));
    std::vector<std::size_t> order;
    for (const PieceId id : {on.lettering, star, second})
      order.push_back(back->document.index_of(id));
    QVERIFY(std::is_sorted(order.begin(), order.end()));
    QVERIFY2(sound(back->document).empty(), sound(back->document).c_str());
  }

  void breaks_apart_with_holes() {
    Job job;
    const PieceId id = job.add("M0 0H20V20H0ZM5 5V15H15V5ZM30 0H40V10H30Z", "tags");
    const auto parts = made(job.document, {id}, OutlineCommand::BreakApart);
    QVERIFY(parts.ok());
    QCOMPARE(parts->pieces.size(), std::size_t{2});
    QVERIFY(std::abs(area(parts->document, parts->pieces[0]) - 300) < 1e-9);
    QVERIFY(std::abs(area(parts->document, parts->pieces[1]) - 100) < 1e-9);
    QVERIFY2(sound(parts->document).empty(), sound(parts->document).c_str());
    const auto again = made(parts->document, {parts->pieces[1]}, OutlineCommand::BreakApart);
    QVERIFY(!again.ok());
  }

  void pieces_more_leave_what_they_are_made_of() {
    Job job;
    const PieceId word = job.letters("Salty", {30, 55});
    for (const auto& [command, measures] :
         {std::pair{OutlineCommand::OffsetAsPiece, OutlineMeasures{.offset = 3}},
          std::pair{OutlineCommand::OffsetAsPiece, OutlineMeasures{.offset = -0.4}},
          std::pair{OutlineCommand::ShadeAsPiece, OutlineMeasures{.shade_angle = 90, .shade_depth = 5}}}) {
      const auto more = made(job.document, {word}, command, measures);
      QVERIFY2(more.ok(), more.ok() ? "" : more.error().text().c_str());
      QVERIFY(*more->document.find(word) == *job.document.find(word));
      QVERIFY(more->document.index_of(more->pieces[0]) < more->document.index_of(word));
      QVERIFY(more->released.empty());
      QVERIFY2(sound(more->document).empty(), sound(more->document).c_str());
    }
    const Outline letters = *evaluator().piece(job.document, word, Depth::Finish)->outline;
    const auto ring = made(job.document, {word}, OutlineCommand::OffsetAsPiece, {.offset = 3});
    QVERIFY(boundary_distance(rings_of(drawn(ring->document, ring->pieces[0]), 1e-4), geos_buffer({letters}, 3, 1e-4)) <
            0.01);
    QVERIFY(!made(job.document, {word}, OutlineCommand::OffsetAsPiece, {.offset = -400}).ok());
  }

  void each_keeps_its_id_and_followers() {
    Job job;
    const PieceId box = job.add("M0 0H60V40H0Z", "box");
    Piece edge = new_guide(OutlineGuide{box, 0, {}});
    Added guide = add_piece(job.document, std::move(edge));
    job.document = guide.document;
    const auto round = made(job.document, {box}, OutlineCommand::RoundedCorners, {.radius = 5});
    QVERIFY(round.ok());
    QCOMPARE(round->pieces, std::vector{box});
    QVERIFY(std::abs(area(round->document, box) - (2400 - (4 - pi) * 25)) < 0.01);
    QVERIFY2(sound(round->document).empty(), sound(round->document).c_str());
    QVERIFY(std::holds_alternative<OutlineGuide>(round->document.find(guide.id)->guide()->shape));
    const auto turned = made(job.document, {box}, OutlineCommand::ReverseLines);
    QVERIFY(turned.ok() && drawn(turned->document, box).area() == -drawn(job.document, box).area());
    QVERIFY(!made(job.document, {box}, OutlineCommand::CloseLines).ok()); // closed already
  }

  void what_cannot_be_done_says_why_data() {
    QTest::addColumn<OutlineCommand>("command");
    QTest::addColumn<int>("pieces");
    QTest::addColumn<bool>("locked");
    QTest::newRow("nothing") << OutlineCommand::BreakApart << 0 << false;
    QTest::newRow("one alone") << OutlineCommand::WeldTogether << 1 << false;
    QTest::newRow("locked") << OutlineCommand::WeldTogether << 2 << true;
    QTest::newRow("share nothing") << OutlineCommand::KeepShared << 2 << false;
    QTest::newRow("apart") << OutlineCommand::CutAway << 2 << false;
  }
  void what_cannot_be_done_says_why() {
    QFETCH(OutlineCommand, command);
    QFETCH(int, pieces);
    QFETCH(bool, locked);
    Job job;
    std::vector<PieceId> ids{job.add("M0 0H10V10H0Z", "a"), job.add("M50 0H60V10H50Z", "b")};
    job.document = edit_piece(job.document, ids[1], [&](Piece& p) { p.locked = locked; });
    ids.resize(static_cast<std::size_t>(pieces));
    const auto result = made(job.document, ids, command);
    QVERIFY(!result.ok());
    QVERIFY(!result.error().message().empty());
  }

  // Any of them on any pieces: valid, saved and opened equal, and what was live comes back.
  void any_command_on_any_pieces() {
    auto random = random_source(316);
    const int rounds = sanitized ? 10 : 120;
    int done = 0;
    for (int round = 0; round < rounds; ++round) {
      Job job;
      std::vector<PieceId> ids;
      for (int i = 0; i < 3; ++i) {
        if (random() % 3 == 0) {
          ids.push_back(job.letters(random() % 2 == 0 ? "Hi" : "Sea", {uniform(random, 0, 60), 40}));
          continue;
        }
        Piece p;
        p.content =
            OutlinePiece{std::make_shared<const Outline>(random_blob(random, {uniform(random, 0, 60), 30}, 20, 5)),
                         Finish{{}},
                         {},
                         {}};
        Added added = add_piece(job.document, std::move(p));
        job.document = added.document, ids.push_back(added.id);
      }
      const auto command = static_cast<OutlineCommand>(random() % outline_command_count);
      const auto result = made(job.document, ids, command, {.offset = uniform(random, -3, 3), .radius = 0.5});
      if (!result) // "one part already", "they share nothing"
        continue;
      ++done;
      const std::string wrong = sound(result->document);
      QVERIFY2(wrong.empty(), fmt::format("round {}: {}", round, wrong).c_str());
      for (const PieceId id : result->pieces)
        QVERIFY2(closed_fault(drawn(result->document, id)).empty(), fmt::format("round {}", round).c_str());
      if (result->released.empty())
        continue;
      const auto back = reopen(result->document, result->pieces.at(0));
      QVERIFY2(back.ok(), fmt::format("round {}", round).c_str());
      for (const auto& p : job.document.pieces)
        QVERIFY2(back->document.find(p->id) != nullptr && *back->document.find(p->id) == *p,
                 fmt::format("round {}, command {}, piece {}", round, static_cast<int>(command), p->id).c_str());
    }
    QVERIFY(done > rounds / 2);
  }

  // A ring around a word, a star and a disc at once; each keeps its colour, and the word stays typed.
  void finished_together_they_stay_live() {
    Job job;
    const PieceId word = job.letters("Salty", {130, 105});
    const PieceId star = job.add("M100 60L108 80H128L112 92L118 112L100 100L82 112L88 92L72 80H92Z", "star");
    Added disc = add_piece(job.document, new_circle({250, 90}, 25));
    job.document = edit_piece(disc.document, disc.id, [](Piece& p) {
      p.destination = Destination::Knife, p.colour = {9, 8, 7};
    });
    job.document = edit_piece(job.document, star, [](Piece& p) { p.colour = {200, 0, 0}; });
    QVERIFY(!finish_together(job.document, {word}).ok());
    const auto together = finish_together(job.document, {disc.id, word, star});
    QVERIFY(together.ok());
    const Document d = edit_piece(together->document, together->id, [](Piece& p) {
      p.finish()->steps.emplace_back().what = BorderStep{.rings = {{.distance = 4, .colour = {0, 0, 99}}}};
    });
    QVERIFY2(sound(d).empty(), sound(d).c_str());
    const auto sheet = cut_sheet(d, evaluator());
    QVERIFY2(sheet.ok(), sheet.ok() ? "" : sheet.error().text().c_str());
    std::vector<std::string> layers;
    std::vector<Colour> colours;
    for (const CutPiece& p : sheet->pieces)
      layers.push_back(p.layer), colours.push_back(p.colour);
    QCOMPARE(layers, (std::vector<std::string>{"ring-1", "letters", "letters-2", "letters-3"}));
    QVERIFY(colours[0] == (Colour{0, 0, 99}) && colours[1] == job.document.find(word)->colour);
    QVERIFY(colours[2] == (Colour{200, 0, 0}) && colours[3] == (Colour{9, 8, 7}));
    std::vector<Outline> all{sheet->pieces[1].outline, sheet->pieces[2].outline, sheet->pieces[3].outline};
    const auto truth = geos_buffer(all, 4, 2e-4);
    const double off = boundary_distance(rings_of(sheet->pieces[0].outline, 1e-4), truth);
    QVERIFY2(off < 0.02, fmt::format("{}", off).c_str()); // corners lie where two offset curves cross
    QVERIFY(std::abs(sheet->pieces[0].outline.area() - total_area(truth)) < 0.002 * total_length(truth));
    // Another word: another ring.
    Document typed = d;
    typed = edit_piece(std::move(typed), word, [&](Piece& p) {
      p.lettering()->recipe.letters()->text =
          retyped(p.lettering()->recipe.letters()->text, U"Salty dogs", typed.next_id);
    });
    typed.next_id += 100;
    const auto longer = cut_sheet(typed, evaluator());
    QVERIFY(longer.ok() && longer->pieces[0].outline.area() > 1.2 * sheet->pieces[0].outline.area());
    // Rounded, each keeps its colour.
    const auto round = cut_sheet(edit_piece(d, together->id,
                                            [](Piece& p) {
                                              p.finish()->steps.insert(p.finish()->steps.begin(), FinishStep{});
                                              p.finish()->steps.front().what = RoundStep{.radius = 0.5};
                                            }),
                                 evaluator());
    QVERIFY(round.ok() && round->pieces.size() == 4 && round->pieces[2].colour == (Colour{200, 0, 0}));
    QCOMPARE(corner_count(sheet->pieces[2].outline, 5), std::size_t{10});
    QCOMPARE(corner_count(round->pieces[2].outline, 5), std::size_t{0});
    // A weld makes them one outline of one colour.
    const auto welded =
        cut_sheet(edit_piece(d, together->id, [](Piece& p) { set_weld(*p.finish(), true); }), evaluator());
    QVERIFY(welded.ok() && welded->pieces.size() == 2);
    // Moved as one, then apart: each where it stood, as much further.
    const auto apart = take_apart(move_pieces(d, {together->id}, {10, -5}), together->id);
    QVERIFY2(apart.ok(), apart.ok() ? "" : apart.error().text().c_str());
    QVERIFY2(sound(apart->document).empty(), sound(apart->document).c_str());
    for (const PieceId id : {word, star, disc.id}) {
      const Box was = evaluator().piece(job.document, id, Depth::Finish)->ink,
                now = evaluator().piece(apart->document, id, Depth::Finish)->ink;
      QVERIFY(std::abs(now.x0 - was.x0 - 10) < 1e-6 && std::abs(now.y1 - was.y1 + 5) < 1e-6);
      QVERIFY(apart->document.find(id)->visible);
    }
    const auto still = take_apart(d, together->id);
    QVERIFY(still.ok() && *still->document.find(star) == *job.document.find(star));
    QVERIFY(!take_apart(d, star).ok());
  }

  // Taken apart after a move: a guide that others ride on stays, and so do they.
  void taken_apart_nothing_else_moves() {
    CircleJob on = circle_job("Salty Dog");
    Job job{on.document};
    const PieceId star = job.add("M280 170h40v40h-40Z", "star");
    const auto shared = [&](bool other_rider) {
      Job j = job;
      PieceId rider = 0;
      if (other_rider) {
        Piece p = *j.document.find(on.lettering);
        p.lettering()->recipe.bend.guide.angle = 180;
        renew_letter_ids(p.lettering()->recipe, j.document.next_id);
        Added added = add_piece(j.document, std::move(p));
        j.document = added.document, rider = added.id;
      }
      const auto together = finish_together(j.document, {on.lettering, star});
      const auto apart = take_apart(move_pieces(together->document, {together->id}, {12, 7}), together->id);
      const auto ink = [](const Document& d, PieceId id) { return evaluator().piece(d, id, Depth::Seat)->ink; };
      QVERIFY2(sound(apart->document).empty(), sound(apart->document).c_str());
      for (const PieceId id : {on.lettering, star})
        QVERIFY(std::abs(ink(apart->document, id).x0 - ink(j.document, id).x0 - 12) < 1e-6);
      QCOMPARE(*apart->document.find(on.guide) == *j.document.find(on.guide), other_rider);
      if (rider != 0)
        QVERIFY(std::abs(ink(apart->document, rider).x0 - ink(j.document, rider).x0) < 1e-9);
    };
    shared(false);
    shared(true);
  }

  // A lettering with every sort of step copied into another job, saved and opened there: the same layers.
  void a_finish_goes_along_into_another_job() {
    Job job;
    const PieceId word = job.letters("Salty", {130, 105});
    job.document = edit_piece(job.document, word, [](Piece& p) {
      for (const FinishAction& what :
           {FinishAction{RoundStep{.radius = 0.3, .which = WhichCorners::Outer, .sharper_than = 120}},
            FinishAction{BorderStep{.rings = {{.distance = 2}, {.distance = 4}}, .holes = HoleRule::DropSmall}},
            FinishAction{ShadeStep{.angle = 30, .depth = 5, .apart = true, .gap = 1}}, FinishAction{ThinStep{0.02}},
            FinishAction{MirrorStep{}}})
        p.finish()->steps.emplace_back().what = what;
    });
    Job other;
    other.add("M0 0H5V5H0Z", "there already");
    const Inserted in =
        insert_part(other.document, sub_document(job.document, {word}, CopyGuides::Along), CopyInto::OtherJob, {7, 9});
    QVERIFY2(sound(in.document).empty(), sound(in.document).c_str());
    const Result<Document> back = read_job(write_job(in.document, bundled_faces()));
    const auto layers = [](const Document& d, PieceId id) {
      CutSheet sheet;
      add_cut_layers(sheet, *d.find(id), *evaluator().piece(d, id, Depth::Finish));
      return sheet.pieces;
    };
    const auto was = layers(job.document, word), now = layers(*back, in.ids.at(0));
    QCOMPARE(now.size(), std::size_t{4});
    QCOMPARE(now.size(), was.size());
    for (std::size_t i = 0; i < now.size(); ++i) {
      QCOMPARE(now[i].layer, was[i].layer);
      QVERIFY(now[i].colour == was[i].colour && now[i].outline.node_count() == was[i].outline.node_count());
      QVERIFY(std::abs(now[i].outline.area() - was[i].outline.area()) < 1e-3);
    }
  }

  void snips_outlines_and_guides_but_not_letters() {
    Job job;
    const PieceId box = job.add("M100 100H200V160H100Z", "box"), word = job.letters("Hi", {300, 200});
    Added line = add_piece(job.document, new_guide(LineGuide{{150, 50}, {150, 250}}));
    job.document = line.document;
    const auto work = line_work(job.document, evaluator(), 0);
    QVERIFY(work.ok());
    const auto at = [&](Point p) { return *work->spaces.lines().stretch_at(p); };
    // The box's right half, and the line within it.
    const auto rest = snipped(job.document, *work, {at({200, 130}), at({150, 130})});
    QVERIFY2(rest.ok(), rest.ok() ? "" : rest.error().text().c_str());
    QVERIFY2(sound(*rest).empty(), sound(*rest).c_str());
    QVERIFY(std::abs(drawn(*rest, box).length() - 160) < 1e-6);
    std::size_t guides = 0;
    for (const auto& p : rest->pieces)
      guides += p->guide() != nullptr ? 1 : 0;
    QCOMPARE(guides, std::size_t{2});
    const Box ink = evaluator().piece(job.document, word, Depth::Finish)->ink;
    QVERIFY(!why_not_snip(job.document, *work, at(ink.centre())).empty());
    QVERIFY(!snipped(job.document, *work, {at(ink.centre())}).ok());
    QVERIFY(!snipped(job.document, *work, {at({0, 200})}).ok()); // the sheet's edge
    QVERIFY(!snipped(job.document, *work, {}).ok());
    // All of a piece: it goes.
    const auto alone = job.add("M400 300H420V320H400Z", "alone");
    const auto again = line_work(job.document, evaluator(), 0);
    const auto without = snipped(job.document, *again, {*again->spaces.lines().stretch_at({400, 310})});
    QVERIFY(without.ok() && without->find(alone) == nullptr);
  }

  void spaces_become_one_piece() {
    Job job;
    job.add("M100 100H200V200H100Z", "box");
    for (const double x : {130.0, 170.0})
      job.document = add_piece(job.document, new_guide(LineGuide{{x, 50}, {x, 250}})).document;
    const auto work = line_work(job.document, evaluator(), 0);
    const auto space = [&](double x) { return *work->spaces.at({x, 150}); };
    const auto one = take_space(job.document, {space(110)});
    QVERIFY(one.ok() && std::abs(area(one->document, one->piece) - 3000) < 1e-6);
    const auto two = take_space(one->document, {space(150)}, one->piece);
    QVERIFY(two.ok() && two->piece == one->piece);
    QVERIFY(std::abs(area(two->document, two->piece) - 7000) < 1e-6);
    QCOMPARE(drawn(two->document, two->piece).contours.size(), std::size_t{1});
    QVERIFY2(sound(two->document).empty(), sound(two->document).c_str());
    // Up to the edge of the sheet.
    QVERIFY(std::abs(work->spaces.at({50, 390})->area() - (600.0 * 400 - 10000)) < 1e-6);
    QVERIFY(!take_space(job.document, {}).ok());
  }
};

QTEST_GUILESS_MAIN(TestOutlineCommands)
#include "test_outline_commands.moc"
