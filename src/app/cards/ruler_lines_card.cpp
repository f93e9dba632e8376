#include "app/cards/ruler_lines_card.h"

#include "app/canvas/tool.h"
#include "document/ruler_lines.h"

namespace frelm {

RulerLinesCard::RulerLinesCard(Session& session, QWidget* parent)
    : Card(0, tr("Ruler lines"), session, parent), list_(new QListWidget), across_(length_field(tr("Across"))),
      down_(length_field(tr("Down"))), angle_(new MeasureField(MeasureKind::Angle, tr("Angle of the ruler line"))),
      locked_(new QCheckBox(tr("Locked"))), remove_(new QPushButton(tr("Remove"))) {
  list_->setAccessibleName(tr("Ruler lines"));
  list_->setToolTip(tr("Drag one out of a ruler; back on the ruler it goes"));
  angle_->set_range(-180, 180);
  angle_->setToolTip(tr("0: level, 90: upright; clockwise"));
  locked_->setToolTip(tr("Can't be moved by hand; it catches all the same"));
  add_wide(list_);
  add_row(tr("Place"), {across_, down_});
  add_row(tr("Angle"), angle_);
  add_wide(in_row({{locked_, 1}, {remove_, 1}}));
  connect(list_, &QListWidget::currentRowChanged, this, [this] { show_chosen(); });
  connect(across_, &MeasureField::edited, this, [this](double v, bool stepped) {
    change(tr("Move ruler line"), stepped, [&](RulerLine& l) { l.at.x = v; });
  });
  connect(down_, &MeasureField::edited, this, [this](double v, bool stepped) {
    change(tr("Move ruler line"), stepped, [&](RulerLine& l) { l.at.y = v; });
  });
  connect(angle_, &MeasureField::edited, this, [this](double v, bool stepped) {
    change(tr("Turn ruler line"), stepped, [&](RulerLine& l) { l.angle = v; });
  });
  connect(locked_, &QCheckBox::clicked, this, [this](bool on) {
    change(on ? tr("Lock ruler line") : tr("Unlock ruler line"), false, [&](RulerLine& l) { l.locked = on; });
  });
  connect(remove_, &QPushButton::clicked, this, [this] {
    if (chosen() != nullptr)
      session_.apply(tr("Remove ruler line"),
                     without_ruler_line(session_.document(), static_cast<std::size_t>(list_->currentRow())));
  });
}

const RulerLine* RulerLinesCard::chosen() const {
  const int row = list_->currentRow();
  const auto& lines = session_.document().ruler_lines;
  return row >= 0 && static_cast<std::size_t>(row) < lines.size() ? &lines[static_cast<std::size_t>(row)] : nullptr;
}

void RulerLinesCard::change(const QString& name, bool stepped, const std::function<void(RulerLine&)>& by) {
  if (chosen() == nullptr)
    return;
  RulerLine line = *chosen();
  by(line);
  const int row = list_->currentRow();
  session_.apply(name, with_ruler_line(session_.document(), static_cast<std::size_t>(row), line), {},
                 stepped ? "step ruler line " + std::to_string(row) : "");
}

void RulerLinesCard::refresh() {
  const Document& d = session_.document();
  const int row = std::max(list_->currentRow(), 0);
  const QSignalBlocker quiet(list_);
  while (list_->count() > static_cast<int>(d.ruler_lines.size()))
    delete list_->takeItem(list_->count() - 1);
  for (std::size_t i = 0; i < d.ruler_lines.size(); ++i) {
    const QString words = ruler_line_words(d.ruler_lines[i], d.unit);
    if (static_cast<int>(i) == list_->count())
      list_->addItem(words);
    else
      list_->item(static_cast<int>(i))->setText(words);
  }
  list_->setCurrentRow(std::min(row, list_->count() - 1));
  list_->setFixedHeight(list_height(*list_));
  show_chosen();
}

void RulerLinesCard::show_chosen() {
  const RulerLine* line = chosen();
  for (QWidget* w : std::initializer_list<QWidget*>{across_, down_, angle_, locked_, remove_})
    w->setEnabled(line != nullptr);
  if (line == nullptr)
    return;
  for (MeasureField* f : {across_, down_})
    f->set_unit(session_.document().unit);
  across_->setVisible(!level_at(*line));
  down_->setVisible(!upright_at(*line));
  across_->show_value(line->at.x);
  down_->show_value(line->at.y);
  angle_->show_value(line->angle);
  locked_->setChecked(line->locked);
}

} // namespace frelm
