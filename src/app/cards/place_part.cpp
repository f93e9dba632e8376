#include "app/cards/place_part.h"

namespace frelm {

PlacePart::PlacePart(Session& session, const CommandTable& commands)
    : Card(0, {}, session), commands_(commands),
      to_(new ChoiceRow(tr("What stays"), {tr("Last"), tr("All"), tr("Sheet")})),
      by_(new ChoiceRow(tr("Measured by"), {tr("Ink"), tr("Caps"), tr("Area"), tr("Room")}, 4)),
      margin_(new MeasureField(MeasureKind::Length, tr("Margin inside"))),
      turn_(new MeasureField(MeasureKind::Angle, tr("Turn all by"))) {
  embed();
  add_row(tr("Stays"), to_);
  add_row(tr("By"), by_);
  to_->button(0)->setToolTip(tr("The piece that was picked last stays, the others come to it"));
  to_->button(1)->setToolTip(tr("What all of them cover now stays as it is"));
  to_->button(2)->setToolTip(tr("They are placed on the sheet"));
  by_->button(0)->setToolTip(tr("By what is cut"));
  by_->button(1)->setToolTip(tr("Letterings by their baseline and the height of their capitals"));
  by_->button(2)->setToolTip(tr("By the middle of their area"));
  by_->button(3)->setToolTip(tr("Shapes by where there is most room in them: the middle of the largest circle inside"));
  connect(to_, &ChoiceRow::chosen, this, [this](int i) {
    PlaceChoice choice = session_.place_choice();
    choice.to = static_cast<PlaceTo>(i);
    session_.set_place_choice(choice);
  });
  connect(by_, &ChoiceRow::chosen, this, [this](int i) {
    PlaceChoice choice = session_.place_choice();
    choice.by = static_cast<PlaceBy>(i);
    session_.set_place_choice(choice);
  });
  connect(&session_, &Session::place_choice_changed, this, &PlacePart::refresh);
  add_buttons(tr("Line up"), {"arrange.line-up.left", "arrange.line-up.middle", "arrange.line-up.right",
                              "arrange.line-up.top", "arrange.line-up.centre", "arrange.line-up.bottom"});
  add_buttons(tr("Both"), {"arrange.centre-on"});
  add_buttons(tr("Spread"), {"arrange.spread-across", "arrange.spread-down"});
  add_buttons(tr("As large"), {"arrange.as-wide", "arrange.as-wide-spread", "arrange.as-high", "arrange.as-capitals"});
  add_buttons(tr("Inside"), {"arrange.even-margins", "arrange.largest-inside"});
  constexpr double most_margin = 5000; // mm
  margin_->set_range(0, most_margin);
  margin_->setToolTip(tr("What Largest leaves to the edge of the shape picked last, at least"));
  add_row(tr("Margin"), margin_);
  connect(margin_, &MeasureField::edited, this, [this](double v, bool) {
    PlaceChoice choice = session_.place_choice();
    choice.margin = v;
    session_.set_place_choice(choice);
  });
  turn_->set_range(-360, 360);
  turn_->setToolTip(tr("Clockwise, about the middle of all"));
  add_row(tr("Turn by"), turn_);
  connect(turn_, &MeasureField::edited, this, [this](double v, bool) {
    emit turn_wanted(v);
    turn_->show_value(0); // it is done
  });
}

void PlacePart::add_buttons(const QString& label, const QStringList& ids) {
  auto* held = new QWidget;
  auto* grid = new QGridLayout(held);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(5);
  constexpr int most_columns = 3, in_twos = 4;
  const int columns = ids.size() == in_twos ? 2 : std::min(most_columns, static_cast<int>(ids.size()));
  for (int i = 0; const QString& id : ids) {
    const CommandTable::Entry* entry = commands_.find(id);
    auto* button = new QPushButton(entry->command.short_words);
    button->setAccessibleName(entry->words());
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    connect(button, &QPushButton::clicked, entry->action, &QAction::trigger);
    grid->addWidget(button, i / columns, i % columns);
    buttons_.emplace_back(button, entry);
    ++i;
  }
  add_row(label, held);
}

void PlacePart::refresh() {
  to_->show_choice(static_cast<int>(session_.place_choice().to));
  by_->show_choice(static_cast<int>(session_.place_choice().by));
  margin_->set_unit(session_.document().unit);
  margin_->show_value(session_.place_choice().margin);
  turn_->show_value(0);
  for (const auto& [button, entry] : buttons_) {
    const QString why_not = entry->why_not();
    button->setEnabled(why_not.isEmpty());
    button->setToolTip(why_not.isEmpty() ? entry->words() + (entry->key().isEmpty() ? "" : " (" + entry->key() + ")")
                                         : why_not);
  }
}

} // namespace frelm
