// Any edit after any other: a document stays valid, its file reads back equal, it can be evaluated or says why not, and
// what is taken away never moves what stays.
#include "cutting/check.h"
#include "document/arrange.h"
#include "document/blocks.h"
#include "document/copies.h"
#include "document/copying.h"
#include "document/job_file.h"
#include "document/level.h"
#include "document/links.h"
#include "document/marks.h"
#include "document/outline_edits.h"
#include "document/piece_groups.h"
#include "document/release.h"
#include "document/resize.h"
#include "document/starters.h"
#include "document/validity.h"
#include "geom/nodes.h"
#include "lettering/shape_edit.h"
#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QProcessEnvironment>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

// Letters or outlines as they stand, not welded; nothing where they can't be set.
std::optional<Outline> stands(const Document& d, PieceId id) {
  const Result<PieceResult> r = evaluator().piece(d, id, Depth::Seat);
  if (!r)
    return std::nullopt;
  if (r->seated == nullptr)
    return r->outline != nullptr ? std::optional(*r->outline) : std::nullopt;
  Outline all;
  for (const Outline& o : letter_outlines(*r->seated))
    all.append(o);
  return all;
}

double apart(const Outline& a, const Outline& b) {
  if (a.contours.size() != b.contours.size() || a.node_count() != b.node_count())
    return INFINITY;
  double worst = 0;
  for (std::size_t c = 0; c < a.contours.size(); ++c)
    for (std::size_t i = 0; i < a.contours[c].segments.size(); ++i)
      worst = std::max(worst, distance(a.contours[c].segments[i].p3, b.contours[c].segments[i].p3));
  return worst;
}

// Which piece, and the first of its lines in the file that differs once it has been written again.
std::string unequal(const Document& a, const Document& b) {
  for (std::size_t i = 0; i < std::min(a.pieces.size(), b.pieces.size()); ++i)
    if (!(*a.pieces[i] == *b.pieces[i])) {
      const auto text = [](Document d, std::size_t at) {
        d.pieces = {d.pieces[at]};
        return QString::fromStdString(write_job(d, bundled_faces())).split('\n');
      };
      const QStringList x = text(a, i), y = text(b, i);
      for (qsizetype l = 0; l < std::min(x.size(), y.size()); ++l)
        if (x[l] != y[l])
          return "piece " + std::to_string(i) + ": " + (x[l].left(300) + " | " + y[l].left(300)).toStdString();
      return "piece " + std::to_string(i) + " of sort " + std::to_string(a.pieces[i]->content.index());
    }
  return "the document itself: next id " + std::to_string(a.next_id) + " | " + std::to_string(b.next_id);
}

// Makes edits at random; each says what it did and whether it takes something away.
class AnyHand {
public:
  explicit AnyHand(std::uint64_t seed) : random_(seed) {}

  struct Step {
    std::string name;
    Document document;
    bool removes = false;
    bool absurd = false; // may be refused as not valid
  };

  Step next(const Document& d) {
    if (d.pieces.size() > 9)
      return {"remove", remove_pieces(d, {any(d)}).document, true};
    switch (pick(33)) {
    case 0: {
      Document out = d;
      const char32_t* words[]{U"Tide", U"Marigold", U"A\nVe", U"", U"ÅßЖ", U"  "};
      Piece p = new_lettering(out, words[pick(6)], place());
      p.lettering()->recipe.letters()->size = uniform(random_, 5, 40);
      return {"letter", add_piece(std::move(out), std::move(p)).document};
    }
    case 1: {
      const auto shapes = every_guide();
      return {"guide", add_piece(d, new_guide(shapes[pick(shapes.size())].second)).document};
    }
    case 2: {
      Piece p;
      p.content =
          OutlinePiece{std::make_shared<const Outline>(random_blob(random_, place(), 40, 5)), Finish{{}}, {}, {}};
      return {"draw", add_piece(d, std::move(p)).document};
    }
    case 3: {
      const std::vector<PieceId> drawn = of(d, [](const Piece& p) { return p.outline() != nullptr; });
      if (drawn.empty())
        return {"nothing", d};
      OutlineGuide edge{drawn[pick(drawn.size())], 0, {}};
      return {"follow an outline", add_piece(d, new_guide(edge)).document};
    }
    case 4: {
      const std::vector<PieceId> round = of(d, [](const Piece& p) { return circle_of(p).has_value(); });
      if (round.size() < 2)
        return {"circle", add_piece(d, new_circle(place(), uniform(random_, 20, 150))).document};
      return {"midway", add_piece(d, new_guide(MidwayGuide{round[0], round[1], 2})).document};
    }
    case 5:
    case 6:
    case 7: {
      const PieceId word = lettering(d), guide = carrier(d);
      const auto line = guide != 0 ? evaluator().guide(d, guide) : bad_input({});
      if (word == 0 || !line)
        return {"nothing", d};
      return {"ride", edit_piece(d, word, [&](Piece& p) {
                ride_on(*p.lettering(), guide, **line);
                p.lettering()->recipe.bend.guide.fit_height = pick(3) == 0;
                p.lettering()->recipe.bend.stance = static_cast<Stance>(pick(4));
                p.lettering()->recipe.spacing.mode = static_cast<SpacingMode>(pick(4));
              })};
    }
    case 26: {
      const PieceId id = any(d);
      if (d.find(id) == nullptr || d.find(id)->finish() == nullptr)
        return {"nothing", d};
      return {"finish", edit_piece(d, id, [&](Piece& p) {
                std::vector<FinishStep>& steps = p.finish()->steps;
                if (steps.size() > 3)
                  steps.clear();
                steps.push_back(random_step(random_));
              })};
    }
    case 8:
      return {"remove", remove_pieces(d, some(d)).document, true};
    case 9: {
      const Result<Released> r = release(d, lettering(d), evaluator(), static_cast<ReleaseAs>(pick(3)),
                                         pick(2) == 0 ? GuideAfter::Gone : GuideAfter::Kept);
      return r ? Step{"release", r->document, true} : Step{"nothing", d};
    }
    case 10: {
      const std::vector<PieceId> released =
          of(d, [](const Piece& p) { return p.outline() != nullptr && p.outline()->origin != nullptr; });
      const Result<Reopened> r = reopen(d, released.empty() ? any(d) : released[pick(released.size())]);
      return r ? Step{"reopen", r->document, true} : Step{"nothing", d};
    }
    case 11:
      return {"duplicate", duplicate_pieces(d, some(d), {10, 10}).document};
    case 12: {
      const Document part = sub_document(d, some(d), CopyGuides::Along);
      Document other; // through the file, into a job with pieces of its own under the same ids
      for (std::size_t i = 0; i < 3; ++i)
        other = add_piece(std::move(other), new_circle(place(), 30)).document;
      const Result<Document> read = read_job(write_job(part, bundled_faces()));
      if (!read)
        return {"copy that can't be read: " + read.error().text(), {}};
      return {"paste elsewhere", insert_part(other, *read, CopyInto::OtherJob, {5, 5}).document};
    }
    case 13:
      return {"nodes", nodes(d)};
    case 14: {
      const Result<Together> r = begin_warp(d, any(d), pick(2) == 0 ? BendKind::Rails : BendKind::Net, evaluator());
      return r ? Step{"warp", r->document, true} : Step{"nothing", d};
    }
    case 15: {
      const Result<Together> r = bend_together(d, some(d), BendKind::Rails);
      return r ? Step{"together", r->document} : Step{"nothing", d};
    }
    case 16: {
      const PieceId word = lettering(d), shape = carrier(d);
      return word == 0 || shape == 0 ? Step{"nothing", d} : Step{"fill", fill_into(d, word, shape)};
    }
    case 17:
      return {"straighten", straighten(d, some(d), [&](PieceId) { return place(); })};
    case 18: {
      const PieceId word = lettering(d);
      if (word == 0 || d.find(word)->lettering()->recipe.letters() == nullptr)
        return {"nothing", d};
      Document out = d;
      std::uint64_t next = out.next_id;
      const TypedText text = retyped(d.find(word)->lettering()->recipe.letters()->text, U"Slow tide", next);
      out.next_id = next;
      return {"retype",
              edit_piece(std::move(out), word, [&](Piece& p) { p.lettering()->recipe.letters()->text = text; })};
    }
    case 19:
      return {"move", move_pieces(d, some(d), {uniform(random_, -80, 80), uniform(random_, -80, 80)})};
    case 20:
      return {"scale",
              scale_piece(d, any(d), place(), uniform(random_, 0.2, 3),
                          pick(2) == 0 ? GuideScaling::Along : GuideScaling::Kept),
              false, true};
    case 21:
      return {"head", edit_piece(d, any(d), [&](Piece& p) {
                p.visible = pick(3) != 0, p.locked = pick(6) == 0;
                p.destination = static_cast<Destination>(pick(4));
              })};
    case 22:
      return {"number", absurd_number(d), false, true};
    case 23:
      return {"reorder", reorder_piece(d, any(d), pick(12))};
    case 27: {
      const Result<Grouped> r = grouped(d, some(d));
      return r ? Step{"group", r->document} : Step{"nothing", d};
    }
    case 28: {
      const Result<Document> r = ungrouped(d, some(d));
      return r ? Step{"ungroup", *r} : Step{"nothing", d};
    }
    case 29:
      return {"put into a group", put_into(d, some(d), d.groups.empty() ? 0 : d.groups[pick(d.groups.size())].id)};
    case 30: {
      Document out = d;
      out.marks.push_back(mark_of(d, {place(), place()}, evaluator()));
      out.ruler_lines.push_back({place(), uniform(random_, -180, 180), pick(2) == 0});
      return {"mark", out};
    }
    case 31:
      if (pick(2) == 0) {
        const CopyOrder order = StepCopies{1 + pick(2), {uniform(random_, -80, 80), 20}, uniform(random_, -90, 90)};
        const Result<Copied> made = copied(d, {any(d)}, order, evaluator(), CopyAs::Linked);
        return {"linked copies", made && made->document.pieces.size() < 60 ? made->document : d};
      }
      return {"stack", stacked(d, some(d), static_cast<Stacking>(pick(4)))};
    case 24: {
      const Result<Document> r = pick(2) == 0 ? leveled(d, lettering(d), evaluator())
                                              : cured(d, any(d), static_cast<Cure>(pick(9)), evaluator());
      return {"level or cure", r.value_or(d), false, true};
    }
    default: {
      if (pick(2) == 0) {
        const Result<Starter> s = add_badge(
            d, {U"ON", U"OFF", place(), uniform(random_, 20, 60), uniform(random_, 50, 90), {"Lato", "Bold"}});
        return s ? Step{"badge", s->document} : Step{"nothing", d};
      }
      Document out = d;
      const PieceId word = lettering(d);
      if (word != 0)
        for (const char kind : {'r', 'f', 'b'})
          out = edit_piece(std::move(out), word, [&](Piece& p) {
            Bend& b = p.lettering()->recipe.bend;
            if (kind == 'r')
              b.kind = static_cast<BendKind>(pick(5));
            if (kind == 'f')
              b.net.base = static_cast<BendKind>(pick(4));
          });
      return {"bend kind", out};
    }
    }
  }

private:
  std::size_t pick(std::size_t n) { return static_cast<std::size_t>(random_() % n); }
  Point place() { return {uniform(random_, 0, 600), uniform(random_, 0, 400)}; }
  template <class Want> std::vector<PieceId> of(const Document& d, const Want& want) {
    std::vector<PieceId> out;
    for (const auto& p : d.pieces)
      if (want(*p))
        out.push_back(p->id);
    return out;
  }
  PieceId any(const Document& d) { return d.pieces.empty() ? 0 : d.pieces[pick(d.pieces.size())]->id; }
  std::vector<PieceId> some(const Document& d) {
    std::vector<PieceId> out;
    for (const auto& p : d.pieces)
      if (pick(3) == 0)
        out.push_back(p->id);
    return out;
  }
  PieceId lettering(const Document& d) {
    const auto all = of(d, [](const Piece& p) { return p.lettering() != nullptr; });
    return all.empty() ? 0 : all[pick(all.size())];
  }
  PieceId carrier(const Document& d) {
    const auto all = of(d, [](const Piece& p) { return p.lettering() == nullptr; });
    return all.empty() ? 0 : all[pick(all.size())];
  }
  Document nodes(const Document& d) {
    const std::size_t how = pick(7);
    const Vec by{uniform(random_, -30, 30), uniform(random_, -30, 30)};
    return edit_nodes(d, carrier(d), [&](Outline o) -> Outline {
      if (o.empty())
        return o;
      const std::size_t c = pick(o.contours.size()), n = pick(node_count(o.contours[c]));
      switch (how) {
      case 0:
        return break_at(std::move(o), {c, n});
      case 1:
        return close_contour(std::move(o), c);
      case 2:
        return delete_nodes(std::move(o), {{c, n}});
      case 3:
        return reverse_contour(std::move(o), c);
      case 4:
        return set_start(std::move(o), {c, n});
      case 5: { // one end onto the other
        const std::size_t last = node_count(o.contours[c]) - 1;
        const Vec to = node_point(o.contours[c], 0) - node_point(o.contours[c], last);
        return join_ends(move_nodes(std::move(o), {{c, last}}, to), {c, last}, {c, 0});
      }
      default:
        return move_nodes(std::move(o), {{c, n}}, by);
      }
    });
  }
  Document absurd_number(const Document& d) {
    const double values[]{0, -1, 1e-9, 1e300, NAN, INFINITY, 12};
    const double v = values[pick(7)];
    return edit_piece(d, any(d), [&](Piece& p) {
      if (Guide* g = p.guide()) {
        const auto measures = shape_measures(g->shape);
        if (!measures.empty())
          g->shape = with_measure(g->shape, pick(measures.size()), v);
      }
      if (Lettering* l = p.lettering()) {
        Bend& b = l->recipe.bend;
        double* const numbers[]{&b.offset,
                                &b.arc.value,
                                &b.guide.percent,
                                &l->placement.at.x,
                                &l->recipe.spacing.letter,
                                &b.rails.top.first.depth,
                                &b.rails.taper_across};
        *numbers[pick(7)] = v;
        if (l->recipe.letters() != nullptr && pick(3) == 0)
          l->recipe.letters()->size = v;
      }
    });
  }

  std::mt19937_64 random_;
};

// What may be said of a lettering that can't be set; anything else is a fault.
bool known_reason(const Error& e) {
  for (const char* words :
       {"choose", "too", "bend", "there is nothing", "no room", "fold", "circles", "not lie", "must be", "can't",
        "empty", "turn back", "itself", "steep", "shape to fill", "closed", "between", "move or shrink it"})
    if (e.message().find(words) != std::string::npos)
      return true;
  return false;
}

} // namespace

class TestAnyEdit : public QObject {
  Q_OBJECT

private slots:
  void documents_stay_valid_and_files_read_back_equal() {
    const int asked = qEnvironmentVariableIntValue("FRELM_EDIT_STEPS");
    const int steps = asked > 0 ? asked : sanitized ? 600 : 4000, at_once = 80;
    int refused = 0, compared = 0;
    std::map<std::string, int> done;
    std::string message;
    for (int run = 0; run < steps / at_once; ++run) {
      const std::uint64_t seed = 20261127 + static_cast<std::uint64_t>(run);
      AnyHand hand(seed);
      Document d;
      std::string list;
      for (int i = 0; i < at_once; ++i) {
        AnyHand::Step step = hand.next(d);
        step.document = followed_links(d, std::move(step.document)); // as the session does
        list += " " + step.name;
        const auto told = [&](const std::string& what) {
          message = "seed " + std::to_string(seed) + " step " + std::to_string(i) + ": " + what + "; after" + list;
          return message.c_str();
        };
        const std::vector<Fault> bad = faults(step.document);
        if (step.absurd && !bad.empty()) { // as the session does
          ++refused;
          list += " (refused)";
          continue;
        }
        QVERIFY2(bad.empty(), told(bad.empty() ? "" : describe(step.document, bad)));
        QVERIFY2(faults(step.document, &d).empty(), told("found only when all is looked at"));
        const Result<Document> back = read_job(write_job(step.document, bundled_faces()));
        QVERIFY2(back.ok(), told(back.ok() ? "" : back.error().text()));
        QVERIFY2(*back == step.document, told("read back unequal: " + unequal(*back, step.document)));
        if (step.removes)
          for (const auto& p : d.pieces) {
            const Piece* now = step.document.find(p->id);
            if (now == nullptr || now->lettering() == nullptr || p->lettering() == nullptr ||
                now->lettering()->placement != p->lettering()->placement)
              continue; // gone, or what the step was about
            const auto before = stands(d, p->id), after = stands(step.document, p->id);
            if (before && step.name != "warp") {
              QVERIFY2(after.has_value(), told("can't be set any more"));
              QVERIFY2(apart(*before, *after) <= 1e-9, told("moved by " + std::to_string(apart(*before, *after))));
              ++compared;
            }
          }
        for (const auto& p : step.document.pieces)
          if (d.find(p->id) != p.get()) { // changed
            const Result<PieceResult> r = evaluator().piece(step.document, p->id, Depth::Seat);
            QVERIFY2(r.ok() || known_reason(r.error()), told(r.ok() ? "" : r.error().text()));
          }
        ++done[step.name];
        d = std::move(step.document);
      }
    }
    QVERIFY(compared > steps / 100);
    for (const char* name : {"ride", "release", "reopen", "together", "midway", "fill", "paste elsewhere", "nodes"})
      QVERIFY2(done[name] > steps / 2000, name);
    qInfo("%d steps, %d refused, %d letterings compared after a removal", steps, refused, compared);
  }
};

QTEST_APPLESS_MAIN(TestAnyEdit)
#include "test_any_edit.moc"
