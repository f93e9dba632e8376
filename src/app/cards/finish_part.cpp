#include "app/cards/finish_part.h"

#include <QVBoxLayout>

namespace frelm {

FinishPart::FinishPart(Session& session, QWidget* parent)
    : Card(0, {}, session, parent), list_(new QWidget), add_(new QPushButton(tr("Add a step"))), nodes_(note_label()) {
  embed();
  auto* column = new QVBoxLayout(list_);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  add_->setToolTip(tr("A border, a shade and more, worked out anew whenever the letters change"));
  add_wide(list_);
  add_wide(add_);
  add_wide(nodes_);
}

void FinishPart::offer(const CommandTable& commands, const QStringList& ids) {
  auto* menu = new QMenu(add_);
  for (const QString& id : ids)
    menu->addAction(commands.find(id)->action);
  add_->setMenu(menu);
}

void FinishPart::restyle() {
  of_ = 0; // swatches and all are built anew
  refresh();
}

void FinishPart::open_step(std::size_t index) {
  open_ = index;
  refresh();
}

void FinishPart::rebuild(const Finish& finish) {
  for (FinishStepBox* box : boxes_)
    box->hide(), box->deleteLater();
  boxes_.clear();
  for (std::size_t i = 0; i < finish.steps.size(); ++i) {
    auto* box = new FinishStepBox(i, finish.steps[i].what, session_, list_);
    connect(box, &FinishStepBox::opened, this, [this](std::size_t at) { open_step(open_ == at ? none : at); });
    connect(box, &FinishStepBox::moved, this, [this](std::size_t to) {
      open_step(to);
      if (to < boxes_.size())
        boxes_[to]->focus_heading();
    });
    list_->layout()->addWidget(box);
    box->show();
    boxes_.push_back(box);
  }
}

void FinishPart::refresh() {
  const Piece* piece = session_.selected();
  const Finish* finish = piece != nullptr ? piece->finish() : nullptr;
  if (finish == nullptr)
    return;
  // What the boxes are built for.
  std::vector<std::pair<std::size_t, std::size_t>> kinds;
  for (const FinishStep& s : finish->steps) {
    const auto* border = std::get_if<BorderStep>(&s.what);
    const auto* shade = std::get_if<ShadeStep>(&s.what);
    const auto* ties = std::get_if<TieStep>(&s.what);
    kinds.emplace_back(s.what.index(), border != nullptr  ? border->rings.size()
                                       : shade != nullptr ? static_cast<std::size_t>(shade->kind)
                                       : ties != nullptr  ? static_cast<std::size_t>(ties->kind)
                                                          : 0);
  }
  if (of_ != piece->id || kinds != kinds_) {
    if (of_ != piece->id)
      open_ = none;
    else if (kinds.size() > kinds_.size())
      open_ = kinds.size() - 1; // what was just added
    of_ = piece->id, kinds_ = std::move(kinds);
    rebuild(*finish);
  }
  const Session::LayersShown layers = session_.layers(piece->id);
  const auto outline = session_.finished(piece->id);
  const bool known = layers.finished != nullptr && layers.current;
  for (std::size_t i = 0; i < boxes_.size(); ++i)
    boxes_[i]->show_step(finish->steps[i], known ? &layers.finished->steps[i] : nullptr, i == open_, boxes_.size());
  add_->setEnabled(finish->steps.size() < most_finish_steps);
  nodes_->setText(
      known && layers.finished->layers.size() > 1
          ? tr("%1 nodes in %2 layers").arg(layers.finished->node_count()).arg(layers.finished->layers.size())
      : outline != nullptr ? lines_told(*outline)
                           : tr("Working…"));
}

QString FinishPart::lines_told(const Outline& outline) {
  return outline.contours.size() == 1
             ? tr("%1 nodes in one line").arg(outline.node_count())
             : tr("%1 nodes in %2 lines").arg(outline.node_count()).arg(outline.contours.size());
}

} // namespace frelm
