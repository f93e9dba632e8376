// The Cut check: a list of what the knife would meet, weight by shape and word. A click zooms to the place; the buttons
// under the list step through the places of one kind and cure the one that is chosen, or all of them.
// What can stay is set aside with a reason. Below it, when asked for, the parts that each sheet falls into, and how
// legible the selected lettering is by the figures of a standard.
#pragma once

#include "app/check/findings_model.h"
#include "app/check/parts_list.h"
#include "app/session/session.h"

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
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
  PartsList& parts() { return *parts_; }
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
  void set_aside(const QString& reason); // what is chosen
  void look(int row);

  Session& session_;
  QLabel* count_;
  FindingsModel* model_;
  QListView* list_;
  QWidget* actions_;
  QToolButton *before_, *after_;
  QLabel* place_;
  QWidget* cures_;
  QWidget* aside_; // the reason, and the button that takes it
  QLineEdit* reason_;
  QPushButton* taken_back_;
  QPushButton* in_parts_; // opens the parts
  PartsList* parts_;
  QPushButton* legible_; // opens the readings of the selected lettering
  QFrame* readings_;
  QWidget* scroll_ = nullptr;                                  // about them
  std::vector<std::pair<Cure, std::vector<PieceId>>> offered_; // cures with a button, and the pieces each helps
  bool shown_empty_ = true;
};

} // namespace frelm
