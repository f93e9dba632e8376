#include "app/cards/face_choice.h"

#include <QAbstractItemView>
#include <QCompleter>
#include <QFontDatabase>
#include <QLineEdit>
#include <QPainter>
#include <QStandardItemModel>
#include <QStyledItemDelegate>

namespace frelm {
namespace {

constexpr int longest_sample = 14; // letters: more would leave no room for the names
constexpr int rows_shown = 14;
constexpr int reason_role = Qt::UserRole + 1;

// The family's name, and the words set in it. Between the groups a line.
class FaceDelegate : public QStyledItemDelegate {
public:
  explicit FaceDelegate(const FaceChoice& choice, QObject* parent) : QStyledItemDelegate(parent), choice_(choice) {}
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    if (is_line(index)) {
      painter->setPen(option.palette.color(QPalette::Mid));
      painter->drawLine(option.rect.left() + 8, option.rect.center().y(), option.rect.right() - 8,
                        option.rect.center().y());
      return;
    }
    QStyleOptionViewItem plain = option;
    initStyleOption(&plain, index);
    const QString family = plain.text;
    plain.text.clear();
    plain.widget->style()->drawControl(QStyle::CE_ItemViewItem, &plain, painter, plain.widget);
    const QString reason = index.data(reason_role).toString();
    painter->setPen(option.palette.color(reason.isEmpty() ? QPalette::Active : QPalette::Disabled, QPalette::Text));
    const QRect box = option.rect.adjusted(8, 0, -8, 0);
    painter->setFont(option.font);
    const QFontMetrics metrics = painter->fontMetrics();
    const int name = std::min(metrics.horizontalAdvance(family) + 2, box.width() * 3 / 5);
    painter->drawText(box, Qt::AlignLeft | Qt::AlignVCenter, metrics.elidedText(family, Qt::ElideRight, name));
    if (!reason.isEmpty()) {
      painter->drawText(box.adjusted(name + 12, 0, 0, 0), Qt::AlignRight | Qt::AlignVCenter,
                        metrics.elidedText(reason, Qt::ElideRight, box.width() - name - 12));
      return;
    }
    QFont sample(family);
    sample.setPointSizeF(option.font.pointSizeF() * 1.5);
    painter->setFont(sample);
    painter->setClipRect(box.adjusted(name + 12, 0, 0, 0));
    painter->drawText(box, Qt::AlignRight | Qt::AlignVCenter, choice_.sample().isEmpty() ? family : choice_.sample());
    painter->setClipping(false);
  }
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    // Without looking at the words: lists of a thousand faces are laid out at once.
    return {option.fontMetrics.averageCharWidth() * 40, is_line(index) ? 9 : option.fontMetrics.height() * 2};
  }

private:
  static bool is_line(const QModelIndex& index) {
    return index.data(Qt::AccessibleDescriptionRole).toString() == "separator"; // as QComboBox marks its own
  }
  const FaceChoice& choice_;
};

} // namespace

FaceChoice::FaceChoice(const FaceLibrary& faces, QWidget* parent)
    : ChoiceBox(parent), without_outlines_(faces.without_outlines()) {
  setAccessibleName(tr("Face"));
  setToolTip(tr("Type a part of its name to find one"));
  setEditable(true);
  lineEdit()->setAccessibleName(tr("Face, by typing"));
  setInsertPolicy(QComboBox::NoInsert);
  for (const FaceEntry& e : faces.entries()) {
    const QString family = QString::fromStdString(e.name.family);
    QStringList& group = e.bundled ? ours_ : machines_; // in the order of families
    if ((group.isEmpty() || group.last() != family) && !ours_.contains(family))
      group << family;
    if (e.bundled && family != font().family()) // the window's own face is there already, and stays as it is
      QFontDatabase::addApplicationFont(QString::fromStdString(e.file));
  }
  completer()->setFilterMode(Qt::MatchContains);
  completer()->setCompletionMode(QCompleter::PopupCompletion);
  for (QAbstractItemView* list : {view(), completer()->popup()}) {
    list->setItemDelegate(new FaceDelegate(*this, list));
    list->setMinimumWidth(fontMetrics().averageCharWidth() * 50);
  }
  setMinimumContentsLength(8);
  setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  setMaxVisibleItems(rows_shown);
  fill();
  connect(this, &QComboBox::textActivated, this, &FaceChoice::take); // also what the list under the field completes
  connect(lineEdit(), &QLineEdit::editingFinished, this, [this] {
    lineEdit()->setModified(false);
    take(currentText());
  });
}

void FaceChoice::take(const QString& family) {
  const int i = findText(family, Qt::MatchFixedString);
  if (i >= 0 && !itemText(i).isEmpty() && why_not(i).isEmpty()) {
    emit chosen(itemText(i));
    return;
  }
  setCurrentIndex(findText(shown_));
  setCurrentText(shown_);
  if (i >= 0 && !why_not(i).isEmpty())
    emit refused(tr("%1: %2").arg(itemText(i), why_not(i)));
}

void FaceChoice::fill() {
  const QString shown = currentText();
  clear();
  for (int group = 0; group < 3; ++group) {
    const int before = count();
    for (const QString& family : group == 0 ? favourites_ : group == 1 ? ours_ : machines_)
      if (group == 0 ? ours_.contains(family) || machines_.contains(family) : !favourites_.contains(family)) {
        if (count() == before && before > 0)
          insertSeparator(count());
        addItem(family);
      }
  }
  if (!without_outlines_.empty())
    insertSeparator(count());
  for (const FaceWithoutOutlines& f : without_outlines_) {
    addItem(QString::fromStdString(f.family));
    const QString reason =
        f.has == NoOutlines::Pictures ? tr("coloured pictures, nothing to cut") : tr("made of pixels, nothing to cut");
    setItemData(count() - 1, reason, reason_role);
    setItemData(count() - 1, reason, Qt::AccessibleDescriptionRole);
    setItemData(count() - 1, reason, Qt::ToolTipRole);
    if (auto* items = qobject_cast<QStandardItemModel*>(model()))
      items->item(count() - 1)->setEnabled(false);
  }
  setCurrentText(shown);
}

QString FaceChoice::why_not(int index) const {
  return itemData(index, reason_role).toString();
}

void FaceChoice::show_face(const QString& family) {
  shown_ = family;
  if (currentText() == family || (lineEdit()->isModified() && hasFocus()))
    return;
  setCurrentIndex(findText(family));
  setCurrentText(family);
}

void FaceChoice::set_sample(const QString& words) {
  const QString line = words.section('\n', 0, 0).simplified();
  sample_ = line.size() <= longest_sample ? line : line.section(' ', 0, 0).left(longest_sample);
}

void FaceChoice::set_favourites(const QStringList& families) {
  favourites_ = families;
  favourites_.removeDuplicates();
  fill();
}

void FaceChoice::toggle_favourite() {
  const QString family = currentText();
  if (!ours_.contains(family) && !machines_.contains(family))
    return;
  if (!favourites_.removeOne(family))
    favourites_ << family;
  fill();
  emit favourites_changed();
}

} // namespace frelm
