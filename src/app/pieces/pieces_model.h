// The pieces as rows, the frontmost first: values that the list paints, so that thousands cost nothing until they are
// looked at. Under a piece that is unfolded stand the layers of its finish; by material, pieces and layers stand under
// the colour they are cut from. Rows of pieces can be dragged to another place in the drawing order.
#pragma once

#include "app/session/session.h"

#include <QAbstractListModel>
#include <map>
#include <set>

namespace frelm {

class PiecesModel : public QAbstractListModel {
  Q_OBJECT

public:
  enum Role {
    KindRole = Qt::UserRole,
    IdRole,
    NameRole,
    ColourRole,
    GuideRole,
    VisibleRole,
    LockedRole,
    DestinationRole,
    AboutRole,      // nodes; of a material what it takes of its sheet
    ShortAboutRole, // where the words don't fit
    LayersRole,     // colours of its other layers, front to back
    FoldRole,       // has layers to unfold: true while it is unfolded
    OnlyRole,       // the one material that the Knife view shows
    DepthRole,      // in so many groups
    LinkedRole      // copies that it is one of; 1: it is none
  };
  enum class RowKind { Piece, Layer, Material, Group };
  struct LayerOf {
    PieceId piece = 0;
    LayerRole role = LayerRole::Letters;
    int number = 1;
    bool operator==(const LayerOf&) const = default;
  };

  explicit PiecesModel(Session& session, QObject* parent = nullptr);
  // Takes over what the session shows; false where nothing that rows show has changed.
  bool refresh();
  void results_changed();
  bool by_material() const { return by_material_; }
  void set_by_material(bool on);
  void set_unfolded(std::uint64_t id, bool on); // a piece with its layers, or a group
  bool unfolded(std::uint64_t id) const { return unfolded_.contains(id); }
  int row_of(std::uint64_t id) const; // of the piece itself, or of the group; -1: none
  LayerOf layer_at(int row) const;
  Colour colour_at(int row) const;
  std::vector<PieceId> pieces_at(int row) const; // of a material all that are cut from it, of a group all in it
  GroupId group_at(int row) const;               // 0: it is none

  int rowCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }
  QStringList mimeTypes() const override { return {"application/x-frelm-rows"}; }
  QMimeData* mimeData(const QModelIndexList& indexes) const override;
  bool dropMimeData(const QMimeData* data, Qt::DropAction action, int row, int column,
                    const QModelIndex& parent) override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

signals:
  // In front of the piece that stands in the row now, and into the group that both neighbours stand in.
  void reordered(const std::vector<PieceId>& ids, PieceId before, GroupId into);
  void renamed(int row, const QString& name);

private:
  struct Row {
    RowKind kind = RowKind::Piece;
    LayerOf of;
    GroupId group = 0; // of a group's own row
    int depth = 0;
    std::string name;
    Colour colour;
    Destination destination = Destination::Knife;
    std::size_t copies = 1;
    bool guide = false, visible = true, locked = false, folds = false, unfolded = false;
    bool same_place(const Row& o) const { return kind == o.kind && of == o.of && group == o.group && depth == o.depth; }
    bool operator==(const Row&) const = default;
  };
  Row row_of_piece(const Piece& piece) const;
  void count_copies(std::vector<Row>& rows) const;
  std::vector<Row> layers_of_piece(const Piece& piece, const Row& row) const;
  struct Child {
    const Piece* piece = nullptr; // null: a group
    GroupId group = 0;
  };
  using Children = std::map<GroupId, std::vector<Child>>; // of each group, the frontmost first
  Children children() const;
  Row row_of_group(const Children& children, GroupId group) const;
  void add_rows(const Children& children, GroupId of, int depth, std::vector<Row>& out) const;
  std::vector<GroupId> groups_of_row(std::size_t row, bool within) const; // from the inside out
  std::vector<Row> rows_in_order() const;
  std::vector<Row> rows_by_material() const;
  std::string material_name(Colour colour) const;
  QString about(const Row& row, bool shortly) const;
  QString said(const Row& row) const;

  Session& session_;
  std::vector<Row> rows_;
  std::vector<std::shared_ptr<const Piece>> from_; // the pieces that the rows were made from, in drawing order
  std::vector<Material> materials_;                // and the list
  std::vector<PieceGroup> groups_;
  std::map<std::uint64_t, int> places_; // rows of pieces and groups
  std::set<std::uint64_t> unfolded_;
  bool by_material_ = false, stale_ = true;
};

} // namespace frelm
