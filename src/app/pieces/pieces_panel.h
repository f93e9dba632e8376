// What exists: every piece with its colour, name, destination, eye and lock; the frontmost first; drag to reorder. What
// a row's marks do stands in its menu too, for the keyboard.
#pragma once

#include "app/pieces/pieces_model.h"

#include <QListView>

namespace frelm {

class PieceRow;

class PiecesPanel : public QWidget {
  Q_OBJECT

public:
  explicit PiecesPanel(Session& session, QWidget* parent = nullptr);
  QListView* list() const { return list_; }
  void restyle();
  // The parts of a row that can be clicked.
  enum class Part { Row, Colour, Eye, Lock, Destination };
  QRect part(int row, Part part) const; // px in the list's viewport

private:
  void refresh();
  void show_selection();
  void take_selection();
  void reorder(const std::vector<PieceId>& ids, int to_row);
  void do_part(PieceId id, Part part, QPoint at);
  void row_menu(QPoint at);
  bool eventFilter(QObject* object, QEvent* event) override;

  Session& session_;
  PiecesModel* model_;
  QListView* list_;
  PieceRow* painter_;
  bool showing_ = false;
};

} // namespace frelm
