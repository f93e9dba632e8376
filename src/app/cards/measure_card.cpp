#include "app/cards/measure_card.h"

#include "app/style/words.h"

namespace frelm {

MeasureCard::MeasureCard(Session& session, QWidget* parent)
    : Card(0, tr("Measure"), session, parent), how_(note_label()), told_(note_label()), scales_(note_label()) {
  how_->setText(
      tr("Drag from place to place. Nodes, corners, centres and edges catch; Ctrl lets go of them, Shift keeps "
         "to level, upright and 45°."));
  add_wide(how_);
  add_wide(told_);
  known_ = length_field(tr("True length"), 0.001, 1e6);
  known_->setToolTip(tr("How long this is in truth; what is drawn is made as large as that says"));
  add_row(tr("In truth"), known_);
  add_wide(scales_);
  connect(known_, &MeasureField::edited, this, [this](double v, bool) { make_it(v); });
  connect(&session_, &Session::measured_changed, this, &MeasureCard::refresh);
}

void MeasureCard::make_it(double length) {
  const std::optional<MeasuredLine> line = session_.measured();
  if (!line)
    return;
  const Result<Document> made = with_known_length(session_.document(), session_.selection(), *line, length);
  if (!made) {
    emit problem(words_of(made.error()));
    return;
  }
  session_.apply(tr("Make it measure"), *made);
  if (session_.document() == *made)
    session_.set_measured(
        MeasuredLine{line->from, line->from + (line->to - line->from) * (length / distance(line->from, line->to))});
}

void MeasureCard::refresh() {
  const std::optional<MeasuredLine> line = session_.measured();
  told_->setVisible(line.has_value());
  scales_->setVisible(line.has_value());
  show_row(known_, line.has_value());
  if (!line)
    return;
  const Unit unit = session_.document().unit;
  const Vec v = line->to - line->from;
  const auto text = [&](double mm) { return length_text(mm, unit) + " " + unit_name(unit); };
  told_->setText((v.y < 0 ? tr("%1 long, %2 across, %3 up, at %4°") : tr("%1 long, %2 across, %3 down, at %4°"))
                     .arg(text(length(v)), text(std::abs(v.x)), text(std::abs(v.y)),
                          QString::number(std::round(100 * degrees(std::atan2(-v.y, v.x))) / 100)));
  known_->set_unit(unit);
  known_->show_value(length(v));
  switch (scaled_by(session_.document(), session_.selection(), *line)) {
  case Scales::Selection:
    scales_->setText(tr("Another length makes what is selected larger or smaller."));
    break;
  case Scales::Backing:
    scales_->setText(tr("Another length makes the backing under the line larger or smaller."));
    break;
  case Scales::All:
    scales_->setText(tr("Another length makes all of the drawing larger or smaller."));
    break;
  }
}

} // namespace frelm
