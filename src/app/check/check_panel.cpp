#include "app/check/check_panel.h"
#include "app/style/words.h"

#include "app/style/scheme.h"
#include "app/style/take_words.h"
#include "cutting/legibility.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QScrollArea>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <set>

namespace frelm {
namespace {

enum class Mark { Triangle, Square, Disc, Tick };

QPixmap mark_of(Mark mark) {
  const Scheme& s = scheme();
  QPixmap pixmap(32, 32);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  switch (mark) {
  case Mark::Triangle:
    painter.setBrush(s.brick);
    painter.drawPolygon(QPolygonF{QPointF(8, 2.5), QPointF(14, 13), QPointF(2, 13)});
    break;
  case Mark::Square:
    painter.setBrush(s.amber);
    painter.drawRect(QRectF(3.5, 3.5, 9, 9));
    break;
  case Mark::Disc:
    painter.setBrush(s.plum);
    painter.drawEllipse(QPointF(8, 8), 4, 4);
    break;
  case Mark::Tick:
    painter.setPen(QPen(s.teal, 1.8, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPolyline(QPolygonF{QPointF(3, 8.5), QPointF(6.5, 12), QPointF(13, 4)});
    break;
  }
  return pixmap;
}

Mark mark_for(int weight) {
  return weight < 0                                    ? Mark::Tick
         : weight == static_cast<int>(Weight::MustFix) ? Mark::Triangle
         : weight == static_cast<int>(Weight::Look)    ? Mark::Square
                                                       : Mark::Disc;
}

// A line of the legibility readings.
QWidget* reading(Mark mark, const QString& weight, const QString& title, const QString& detail) {
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(8, 4, 8, 4);
  line->setSpacing(6);
  auto* shape = new QLabel;
  shape->setPixmap(mark_of(mark));
  shape->setToolTip(weight);
  line->addWidget(shape, 0, Qt::AlignTop);
  auto* texts = new QVBoxLayout;
  texts->setSpacing(1);
  auto* head = new QLabel(title);
  head->setObjectName("heading");
  head->setWordWrap(true);
  auto* rest = new QLabel(detail);
  rest->setObjectName("muted");
  rest->setWordWrap(true);
  texts->addWidget(head);
  texts->addWidget(rest);
  line->addLayout(texts, 1);
  row->setAccessibleName(weight + ": " + title + ". " + detail);
  return row;
}

// Mark, title and detail of a finding; one of several of a kind shows its detail only, in one line.
class FindingRow final : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const auto* view = qobject_cast<const QListView*>(option.widget);
    const int width = (view != nullptr ? view->viewport()->width() : option.rect.width()) - left - right;
    const int line = option.fontMetrics.height();
    if (index.data(FindingsModel::InsideRole).toBool())
      return {width, line + 6};
    const auto wrapped = [&](int role) {
      return option.fontMetrics
          .boundingRect(QRect(0, 0, std::max(width, 40), 1000), Qt::TextWordWrap, index.data(role).toString())
          .height();
    };
    const int most = 3 * line;
    return {width, wrapped(FindingsModel::TitleRole) + std::min(most, wrapped(FindingsModel::DetailRole)) + 10};
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Scheme& s = scheme();
    painter->save();
    const QRect r = option.rect;
    if (option.state & QStyle::State_Selected) {
      painter->setRenderHint(QPainter::Antialiasing);
      painter->setPen(option.state & QStyle::State_HasFocus ? QPen(s.teal, 1) : Qt::NoPen);
      painter->setBrush(s.teal_soft);
      painter->drawRoundedRect(QRectF(r).adjusted(2.5, 0.5, -2.5, -0.5), 4, 4);
    }
    const int width = r.width() - left - right;
    const QString detail = index.data(FindingsModel::DetailRole).toString();
    if (index.data(FindingsModel::InsideRole).toBool()) {
      painter->setPen(s.muted);
      painter->drawText(QRect(r.left() + left, r.top(), width, r.height()), Qt::AlignVCenter | Qt::AlignLeft,
                        option.fontMetrics.elidedText(detail, Qt::ElideRight, width));
      painter->restore();
      return;
    }
    painter->drawPixmap(r.left() + 8, r.top() + 4, mark_of(mark_for(index.data(FindingsModel::WeightRole).toInt())));
    QFont bold = option.font;
    bold.setWeight(QFont::DemiBold);
    painter->setFont(bold);
    painter->setPen(s.text);
    QRect used;
    painter->drawText(QRect(r.left() + left, r.top() + 4, width, r.height()), Qt::TextWordWrap,
                      index.data(FindingsModel::TitleRole).toString(), &used);
    painter->setFont(option.font);
    painter->setPen(s.muted);
    const QRect rest(r.left() + left, used.bottom() + 2, width, r.bottom() - used.bottom() - 4);
    painter->drawText(rest, Qt::TextWordWrap, detail);
    if (index.data(FindingsModel::CountRole).toInt() > 1) { // folded or not
      const double y = r.top() + 4 + option.fontMetrics.height() / 2.0, x = r.right() - 14;
      const bool open = index.data(FindingsModel::OpenRole).toBool();
      painter->setRenderHint(QPainter::Antialiasing);
      painter->setPen(QPen(s.muted, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
      painter->drawPolyline(open ? QPolygonF{QPointF(x - 4, y - 2), QPointF(x, y + 2), QPointF(x + 4, y - 2)}
                                 : QPolygonF{QPointF(x - 2, y - 4), QPointF(x + 2, y), QPointF(x - 2, y + 4)});
    }
    painter->restore();
  }

private:
  static constexpr int left = 30, right = 26;
};

} // namespace

CheckPanel::CheckPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), count_(new QLabel), model_(new FindingsModel(this)), list_(new QListView),
      actions_(new QWidget), before_(new QToolButton), after_(new QToolButton), place_(new QLabel), cures_(new QWidget),
      aside_(new QWidget), reason_(new QLineEdit), taken_back_(new QPushButton(tr("Take it back"))),
      in_parts_(new QPushButton(tr("Parts"))), parts_(new PartsList(session)),
      legible_(new QPushButton(tr("Legibility"))), readings_(new QFrame) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(6);
  auto* head = new QHBoxLayout;
  auto* heading = new QLabel(tr("Cut check"));
  heading->setObjectName("heading");
  count_->setObjectName("muted");
  head->addWidget(heading);
  head->addStretch();
  head->addWidget(count_);
  all->addLayout(head);
  list_->setModel(model_);
  list_->setItemDelegate(new FindingRow(list_));
  list_->setAccessibleName(tr("Cut check"));
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setResizeMode(QListView::Adjust);
  list_->installEventFilter(this);
  all->addWidget(list_, 1);
  auto* line = new QVBoxLayout(actions_);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  auto* steps = new QHBoxLayout;
  steps->setSpacing(4);
  for (const auto& [button, words, name, by] : {std::tuple{before_, QString("‹"), tr("Place before"), -1},
                                                std::tuple{after_, QString("›"), tr("Next place"), 1}}) {
    button->setText(words);
    button->setObjectName("flat");
    button->setAccessibleName(name);
    button->setToolTip(by < 0 ? tr("The place before, of the same kind (Left)")
                              : tr("The next place of the same kind (Right)"));
    connect(button, &QToolButton::clicked, this, [this, by = by] { step(by); });
  }
  place_->setObjectName("muted");
  steps->addWidget(before_);
  steps->addWidget(place_);
  steps->addWidget(after_);
  steps->addStretch();
  line->addLayout(steps);
  line->addWidget(cures_);
  auto* rows = new QVBoxLayout(cures_);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  auto* beside = new QHBoxLayout(aside_);
  beside->setContentsMargins(0, 0, 0, 0);
  beside->setSpacing(4);
  auto* leave = new QPushButton(tr("Set aside"));
  leave->setToolTip(tr("It stays as it is and is no longer counted; the reason is kept in the job"));
  reason_->setPlaceholderText(tr("Why it can stay"));
  reason_->setAccessibleName(tr("Why it can stay"));
  reason_->setMaxLength(static_cast<int>(longest_reason / 4));
  beside->addWidget(reason_, 1);
  beside->addWidget(leave);
  line->addWidget(aside_);
  line->addWidget(taken_back_, 0, Qt::AlignLeft);
  take_words(reason_, leave, [this](const QString& reason) { set_aside(reason.trimmed()); });
  connect(taken_back_, &QPushButton::clicked, this, [this] { set_aside({}); });
  all->addWidget(actions_);
  in_parts_->setCheckable(true);
  in_parts_->setToolTip(tr("What each sheet falls into when it is cut, and what holds it together"));
  legible_->setCheckable(true);
  legible_->setToolTip(tr("Proportions and gaps of the selected lettering against the 2010 ADA Standards, 703.5"));
  auto* more = new QHBoxLayout;
  more->setSpacing(4);
  more->addWidget(in_parts_);
  more->addWidget(legible_);
  more->addStretch();
  all->addLayout(more);
  all->addWidget(parts_, 2);
  parts_->hide();
  connect(in_parts_, &QPushButton::toggled, parts_, &QWidget::setVisible);
  readings_->setObjectName("card");
  readings_->setAccessibleName(tr("Legibility"));
  (new QVBoxLayout(readings_))->setContentsMargins(0, 4, 0, 4);
  auto* scroll = new QScrollArea;
  scroll->setObjectName("panel");
  scroll->setFocusPolicy(Qt::NoFocus);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(readings_);
  scroll_ = scroll;
  all->addWidget(scroll, 2);
  connect(legible_, &QPushButton::toggled, this, &CheckPanel::show_legibility);
  connect(&session, &Session::gaps_changed, this, &CheckPanel::show_legibility);
  connect(&session, &Session::selection_changed, this, &CheckPanel::show_legibility);
  connect(&session, &Session::results_changed, this, &CheckPanel::show_findings);
  connect(list_, &QListView::clicked, this, [this](const QModelIndex& index) {
    if (model_->folds(index.row())) {
      const int row = index.row();
      model_->toggle(row);
      list_->setCurrentIndex(model_->index(row));
    }
    look(index.row());
  });
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &CheckPanel::show_actions);
  model_->show({}, FindingsModel::Empty::NothingYet);
  show_actions();
  show_legibility();
}

void CheckPanel::restyle() {
  list_->viewport()->update();
  show_legibility();
}

void CheckPanel::set_aside(const QString& reason) {
  Document document = session_.document();
  for (const Finding* f : model_->at(list_->currentIndex().row()))
    document = with_set_aside(std::move(document), f->kind, f->piece, reason.toStdString());
  session_.apply(reason.isEmpty() ? tr("Take a finding back") : tr("Set a finding aside"), std::move(document));
}

void CheckPanel::show_legibility() {
  const Piece* piece = session_.selected();
  const Letters* letters =
      piece != nullptr && piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
  legible_->setVisible(letters != nullptr);
  readings_->setVisible(letters != nullptr && legible_->isChecked());
  scroll_->setVisible(letters != nullptr && legible_->isChecked());
  if (!readings_->isVisibleTo(this))
    return;
  const auto gaps = session_.gaps(piece->id);
  const Result<PieceResult>& now = session_.seated(piece->id);
  const auto face = session_.faces().face(letters->face);
  if (gaps == nullptr || !now || !face)
    return; // the readings stay until the gaps are measured
  qDeleteAll(readings_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  auto* rows = qobject_cast<QVBoxLayout*>(readings_->layout());
  const auto percent = [](double v) { return QString::number(std::lround(v * 100)); };
  for (const LegibilityReading& r : legibility(*letters, *now->seated, *gaps, **face)) {
    if (r.most == 0) {
      rows->addWidget(
          reading(Mark::Disc, tr("Note"), core_words(r.what),
                  tr("%1 m: an inch of height for ten feet, %2").arg(r.low / 1000, 0, 'f', 1).arg(r.source.c_str())));
      continue;
    }
    const QString range = r.high - r.low < 0.005 ? percent(r.low) : tr("%1 to %2").arg(percent(r.low), percent(r.high));
    rows->addWidget(reading(r.holds() ? Mark::Tick : Mark::Square, r.holds() ? tr("Fine") : tr("Look at"),
                            core_words(r.what),
                            tr("%1 %; %2 to %3 % by ADA %4")
                                .arg(range, percent(r.least), percent(r.most), QString::fromStdString(r.source))));
  }
}

void CheckPanel::show_findings() {
  const bool empty = session_.document().pieces.empty();
  const auto state = empty ? FindingsModel::Empty::NothingYet : FindingsModel::Empty::Fine;
  const int was = list_->currentIndex().row();
  if (session_.check().findings != model_->findings() || model_->rowCount() == 0 || shown_empty_ != empty)
    model_->show(session_.check().findings, state);
  shown_empty_ = empty;
  const std::size_t n = session_.check().to_look_at();
  count_->setText(n == 0 ? QString() : tr("%1 to look at").arg(n));
  // The heaviest one is at hand: its cure is one click away.
  list_->setCurrentIndex(n == 0 ? QModelIndex() : model_->index(std::clamp(was, 0, model_->rowCount() - 1)));
  show_actions();
}

void CheckPanel::show_actions() {
  const int row = list_->currentIndex().row();
  const std::vector<const Finding*> found = model_->at(row);
  const int size = model_->kind_size(row), place = model_->place_in_kind(row);
  for (QWidget* w : {static_cast<QWidget*>(before_), static_cast<QWidget*>(after_), static_cast<QWidget*>(place_)})
    w->setVisible(size > 1);
  place_->setText(place < 0 ? tr("all %1").arg(size) : tr("%1 of %2").arg(place + 1).arg(size));
  std::vector<std::pair<Cure, std::vector<PieceId>>> offered; // and the pieces each helps
  if (!found.empty())
    for (const Cure c : found.front()->cures) {
      std::set<PieceId> pieces;
      for (const Finding* f : found)
        if (std::find(f->cures.begin(), f->cures.end(), c) != f->cures.end())
          pieces.insert(f->piece);
      offered.emplace_back(c, std::vector<PieceId>(pieces.begin(), pieces.end()));
    }
  const bool chosen = !found.empty();
  const bool aside = chosen && !found.front()->aside.empty();
  aside_->setVisible(chosen && !aside && found.front()->weight != Weight::Note);
  taken_back_->setVisible(aside);
  actions_->setVisible(size > 1 || !offered.empty() || aside_->isVisibleTo(actions_) || aside);
  if (offered == offered_)
    return; // the buttons stay, and with them the keyboard
  offered_ = std::move(offered);
  qDeleteAll(cures_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  for (const auto& [c, pieces] : offered_) {
    auto* button = new QPushButton(core_words(cure_name(c)));
    button->setObjectName("cure");
    if (pieces.size() > 1)
      button->setToolTip(tr("For all %1 pieces").arg(pieces.size()));
    connect(button, &QPushButton::clicked, this, [this, c = c, pieces = pieces] { emit cure(pieces, c); });
    cures_->layout()->addWidget(button);
    cures_->layout()->setAlignment(button, Qt::AlignLeft);
    button->show();
  }
}

void CheckPanel::look(int row) {
  const std::vector<const Finding*> found = model_->at(row);
  if (found.empty())
    return;
  Finding all = *found.front(); // of a whole kind: everything it is about
  for (const Finding* f : found)
    if (!f->where.empty())
      all.where.add(f->where);
  if (all.piece != 0 || !all.where.empty())
    emit look_at(all);
}

void CheckPanel::step(int by) {
  const int row = list_->currentIndex().row();
  const int place = model_->place_in_kind(row);
  const int next = model_->row_of(row, place < 0 ? (by > 0 ? 0 : model_->kind_size(row) - 1) : place + by);
  if (next < 0)
    return;
  list_->setCurrentIndex(model_->index(next));
  look(next);
}

bool CheckPanel::eventFilter(QObject* object, QEvent* event) {
  if (object == list_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key(), row = list_->currentIndex().row();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
      look(row);
      return true;
    }
    if (key == Qt::Key_Space && model_->folds(row)) {
      model_->toggle(row);
      list_->setCurrentIndex(model_->index(row));
      return true;
    }
    if ((key == Qt::Key_Left || key == Qt::Key_Right) && model_->kind_size(row) > 1) {
      step(key == Qt::Key_Left ? -1 : 1);
      return true;
    }
  }
  return QWidget::eventFilter(object, event);
}

} // namespace frelm
