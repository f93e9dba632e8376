#include "app/cards/bend_card.h"
#include "app/style/words.h"

#include "document/bead.h"
#include "document/blocks.h"
#include "document/level.h"
#include "lettering/block_edit.h"
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
    : Card(2, tr("Bend"), session, parent),
      kind_(new ChoiceRow(tr("Bend"), {tr("Straight"), tr("Arc"), tr("Guide"), tr("Rails"), tr("Net")})),
      radius_(length_field(tr("Arc radius"), 0.5)), rise_(length_field(tr("Arc rise"), 0.001)),
      sweep_(new MeasureField(MeasureKind::Angle, tr("Arc sweep"))),
      side_(new ChoiceRow(tr("Arc"), {tr("Over"), tr("Under")})),
      guide_(new PieceChoice(PieceChoice::Lines::Any, tr("Guide"))),
      guide_radius_(length_field(tr("Radius of the guide"), 0.5)), fit_(new QCheckBox(tr("Fit letters to its height"))),
      tops_(new ChoiceRow(tr("Tops"), {tr("Outward"), tr("Inward")})),
      sit_(new ChoiceRow(tr("Sit by"), {tr("Base"), tr("Middle"), tr("Caps")})),
      stance_(new ChoiceRow(tr("Stance"), {tr("Turn"), tr("Stand"), tr("Lean"), tr("Flow")})),
      stretch_(new QCheckBox(tr("Stretch from end to end"))), anchor_(new ChoiceBox), by_(new ChoiceBox),
      angle_(new MeasureField(MeasureKind::Angle, tr("Angle on the guide"))),
      distance_(length_field(tr("Distance along the guide"))),
      percent_(new MeasureField(MeasureKind::Percent, tr("Share of the guide"))), level_(new QPushButton(tr("Level"))),
      used_(new QLabel), offset_(length_field(tr("Base offset"))),
      corners_(new ChoiceRow(tr("Corners"), {tr("Side by side"), tr("Over them")})),
      lines_(new ChoiceRow(tr("Further lines"), {tr("Below"), tr("Above"), tr("Follow on")})),
      x_(length_field(tr("Place, x"))), y_(length_field(tr("Place, y"))),
      turn_(new MeasureField(MeasureKind::Angle, tr("Turn"))), net_place_(new QWidget), rails_place_(new QWidget),
      strokes_place_(new QWidget) {
  restyle();
  kind_->button(3)->setToolTip(tr("Pressed between two edges, or into a shape"));
  kind_->button(4)->setToolTip(tr("Pulled by pegs, over the bend as it is now"));
  add_wide(kind_);
  for (QWidget* place : {net_place_, rails_place_, strokes_place_}) {
    place->hide();
    add_wide(place);
  }
  add_row(tr("Radius"), radius_);
  add_row(tr("Rise"), rise_);
  sweep_->set_range(0.001, 360);
  add_row(tr("Sweep"), sweep_);
  add_row(tr("Arc"), side_);
  add_row(tr("Guide"), guide_);
  add_row(tr("Radius"), guide_radius_);
  fit_->setToolTip(tr("Capitals as high as the band, or the room between windings, allows"));
  add_wide(fit_);
  tops_->setToolTip(tr("Which way the tops of the letters point; the chevrons show the guide's own direction"));
  add_row(tr("Tops"), tops_);
  add_row(tr("Sit by"), sit_);
  stance_->button(0)->setToolTip(tr("Letters stand across the guide"));
  stance_->button(1)->setToolTip(tr("Letters stay upright"));
  stance_->button(2)->setToolTip(tr("Verticals stay vertical, the base follows the guide"));
  stance_->button(3)->setToolTip(tr("The letters' own shapes bend along the guide"));
  add_row(tr("Stance"), stance_);
  stretch_->setToolTip(tr("The whole word flows over the whole guide, as if drawn with a brush"));
  add_wide(stretch_);
  anchor_->addItems({tr("centred"), tr("starts"), tr("ends")});
  anchor_->setAccessibleName(tr("Place along the guide"));
  anchor_->setMinimumContentsLength(6);
  by_->addItems({tr("°"), tr("mm"), tr("%")});
  by_->setAccessibleName(tr("Measured by"));
  by_->setToolTip(tr("Angle seen from the guide's centre, length along it, or a share of it"));
  by_->setMinimumContentsLength(2);
  angle_->setToolTip(tr("0° is the top; clockwise"));
  auto* place = new QWidget;
  auto* line = new QHBoxLayout(place);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(3);
  line->addWidget(anchor_, 3);
  for (QWidget* w : {static_cast<QWidget*>(angle_), static_cast<QWidget*>(distance_), static_cast<QWidget*>(percent_)})
    line->addWidget(w, 2);
  line->addWidget(by_, 1);
  distance_->hide(); // one of the three shows at a time
  percent_->hide();
  place->setObjectName("place");
  add_row(tr("Along"), place);
  for (QWidget* w : {static_cast<QWidget*>(anchor_), static_cast<QWidget*>(by_)})
    w->setProperty("rowBox", QVariant::fromValue<QObject*>(place));
  used_->setObjectName("muted");
  level_->setToolTip(tr("Brings the feet of the first and last letter to the same height"));
  auto* level_row = new QWidget;
  auto* level_line = new QHBoxLayout(level_row);
  level_line->setContentsMargins(0, 0, 0, 0);
  level_line->addWidget(used_, 1);
  level_line->addWidget(level_);
  add_row(tr("Used"), level_row);
  used_->setProperty("rowBox", QVariant::fromValue<QObject*>(level_row));
  offset_->setToolTip(tr("How far off the guide, towards the tops"));
  offset_->set_step(0.5);
  add_row(tr("Base offset"), offset_);
  corners_->setToolTip(tr("Whether letters may stand over the guide's corners"));
  add_row(tr("Corners"), corners_);
  lines_->setToolTip(tr("Where further lines of the text go"));
  add_row(tr("Lines"), lines_);
  add_row(tr("Place"), {x_, y_});
  add_row(tr("Turn"), turn_);

  connect(kind_, &ChoiceRow::chosen, this, [this](int i) { choose(static_cast<BendKind>(i)); });
  connect(radius_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Radius, v, s); });
  connect(rise_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Rise, v, s); });
  connect(sweep_, &MeasureField::edited, this, [this](double v, bool s) { set_arc(ArcBy::Sweep, v, s); });
  connect(side_, &ChoiceRow::chosen, this, [this](int i) {
    edit_bend(tr("Change arc"), false, [&](Bend& b) { b.arc.side = static_cast<ArcSide>(i); });
  });
  connect(guide_, &PieceChoice::chosen, this, [this](PieceId id) {
    const auto chosen = session_.evaluator().guide(session_.document(), id);
    if (chosen)
      edit(tr("Change guide"), false, [&](Piece& p) {
        if (p.lettering() != nullptr)
          ride_on(*p.lettering(), id, **chosen);
      });
  });
  connect(guide_radius_, &MeasureField::edited, this, [this](double v, bool s) {
    const Piece* piece = session_.selected();
    if (piece == nullptr || piece->lettering() == nullptr)
      return;
    const auto change = [v](GuideShape& shape) {
      if (auto* circle = std::get_if<CircleGuide>(&shape))
        circle->radius = v;
    };
    const PieceId guide = piece->lettering()->recipe.bend.guide.guide;
    if (const Piece* g = session_.document().find(guide); g != nullptr && g->guide() != nullptr)
      session_.edit(
          tr("Change radius"), guide, [&](Piece& p) { change(p.guide()->shape); }, s ? "step radius" : "");
    else
      edit_bend(tr("Change radius"), s, [&](Bend& b) {
        if (b.guide.own)
          change(*b.guide.own);
      });
  });
  connect(fit_, &QCheckBox::clicked, this, [this](bool on) {
    const Piece* piece = session_.selected();
    if (piece == nullptr || piece->lettering() == nullptr)
      return;
    // Letters keep the size they had when they are let go of the band.
    const Result<PieceResult>& now = session_.seated(piece->id);
    const double cap = now && now->seated != nullptr ? now->seated->spaced->set->cap_height : 0;
    edit(tr("Fit height"), false, [&](Piece& p) {
      Recipe& recipe = p.lettering()->recipe;
      recipe.bend.guide.fit_height = on;
      if (on)
        recipe.bend.sit_by = recipe.letters() != nullptr && recipe.bend.guide.anchor == Anchor::CentredAt
                                 ? SitBy::Middle
                                 : recipe.bend.sit_by;
      else if (Letters* l = recipe.letters(); l != nullptr && cap > 0)
        l->size = cap, l->size_by = SizeBy::Capitals;
    });
  });
  connect(tops_, &ChoiceRow::chosen, this, [this](int i) {
    edit(tr("Change tops"), false, [&](Piece& p) {
      if (p.lettering() != nullptr)
        turn_tops(*p.lettering(), static_cast<Tops>(i));
    });
  });
  connect(stance_, &ChoiceRow::chosen, this, [this](int i) {
    edit_bend(tr("Change stance"), false, [&](Bend& b) { b.stance = static_cast<Stance>(i); });
  });
  connect(stretch_, &QCheckBox::clicked, this,
          [this](bool on) { edit_bend(tr("Stretch over the guide"), false, [&](Bend& b) { b.stretch = on; }); });
  connect(corners_, &ChoiceRow::chosen, this, [this](int i) {
    edit_bend(tr("Change corners"), false, [&](Bend& b) { b.corners = static_cast<Corners>(i); });
  });
  connect(lines_, &ChoiceRow::chosen, this,
          [this](int i) { edit_bend(tr("Change lines"), false, [&](Bend& b) { b.lines = static_cast<LinesGo>(i); }); });
  connect(by_, &QComboBox::activated, this, [this](int i) {
    // The run stays; only how its place is measured changes.
    const Piece* piece = session_.selected();
    if (piece == nullptr)
      return;
    const Result<Bead> bead = bead_of(session_.document(), piece->id, session_.evaluator());
    Document document = edit_piece(session_.document(), piece->id,
                                   [&](Piece& p) { p.lettering()->recipe.bend.guide.by = static_cast<AlongBy>(i); });
    if (bead)
      document = slide_bead(document, piece->id, session_.evaluator(), bead->s);
    session_.apply(tr("Change what the place measures"), std::move(document));
  });
  connect(level_, &QPushButton::clicked, this, &BendCard::level_wanted);
  connect(percent_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_bend(tr("Move along guide"), s, [&](Bend& b) { b.guide.percent = v; }); });
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

template <class Part> Part* BendCard::make_part(QWidget* place) {
  auto* part = new Part(session_);
  auto* all = new QVBoxLayout(place);
  all->setContentsMargins(0, 0, 0, 0);
  all->addWidget(part);
  return part;
}

RailsPart& BendCard::rails() {
  if (rails_ == nullptr) {
    rails_ = make_part<RailsPart>(rails_place_);
    connect(rails_, &RailsPart::pick_shape, this, &BendCard::pick_shape);
    connect(rails_, &RailsPart::problem, this, &BendCard::problem);
  }
  return *rails_;
}

NetPart& BendCard::net() {
  if (net_ == nullptr) {
    net_ = make_part<NetPart>(net_place_);
    connect(net_, &NetPart::problem, this, &BendCard::problem);
  }
  return *net_;
}

void BendCard::restyle() {
  Card::restyle();
  kind_->set_icons({"bend-straight", "bend-arc", "bend-guide", "bend-rails", "bend-net"});
}

void BendCard::choose(BendKind kind) {
  const Piece* piece = session_.selected();
  const bool block = piece != nullptr && piece->outline() != nullptr;
  if (piece == nullptr || (!block && (piece->lettering() == nullptr || piece->lettering()->recipe.bend.kind == kind)))
    return;
  const PieceId id = piece->id;
  if (kind == BendKind::Rails || kind == BendKind::Net) {
    Result<Together> begun = begin_warp(session_.document(), id, kind, session_.evaluator());
    if (begun)
      session_.apply(kind == BendKind::Rails ? tr("Bend between rails") : tr("Pull by a net"),
                     std::move(begun->document), std::vector<PieceId>{begun->id});
    else
      emit problem(QString::fromStdString(begun.error().text()));
    refresh();
    return;
  }
  if (block)
    return;
  const Lettering& l = *piece->lettering();
  const Point centre = ink_centre(session_, id);
  Document document = session_.document();
  const auto run = [&] {
    const Result<PieceResult>& now = session_.seated(id);
    return now && now->seated != nullptr ? std::max(now->seated->used_length, 1.0) : 100.0;
  };
  if (kind == BendKind::Straight) {
    // Off a guide it returns to where it stood before; an arch unrolls about its middle.
    const bool stands = l.recipe.bend.laid_by() == BendKind::Straight || l.recipe.bend.laid_by() == BendKind::Rails;
    document = l.recipe.bend.kind == BendKind::Guide || (stands && !l.recipe.bend.placed_by_guides())
                   ? edit_piece(std::move(document), id,
                                [](Piece& p) { p.lettering()->recipe.bend.kind = BendKind::Straight; })
                   : straighten(std::move(document), {id}, [&](PieceId) { return centre; });
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
    auto line = session_.evaluator().guide(document, l);
    PieceId guide = l.recipe.bend.guide.guide;
    if (!line) {
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
      line = session_.evaluator().guide(document, guide);
    }
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      Lettering& target = *p.lettering();
      if (line && target.recipe.bend.guide.guide != guide)
        ride_on(target, guide, **line);
      target.recipe.bend.kind = BendKind::Guide;
      target.recipe.bend.guide.guide = guide;
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

void BendCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->guide() != nullptr)
    return;
  const bool letters = piece->lettering() != nullptr && piece->lettering()->recipe.letters() != nullptr;
  for (const int tile : {1, 2})
    kind_->button(tile)->setEnabled(letters);
  const Lettering none{};
  const Lettering& l = piece->lettering() != nullptr ? *piece->lettering() : none;
  const Bend& b = l.recipe.bend;
  rails_place_->setVisible(b.laid_by() == BendKind::Rails);
  net_place_->setVisible(b.kind == BendKind::Net);
  strokes_place_->setVisible(b.warps());
  if (b.laid_by() == BendKind::Rails)
    rails().refresh();
  if (b.kind == BendKind::Net)
    net().refresh();
  if (b.warps() && !session_.dragging()) { // its words come when the hand lets go: laying them out anew takes a while
    if (strokes_ == nullptr)
      strokes_ = make_part<StrokesPart>(strokes_place_);
    strokes_->refresh();
  }
  const Unit unit = session_.document().unit;
  for (MeasureField* f : {radius_, rise_, guide_radius_, distance_, offset_, x_, y_})
    f->set_unit(unit);
  kind_->show_choice(static_cast<int>(b.kind));
  const bool arc = b.laid_by() == BendKind::Arc, guide = b.rides();
  for (QWidget* w : {static_cast<QWidget*>(radius_), static_cast<QWidget*>(rise_), static_cast<QWidget*>(sweep_),
                     static_cast<QWidget*>(side_)})
    show_row(w, arc);
  const auto line = guide ? session_.evaluator().guide(session_.shown(), l) : bad_input("");
  const bool down = l.recipe.letters() != nullptr && l.recipe.letters()->downwards;
  const Result<PieceResult>& now = session_.seated(piece->id);
  const bool seated = now && now->seated != nullptr;
  const bool fills = seated && now->seated->fills_guide;
  const bool several =
      l.recipe.letters() != nullptr && plain_text(l.recipe.letters()->text).find(U'\n') != std::u32string::npos;
  show_row(guide_, guide);
  show_row(tops_, guide && !down);
  show_row(anchor_, guide && !fills);
  show_row(used_, arc || guide);
  show_row(stance_, arc || guide);
  show_row(lines_, (arc || guide) && several);
  show_row(corners_, line && !(*line)->curve->corners().empty());
  fit_->setVisible(line && (*line)->fit.has_value());
  stretch_->setVisible(guide && b.stance == Stance::Flow);
  show_row(sit_, (arc || guide) && !down);
  show_row(offset_, arc || guide);
  show_row(x_, !b.placed_by_guides() && letters);
  show_row(turn_, !b.placed_by_guides() && piece->lettering() != nullptr &&
                      !std::holds_alternative<PiecesSource>(l.recipe.source));
  if (arc) {
    const bool known = seated && now->seated->arc_radius > 0;
    radius_->show_value(known ? now->seated->arc_radius : b.arc.by == ArcBy::Radius ? b.arc.value : 0);
    rise_->show_value(known ? now->seated->arc_rise : b.arc.by == ArcBy::Rise ? b.arc.value : 0);
    sweep_->show_value(known ? now->seated->arc_sweep : b.arc.by == ArcBy::Sweep ? b.arc.value : 0);
    side_->show_choice(static_cast<int>(b.arc.side));
  }
  if (guide) {
    guide_->show_pieces(session_, b.guide);
    const bool circle = line && (*line)->circle && !(*line)->fit;
    show_row(guide_radius_, circle);
    guide_radius_->show_value(circle ? (*line)->circle->radius : 0);
    fit_->setChecked(b.guide.fit_height);
    const bool open = line && (*line)->sense == GuideSense::Open;
    tops_->set_word(0, open ? tr("Up") : tr("Outward"));
    tops_->set_word(1, open ? tr("Turned over") : tr("Inward"));
    tops_->show_choice(static_cast<int>(b.guide.tops));
    anchor_->setCurrentIndex(static_cast<int>(b.guide.anchor));
    by_->setCurrentIndex(static_cast<int>(b.guide.by));
    by_->setItemText(1, unit_name(unit));
    angle_->setVisible(b.guide.by == AlongBy::Angle);
    distance_->setVisible(b.guide.by == AlongBy::Distance);
    percent_->setVisible(b.guide.by == AlongBy::Percent);
    angle_->show_value(b.guide.angle);
    distance_->show_value(b.guide.distance);
    percent_->show_value(b.guide.percent);
  } else {
    show_row(guide_radius_, false);
  }
  stance_->show_choice(static_cast<int>(b.stance));
  stretch_->setChecked(b.stretch);
  corners_->show_choice(static_cast<int>(b.corners));
  lines_->show_choice(static_cast<int>(b.lines));
  if (seated)
    used_->setText(
        arc ? QString::fromStdString(format_length(now->seated->used_length, unit)) + " " + unit_name(unit)
            : tr("%1 of %2 %3")
                  .arg(QString::fromStdString(format_length(std::round(now->seated->used_length * 10) / 10, unit)),
                       QString::fromStdString(format_length(std::round(now->seated->guide_length * 10) / 10, unit)),
                       unit_name(unit)));
  level_->setEnabled(seated && !fills && !b.warps());
  sit_->show_choice(static_cast<int>(b.sit_by));
  offset_->show_value(b.offset);
  x_->show_value(l.placement.at.x);
  y_->show_value(l.placement.at.y);
  turn_->show_value(l.placement.angle);
  const QString length =
      seated && arc ? QString::fromStdString(format_length(now->seated->arc_radius, unit)) : QString();
  const QString under = b.laid_by() == BendKind::Straight ? tr("straight")
                        : arc                             ? tr("arc r %1").arg(length)
                        : guide                           ? tr("on guide")
                                                          : words_of(rails_words(b.rails));
  set_summary(b.kind == BendKind::Net ? tr("net, %1").arg(under) : under);
}

} // namespace frelm
