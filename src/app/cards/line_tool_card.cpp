#include "app/cards/line_tool_card.h"

namespace frelm {

namespace {

QString title_of(ToolKind tool) {
  return tool == ToolKind::Snip    ? LineToolCard::tr("Snip")
         : tool == ToolKind::Space ? LineToolCard::tr("Take space")
                                   : LineToolCard::tr("Sand");
}

QString how_of(ToolKind tool) {
  return tool == ToolKind::Snip
             ? LineToolCard::tr("A click takes out the stretch of a line that lights up, from crossing to crossing. "
                                "Drag across several to take out each. Letters are snipped once they are released.")
         : tool == ToolKind::Space
             ? LineToolCard::tr("A click makes the space that lights up a piece, a drag one piece of all it passes. "
                                "With Shift it is added to the piece just made.")
             : LineToolCard::tr("Drag over an outline or a guide to even it out. With the Nodes tool, Sand does the "
                                "same at the nodes that are chosen.");
}

} // namespace

LineToolCard::LineToolCard(ToolKind tool, Session& session, QWidget* parent)
    : Card(0, title_of(tool), session, parent), told_(note_label()), tool_(tool) {
  auto* how = note_label();
  how->setText(how_of(tool));
  add_wide(how);
  if (tool == ToolKind::Space) {
    bridged_ = length_field(tr("Widest opening that is bridged"), 0, 1000);
    bridged_->setToolTip(tr("Openings between lines up to this width count as closed; 0: none"));
    add_row(tr("Bridge"), bridged_);
    connect(bridged_, &MeasureField::edited, this, [this](double v, bool) { session_.set_bridged(v); });
  }
  if (tool == ToolKind::Sand)
    add_brush();
  add_wide(told_);
  told_->setVisible(tool != ToolKind::Sand);
  connect(&session_, &Session::lines_found, this, &LineToolCard::refresh);
}

void LineToolCard::add_brush() {
  const auto field = [this](const QString& label, const QString& name, const QString& tip, double low, double high,
                            const std::function<void(BrushOptions&, double)>& set) {
    MeasureField* f = length_field(name, low, high);
    f->setToolTip(tip);
    add_row(label, f);
    connect(f, &MeasureField::edited, this, [this, set](double v, bool) {
      BrushOptions brush = session_.brush();
      set(brush, v);
      session_.set_brush(brush);
      refresh();
    });
    return f;
  };
  size_ = field(tr("Size"), tr("Size of the brush"), tr("How wide the brush is"), 0.2, 200,
                [](BrushOptions& b, double v) { b.radius = v / 2; });
  evens_ = field(tr("Evens out"), tr("Wobbles that are evened out"), tr("Wobbles shorter than this along the line go"),
                 0.05, 200, [](BrushOptions& b, double v) { b.wavelength = v; });
  drift_ = field(tr("Farthest"), tr("Farthest that the line moves"),
                 tr("No place moves farther from where it was when the stroke began"), 0, 100,
                 [](BrushOptions& b, double v) { b.most_drift = v; });
}

void LineToolCard::refresh() {
  if (tool_ == ToolKind::Sand) {
    for (MeasureField* f : {size_, evens_, drift_})
      f->set_unit(session_.document().unit);
    size_->show_value(2 * session_.brush().radius);
    evens_->show_value(session_.brush().wavelength);
    drift_->show_value(session_.brush().most_drift);
    return;
  }
  const auto work = isVisible() ? session_.line_work() : nullptr;
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
    told_->setText(n == 0 ? QString() : n == 1 ? tr("1 opening is bridged.") : tr("%1 openings are bridged.").arg(n));
  else
    told_->setText(n == 0 ? tr("No loose ends.") : n == 1 ? tr("1 loose end.") : tr("%1 loose ends.").arg(n));
}

} // namespace frelm
