#include "app/cards/copies_card.h"

#include "app/style/words.h"

namespace frelm {

CopiesCard::CopiesCard(Session& session, QWidget* parent)
    : Card(0, tr("Copies"), session, parent),
      kind_(new ChoiceRow(tr("Order of the copies"),
                          {tr("By a step"), tr("In rows"), tr("Around"), tr("Along"), tr("Nested")}, 3)),
      upright_(new QCheckBox(tr("Each stays upright"))), linked_(new QCheckBox(tr("Linked: change one, all follow"))),
      about_(new ChoiceRow(tr("Around what"), {tr("Sheet's middle"), tr("Last picked")})),
      make_(new QPushButton(tr("Make copies"))) {
  constexpr double most = static_cast<double>(most_copies), far = 1e5;
  kind_->show_choice(0);
  add_wide(kind_);
  count_ = field<StepCopies>(MeasureKind::Count, tr("How many copies"), 1, most,
                             [](StepCopies& o, double v) { o.count = static_cast<std::size_t>(v); });
  step_across_ = field<StepCopies>(MeasureKind::Length, tr("Step across"), -far, far,
                                   [](StepCopies& o, double v) { o.step.x = v; });
  step_down_ =
      field<StepCopies>(MeasureKind::Length, tr("Step down"), -far, far, [](StepCopies& o, double v) { o.step.y = v; });
  turn_ = field<StepCopies>(MeasureKind::Angle, tr("Turn from one to the next"), -360, 360,
                            [](StepCopies& o, double v) { o.turn = v; });
  columns_ = field<GridCopies>(MeasureKind::Count, tr("Columns"), 1, most,
                               [](GridCopies& o, double v) { o.columns = static_cast<std::size_t>(v); });
  rows_count_ = field<GridCopies>(MeasureKind::Count, tr("Rows"), 1, most,
                                  [](GridCopies& o, double v) { o.rows = static_cast<std::size_t>(v); });
  gap_across_ =
      field<GridCopies>(MeasureKind::Length, tr("Gap across"), -far, far, [](GridCopies& o, double v) { o.gap.x = v; });
  gap_down_ =
      field<GridCopies>(MeasureKind::Length, tr("Gap down"), -far, far, [](GridCopies& o, double v) { o.gap.y = v; });
  around_ = field<RingCopies>(MeasureKind::Count, tr("How many around"), 2, most,
                              [](RingCopies& o, double v) { o.count = static_cast<std::size_t>(v); });
  sweep_ = field<RingCopies>(MeasureKind::Angle, tr("Angle that they fill"), -360, 360,
                             [](RingCopies& o, double v) { o.sweep = v; });
  along_ = field<AlongCopies>(MeasureKind::Count, tr("How many along the line"), 1, most,
                              [](AlongCopies& o, double v) { o.count = static_cast<std::size_t>(v); });
  nested_ = field<NestedCopies>(MeasureKind::Count, tr("How many on the sheet"), 1, most,
                                [](NestedCopies& o, double v) { o.count = static_cast<std::size_t>(v); });
  apart_ = field<NestedCopies>(MeasureKind::Length, tr("Between copies"), 0, 1000,
                               [](NestedCopies& o, double v) { o.apart = v; });
  margin_ = field<NestedCopies>(MeasureKind::Length, tr("Margin of the sheet"), 0, 1000,
                                [](NestedCopies& o, double v) { o.margin = v; });
  may_turn_ = new ChoiceRow(tr("May be turned"), {tr("No"), tr("180°"), tr("90°"), tr("Freely")}, 4);
  connect(may_turn_, &ChoiceRow::chosen, this, [this](int i) {
    std::get<NestedCopies>(orders_[4]).turn = static_cast<MayTurn>(i);
    changed();
  });
  kind_->button(4)->setToolTip(
      tr("All over the sheet, as close by their outlines as they may stand; what is there moves along"));
  kind_->button(3)->setToolTip(tr("Along the guide or the outline that was picked last"));
  add_row(tr("Copies"), count_);
  add_row(tr("Step"), {step_across_, step_down_});
  add_row(tr("Turn"), turn_);
  add_row(tr("Columns"), {columns_, rows_count_});
  add_row(tr("Gaps"), {gap_across_, gap_down_});
  add_row(tr("Copies"), along_);
  add_row(tr("In all"), nested_);
  add_row(tr("Apart"), apart_);
  add_row(tr("Margin"), margin_);
  add_row(tr("Turned"), may_turn_);
  add_row(tr("In all"), around_);
  add_row(tr("Over"), sweep_);
  add_row(tr("About"), about_);
  add_wide(upright_);
  add_wide(linked_);
  linked_->setToolTip(tr("Letters, shape, finish and colour; place, turn and size stay each copy's own"));
  auto* close = new QPushButton(tr("Close"));
  close->setAccessibleName(tr("Close the copies"));
  make_->setObjectName("strong");
  add_wide(in_row({{make_, 2}, {close, 1}}));
  connect(kind_, &ChoiceRow::chosen, this, &CopiesCard::changed);
  connect(about_, &ChoiceRow::chosen, this, [this](int i) {
    std::get<RingCopies>(orders_[2]).about_last = i == 1;
    changed();
  });
  connect(upright_, &QCheckBox::clicked, this, [this](bool on) {
    std::get<RingCopies>(orders_[2]).upright = on;
    std::get<AlongCopies>(orders_[3]).upright = on;
    changed();
  });
  connect(make_, &QPushButton::clicked, this,
          [this] { emit wanted(order(), linked_->isChecked() ? CopyAs::Linked : CopyAs::Free); });
  connect(close, &QPushButton::clicked, this, &CopiesCard::closed);
}

template <class Order>
MeasureField* CopiesCard::field(MeasureKind kind, const QString& name, double low, double high,
                                const std::function<void(Order&, double)>& set) {
  auto* f = new MeasureField(kind, name);
  f->set_range(low, high);
  connect(f, &MeasureField::edited, this, [this, set](double v, bool) {
    for (CopyOrder& o : orders_)
      if (auto* mine = std::get_if<Order>(&o))
        set(*mine, v);
    changed();
  });
  return f;
}

void CopiesCard::changed() {
  refresh();
}

void CopiesCard::showEvent(QShowEvent* event) {
  Card::showEvent(event);
  refresh();
}

void CopiesCard::hideEvent(QHideEvent* event) {
  Card::hideEvent(event);
  emit shown(nullptr);
}

void CopiesCard::refresh() {
  const int kind = kind_->choice();
  for (QWidget* f : {static_cast<QWidget*>(count_), static_cast<QWidget*>(step_across_), static_cast<QWidget*>(turn_)})
    show_row(f, kind == 0);
  step_down_->setVisible(kind == 0);
  for (QWidget* f : {static_cast<QWidget*>(columns_), static_cast<QWidget*>(gap_across_)})
    show_row(f, kind == 1);
  rows_count_->setVisible(kind == 1);
  gap_down_->setVisible(kind == 1);
  for (QWidget* f : {static_cast<QWidget*>(around_), static_cast<QWidget*>(sweep_), static_cast<QWidget*>(about_)})
    show_row(f, kind == 2);
  show_row(along_, kind == 3);
  for (QWidget* f : {static_cast<QWidget*>(nested_), static_cast<QWidget*>(apart_), static_cast<QWidget*>(margin_),
                     static_cast<QWidget*>(may_turn_)})
    show_row(f, kind == 4);
  upright_->setVisible(kind == 2 || kind == 3);
  for (MeasureField* f : {step_across_, step_down_, gap_across_, gap_down_, apart_, margin_})
    f->set_unit(session_.document().unit);
  const auto& step = std::get<StepCopies>(orders_[0]);
  const auto& grid = std::get<GridCopies>(orders_[1]);
  const auto& ring = std::get<RingCopies>(orders_[2]);
  count_->show_value(static_cast<double>(step.count));
  step_across_->show_value(step.step.x);
  step_down_->show_value(step.step.y);
  turn_->show_value(step.turn);
  columns_->show_value(static_cast<double>(grid.columns));
  rows_count_->show_value(static_cast<double>(grid.rows));
  gap_across_->show_value(grid.gap.x);
  gap_down_->show_value(grid.gap.y);
  along_->show_value(static_cast<double>(std::get<AlongCopies>(orders_[3]).count));
  around_->show_value(static_cast<double>(ring.count));
  sweep_->show_value(ring.sweep);
  const auto& nest = std::get<NestedCopies>(orders_[4]);
  nested_->show_value(static_cast<double>(nest.count));
  apart_->show_value(nest.apart);
  margin_->show_value(nest.margin);
  may_turn_->show_choice(static_cast<int>(nest.turn));
  upright_->setChecked(ring.upright);
  about_->show_choice(ring.about_last ? 1 : 0);
  make_->setEnabled(!session_.selection().empty());
  if (!isVisible() || session_.dragging())
    return;
  const Result<Outline> copies = copies_shown(session_.document(), session_.selection(), order(), session_.evaluator());
  emit shown(copies ? std::make_shared<const Outline>(*copies) : nullptr);
}

} // namespace frelm
