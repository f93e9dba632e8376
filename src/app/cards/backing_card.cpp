#include "app/cards/backing_card.h"

#include "app/style/words.h"

#include <QHBoxLayout>
#include <QSignalBlocker>

namespace frelm {

BackingCard::BackingCard(Session& session, QWidget* parent)
    : Card(0, tr("Backing"), session, parent), which_(new QComboBox), shown_(new QCheckBox(tr("Show"))),
      by_hand_(new QPushButton(tr("By hand"))), trace_(new QPushButton(tr("Trace…"))) {
  which_->setAccessibleName(tr("Which backing"));
  which_->setMinimumContentsLength(1);
  which_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  add_wide(which_);
  connect(which_, &QComboBox::activated, this, [this](int i) { session_.choose_backing(static_cast<std::size_t>(i)); });

  const auto scaled_to = [](const Backing& b, double k) { return scaled(b, bounds_of(b).centre(), k); };
  constexpr double least = 0.1, most = 1e5; // mm
  width_ = field(MeasureKind::Length, tr("Width of the backing"), tr("Size backing"), least, most,
                 [=](const Backing& b, double v) { return scaled_to(b, v / backing_width(b)); });
  height_ = field(MeasureKind::Length, tr("Height of the backing"), tr("Size backing"), least, most,
                  [=](const Backing& b, double v) { return scaled_to(b, v / backing_height(b)); });
  x_ = field(MeasureKind::Length, tr("Left edge of the backing"), tr("Move backing"), -most, most,
             [](const Backing& b, double v) {
               return moved(b, {v - bounds_of(b).x0, 0});
             });
  y_ = field(MeasureKind::Length, tr("Top edge of the backing"), tr("Move backing"), -most, most,
             [](const Backing& b, double v) {
               return moved(b, {0, v - bounds_of(b).y0});
             });
  turn_ = field(MeasureKind::Angle, tr("Turn of the backing"), tr("Turn backing"), -360, 360,
                [](const Backing& b, double v) { return turned(b, backing_centre(b), v - backing_turn(b)); });
  strength_ = field(MeasureKind::Percent, tr("Strength of the backing"), tr("Strength of backing"), 5, 100,
                    [](Backing b, double v) {
                      b.strength = v / 100;
                      return b;
                    });
  strength_->setToolTip(tr("How firmly the picture is shown"));
  add_row(tr("Width"), width_);
  add_row(tr("Height"), height_);
  add_row(tr("Place"), {x_, y_});
  add_row(tr("Turn"), turn_);
  add_row(tr("Strength"), strength_);
  shown_->setToolTip(tr("Off: the backing stays in the job and is not seen"));
  connect(shown_, &QCheckBox::clicked, this, [this](bool on) {
    change(on ? tr("Show backing") : tr("Hide backing"), false, [&](Backing b) {
      b.visible = on;
      return b;
    });
  });
  auto* remove = new QPushButton(tr("Remove"));
  remove->setAccessibleName(tr("Remove the backing"));
  connect(remove, &QPushButton::clicked, this,
          [this] { session_.apply(tr("Remove backing"), without_backing(session_.document(), session_.backing())); });
  by_hand_->setCheckable(true);
  by_hand_->setToolTip(tr("Drag it on the sheet, its corners to size it; Escape ends that"));
  connect(by_hand_, &QPushButton::clicked, this, &BackingCard::by_hand);
  auto* known = new QPushButton(tr("Known length"));
  known->setToolTip(tr("Draw a line whose length you know, and say how long it is"));
  connect(known, &QPushButton::clicked, this, &BackingCard::known_length);
  trace_->setToolTip(tr("Makes outlines of its ink or its colours"));
  connect(trace_, &QPushButton::clicked, this, &BackingCard::trace_wanted);
  add_wide(in_row({{by_hand_, 1}, {known, 1}}));
  add_wide(trace_);
  add_wide(in_row({{shown_, 1}, {remove, 1}}));
  connect(&session_, &Session::backing_chosen, this, &BackingCard::refresh);
}

MeasureField* BackingCard::field(MeasureKind kind, const QString& name, const QString& step, double low, double high,
                                 const std::function<Backing(const Backing&, double)>& set) {
  auto* f = new MeasureField(kind, name);
  f->set_range(low, high);
  connect(f, &MeasureField::edited, this, [this, step, set](double v, bool stepped) {
    change(step, stepped, [&](const Backing& b) { return set(b, v); });
  });
  return f;
}

void BackingCard::change(const QString& step, bool stepped, const Change& change) {
  const Document& document = session_.document();
  const std::size_t at = session_.backing();
  if (at < document.backings.size())
    session_.apply(step, with_backing_changed(document, at, change(document.backings[at])), {},
                   stepped ? step.toStdString() : std::string());
}

void BackingCard::show_tracing(bool on) {
  trace_->setVisible(!on);
}

void BackingCard::show_by_hand(bool on) {
  by_hand_->setChecked(on);
}

void BackingCard::refresh() {
  const std::vector<Backing>& list = session_.shown().backings;
  if (list.empty())
    return;
  QStringList names;
  for (const Backing& b : list)
    names << (b.name.empty() ? tr("Picture") : QString::fromStdString(b.name));
  const QSignalBlocker quiet(which_);
  if (names != names_) {
    which_->clear();
    which_->addItems(names);
    names_ = names;
  }
  which_->setCurrentIndex(static_cast<int>(session_.backing()));
  which_->setToolTip(names.at(static_cast<int>(session_.backing())));
  const Backing& b = list[session_.backing()];
  for (MeasureField* f : {width_, height_, x_, y_})
    f->set_unit(session_.document().unit);
  width_->show_value(backing_width(b));
  height_->show_value(backing_height(b));
  x_->show_value(bounds_of(b).x0);
  y_->show_value(bounds_of(b).y0);
  turn_->show_value(backing_turn(b));
  strength_->show_value(b.strength * 100);
  shown_->setChecked(b.visible);
}

} // namespace frelm
