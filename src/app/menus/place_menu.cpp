#include "app/menus/place_menu.h"

#include "document/arrange.h"
#include "document/copies.h"

namespace frelm {
namespace {

using Make = std::function<Result<Document>(const Document&, const std::vector<PieceId>&, const PlaceChoice&,
                                            const DocumentEvaluator&)>;

using MakeSlowly = std::function<Result<Document>(const Document&, const std::vector<PieceId>&, const PlaceChoice&,
                                                  const DocumentEvaluator&, const std::stop_token&)>;

void place_beside_the_window(Desk& desk, const QString& step, const MakeSlowly& make) {
  desk.start_step(
      Desk::tr("Placing"), step,
      [make, document = desk.session.document(), ids = desk.session.selection(), choice = desk.session.place_choice(),
       &evaluator = desk.session.evaluator()](const std::stop_token& stop) {
        return make(document, ids, choice, evaluator, stop);
      },
      Desk::tr("The job was changed meanwhile, so nothing was placed; try again"));
}

// At once where all that is selected stands as it will.
void place(Desk& desk, const QString& step, const Make& make) {
  const std::vector<PieceId>& ids = desk.session.selection();
  const auto waits = [&](PieceId id) {
    const Result<PieceResult>& now = desk.session.seated(id);
    return now && now->provisional();
  };
  if (std::any_of(ids.begin(), ids.end(), waits)) {
    place_beside_the_window(desk, step,
                            [make](const Document& d, const std::vector<PieceId>& all, const PlaceChoice& choice,
                                   const DocumentEvaluator& evaluator,
                                   const std::stop_token&) { return make(d, all, choice, evaluator); });
    return;
  }
  const Result<Document> made =
      make(desk.session.document(), ids, desk.session.place_choice(), desk.session.evaluator());
  if (made)
    desk.session.apply(step, *made);
  else
    desk.report(made.error());
}

// Two pieces or more; with the sheet as what stays, one.
QString needs_several(const Desk& desk) {
  const std::size_t n = desk.session.selection().size();
  if (n >= 2 || (n == 1 && desk.session.place_choice().to == PlaceTo::Sheet))
    return {};
  return n == 1 ? Desk::tr("Select another piece too, the one that stays last") : Desk::tr("Select two pieces or more");
}

} // namespace

void fill_place_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto add = [&](const char* id, const QString& words, const QString& short_words, const char* key, Make make,
                       std::function<QString()> why_not) {
    Command command{.id = id, .words = words, .run = {}, .why_not = std::move(why_not)};
    command.short_words = short_words;
    if (*key != '\0')
      command.keys = {QKeySequence(key)};
    command.run = [&desk, words, make = std::move(make)] { place(desk, QString(words).remove('&'), make); };
    commands.add(menu, std::move(command));
  };
  const auto several = [&desk] { return needs_several(desk); };
  const auto line_up = [&](const char* id, const QString& words, const QString& short_words, LineUp side) {
    add(
        id, words, short_words, "",
        [side](const Document& d, const std::vector<PieceId>& ids, const PlaceChoice& choice,
               const DocumentEvaluator& evaluator) { return lined_up(d, ids, side, choice, evaluator); },
        several);
  };
  line_up("arrange.line-up.left", Desk::tr("Line up &left edges"), Desk::tr("Left"), LineUp::Left);
  line_up("arrange.line-up.middle", Desk::tr("Line up &middles across"), Desk::tr("Middle"), LineUp::Middle);
  line_up("arrange.line-up.right", Desk::tr("Line up &right edges"), Desk::tr("Right"), LineUp::Right);
  line_up("arrange.line-up.top", Desk::tr("Line up &upper edges"), Desk::tr("Top"), LineUp::Top);
  line_up("arrange.line-up.centre", Desk::tr("Line up middles up and &down"), Desk::tr("Centre"), LineUp::Centre);
  line_up("arrange.line-up.bottom", Desk::tr("Line up &lower edges"), Desk::tr("Bottom"), LineUp::Bottom);
  menu->addSeparator();
  add("arrange.centre-on", Desk::tr("&Centre on what stays"), Desk::tr("Centre on it"), "M", &centred, several);
  const auto apart = [&desk]() -> QString {
    const bool sheet = desk.session.place_choice().to == PlaceTo::Sheet;
    return desk.session.selection().size() >= (sheet ? 1U : 3U) ? QString() : Desk::tr("Select three pieces or more");
  };
  add(
      "arrange.spread-across", Desk::tr("Spread &across, gaps alike"), Desk::tr("Across"), "",
      [](const Document& d, const std::vector<PieceId>& ids, const PlaceChoice& choice,
         const DocumentEvaluator& evaluator) { return spread(d, ids, Spread::Across, choice, evaluator); },
      apart);
  add(
      "arrange.spread-down", Desk::tr("Spread up and d&own, gaps alike"), Desk::tr("Down"), "",
      [](const Document& d, const std::vector<PieceId>& ids, const PlaceChoice& choice,
         const DocumentEvaluator& evaluator) { return spread(d, ids, Spread::Down, choice, evaluator); },
      apart);
  menu->addSeparator();
  const auto two = [&desk]() -> QString {
    return desk.session.selection().size() >= 2 ? QString() : Desk::tr("Select two pieces or more, the model last");
  };
  const auto large = [&](const char* id, const QString& words, const QString& short_words, AsLarge what) {
    add(
        id, words, short_words, "",
        [what](const Document& d, const std::vector<PieceId>& ids, const PlaceChoice&,
               const DocumentEvaluator& evaluator) { return as_large(d, ids, what, evaluator); },
        two);
  };
  large("arrange.as-wide", Desk::tr("As &wide as the last picked"), Desk::tr("Width"), AsLarge::Width);
  large("arrange.as-wide-spread", Desk::tr("&Spread as wide as the last picked"), Desk::tr("By gaps"), AsLarge::Spread);
  large("arrange.as-high", Desk::tr("As &high as the last picked"), Desk::tr("Height"), AsLarge::Height);
  large("arrange.as-capitals", Desk::tr("Ca&pitals as high as those picked last"), Desk::tr("Capitals"),
        AsLarge::Capitals);
  menu->addSeparator();
  const auto into = [&](const char* id, const QString& words, const QString& short_words, IntoShape how) {
    Command command{.id = id, .words = words, .run = {}, .why_not = [&desk]() -> QString {
                      return desk.session.selection().size() >= 2 ? QString()
                                                                  : Desk::tr("Select what goes in, then the shape");
                    }};
    command.short_words = short_words;
    command.run = [&desk, step = QString(words).remove('&'), how] {
      place_beside_the_window(desk, step,
                              [how](const Document& d, const std::vector<PieceId>& ids, const PlaceChoice& choice,
                                    const DocumentEvaluator& evaluator, const std::stop_token& stop) {
                                return set_into(d, ids, how, choice, evaluator, stop);
                              });
    };
    commands.add(menu, std::move(command));
  };
  into("arrange.even-margins", Desk::tr("&Even margins in the last picked"), Desk::tr("Even margins"),
       IntoShape::AsLargeAsItIs);
  into("arrange.largest-inside", Desk::tr("La&rgest inside the last picked"), Desk::tr("Largest"), IntoShape::Largest);
}

void make_copies(Desk& desk, const CopyOrder& order, CopyAs as, const std::function<void()>& done) {
  desk.start_task<Copied>(
      Desk::tr("Copying"),
      [&desk, document = desk.session.document(), ids = desk.session.selection(), order,
       as](const std::stop_token& stop) { return copied(document, ids, order, desk.session.evaluator(), as, stop); },
      [&desk, done](Result<Copied> made) {
        if (made) {
          desk.session.apply(Desk::tr("Copies"), std::move(made->document), made->ids);
          done();
        } else if (made.error().code != ErrorCode::Cancelled) {
          desk.report(made.error());
        }
      },
      Desk::tr("The job was changed meanwhile, so nothing was copied; try again"));
}

} // namespace frelm
