#include "app/cards/line_tool_card.h"

namespace frelm {

LineToolCard::LineToolCard(ToolKind tool, Session& session, QWidget* parent)
    : Card(0, tool == ToolKind::Snip ? tr("Snip") : tr("Take space"), session, parent), told_(note_label()) {
  auto* how = note_label();
  how->setText(
      tool == ToolKind::Snip
          ? tr("A click takes out the stretch of a line that lights up, from crossing to crossing. Drag across "
               "several to take out each. Letters are snipped once they are released.")
          : tr("A click makes the space that lights up a piece, a drag one piece of all it passes. With Shift "
               "it is added to the piece just made."));
  add_wide(how);
  if (tool == ToolKind::Space) {
    bridged_ = length_field(tr("Widest opening that is bridged"), 0, 1000);
    bridged_->setToolTip(tr("Openings between lines up to this width count as closed; 0: none"));
    add_row(tr("Bridge"), bridged_);
    connect(bridged_, &MeasureField::edited, this, [this](double v, bool) { session_.set_bridged(v); });
  }
  add_wide(told_);
  connect(&session_, &Session::lines_found, this, &LineToolCard::refresh);
}

void LineToolCard::refresh() {
  const auto work = session_.line_work();
  if (bridged_ != nullptr) {
    bridged_->set_unit(session_.document().unit);
    bridged_->show_value(session_.bridged());
  }
  if (work == nullptr) {
    told_->setText(tr("Looking at the lines…"));
    return;
  }
  const std::size_t n = bridged_ != nullptr ? work->spaces.bridges().size() : work->spaces.lines().loose_ends().size();
  if (bridged_ != nullptr)
    told_->setText(n == 1 ? tr("1 opening is bridged.") : tr("%1 openings are bridged.").arg(n));
  else
    told_->setText(n == 1 ? tr("1 loose end.") : tr("%1 loose ends.").arg(n));
}

} // namespace frelm
