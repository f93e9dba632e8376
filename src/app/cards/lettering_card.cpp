#include "app/cards/lettering_card.h"

namespace frelm {

bool LetteringCard::several_lines(const Lettering& lettering) {
  const Letters* letters = lettering.recipe.letters();
  return letters != nullptr && plain_text(letters->text).find(U'\n') != std::u32string::npos;
}

void LetteringCard::edit_lettering(const QString& step, bool stepped, const std::function<void(Lettering&)>& change) {
  edit(step, stepped, [&](Piece& p) {
    if (Lettering* l = p.lettering())
      change(*l);
  });
}

void LetteringCard::show_rows(const Lettering& lettering) {
  for (const auto& show : shows_)
    show(lettering);
}

double LetteringCard::in_range(double typed, const NumberRange& range) {
  const double value = (range.wraps ? wrap_degrees(typed) : typed) / range.shown_as;
  return range.whole ? std::round(value) : value;
}

MeasureField* LetteringCard::new_number(const RowWords& words, const NumberRange& range) {
  auto* field = new MeasureField(range.kind, words.name);
  field->set_range(range.low, range.high);
  field->set_step(range.step);
  if (!words.tip.isEmpty())
    field->setToolTip(words.tip);
  return field;
}

ChoiceRow* LetteringCard::new_choice(const RowWords& words, const QStringList& choices, int columns) {
  auto* row = new ChoiceRow(words.name, choices, columns);
  row->setToolTip(words.tip);
  if (words.label.isEmpty())
    add_wide(row);
  else
    add_row(words.label, row);
  return row;
}

QCheckBox* LetteringCard::new_flag(const RowWords& words) {
  auto* box = new QCheckBox(words.label);
  box->setToolTip(words.tip);
  add_wide(box);
  return box;
}

} // namespace frelm
