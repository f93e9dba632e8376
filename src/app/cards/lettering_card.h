// A card of a lettering, its rows told once each: words, where in the lettering the value stands, when the row shows.
#pragma once

#include "app/cards/card.h"

#include <QCheckBox>

namespace frelm {

struct RowWords {
  QString label = {}; // before the field, or of a check box; empty: the row goes over the whole width
  QString name = {};  // for screen readers
  QString step = {};  // in the history
  QString tip = {};
};
struct NumberRange {
  MeasureKind kind = MeasureKind::Length;
  double low = -1e5, high = 1e5;
  double step = 1;
  double shown_as = 1; // times the value: 100 for a ratio in percent
  bool wraps = false;  // an angle
  bool whole = false;  // a count
};

class LetteringCard : public Card {
  Q_OBJECT

protected:
  using Card::Card;
  using Shown = std::function<bool(const Lettering&)>;

  // at(lettering): a pointer to the value in a lettering, const or not, or null where it has none. shown: empty,
  // always.
  template <class At>
  MeasureField* number(const RowWords& words, const NumberRange& range, const At& at, const Shown& shown = {}) {
    auto* field = new_number(words, range);
    add_row(words.label, field);
    bind(field, words.step, range, at, shown);
    return field;
  }
  // The same for a field that stands in a row already.
  template <class At>
  void bind(MeasureField* field, const QString& step, const NumberRange& range, const At& at, const Shown& shown = {}) {
    connect(field, &MeasureField::edited, this, [this, step, range, at](double v, bool stepped) {
      edit_lettering(step, stepped, [&](Lettering& l) {
        if (auto* value = at(l))
          *value = static_cast<std::remove_reference_t<decltype(*value)>>(in_range(v, range));
      });
    });
    on_show([this, field, range, at, shown](const Lettering& l) {
      field->set_unit(session_.document().unit);
      if (const auto* value = at(l))
        field->show_value(static_cast<double>(*value) * range.shown_as);
      show_row(field, !shown || shown(l));
    });
  }
  // One of a few words, for an enum that counts them from 0.
  template <class At>
  ChoiceRow* choice(const RowWords& words, const QStringList& choices, const At& at, const Shown& shown = {},
                    int columns = 0) {
    auto* row = new_choice(words, choices, columns);
    connect(row, &ChoiceRow::chosen, this, [this, step = words.step, at](int i) {
      edit_lettering(step, false, [&](Lettering& l) {
        if (auto* value = at(l))
          *value = static_cast<std::remove_reference_t<decltype(*value)>>(i);
      });
    });
    on_show([this, row, at, shown](const Lettering& l) {
      if (const auto* value = at(l))
        row->show_choice(static_cast<int>(*value));
      show_row(row, !shown || shown(l));
    });
    return row;
  }
  template <class At> QCheckBox* flag(const RowWords& words, const At& at, const Shown& shown = {}) {
    auto* box = new_flag(words);
    connect(box, &QCheckBox::clicked, this, [this, step = words.step, at](bool on) {
      edit_lettering(step, false, [&](Lettering& l) {
        if (bool* value = at(l))
          *value = on;
      });
    });
    on_show([box, at, shown](const Lettering& l) {
      if (const bool* value = at(l))
        box->setChecked(*value);
      box->setVisible(!shown || shown(l));
    });
    return box;
  }

  static bool several_lines(const Lettering& lettering);
  // Of the lettering selected; steps by arrows and wheel merge.
  virtual void edit_lettering(const QString& step, bool stepped, const std::function<void(Lettering&)>& change);
  void on_show(std::function<void(const Lettering&)> show) { shows_.push_back(std::move(show)); }
  // Every row as the lettering has it; for refresh.
  void show_rows(const Lettering& lettering);

  MeasureField* new_number(const RowWords& words, const NumberRange& range); // in no row yet

private:
  static double in_range(double typed, const NumberRange& range);
  ChoiceRow* new_choice(const RowWords& words, const QStringList& choices, int columns);
  QCheckBox* new_flag(const RowWords& words);

  std::vector<std::function<void(const Lettering&)>> shows_;
};

} // namespace frelm
