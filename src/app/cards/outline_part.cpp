#include "app/cards/outline_part.h"

#include "app/style/words.h"
#include "lettering/finish.h"

#include <QEvent>

namespace frelm {

QString outline_command_id(OutlineCommand command) {
  return QString("outline.make.%1").arg(static_cast<int>(command));
}

OutlinePart::OutlinePart(Session& session, OutlineMaker& maker, const CommandTable& commands, For pieces)
    : Card(0, {}, session), maker_(maker), commands_(commands), told_(note_label()) {
  embed();
  using enum OutlineCommand;
  auto* pairs = new QWidget;
  auto* grid = new QGridLayout(pairs);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(5);
  const std::vector<OutlineCommand> plain =
      pieces == For::One
          ? std::vector{BreakApart, CloseLines, ReverseLines}
          : std::vector{WeldTogether, Combine, CutAway, CutAwayBehind, KeepShared, DropShared, BreakApart};
  const int columns = pieces == For::One ? 3 : 2;
  for (int i = 0; const OutlineCommand c : plain) {
    grid->addWidget(new_button(c), i / columns, i % columns);
    ++i;
  }
  add_wide(pairs);
  using M = OutlineMeasures;
  add_measured_row(tr("Offset"), OffsetAsPiece,
                   {{length_field(tr("Offset"), -most_distance, most_distance), &M::offset}});
  add_measured_row(tr("Shade"), ShadeAsPiece,
                   {{new MeasureField(MeasureKind::Angle, tr("Angle of the shade")), &M::shade_angle},
                    {length_field(tr("Depth of the shade"), 0, most_distance), &M::shade_depth}});
  if (pieces == For::Several) {
    add_measured_row(tr("Nodes"), FewerNodes,
                     {{length_field(tr("Tolerance of fewer nodes"), least_tolerance, most_tolerance), &M::tolerance}});
    add_measured_row(tr("Corners"), RoundedCorners,
                     {{length_field(tr("Radius of the corners"), least_rounding, most_distance), &M::radius}});
  }
  add_wide(told_);
  told_->setMinimumHeight(2 * told_->fontMetrics().height()); // the card keeps still when it speaks
  connect(&maker_, &OutlineMaker::changed, this, &OutlinePart::show_picture);
  connect(&maker_, &OutlineMaker::measures_changed, this, &OutlinePart::refresh);
}

QPushButton* OutlinePart::new_button(OutlineCommand command) {
  const CommandTable::Entry* entry = commands_.find(outline_command_id(command));
  auto* button = new QPushButton(entry->words());
  button->setToolTip(entry->command.tip);
  button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  button->installEventFilter(this);
  connect(button, &QPushButton::clicked, entry->action, &QAction::trigger);
  offers_.push_back({button, command});
  return button;
}

void OutlinePart::add_measured_row(const QString& label, OutlineCommand command,
                                   const std::vector<std::pair<MeasureField*, double OutlineMeasures::*>>& fields) {
  std::vector<std::pair<QWidget*, int>> row;
  for (const auto& [field, member] : fields) {
    row.emplace_back(field, 1);
    fields_.emplace_back(field, member);
    connect(field, &MeasureField::edited, this, [this, member = member](double v, bool) {
      OutlineMeasures measures = maker_.measures();
      measures.*member = v;
      maker_.set_measures(measures);
    });
  }
  QPushButton* button = new_button(command);
  button->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  button->setAccessibleName(button->text());
  button->setText(command == OutlineCommand::OffsetAsPiece || command == OutlineCommand::ShadeAsPiece ? tr("Make")
                                                                                                      : tr("Change"));
  row.emplace_back(button, 0);
  add_row(label, in_row(row));
}

void OutlinePart::refresh() {
  if (session_.dragging()) // what can be done is told when the hand lets go
    return;
  for (const auto& [field, member] : fields_) {
    field->set_unit(session_.document().unit);
    field->show_value(maker_.measures().*member);
  }
  for (const Offer& o : offers_) {
    const QString why = commands_.find(outline_command_id(o.command))->why_not();
    o.button->setEnabled(why.isEmpty());
    o.button->setToolTip(why.isEmpty() ? commands_.find(outline_command_id(o.command))->command.tip : why);
  }
}

bool OutlinePart::eventFilter(QObject* object, QEvent* event) {
  const auto offer = std::find_if(offers_.begin(), offers_.end(), [&](const Offer& o) { return o.button == object; });
  if (offer == offers_.end())
    return Card::eventFilter(object, event);
  const bool rests = event->type() == QEvent::Enter || event->type() == QEvent::FocusIn;
  const bool leaves = event->type() == QEvent::Leave || event->type() == QEvent::FocusOut;
  if (rests && offer->button->isEnabled())
    maker_.show(offer->command);
  else if (leaves)
    maker_.hide();
  return false;
}

void OutlinePart::show_picture() {
  const auto& picture = maker_.picture();
  QString told;
  if (picture && !picture->why_not.empty()) {
    told = words_of(picture->why_not);
  } else if (picture) {
    told = picture->pieces == 1 ? tr("One piece, %1 nodes.").arg(picture->stays->node_count())
                                : tr("%1 pieces, %2 nodes.").arg(picture->pieces).arg(picture->stays->node_count());
    if (!picture->released.empty())
      told = tr("%1 Live letters become outlines (%2); Reopen brings them back.").arg(told, listed(picture->released));
  }
  told_->setText(told);
}

} // namespace frelm
