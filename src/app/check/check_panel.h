// The Cut check: a list of what the knife would meet, weight by shape and word. A click zooms to the place; the buttons
// under the list step through the places of one kind and cure the one that is chosen, or all of them.
// Below it, when asked for, how legible the selected lettering is by the figures of a standard.
#pragma once

#include "app/check/findings_model.h"
#include "app/session/session.h"

#include <QFrame>
#include <QLabel>
#include <QListView>
#include <QPushButton>
#include <QToolButton>

class QHBoxLayout;

namespace frelm {

class CheckPanel : public QWidget {
  Q_OBJECT

public:
  explicit CheckPanel(Session& session, QWidget* parent = nullptr);
  void restyle();
  QListView* list() const { return list_; }
  void step(int by); // to another place of the same kind

signals:
  void look_at(const Finding& finding);
  void cure(const std::vector<PieceId>& pieces, Cure cure);

protected:
  bool eventFilter(QObject* object, QEvent* event) override;

private:
  void show_findings();
  void show_actions();
  void show_legibility();
  void look(int row);

  Session& session_;
  QLabel* count_;
  FindingsModel* model_;
  QListView* list_;
  QWidget* actions_;
  QToolButton *before_, *after_;
  QLabel* place_;
  QWidget* cures_;
  QPushButton* legible_; // opens the readings of the selected lettering
  QFrame* readings_;
  QWidget* scroll_ = nullptr;                                  // about them
  std::vector<std::pair<Cure, std::vector<PieceId>>> offered_; // cures with a button, and the pieces each helps
  bool shown_empty_ = true;
};

} // namespace frelm
