// Warped blocks in documents: edits, guides that go and come back, files, release and reopening, the Cut check.
#include "cutting/check.h"
#include "document/arrange.h"
#include "document/blocks.h"
#include "document/copying.h"
#include "document/job_file.h"
#include "document/release.h"
#include "document/resize.h"
#include "lettering/block_edit.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Job {
  Document document;
  PieceId word = 0, top = 0, bottom = 0, shape = 0;
};

// A word, two open guides over one another, and a closed one.
Job job(const std::string& text = "WAKE") {
  Job j;
  const auto guide = [&](GuideShape shape) {
    Added a = add_piece(std::move(j.document), new_guide(std::move(shape)));
    j.document = std::move(a.document);
    return a.id;
  };
  j.top = guide(ArcGuide{{300, 500}, 350, -25, 50});
  j.bottom = guide(LineGuide{{150, 260}, {450, 260}});
  j.shape = guide(FrameGuide{{300, 200}, 240, 90, 0, 0});
  Piece piece = new_lettering(j.document, from_utf8(text), {300, 200});
  piece.lettering()->recipe.letters()->face = {"Bebas Neue", "Regular"};
  piece.lettering()->recipe.letters()->size = 50;
  Added a = add_piece(std::move(j.document), std::move(piece));
  j.document = std::move(a.document);
  j.word = a.id;
  return j;
}
Document with_bend(const Document& d, PieceId id, const std::function<void(Bend&)>& change) {
  return edit_piece(d, id, [&](Piece& p) { change(p.lettering()->recipe.bend); });
}
Document between_guides(const Job& j) {
  return with_bend(j.document, j.word, [&](Bend& b) {
    b.kind = BendKind::Rails;
    b.rails.link = EdgeLink::Free;
    b.rails.top.first.kind = b.rails.bottom.first.kind = ProfileKind::Guide;
    b.rails.top.guide = j.top, b.rails.bottom.guide = j.bottom;
  });
}
Document net_over_arch(const Job& j) {
  return with_bend(j.document, j.word, [&](Bend& b) {
    b.kind = BendKind::Net;
    b.net.base = BendKind::Rails;
    b.net.net = pulled(flat_net(3, 2), {{1, {3, -12}}, {6, {-2, 4}}});
    b.net.mirror = true;
  });
}
Outline cut(const Document& d, PieceId id) {
  const auto r = evaluator().piece(d, id, Depth::Finish);
  if (!r)
    qFatal("%s", r.error().text().c_str());
  return *r->outline;
}
Box ink(const Document& d, PieceId id) {
  return cut(d, id).bounds();
}
double apart(const Outline& a, const Outline& b) {
  return boundary_distance(rings_of(a, 1e-3), rings_of(b, 1e-3));
}
const Finding* finding(const CheckReport& report, FindingKind kind) {
  for (const Finding& f : report.findings)
    if (f.kind == kind)
      return &f;
  return nullptr;
}

} // namespace

class TestWarps : public QObject {
  Q_OBJECT

private slots:
  void moving_and_scaling_take_the_warp_along_data() {
    QTest::addColumn<int>("which");
    QTest::newRow("arch") << 0;
    QTest::newRow("arch by mm, turned") << 1;
    QTest::newRow("net over an arch") << 2;
    QTest::newRow("between guides") << 3;
    QTest::newRow("filled shape") << 4;
    QTest::newRow("an outline") << 5;
    QTest::newRow("two pieces together") << 6;
  }
  void moving_and_scaling_take_the_warp_along() {
    QFETCH(int, which);
    Job j = job();
    Document d = which == 2   ? net_over_arch(j)
                 : which == 3 ? between_guides(j)
                 : which == 4 ? fill_into(j.document, j.word, j.shape)
                              : with_bend(j.document, j.word, [](Bend& b) { b.kind = BendKind::Rails; });
    PieceId id = j.word;
    if (which == 1)
      d = edit_piece(d, id, [](Piece& p) {
        p.lettering()->placement.angle = 20;
        p.lettering()->recipe.bend.rails.depth_in = DepthIn::Millimetre;
        p.lettering()->recipe.bend.rails.top.first.depth = 25;
      });
    if (which == 5) {
      const auto released = release(j.document, id, evaluator(), ReleaseAs::OnePiece, GuideAfter::Kept);
      Document drawn =
          edit_piece(released->document, released->pieces[0], [](Piece& p) { p.outline()->origin = nullptr; });
      const auto begun = begin_warp(drawn, released->pieces[0], BendKind::Rails, evaluator());
      d = begun->document, id = begun->id;
    }
    if (which == 6) {
      const Inserted twice = duplicate_pieces(j.document, {j.word}, {0, 60});
      const auto together = bend_together(twice.document, {j.word, twice.ids[0]}, BendKind::Rails);
      QVERIFY(together.ok());
      d = together->document, id = together->id;
    }
    const Outline was = cut(d, id);
    const Outline moved = cut(move_pieces(d, {id}, {17, -9}), id);
    QVERIFY2(apart(moved, was.transformed(Affine::translation({17, -9}))) < 1e-6, qPrintable(QString::number(which)));
    const Document scaled = scale_piece(d, id, {40, 30}, 1.5, GuideScaling::Along);
    const double off = apart(cut(scaled, id), was.transformed(Affine::scaling_about({40, 30}, 1.5, 1.5)));
    QVERIFY2(off < 0.012, qPrintable(QString::number(off))); // both fitted within 0.005
  }

  void a_typed_size_is_met_exactly() {
    const Job j = job();
    const DocumentEvaluator sketching(bundled_faces(), 120, DocumentEvaluator::Warps::Sketched); // as in the window
    for (const Document& d : {net_over_arch(j), between_guides(j)})
      for (const InkSide side : {InkSide::Width, InkSide::Height}) {
        const auto sized = with_ink_size(d, j.word, side, 234.5, GuideScaling::Along, sketching);
        QVERIFY(sized.ok());
        const Box now = ink(*sized, j.word);
        QVERIFY(std::abs((side == InkSide::Width ? now.width() : now.height()) - 234.5) < 0.01);
      }
  }

  void a_copied_block_has_sources_of_its_own() {
    const Job j = job();
    const Inserted twice = duplicate_pieces(j.document, {j.word}, {0, 60});
    const auto together = bend_together(twice.document, {j.word, twice.ids[0]}, BendKind::Rails);
    const std::vector<PieceId> sources = sources_of(together->document, together->id);
    QCOMPARE(sources.size(), std::size_t{2});
    const Inserted copy = duplicate_pieces(together->document, {sources[0], sources[1], together->id}, {20, 30});
    QCOMPARE(sources_of(copy.document, copy.ids[2]), (std::vector<PieceId>{copy.ids[0], copy.ids[1]}));
    const Outline was = cut(together->document, together->id);
    QVERIFY(apart(cut(copy.document, copy.ids[2]), was.transformed(Affine::translation({20, 30}))) < 1e-6);
  }
  void edits_that_fold_or_cannot_be_set_are_refused_data() {
    QTest::addColumn<int>("which");
    QTest::addColumn<QString>("says");
    QTest::newRow("folds") << 0 << "fold over";
    QTest::newRow("too deep an arch") << 1 << "half its width";
    QTest::newRow("good") << 2 << "";
  }
  void edits_that_fold_or_cannot_be_set_are_refused() {
    QFETCH(int, which);
    QFETCH(QString, says);
    const Job j = job();
    const Document before = with_bend(j.document, j.word, [](Bend& b) { b.kind = BendKind::Rails; });
    const Document after = with_bend(before, j.word, [&](Bend& b) {
      b.rails.top.first.depth = which == 1 ? 900 : 20;
      if (which == 0) {
        b.rails.link = EdgeLink::Free;
        b.rails.top.first = {ProfileKind::Dip, 90, 1, 0};
        b.rails.bottom.first = {ProfileKind::Arch, 90, 1, 0};
      }
    });
    const auto fault = warp_refusal(before, after, j.word, evaluator());
    QCOMPARE(fault.has_value(), !says.isEmpty());
    if (fault)
      QVERIFY2(QString::fromStdString(fault->text()).contains(says), fault->text().c_str());
    QVERIFY(!warp_refusal(after, after, j.word, evaluator())); // what was so before is not refused again
  }
  void linked_edges_set_free_stay_as_they_stand() {
    const Job j = job();
    for (const RailProfile& p : {RailProfile{ProfileKind::Arch, 40, 1, 0}, RailProfile{ProfileKind::Wave, 12, 2, 30}}) {
      const Document linked = with_bend(j.document, j.word, [&](Bend& b) {
        b.kind = BendKind::Rails;
        b.rails.top.first = p;
        b.rails.link = EdgeLink::Mirrored;
      });
      const Document free = with_bend(linked, j.word, [](Bend& b) { b.rails = with_link(b.rails, EdgeLink::Free); });
      QVERIFY(apart(cut(linked, j.word), cut(free, j.word)) < 0.011);
      const double height = evaluator().piece(linked, j.word, Depth::Seat)->bent->made.block.height();
      const Document mm =
          with_bend(linked, j.word, [&](Bend& b) { b.rails = with_depth_in(b.rails, DepthIn::Millimetre, height); });
      QVERIFY(apart(cut(linked, j.word), cut(mm, j.word)) < 0.011);
    }
  }

  void guides_that_go_leave_their_shape() {
    const Job j = job();
    for (const bool fill : {false, true}) {
      const Document d = fill ? fill_into(j.document, j.word, j.shape) : between_guides(j);
      const Outline was = cut(d, j.word);
      const Removed removed = remove_pieces(d, fill ? std::vector{j.shape} : std::vector{j.top, j.bottom});
      QCOMPARE(removed.riders, std::vector<PieceId>{j.word});
      QVERIFY(apart(cut(removed.document, j.word), was) < 1e-3);
      Document back = removed.document;
      for (const Piece& guide : removed.guides)
        back = bring_back_guide(std::move(back), guide);
      for (const GuideRef* ref : back.find(j.word)->lettering()->recipe.bend.followed())
        QVERIFY(!ref->own);
      QVERIFY(apart(cut(back, j.word), was) < 1e-9);
    }
  }

  void a_release_takes_both_guides_and_reopening_brings_them_back() {
    const Job j = job();
    const Document d = between_guides(j);
    const auto released = release(d, j.word, evaluator(), ReleaseAs::OnePiece, GuideAfter::Gone);
    QVERIFY(released->guide_removed);
    QVERIFY(released->document.find(j.top) == nullptr && released->document.find(j.bottom) == nullptr);
    QVERIFY(released->document.find(j.shape) != nullptr);
    const auto file = read_job(write_job(released->document, bundled_faces()));
    QVERIFY(file.ok());
    const auto back = reopen(*file, released->pieces[0]);
    for (const PieceId id : {j.word, j.top, j.bottom})
      QVERIFY(*back->document.find(id) == *d.find(id));
    QVERIFY(apart(cut(back->document, j.word), cut(d, j.word)) < 1e-9);
  }

  void warps_are_read_back_from_a_job_file() {
    Job j = job("SALTMARSH\nWORKS");
    Document d = net_over_arch(j);
    d = edit_piece(d, j.word, [&](Piece& p) {
      Lettering& l = *p.lettering();
      l.line_colours = {{1, 2, 3}, {200, 100, 50}};
      RailsBend& r = l.recipe.bend.rails;
      r.top.plus = {ProfileKind::Wave, 7, 2.5, 40};
      r.bottom.own = GuideShape(LineGuide{{1, 2}, {3, 4}});
      r.link = EdgeLink::Mirrored, r.depth_in = DepthIn::Millimetre, r.verticals = Verticals::Follow;
      r.taper_along = 12, r.taper_across = -30;
      r.fill.corners = {0.1, 0.3, 0.6, 0.9}, r.fill.height = FillHeight::Natural, r.fill.guide = j.shape,
      r.fill.margin = 2.5, r.fill.style = FillStyle::Upright, r.fill.upright = {{0.25, 0.75}, 0.3};
      l.recipe.bend.least_stroke = 1.7;
    });
    const auto read = read_job(write_job(d, bundled_faces()));
    QVERIFY2(read.ok(), read.ok() ? "" : read.error().text().c_str());
    QVERIFY(*read->find(j.word) == *d.find(j.word));
  }
  void damaged_warps_are_refused_with_their_place_data() {
    QTest::addColumn<QString>("from");
    QTest::addColumn<QString>("to");
    QTest::newRow("profile") << "\"profile\": \"arch\""
                             << "\"profile\": \"swirl\"";
    QTest::newRow("periods") << "\"periods\": 1.0"
                             << "\"periods\": 0";
    QTest::newRow("base") << "\"base\": \"rails\""
                          << "\"base\": \"net\"";
    QTest::newRow("mirror") << "\"mirror\": true"
                            << "\"mirror\": 3";
  }
  void damaged_warps_are_refused_with_their_place() {
    QFETCH(QString, from);
    QFETCH(QString, to);
    const Job j = job();
    QString text = QString::fromStdString(write_job(net_over_arch(j), bundled_faces()));
    const qsizetype at = text.indexOf(from);
    QVERIFY(at > 0);
    text.replace(at, from.size(), to);
    const auto read = read_job(text.toStdString());
    QVERIFY(!read.ok());
    QVERIFY2(QString::fromStdString(read.error().where()).contains("bend"), read.error().text().c_str());
  }

  void lines_are_released_in_their_colours() {
    Job j = job("SALT\nMARSH\nYARD");
    Document d = with_bend(j.document, j.word, [](Bend& b) {
      b.kind = BendKind::Rails;
      b.rails.top.first = b.rails.bottom.first = {ProfileKind::Arch, 10, 1, 0};
    });
    d = edit_piece(d, j.word, [](Piece& p) { p.lettering()->line_colours = {{9, 9, 9}, {200, 0, 0}}; });
    const auto released = release(d, j.word, evaluator(), ReleaseAs::ByLine, GuideAfter::Gone);
    QCOMPARE(released->pieces.size(), std::size_t{3});
    const auto colour = [&](std::size_t i) { return released->document.find(released->pieces[i])->colour; };
    QVERIFY((colour(0) == Colour{9, 9, 9}) && (colour(1) == Colour{200, 0, 0}) && colour(2) == Colour{});
    Outline all;
    for (const PieceId id : released->pieces)
      all.append(*released->document.find(id)->outline()->outline);
    QVERIFY(apart(all, cut(d, j.word)) < 1e-6);
  }

  void a_warp_begins_where_the_letters_stand() {
    Job j = job();
    const Box straight = ink(j.document, j.word);
    const auto rails = begin_warp(j.document, j.word, BendKind::Rails, evaluator());
    QCOMPARE(rails->id, j.word);
    QVERIFY(std::abs(ink(rails->document, j.word).centre().x - straight.centre().x) < 0.01);
    // A net over an arc or a guide changes nothing.
    for (const BendKind kind : {BendKind::Arc, BendKind::Guide}) {
      const Document bent = with_bend(j.document, j.word, [&](Bend& b) {
        b.kind = kind;
        b.guide.guide = j.top, b.guide.by = AlongBy::Percent;
      });
      const auto net = begin_warp(bent, j.word, BendKind::Net, evaluator());
      QVERIFY(apart(cut(bent, j.word), cut(net->document, j.word)) < 0.001);
    }
    QVERIFY(!begin_warp(j.document, j.top, BendKind::Rails, evaluator()).ok());
    const Document locked = edit_piece(j.document, j.word, [](Piece& p) { p.locked = true; });
    QVERIFY(QString::fromStdString(begin_warp(locked, j.word, BendKind::Rails, evaluator()).error().text())
                .contains("unlock"));
    // A released outline stays as a hidden source and can still be reopened.
    const auto released = release(j.document, j.word, evaluator(), ReleaseAs::OnePiece, GuideAfter::Kept);
    const auto again = begin_warp(released->document, released->pieces[0], BendKind::Rails, evaluator());
    QVERIFY(again->id != released->pieces[0]);
    QVERIFY(!again->document.find(released->pieces[0])->visible);
    QVERIFY(reopen(again->document, released->pieces[0]).ok());
    QVERIFY(!bend_together(j.document, {j.word, j.top}, BendKind::Rails).ok());
  }

  void folds_and_thin_strokes_are_found() {
    const Job j = job();
    const Document gentle = with_bend(j.document, j.word, [](Bend& b) { b.kind = BendKind::Rails; });
    QVERIFY(finding(check(gentle, evaluator()), FindingKind::FoldsOver) == nullptr);
    QVERIFY(finding(check(gentle, evaluator()), FindingKind::BentTooFar) == nullptr);
    const Document folded = with_bend(j.document, j.word, [](Bend& b) {
      b.kind = BendKind::Net;
      b.net.net = pulled(flat_net(2, 1), {{1, {0, 120}}});
    });
    const CheckReport report = check(folded, evaluator());
    const Finding* fold = finding(report, FindingKind::FoldsOver);
    QVERIFY(fold != nullptr && fold->weight == Weight::MustFix && fold->where.width() > 0);
    // Pressed to a tenth at one end, its bars are thinner than can be cut; where, is told.
    const Job bars = job("EEELS");
    const Document pressed = with_bend(bars.document, bars.word, [](Bend& b) {
      b.kind = BendKind::Rails;
      b.rails.top = b.rails.bottom = {};
      b.rails.taper_along = 88;
    });
    const CheckReport thin = check(pressed, evaluator());
    const Finding* far = finding(thin, FindingKind::BentTooFar);
    QVERIFY(far != nullptr && far->weight == Weight::Look);
    QVERIFY(far->where.centre().x < ink(pressed, bars.word).centre().x);
    const Document unasked = with_bend(pressed, bars.word, [](Bend& b) { b.least_stroke = 0; });
    QVERIFY(finding(check(unasked, evaluator()), FindingKind::BentTooFar) == nullptr);
  }

  void gaps_read_the_same_under_every_bend_that_keeps_them() {
    const Job j = job("SLOW WAKE");
    const auto gaps = [](const Document& d, PieceId id) {
      return measure_gaps(*evaluator().piece(d, id, Depth::Seat)->seated);
    };
    // Evened between rails: even.
    const Document evened = edit_piece(between_guides(j), j.word,
                                       [](Piece& p) { p.lettering()->recipe.spacing.mode = SpacingMode::EvenGaps; });
    std::size_t even = 0;
    for (const Gap& g : gaps(evened, j.word))
      if (!g.word_space) {
        QVERIFY2(g.look == GapLook::Even,
                 qPrintable(QString("%1 %2 %3 %4").arg(g.left).arg(g.right).arg(g.optical).arg(g.target)));
        ++even;
      }
    QVERIFY(even >= 6);
    // A net moved as a whole changes nothing, however the letters stand under it.
    for (const Stance stance : {Stance::Turn, Stance::Stand, Stance::Lean, Stance::Flow}) {
      const auto moved = [&](Vec by) {
        return with_bend(j.document, j.word, [&](Bend& b) {
          b.kind = BendKind::Net, b.net.base = BendKind::Guide, b.guide.guide = j.top, b.stance = stance;
          b.guide.by = AlongBy::Percent;
          b.net.net = flat_net(2, 1);
          for (NetPeg& p : b.net.net.pegs)
            p.at = by;
        });
      };
      const std::vector<Gap> still = gaps(moved({0, 0}), j.word), away = gaps(moved({60, 25}), j.word);
      QCOMPARE(still.size(), away.size());
      for (std::size_t i = 0; i < still.size(); ++i) {
        QVERIFY2(std::abs(still[i].optical - away[i].optical) < 0.01 &&
                     std::abs(still[i].target - away[i].target) < 0.01,
                 qPrintable(QString("%1: %2 | %3").arg(int(stance)).arg(still[i].optical).arg(away[i].optical)));
        QVERIFY(std::abs(still[i].closest.distance - away[i].closest.distance) < 0.01);
      }
    }
    // Set downwards there is the closest distance and no more.
    const Document down =
        edit_piece(j.document, j.word, [](Piece& p) { p.lettering()->recipe.letters()->downwards = true; });
    for (const Gap& g : gaps(down, j.word))
      QVERIFY(!g.measured && g.closest.distance >= 0);
  }

  void a_depth_handle_moves_as_far_as_the_hand_beside_a_guide() {
    for (const LineGuide& line : {LineGuide{{150, 260}, {450, 260}}, LineGuide{{150, 300}, {430, 180}}}) {
      Job j = job();
      j.document = edit_piece(j.document, j.bottom, [&](Piece& p) { p.guide()->shape = line; });
      const Document d = with_bend(j.document, j.word, [&](Bend& b) {
        b.kind = BendKind::Rails, b.rails.link = EdgeLink::Free;
        b.rails.bottom.first.kind = ProfileKind::Guide, b.rails.bottom.guide = j.bottom;
        b.rails.top.first = {ProfileKind::Arch, 20, 1, 0};
        b.rails.verticals = Verticals::Follow;
      });
      const auto handle = [&](const Document& at) {
        const Bend& b = at.find(j.word)->lettering()->recipe.bend;
        for (const BlockHandle& h : block_handles(b, evaluator().piece(at, j.word, Depth::Seat)->bent->made, {}))
          if (h.kind == BlockHandleKind::Depth && !h.bottom)
            return h;
        return BlockHandle{};
      };
      const BlockHandle h = handle(d);
      const Vec up = up_of(unit(line.to - line.from)) * 6;
      const BlockMap made = evaluator().piece(d, j.word, Depth::Seat)->bent->made;
      const Document pulled = with_bend(d, j.word, [&](Bend& b) {
        b = with_block_handle(b, made, d.find(j.word)->lettering()->placement, h, {h.at, h.at + up, false, {}});
      });
      QVERIFY2(distance(handle(pulled).at, h.at + up) < 0.3, qPrintable(QString("%1 %2, wanted %3 %4")
                                                                            .arg(handle(pulled).at.x - h.at.x)
                                                                            .arg(handle(pulled).at.y - h.at.y)
                                                                            .arg(up.x)
                                                                            .arg(up.y)));
    }
  }

  void what_cannot_be_bent_is_told() {
    const Job j = job();
    const Document open = fill_into(j.document, j.word, j.bottom);
    const CheckReport report = check(open, evaluator());
    const Finding* f = finding(report, FindingKind::CannotBeSet);
    QVERIFY(f != nullptr && QString::fromStdString(english(f->detail)).contains("open"));
    // A block made from itself, or from a piece that is gone.
    const Inserted twice = duplicate_pieces(j.document, {j.word}, {0, 60});
    const auto together = bend_together(twice.document, {j.word, twice.ids[0]}, BendKind::Rails);
    const Document cycle = edit_piece(together->document, together->id,
                                      [&](Piece& p) { p.lettering()->recipe.source = PiecesSource{{together->id}}; });
    QVERIFY(!evaluator().piece(cycle, together->id, Depth::Finish).ok());
    Document gone = together->document;
    std::erase_if(gone.pieces, [&](const auto& p) { return p->id == j.word; });
    QVERIFY(!evaluator().piece(gone, together->id, Depth::Finish).ok());
  }
};

QTEST_APPLESS_MAIN(TestWarps)
#include "test_warps.moc"
