// A field for one measure. Takes units, fractions and sums; arrows and the wheel step; Esc brings the old value back;
// what can't be read stays in the field, marked, with the reason as its tooltip.
#pragma once

#include "document/measure.h"

#include <QLineEdit>

namespace frelm {

class MeasureField : public QLineEdit {
  Q_OBJECT

public:
  MeasureField(MeasureKind kind, const QString& name, QWidget* parent = nullptr);

  void set_unit(Unit unit);
  void set_kind(MeasureKind kind);
  void set_range(double low, double high); // in mm, degrees or percent
  void set_step(double step);              // of one arrow press, in the field's own unit
  // 0 is no measure but "as usual": the field is empty then, these words faint in it, and typing nothing gives 0.
  void set_usual(const QString& words);
  void show_value(double value); // leaves text alone that is being typed
  double value() const { return value_; }
  QSize minimumSizeHint() const override; // seven digits and the unit

signals:
  // stepped: by arrows or wheel; several may belong together.
  void edited(double value, bool stepped);

protected:
  void keyPressEvent(QKeyEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

private:
  QString text_of(double value) const;
  QString suffix() const;
  void take_text();
  void step_by(double steps);
  void set_fault(const QString& reason);

  MeasureKind kind_;
  Unit unit_ = Unit::Millimetre;
  double value_ = 0, low_ = -1e6, high_ = 1e6, step_ = 1;
  QString hint_, tip_; // tip_: the tooltip while a fault is told in its place
  bool typing_ = false, zero_is_usual_ = false;
};

} // namespace frelm
