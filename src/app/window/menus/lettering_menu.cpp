#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_lettering_menu(QMenu* menu) {
  const std::pair<const char*, QString> bends[]{{"lettering.straight", tr("Set &straight")},
                                                {"lettering.arc", tr("Bend on an &arc")},
                                                {"lettering.guide", tr("Ride on a &guide")},
                                                {"lettering.rails", tr("Bend between &rails")},
                                                {"lettering.net", tr("Pull by a &net")}};
  for (int i = 0; i < static_cast<int>(std::size(bends)); ++i)
    commands_.add(menu, {.id = bends[i].first,
                         .words = bends[i].second,
                         .run =
                             [this, i] {
                               open_card(bend_);
                               bend_->choose(static_cast<BendKind>(i));
                             },
                         .why_not = i < 3 ? needs_lettering() : [this] {
                           const Piece* piece = session_.selected();
                           return piece != nullptr && (piece->lettering() != nullptr || piece->outline() != nullptr)
                                      ? QString()
                                      : tr("Select a lettering or an outline");
                         }});
  commands_.add(menu, {.id = "lettering.together",
                       .words = tr("Bend &together"),
                       .tip = tr("Several pieces as one block; they stay as they are, hidden"),
                       .run = [this] { bend_selected_together(); },
                       .why_not = needs_selection()});
  menu->addSeparator();
  const auto evens = needs_lettering([](const Lettering& l) {
    return can_be_evened(l.recipe) ? QString() : tr("There are no gaps to even in this lettering");
  });
  const auto mode_is = [this](SpacingMode mode) {
    return [this, mode] {
      const Lettering* l = selected_lettering();
      return l != nullptr && can_be_evened(l->recipe) && l->recipe.spacing.mode == mode;
    };
  };
  commands_.add(menu, {.id = "lettering.even",
                       .words = tr("&Even gaps"),
                       .tip = tr("The space between letters the same to the eye, wherever the run bends"),
                       .run = [this] { strip_->even()->click(); },
                       .why_not = evens,
                       .on = mode_is(SpacingMode::EvenGaps)});
  commands_.add(menu, {.id = "lettering.keep-joined",
                       .words = tr("&Keep joined"),
                       .tip = tr("Letters that are joined in the straight word stay joined"),
                       .run = [this] { strip_->keep()->click(); },
                       .why_not = evens,
                       .on = mode_is(SpacingMode::KeepJoined)});
  const auto strip_command = [&](const char* id, const QString& words, const char* key,
                                 const std::function<void(GapView&)>& run, const std::function<QString()>& why_not) {
    commands_.add(menu, {.id = id,
                         .words = words,
                         .keys = {QKeySequence(key)},
                         .run = [this, run] { run(*strip_->view()); },
                         .why_not = why_not});
  };
  const auto needs_gap = needs_lettering(
      [this](const Lettering&) { return session_.gaps_chosen().empty() ? tr("Choose a gap first") : QString(); });
  strip_command(
      "lettering.gap-before", tr("Gap before"), "Alt+Left", [](GapView& v) { v.step(-1, false); }, needs_lettering());
  strip_command(
      "lettering.gap-next", tr("Next gap"), "Alt+Right", [](GapView& v) { v.step(1, false); }, needs_lettering());
  strip_command(
      "lettering.gap-open", tr("Open the gap"), "Alt+Up", [](GapView& v) { v.widen(1); }, needs_gap);
  strip_command(
      "lettering.gap-tighten", tr("Tighten the gap"), "Alt+Down", [](GapView& v) { v.widen(-1); }, needs_gap);
  menu->addSeparator();
  commands_.add(menu, {.id = "lettering.level",
                       .words = tr("Le&vel"),
                       .keys = {QKeySequence("Ctrl+Shift+L")},
                       .tip = tr("The run slid along its guide until it stands level"),
                       .run = [this] { level_selected(); },
                       .why_not = needs_lettering([](const Lettering& l) {
                         const BendKind kind = l.recipe.bend.kind;
                         return kind == BendKind::Arc || kind == BendKind::Guide
                                    ? QString()
                                    : tr("Only a run on an arc or on a guide can be made level");
                       })});
  menu->addSeparator();
  commands_.add(menu, {.id = "lettering.release",
                       .words = tr("&Release to outlines"),
                       .keys = {QKeySequence("Ctrl+Return")},
                       .tip = tr("The letters become outlines, as the Finish card says; Reopen brings them back"),
                       .run = [this] { release_selected(release_->as(), release_->guide()); },
                       .why_not = needs_lettering()});
  commands_.add(
      menu,
      {.id = "lettering.reopen",
       .words = tr("Re&open"),
       .keys = {QKeySequence("Ctrl+Shift+Return")},
       .tip = tr("The lettering that these outlines were released from"),
       .run = [this] { reopen_selected(); },
       .why_not =
           [this] { return reopenable() != nullptr ? QString() : tr("Select what was released from a lettering"); }});
  menu->addSeparator();
  const std::pair<QString, Card*> cards[]{{tr("&Letters card"), letters_},
                                          {tr("&Bend card"), bend_},
                                          {tr("S&pacing card"), spacing_},
                                          {tr("&Finish card"), finish_}};
  for (int i = 0; i < 4; ++i)
    commands_.add(menu, {.id = QString("lettering.card.%1").arg(i + 1),
                         .words = cards[i].first,
                         .keys = {QKeySequence(QString("Alt+%1").arg(i + 1))},
                         .run =
                             [this, card = cards[i].second] {
                               open_card(card);
                               card->first_field()->setFocus();
                             },
                         .why_not =
                             [this, card = cards[i].second] {
                               return card->isVisibleTo(this) ? QString() : tr("The selection has no such card");
                             }});
}

} // namespace frelm
