#include "app/pieces/pieces_panel.h"

#include "app/pieces/colour_menu.h"

#include "app/style/scheme.h"

#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

namespace frelm {
namespace {

constexpr const char* destinations[]{"Knife", "Pen", "Guide", "Off"};

// A guide's is dashed and empty.
QPixmap swatch_of(const Piece& piece, int size) {
  if (piece.guide() == nullptr)
    return swatch(piece.colour, size);
  QPixmap pixmap(size * 2, size * 2);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(QColor(piece.colour.r, piece.colour.g, piece.colour.b), 1.2, Qt::DashLine));
  painter.drawRoundedRect(QRectF(1, 1, size - 2, size - 2), 3, 3);
  return pixmap;
}

QToolButton* flat_button(const QString& name, const QString& tip) {
  auto* b = new QToolButton;
  b->setObjectName("small");
  const int side = std::max(16, b->fontMetrics().height());
  b->setIconSize({side, side});
  b->setAccessibleName(name);
  b->setToolTip(tip);
  return b;
}

// A name that ends in … where it has no room.
class NameLabel final : public QLabel {
protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    painter.setPen(palette().color(isEnabled() ? QPalette::Active : QPalette::Disabled, foregroundRole()));
    painter.drawText(rect(), Qt::AlignLeft | Qt::AlignVCenter,
                     fontMetrics().elidedText(text(), Qt::ElideRight, width()));
  }
};

void name_row(QLabel* label, const Piece& piece) {
  const QString name = QString::fromStdString(piece.name);
  label->setText(name.left(200));
  label->setToolTip(name);
}

bool same_but_names(std::vector<Piece> a, const std::vector<Piece>& b) {
  if (a.size() != b.size())
    return false;
  for (std::size_t i = 0; i < a.size(); ++i)
    a[i].name = b[i].name;
  return a == b;
}

} // namespace

PiecesPanel::PiecesPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QListWidget) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(6);
  auto* heading = new QLabel(tr("Pieces"));
  heading->setObjectName("heading");
  all->addWidget(heading);
  all->addWidget(list_);
  list_->setAccessibleName(tr("Pieces, the frontmost first"));
  list_->setMinimumWidth(list_->fontMetrics().averageCharWidth() * 27);
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  connect(list_, &QListWidget::itemSelectionChanged, this, [this] {
    if (showing_)
      return;
    std::vector<PieceId> ids;
    for (const QListWidgetItem* item : list_->selectedItems())
      ids.push_back(item->data(Qt::UserRole).toULongLong());
    std::reverse(ids.begin(), ids.end());
    session_.select(std::move(ids));
  });
  connect(list_->model(), &QAbstractItemModel::rowsMoved, this, &PiecesPanel::take_order, Qt::QueuedConnection);
  connect(&session, &Session::document_changed, this, &PiecesPanel::rebuild);
  connect(&session, &Session::selection_changed, this, &PiecesPanel::show_selection);
  connect(&session, &Session::results_changed, this, &PiecesPanel::show_nodes);
  rebuild();
}

void PiecesPanel::restyle() {
  shown_.clear();
  rebuild();
}

void PiecesPanel::take_order() {
  Document document = session_.document();
  for (int row = list_->count() - 1, at = 0; row >= 0; --row, ++at)
    document = reorder_piece(std::move(document), list_->item(row)->data(Qt::UserRole).toULongLong(),
                             static_cast<std::size_t>(at));
  shown_.clear();
  session_.apply(tr("Change order"), std::move(document));
}

void PiecesPanel::rebuild() {
  // Rows are made again only when something they show has changed; a drag changes none of it.
  std::vector<Piece> now;
  for (const auto& p : session_.shown().pieces) {
    Piece head = *p;
    head.name = display_name(session_.shown(), *p);
    if (p->guide() != nullptr)
      head.content = Guide{};
    else if (p->outline() != nullptr)
      head.content = OutlinePiece{};
    else
      head.content = Lettering{};
    now.push_back(std::move(head));
  }
  if (now == shown_ && list_->count() == static_cast<int>(now.size()))
    return;
  if (same_but_names(now, shown_) && list_->count() == static_cast<int>(now.size())) {
    shown_ = std::move(now);
    show_names();
    return;
  }
  shown_ = std::move(now);
  showing_ = true;
  const bool had_focus = list_->hasFocus();
  list_->clear();
  for (auto it = shown_.rbegin(); it != shown_.rend(); ++it) {
    auto* item = new QListWidgetItem;
    item->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(it->id));
    item->setData(Qt::AccessibleTextRole,
                  QString::fromStdString(it->name) + ", " + destinations[static_cast<int>(it->destination)]);
    QWidget* row = row_for(*it);
    item->setSizeHint({100, row->sizeHint().height()});
    list_->addItem(item);
    list_->setItemWidget(item, row);
  }
  showing_ = false;
  if (had_focus)
    list_->setFocus();
  show_selection();
  show_nodes();
}

QWidget* PiecesPanel::row_for(const Piece& piece) {
  const PieceId id = piece.id;
  auto* row = new QWidget;
  auto* grid = new QGridLayout(row);
  grid->setContentsMargins(4, 3, 6, 3);
  grid->setHorizontalSpacing(2);
  grid->setVerticalSpacing(0);
  auto* colour = flat_button(tr("Colour"), tr("Colour of the material"));
  colour->setIcon(swatch_of(piece, 16));
  connect(colour, &QToolButton::clicked, this, [this, id, colour] {
    choose_colour(this, colour->mapToGlobal(QPoint(0, colour->height())),
                  [this, id](Colour c) { session_.edit(tr("Change colour"), id, [&](Piece& p) { p.colour = c; }); });
  });
  auto* name = new NameLabel;
  name->setMinimumWidth(20);
  name->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  name->setObjectName("name");
  name->setProperty("piece_named", QVariant::fromValue<qulonglong>(id));
  name_row(name, piece);
  name->setEnabled(piece.visible);
  auto* eye = flat_button(piece.visible ? tr("Hide") : tr("Show"),
                          piece.visible ? tr("Hide; hidden pieces are not cut") : tr("Show"));
  eye->setIcon(icon(piece.visible ? "eye" : "eye-shut"));
  connect(eye, &QToolButton::clicked, this, [this, id] {
    const bool on = !session_.document().find(id)->visible;
    session_.edit(on ? tr("Show piece") : tr("Hide piece"), id, [&](Piece& p) { p.visible = on; });
  });
  auto* lock = flat_button(piece.locked ? tr("Unlock") : tr("Lock"), piece.locked ? tr("Unlock") : tr("Lock in place"));
  lock->setIcon(icon(piece.locked ? "lock" : "lock-open"));
  connect(lock, &QToolButton::clicked, this, [this, id] {
    const bool on = !session_.document().find(id)->locked;
    session_.edit(on ? tr("Lock piece") : tr("Unlock piece"), id, [&](Piece& p) { p.locked = on; });
  });
  auto* goes_to = new QToolButton;
  goes_to->setObjectName("pill");
  goes_to->setText(destinations[static_cast<int>(piece.destination)]);
  goes_to->setAccessibleName(tr("Goes to %1").arg(goes_to->text()));
  goes_to->setToolTip(tr("Where it goes: knife, pen, guide (never cut) or off"));
  connect(goes_to, &QToolButton::clicked, this, [this, id, goes_to] {
    QMenu menu;
    for (int i = 0; i < 4; ++i)
      connect(menu.addAction(tr(destinations[i])), &QAction::triggered, this, [this, id, i] {
        session_.edit(tr("Send to %1").arg(tr(destinations[i]).toLower()), id,
                      [&](Piece& p) { p.destination = static_cast<Destination>(i); });
      });
    menu.exec(goes_to->mapToGlobal(QPoint(0, goes_to->height())));
  });
  auto* nodes = new QLabel;
  nodes->setObjectName("muted");
  nodes->setProperty("piece", QVariant::fromValue<qulonglong>(id));
  grid->addWidget(colour, 0, 0);
  grid->addWidget(name, 0, 1, 1, 4);
  grid->addWidget(nodes, 1, 1);
  grid->addWidget(eye, 1, 2);
  grid->addWidget(lock, 1, 3);
  grid->addWidget(goes_to, 1, 4);
  grid->setColumnStretch(1, 1);
  return row;
}

void PiecesPanel::show_names() {
  for (QLabel* label : list_->findChildren<QLabel*>("name"))
    for (const Piece& p : shown_)
      if (p.id == label->property("piece_named").toULongLong())
        name_row(label, p);
}

void PiecesPanel::show_nodes() {
  for (QLabel* label : list_->findChildren<QLabel*>())
    if (const PieceId id = label->property("piece").toULongLong(); id != 0) {
      const Piece* piece = session_.shown().find(id);
      const bool guide = piece == nullptr || (piece->guide() != nullptr && !piece->is_cut());
      label->setText(guide ? tr("guide") : tr("%1 nodes").arg(session_.nodes(id)));
    }
}

void PiecesPanel::show_selection() {
  showing_ = true;
  const auto& ids = session_.selection();
  for (int i = 0; i < list_->count(); ++i) {
    QListWidgetItem* item = list_->item(i);
    const bool on = std::find(ids.begin(), ids.end(), item->data(Qt::UserRole).toULongLong()) != ids.end();
    item->setSelected(on);
    if (on && ids.size() == 1)
      list_->setCurrentItem(item, QItemSelectionModel::NoUpdate);
  }
  showing_ = false;
}

} // namespace frelm
