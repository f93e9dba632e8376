#include "app/pieces/pieces_panel.h"

#include "app/style/words.h"

#include "app/style/colour_menu.h"
#include "app/style/scheme.h"

#include <QHelpEvent>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QToolTip>
#include <QVBoxLayout>

namespace frelm {

// Paints a row and knows where its parts are. Two lines: swatch and name; nodes, eye, lock, destination.
class PieceRow final : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  using Part = PiecesPanel::Part;

  void restyle() { icons_.clear(); }

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
    return {100, 2 * line(option.fontMetrics) + 8};
  }

  static QRect part(const QRect& row, const QFontMetrics& metrics, Part part) {
    const int side = line(metrics), top = row.top() + 4, second = top + side;
    const int pill = widest_pill(metrics), right = row.right() - 6;
    switch (part) {
    case Part::Colour:
      return {row.left() + 6, top, side, side};
    case Part::Destination:
      return {right - pill, second, pill, side};
    case Part::Lock:
      return {right - pill - 4 - side, second, side, side};
    case Part::Eye:
      return {right - pill - 8 - 2 * side, second, side, side};
    case Part::Row:
      break;
    }
    return row;
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Scheme& s = scheme();
    const QFontMetrics& metrics = option.fontMetrics;
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    if (option.state & QStyle::State_Selected) {
      painter->setPen(Qt::NoPen);
      painter->setBrush(s.teal_soft);
      painter->drawRoundedRect(QRectF(option.rect).adjusted(1, 0, -1, 0), 4, 4);
    }
    if (option.state & QStyle::State_HasFocus) {
      painter->setPen(QPen(s.teal, 1));
      painter->setBrush(Qt::NoBrush);
      painter->drawRoundedRect(QRectF(option.rect).adjusted(1.5, 0.5, -1.5, -0.5), 4, 4);
    }
    const QRect swatch = part(option.rect, metrics, Part::Colour).adjusted(2, 2, -2, -2);
    const QColor colour = index.data(PiecesModel::ColourRole).value<QColor>();
    const bool guide = index.data(PiecesModel::GuideRole).toBool(),
               visible = index.data(PiecesModel::VisibleRole).toBool();
    painter->setPen(guide ? QPen(colour, 1.2, Qt::DashLine) : QPen(s.dark ? s.muted : s.lines, 1)); // ink is dark too
    painter->setBrush(guide ? QBrush(Qt::NoBrush) : QBrush(colour));
    painter->drawRoundedRect(swatch, 3, 3);
    const QRect eye = part(option.rect, metrics, Part::Eye), lock = part(option.rect, metrics, Part::Lock);
    const int left = part(option.rect, metrics, Part::Colour).right() + 6;
    const QRect name(left, option.rect.top() + 4, option.rect.right() - 8 - left, line(metrics));
    const QVariantList layers = index.data(PiecesModel::LayersRole).toList();
    const int chip = 10, chips = static_cast<int>(std::min<qsizetype>(layers.size(), 3)) * (chip + 3);
    painter->setPen(QPen(s.dark ? s.muted : s.lines, 1));
    for (int i = 0; i * (chip + 3) < chips; ++i) {
      painter->setBrush(layers[i].value<QColor>());
      painter->drawRoundedRect(
          QRect(name.right() - chips + i * (chip + 3) + 3, name.center().y() - chip / 2, chip, chip), 2, 2);
    }
    painter->setPen(visible ? s.text : s.faint);
    painter->drawText(
        name, Qt::AlignLeft | Qt::AlignVCenter,
        metrics.elidedText(index.data(PiecesModel::NameRole).toString(), Qt::ElideRight, name.width() - chips));
    painter->setPen(s.muted);
    const int room = eye.left() - left - 2;
    QString nodes = index.data(PiecesModel::NodesRole).toString();
    if (metrics.horizontalAdvance(nodes) > room)
      nodes = index.data(PiecesModel::ShortNodesRole).toString();
    painter->drawText(QRect(left, eye.top(), room, eye.height()), Qt::AlignLeft | Qt::AlignVCenter,
                      metrics.elidedText(nodes, Qt::ElideRight, room));
    icon_of(visible ? "eye" : "eye-shut").paint(painter, eye.adjusted(1, 1, -1, -1));
    icon_of(index.data(PiecesModel::LockedRole).toBool() ? "lock" : "lock-open")
        .paint(painter, lock.adjusted(1, 1, -1, -1));
    const QRect pill = part(option.rect, metrics, Part::Destination);
    painter->setPen(QPen(s.lines, 1));
    painter->setBrush(s.field);
    painter->drawRoundedRect(QRectF(pill).adjusted(0.5, 1.5, -0.5, -1.5), 9, 9);
    painter->setPen(s.text);
    painter->drawText(pill, Qt::AlignCenter,
                      destination_word(static_cast<Destination>(index.data(PiecesModel::DestinationRole).toInt())));
    painter->restore();
  }

private:
  static int line(const QFontMetrics& metrics) { return std::max(20, metrics.height() + 3); }
  static int widest_pill(const QFontMetrics& metrics) {
    int widest = 0;
    for (int i = 0; i < 4; ++i)
      widest = std::max(widest, metrics.horizontalAdvance(destination_word(static_cast<Destination>(i))));
    return widest + 14;
  }
  const QIcon& icon_of(const char* name) const {
    QIcon& known = icons_[name];
    if (known.isNull())
      known = icon(name);
    return known;
  }
  mutable std::map<std::string, QIcon> icons_;
};

PiecesPanel::PiecesPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), model_(new PiecesModel(session, this)), list_(new QListView),
      painter_(new PieceRow(this)) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(6);
  auto* heading = new QLabel(tr("Pieces"));
  heading->setObjectName("heading");
  all->addWidget(heading);
  all->addWidget(list_);
  list_->setModel(model_);
  list_->setItemDelegate(painter_);
  list_->setUniformItemSizes(true);
  list_->setAccessibleName(tr("Pieces, the frontmost first"));
  list_->setMinimumWidth(list_->fontMetrics().averageCharWidth() * 23);
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  list_->viewport()->installEventFilter(this);
  connect(list_, &QWidget::customContextMenuRequested, this, &PiecesPanel::row_menu);
  connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &PiecesPanel::take_selection);
  connect(model_, &PiecesModel::reordered, this, &PiecesPanel::reorder, Qt::QueuedConnection);
  connect(&session, &Session::document_changed, this, &PiecesPanel::refresh);
  connect(&session, &Session::selection_changed, this, &PiecesPanel::show_selection);
  connect(&session, &Session::results_changed, model_, &PiecesModel::nodes_changed);
  refresh();
}

void PiecesPanel::restyle() {
  painter_->restyle();
  list_->viewport()->update();
}

QRect PiecesPanel::part(int row, Part part) const {
  return PieceRow::part(list_->visualRect(model_->index(row)), list_->fontMetrics(), part);
}

void PiecesPanel::refresh() {
  showing_ = true;
  const bool changed = model_->refresh();
  showing_ = false;
  if (changed)
    show_selection();
}

void PiecesPanel::show_selection() {
  showing_ = true;
  QItemSelection rows;
  QModelIndex last;
  for (const PieceId id : session_.selection())
    if (const int row = model_->row_of(id); row >= 0) {
      last = model_->index(row);
      rows.select(last, last);
    }
  list_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect);
  if (session_.selection().size() == 1 && last.isValid())
    list_->selectionModel()->setCurrentIndex(last, QItemSelectionModel::NoUpdate);
  showing_ = false;
}

void PiecesPanel::take_selection() {
  if (showing_)
    return;
  std::vector<std::pair<int, PieceId>> rows;
  for (const QModelIndex& i : list_->selectionModel()->selectedIndexes())
    rows.emplace_back(i.row(), i.data(PiecesModel::IdRole).toULongLong());
  std::sort(rows.rbegin(), rows.rend()); // from the back
  std::vector<PieceId> ids;
  for (const auto& [row, id] : rows)
    ids.push_back(id);
  session_.select(std::move(ids));
}

void PiecesPanel::reorder(const std::vector<PieceId>& ids, int to_row) {
  // Rows count from the front, the drawing order from the back.
  Document document = session_.document();
  const auto count = static_cast<int>(document.pieces.size());
  std::vector<std::shared_ptr<const Piece>> taken, rest;
  std::size_t at = 0;
  for (std::size_t i = 0; i < document.pieces.size(); ++i) {
    const auto& p = document.pieces[i];
    const bool moves = std::find(ids.begin(), ids.end(), p->id) != ids.end();
    (moves ? taken : rest).push_back(p);
    if (static_cast<int>(i) < count - to_row && !moves)
      at = rest.size();
  }
  rest.insert(rest.begin() + static_cast<std::ptrdiff_t>(at), taken.begin(), taken.end());
  if (rest == document.pieces)
    return;
  document.pieces = std::move(rest);
  session_.apply(tr("Change order"), std::move(document));
}

void PiecesPanel::do_part(PieceId id, Part part, QPoint at) {
  const Piece* piece = session_.document().find(id);
  if (piece == nullptr)
    return;
  switch (part) {
  case Part::Colour:
    choose_colour(this, at,
                  [this, id](Colour c) { session_.edit(tr("Change colour"), id, [&](Piece& p) { p.colour = c; }); });
    break;
  case Part::Eye: {
    const bool on = !piece->visible;
    session_.edit(on ? tr("Show piece") : tr("Hide piece"), id, [&](Piece& p) { p.visible = on; });
    break;
  }
  case Part::Lock: {
    const bool on = !piece->locked;
    session_.edit(on ? tr("Lock piece") : tr("Unlock piece"), id, [&](Piece& p) { p.locked = on; });
    break;
  }
  case Part::Destination: {
    QMenu menu;
    for (int i = 0; i < 4; ++i) {
      const QString word = destination_word(static_cast<Destination>(i));
      connect(menu.addAction(word), &QAction::triggered, this, [this, id, i, word] {
        session_.edit(tr("Send to %1").arg(word.toLower()), id,
                      [&](Piece& p) { p.destination = static_cast<Destination>(i); });
      });
    }
    menu.exec(at);
    break;
  }
  case Part::Row:
    break;
  }
}

void PiecesPanel::row_menu(QPoint at) {
  const QModelIndex index = list_->indexAt(at).isValid() ? list_->indexAt(at) : list_->currentIndex();
  if (!index.isValid())
    return;
  const PieceId id = index.data(PiecesModel::IdRole).toULongLong();
  const QPoint global = list_->viewport()->mapToGlobal(list_->visualRect(index).bottomLeft());
  QMenu menu;
  const auto add = [&](const QString& words, Part part) {
    connect(menu.addAction(words), &QAction::triggered, this, [this, id, part, global] { do_part(id, part, global); });
  };
  add(index.data(PiecesModel::VisibleRole).toBool() ? tr("Hide; hidden pieces are not cut") : tr("Show"), Part::Eye);
  add(index.data(PiecesModel::LockedRole).toBool() ? tr("Unlock") : tr("Lock in place"), Part::Lock);
  add(tr("Colour of the material…"), Part::Colour);
  add(tr("Where it goes…"), Part::Destination);
  menu.exec(global);
}

// Clicks on a row's marks, and what they are.
bool PiecesPanel::eventFilter(QObject* object, QEvent* event) {
  const bool press = event->type() == QEvent::MouseButtonPress || event->type() == QEvent::MouseButtonDblClick;
  if (object != list_->viewport() || (!press && event->type() != QEvent::ToolTip))
    return QWidget::eventFilter(object, event);
  const QPoint at =
      press ? static_cast<QMouseEvent*>(event)->position().toPoint() : static_cast<QHelpEvent*>(event)->pos();
  const QModelIndex index = list_->indexAt(at);
  if (!index.isValid() || (press && static_cast<QMouseEvent*>(event)->button() != Qt::LeftButton))
    return QWidget::eventFilter(object, event);
  const auto tip = [&](Part p) {
    switch (p) {
    case Part::Colour:
      return tr("Colour of the material");
    case Part::Eye:
      return index.data(PiecesModel::VisibleRole).toBool() ? tr("Hide; hidden pieces are not cut") : tr("Show");
    case Part::Lock:
      return index.data(PiecesModel::LockedRole).toBool() ? tr("Unlock") : tr("Lock in place");
    default:
      return tr("Where it goes: knife, pen, guide (never cut) or off");
    }
  };
  for (const Part p : {Part::Colour, Part::Eye, Part::Lock, Part::Destination}) {
    const QRect area = part(index.row(), p);
    if (!area.contains(at))
      continue;
    if (press)
      do_part(index.data(PiecesModel::IdRole).toULongLong(), p, list_->viewport()->mapToGlobal(area.bottomLeft()));
    else
      QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), tip(p), list_);
    return true;
  }
  return QWidget::eventFilter(object, event);
}

} // namespace frelm
