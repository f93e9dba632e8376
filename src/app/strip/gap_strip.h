// The Gap strip: its heading with what is chosen and the actions on all gaps, over the view of the run.
#pragma once

#include "app/strip/gap_view.h"

#include <QLabel>
#include <QPushButton>
#include <QToolButton>

namespace frelm {

class GapStrip : public QWidget {
  Q_OBJECT

public:
  explicit GapStrip(Session& session, QWidget* parent = nullptr);
  GapView* view() const { return view_; }
  void restyle();
  void set_folded(bool folded);
  bool folded() const { return !view_->isVisibleTo(this); }
  QPushButton* even() const { return even_; }
  QPushButton* keep() const { return keep_; }
  QPushButton* reset() const { return reset_; }
  QString about() const { return about_words_; }

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void refresh();
  void toggle(SpacingMode mode, bool on);
  void show_about(); // as much as there is room for

  Session& session_;
  GapView* view_;
  QLabel *about_, *line_;
  QString about_words_;
  QPushButton *even_, *keep_, *reset_;
  QToolButton *back_, *on_, *fold_;
};

} // namespace frelm
