#include "app/cards/small_cards.h"

#include "document/gap_edits.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace frelm {
namespace {

constexpr auto spacing_of = [](auto Spacing::*member) {
  return [member](auto& l) { return &(l.recipe.spacing.*member); };
};

bool evens(const Lettering& l) {
  return l.recipe.spacing.mode == SpacingMode::EvenGaps && can_be_evened(l.recipe);
}
BendKind laid(const Lettering& l) { // a block is straight before it is bent
  const BendKind kind = l.recipe.bend.laid_by();
  return kind == BendKind::Rails ? BendKind::Straight : kind;
}
bool spreads(const Lettering& l) {
  return l.recipe.spacing.mode == SpacingMode::Spread && l.recipe.letters() != nullptr &&
         !l.recipe.letters()->downwards;
}
bool repeats(const Lettering& l) {
  return l.recipe.spacing.mode == SpacingMode::Repeat && laid(l) == BendKind::Guide;
}

} // namespace

SpacingCard::SpacingCard(Session& session, QWidget* parent)
    : LetteringCard(3, tr("Spacing"), session, parent), result_(note_label()), by_hand_(new QWidget),
      corrections_(new QListWidget), reset_(new QPushButton(tr("Reset"))),
      reset_all_(new QPushButton(tr("Reset all"))) {
  add_modes();
  add_gap_rows();
  add_wide(result_);
  add_spread_rows();
  add_repeat_rows();
  constexpr double step = 0.1; // mm
  letter_ = number({tr("Letters"), tr("Letter spacing"), tr("Change letter spacing"),
                    tr("Between all letters; ligatures come apart when it isn't 0")},
                   {.step = step}, spacing_of(&Spacing::letter));
  number({tr("Words"), tr("Word spacing"), tr("Change word spacing"), tr("Added to every word space")}, {.step = step},
         spacing_of(&Spacing::word));
  number({tr("Least gap"), tr("Least gap"), tr("Change least gap"),
          tr("What can still be weeded: closer letters are held apart when gaps are evened or joins kept, "
             "and marked otherwise; 0: any")},
         {.low = 0, .high = 1e3, .step = step}, spacing_of(&Spacing::least_gap));
  build_corrections();
}

void SpacingCard::add_modes() {
  ChoiceRow* mode = new_choice({.name = tr("Spacing")},
                               {tr("As set"), tr("Even gaps"), tr("Keep joined"), tr("Spread"), tr("Repeat")}, 3);
  connect(mode, &ChoiceRow::chosen, this, [this](int i) { choose_mode(static_cast<SpacingMode>(i)); });
  mode->button(0)->setToolTip(tr("The face's own rhythm, with its kerning"));
  mode->button(1)->setToolTip(tr("Every gap looks on the bend as it does in the straight word"));
  mode->button(2)->setToolTip(tr("Letters that join overlap as deep as in the straight word; the rest is evened"));
  mode->button(3)->setToolTip(tr("Every gap wider by the same, to fill a length, an angle or the whole guide"));
  mode->button(4)->setToolTip(tr("The text again and again around the guide, evenly"));
  on_show([mode](const Lettering& l) {
    mode->show_choice(static_cast<int>(l.recipe.spacing.mode));
    for (const int evening : {1, 2})
      mode->button(evening)->setEnabled(can_be_evened(l.recipe));
    mode->button(3)->setEnabled(l.recipe.letters() != nullptr && !l.recipe.letters()->downwards);
    mode->button(4)->setEnabled(laid(l) == BendKind::Guide);
  });
}

void SpacingCard::choose_mode(SpacingMode mode) {
  edit_subject(tr("Change spacing"), false, [&](Lettering& l) {
    choose_spacing(l.recipe, mode, session_.selected() != nullptr ? session_.ink_along(session_.selected()->id) : 0);
  });
}

void SpacingCard::add_gap_rows() {
  ChoiceRow* aim = choice({tr("Aim at"), tr("Gaps aim at"), tr("Change what gaps aim at")},
                          {tr("Own"), tr("Typed"), tr("Fill")}, spacing_of(&Spacing::aim), evens);
  aim->button(0)->setToolTip(tr("Each pair's own gap in the straight word, with its kerning"));
  aim->button(1)->setToolTip(tr("One optical gap for all letters; word spaces keep what they are wider"));
  aim->button(2)->setToolTip(
      tr("Own gaps and as much more, the same for all, as fills the guide; the seam counts too"));
  on_show([aim](const Lettering& l) { aim->button(2)->setEnabled(laid(l) == BendKind::Guide); });
  number({tr("Gap"), tr("Gap"), tr("Change gap"), tr("Mean distance of the facing sides, optical")},
         {.low = -1e3, .high = 1e3, .step = 0.1}, spacing_of(&Spacing::gap),
         [](const Lettering& l) { return evens(l) && l.recipe.spacing.aim == GapAim::Typed; });
}

void SpacingCard::add_spread_rows() {
  ChoiceRow* over = choice({tr("Over"), tr("Spread over"), tr("Change spread")},
                           {tr("Guide"), tr("Length"), tr("Angle")}, spacing_of(&Spacing::over), spreads);
  on_show([over](const Lettering& l) {
    over->button(0)->setEnabled(laid(l) == BendKind::Guide);
    over->button(2)->setEnabled(laid(l) != BendKind::Straight);
  });
  number({tr("Length"), tr("Length to spread over"), tr("Change spread")}, {.low = 0.1}, spacing_of(&Spacing::length),
         [](const Lettering& l) { return spreads(l) && l.recipe.spacing.over == SpreadOver::Length; });
  number({tr("Angle"), tr("Angle to spread over"), tr("Change spread")},
         {.kind = MeasureKind::Angle, .low = 1, .high = 360}, spacing_of(&Spacing::angle),
         [](const Lettering& l) { return spreads(l) && l.recipe.spacing.over == SpreadOver::Angle; });
}

void SpacingCard::add_repeat_rows() {
  auto* separator = new QLineEdit;
  separator->setAccessibleName(tr("Separator"));
  separator->setToolTip(tr("What stands between the copies; may be empty"));
  add_row(tr("Between"), separator);
  connect(separator, &QLineEdit::textEdited, this, [this](const QString& text) {
    const auto ucs4 = text.toUcs4();
    edit_subject(tr("Change separator"), true, [&](Lettering& l) {
      l.recipe.spacing.separator = {ucs4.begin(), ucs4.end()};
    });
  });
  on_show([separator](const Lettering& l) {
    const std::u32string& text = l.recipe.spacing.separator;
    const QString now = QString::fromUcs4(text.data(), static_cast<qsizetype>(text.size()));
    if (separator->text() != now)
      separator->setText(now);
    show_row(separator, repeats(l));
  });
  number({tr("Copies"), tr("Copies"), tr("Change copies"), tr("How many times; 0: as many as find room")},
         {.kind = MeasureKind::Count, .low = 0, .high = 2000, .whole = true}, spacing_of(&Spacing::copies), repeats);
}

void SpacingCard::build_corrections() {
  auto* all = new QVBoxLayout(by_hand_);
  all->setContentsMargins(0, 2, 0, 0);
  all->setSpacing(4);
  auto* head = new QHBoxLayout;
  auto* name = new QLabel(tr("By hand"));
  name->setObjectName("muted");
  head->addWidget(name, 1);
  head->addWidget(reset_);
  head->addWidget(reset_all_);
  all->addLayout(head);
  all->addWidget(corrections_);
  corrections_->setAccessibleName(tr("Gaps changed by hand"));
  corrections_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  corrections_->setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
  add_wide(by_hand_);
  const auto selected = [this] {
    std::vector<PairId> chosen;
    for (const QListWidgetItem* item : corrections_->selectedItems())
      chosen.push_back({item->data(Qt::UserRole).toULongLong(), item->data(Qt::UserRole + 1).toULongLong()});
    return chosen;
  };
  connect(corrections_, &QListWidget::itemSelectionChanged, this, [this, selected] {
    std::vector<PairId> chosen = selected();
    reset_->setEnabled(!chosen.empty());
    if (!chosen.empty())
      session_.choose_gaps(std::move(chosen));
  });
  connect(reset_, &QPushButton::clicked, this, [this, selected] {
    const std::vector<PairId> chosen = selected();
    if (const Piece* piece = session_.selected(); piece != nullptr && !chosen.empty())
      session_.apply(tr("Reset gap"), gaps_reset(session_.document(), piece->id, chosen));
  });
  connect(reset_all_, &QPushButton::clicked, this, [this] {
    if (const Piece* piece = session_.selected())
      session_.apply(tr("Reset all gaps"), all_gaps_reset(session_.document(), piece->id));
  });
}

namespace {

QString counted(int n, const QString& one, const QString& many) {
  return (n == 1 ? one : many).arg(n);
}

} // namespace

// What evening or keeping joined came to.
void SpacingCard::show_result(const Recipe& recipe, const SeatedText& text) {
  const bool evens = recipe.spacing.mode == SpacingMode::EvenGaps,
             keeps = recipe.spacing.mode == SpacingMode::KeepJoined;
  result_->setVisible(evens || keeps);
  if (!evens && !keeps)
    return;
  const Unit unit = session_.document().unit;
  if (text.spacing.waiting) {
    result_->setText(session_.busy() ? tr("Working…") : tr("Stopped; any change begins it again"));
    return;
  }
  int joined = 0, held = 0, evened = 0;
  double off = 0;
  for (const EvenPair& p : text.spacing.pairs) {
    ++(p.joined ? joined : p.held ? held : evened);
    if (!p.held)
      off = std::max(off, p.off);
  }
  QStringList parts;
  if (keeps && joined == 0)
    parts << tr("The letters of this face don't join; gaps are evened");
  if (joined > 0)
    parts << counted(joined, tr("%1 join as deep as when straight"), tr("%1 joins as deep as when straight"));
  if (evened > 0 && !(keeps && joined == 0))
    parts << counted(evened, tr("%1 gap even"), tr("%1 gaps even"));
  if (held > 0)
    parts << counted(held, tr("%1 held apart"), tr("%1 held apart"));
  if (text.spacing.extra != 0)
    parts << tr("each gap %1%2 %3")
                 .arg(text.spacing.extra > 0 ? "+" : "",
                      QString::fromStdString(format_length(text.spacing.extra, unit)), unit_name(unit));
  if (off > 0.01)
    parts << tr("up to %1 %2 off").arg(QString::fromStdString(format_length(off, unit)), unit_name(unit));
  if (const auto gaps = session_.gaps(session_.selected()->id)) {
    const auto lost = std::count_if(gaps->begin(), gaps->end(), [](const Gap& g) {
      return g.target_depth && (g.look == GapLook::Lost || g.look == GapLook::Crashed);
    });
    if (lost > 0)
      parts << counted(static_cast<int>(lost), tr("%1 join can't be kept here"), tr("%1 joins can't be kept here"));
  }
  result_->setText(parts.join(" · "));
}

void SpacingCard::show_corrections(const Recipe& recipe, const SeatedText& text) {
  const std::vector<HandCorrection> list = hand_corrections(recipe, text);
  if (list.empty()) { // as nearly always
    if (!by_hand_->isHidden())
      by_hand_->hide();
    return;
  }
  by_hand_->show();
  const QSignalBlocker quiet(corrections_);
  corrections_->clear();
  const Unit unit = session_.document().unit;
  const std::vector<PairId>& chosen = session_.gaps_chosen();
  for (const HandCorrection& c : list) {
    const QString letters = QString::fromUcs4(c.letters.data(), static_cast<qsizetype>(c.letters.size()));
    const QString line =
        (c.in_force ? tr("%1   %2%3 %4") : tr("%1   %2%3 %4  (not side by side now)"))
            .arg(letters, c.by > 0 ? "+" : "", QString::fromStdString(format_length(c.by, unit)), unit_name(unit));
    auto* item = new QListWidgetItem(line, corrections_);
    item->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(c.pair.left));
    item->setData(Qt::UserRole + 1, QVariant::fromValue<qulonglong>(c.pair.right));
    item->setSelected(std::find(chosen.begin(), chosen.end(), c.pair) != chosen.end());
  }
  const int row = fontMetrics().height() + 6;
  corrections_->setFixedHeight(std::min(static_cast<int>(list.size()), 5) * row + 6);
  reset_->setEnabled(!corrections_->selectedItems().empty());
}

void SpacingCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Lettering& l = *piece->lettering();
  const Spacing& s = l.recipe.spacing;
  show_rows(l);
  if (const Result<PieceResult>& now = session_.seated(piece->id); now && now->seated != nullptr) {
    show_result(l.recipe, *now->seated);
    show_corrections(l.recipe, *now->seated);
  }
  const Unit unit = session_.document().unit;
  const QString letter = QString::fromStdString(format_length(s.letter, unit));
  set_summary(evens(l)                                                       ? tr("even gaps")
              : s.mode == SpacingMode::KeepJoined && can_be_evened(l.recipe) ? tr("joined")
              : spreads(l)                                                   ? tr("spread")
              : repeats(l)                                                   ? tr("repeated")
              : s.letter == 0 && s.word == 0                                 ? tr("as set")
                                             : tr("%1%2 %3").arg(s.letter > 0 ? "+" : "", letter, unit_name(unit)));
}

} // namespace frelm
