#include "app/cards/axes_part.h"

#include "document/face_axes.h"

#include <QWheelEvent>

namespace frelm {
namespace {

constexpr int least_steps = 100; // of a slider from end to end

// The wheel scrolls the card; a slider that has the focus takes it.
class AxisSlider final : public QSlider {
public:
  AxisSlider() : QSlider(Qt::Horizontal) { setFocusPolicy(Qt::StrongFocus); }

protected:
  void wheelEvent(QWheelEvent* event) override {
    if (hasFocus())
      QSlider::wheelEvent(event);
    else
      event->ignore();
  }
};

// Steps for each unit: whole units where there are enough of them, else tenths, hundredths…
double steps_per_unit(const FaceAxis& axis) {
  double steps = 1;
  while ((axis.high - axis.low) * steps < least_steps && steps < 1e6)
    steps *= 10;
  return steps;
}

} // namespace

QString axis_words(const FaceAxis& axis) {
  if (axis.tag == weight_axis)
    return AxesPart::tr("Weight");
  if (axis.tag == width_axis)
    return AxesPart::tr("Face width");
  if (axis.tag == "slnt")
    return AxesPart::tr("Slant");
  if (axis.tag == "ital")
    return AxesPart::tr("Italic");
  if (axis.tag == "opsz")
    return AxesPart::tr("Made for size");
  return QString::fromStdString(axis.name);
}

AxesPart::AxesPart(Session& session, QWidget* parent) : Card(0, {}, session, parent) {
  embed();
}

bool AxesPart::has(const std::string& tag) const {
  return std::any_of(rows_of_axes_.begin(), rows_of_axes_.begin() + static_cast<std::ptrdiff_t>(shown_),
                     [&](const Row& row) { return row.axis.tag == tag; });
}

void AxesPart::add_axis() {
  const std::size_t row = rows_of_axes_.size();
  auto* slider = new AxisSlider;
  auto* field = new MeasureField(MeasureKind::Count, QString());
  QLabel* label = add_row(QString(), in_row({{slider, 3}, {field, 2}}));
  rows_of_axes_.push_back({label, slider, field, {}});
  connect(slider, &QSlider::valueChanged, this, [this, row](int at) {
    const FaceAxis& axis = rows_of_axes_[row].axis;
    change_axis(row, at / steps_per_unit(axis), true);
  });
  connect(field, &MeasureField::edited, this,
          [this, row](double value, bool stepped) { change_axis(row, value, stepped); });
}

void AxesPart::change_axis(std::size_t row, double value, bool stepped) {
  const FaceAxis axis = rows_of_axes_[row].axis;
  edit(tr("Change %1").arg(axis_words(axis).toLower()), stepped, [&](Piece& p) {
    if (Letters* l = p.lettering() != nullptr ? p.lettering()->recipe.letters() : nullptr)
      set_axis(*l, axis, value);
  });
}

void AxesPart::refresh() {
  const Piece* piece = session_.selected();
  const Letters* l = piece != nullptr && piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
  const std::vector<FaceAxis> axes = l != nullptr ? axes_of(*l, session_.faces()) : std::vector<FaceAxis>{};
  setVisible(!axes.empty());
  shown_ = axes.size();
  while (rows_of_axes_.size() < axes.size())
    add_axis();
  for (std::size_t i = 0; i < rows_of_axes_.size(); ++i) {
    Row& row = rows_of_axes_[i];
    show_row(row.field, i < axes.size());
    if (i >= axes.size())
      continue;
    const QSignalBlocker quiet(row.slider);
    if (row.axis != axes[i]) {
      row.axis = axes[i];
      const QString words = axis_words(row.axis);
      row.label->setText(words);
      row.field->setAccessibleName(tr("%1 of the face").arg(words));
      row.slider->setAccessibleName(tr("%1 of the face, slider").arg(words));
      row.field->set_range(row.axis.low, row.axis.high);
      const double steps = steps_per_unit(row.axis);
      row.field->set_step(steps > 1 ? 1 / steps : 5);
      row.slider->setRange(static_cast<int>(std::ceil(row.axis.low * steps)),
                           static_cast<int>(std::floor(row.axis.high * steps)));
      row.slider->setPageStep((row.slider->maximum() - row.slider->minimum()) / 10);
      const QString tip =
          tr("Drawn by the face: %1 to %2, this style %3").arg(row.axis.low).arg(row.axis.high).arg(row.axis.usual);
      row.field->setToolTip(tip);
      row.slider->setToolTip(tip);
    }
    const double value = axis_value(*l, row.axis);
    row.field->show_value(value);
    row.slider->setValue(static_cast<int>(std::lround(value * steps_per_unit(row.axis))));
  }
}

} // namespace frelm
