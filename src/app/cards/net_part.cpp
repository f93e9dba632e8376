#include "app/cards/net_part.h"
#include "app/style/words.h"

#include "app/canvas/handles.h"
#include "document/measure.h"
#include "lettering/block_edit.h"

namespace frelm {

NetPart::NetPart(Session& session, QWidget* parent)
    : WarpPart(session, parent), over_(new QLabel), columns_(new QLabel), rows_count_(new QLabel), note_(note_label()),
      straight_row_(new QPushButton(tr("Row"))), straight_column_(new QPushButton(tr("Column"))),
      even_row_(new QPushButton(tr("Row"))), even_column_(new QPushButton(tr("Column"))),
      reset_(new QPushButton(tr("All back"))), mirror_(new QCheckBox(tr("Mirror left and right"))), peg_(new QLabel),
      x_(length_field(tr("Peg, x"))), y_(length_field(tr("Peg, y"))) {
  add_row(tr("Over"), over_);
  for (const NetLine line : {NetLine::Column, NetLine::Row}) {
    const bool column = line == NetLine::Column;
    auto *fewer = new QToolButton, *more = new QToolButton;
    fewer->setText("−"), more->setText("+");
    fewer->setAccessibleName(column ? tr("One column less") : tr("One row less"));
    more->setAccessibleName(column ? tr("One column more") : tr("One row more"));
    fewer->setToolTip(tr("Takes the line out that says least; what changes is told"));
    more->setToolTip(tr("Halves the widest cell; nothing changes"));
    QLabel* count = column ? columns_ : rows_count_;
    count->setAlignment(Qt::AlignCenter);
    for (QToolButton* b : {fewer, more}) {
      b->setFocusPolicy(Qt::StrongFocus);
      b->setMinimumWidth(fontMetrics().height() * 2);
    }
    connect(fewer, &QToolButton::clicked, this, [this, line] { change_lines(line, false); });
    connect(more, &QToolButton::clicked, this, [this, line] { change_lines(line, true); });
    add_row(column ? tr("Columns") : tr("Rows"), in_row({{fewer, 0}, {count, 1}, {more, 0}}));
    steps_.push_back(fewer);
    steps_.push_back(more);
  }
  mirror_->setToolTip(tr("What is pulled on one side of the middle is pulled on the other side too"));
  add_wide(mirror_);
  auto *back = new QToolButton, *on = new QToolButton;
  back->setText("‹"), on->setText("›");
  back->setAccessibleName(tr("Peg before"));
  on->setAccessibleName(tr("Next peg"));
  for (QToolButton* b : {back, on})
    b->setFocusPolicy(Qt::StrongFocus);
  peg_->setAlignment(Qt::AlignCenter);
  add_row(tr("Peg"), in_row({{back, 0}, {peg_, 1}, {on, 0}}));
  add_row(tr("Place"), {x_, y_});
  straight_row_->setToolTip(tr("The chosen peg's row onto the line between its ends"));
  straight_column_->setToolTip(tr("The chosen peg's column onto the line between its ends"));
  add_row(tr("Straighten"), {straight_row_, straight_column_});
  even_row_->setToolTip(tr("Pegs of the row spaced as the columns are"));
  even_column_->setToolTip(tr("Pegs of the column spaced as the rows are"));
  add_row(tr("Even out"), {even_row_, even_column_});
  add_row(tr("Pegs"), reset_);
  reset_->setToolTip(tr("The bend as it was before the net"));
  add_wide(note_);
  connect(mirror_, &QCheckBox::clicked, this, [this](bool on_now) {
    edit_net(on_now ? tr("Mirror pulls") : tr("Pull one side"), [&](NetBend& n) { n.mirror = on_now; });
  });
  connect(back, &QToolButton::clicked, this, [this] { step_peg(-1); });
  connect(on, &QToolButton::clicked, this, [this] { step_peg(1); });
  connect(x_, &MeasureField::edited, this, [this](double v, bool s) { move_peg(v, {}, s); });
  connect(y_, &MeasureField::edited, this, [this](double v, bool s) { move_peg({}, v, s); });
  connect(straight_row_, &QPushButton::clicked, this, [this] { on_line(NetLine::Row, true); });
  connect(straight_column_, &QPushButton::clicked, this, [this] { on_line(NetLine::Column, true); });
  connect(even_row_, &QPushButton::clicked, this, [this] { on_line(NetLine::Row, false); });
  connect(even_column_, &QPushButton::clicked, this, [this] { on_line(NetLine::Column, false); });
  connect(reset_, &QPushButton::clicked, this, [this] {
    edit_net(tr("Take pegs back"),
             [](NetBend& n) { n.net = flat_net(n.net.columns.size() - 1, n.net.rows.size() - 1); });
  });
}

void NetPart::edit_net(const QString& name, const std::function<void(NetBend&)>& change, const std::string& key) {
  edit_bend(
      name, [&](Bend& b) { change(b.net); }, key);
}

void NetPart::change_lines(NetLine line, bool more) {
  if (bend() == nullptr)
    return;
  const bool column = line == NetLine::Column;
  session_.choose_nodes({});
  if (more) {
    edit_net(column ? tr("Add a column") : tr("Add a row"), [&](NetBend& n) { n = with_more(n, line); });
    return;
  }
  const std::optional<NetRemoval> less = without_line(bend()->net.net, line);
  if (!less)
    return;
  edit_net(column ? tr("Take a column out") : tr("Take a row out"), [&](NetBend& n) { n.net = less->net; });
  const Unit unit = session_.document().unit;
  removed_ =
      tr("Taken out: changed by at most %1 %2.")
          .arg(QString::fromStdString(format_length(std::round(less->largest * 100) / 100, unit)), unit_name(unit));
  removed_at_ = session_.revision();
  refresh();
}

void NetPart::on_line(NetLine line, bool straight) {
  const std::vector<std::size_t> pegs = chosen_pegs(session_);
  if (pegs.empty() || block() == nullptr)
    return;
  const Placement& placement = session_.selected()->lettering()->placement;
  const Result<Bend> changed = with_net_line(*bend(), block()->made, placement, pegs.back(), line, straight);
  if (!changed) {
    emit problem(words_of(changed.error()));
    return;
  }
  const QString name = straight ? (line == NetLine::Row ? tr("Straighten row") : tr("Straighten column"))
                                : (line == NetLine::Row ? tr("Even out row") : tr("Even out column"));
  edit_net(name, [&](NetBend& n) { n.net = changed->net.net; });
}

void NetPart::step_peg(int by) {
  if (bend() == nullptr)
    return;
  const auto count = static_cast<int>(bend()->net.net.pegs.size());
  const std::vector<std::size_t> pegs = chosen_pegs(session_);
  const int at = pegs.empty() ? (by > 0 ? 0 : count - 1) : (static_cast<int>(pegs.back()) + by + count) % count;
  session_.choose_nodes({{0, static_cast<std::size_t>(at)}});
}

std::optional<Point> NetPart::peg_place(std::size_t peg) const {
  if (block() == nullptr)
    return std::nullopt;
  for (const BlockHandle& h : block_handles(*bend(), block()->made, {}))
    if (h.kind == BlockHandleKind::Peg && h.index == peg)
      return h.at;
  return std::nullopt;
}

void NetPart::move_peg(std::optional<double> x, std::optional<double> y, bool stepped) {
  const std::vector<std::size_t> pegs = chosen_pegs(session_);
  const std::optional<Point> now = pegs.empty() ? std::nullopt : peg_place(pegs.back());
  if (!now)
    return;
  const Vec by{x ? *x - now->x : 0, y ? *y - now->y : 0};
  const Placement placement = session_.selected()->lettering()->placement;
  edit_bend(
      tr("Move peg"), [&](Bend& b) { b = with_pegs_moved(b, placement, pegs, by); }, stepped ? "step peg" : "");
}

void NetPart::refresh() {
  if (bend() == nullptr)
    return;
  const NetBend& n = bend()->net;
  const QString names[]{tr("Straight"), tr("Arc"), tr("Guide"), words_of(rails_words(bend()->rails))};
  over_->setText(names[static_cast<int>(n.base)]);
  over_->setToolTip(tr("The bend that the net was started from; it can still be changed there"));
  columns_->setText(QString::number(n.net.columns.size() - 1));
  rows_count_->setText(QString::number(n.net.rows.size() - 1));
  steps_[0]->setEnabled(n.net.columns.size() > 2);
  steps_[2]->setEnabled(n.net.rows.size() > 2);
  mirror_->setChecked(n.mirror);
  const std::vector<std::size_t> pegs = chosen_pegs(session_);
  const Unit unit = session_.document().unit;
  const bool one = !pegs.empty() && block() != nullptr;
  for (MeasureField* f : {x_, y_}) {
    f->set_unit(unit);
    f->setEnabled(one);
  }
  for (QPushButton* b : {straight_row_, straight_column_, even_row_, even_column_})
    b->setEnabled(one);
  reset_->setEnabled(std::any_of(n.net.pegs.begin(), n.net.pegs.end(), [](const NetPeg& p) { return p != NetPeg{}; }));
  peg_->setText(pegs.empty()      ? tr("none")
                : pegs.size() > 1 ? tr("%1 chosen").arg(pegs.size())
                                  : tr("%1 of %2").arg(pegs.back() + 1).arg(n.net.pegs.size()));
  if (const std::optional<Point> at = one ? peg_place(pegs.back()) : std::nullopt) {
    x_->show_value(at->x);
    y_->show_value(at->y);
  }
  note_->setText(removed_at_ == session_.revision() && !removed_.isEmpty() ? removed_
                 : pegs.empty()
                     ? tr("Pull the pegs on the sheet; a click chooses one, Shift adds more.")
                     : tr("%1 of %2 pegs chosen; arrows move them.").arg(pegs.size()).arg(n.net.pegs.size()));
}

} // namespace frelm
