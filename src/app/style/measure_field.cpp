#include "app/style/measure_field.h"

#include "app/style/scheme.h"
#include "app/style/words.h"

#include <QKeyEvent>
#include <QPainter>
#include <QStyle>
#include <QWheelEvent>
#include <cmath>

namespace frelm {

MeasureField::MeasureField(MeasureKind kind, const QString& name, QWidget* parent) : QLineEdit(parent), kind_(kind) {
  setAccessibleName(name);
  set_unit(Unit::Millimetre);
  connect(this, &QLineEdit::returnPressed, this, [this] {
    take_text();
    selectAll();
  });
  connect(this, &QLineEdit::textEdited, this, [this] { typing_ = true; });
}

void MeasureField::set_unit(Unit unit) {
  const bool changed = unit != unit_;
  unit_ = unit;
  setTextMargins(0, 0, suffix().isEmpty() ? 0 : fontMetrics().horizontalAdvance(suffix()) + 6, 0);
  const bool own = !toolTip().isEmpty() && toolTip() != hint_; // why the field is there goes before how it is typed
  hint_ = kind_ == MeasureKind::Length ? tr("Takes units and sums: 12mm+3, 1/2 in, 3 1/8\"") : QString();
  if (!own)
    setToolTip(hint_);
  if (changed)
    setText(text_of(value_));
}

void MeasureField::set_kind(MeasureKind kind) {
  if (kind == kind_)
    return;
  kind_ = kind;
  setTextMargins(0, 0, suffix().isEmpty() ? 0 : fontMetrics().horizontalAdvance(suffix()) + 6, 0);
  setText(text_of(value_));
}

void MeasureField::set_range(double low, double high) {
  low_ = low, high_ = high;
}
void MeasureField::set_step(double step) {
  step_ = step;
}

QSize MeasureField::minimumSizeHint() const {
  const char* widest = kind_ == MeasureKind::Length ? "0000.0" : "000.0";
  return {fontMetrics().horizontalAdvance(widest) + fontMetrics().horizontalAdvance(suffix()) + 20,
          sizeHint().height()};
}

QString MeasureField::suffix() const {
  switch (kind_) {
  case MeasureKind::Length:
    return unit_name(unit_);
  case MeasureKind::Angle:
    return "°";
  case MeasureKind::Percent:
    return "%";
  case MeasureKind::Count:
    break;
  }
  return {};
}

void MeasureField::set_usual(const QString& words) {
  setPlaceholderText(words);
  if (!std::exchange(zero_is_usual_, true) && !typing_)
    setText(text_of(value_));
}

QString MeasureField::text_of(double value) const {
  if (zero_is_usual_ && value == 0)
    return {};
  return QString::fromStdString(format_length(value, kind_ == MeasureKind::Length ? unit_ : Unit::Millimetre));
}

void MeasureField::show_value(double value) {
  const bool same = std::abs(value - value_) < 1e-9;
  value_ = value;
  if (typing_ && hasFocus() && same)
    return;
  typing_ = false;
  set_fault({});
  if (const QString text = text_of(value); text != this->text())
    setText(text);
}

void MeasureField::set_fault(const QString& reason) {
  const bool was = property("fault").toBool();
  if (!was && !reason.isEmpty())
    tip_ = toolTip();
  if (was || !reason.isEmpty())
    setToolTip(reason.isEmpty() ? tip_ : reason);
  setAccessibleDescription(reason);
  if (was == !reason.isEmpty())
    return;
  setProperty("fault", !reason.isEmpty());
  style()->unpolish(this);
  style()->polish(this);
}

void MeasureField::take_text() {
  if (!typing_)
    return;
  const Result<double> parsed = zero_is_usual_ && text().trimmed().isEmpty()
                                    ? Result<double>(0.0)
                                    : parse_measure(text().toStdString(), kind_, unit_);
  if (!parsed) {
    set_fault(words_of(parsed.error()));
    return;
  }
  if (*parsed < low_ || *parsed > high_) {
    const QString from = text_of(low_), to = text_of(high_);
    set_fault(*parsed < low_ ? tr("Must be at least %1 %2").arg(from, suffix())
                             : tr("Must be at most %1 %2").arg(to, suffix()));
    return;
  }
  typing_ = false;
  set_fault({});
  const double was = value_;
  value_ = *parsed;
  setText(text_of(value_));
  if (value_ != was)
    emit edited(value_, false);
}

void MeasureField::step_by(double steps) {
  take_text();
  const double unit = kind_ == MeasureKind::Length && unit_ == Unit::Inch ? mm_per_inch / 16 : 1;
  const double next = std::clamp(value_ + steps * step_ * unit, low_, high_);
  if (next == value_)
    return;
  value_ = next;
  typing_ = false;
  set_fault({});
  setText(text_of(value_));
  emit edited(value_, true);
}

void MeasureField::keyPressEvent(QKeyEvent* event) {
  const double by = event->modifiers().testFlag(Qt::ShiftModifier) ? 10 : 1;
  switch (event->key()) {
  case Qt::Key_Up:
    step_by(by);
    return;
  case Qt::Key_Down:
    step_by(-by);
    return;
  case Qt::Key_Escape:
    if (!typing_)
      break;
    typing_ = false;
    set_fault({});
    setText(text_of(value_));
    selectAll();
    return;
  default:
    break;
  }
  QLineEdit::keyPressEvent(event);
}

void MeasureField::wheelEvent(QWheelEvent* event) {
  if (!hasFocus()) {
    event->ignore();
    return;
  }
  step_by(event->angleDelta().y() / 120.0 * (event->modifiers().testFlag(Qt::ShiftModifier) ? 10 : 1));
  event->accept();
}

void MeasureField::focusOutEvent(QFocusEvent* event) {
  QLineEdit::focusOutEvent(event);
  take_text();
}

void MeasureField::mouseDoubleClickEvent(QMouseEvent*) {
  selectAll();
}

void MeasureField::paintEvent(QPaintEvent* event) {
  QLineEdit::paintEvent(event);
  if (suffix().isEmpty())
    return;
  QPainter painter(this);
  painter.setPen(scheme().muted);
  painter.drawText(rect().adjusted(0, 0, -8, 0), Qt::AlignRight | Qt::AlignVCenter, suffix());
}

} // namespace frelm
