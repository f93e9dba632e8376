#include "app/cards/small_cards.h"

#include "document/gap_edits.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace frelm {

SpacingCard::SpacingCard(Session& session, QWidget* parent)
    : Card(3, tr("Spacing"), session, parent),
      mode_(new ChoiceRow(tr("Spacing"), {tr("As set"), tr("Even gaps"), tr("Keep joined"), tr("Spread"), tr("Repeat")},
                          3)),
      aim_(new ChoiceRow(tr("Gaps aim at"), {tr("Own"), tr("Typed"), tr("Fill")})),
      over_(new ChoiceRow(tr("Spread over"), {tr("Guide"), tr("Length"), tr("Angle")})),
      letter_(length_field(tr("Letter spacing"))), word_(length_field(tr("Word spacing"))),
      gap_(length_field(tr("Gap"), -1e3, 1e3)), least_gap_(length_field(tr("Least gap"), 0, 1e3)),
      length_(length_field(tr("Length to spread over"), 0.1)),
      angle_(new MeasureField(MeasureKind::Angle, tr("Angle to spread over"))),
      copies_(new MeasureField(MeasureKind::Count, tr("Copies"))), separator_(new QLineEdit), result_(new QLabel),
      by_hand_(new QWidget), corrections_(new QListWidget), reset_(new QPushButton(tr("Reset"))),
      reset_all_(new QPushButton(tr("Reset all"))) {
  mode_->button(0)->setToolTip(tr("The face's own rhythm, with its kerning"));
  mode_->button(1)->setToolTip(tr("Every gap looks on the bend as it does in the straight word"));
  mode_->button(2)->setToolTip(tr("Letters that join overlap as deep as in the straight word; the rest is evened"));
  mode_->button(3)->setToolTip(tr("Every gap wider by the same, to fill a length, an angle or the whole guide"));
  mode_->button(4)->setToolTip(tr("The text again and again around the guide, evenly"));
  add_wide(mode_);
  aim_->button(0)->setToolTip(tr("Each pair's own gap in the straight word, with its kerning"));
  aim_->button(1)->setToolTip(tr("One optical gap for all letters; word spaces keep what they are wider"));
  aim_->button(2)->setToolTip(
      tr("Own gaps and as much more, the same for all, as fills the guide; the seam counts too"));
  add_row(tr("Aim at"), aim_);
  gap_->setToolTip(tr("Mean distance of the facing sides, optical"));
  gap_->set_step(0.1);
  add_row(tr("Gap"), gap_);
  result_->setObjectName("muted");
  result_->setWordWrap(true);
  add_wide(result_);
  add_row(tr("Over"), over_);
  add_row(tr("Length"), length_);
  angle_->set_range(1, 360);
  add_row(tr("Angle"), angle_);
  separator_->setAccessibleName(tr("Separator"));
  separator_->setToolTip(tr("What stands between the copies; may be empty"));
  add_row(tr("Between"), separator_);
  copies_->set_range(0, 2000);
  copies_->setToolTip(tr("How many times; 0: as many as find room"));
  add_row(tr("Copies"), copies_);
  letter_->setToolTip(tr("Between all letters; ligatures come apart when it isn't 0"));
  word_->setToolTip(tr("Added to every word space"));
  least_gap_->setToolTip(
      tr("What can still be weeded: closer letters are held apart when gaps are evened or joins kept, "
         "and marked otherwise; 0: any"));
  for (MeasureField* f : {letter_, word_, least_gap_})
    f->set_step(0.1);
  add_row(tr("Letters"), letter_);
  add_row(tr("Words"), word_);
  add_row(tr("Least gap"), least_gap_);
  build_corrections();
  connect(mode_, &ChoiceRow::chosen, this, [this](int i) {
    edit_spacing(tr("Change spacing"), false, [&](Spacing& s) { s.mode = static_cast<SpacingMode>(i); });
  });
  connect(over_, &ChoiceRow::chosen, this, [this](int i) {
    edit_spacing(tr("Change spread"), false, [&](Spacing& s) { s.over = static_cast<SpreadOver>(i); });
  });
  const auto measure = [this](MeasureField* field, const QString& name, double Spacing::*member) {
    connect(field, &MeasureField::edited, this,
            [this, name, member](double v, bool s) { edit_spacing(name, s, [&](Spacing& t) { t.*member = v; }); });
  };
  connect(aim_, &ChoiceRow::chosen, this, [this](int i) {
    edit_spacing(tr("Change what gaps aim at"), false, [&](Spacing& s) { s.aim = static_cast<GapAim>(i); });
  });
  measure(gap_, tr("Change gap"), &Spacing::gap);
  measure(least_gap_, tr("Change least gap"), &Spacing::least_gap);
  measure(letter_, tr("Change letter spacing"), &Spacing::letter);
  measure(word_, tr("Change word spacing"), &Spacing::word);
  measure(length_, tr("Change spread"), &Spacing::length);
  measure(angle_, tr("Change spread"), &Spacing::angle);
  connect(copies_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_spacing(tr("Change copies"), s, [&](Spacing& t) { t.copies = static_cast<std::uint64_t>(std::lround(v)); });
  });
  connect(separator_, &QLineEdit::textEdited, this, [this](const QString& text) {
    const auto ucs4 = text.toUcs4();
    edit_spacing(tr("Change separator"), true, [&](Spacing& t) { t.separator = {ucs4.begin(), ucs4.end()}; });
  });
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
  show_row(result_, evens || keeps);
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
    QString line =
        tr("%1   %2%3 %4")
            .arg(letters, c.by > 0 ? "+" : "", QString::fromStdString(format_length(c.by, unit)), unit_name(unit));
    if (!c.in_force)
      line += tr("  (not side by side now)");
    auto* item = new QListWidgetItem(line, corrections_);
    item->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(c.pair.left));
    item->setData(Qt::UserRole + 1, QVariant::fromValue<qulonglong>(c.pair.right));
    item->setSelected(std::find(chosen.begin(), chosen.end(), c.pair) != chosen.end());
  }
  const int row = fontMetrics().height() + 6;
  corrections_->setFixedHeight(std::min(static_cast<int>(list.size()), 5) * row + 6);
  reset_->setEnabled(!corrections_->selectedItems().empty());
}

void SpacingCard::edit_spacing(const QString& name, bool stepped, const std::function<void(Spacing&)>& change) {
  edit(name, stepped, [&](Piece& p) {
    if (p.lettering() != nullptr)
      change(p.lettering()->recipe.spacing);
  });
}

void SpacingCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Spacing& s = piece->lettering()->recipe.spacing;
  const BendKind laid = piece->lettering()->recipe.bend.laid_by(); // a block is straight before it is bent
  const BendKind kind = laid == BendKind::Rails ? BendKind::Straight : laid;
  const Unit unit = session_.document().unit;
  for (MeasureField* f : {letter_, word_, length_, gap_, least_gap_})
    f->set_unit(unit);
  mode_->show_choice(static_cast<int>(s.mode));
  const bool can = can_be_evened(piece->lettering()->recipe);
  mode_->button(1)->setEnabled(can);
  mode_->button(2)->setEnabled(can);
  mode_->button(3)->setEnabled(kind != BendKind::Straight);
  mode_->button(4)->setEnabled(kind == BendKind::Guide);
  const bool evens = s.mode == SpacingMode::EvenGaps && can, keeps = s.mode == SpacingMode::KeepJoined && can;
  aim_->show_choice(static_cast<int>(s.aim));
  aim_->button(2)->setEnabled(kind == BendKind::Guide);
  show_row(aim_, evens);
  show_row(gap_, evens && s.aim == GapAim::Typed);
  gap_->show_value(s.gap);
  least_gap_->show_value(s.least_gap);
  over_->show_choice(static_cast<int>(s.over));
  over_->button(0)->setEnabled(kind == BendKind::Guide);
  const bool spread = s.mode == SpacingMode::Spread && kind != BendKind::Straight,
             repeat = s.mode == SpacingMode::Repeat && kind == BendKind::Guide;
  show_row(over_, spread);
  show_row(length_, spread && s.over == SpreadOver::Length);
  show_row(angle_, spread && s.over == SpreadOver::Angle);
  show_row(separator_, repeat);
  show_row(copies_, repeat);
  letter_->show_value(s.letter);
  word_->show_value(s.word);
  length_->show_value(s.length);
  angle_->show_value(s.angle);
  copies_->show_value(static_cast<double>(s.copies));
  const QString separator = QString::fromUcs4(s.separator.data(), static_cast<qsizetype>(s.separator.size()));
  if (separator_->text() != separator)
    separator_->setText(separator);
  const QString letter = QString::fromStdString(format_length(s.letter, unit));
  if (const Result<PieceResult>& now = session_.seated(piece->id); now && now->seated != nullptr) {
    show_result(piece->lettering()->recipe, *now->seated);
    show_corrections(piece->lettering()->recipe, *now->seated);
  }
  set_summary(evens                          ? tr("even gaps")
              : keeps                        ? tr("joined")
              : spread                       ? tr("spread")
              : repeat                       ? tr("repeated")
              : s.letter == 0 && s.word == 0 ? tr("as set")
                                             : tr("%1%2 %3").arg(s.letter > 0 ? "+" : "", letter, unit_name(unit)));
}

} // namespace frelm
