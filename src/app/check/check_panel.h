// The Cut check as a list: weight by shape and word, a click zooms to the place, a button cures what can be cured.
// Below it, when asked for, how legible the selected lettering is by the figures of a standard.
#pragma once

#include "app/window/session.h"

#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace frelm {

class CheckPanel : public QWidget {
  Q_OBJECT

public:
  explicit CheckPanel(Session& session, QWidget* parent = nullptr);
  void restyle();
  QWidget* first_finding() const;

signals:
  void look_at(const Finding& finding);

private:
  void rebuild();
  void show_legibility();

  Session& session_;
  QLabel* count_;
  QFrame* list_;
  QPushButton* legible_; // opens the readings of the selected lettering
  QFrame* readings_;
  std::vector<Finding> shown_;
  bool any_ = false;
};

} // namespace frelm
