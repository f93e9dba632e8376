#include "app/cards/bend_card.h"

#include "lettering/seat.h"

namespace frelm {
namespace {

constexpr double share_of_circle = 0.55; // of a new circle that the run takes up

Point ink_centre(const Session& session, PieceId id) {
  const Result<PieceResult>& now = session.seated(id);
  return now && !now->ink.empty() ? now->ink.centre()
                                  : Point{session.document().sheet.width / 2, session.document().sheet.height / 2};
}

} // namespace

BendCard::BendCard(Session& session, QWidget* parent)
    : Card(2, tr("Bend"), session, parent), kind_(new ChoiceRow(tr("Bend"), {tr("Straight"), tr("Arc"), tr("Guide")})),
      radius_(length_field(tr("Arc radius"), 0.5)), rise_(length_field(tr("Arc rise"), 0.001)),
      sweep_(new MeasureField(MeasureKind::Angle, tr("Arc sweep"))),
      side_(new ChoiceRow(tr("Arc"), {tr("Over"), tr("Under")})), guide_(new QComboBox),
      guide_radius_(length_field(tr("Radius of the guide"), 0.5)),
      tops_(new ChoiceRow(tr("Tops"), {tr("Outward"), tr("Inward")})),
      sit_(new ChoiceRow(tr("Sit by"), {tr("Base"), tr("Middle"), tr("Caps")})), anchor_(new QComboBox),
      angle_(new MeasureField(MeasureKind::Angle, tr("Angle on the circle"))),
      distance_(length_field(tr("Distance along the guide"))), offset_(length_field(tr("Base offset"))),
      x_(length_field(tr("Place, x"))), y_(length_field(tr("Place, y"))),
      turn_(new MeasureField(MeasureKind::Angle, tr("Turn"))) {
  restyle();
  add_wide(kind_);
  add_row(tr("Radius"), radius_);
  add_row(tr("Rise"), rise_);
  sweep_->set_range(0.001, 360);
  add_row(tr("Sweep"), sweep_);
  add_row(tr("Arc"), side_);
  guide_->setAccessibleName(tr("Guide"));
  guide_->setMinimumContentsLength(8);
  guide_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  add_row(tr("Guide"), guide_);
  add_row(tr("Radius"), guide_radius_);
  tops_->setToolTip(tr("Which way the tops of the letters point; the chevrons show the guide's own direction"));
  add_row(tr("Tops"), tops_);
  add_row(tr("Sit by"), sit_);
  anchor_->addItems({tr("centred at"), tr("starts at"), tr("ends at")});
  anchor_->setAccessibleName(tr("Place along the guide"));
  anchor_->setMinimumContentsLength(7);
  angle_->setToolTip(tr("0° is the top of the circle; clockwise"));
  auto* place = new QWidget;
  auto* line = new QHBoxLayout(place);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  line->addWidget(anchor_, 3);
  line->addWidget(angle_, 2);
  line->addWidget(distance_, 2);
  place->setObjectName("place");
  distance_->hide(); // one of the two shows at a time
  add_row(tr("Along"), place);
  for (QWidget* w : {static_cast<QWidget*>(anchor_), static_cast<QWidget*>(angle_), static_cast<QWidget*>(distance_)})
    w->setProperty("rowBox", QVariant::fromValue<QObject*>(place));
  offset_->setToolTip(tr("How far off the guide, towards the tops"));
  offset_->set_step(0.5);
  add_row(tr("Base offset"), offset_);
  add_row(tr("Place"), {x_, y_});
  add_row(tr("Turn"), turn_);

  connect(kind_, &ChoiceRow::chosen, this, [this](int i) { choose(static_cast<BendKind>(i)); });
  connect(radius_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Radius, v, s); });
  connect(rise_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Rise, v, s); });
  connect(sweep_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Sweep, v, s); });
  connect(side_, &ChoiceRow::chosen, this, [this](int i) {
    edit_bend(tr("Change arc"), false, [&](Bend& b) { b.arc.side = static_cast<ArcSide>(i); });
  });
  connect(guide_, &QComboBox::activated, this, [this](int i) {
    const PieceId id = static_cast<std::size_t>(i) < guide_ids_.size() ? guide_ids_[static_cast<std::size_t>(i)] : 0;
    if (id != 0)
      edit_bend(tr("Change guide"), false, [&](Bend& b) {
        b.guide.guide = id;
        b.guide.own.reset();
      });
  });
  connect(guide_radius_, &MeasureField::edited, this, [this](double v, bool s) {
    const Piece* piece = session_.selected();
    if (piece == nullptr || piece->lettering() == nullptr)
      return;
    const PieceId guide = piece->lettering()->recipe.bend.guide.guide;
    if (session_.document().find(guide) != nullptr)
      session_.edit(
          tr("Change radius"), guide, [&](Piece& p) { p.guide()->circle.radius = v; }, s ? "step radius" : "");
    else
      edit_bend(tr("Change radius"), s, [&](Bend& b) {
        if (b.guide.own)
          b.guide.own->radius = v;
      });
  });
  connect(tops_, &ChoiceRow::chosen, this, [this](int i) {
    edit_bend(tr("Change tops"), false, [&](Bend& b) { b.guide.tops = static_cast<Tops>(i); });
  });
  connect(sit_, &ChoiceRow::chosen, this,
          [this](int i) { edit_bend(tr("Change sit"), false, [&](Bend& b) { b.sit_by = static_cast<SitBy>(i); }); });
  connect(anchor_, &QComboBox::activated, this, [this](int i) {
    edit_bend(tr("Change anchor"), false, [&](Bend& b) { b.guide.anchor = static_cast<Anchor>(i); });
  });
  connect(angle_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_bend(tr("Move along guide"), s, [&](Bend& b) { b.guide.angle = wrap_degrees(v); });
  });
  connect(distance_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_bend(tr("Move along guide"), s, [&](Bend& b) { b.guide.distance = v; }); });
  connect(offset_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_bend(tr("Change base offset"), s, [&](Bend& b) { b.offset = v; }); });
  connect(x_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_placement(tr("Move"), s, [&](Placement& p) { p.at.x = v; }); });
  connect(y_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_placement(tr("Move"), s, [&](Placement& p) { p.at.y = v; }); });
  connect(turn_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_placement(tr("Turn"), s, [&](Placement& p) { p.angle = wrap_degrees(v); });
  });
}

void BendCard::restyle() {
  Card::restyle();
  kind_->set_icons({"bend-straight", "bend-arc", "bend-guide"});
}

void BendCard::choose(BendKind kind) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr || piece->lettering()->recipe.bend.kind == kind)
    return;
  const PieceId id = piece->id;
  const Lettering& l = *piece->lettering();
  const Point centre = ink_centre(session_, id);
  Document document = session_.document();
  const auto run = [&] {
    const Result<PieceResult>& now = session_.seated(id);
    return now && now->seated != nullptr ? std::max(now->seated->used_length, 1.0) : 100.0;
  };
  if (kind == BendKind::Straight) {
    document = straighten(std::move(document), {id}, [&](PieceId) { return centre; });
  } else if (kind == BendKind::Arc) {
    const double length = run();
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      Lettering& target = *p.lettering();
      target.recipe.bend.kind = BendKind::Arc;
      // The first time: an eighth of a turn to each side, which is plainly an arc and easy to read.
      if (target.recipe.bend.arc == ArcBend{})
        target.recipe.bend.arc = {ArcBy::Radius, std::round(length / (pi / 2)), ArcSide::Over};
      target.placement = {{centre.x, centre.y}, 0};
    });
  } else {
    const bool has_guide = guide_of(document, l) != nullptr;
    PieceId guide = l.recipe.bend.guide.guide;
    if (!has_guide) {
      guide = 0;
      for (const auto& p : document.pieces)
        if (p->guide() != nullptr && p->visible)
          guide = p->id;
      if (guide == 0) {
        const double cap = l.recipe.letters() != nullptr ? l.recipe.letters()->size : 0;
        const double radius = std::max({run() / (2 * pi * share_of_circle), cap, 5.0});
        Added added = add_piece(std::move(document),
                                new_circle({document.sheet.width / 2, document.sheet.height / 2}, std::round(radius)));
        document = std::move(added.document);
        guide = added.id;
        document = reorder_piece(std::move(document), guide, 0);
      }
    }
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      p.lettering()->recipe.bend.kind = BendKind::Guide;
      p.lettering()->recipe.bend.guide.guide = guide;
    });
  }
  const QString names[]{tr("Set straight"), tr("Bend on an arc"), tr("Ride on a guide")};
  session_.apply(names[static_cast<int>(kind)], std::move(document));
}

void BendCard::edit_bend(const QString& name, bool stepped, const std::function<void(Bend&)>& change) {
  edit(name, stepped, [&](Piece& p) {
    if (p.lettering() != nullptr)
      change(p.lettering()->recipe.bend);
  });
}

void BendCard::edit_placement(const QString& name, bool stepped, const std::function<void(Placement&)>& change) {
  edit(name, stepped, [&](Piece& p) {
    if (p.lettering() != nullptr)
      change(p.lettering()->placement);
  });
}

void BendCard::set_arc(ArcBy by, double value, bool stepped) {
  edit_bend(tr("Change arc"), stepped, [&](Bend& b) { b.arc.by = by, b.arc.value = value; });
}

void BendCard::fill_guides() {
  const Document& document = session_.document();
  const Lettering& l = *session_.selected()->lettering();
  std::vector<PieceId> ids;
  QStringList names;
  int current = -1;
  for (const auto& p : document.pieces)
    if (p->guide() != nullptr) {
      if (p->id == l.recipe.bend.guide.guide)
        current = static_cast<int>(ids.size());
      ids.push_back(p->id);
      names << QString::fromStdString(display_name(*p, document.unit));
    }
  if (current < 0) {
    current = static_cast<int>(ids.size());
    ids.push_back(0);
    names << (l.recipe.bend.guide.own ? tr("Own copy of a circle") : tr("None"));
  }
  QStringList shown;
  for (int i = 0; i < guide_->count(); ++i)
    shown << guide_->itemText(i);
  if (shown != names) {
    guide_->clear();
    guide_->addItems(names);
  }
  guide_ids_ = std::move(ids);
  guide_->setCurrentIndex(current);
}

void BendCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Lettering& l = *piece->lettering();
  const Bend& b = l.recipe.bend;
  const Unit unit = session_.document().unit;
  for (MeasureField* f : {radius_, rise_, guide_radius_, distance_, offset_, x_, y_})
    f->set_unit(unit);
  kind_->show_choice(static_cast<int>(b.kind));
  const bool arc = b.kind == BendKind::Arc, guide = b.kind == BendKind::Guide;
  for (QWidget* w : {static_cast<QWidget*>(radius_), static_cast<QWidget*>(rise_), static_cast<QWidget*>(sweep_),
                     static_cast<QWidget*>(side_)})
    show_row(w, arc);
  for (QWidget* w : {static_cast<QWidget*>(guide_), static_cast<QWidget*>(guide_radius_), static_cast<QWidget*>(tops_),
                     static_cast<QWidget*>(anchor_)})
    show_row(w, guide);
  show_row(sit_, arc || guide);
  show_row(offset_, arc || guide);
  show_row(x_, !guide);
  show_row(turn_, !guide);
  const Result<PieceResult>& now = session_.seated(piece->id);
  const bool seated = now && now->seated != nullptr;
  if (arc) {
    const bool known = seated && now->seated->arc_radius > 0;
    radius_->show_value(known ? now->seated->arc_radius : b.arc.by == ArcBy::Radius ? b.arc.value : 0);
    rise_->show_value(known ? now->seated->arc_rise : b.arc.by == ArcBy::Rise ? b.arc.value : 0);
    sweep_->show_value(known ? now->seated->arc_sweep : b.arc.by == ArcBy::Sweep ? b.arc.value : 0);
    side_->show_choice(static_cast<int>(b.arc.side));
  }
  if (guide) {
    fill_guides();
    const CircleGuide* circle = guide_of(session_.document(), l);
    guide_radius_->setEnabled(circle != nullptr);
    guide_radius_->show_value(circle != nullptr ? circle->radius : 0);
    tops_->show_choice(static_cast<int>(b.guide.tops));
    anchor_->setCurrentIndex(static_cast<int>(b.guide.anchor));
    angle_->setVisible(b.guide.anchor == Anchor::CentredAt);
    distance_->setVisible(b.guide.anchor != Anchor::CentredAt);
    angle_->show_value(b.guide.angle);
    distance_->show_value(b.guide.distance);
  }
  sit_->show_choice(static_cast<int>(b.sit_by));
  offset_->show_value(b.offset);
  x_->show_value(l.placement.at.x);
  y_->show_value(l.placement.at.y);
  turn_->show_value(l.placement.angle);
  const QString length =
      seated && arc ? QString::fromStdString(format_length(now->seated->arc_radius, unit)) : QString();
  set_summary(b.kind == BendKind::Straight ? tr("straight") : arc ? tr("arc r %1").arg(length) : tr("on guide"));
}

} // namespace frelm
