// The Gap strip: its heading with what is chosen and the actions on all gaps, over the view of the run.
#pragma once

#include "app/strip/gap_view.h"
#include "app/style/short_label.h"

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
  // To one line with what it is about.
  void set_folded(bool folded);
  bool folded() const { return folded_; }
  int folded_height() const; // px
  QPushButton* even() const { return even_; }
  QPushButton* keep() const { return keep_; }
  QPushButton* reset() const { return reset_; }
  QString about() const { return about_->words(); }

signals:
  void fold_wanted(bool folded);

private:
  void refresh();
  void toggle(SpacingMode mode, bool on);

  Session& session_;
  GapView* view_;
  ShortLabel* about_;
  QLabel* line_;
  QPushButton *even_, *keep_, *spread_, *reset_;
  QToolButton *back_, *on_, *fold_;
  bool folded_ = false;
};

} // namespace frelm
