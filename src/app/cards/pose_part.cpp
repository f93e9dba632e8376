#include "app/cards/pose_part.h"

#include "app/style/words.h"
#include "document/arrange.h"
#include "document/resize.h"

#include <QHBoxLayout>

namespace frelm {
namespace {

constexpr int columns = 3; // of the places one can be held by

Point share_at(int index) {
  return {(index % columns) / 2.0, (index / columns) / 2.0};
}

bool has_finish(const Document& document, const std::vector<PieceId>& ids) {
  return std::any_of(ids.begin(), ids.end(), [&](PieceId id) {
    const Piece* piece = document.find(id);
    return piece != nullptr && piece->finish() != nullptr && piece->finish()->makes_layers();
  });
}

} // namespace

PosePart::PosePart(Session& session)
    : Card(0, {}, session), width_(length_field(tr("Width"), 0.01)), height_(length_field(tr("Height"), 0.01)),
      x_(length_field(tr("Left"))), y_(length_field(tr("Top"))),
      lean_(new MeasureField(MeasureKind::Angle, tr("Lean by"))), held_by_(new ChoiceBox),
      grows_(new QCheckBox(tr("Rings and shades grow along"))) {
  embed();
  add_row(tr("Size"), {width_, height_});
  add_row(tr("Place"), {x_, y_});
  held_by_->setAccessibleName(tr("Held by"));
  held_by_->setToolTip(tr("What stays when the size changes, and what the place is told of"));
  held_by_->addItems({tr("Upper left corner"), tr("Middle of the top"), tr("Upper right corner"),
                      tr("Middle of the left"), tr("Middle"), tr("Middle of the right"), tr("Lower left corner"),
                      tr("Middle of the bottom"), tr("Lower right corner")});
  add_row(tr("Held by"), held_by_);
  lean_->set_range(-most_lean, most_lean);
  lean_->setToolTip(tr("Outlines leant over to the right, to the left with a minus"));
  add_row(tr("Lean by"), lean_);
  grows_->setToolTip(tr("With another size the measures of borders, shades, tabs and round corners change as well; "
                        "linked copies keep theirs"));
  add_wide(grows_);
  width_->setToolTip(tr("As one: the height follows"));
  height_->setToolTip(tr("As one: the width follows"));
  connect(width_, &MeasureField::edited, this, [this](double v, bool) { size(InkSide::Width, v); });
  connect(height_, &MeasureField::edited, this, [this](double v, bool) { size(InkSide::Height, v); });
  connect(x_, &MeasureField::edited, this, [this](double v, bool) {
    move({v - at_share(session_.selection_ink(), session_.held_by()).x, 0});
  });
  connect(y_, &MeasureField::edited, this, [this](double v, bool) {
    move({0, v - at_share(session_.selection_ink(), session_.held_by()).y});
  });
  connect(held_by_, &QComboBox::activated, this, [this](int i) {
    session_.set_held_by(share_at(i));
    refresh();
  });
  connect(lean_, &MeasureField::edited, this, [this](double v, bool) {
    session_.apply(tr("Lean"), lean_outlines(session_.document(), session_.selection(),
                                             at_share(session_.selection_ink(), session_.held_by()), v));
    lean_->show_value(0); // it is done
  });
  connect(grows_, &QCheckBox::clicked, this, [this](bool on) {
    Document document = session_.document();
    document.finish_grows = on;
    session_.apply(on ? tr("Rings and shades grow along") : tr("Rings and shades keep their measures"),
                   std::move(document));
  });
}

void PosePart::size(InkSide side, double target) {
  const std::vector<PieceId>& ids = session_.selection();
  const frelm::Box ink = session_.selection_ink();
  const double k = target / (side == InkSide::Width ? ink.width() : ink.height());
  if (!(k > 0) || !std::isfinite(k)) {
    emit problem(tr("What is selected has no such size"));
    return;
  }
  const Change change{{}, 0, k, session_.held_by()};
  if (ids.size() != 1) {
    session_.apply(tr("Change size"), changed(session_.document(), ids, change, ink), {}, "size");
    session_.set_last_change(change);
    return;
  }
  // One by itself is solved for: what it follows may be locked.
  const DocumentEvaluator& evaluator = session_.evaluator();
  const Result<Document> sized =
      with_ink_size(session_.document(), ids[0], side, target, GuideScaling::Along, evaluator);
  const Result<PieceResult> now = sized ? evaluator.piece(*sized, ids[0], Depth::Seat) : sized.error();
  if (!now) {
    emit problem(words_of(now.error()));
    return;
  }
  const Vec back = at_share(ink, session_.held_by()) - at_share(now->ink, session_.held_by());
  session_.apply(tr("Change size"), move_pieces(*sized, ids, back), {}, "size");
}

void PosePart::move(Vec by) {
  session_.apply(tr("Move"), move_pieces(session_.document(), session_.selection(), by), {}, "place");
  session_.set_last_change(Change{by});
}

void PosePart::refresh() {
  const Document& document = session_.document();
  const std::vector<PieceId>& ids = session_.selection();
  const frelm::Box ink = session_.selection_ink();
  const Point share = session_.held_by(), at = at_share(ink, share);
  for (MeasureField* f : {width_, height_, x_, y_})
    f->set_unit(document.unit);
  width_->show_value(ink.width()), height_->show_value(ink.height());
  x_->show_value(at.x), y_->show_value(at.y);
  x_->setAccessibleName(share.x == 0 ? tr("Left") : share.x == 1 ? tr("Right") : tr("Middle across"));
  y_->setAccessibleName(share.y == 0 ? tr("Top") : share.y == 1 ? tr("Bottom") : tr("Middle down"));
  held_by_->setCurrentIndex(columns * static_cast<int>(2 * share.y) + static_cast<int>(2 * share.x));
  lean_->show_value(0);
  show_row(lean_, !ids.empty() && std::all_of(ids.begin(), ids.end(), [&](PieceId id) {
             const Piece* piece = document.find(id);
             return piece != nullptr && piece->outline() != nullptr && !piece->locked;
           }));
  grows_->setVisible(has_finish(document, ids));
  grows_->setChecked(document.finish_grows);
}

} // namespace frelm
