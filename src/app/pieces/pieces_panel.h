// What exists: every piece with its colour, name, destination, eye and lock; the frontmost first; drag to reorder. The
// layers of a finish unfold under their piece; by material, all stands under what it is cut from. What a row's marks do
// stands in its menu too, for the keyboard.
#pragma once

#include "app/pieces/pieces_model.h"

#include <QListView>
#include <QToolButton>

namespace frelm {

class PieceRow;

class PiecesPanel : public QWidget {
  Q_OBJECT

public:
  explicit PiecesPanel(Session& session, QWidget* parent = nullptr);
  QListView* list() const { return list_; }
  void restyle();
  // The parts of a row that can be clicked.
  enum class Part { Row, Colour, Fold, Eye, Lock, Destination };
  QRect part(int row, Part part) const; // px in the list's viewport

signals:
  void materials_wanted(); // the page with the list

private:
  void refresh();
  void show_selection();
  void take_selection();
  void reorder(const std::vector<PieceId>& ids, PieceId before, GroupId into);
  void rename(int row, const QString& name);
  void unfold_to_selection();
  std::vector<Part> parts(const QModelIndex& index) const; // that its row has
  QString tip(const QModelIndex& index, Part part) const;
  void do_part(const QModelIndex& index, Part part, QPoint at);
  void do_group_part(GroupId group, const QModelIndex& index, Part part);
  void set_colour(const PiecesModel::LayerOf& of, Colour colour);
  void set_destination(const PiecesModel::LayerOf& of, Destination destination);
  void row_menu(QPoint at);
  bool eventFilter(QObject* object, QEvent* event) override;

  Session& session_;
  PiecesModel* model_;
  QListView* list_;
  PieceRow* painter_;
  QToolButton* by_material_;
  bool showing_ = false;
};

} // namespace frelm
