// The Gap strip: the run unrolled, the guide laid straight, every gap measured. Scrolls and zooms; read-only.
#pragma once

#include "app/canvas/painter.h"

#include <QLabel>
#include <QToolButton>
#include <QWidget>

namespace frelm {

class GapView : public QWidget {
  Q_OBJECT

public:
  explicit GapView(Session& session, QWidget* parent = nullptr);
  void set_line(std::size_t line);
  std::size_t line() const { return line_; }
  std::size_t line_count() const;
  void fit();
  QSize sizeHint() const override { return {600, 118}; }
  // The px of a place along the guide, for tests and tips.
  double x_of(double s) const;

protected:
  void paintEvent(QPaintEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  bool event(QEvent* event) override;

private:
  struct Range {
    double from = 0, to = 1; // mm along the guide
  };
  std::shared_ptr<const SeatedText> text() const;
  Range whole() const;
  double px_per_mm() const;
  double axis_px() const;    // above the band
  double numbers_px() const; // below it: brackets and numbers
  void move_range(double by_mm);
  void paint_axis(QPainter& painter, const SeatedText& text, double baseline) const;
  void paint_gaps(QPainter& painter, const SeatedText& text, double top) const;

  Session& session_;
  PathCache paths_;
  std::size_t line_ = 0;
  Range range_;
  bool fitted_ = true;
  double pan_from_ = 0;
};

class GapStrip : public QWidget {
  Q_OBJECT

public:
  explicit GapStrip(Session& session, QWidget* parent = nullptr);
  GapView* view() const { return view_; }
  void restyle();
  void set_folded(bool folded);
  bool folded() const { return !view_->isVisibleTo(this); }

private:
  void refresh();

  Session& session_;
  GapView* view_;
  QLabel *about_, *line_;
  QToolButton *back_, *on_, *fold_;
};

} // namespace frelm
