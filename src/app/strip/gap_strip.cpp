#include "app/strip/gap_strip.h"

#include "app/style/scheme.h"
#include "document/measure.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace frelm {

GapStrip::GapStrip(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), view_(new GapView(session)), about_(new ShortLabel), line_(new QLabel),
      even_(new QPushButton(tr("Even gaps"))), keep_(new QPushButton(tr("Keep joined"))),
      spread_(new QPushButton(tr("Spread"))), reset_(new QPushButton(tr("Reset by hand"))), back_(new QToolButton),
      on_(new QToolButton), fold_(new QToolButton) {
  setObjectName("strip");
  setAttribute(Qt::WA_StyledBackground);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(12, 3, 12, 3);
  all->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(12);
  auto* heading = new QLabel(tr("Gap strip"));
  heading->setObjectName("heading");
  about_->setObjectName("muted");
  about_->setMinimumWidth(40);
  line_->setObjectName("muted");
  back_->setText("‹");
  on_->setText("›");
  back_->setAccessibleName(tr("Line before"));
  on_->setAccessibleName(tr("Next line"));
  fold_->setObjectName("flat");
  fold_->setAccessibleName(tr("Fold the gap strip"));
  fold_->setToolTip(tr("Fold or unfold"));
  head->addWidget(heading);
  head->addWidget(about_, 1);
  head->addWidget(back_);
  head->addWidget(line_);
  head->addWidget(on_);
  head->addWidget(reset_);
  head->addWidget(even_);
  head->addWidget(keep_);
  head->addWidget(spread_);
  head->addWidget(fold_);
  even_->setCheckable(true);
  keep_->setCheckable(true);
  spread_->setCheckable(true);
  spread_->setToolTip(tr("Over the whole guide, or a length that the Spacing card asks for; again: as set"));
  connect(spread_, &QPushButton::clicked, this, [this](bool on) { toggle(SpacingMode::Spread, on); });
  even_->setToolTip(tr("Every gap looks on the bend as it does in the straight word; again: as set"));
  keep_->setToolTip(tr("Letters that join overlap on the bend as deep as in the straight word; again: as set"));
  reset_->setToolTip(tr("Take back every gap changed by hand in this lettering"));
  connect(even_, &QPushButton::clicked, this, [this](bool on) { toggle(SpacingMode::EvenGaps, on); });
  connect(keep_, &QPushButton::clicked, this, [this](bool on) { toggle(SpacingMode::KeepJoined, on); });
  connect(reset_, &QPushButton::clicked, this, [this] {
    if (const Piece* piece = session_.selected())
      session_.apply(tr("Reset all gaps"), all_gaps_reset(session_.document(), piece->id));
  });
  all->addLayout(head);
  all->addWidget(view_, 1);
  connect(back_, &QToolButton::clicked, this, [this] {
    view_->set_line(view_->line() - 1);
    refresh();
  });
  connect(on_, &QToolButton::clicked, this, [this] {
    view_->set_line(view_->line() + 1);
    refresh();
  });
  connect(fold_, &QToolButton::clicked, this, [this] { emit fold_wanted(!folded()); });
  connect(&session, &Session::document_changed, this, &GapStrip::refresh);
  connect(&session, &Session::selection_changed, this, &GapStrip::refresh);
  connect(&session, &Session::part_changed, this, &GapStrip::refresh);
  connect(&session, &Session::gaps_changed, this, &GapStrip::refresh);
  restyle();
  refresh();
}

void GapStrip::set_folded(bool folded) {
  folded_ = folded;
  refresh();
  view_->setVisible(!folded);
  setMaximumHeight(folded ? folded_height() : QWIDGETSIZE_MAX);
  restyle();
}

int GapStrip::folded_height() const {
  const QMargins m = layout()->contentsMargins();
  return std::max(fold_->sizeHint().height(), about_->sizeHint().height()) + m.top() + m.bottom();
}

void GapStrip::restyle() {
  fold_->setIcon(icon(folded() ? "unfold" : "fold"));
}

void GapStrip::toggle(SpacingMode mode, bool on) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const QString name = !on                             ? tr("Set gaps as the face has them")
                       : mode == SpacingMode::EvenGaps ? tr("Even gaps")
                       : mode == SpacingMode::Spread   ? tr("Spread")
                                                       : tr("Keep joined");
  session_.edit(name, piece->id, [&](Piece& p) {
    choose_spacing(p.lettering()->recipe, on ? mode : SpacingMode::AsSet, session_.ink_along(piece->id));
  });
}

void GapStrip::refresh() {
  const Piece* piece = session_.selected();
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  const bool letters = l != nullptr && l->recipe.letters() != nullptr;
  const BendKind laid_by = letters ? l->recipe.bend.laid_by() : BendKind::Straight;
  const QString laid = letters && l->recipe.bend.warps() ? tr("the block before it is bent")
                       : laid_by == BendKind::Straight   ? tr("the run as it stands")
                       : laid_by == BendKind::Arc        ? tr("arc laid straight")
                                                         : tr("guide laid straight");
  QString about = tr("%1 · bracket: optical gap against its target · number: closest distance, %2")
                      .arg(laid, unit_name(session_.document().unit));
  if (letters)
    if (const Gap* g = view_->current())
      if (const Result<PieceResult>& now = session_.seated(piece->id); now)
        about = describe_gap(session_, l->recipe, *now->seated, *g);
  about_->set_words(letters ? about : tr("Select a lettering to see its gaps"));
  fold_->setEnabled(letters);
  const bool can = letters && can_be_evened(l->recipe);
  even_->setEnabled(can);
  keep_->setEnabled(can);
  even_->setChecked(can && l->recipe.spacing.mode == SpacingMode::EvenGaps);
  keep_->setChecked(can && l->recipe.spacing.mode == SpacingMode::KeepJoined);
  even_->setVisible(!folded_);
  keep_->setVisible(!folded_);
  spread_->setEnabled(letters && !l->recipe.letters()->downwards);
  spread_->setVisible(!folded_);
  spread_->setChecked(letters && l->recipe.spacing.mode == SpacingMode::Spread);
  reset_->setVisible(!folded_ && letters && !l->recipe.pairs.empty());
  const std::size_t lines = view_->line_count();
  for (QWidget* w : {static_cast<QWidget*>(back_), static_cast<QWidget*>(on_), static_cast<QWidget*>(line_)})
    w->setVisible(!folded_ && lines > 1);
  back_->setEnabled(view_->line() > 0);
  on_->setEnabled(view_->line() + 1 < lines);
  line_->setText(tr("line %1 of %2").arg(view_->line() + 1).arg(lines));
}

} // namespace frelm
