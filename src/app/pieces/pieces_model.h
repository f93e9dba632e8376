// The pieces as rows, the frontmost first: values that the list paints, so that thousands cost nothing until they are
// looked at. Rows can be dragged to another place in the drawing order.
#pragma once

#include "app/session/session.h"

#include <QAbstractListModel>

namespace frelm {

class PiecesModel : public QAbstractListModel {
  Q_OBJECT

public:
  enum Role {
    IdRole = Qt::UserRole,
    NameRole,
    ColourRole,
    GuideRole,
    VisibleRole,
    LockedRole,
    DestinationRole,
    NodesRole,
    LayersRole,    // colours of its other layers, front to back
    ShortNodesRole // where the words don't fit
  };

  explicit PiecesModel(Session& session, QObject* parent = nullptr);
  // Takes over what the session shows; false where nothing that rows show has changed.
  bool refresh();
  void nodes_changed();
  int row_of(PieceId id) const; // -1: none

  int rowCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }
  QStringList mimeTypes() const override { return {"application/x-frelm-rows"}; }
  QMimeData* mimeData(const QModelIndexList& indexes) const override;
  bool dropMimeData(const QMimeData* data, Qt::DropAction action, int row, int column,
                    const QModelIndex& parent) override;

signals:
  void reordered(const std::vector<PieceId>& ids, int to_row); // before the row that stands there now

private:
  struct Row {
    PieceId id = 0;
    std::string name;
    Colour colour;
    Destination destination = Destination::Knife;
    bool guide = false, visible = true, locked = false;
    bool operator==(const Row&) const = default;
  };
  Session& session_;
  std::vector<Row> rows_;
  std::vector<std::shared_ptr<const Piece>> from_; // the pieces that the rows were made from, in drawing order
};

} // namespace frelm
