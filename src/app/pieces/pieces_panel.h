// What exists: every piece with its colour, name, destination, eye and lock; the frontmost first; drag to reorder.
#pragma once

#include "app/window/session.h"

#include <QListWidget>

namespace frelm {

class PiecesPanel : public QWidget {
  Q_OBJECT

public:
  explicit PiecesPanel(Session& session, QWidget* parent = nullptr);
  QListWidget* list() const { return list_; }
  void restyle();

private:
  void rebuild();
  void show_selection();
  void show_nodes();
  void show_names();
  QWidget* row_for(const Piece& piece);
  void take_order();

  Session& session_;
  QListWidget* list_;
  std::vector<Piece> shown_;
  bool showing_ = false;
};

} // namespace frelm
