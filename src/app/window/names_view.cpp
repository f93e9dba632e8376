#include "app/window/names_view.h"

#include "app/canvas/painter.h"
#include "app/style/scheme.h"
#include "app/style/words.h"

#include <QPainter>
#include <QStyledItemDelegate>

namespace frelm {
namespace {

constexpr int least_card = 230, edge = 12; // px

// The picture of the row over its number, its text, and what is told of it.
class CardDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const auto* model = qobject_cast<const NamesModel*>(index.model());
    const NameRow& row = model->rows().row(static_cast<std::size_t>(index.row()));
    const QRectF card = QRectF(option.rect).adjusted(edge / 2.0, edge / 2.0, -edge / 2.0, -edge / 2.0);
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    const bool chosen = option.state & QStyle::State_Selected, trouble = row.known && !row.sound();
    painter->setPen(QPen(trouble  ? scheme().amber
                         : chosen ? scheme().teal
                                  : scheme().lines,
                         trouble || chosen ? 2 : 1));
    painter->setBrush(scheme().sheet);
    painter->drawRoundedRect(card, 4, 4);
    const double line = option.fontMetrics.height() * 1.5;
    const QRectF words = text_rect(option);
    if (row.sheet != nullptr)
      paint_sheet_in(*painter, *row.sheet, model->session().document().sheet, card.adjusted(10, 8, -10, -line - 8));
    painter->setPen(scheme().sheet_ink);
    QFont bold = option.font;
    bold.setBold(true);
    painter->setFont(bold);
    const QString number = QString::number(index.row() + 1);
    painter->drawText(words, Qt::AlignLeft | Qt::AlignVCenter, number);
    const double left = QFontMetricsF(bold).horizontalAdvance(number) + 8;
    painter->setFont(option.font);
    const QString told = model->told(static_cast<std::size_t>(index.row()));
    const double room = words.width() - left;
    const double told_width = std::min(option.fontMetrics.horizontalAdvance(told) + 4.0, room * 0.6);
    painter->drawText(words.adjusted(left, 0, -told_width - 6, 0), Qt::AlignLeft | Qt::AlignVCenter,
                      option.fontMetrics.elidedText(index.data(Qt::EditRole).toString(), Qt::ElideRight,
                                                    static_cast<int>(room - told_width - 6)));
    painter->setPen(trouble ? QColor("#8a5a00") : QColor("#5f6b70"));
    painter->drawText(words.adjusted(words.width() - told_width, 0, 0, 0), Qt::AlignRight | Qt::AlignVCenter,
                      option.fontMetrics.elidedText(told, Qt::ElideRight, static_cast<int>(told_width)));
    painter->restore();
  }
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override { // the whole of its cell
    const auto* view = qobject_cast<const QListView*>(option.widget);
    return view != nullptr ? view->gridSize() : QSize(least_card, least_card);
  }
  void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option, const QModelIndex&) const override {
    editor->setGeometry(text_rect(option).toRect());
  }

private:
  static QRectF text_rect(const QStyleOptionViewItem& option) {
    const double line = option.fontMetrics.height() * 1.5;
    const QRectF card = QRectF(option.rect).adjusted(edge / 2.0, edge / 2.0, -edge / 2.0, -edge / 2.0);
    return {card.left() + 8, card.bottom() - line - 4, card.width() - 16, line};
  }
  static void paint_sheet_in(QPainter& painter, const CutSheet& seen, const Sheet& sheet, const QRectF& room) {
    Box box;
    for (const CutPiece& p : seen.pieces)
      box.add(p.outline.bounds());
    if (box.empty())
      box = {0, 0, sheet.width, sheet.height};
    const double k = std::min(room.width() / std::max(1.0, box.width()), room.height() / std::max(1.0, box.height()));
    painter.save();
    painter.setClipRect(room);
    painter.translate(room.center());
    painter.scale(k, k);
    painter.translate(-box.centre().x, -box.centre().y);
    painter.setPen(Qt::NoPen);
    for (const CutPiece& p : seen.pieces) {
      painter.setBrush(QColor(p.colour.r, p.colour.g, p.colour.b));
      painter.drawPath(to_path(p.outline));
    }
    painter.restore();
  }
};

} // namespace

NamesModel::NamesModel(Session& session, NameRows& rows, QObject* parent)
    : QAbstractListModel(parent), session_(session), rows_(rows) {
  connect(&rows, &NameRows::changed, this, [this] {
    beginResetModel();
    endResetModel();
  });
  connect(&rows, &NameRows::row_changed, this, [this](int row) { emit dataChanged(index(row), index(row)); });
}

int NamesModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.count());
}

QString NamesModel::told(std::size_t i) const {
  const NameRow& row = rows_.row(i);
  if (!row.known)
    return tr("…");
  if (!row.why_not.empty())
    return words_of(row.why_not);
  if (row.by_hand && row.findings.empty())
    return tr("by hand");
  return row.findings.empty() ? tr("fits") : words_of(words_of(row.findings.front()));
}

QVariant NamesModel::data(const QModelIndex& index, int role) const {
  const auto i = static_cast<std::size_t>(index.row());
  if (!index.isValid() || i >= rows_.count() || rows_.list() == nullptr || i >= rows_.list()->rows.size())
    return {};
  const std::vector<std::string>& cells = rows_.list()->rows[i];
  const QString first = cells.empty() ? QString() : QString::fromStdString(cells.front());
  switch (role) {
  case Qt::EditRole:
    return first;
  case Qt::DisplayRole:
  case Qt::AccessibleTextRole:
  case Qt::ToolTipRole:
    return tr("%1 %2: %3").arg(i + 1).arg(first, told(i));
  default:
    return {};
  }
}

bool NamesModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole || !index.isValid())
    return false;
  rows_.set_cell(static_cast<std::size_t>(index.row()), 0, value.toString().toStdString());
  return true;
}

Qt::ItemFlags NamesModel::flags(const QModelIndex& index) const {
  return QAbstractListModel::flags(index) | Qt::ItemIsEditable;
}

NamesView::NamesView(Session& session, NameRows& rows, QWidget* over) : QListView(over), rows_(rows), over_(over) {
  setAccessibleName(tr("Rows of the list"));
  setModel(new NamesModel(session, rows, this));
  setItemDelegate(new CardDelegate(this));
  setViewMode(QListView::IconMode);
  setMovement(QListView::Static);
  setResizeMode(QListView::Adjust);
  setUniformItemSizes(true);
  setSelectionMode(QAbstractItemView::SingleSelection);
  setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
  setFrameShape(QFrame::NoFrame);
  setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn); // cards keep their size
  over->installEventFilter(this);
  hide();
  restyle();
}

void NamesView::restyle() {
  QPalette colours = palette();
  colours.setColor(QPalette::Base, scheme().bench);
  setPalette(colours);
  setStyleSheet(QStringLiteral("QListView { background: %1; border: none; }").arg(scheme().bench.name()));
}

bool NamesView::eventFilter(QObject* object, QEvent* event) {
  if (object == over_ && (event->type() == QEvent::Resize || event->type() == QEvent::Show))
    setGeometry(over_->rect());
  return QListView::eventFilter(object, event);
}

void NamesView::size_cards() {
  const int room = viewport()->width() - 8, least = std::max(least_card, fontMetrics().averageCharWidth() * 30);
  const int columns = std::max(1, room / least);
  const QSize card(room / columns, static_cast<int>(room / columns * 0.6));
  if (card != gridSize())
    setGridSize(card);
}

void NamesView::resizeEvent(QResizeEvent* event) {
  size_cards();
  QListView::resizeEvent(event);
  tell_seen();
}

void NamesView::updateGeometries() {
  QListView::updateGeometries();
  tell_seen();
}

void NamesView::tell_seen() {
  const QModelIndex first = indexAt(QPoint(edge, edge));
  const int per_row = std::max(1, viewport()->width() / std::max(1, gridSize().width()));
  const int rows = viewport()->height() / std::max(1, gridSize().height()) + 2;
  const auto from = static_cast<std::size_t>(std::max(0, first.row()));
  rows_.look_at(from, from + static_cast<std::size_t>(per_row * rows) - 1);
}

void NamesView::paintEvent(QPaintEvent* event) {
  tell_seen(); // it may have been scrolled
  QListView::paintEvent(event);
  if (model()->rowCount() > 0)
    return;
  QPainter painter(viewport());
  painter.setPen(scheme().muted);
  painter.drawText(viewport()->rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("Write {name} where a name goes in a lettering,\nthen open a list on the left, or paste it."));
}

} // namespace frelm
