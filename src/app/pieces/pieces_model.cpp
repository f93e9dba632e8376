#include "app/pieces/pieces_model.h"

#include "app/style/words.h"
#include "document/measure.h"
#include "document/piece_groups.h"
#include "lettering/finish_edit.h"

#include <QDataStream>
#include <QIODevice>
#include <QMimeData>

namespace frelm {
namespace {

QColor screen_colour(Colour c) {
  return {c.r, c.g, c.b};
}

} // namespace

PiecesModel::PiecesModel(Session& session, QObject* parent) : QAbstractListModel(parent), session_(session) {}

PiecesModel::Row PiecesModel::row_of_piece(const Piece& p) const {
  Row row;
  row.of = {p.id, LayerRole::Letters, 1};
  row.name = piece_words(session_.shown(), p).toStdString();
  row.colour = p.colour, row.destination = p.destination;
  row.guide = p.guide() != nullptr && !p.is_shape(), row.visible = p.visible, row.locked = p.locked;
  if (p.finish() != nullptr)
    for_each_layer(*p.finish(), [&](LayerRole, int, const Colour&, const Destination&) { row.folds = true; });
  row.unfolded = row.folds && unfolded_.contains(p.id);
  return row;
}

// All at once: thousands may be linked.
void PiecesModel::count_copies(std::vector<Row>& rows) const {
  std::map<std::uint64_t, std::size_t> of;
  std::map<PieceId, std::uint64_t> thing;
  for (const auto& p : session_.shown().pieces)
    if (p->link)
      ++of[p->link->of], thing[p->id] = p->link->of;
  for (Row& row : rows)
    if (const auto it = thing.find(row.of.piece); row.kind == RowKind::Piece && it != thing.end())
      row.copies = of[it->second];
}

std::vector<PiecesModel::Row> PiecesModel::layers_of_piece(const Piece& piece, const Row& row) const {
  std::vector<Row> out;
  if (piece.finish() == nullptr)
    return out;
  for_each_layer(*piece.finish(), [&](LayerRole role, int number, const Colour& colour, const Destination& to) {
    Row layer = row;
    layer.kind = RowKind::Layer, layer.of = {piece.id, role, number};
    layer.colour = colour, layer.destination = to, layer.folds = layer.unfolded = false;
    layer.name = (role == LayerRole::Ring ? tr("Ring %1").arg(number)
                  : number == 1           ? tr("Shade")
                                          : tr("Shade %1").arg(number))
                     .toStdString();
    out.push_back(std::move(layer));
  });
  return out;
}

PiecesModel::Children PiecesModel::children() const {
  const Document& d = session_.shown();
  std::map<GroupId, GroupId> inside;
  for (const PieceGroup& g : d.groups)
    inside[g.id] = g.inside;
  Children out;
  std::set<GroupId> listed;
  for (auto it = d.pieces.rbegin(); it != d.pieces.rend(); ++it) {
    GroupId group = inside.contains((*it)->group) ? (*it)->group : 0;
    out[group].push_back({it->get(), 0});
    while (group != 0 && listed.insert(group).second) {
      out[inside[group]].push_back({nullptr, group});
      group = inside[group];
    }
  }
  return out;
}

PiecesModel::Row PiecesModel::row_of_group(const Children& children, GroupId group) const {
  Row row;
  row.kind = RowKind::Group, row.group = group, row.folds = true, row.unfolded = unfolded_.contains(group);
  row.visible = false, row.locked = true;
  std::vector<GroupId> look{group};
  std::size_t n = 0;
  while (!look.empty()) {
    const GroupId of = look.back();
    look.pop_back();
    for (const Child& c : children.at(of)) {
      if (c.piece == nullptr)
        look.push_back(c.group);
      else
        row.visible = row.visible || c.piece->visible, row.locked = row.locked && c.piece->locked, ++n;
    }
  }
  const PieceGroup* own = group_of(session_.shown(), group);
  row.name = own != nullptr && !own->name.empty() ? own->name : tr("Group of %1").arg(n).toStdString();
  return row;
}

void PiecesModel::add_rows(const Children& children, GroupId of, int depth, std::vector<Row>& out) const {
  const auto own = children.find(of);
  if (own == children.end())
    return;
  for (const Child& c : own->second) {
    const std::size_t first = out.size();
    if (c.piece == nullptr) {
      out.push_back(row_of_group(children, c.group));
      out.back().depth = depth;
      if (out.back().unfolded)
        add_rows(children, c.group, depth + 1, out);
      continue;
    }
    out.push_back(row_of_piece(*c.piece));
    if (out.back().unfolded) {
      const std::vector<Row> layers = layers_of_piece(*c.piece, out.back());
      out.insert(out.end(), layers.begin(), layers.end());
    }
    for (std::size_t i = first; i < out.size(); ++i)
      out[i].depth = depth;
  }
}

std::vector<PiecesModel::Row> PiecesModel::rows_in_order() const {
  std::vector<Row> out;
  out.reserve(session_.shown().pieces.size());
  add_rows(children(), 0, 0, out);
  return out;
}

std::string PiecesModel::material_name(Colour colour) const {
  const Material* m = material_of(session_.shown().materials, colour);
  return m != nullptr && !m->name.empty() ? m->name : to_hex(colour);
}

// Materials in the order of the list, then other colours as they come; guides last.
std::vector<PiecesModel::Row> PiecesModel::rows_by_material() const {
  const Document& d = session_.shown();
  std::vector<Colour> order;
  std::map<Colour, std::vector<Row>> sheets;
  std::vector<Row> guides;
  for (const Material& m : d.materials)
    order.push_back(m.colour);
  const auto put = [&](Row row) {
    if (std::find(order.begin(), order.end(), row.colour) == order.end())
      order.push_back(row.colour);
    sheets[row.colour].push_back(std::move(row));
  };
  for (auto it = d.pieces.rbegin(); it != d.pieces.rend(); ++it) {
    Row row = row_of_piece(**it);
    row.folds = row.unfolded = false;
    if (row.guide || row.destination == Destination::Guide) {
      guides.push_back(std::move(row));
      continue;
    }
    put(row);
    for (Row& layer : layers_of_piece(**it, row)) {
      layer.name = // what tells it apart first: the rest may be cut short
          tr("%1 · %2").arg(QString::fromStdString(layer.name), QString::fromStdString(row.name)).toStdString();
      put(std::move(layer));
    }
  }
  std::vector<Row> out;
  const auto heading = [&](const std::string& name, Colour colour, bool guide) {
    Row row;
    row.kind = RowKind::Material, row.name = name, row.colour = colour, row.guide = guide;
    out.push_back(std::move(row));
  };
  for (const Colour c : order)
    if (const auto& rows = sheets[c]; !rows.empty()) {
      heading(material_name(c), c, false);
      out.insert(out.end(), rows.begin(), rows.end());
    }
  if (!guides.empty()) {
    heading(tr("Guides").toStdString(), guides.front().colour, true);
    out.insert(out.end(), guides.begin(), guides.end());
  }
  return out;
}

bool PiecesModel::refresh() {
  const Document& d = session_.shown();
  if (!stale_ && from_ == d.pieces && materials_ == d.materials && groups_ == d.groups)
    return false;
  from_ = d.pieces, materials_ = d.materials, groups_ = d.groups, stale_ = false;
  std::vector<Row> now = by_material_ ? rows_by_material() : rows_in_order();
  count_copies(now);
  if (now == rows_)
    return false;
  places_.clear();
  for (std::size_t i = 0; i < now.size(); ++i)
    if (now[i].kind == RowKind::Piece || now[i].kind == RowKind::Group)
      places_.emplace(now[i].kind == RowKind::Group ? now[i].group : now[i].of.piece, static_cast<int>(i));
  const bool same = std::equal(now.begin(), now.end(), rows_.begin(), rows_.end(),
                               [](const Row& a, const Row& b) { return a.same_place(b); });
  if (same) {
    rows_ = std::move(now);
    emit dataChanged(index(0), index(rowCount() - 1));
    return true;
  }
  beginResetModel();
  rows_ = std::move(now);
  endResetModel();
  return true;
}

void PiecesModel::results_changed() {
  if (!rows_.empty())
    emit dataChanged(index(0), index(rowCount() - 1), {AboutRole, ShortAboutRole, LayersRole, OnlyRole});
}

void PiecesModel::set_by_material(bool on) {
  stale_ = stale_ || by_material_ != on;
  by_material_ = on;
}

void PiecesModel::set_unfolded(std::uint64_t id, bool on) {
  stale_ = true;
  if (on)
    unfolded_.insert(id);
  else
    unfolded_.erase(id);
}

int PiecesModel::row_of(std::uint64_t id) const {
  const auto it = places_.find(id);
  return it != places_.end() ? it->second : -1;
}

GroupId PiecesModel::group_at(int row) const {
  return row >= 0 && row < rowCount() ? rows_[static_cast<std::size_t>(row)].group : 0;
}

PiecesModel::LayerOf PiecesModel::layer_at(int row) const {
  return row >= 0 && row < rowCount() ? rows_[static_cast<std::size_t>(row)].of : LayerOf{};
}

Colour PiecesModel::colour_at(int row) const {
  return row >= 0 && row < rowCount() ? rows_[static_cast<std::size_t>(row)].colour : Colour{};
}

std::vector<PieceId> PiecesModel::pieces_at(int row) const {
  if (row < 0 || row >= rowCount())
    return {};
  const auto at = static_cast<std::size_t>(row);
  if (rows_[at].kind == RowKind::Group)
    return members_of(session_.shown(), rows_[at].group, Members::All);
  if (rows_[at].kind != RowKind::Material)
    return {rows_[at].of.piece};
  std::vector<PieceId> out;
  std::set<PieceId> seen;
  for (std::size_t i = at + 1; i < rows_.size() && rows_[i].kind != RowKind::Material; ++i)
    if (seen.insert(rows_[i].of.piece).second)
      out.push_back(rows_[i].of.piece);
  return out;
}

int PiecesModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QString PiecesModel::about(const Row& row, bool shortly) const {
  if (row.kind == RowKind::Group)
    return {};
  if (row.kind == RowKind::Material) {
    const Unit unit = session_.document().unit;
    for (const MaterialUse& use : session_.materials_used())
      if (use.colour == row.colour && !row.guide)
        return shortly
                   ? tr("%1 × %2").arg(length_text(use.box.width(), unit, 0), length_text(use.box.height(), unit, 0))
                   : tr("%1 × %2 %3")
                         .arg(length_text(use.box.width(), unit, 0), length_text(use.box.height(), unit, 0),
                              unit_name(unit));
    return {};
  }
  const bool cut = row.destination == Destination::Knife || row.destination == Destination::Pen;
  if (row.guide && !cut)
    return tr("guide");
  std::size_t nodes = session_.nodes(row.of.piece);
  if (row.kind == RowKind::Layer) {
    const Session::LayersShown layers = session_.layers(row.of.piece);
    nodes = 0;
    if (layers.finished != nullptr)
      for (const Layer& l : layers.finished->layers)
        if (l.role == row.of.role && l.number == row.of.number)
          nodes = l.outline->node_count();
  }
  return shortly ? QString::number(nodes) : tr("%1 nodes").arg(nodes);
}

QString PiecesModel::said(const Row& row) const {
  QStringList said{QString::fromStdString(row.name)};
  if (row.kind == RowKind::Material)
    return (said << tr("material") << about(row, false)).join(", ");
  said << (row.kind == RowKind::Group ? tr("group") : destination_word(row.destination));
  if (!row.visible)
    said << tr("hidden");
  if (row.locked)
    said << tr("locked");
  if (row.copies > 1)
    said << tr("one of %1 linked copies").arg(row.copies);
  if (row.folds)
    said << (row.unfolded ? tr("unfolded") : tr("folded"));
  return said.join(", ");
}

QVariant PiecesModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount())
    return {};
  const Row& r = rows_[static_cast<std::size_t>(index.row())];
  switch (role) {
  case KindRole:
    return static_cast<int>(r.kind);
  case IdRole:
    return QVariant::fromValue<qulonglong>(r.kind == RowKind::Group ? r.group : r.of.piece);
  case DepthRole:
    return r.depth;
  case NameRole:
  case Qt::EditRole:
    return QString::fromStdString(r.name).left(200);
  case ColourRole:
    return screen_colour(r.colour);
  case LayersRole: {
    QVariantList colours;
    const Session::LayersShown layers = session_.layers(r.of.piece);
    const Piece* piece = session_.shown().find(r.of.piece);
    if (r.kind == RowKind::Piece && !r.unfolded && !by_material_ && layers.finished != nullptr && piece != nullptr)
      for (const PieceLayer& l : layers_of(*piece, *layers.finished))
        if (l.role != LayerRole::Letters || layers.finished->whole.outline != nullptr)
          colours.prepend(screen_colour(l.colour));
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
  case AboutRole:
  case ShortAboutRole:
    return about(r, role == ShortAboutRole);
  case FoldRole:
    return r.folds ? QVariant(r.unfolded) : QVariant();
  case LinkedRole:
    return QVariant::fromValue<qulonglong>(r.copies);
  case OnlyRole:
    return r.kind == RowKind::Material && !r.guide && session_.only_material() == r.colour;
  case Qt::AccessibleTextRole:
    return said(r);
  case Qt::ToolTipRole:
    return QString::fromStdString(r.name);
  default:
    return {};
  }
}

Qt::ItemFlags PiecesModel::flags(const QModelIndex& index) const {
  if (!index.isValid())
    return Qt::ItemIsDropEnabled;
  const auto kind = static_cast<RowKind>(index.data(KindRole).toInt());
  const bool moves = !by_material_ && (kind == RowKind::Piece || kind == RowKind::Group);
  return Qt::ItemIsEnabled | Qt::ItemIsSelectable |
         (moves ? Qt::ItemIsDragEnabled | Qt::ItemIsEditable : Qt::NoItemFlags);
}

// A group's own row stands in it where it is unfolded and what comes under it is meant.
std::vector<GroupId> PiecesModel::groups_of_row(std::size_t row, bool within) const {
  const Row& r = rows_[row];
  const GroupId own = r.kind == RowKind::Group ? r.group : 0;
  const std::vector<PieceId> pieces = pieces_at(static_cast<int>(row));
  std::vector<GroupId> out = pieces.empty() ? std::vector<GroupId>{} : groups_around(session_.shown(), pieces.front());
  if (own != 0) {
    const auto it = std::find(out.begin(), out.end(), own);
    out.erase(out.begin(), it == out.end() || (within && r.unfolded) ? it : it + 1);
  }
  return out;
}

bool PiecesModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (!index.isValid() || role != Qt::EditRole || value.toString() == data(index, NameRole).toString())
    return false;
  emit renamed(index.row(), value.toString().trimmed());
  return true;
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
  if (!data->hasFormat(mimeTypes().front()) || by_material_)
    return false;
  std::vector<PieceId> ids;
  QDataStream stream(data->data(mimeTypes().front()));
  while (!stream.atEnd()) {
    quint64 id = 0;
    stream >> id;
    ids.push_back(id);
  }
  std::vector<PieceId> moved; // groups by what is in them
  for (const std::uint64_t id : ids)
    if (group_of(session_.shown(), id) != nullptr) {
      const std::vector<PieceId> members = members_of(session_.shown(), id, Members::All);
      moved.insert(moved.end(), members.begin(), members.end());
    } else {
      moved.push_back(id);
    }
  // Among a piece's layers: behind the piece.
  std::size_t at = row < 0 ? rows_.size() : static_cast<std::size_t>(row);
  while (at < rows_.size() && rows_[at].kind == RowKind::Layer)
    ++at;
  PieceId before = 0;
  GroupId into = 0;
  if (at < rows_.size()) {
    const std::vector<PieceId> here = pieces_at(static_cast<int>(at));
    before = here.empty() ? 0 : here.back();
    if (at > 0) {
      const std::vector<GroupId> above = groups_of_row(at - 1, true), below = groups_of_row(at, false);
      for (auto g = above.rbegin(), h = below.rbegin(); g != above.rend() && h != below.rend() && *g == *h; ++g, ++h)
        into = *g;
    }
  }
  emit reordered(moved, before, into);
  return false; // the session brings the new order; the view takes nothing away
}

} // namespace frelm
