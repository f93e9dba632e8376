#include "app/cards/letter_card.h"

#include "app/canvas/handles.h"
#include "app/canvas/painter.h"
#include "app/style/scheme.h"
#include "document/letter_shapes.h"

#include <QApplication>

namespace frelm {
namespace {

constexpr int shapes_in_a_row = 5;

QIcon shape_icon(const Outline& outline, const Box& all, int side, double ratio) {
  QPixmap picture(QSize(side, side) * ratio);
  picture.setDevicePixelRatio(ratio);
  picture.fill(Qt::transparent);
  QPainter painter(&picture);
  painter.setRenderHint(QPainter::Antialiasing);
  const double k = side / std::max({all.width(), all.height(), 1.0}) * 0.94;
  const Box own = outline.bounds();
  painter.translate(side / 2.0 - k * own.centre().x, side / 2.0 - k * (all.y0 + all.y1) / 2);
  painter.scale(k, k);
  painter.fillPath(to_path(outline), scheme().text);
  return picture;
}

} // namespace

LetterCard::LetterCard(Session& session, QWidget* parent)
    : Card(0, tr("Letter"), session, parent), about_(new QLabel),
      turn_(new MeasureField(MeasureKind::Angle, tr("Letter turn"))),
      size_(new MeasureField(MeasureKind::Percent, tr("Size of the letter"))), raise_(length_field(tr("Raise"))),
      nudge_(length_field(tr("Nudge along"))), back_(new QPushButton(tr("Put back"))), shapes_(new QWidget),
      shapes_grid_(new QGridLayout(shapes_)) {
  about_->setObjectName("muted");
  about_->setWordWrap(true);
  add_wide(about_);
  shapes_grid_->setContentsMargins(0, 0, 0, 0);
  shapes_grid_->setSpacing(4);
  shapes_grid_->setColumnStretch(shapes_in_a_row, 1); // the pictures stand at the left
  shapes_->setAccessibleName(tr("Shapes of the letter"));
  add_wide(shapes_);
  add_row(tr("Turn"), turn_);
  size_->set_range(10, 1000);
  add_row(tr("Size"), size_);
  add_row(tr("Raise"), raise_);
  add_row(tr("Nudge"), nudge_);
  back_->setToolTip(tr("The letter stands again as the run has it"));
  add_wide(back_);
  connect(turn_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_tweak(tr("Turn letter"), s, [&](LetterTweak& t, double) { t.turn = wrap_degrees(v); });
  });
  connect(size_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_tweak(tr("Change letter size"), s, [&](LetterTweak& t, double) { t.size = v / 100; });
  });
  connect(raise_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_tweak(tr("Raise letter"), s, [&](LetterTweak& t, double cap) { t.raise = v / cap; });
  });
  connect(nudge_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_tweak(tr("Nudge letter"), s, [&](LetterTweak& t, double cap) { t.nudge = v / cap; });
  });
  connect(back_, &QPushButton::clicked, this, [this] {
    edit_tweak(tr("Put letter back"), false, [](LetterTweak& t, double) { t = {t.id, 0, 1, 0, 0}; });
  });
}

void LetterCard::edit_tweak(const QString& name, bool stepped,
                            const std::function<void(LetterTweak&, double cap)>& change) {
  const Piece* piece = session_.selected();
  if (chosen_letter(session_) == nullptr)
    return;
  const LetterTweak* known = piece->lettering()->recipe.tweak(session_.letter());
  LetterTweak t = known != nullptr ? *known : LetterTweak{};
  t.id = session_.letter();
  change(t, session_.seated(piece->id)->seated->spaced->set->cap_height);
  session_.apply(name, set_tweak(session_.document(), piece->id, t), {}, stepped ? "step letter" : "");
}

void LetterCard::refresh() {
  const PlacedLetter* l = chosen_letter(session_);
  if (l == nullptr)
    return;
  const Piece* piece = session_.selected();
  const LetterTweak* known = piece->lettering()->recipe.tweak(session_.letter());
  const LetterTweak t = known != nullptr ? *known : LetterTweak{};
  const double cap = session_.seated(piece->id)->seated->spaced->set->cap_height;
  for (MeasureField* f : {raise_, nudge_})
    f->set_unit(session_.document().unit);
  std::u32string text = plain_text(piece->lettering()->recipe.letters()->text).substr(l->first, l->count);
  about_->setText(tr("“%1” — kept as long as the letter is in the text. Esc goes back to the run.")
                      .arg(QString::fromUcs4(text.data(), static_cast<qsizetype>(text.size()))));
  turn_->show_value(t.turn);
  size_->show_value(t.size * 100);
  raise_->show_value(t.raise * cap);
  nudge_->show_value(t.nudge * cap);
  back_->setEnabled(!t.idle());
  show_shapes(*piece->lettering()->recipe.letters());
}

void LetterCard::restyle() {
  Card::restyle();
  shown_.clear();
  refresh();
}

// A picture for each shape the face has; nothing where it has just one.
void LetterCard::show_shapes(const Letters& letters) {
  const auto face = session_.faces().face(letters.face);
  const std::vector<LetterShape> list =
      face ? shapes_of_letter(letters, session_.letter(), **face) : std::vector<LetterShape>{};
  shapes_->setVisible(list.size() > 1);
  QByteArray wanted = QByteArray::number(qulonglong(session_.letter())) + letters.face.text().c_str();
  for (const LetterShape& s : list)
    wanted += (s.by ? QByteArray(s.by->tag.c_str()) + QByteArray::number(s.by->value) : "usual") +
              QByteArray::number(int(s.chosen));
  if (wanted == shown_)
    return;
  shown_ = wanted;
  const bool held_focus = shapes_->isAncestorOf(QApplication::focusWidget());
  while (QLayoutItem* item = shapes_grid_->takeAt(0)) {
    item->widget()->deleteLater();
    delete item;
  }
  const int side = fontMetrics().height() * 2;
  frelm::Box all; // one scale for all pictures
  for (const LetterShape& s : list)
    all.add(s.outline->bounds());
  for (int i = 0; list.size() > 1 && i < static_cast<int>(list.size()); ++i) {
    const LetterShape& s = list[static_cast<std::size_t>(i)];
    auto* button = new QToolButton;
    button->setCheckable(true);
    button->setChecked(s.chosen);
    button->setIcon(shape_icon(*s.outline, all, side, devicePixelRatioF()));
    button->setIconSize({side, side});
    button->setFocusPolicy(Qt::StrongFocus);
    button->setToolTip(QString::fromStdString(s.name));
    button->setAccessibleName(tr("Shape %1: %2").arg(i + 1).arg(QString::fromStdString(s.name)));
    shapes_grid_->addWidget(button, i / shapes_in_a_row, i % shapes_in_a_row);
    connect(button, &QToolButton::clicked, this, [this, by = s.by] {
      if (const Piece* piece = session_.selected())
        session_.apply(tr("Change shape of letter"), with_shape(session_.document(), piece->id, session_.letter(), by));
    });
    if (held_focus && s.chosen)
      button->setFocus();
  }
}

} // namespace frelm
