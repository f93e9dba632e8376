#include "app/pieces/pieces_model.h"

#include "app/style/words.h"

#include <QDataStream>
#include <QIODevice>
#include <QMimeData>

namespace frelm {

PiecesModel::PiecesModel(Session& session, QObject* parent) : QAbstractListModel(parent), session_(session) {}

bool PiecesModel::refresh() {
  const Document& d = session_.shown();
  if (from_ == d.pieces)
    return false;
  std::vector<Row> now;
  now.reserve(d.pieces.size());
  for (auto it = d.pieces.rbegin(); it != d.pieces.rend(); ++it) {
    const Piece& p = **it;
    now.push_back({p.id, piece_words(d, p).toStdString(), p.colour, p.destination,
                   p.guide() != nullptr && !p.is_shape(), p.visible, p.locked});
  }
  from_ = d.pieces;
  if (now == rows_)
    return false;
  const bool same_pieces = std::equal(now.begin(), now.end(), rows_.begin(), rows_.end(),
                                      [](const Row& a, const Row& b) { return a.id == b.id; });
  if (same_pieces) {
    rows_ = std::move(now);
    emit dataChanged(index(0), index(rowCount() - 1));
    return true;
  }
  beginResetModel();
  rows_ = std::move(now);
  endResetModel();
  return true;
}

void PiecesModel::nodes_changed() {
  if (!rows_.empty())
    emit dataChanged(index(0), index(rowCount() - 1), {NodesRole, ShortNodesRole, LayersRole});
}

int PiecesModel::row_of(PieceId id) const {
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i].id == id)
      return static_cast<int>(i);
  return -1;
}

int PiecesModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant PiecesModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount())
    return {};
  const Row& r = rows_[static_cast<std::size_t>(index.row())];
  const QString name = QString::fromStdString(r.name);
  switch (role) {
  case IdRole:
    return QVariant::fromValue<qulonglong>(r.id);
  case NameRole:
    return name.left(200);
  case ColourRole:
    return QColor(r.colour.r, r.colour.g, r.colour.b);
  case LayersRole: {
    QVariantList colours;
    const Session::LayersShown layers = session_.layers(r.id);
    const Piece* piece = session_.shown().find(r.id);
    if (layers.finished != nullptr && piece != nullptr)
      for (const PieceLayer& l : layers_of(*piece, *layers.finished))
        if (l.role != LayerRole::Letters || layers.finished->whole.outline != nullptr)
          colours.prepend(QColor(l.colour.r, l.colour.g, l.colour.b));
    return colours;
  }
  case GuideRole:
    return r.guide;
  case VisibleRole:
    return r.visible;
  case LockedRole:
    return r.locked;
  case DestinationRole:
    return static_cast<int>(r.destination);
  case NodesRole:
  case ShortNodesRole: {
    const bool cut = r.destination == Destination::Knife || r.destination == Destination::Pen;
    return r.guide && !cut     ? tr("guide")
           : role == NodesRole ? tr("%1 nodes").arg(session_.nodes(r.id))
                               : QString::number(session_.nodes(r.id));
  }
  case Qt::AccessibleTextRole: {
    QStringList said{name, destination_word(r.destination)};
    if (!r.visible)
      said << tr("hidden");
    if (r.locked)
      said << tr("locked");
    return said.join(", ");
  }
  case Qt::ToolTipRole:
    return name;
  default:
    return {};
  }
}

Qt::ItemFlags PiecesModel::flags(const QModelIndex& index) const {
  return index.isValid() ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsDragEnabled : Qt::ItemIsDropEnabled;
}

QMimeData* PiecesModel::mimeData(const QModelIndexList& indexes) const {
  QByteArray bytes;
  QDataStream stream(&bytes, QIODevice::WriteOnly);
  for (const QModelIndex& i : indexes)
    stream << quint64(data(i, IdRole).toULongLong());
  auto* mime = new QMimeData;
  mime->setData(mimeTypes().front(), bytes);
  return mime;
}

bool PiecesModel::dropMimeData(const QMimeData* data, Qt::DropAction, int row, int, const QModelIndex&) {
  if (!data->hasFormat(mimeTypes().front()))
    return false;
  std::vector<PieceId> ids;
  QDataStream stream(data->data(mimeTypes().front()));
  while (!stream.atEnd()) {
    quint64 id = 0;
    stream >> id;
    ids.push_back(id);
  }
  emit reordered(ids, row < 0 ? rowCount() : row);
  return false; // the session brings the new order; the view takes nothing away
}

} // namespace frelm
