// Cards by rows, each told once: words, where in the subject (a lettering, a step of a finish) the value stands, when
// the row shows.
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

// The widgets of rows.
class RowWidgets : public Card {
protected:
  using Card::Card;
  MeasureField* new_number(const RowWords& words, const NumberRange& range); // in no row yet
  ChoiceRow* new_choice(const RowWords& words, const QStringList& choices, int columns);
  QCheckBox* new_flag(const RowWords& words);
  static double in_range(double typed, const NumberRange& range);
};

template <class Subject> class RowsCard : public RowWidgets {
protected:
  using RowWidgets::RowWidgets;
  using Shown = std::function<bool(const Subject&)>;

  // at(subject): a pointer to the value in the subject, const or not, or null where it has none. shown: empty,
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
      edit_subject(step, stepped, [&](Subject& l) {
        if (auto* value = at(l))
          *value = static_cast<std::remove_reference_t<decltype(*value)>>(in_range(v, range));
      });
    });
    on_show([this, field, range, at, shown](const Subject& l) {
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
      edit_subject(step, false, [&](Subject& l) {
        if (auto* value = at(l))
          *value = static_cast<std::remove_reference_t<decltype(*value)>>(i);
      });
    });
    on_show([this, row, at, shown](const Subject& l) {
      if (const auto* value = at(l))
        row->show_choice(static_cast<int>(*value));
      show_row(row, !shown || shown(l));
    });
    return row;
  }
  template <class At> QCheckBox* flag(const RowWords& words, const At& at, const Shown& shown = {}) {
    auto* box = new_flag(words);
    connect(box, &QCheckBox::clicked, this, [this, step = words.step, at](bool on) {
      edit_subject(step, false, [&](Subject& l) {
        if (bool* value = at(l))
          *value = on;
      });
    });
    on_show([box, at, shown](const Subject& l) {
      if (const bool* value = at(l))
        box->setChecked(*value);
      box->setVisible(!shown || shown(l));
    });
    return box;
  }

  // Of what is selected; steps by arrows and wheel merge.
  virtual void edit_subject(const QString& step, bool stepped, const std::function<void(Subject&)>& change) = 0;
  void on_show(std::function<void(const Subject&)> show) { shows_.push_back(std::move(show)); }
  // Every row as the subject has it; for refresh.
  void show_rows(const Subject& subject) {
    for (const auto& show : shows_)
      show(subject);
  }

private:
  std::vector<std::function<void(const Subject&)>> shows_;
};

} // namespace frelm
