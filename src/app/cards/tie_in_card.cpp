#include "app/cards/tie_in_card.h"

#include "app/style/words.h"

namespace frelm {

TieInCard::TieInCard(Session& session, QWidget* parent)
    : Card(0, tr("Tie into a frame"), session, parent), contacts_(new MeasureField(MeasureKind::Count, tr("Places"))),
      least_(length_field(tr("Least width of a place"), least_tie, most_tie)),
      turn_(new MeasureField(MeasureKind::Angle, tr("Turned by up to"))),
      smallest_(new MeasureField(MeasureKind::Percent, tr("Smallest size"))),
      largest_(new MeasureField(MeasureKind::Percent, tr("Largest size"))),
      margin_(length_field(tr("Distance to other holes"), 0, 1000)), find_(new QPushButton(tr("Find places"))),
      one_(new QPushButton(tr("Make one piece"))), answers_(new ChoiceRow(tr("Answer"), {"1", "2", "3"})),
      told_(note_label()) {
  contacts_->set_range(1, 40);
  turn_->set_range(0, 180);
  smallest_->set_range(5, 1000);
  largest_->set_range(5, 1000);
  contacts_->setToolTip(tr("At how many places the word and the frame hold together"));
  least_->setToolTip(tr("How wide each of them is at least"));
  turn_->setToolTip(tr("0: the word stays as it stands"));
  smallest_->setToolTip(tr("Of its size now"));
  largest_->setToolTip(tr("Of its size now"));
  margin_->setToolTip(tr("The word keeps so far off the frame's other holes, such as an eye"));
  add_row(tr("Places"), contacts_);
  add_row(tr("Each at least"), least_);
  add_row(tr("Turned up to"), turn_);
  add_row(tr("Size"), {smallest_, largest_});
  add_row(tr("Off holes"), margin_);
  find_->setObjectName("strong");
  find_->setToolTip(tr("Looks for places, sizes and turns at which the word holds all round"));
  auto* close = new QPushButton(tr("Close"));
  close->setAccessibleName(tr("Close the tie-in"));
  add_wide(in_row({{find_, 2}, {close, 1}}));
  add_wide(told_);
  add_row(tr("Answer"), answers_);
  one_->setToolTip(tr("Welds the word and the frame; counters stay, and what is loose gets ties"));
  add_wide(one_);
  const auto set = [this](MeasureField* field, auto member, double k) {
    connect(field, &MeasureField::edited, this, [this, member, k](double v, bool) {
      wish_.*member = static_cast<std::remove_reference_t<decltype(wish_.*member)>>(v * k);
      wish_.largest = std::max(wish_.largest, wish_.smallest);
      refresh();
    });
  };
  set(contacts_, &TieInWish::contacts, 1);
  set(least_, &TieInWish::least, 1);
  set(turn_, &TieInWish::turn, 1);
  set(smallest_, &TieInWish::smallest, 0.01);
  set(largest_, &TieInWish::largest, 0.01);
  set(margin_, &TieInWish::margin, 1);
  connect(find_, &QPushButton::clicked, this, [this] { emit find_wanted(wish_); });
  connect(answers_, &ChoiceRow::chosen, this, &TieInCard::choose);
  connect(one_, &QPushButton::clicked, this, [this] { emit one_wanted(pair_, wish_.least); });
  connect(close, &QPushButton::clicked, this, &TieInCard::closed);
  connect(&session_, &Session::history_changed, this, [this] {
    if (!found_.empty() && session_.history().current().id != step_)
      forget();
  });
  forget();
}

void TieInCard::hideEvent(QHideEvent*) {
  forget();
}

void TieInCard::forget() {
  found_.clear();
  told_->setText(tr("Select a word and a frame with an inside; the larger one is the frame."));
  show_row(answers_, false);
  one_->setVisible(false);
  emit numbered({});
}

void TieInCard::show_found(const Document& in, const Result<FoundInFrame>& result) {
  forget();
  if (!result) {
    told_->setText(words_of(result.error()));
    return;
  }
  const TieInFound* found = &result->found;
  if (found->best.empty()) {
    const Unit unit = session_.document().unit;
    const QString missing =
        found->missing == 1 ? tr("1 place is missing") : tr("%1 places are missing").arg(found->missing);
    told_->setText(found->one_sided ? tr("It does not hold all round: the places lie on one side. Let it be larger or "
                                         "turned further, or ask for fewer.")
                                    : tr("%1, the next by %2 %3. Let it be larger or turned further, or ask for fewer.")
                                          .arg(missing, length_text(found->short_by, unit), unit_name(unit)));
    return;
  }
  in_ = in, pair_ = result->pair, found_ = found->best;
  for (int i = 0; i < 3; ++i)
    answers_->button(i)->setVisible(static_cast<std::size_t>(i) < found_.size());
  show_row(answers_, true);
  one_->setVisible(true);
  answers_->show_choice(0);
  choose(0);
}

void TieInCard::choose(int answer) {
  const auto at = static_cast<std::size_t>(answer);
  if (at >= found_.size())
    return;
  const TiedIn chosen = found_[at];
  const Result<Document> made = tied_in(in_, pair_.word, chosen);
  if (!made) {
    emit problem(words_of(made.error()));
    return;
  }
  const std::vector<TiedIn> kept = std::exchange(found_, {}); // our own step is no reason to forget
  session_.apply(tr("Tie into a frame"), *made, {}, "tie-in");
  found_ = kept, step_ = session_.history().current().id;
  const Unit unit = session_.document().unit;
  QStringList widths;
  std::vector<Point> places;
  for (const Contact& c : chosen.contacts) {
    widths << length_text(c.width, unit);
    places.push_back(c.at);
  }
  told_->setText(tr("%1 places, %2 %3 wide; %4 % of its size, turned %5°")
                     .arg(chosen.contacts.size())
                     .arg(widths.join(" · "), unit_name(unit))
                     .arg(qRound(100 * chosen.scale))
                     .arg(QString::number(std::round(10 * chosen.turn) / 10)));
  emit numbered(places);
}

void TieInCard::refresh() {
  for (MeasureField* f : {least_, margin_})
    f->set_unit(session_.document().unit);
  contacts_->show_value(wish_.contacts);
  least_->show_value(wish_.least);
  turn_->show_value(wish_.turn);
  smallest_->show_value(100 * wish_.smallest);
  largest_->show_value(100 * wish_.largest);
  margin_->show_value(wish_.margin);
  find_->setEnabled(session_.selection().size() == 2);
}

} // namespace frelm
