#include "app/cards/trace_card.h"

#include "app/style/words.h"
#include "geom/picture_levels.h"

namespace frelm {

TraceCard::TraceCard(Session& session, PictureTracer& tracer, QWidget* parent)
    : Card(0, tr("Trace the backing"), session, parent), tracer_(tracer),
      ink_(new ChoiceRow(tr("What becomes outlines"), {tr("Dark"), tr("Light"), tr("Colours")})),
      paper_(new QCheckBox(tr("The paper too"))), keep_(new QCheckBox(tr("Keep the picture under them"))),
      part_(new QPushButton(tr("Draw a part"))), whole_(new QPushButton(tr("All of it"))),
      make_(new QPushButton(tr("Make outlines"))), told_(note_label()) {
  add_wide(ink_);
  ink_->button(0)->setToolTip(tr("What is darker than the threshold"));
  ink_->button(1)->setToolTip(tr("What is lighter than it, as on a blackboard"));
  ink_->button(2)->setToolTip(tr("Each colour of the picture is a piece in that colour"));
  connect(ink_, &ChoiceRow::chosen, this,
          [this](int i) { change([&](TraceWish& w) { w.ink = static_cast<TraceInk>(i); }); });
  constexpr double least_angle = 5, most_angle = 180, most = 50; // degrees; mm
  threshold_ =
      field(MeasureKind::Percent, tr("Threshold"), 1, 99, [](TraceWish& w, double v) { w.threshold = v / 100; });
  threshold_->setToolTip(tr("Of white: where dark ends and light begins"));
  colours_ = field(MeasureKind::Count, tr("How many colours"), 2, most_levels,
                   [](TraceWish& w, double v) { w.colours = static_cast<int>(v); });
  specks_ = field(MeasureKind::Length, tr("Specks up to"), 0, most, [](TraceWish& w, double v) { w.specks = v; });
  specks_->setToolTip(tr("Dots and holes that are smaller go"));
  corners_ = field(MeasureKind::Angle, tr("Corners from"), least_angle, most_angle,
                   [](TraceWish& w, double v) { w.sharper_than = v; });
  corners_->setToolTip(tr("A turn by less is round"));
  straight_ = field(MeasureKind::Length, tr("Straighten what bends by"), 0, most,
                    [](TraceWish& w, double v) { w.straight = v; });
  straight_->setToolTip(tr("Between two corners what bends by less is a straight line"));
  tolerance_ = field(MeasureKind::Length, tr("Curves within"), least_tolerance, most_tolerance,
                     [](TraceWish& w, double v) { w.tolerance = v; });
  tolerance_->setToolTip(tr("The more they may be off, the fewer nodes there are"));
  add_row(tr("Threshold"), threshold_);
  add_row(tr("Colours"), {colours_, paper_});
  add_row(tr("No specks under"), specks_);
  add_row(tr("Corners from"), corners_);
  add_row(tr("Straighten"), straight_);
  add_row(tr("Curves within"), tolerance_);
  connect(paper_, &QCheckBox::clicked, this, [this](bool on) { change([&](TraceWish& w) { w.paper = on; }); });
  part_->setCheckable(true);
  part_->setToolTip(tr("Drag a box on the sheet; what lies outside of it is left out"));
  connect(part_, &QPushButton::clicked, this, &TraceCard::draw_part);
  connect(whole_, &QPushButton::clicked, this, [this] { change([](TraceWish& w) { w.part.reset(); }); });
  auto* usual = new QPushButton(tr("Usual"));
  usual->setToolTip(tr("All measures as the picture asks for them"));
  connect(usual, &QPushButton::clicked, this, [this] {
    change([](TraceWish& w) {
      TraceWish fresh;
      fresh.ink = w.ink, fresh.part = w.part;
      w = fresh;
    });
  });
  add_wide(in_row({{part_, 1}, {whole_, 1}, {usual, 1}}));
  add_wide(told_);
  keep_->setChecked(true);
  keep_->setToolTip(tr("A backing is never cut; off, the picture leaves the job"));
  add_wide(keep_);
  make_->setObjectName("strong");
  connect(make_, &QPushButton::clicked, this, [this] { emit wanted(keep_->isChecked()); });
  auto* close = new QPushButton(tr("Close"));
  close->setAccessibleName(tr("Close the tracing"));
  connect(close, &QPushButton::clicked, this, &TraceCard::closed);
  add_wide(in_row({{make_, 2}, {close, 1}}));
  connect(&tracer_, &PictureTracer::changed, this, &TraceCard::refresh);
}

MeasureField* TraceCard::field(MeasureKind kind, const QString& name, double low, double high,
                               const std::function<void(TraceWish&, double)>& set) {
  auto* f = new MeasureField(kind, name);
  f->set_range(low, high);
  connect(f, &MeasureField::edited, this, [this, set](double v, bool) { change([&](TraceWish& w) { set(w, v); }); });
  return f;
}

void TraceCard::change(const std::function<void(TraceWish&)>& change) {
  TraceWish wish = tracer_.wish();
  change(wish);
  tracer_.set_wish(wish);
  refresh();
}

void TraceCard::take_part(const frelm::Box& on_sheet) {
  const Document& document = session_.document();
  if (session_.backing() >= document.backings.size())
    return;
  const frelm::Box part = picture_part(document.backings[session_.backing()], on_sheet);
  change([&](TraceWish& w) { w.part = part; });
}

void TraceCard::show_drawing_part(bool on) {
  part_->setChecked(on);
}

QString TraceCard::told() const {
  const auto traced = tracer_.traced();
  if (traced == nullptr)
    return tracer_.current() && !tracer_.why_not().empty() ? words_of(tracer_.why_not()) : tr("Tracing…");
  if (traced->levels.empty())
    return tr("Nothing is found: try another threshold, or fewer specks left out");
  const Unit unit = session_.document().unit;
  constexpr double coarse = 4; // px per mm
  QString out = tr("%1 with %2 nodes. The picture has %3 px per mm: an edge is found to about %4 %5.")
                    .arg(counted_words(traced->contours, tr("1 outline"), tr("%1 outlines")),
                         QString::number(traced->nodes), QString::number(std::round(10 * traced->px_per_mm) / 10),
                         length_text(traced->off_at_most(), unit, 2), unit_name(unit));
  if (traced->px_per_mm < coarse)
    out += " " + tr("A larger scan would be truer.");
  return out;
}

void TraceCard::refresh() {
  const TraceWish& w = tracer_.wish();
  const auto traced = tracer_.traced();
  const bool colours = w.ink == TraceInk::Colours;
  ink_->show_choice(static_cast<int>(w.ink));
  for (MeasureField* f : {specks_, straight_, tolerance_})
    f->set_unit(session_.document().unit);
  show_row(threshold_, !colours);
  show_row(colours_, colours);
  paper_->setVisible(colours);
  threshold_->show_value(std::round(100 * w.threshold.value_or(traced != nullptr ? traced->threshold : 0.5)));
  colours_->show_value(w.colours);
  paper_->setChecked(w.paper);
  specks_->show_value(w.specks);
  corners_->show_value(w.sharper_than);
  const std::vector<Backing>& backings = session_.document().backings;
  const double usual = session_.backing() < backings.size() ? usual_measure(backings[session_.backing()].place) : 0;
  straight_->show_value(w.straight.value_or(traced != nullptr ? traced->straight : usual));
  tolerance_->show_value(w.tolerance.value_or(traced != nullptr ? traced->tolerance : usual));
  whole_->setEnabled(w.part.has_value());
  make_->setEnabled(tracer_.current() && traced != nullptr && !traced->levels.empty());
  told_->setText(told());
}

} // namespace frelm
