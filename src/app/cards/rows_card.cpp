#include "app/cards/rows_card.h"

namespace frelm {

double RowWidgets::in_range(double typed, const NumberRange& range) {
  const double value = (range.wraps ? wrap_degrees(typed) : typed) / range.shown_as;
  return range.whole ? std::round(value) : value;
}

MeasureField* RowWidgets::new_number(const RowWords& words, const NumberRange& range) {
  auto* field = new MeasureField(range.kind, words.name);
  field->set_range(range.low, range.high);
  field->set_step(range.step);
  if (!words.tip.isEmpty())
    field->setToolTip(words.tip);
  return field;
}

ChoiceRow* RowWidgets::new_choice(const RowWords& words, const QStringList& choices, int columns) {
  auto* row = new ChoiceRow(words.name, choices, columns);
  row->setToolTip(words.tip);
  if (words.label.isEmpty())
    add_wide(row);
  else
    add_row(words.label, row);
  return row;
}

QCheckBox* RowWidgets::new_flag(const RowWords& words) {
  auto* box = new QCheckBox(words.label);
  box->setToolTip(words.tip);
  add_wide(box);
  return box;
}

} // namespace frelm
