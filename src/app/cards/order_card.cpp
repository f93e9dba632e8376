#include "app/cards/order_card.h"

#include "app/style/words.h"

#include <QScopedValueRollback>
#include <QTimer>
#include <set>

namespace frelm {
namespace {

constexpr std::size_t most_sorted = 20'000;

} // namespace

OrderCard::OrderCard(Session& session, KnifePlan& knife, QWidget* parent)
    : MaterialRowsCard(0, tr("Order"), session, knife, parent), list_(new QListWidget),
      earlier_(new QPushButton(tr("Earlier"))), later_(new QPushButton(tr("Later"))),
      own_(new QPushButton(tr("As planned"))), told_(note_label()) {
  const auto one = [this](const Material&) { return shown().has_value(); };
  const auto leads = [this](const Material& m) { return shown() && m.tool.lead != Lead::None; };
  const auto tool = [](auto value) { return [value](auto& m) { return &(m.tool.*value); }; };
  choice({tr("Start at"), tr("Where lines begin"), tr("Change where lines begin"),
          tr("Hidden: in corners that point into the part, else at the lowest place")},
         {tr("Corners"), tr("Hidden places")}, tool(&CutTool::seam), one);
  choice({tr("Leads"), tr("The way in and out"), tr("Change the leads"),
          tr("Out of the waste, and back into it; shorter or elsewhere where there is no room")},
         {tr("None"), tr("Line"), tr("Arc")}, tool(&CutTool::lead), one);
  number({tr("Length"), tr("Length of the leads"), tr("Change the leads"), {}},
         {MeasureKind::Length, 0, most_lead, 0.5}, tool(&CutTool::lead_length), leads);
  choice({tr("Part lies"), tr("Side of the part"), tr("Change the part's side"),
          tr("On which side of the moving tool what stays lies")},
         {tr("Either"), tr("Left"), tr("Right")}, tool(&CutTool::side), one);
  list_->setAccessibleName(tr("Paths in order"));
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setSelectionMode(QAbstractItemView::SingleSelection);
  list_->setMouseTracking(true);
  list_->setUniformItemSizes(true);
  list_->setTextElideMode(Qt::ElideMiddle); // number and length stay to be seen
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setMinimumHeight(list_->fontMetrics().height() * 7);
  add_wide(list_);
  add_wide(in_row({{earlier_, 1}, {later_, 1}, {own_, 1}}));
  add_wide(told_);
  earlier_->setToolTip(tr("The chosen path is cut one place earlier; or drag it in the list"));
  later_->setToolTip(tr("The chosen path is cut one place later; or drag it in the list"));
  own_->setToolTip(tr("Forget the order by hand"));
  connect(earlier_, &QPushButton::clicked, this, [this] { move_path(list_->currentRow(), -1); });
  connect(later_, &QPushButton::clicked, this, [this] { move_path(list_->currentRow(), 1); });
  connect(own_, &QPushButton::clicked, this, [this] {
    Document d = session_.document();
    d.order_by_hand.clear();
    session_.apply(tr("Order as planned"), std::move(d));
  });
  connect(list_, &QListWidget::itemEntered, this,
          [this](QListWidgetItem* item) { knife_.light(static_cast<std::size_t>(list_->row(item))); });
  connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
    earlier_->setEnabled(row > 0), later_->setEnabled(row >= 0 && row + 1 < list_->count());
    if (row >= 0 && !filling_)
      knife_.light(static_cast<std::size_t>(row));
  });
  // The list tells of the move before it is over.
  connect(list_->model(), &QAbstractItemModel::rowsMoved, this,
          [this] { QTimer::singleShot(0, this, &OrderCard::take_order); });
  connect(list_->model(), &QAbstractItemModel::rowsRemoved, this, [this] { // a drag puts in, then takes out
    if (!filling_ && filled_ != nullptr && static_cast<std::size_t>(list_->count()) == filled_->drive.plan.order.size())
      QTimer::singleShot(0, this, &OrderCard::take_order);
  });
  connect(&knife_, &KnifePlan::changed, this, &OrderCard::refresh);
  connect(&session_, &Session::only_changed, this, &OrderCard::refresh);
  connect(&session_, &Session::results_changed, this, [this] {
    if (isVisible())
      refresh();
  });
}

void OrderCard::fill() {
  const QScopedValueRollback<bool> quiet(filling_, true);
  const auto turn_at = [this](int row) -> std::optional<CutTurn> {
    if (filled_ == nullptr || list_->item(row) == nullptr)
      return std::nullopt;
    return filled_->turns[filled_->drive.of[list_->item(row)->data(Qt::UserRole).toULongLong()]];
  };
  const std::optional<CutTurn> chosen = turn_at(list_->currentRow()); // it stays chosen, wherever it goes
  list_->clear();
  filled_ = knife_.plan();
  if (filled_ == nullptr || filled_->drive.plan.order.size() > most_sorted)
    return;
  std::map<PieceId, QString> names;
  const Unit unit = session_.document().unit;
  for (std::size_t i = 0; i < filled_->drive.plan.order.size(); ++i) {
    const CutPath& path = filled_->lines.order[filled_->drive.of[i]];
    const PieceId id = filled_->lines.sheet.pieces[path.piece].id;
    const auto [known, fresh] = names.try_emplace(id);
    if (const Piece* piece = fresh ? session_.document().find(id) : nullptr)
      known->second = piece_words(session_.document(), *piece);
    if (fresh && known->second.isEmpty()) // it came with the panels
      known->second = tr("Seam mark");
    const QString& name = known->second;
    auto* item = new QListWidgetItem(
        tr("%1  %2 · %3 %4").arg(i + 1).arg(name, length_text(filled_->times.legs()[i].cut, unit), unit_name(unit)));
    item->setToolTip(path.depth == 0 ? tr("An outer line")
                                     : tr("An inner line: %n lie around it", nullptr, static_cast<int>(path.depth)));
    item->setData(Qt::UserRole, static_cast<qulonglong>(i));
    list_->addItem(item);
  }
  for (int row = 0; chosen && row < list_->count(); ++row)
    if (turn_at(row) == chosen) {
      list_->setCurrentRow(row);
      break;
    }
}

void OrderCard::move_path(int row, int by) {
  if (filled_ == nullptr || row < 0)
    return;
  // Past what lies inside of it, which goes along.
  const std::vector<CutPath>& order = filled_->drive.plan.order;
  const auto lies_in = [&](int inner) {
    for (std::optional<std::size_t> at = static_cast<std::size_t>(inner); at; at = order[*at].inside)
      if (*at == static_cast<std::size_t>(row))
        return true;
    return false;
  };
  int to = row + by;
  while (to >= 0 && to < list_->count() && lies_in(to))
    to += by;
  if (to < 0 || to >= list_->count())
    return;
  {
    const QScopedValueRollback<bool> quiet(filling_, true);
    list_->insertItem(to, list_->takeItem(row));
    list_->setCurrentRow(to);
  }
  take_order();
}

void OrderCard::take_order() {
  if (filled_ == nullptr || static_cast<std::size_t>(list_->count()) != filled_->drive.plan.order.size())
    return;
  Document d = session_.document();
  std::vector<CutTurn> turns;
  std::set<CutTurn> listed;
  for (int row = 0; row < list_->count(); ++row) {
    const std::size_t path = filled_->drive.of[list_->item(row)->data(Qt::UserRole).toULongLong()];
    const CutTurn turn = filled_->turns[path];
    if (listed.insert(turn).second)
      turns.push_back(turn);
  }
  // What of other materials was ordered stays as it was.
  for (const CutTurn& t : d.order_by_hand)
    if (!listed.contains(t))
      turns.push_back(t);
  d.order_by_hand = std::move(turns);
  if (d == session_.document())
    return fill();
  session_.apply(tr("Order by hand"), std::move(d));
}

void OrderCard::refresh() {
  show_rows(material());
  if (filled_ != knife_.plan())
    fill();
  const std::size_t paths = filled_ != nullptr ? filled_->drive.plan.order.size() : 0;
  const bool listed = paths > 0 && paths <= most_sorted, by_hand = !session_.document().order_by_hand.empty();
  list_->setVisible(listed);
  earlier_->setVisible(listed), later_->setVisible(listed), own_->setVisible(by_hand);
  earlier_->setEnabled(list_->currentRow() > 0);
  later_->setEnabled(list_->currentRow() >= 0 && list_->currentRow() + 1 < list_->count());
  told_->setText(paths > most_sorted ? tr("%1 paths are too many to sort by hand.").arg(paths)
                 : by_hand           ? tr("By hand, but inner lines before those around them.")
                                     : QString());
  told_->setVisible(!told_->text().isEmpty());
  set_summary(by_hand ? tr("by hand") : tr("inside first"));
}

} // namespace frelm
