#include "app/cards/measure_card.h"

#include "app/style/words.h"

namespace frelm {

MeasureCard::MeasureCard(Session& session, QWidget* parent)
    : Card(0, tr("Measure"), session, parent), how_(note_label()), told_(note_label()), scales_(note_label()),
      selected_(note_label()), keep_(new QPushButton(tr("Keep as a mark"))),
      remove_(new QPushButton(tr("Remove mark"))), marks_(new QListWidget) {
  how_->setText(
      tr("Drag from place to place. Nodes, corners, centres and edges catch; Ctrl lets go of them, Shift keeps "
         "to level, upright and 45°. A click in a stroke measures across it."));
  add_wide(how_);
  add_wide(told_);
  known_ = length_field(tr("True length"), 0.001, 1e6);
  known_->setToolTip(tr("How long this is in truth; what is drawn is made as large as that says"));
  add_row(tr("In truth"), known_);
  may_ = new ChoiceRow(tr("What may change"), {tr("Size"), tr("Place")});
  may_->show_choice(0);
  may_->button(0)->setToolTip(tr("It becomes larger or smaller"));
  may_->button(1)->setToolTip(tr("What the line ends on moves along it"));
  add_row(tr("May change"), may_);
  connect(may_, &ChoiceRow::chosen, this, &MeasureCard::refresh);
  add_wide(scales_);
  add_wide(keep_);
  keep_->setToolTip(tr("It stays beside what it measures and follows it; on the proof, never cut"));
  add_wide(marks_);
  add_wide(remove_);
  marks_->setAccessibleName(tr("Dimension marks"));
  add_wide(selected_);
  connect(keep_, &QPushButton::clicked, this, &MeasureCard::keep);
  connect(remove_, &QPushButton::clicked, this, [this] {
    if (const int row = marks_->currentRow(); row >= 0)
      session_.apply(tr("Remove mark"), without_mark(session_.document(), static_cast<std::size_t>(row)));
  });
  connect(known_, &MeasureField::edited, this, [this](double v, bool) { make_it(v); });
  connect(&session_, &Session::measured_changed, this, &MeasureCard::refresh);
}

void MeasureCard::make_it(double length) {
  const std::optional<MeasuredLine> line = session_.measured();
  if (!line)
    return;
  const Result<Document> made =
      may_->choice() == 1
          ? moved_to_measure(session_.document(), session_.selection(), *line, length, session_.evaluator())
          : with_known_length(session_.document(), session_.selection(), *line, length);
  if (!made) {
    emit problem(words_of(made.error()));
    return;
  }
  session_.apply(tr("Make it measure"), *made);
  if (session_.document() == *made)
    session_.set_measured(
        MeasuredLine{line->from, line->from + (line->to - line->from) * (length / distance(line->from, line->to))});
}

void MeasureCard::keep() {
  const std::optional<MeasuredLine> line = session_.measured();
  if (!line)
    return;
  Document d = session_.document();
  d.marks.push_back(mark_of(d, *line, session_.evaluator()));
  session_.apply(tr("Keep a mark"), std::move(d));
  session_.set_measured({});
}

void MeasureCard::show_marks() {
  const Document& d = session_.shown();
  const int row = std::max(marks_->currentRow(), 0);
  marks_->setVisible(!d.marks.empty());
  remove_->setVisible(!d.marks.empty());
  const QSignalBlocker quiet(marks_);
  marks_->clear();
  for (const DimensionMark& m : d.marks) {
    const auto at = drawn(d, m, session_.evaluator());
    const QString length =
        at ? QString("%1 %2").arg(length_text(at->length, d.unit), unit_name(d.unit)) : tr("nothing to measure");
    const Piece* of = d.find(m.from.piece != 0 ? m.from.piece : m.to.piece);
    marks_->addItem(of != nullptr ? tr("%1 · %2").arg(length, piece_words(d, *of)) : length);
  }
  marks_->setCurrentRow(std::min(row, marks_->count() - 1));
  marks_->setFixedHeight(list_height(*marks_));
}

// Of what is selected: one piece's outline and area, the distance between two.
void MeasureCard::show_selected() {
  const std::vector<PieceId>& ids = session_.selection();
  const Unit unit = session_.document().unit;
  const auto text = [&](double mm) { return length_text(mm, unit) + " " + unit_name(unit); };
  const auto known = [&](PieceId id) { return session_.seated(id).ok() && !session_.seated(id)->provisional(); };
  QString words;
  if (ids.size() == 1 && known(ids[0])) {
    const PieceMeasures m = measures_of(*session_.seated(ids[0]));
    const double square = unit == Unit::Inch ? mm_per_inch * mm_per_inch : 100;
    const QString area =
        QString::number(m.area / square, 'f', 2) + " " + (unit == Unit::Inch ? tr("sq in") : tr("cm²"));
    words = m.area > 0 ? tr("The selected piece: outline %1, area %2").arg(text(m.length), area)
                       : tr("The selected piece: %1 long").arg(text(m.length));
  } else if (ids.size() == 2 && known(ids[0]) && known(ids[1])) {
    if (const auto gap = gap_between(*session_.seated(ids[0]), *session_.seated(ids[1])))
      words = *gap > 0 ? tr("Between the two that are selected: %1").arg(text(*gap))
                       : tr("The two that are selected touch");
  }
  selected_->setVisible(!words.isEmpty());
  selected_->setText(words);
}

void MeasureCard::refresh() {
  const std::optional<MeasuredLine> line = session_.measured();
  show_marks();
  if (!session_.dragging()) // what has ended tells again
    show_selected();
  told_->setVisible(line.has_value());
  keep_->setVisible(line.has_value());
  scales_->setVisible(line.has_value());
  show_row(known_, line.has_value());
  show_row(may_, line.has_value());
  if (!line)
    return;
  const Unit unit = session_.document().unit;
  const Vec v = line->to - line->from;
  const auto text = [&](double mm) { return length_text(mm, unit) + " " + unit_name(unit); };
  told_->setText((v.y < 0 ? tr("%1 long, %2 across, %3 up, at %4°") : tr("%1 long, %2 across, %3 down, at %4°"))
                     .arg(text(length(v)), text(std::abs(v.x)), text(std::abs(v.y)),
                          QString::number(std::round(100 * degrees(std::atan2(-v.y, v.x))) / 100)));
  if (const auto along = along_curve(session_.document(), session_.evaluator(), *line)) {
    const QString more =
        along->other_way ? tr("Along the edge %1, the other way %2").arg(text(along->length), text(*along->other_way))
                         : tr("Along the line %1").arg(text(along->length));
    told_->setText(told_->text() + "\n" + more);
  }
  known_->set_unit(unit);
  known_->show_value(length(v));
  if (may_->choice() == 1) {
    scales_->setText(session_.selection().empty() ? tr("Another length moves what the line ends on.")
                                                  : tr("Another length moves what is selected."));
    return;
  }
  switch (scaled_by(session_.document(), session_.selection(), *line)) {
  case Scales::Selection:
    scales_->setText(tr("Another length makes what is selected larger or smaller."));
    break;
  case Scales::Backing:
    scales_->setText(tr("Another length makes the backing under the line larger or smaller."));
    break;
  case Scales::All:
    scales_->setText(tr("Another length makes all of the drawing larger or smaller."));
    break;
  }
}

} // namespace frelm
