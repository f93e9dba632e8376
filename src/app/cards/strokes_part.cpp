#include "app/cards/strokes_part.h"

#include "app/style/words.h"
#include "document/measure.h"

namespace frelm {
namespace {

constexpr std::size_t most_heights = 12; // listed one by one

} // namespace

StrokesPart::StrokesPart(Session& session, QWidget* parent)
    : Card(0, {}, session, parent), numbers_(note_label()),
      least_(length_field(tr("Thinnest stroke that can be cut"), 0)) {
  embed();
  least_->set_step(0.1);
  least_->setToolTip(tr("Strokes that the bend makes thinner than this are told in the Cut check; 0 asks for nothing"));
  add_row(tr("Least stroke"), least_);
  add_wide(numbers_);
  connect(least_, &MeasureField::edited, this, [this](double v, bool s) {
    edit(tr("Change the least stroke"), s, [&](Piece& p) {
      if (p.lettering() != nullptr)
        p.lettering()->recipe.bend.least_stroke = v;
    });
  });
}

void StrokesPart::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Unit unit = session_.document().unit;
  least_->set_unit(unit);
  least_->show_value(piece->lettering()->recipe.bend.least_stroke);
  const Result<PieceResult>& now = session_.seated(piece->id);
  if (!now || now->bent == nullptr) {
    numbers_->setText(now ? QString() : words_of(now.error()));
    return;
  }
  const BentBlock& b = *now->bent;
  if (b.sketch)
    return; // the exact one is under way
  QString text = tr("Strokes %1 to %2 % of the straight ones, sheared by up to %3°.")
                     .arg(std::lround(100 * b.stretch.narrowest))
                     .arg(std::lround(100 * b.stretch.widest))
                     .arg(degrees(b.stretch.steepest_shear), 0, 'f', 0);
  if (b.heights.size() > 1) {
    const auto [low, high] = std::minmax_element(b.heights.begin(), b.heights.end());
    const auto mm = [&](double v) { return QString::fromStdString(format_length(std::round(v * 10) / 10, unit)); };
    if (b.heights.size() <= most_heights) {
      QStringList all;
      for (const double v : b.heights)
        all << mm(v);
      text += " " + tr("Heights from left to right: %1 %2.").arg(all.join(", "), unit_name(unit));
    } else {
      text += " " + tr("Letters %1 to %2 %3 high; first %4, last %5.")
                        .arg(mm(*low), mm(*high), unit_name(unit), mm(b.heights.front()), mm(b.heights.back()));
    }
  }
  text += " " + tr("%1 nodes, %2 before.").arg(b.report.nodes_out).arg(b.report.nodes_in);
  if (b.report.folds > 0)
    text += " " + tr("The letters fold over: undo, or bend less.");
  numbers_->setText(text);
}

} // namespace frelm
