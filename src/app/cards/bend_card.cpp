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

constexpr auto bend_of = [](auto Bend::*member) { return [member](auto& l) { return &(l.recipe.bend.*member); }; };
constexpr auto on_guide = [](auto GuideBend::*member) {
  return [member](auto& l) { return &(l.recipe.bend.guide.*member); };
};

} // namespace

BendCard::BendCard(Session& session, QWidget* parent)
    : LetteringCard(2, tr("Bend"), session, parent),
      kind_(new ChoiceRow(tr("Bend"), {tr("Straight"), tr("Arc"), tr("Guide"), tr("Rails"), tr("Net")})),
      net_place_(new QWidget), rails_place_(new QWidget), strokes_place_(new QWidget) {
  restyle();
  add_kinds();
  add_arc_rows();
  add_guide_rows();
  add_stance_rows();
  add_along_row();
  add_used_row();
  add_place_rows();
}

void BendCard::add_kinds() {
  kind_->button(3)->setToolTip(tr("Pressed between two edges, or into a shape"));
  kind_->button(4)->setToolTip(tr("Pulled by pegs, over the bend as it is now"));
  add_wide(kind_);
  connect(kind_, &ChoiceRow::chosen, this, [this](int i) { choose(static_cast<BendKind>(i)); });
  for (QWidget* place : {net_place_, rails_place_, strokes_place_}) {
    place->hide();
    add_wide(place);
  }
}

// One of the three measures is kept while the text changes; all show what the run comes to.
void BendCard::add_arc_rows() {
  const auto measure = [this](const QString& label, const QString& name, ArcBy by, const NumberRange& range,
                              double SeatedText::*known) {
    MeasureField* field = new_number({label, name}, range);
    add_row(label, field);
    connect(field, &MeasureField::edited, this, [this, by](double v, bool stepped) { set_arc(by, v, stepped); });
    on_show([this, field, by, known](const Lettering& l) {
      show_row(field, now_.arc);
      field->set_unit(session_.document().unit);
      const ArcBend& arc = l.recipe.bend.arc;
      const bool laid = now_.text != nullptr && now_.text->arc_radius > 0;
      field->show_value(laid ? (*now_.text).*known : arc.by == by ? arc.value : 0);
    });
  };
  measure(tr("Radius"), tr("Arc radius"), ArcBy::Radius, {.low = 0.5}, &SeatedText::arc_radius);
  measure(tr("Rise"), tr("Arc rise"), ArcBy::Rise, {.low = 0.001}, &SeatedText::arc_rise);
  measure(tr("Sweep"), tr("Arc sweep"), ArcBy::Sweep, {.kind = MeasureKind::Angle, .low = 0.001, .high = 360},
          &SeatedText::arc_sweep);
  choice(
      {tr("Arc"), tr("Arc"), tr("Change arc")}, {tr("Over"), tr("Under")},
      [](auto& l) { return &l.recipe.bend.arc.side; }, [this](const Lettering&) { return now_.arc; });
}

void BendCard::add_guide_rows() {
  auto* guide = new PieceChoice(PieceChoice::Lines::Any, tr("Guide"));
  add_row(tr("Guide"), guide);
  connect(guide, &PieceChoice::chosen, this, [this](PieceId id) {
    if (const auto chosen = session_.evaluator().guide(session_.document(), id))
      edit_subject(tr("Change guide"), false, [&](Lettering& l) { ride_on(l, id, **chosen); });
  });
  MeasureField* radius = new_number({{}, tr("Radius of the guide")}, {.low = 0.5});
  add_row(tr("Radius"), radius);
  connect(radius, &MeasureField::edited, this, &BendCard::set_guide_radius);
  auto* fit = new QCheckBox(tr("Fit letters to its height"));
  fit->setToolTip(tr("Capitals as high as the band, or the room between windings, allows"));
  add_wide(fit);
  connect(fit, &QCheckBox::clicked, this, &BendCard::fit_height);
  auto* tops = new ChoiceRow(tr("Tops"), {tr("Outward"), tr("Inward")});
  tops->setToolTip(tr("Which way the tops of the letters point; the chevrons show the guide's own direction"));
  add_row(tr("Tops"), tops);
  connect(tops, &ChoiceRow::chosen, this, [this](int i) {
    edit_subject(tr("Change tops"), false, [&](Lettering& l) { turn_tops(l, static_cast<Tops>(i)); });
  });
  on_show([this, guide, radius, fit, tops](const Lettering& l) {
    const GuideBend& b = l.recipe.bend.guide;
    const bool circle = now_.line != nullptr && now_.line->circle && !now_.line->fit;
    show_row(guide, now_.guide);
    show_row(radius, circle);
    show_row(tops, now_.guide && !now_.down);
    fit->setVisible(now_.line != nullptr && now_.line->fit.has_value());
    if (!now_.guide)
      return;
    guide->show_pieces(session_, b);
    radius->set_unit(session_.document().unit);
    radius->show_value(circle ? now_.line->circle->radius : 0);
    fit->setChecked(b.fit_height);
    const bool open = now_.line != nullptr && now_.line->sense == GuideSense::Open;
    tops->set_word(0, open ? tr("Up") : tr("Outward"));
    tops->set_word(1, open ? tr("Turned over") : tr("Inward"));
    tops->show_choice(static_cast<int>(b.tops));
  });
}

void BendCard::set_guide_radius(double value, bool stepped) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const auto change = [value](GuideShape& shape) {
    if (auto* circle = std::get_if<CircleGuide>(&shape))
      circle->radius = value;
  };
  const PieceId guide = piece->lettering()->recipe.bend.guide.guide;
  if (const Piece* g = session_.document().find(guide); g != nullptr && g->guide() != nullptr)
    session_.edit(
        tr("Change radius"), guide, [&](Piece& p) { change(p.guide()->shape); }, stepped ? "step radius" : "");
  else
    edit_subject(tr("Change radius"), stepped, [&](Lettering& l) {
      if (l.recipe.bend.guide.own)
        change(*l.recipe.bend.guide.own);
    });
}

// Letters keep the size they had when they are let go of the band.
void BendCard::fit_height(bool on) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Result<PieceResult>& now = session_.seated(piece->id);
  const double cap = now && now->seated != nullptr ? now->seated->spaced->set->cap_height : 0;
  edit_subject(tr("Fit height"), false, [&](Lettering& target) {
    Recipe& recipe = target.recipe;
    recipe.bend.guide.fit_height = on;
    if (on)
      recipe.bend.sit_by = recipe.letters() != nullptr && recipe.bend.guide.anchor == Anchor::CentredAt
                               ? SitBy::Middle
                               : recipe.bend.sit_by;
    else if (Letters* l = recipe.letters(); l != nullptr && cap > 0)
      l->size = cap, l->size_by = SizeBy::Capitals;
  });
}

void BendCard::add_stance_rows() {
  const auto along = [this](const Lettering&) { return now_.arc || now_.guide; };
  choice({tr("Sit by"), tr("Sit by"), tr("Change sit")}, {tr("Base"), tr("Middle"), tr("Caps")}, bend_of(&Bend::sit_by),
         [this](const Lettering&) { return (now_.arc || now_.guide) && !now_.down; });
  ChoiceRow* stance = choice({tr("Stance"), tr("Stance"), tr("Change stance")},
                             {tr("Turn"), tr("Stand"), tr("Lean"), tr("Flow")}, bend_of(&Bend::stance), along);
  stance->button(0)->setToolTip(tr("Letters stand across the guide"));
  stance->button(1)->setToolTip(tr("Letters stay upright"));
  stance->button(2)->setToolTip(tr("Verticals stay vertical, the base follows the guide"));
  stance->button(3)->setToolTip(tr("The letters' own shapes bend along the guide"));
  flag({.label = tr("Stretch from end to end"),
        .step = tr("Stretch over the guide"),
        .tip = tr("The whole word flows over the whole guide, as if drawn with a brush")},
       bend_of(&Bend::stretch),
       [this](const Lettering& l) { return now_.guide && l.recipe.bend.stance == Stance::Flow; });
}

// What the run is anchored by, and its place along the guide by one of three measures.
void BendCard::add_along_row() {
  auto *anchor = new ChoiceBox, *by = new ChoiceBox;
  anchor->addItems({tr("centred"), tr("starts"), tr("ends")});
  anchor->setAccessibleName(tr("Place along the guide"));
  anchor->setMinimumContentsLength(6);
  by->addItems({tr("°"), tr("mm"), tr("%")});
  by->setAccessibleName(tr("Measured by"));
  by->setToolTip(tr("Angle seen from the guide's centre, length along it, or a share of it"));
  by->setMinimumContentsLength(2);
  const NumberRange turn{.kind = MeasureKind::Angle, .low = -1e6, .high = 1e6, .wraps = true},
      share{.kind = MeasureKind::Percent, .low = -1e6, .high = 1e6};
  MeasureField *angle = new_number({{}, tr("Angle on the guide"), {}, tr("0° is the top; clockwise")}, turn),
               *distance = new_number({{}, tr("Distance along the guide")}, {}),
               *percent = new_number({{}, tr("Share of the guide")}, share);
  auto* place = new QWidget;
  auto* line = new QHBoxLayout(place);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(3);
  line->addWidget(anchor, 3);
  for (MeasureField* f : {angle, distance, percent})
    line->addWidget(f, 2);
  line->addWidget(by, 1);
  distance->hide(); // one of the three shows at a time
  percent->hide();
  place->setObjectName("place");
  add_row(tr("Along"), place);
  const auto measured = [](AlongBy measure) {
    return [measure](const Lettering& l) { return l.recipe.bend.guide.by == measure; };
  };
  bind(angle, tr("Move along guide"), turn, on_guide(&GuideBend::angle), measured(AlongBy::Angle));
  bind(distance, tr("Move along guide"), {}, on_guide(&GuideBend::distance), measured(AlongBy::Distance));
  bind(percent, tr("Move along guide"), share, on_guide(&GuideBend::percent), measured(AlongBy::Percent));
  connect(by, &QComboBox::activated, this, [this](int i) { measure_along_by(static_cast<AlongBy>(i)); });
  connect(anchor, &QComboBox::activated, this, [this](int i) {
    edit_subject(tr("Change anchor"), false,
                 [&](Lettering& l) { l.recipe.bend.guide.anchor = static_cast<Anchor>(i); });
  });
  on_show([this, place, anchor, by](const Lettering& l) {
    show_row(place, now_.guide && !now_.fills);
    anchor->setCurrentIndex(static_cast<int>(l.recipe.bend.guide.anchor));
    by->setCurrentIndex(static_cast<int>(l.recipe.bend.guide.by));
    by->setItemText(1, unit_name(session_.document().unit));
  });
}

// The run stays; only how its place is measured changes.
void BendCard::measure_along_by(AlongBy by) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Result<Bead> bead = bead_of(session_.document(), piece->id, session_.evaluator());
  Document document =
      edit_piece(session_.document(), piece->id, [&](Piece& p) { p.lettering()->recipe.bend.guide.by = by; });
  if (bead)
    document = slide_bead(document, piece->id, session_.evaluator(), bead->s);
  session_.apply(tr("Change what the place measures"), std::move(document));
}

void BendCard::add_used_row() {
  auto* used = new QLabel;
  used->setObjectName("muted");
  auto* level = new QPushButton(tr("Level"));
  level->setToolTip(tr("Brings the feet of the first and last letter to the same height"));
  connect(level, &QPushButton::clicked, this, &BendCard::level_wanted);
  add_row(tr("Used"), in_row({{used, 1}, {level, 0}}));
  on_show([this, used, level](const Lettering& l) {
    show_row(used, now_.arc || now_.guide);
    level->setEnabled(now_.seated && !now_.fills && !l.recipe.bend.warps());
    if (!now_.seated)
      return;
    const Unit unit = session_.document().unit;
    const auto words = [&](double mm) { return QString::fromStdString(format_length(mm, unit)); };
    const auto tenths = [&](double mm) { return words(std::round(mm * 10) / 10); };
    used->setText(
        now_.arc
            ? tr("%1 %2").arg(words(now_.text->used_length), unit_name(unit))
            : tr("%1 of %2 %3").arg(tenths(now_.text->used_length), tenths(now_.text->guide_length), unit_name(unit)));
  });
}

void BendCard::add_place_rows() {
  const auto along = [this](const Lettering&) { return now_.arc || now_.guide; };
  number(
      {tr("Base offset"), tr("Base offset"), tr("Change base offset"), tr("How far off the guide, towards the tops")},
      {.step = 0.5}, bend_of(&Bend::offset), along);
  choice({tr("Corners"), tr("Corners"), tr("Change corners"), tr("Whether letters may stand over the guide's corners")},
         {tr("Side by side"), tr("Over them")}, bend_of(&Bend::corners),
         [this](const Lettering&) { return now_.line != nullptr && !now_.line->curve->corners().empty(); });
  choice({tr("Lines"), tr("Further lines"), tr("Change lines"), tr("Where further lines of the text go")},
         {tr("Below"), tr("Above"), tr("Follow on")}, bend_of(&Bend::lines),
         [this](const Lettering& l) { return (now_.arc || now_.guide) && several_lines(l); });
  MeasureField *x = new_number({{}, tr("Place, x")}, {}), *y = new_number({{}, tr("Place, y")}, {});
  add_row(tr("Place"), {x, y});
  const auto placed = [this](const Lettering& l) { return !l.recipe.bend.placed_by_guides() && now_.letters; };
  bind(
      x, tr("Move"), {}, [](auto& l) { return &l.placement.at.x; }, placed);
  bind(
      y, tr("Move"), {}, [](auto& l) { return &l.placement.at.y; }, placed);
  number(
      {tr("Turn"), tr("Turn"), tr("Turn")}, {.kind = MeasureKind::Angle, .low = -1e6, .high = 1e6, .wraps = true},
      [](auto& l) { return &l.placement.angle; },
      [this](const Lettering& l) {
        return !l.recipe.bend.placed_by_guides() && session_.selected()->lettering() != nullptr &&
               !std::holds_alternative<PiecesSource>(l.recipe.source);
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
      emit problem(words_of(begun.error()));
    refresh();
    return;
  }
  if (block)
    return;
  const QString names[]{tr("Set straight"), tr("Bend on an arc"), tr("Ride on a guide")};
  if (std::optional<Document> bent = bent_otherwise(*piece, kind))
    session_.apply(names[static_cast<int>(kind)], std::move(*bent));
}

std::optional<Document> BendCard::bent_otherwise(const Piece& piece, BendKind kind) const {
  const PieceId id = piece.id;
  const Lettering& l = *piece.lettering();
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
  return document;
}

void BendCard::set_arc(ArcBy by, double value, bool stepped) {
  edit_subject(tr("Change arc"), stepped,
               [&](Lettering& l) { l.recipe.bend.arc.by = by, l.recipe.bend.arc.value = value; });
}

BendCard::Now BendCard::now_of(const Piece& piece, const Lettering& l) const {
  const Bend& b = l.recipe.bend;
  Now now;
  now.letters = l.recipe.letters() != nullptr && piece.lettering() != nullptr;
  now.arc = b.laid_by() == BendKind::Arc, now.guide = b.rides();
  now.down = now.letters && l.recipe.letters()->downwards;
  if (now.guide)
    if (const auto line = session_.evaluator().guide(session_.shown(), l))
      now.line = *line;
  if (const Result<PieceResult>& seated = session_.seated(piece.id); seated && seated->seated != nullptr)
    now.text = seated->seated, now.seated = true, now.fills = now.text->fills_guide;
  return now;
}

// Parts for warps are made when they are first needed.
void BendCard::show_warps(const Bend& b) {
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
}

QString BendCard::summary(const Bend& b) const {
  const Unit unit = session_.document().unit;
  const QString radius =
      now_.text != nullptr ? QString::fromStdString(format_length(now_.text->arc_radius, unit)) : QString();
  const QString under = b.laid_by() == BendKind::Straight ? tr("straight")
                        : now_.arc                        ? tr("arc r %1").arg(radius)
                        : now_.guide                      ? tr("on guide")
                                                          : words_of(rails_words(b.rails));
  return b.kind == BendKind::Net ? tr("net, %1").arg(under) : under;
}

void BendCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->guide() != nullptr)
    return;
  const Lettering none{}; // of an outline, which can be bent as a block
  const Lettering& l = piece->lettering() != nullptr ? *piece->lettering() : none;
  now_ = now_of(*piece, l);
  for (const int tile : {1, 2})
    kind_->button(tile)->setEnabled(now_.letters);
  kind_->show_choice(static_cast<int>(l.recipe.bend.kind));
  show_warps(l.recipe.bend);
  show_rows(l);
  set_summary(summary(l.recipe.bend));
  now_ = {};
}

} // namespace frelm
