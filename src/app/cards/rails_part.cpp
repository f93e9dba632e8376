#include "app/cards/rails_part.h"
#include "app/style/words.h"

#include "app/cards/gallery.h"
#include "document/blocks.h"
#include "document/measure.h"
#include "lettering/block_edit.h"

namespace frelm {

namespace {

constexpr auto rails_of = [](auto RailsBend::*member) {
  return [member](auto& l) { return &(l.recipe.bend.rails.*member); };
};
constexpr auto fill_of = [](auto ShapeFill::*member) {
  return [member](auto& l) { return &(l.recipe.bend.rails.fill.*member); };
};

bool fills(const Lettering& l) {
  return l.recipe.bend.rails.into == RailsInto::Shape;
}
bool between_edges(const Lettering& l) {
  return !fills(l);
}
bool fills_upright(const Lettering& l) {
  return fills(l) && l.recipe.bend.rails.fill.style == FillStyle::Upright;
}
bool fills_smoothly(const Lettering& l) {
  return fills(l) && l.recipe.bend.rails.fill.style == FillStyle::Smooth;
}

} // namespace

RailsPart::RailsPart(Session& session, QWidget* parent)
    : WarpPart(session, parent), into_(new ChoiceRow(tr("Rails"), {tr("Between edges"), tr("Fill a shape")})),
      link_(new ChoiceRow(tr("Bottom edge"), {tr("Own"), tr("Same"), tr("Mirrored")})),
      depth_in_(new ChoiceRow(tr("Depth in"), {tr("%"), tr("mm")})), gallery_button_(new QToolButton),
      gallery_(new Gallery(session, this)), shape_(new PieceChoice(PieceChoice::Lines::Closed, tr("Shape to fill"))),
      find_corners_(new QPushButton(tr("Find again"))), corners_(note_label()), corner_(new ChoiceBox),
      corner_at_(new MeasureField(MeasureKind::Percent, tr("Place of the corner"))) {
  add_wide(into_);
  // Not refused without a shape: that is asked for next.
  connect(into_, &ChoiceRow::chosen, this, [this](int i) {
    edit(i == 0 ? tr("Bend between edges") : tr("Fill a shape"), false, [&](Piece& p) {
      if (p.lettering() != nullptr)
        p.lettering()->recipe.bend.rails.into = static_cast<RailsInto>(i);
    });
    if (const Bend* b = bend(); b != nullptr && b->fills() && b->rails.fill.guide == 0 && !b->rails.fill.own)
      emit pick_shape();
  });
  add_gallery();
  add_edges();
  add_shape();
  add_upright();
  ChoiceRow* height = choice({tr("Height"), tr("Height"), tr("Change the filling height")},
                             {tr("Stretched"), tr("Natural")}, fill_of(&ShapeFill::height), fills_smoothly);
  height->button(0)->setToolTip(tr("The ink reaches the whole shape"));
  height->button(1)->setToolTip(tr("Letters keep their proportions and fill the width"));
  number({tr("Margin"), tr("Margin of the shape"), tr("Change the margin"),
          tr("How far letters stay off the edge of the shape")},
         {.low = 0, .step = 0.5}, fill_of(&ShapeFill::margin), fills);
  add_corners();
}

void RailsPart::add_gallery() {
  gallery_button_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  gallery_button_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  gallery_button_->setIconSize({72, 28});
  gallery_button_->setFocusPolicy(Qt::StrongFocus);
  gallery_button_->setToolTip(tr("Choose a bend by its looks"));
  add_row(tr("Gallery"), gallery_button_);
  connect(gallery_button_, &QToolButton::clicked, this, [this] { gallery_->open_at(gallery_button_); });
  connect(gallery_, &Gallery::chosen, this, [this](int i) {
    const RailsBend chosen = gallery_->bends()[static_cast<std::size_t>(i)];
    edit_rails(words_of(rails_words(chosen)), false,
               [&](RailsBend& r) { r = with_profiles(r, chosen, block_height()); });
  });
}

double RailsPart::block_height() const {
  return block() != nullptr ? block()->made.block.height() * block()->made.scale : 0.0;
}

void RailsPart::add_edges() {
  top_ = build_edge(false);
  add_row(tr("Bottom"), link_);
  bottom_ = build_edge(true);
  add_row(tr("Depth in"), depth_in_);
  connect(link_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the bottom edge"), false, [&](RailsBend& r) { r = with_link(r, static_cast<EdgeLink>(i)); });
  });
  connect(depth_in_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the unit of depths"), false,
               [&](RailsBend& r) { r = with_depth_in(r, static_cast<DepthIn>(i), block_height()); });
  });
  ChoiceRow* verticals = choice({tr("Verticals"), tr("Verticals"), tr("Change verticals")}, {tr("Follow"), tr("Kept")},
                                rails_of(&RailsBend::verticals), between_edges);
  verticals->button(0)->setToolTip(tr("Evenly by the length of each edge"));
  verticals->button(1)->setToolTip(tr("Upright strokes stay upright"));
  const NumberRange taper{.kind = MeasureKind::Percent, .low = -90, .high = 90};
  number({tr("Taper ends"), tr("Taper of the ends"), tr("Taper the ends"),
          tr("Lower towards the left end; negative: towards the right one")},
         taper, rails_of(&RailsBend::taper_along), between_edges);
  number({tr("Taper sides"), tr("Taper of the sides"), tr("Taper the sides"),
          tr("Narrower at the bottom; negative: at the top")},
         taper, rails_of(&RailsBend::taper_across), between_edges);
}

void RailsPart::add_shape() {
  auto* pick = new QPushButton(tr("Pick…"));
  pick->setToolTip(tr("Click a closed line on the sheet, or a space that several lines enclose"));
  add_row(tr("Shape"), in_row({{shape_, 1}, {pick, 0}}));
  connect(shape_, &PieceChoice::chosen, this, [this](PieceId id) {
    session_.apply(tr("Fill another shape"), fill_into(session_.document(), session_.selected()->id, id));
  });
  connect(pick, &QPushButton::clicked, this, &RailsPart::pick_shape);
}

void RailsPart::add_upright() {
  ChoiceRow* style = choice({tr("Letters"), tr("Letters in the shape"), tr("Change the filling")},
                            {tr("Smooth"), tr("Upright")}, fill_of(&ShapeFill::style), fills);
  style->button(0)->setToolTip(tr("The whole block follows the shape's edge"));
  style->button(1)->setToolTip(tr("Stems stay vertical; every letter reaches from edge to edge where it stands"));
  const NumberRange share{
      .kind = MeasureKind::Percent, .low = 100 * least_end, .high = 100, .step = 5, .shown_as = 100};
  const QString tip = tr("Where the shape is so much of its greatest height; the diamonds at the ends move it too");
  MeasureField *from = new_number({{}, tr("Letters begin at, of the greatest height"), {}, tip}, share),
               *to = new_number({{}, tr("Letters end at, of the greatest height"), {}, tip}, share);
  add_row(tr("Ends at"), in_row({{from, 1}, {to, 1}}));
  for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
    bind(
        side == 0 ? from : to, tr("Move an end"), share,
        [side](auto& l) { return &l.recipe.bend.rails.fill.upright.ends[side]; }, fills_upright);
  number(
      {tr("Proportion"), tr("Proportion"), tr("Change the proportion"),
       tr("How far a letter's width grows with its height: 0 % all are stretched alike, 100 % each keeps its shape")},
      {.kind = MeasureKind::Percent, .low = 0, .high = 100, .step = 10, .shown_as = 100},
      [](auto& l) { return &l.recipe.bend.rails.fill.upright.proportion; }, fills_upright);
}

void RailsPart::add_corners() {
  find_corners_->setToolTip(tr("Takes back corners moved by hand"));
  add_row(tr("Corners"), in_row({{corners_, 1}, {find_corners_, 0}}));
  corner_->addItems({tr("top left"), tr("top right"), tr("bottom right"), tr("bottom left")});
  corner_->setAccessibleName(tr("Corner of the shape"));
  corner_->setMinimumContentsLength(5);
  corner_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  corner_at_->set_range(0, 100);
  corner_at_->set_step(0.5);
  corner_at_->setToolTip(tr("Where the corner is, along the shape's edge from its start, clockwise"));
  add_row(tr("at"), in_row({{corner_, 1}, {corner_at_, 1}}));
  connect(corner_, &QComboBox::activated, this, [this] { refresh(); });
  connect(corner_at_, &MeasureField::edited, this, &RailsPart::set_corner);
  connect(find_corners_, &QPushButton::clicked, this,
          [this] { edit_rails(tr("Find corners again"), false, [](RailsBend& r) { r.fill.corners.reset(); }); });
}

EdgeRows RailsPart::build_edge(bool bottom) {
  const QString name = bottom ? tr("Bottom edge") : tr("Top edge");
  EdgeRows e{};
  QStringList kinds;
  for (int k = 0; k <= static_cast<int>(ProfileKind::Guide); ++k)
    kinds << core_words(profile_name(static_cast<ProfileKind>(k)));
  e.kind = new ChoiceBox, e.plus = new ChoiceBox;
  e.guide = new PieceChoice(PieceChoice::Lines::Open, tr("%1, guide").arg(name));
  e.kind->addItems(kinds);
  e.kind->setAccessibleName(name);
  kinds.removeLast();
  kinds.front() = tr("nothing");
  e.plus->addItems(kinds);
  e.plus->setAccessibleName(tr("%1, added to it").arg(name));
  e.plus->setToolTip(tr("A second profile on top of the first"));
  for (QComboBox* box : {e.kind, e.plus}) {
    box->setMinimumContentsLength(5);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  }
  e.depth = new MeasureField(MeasureKind::Count, tr("%1, depth").arg(name));
  e.more = new MeasureField(MeasureKind::Count, tr("%1, depth added").arg(name));
  e.periods = new MeasureField(MeasureKind::Count, tr("%1, periods").arg(name));
  e.phase = new MeasureField(MeasureKind::Angle, tr("%1, phase").arg(name));
  e.place = new MeasureField(MeasureKind::Percent, tr("%1, place of the peak").arg(name));
  e.depth->setToolTip(tr("How far the edge goes up (a Dip: down) from straight"));
  e.periods->set_range(0.1, 50);
  e.periods->set_step(0.5);
  e.periods->setToolTip(tr("Whole waves over the width"));
  e.phase->set_step(15);
  e.phase->setToolTip(tr("Slides the wave along"));
  e.place->set_range(-48, 48);
  e.place->setToolTip(tr("From the middle, in % of the width"));
  e.first_row = in_row({{e.kind, 3}, {e.depth, 2}});
  add_row(bottom ? QString() : tr("Top"), e.first_row);
  add_row({}, e.guide);
  e.wave_row = in_row({{e.periods, 1}, {e.phase, 1}});
  add_row(tr("Waves"), e.wave_row);
  add_row(tr("Peak at"), e.place);
  e.plus_row = in_row({{e.plus, 3}, {e.more, 2}});
  add_row(tr("and"), e.plus_row);
  for (const bool plus : {false, true}) {
    connect(plus ? e.plus : e.kind, &QComboBox::activated, this,
            [this, bottom, plus](int i) { choose_profile(bottom, plus, static_cast<ProfileKind>(i)); });
    connect(plus ? e.more : e.depth, &MeasureField::edited, this, [this, bottom, plus](double v, bool s) {
      edit_profile(bottom, plus, tr("Change depth"), s, [&](RailProfile& p) { p.depth = v; });
    });
  }
  // Waves and peaks: of the first profile if it is one, else of the one added to it.
  const auto detail = [this, bottom](const QString& step, ProfileKind kind, double RailProfile::*member) {
    return [this, bottom, step, kind, member](double v, bool s) {
      const Bend* now = bend();
      if (now == nullptr)
        return;
      const bool plus = (bottom ? now->rails.bottom : now->rails.top).first.kind != kind;
      edit_profile(bottom, plus, step, s, [&](RailProfile& p) { p.*member = v; });
    };
  };
  connect(e.periods, &MeasureField::edited, this,
          detail(tr("Change periods"), ProfileKind::Wave, &RailProfile::periods));
  connect(e.phase, &MeasureField::edited, this, detail(tr("Change phase"), ProfileKind::Wave, &RailProfile::phase));
  connect(e.place, &MeasureField::edited, this, detail(tr("Move the peak"), ProfileKind::Peak, &RailProfile::phase));
  connect(e.guide, &PieceChoice::chosen, this, [this, bottom](PieceId id) {
    edit_rails(tr("Change the edge's guide"), false, [&](RailsBend& r) {
      RailEdge& edge = bottom ? r.bottom : r.top;
      edge.guide = id;
      edge.own.reset();
    });
  });
  return e;
}

void RailsPart::edit_rails(const QString& name, bool stepped, const std::function<void(RailsBend&)>& change) {
  edit_bend(
      name, [&](Bend& b) { change(b.rails); }, stepped ? "step " + name.toStdString() : "");
}

void RailsPart::edit_profile(bool bottom, bool plus, const QString& name, bool stepped,
                             const std::function<void(RailProfile&)>& change) {
  edit_rails(name, stepped, [&](RailsBend& r) {
    RailEdge& edge = bottom ? r.bottom : r.top;
    change(plus ? edge.plus : edge.first);
  });
}

void RailsPart::choose_profile(bool bottom, bool plus, ProfileKind kind) {
  const Bend* now = bend();
  if (now == nullptr)
    return;
  const RailEdge &edge = bottom ? now->rails.bottom : now->rails.top,
                 &other = bottom ? now->rails.top : now->rails.bottom;
  PieceId line = edge.guide;
  if (kind == ProfileKind::Guide && line == 0 && !edge.own) {
    // The first open line that the other edge doesn't follow, else the first.
    const std::vector<PieceId> lines = PieceChoice::pieces(session_, PieceChoice::Lines::Open);
    if (lines.empty()) {
      emit problem(tr("Draw an open guide first (3); then the edge can follow it"));
      refresh();
      return;
    }
    const auto free = std::find_if(lines.begin(), lines.end(), [&](PieceId id) { return id != other.guide; });
    line = free != lines.end() ? *free : lines.front();
  }
  edit_rails(tr("Change profile"), false, [&](RailsBend& r) {
    RailEdge& changed = bottom ? r.bottom : r.top;
    RailProfile& p = plus ? changed.plus : changed.first;
    p.kind = kind;
    changed.guide = line;
    if (kind == ProfileKind::Wave || kind == ProfileKind::Peak)
      p.phase = 0; // of one it is degrees, of the other a place
  });
}

void RailsPart::set_corner(double percent, bool stepped) {
  if (block() == nullptr || !block()->made.target)
    return;
  std::array<double, 4> corners = corner_shares(block()->made);
  corners[static_cast<std::size_t>(corner_->currentIndex())] = percent / 100;
  if (!corners_in_order(corners)) {
    emit problem(tr("Corners keep their order around the shape; type a place between its neighbours"));
    refresh();
    return;
  }
  edit_rails(tr("Move a corner"), stepped, [&](RailsBend& r) { r.fill.corners = corners; });
}

void RailsPart::show_edge(const EdgeRows& rows, const RailEdge& edge, bool visible, DepthIn depth_in) {
  const bool guide = edge.first.kind == ProfileKind::Guide;
  const bool wave = edge.first.kind == ProfileKind::Wave || edge.plus.kind == ProfileKind::Wave,
             peak = edge.first.kind == ProfileKind::Peak || edge.plus.kind == ProfileKind::Peak;
  show_row(rows.first_row, visible);
  show_row(rows.guide, visible && guide);
  show_row(rows.plus_row, visible && !guide);
  show_row(rows.wave_row, visible && !guide && wave);
  show_row(rows.place, visible && !guide && peak);
  rows.kind->setCurrentIndex(static_cast<int>(edge.first.kind));
  rows.plus->setCurrentIndex(static_cast<int>(edge.plus.kind));
  const Unit unit = session_.document().unit;
  const auto depth = [&](MeasureField* field, const RailProfile& p) {
    field->set_kind(depth_in == DepthIn::Percent ? MeasureKind::Percent : MeasureKind::Length);
    field->set_unit(unit);
    field->setVisible(p.kind != ProfileKind::Straight && p.kind != ProfileKind::Guide);
    field->show_value(p.depth);
  };
  depth(rows.depth, edge.first);
  depth(rows.more, edge.plus);
  for (const RailProfile* p : {&edge.plus, &edge.first}) {
    if (p->kind == ProfileKind::Wave) {
      rows.periods->show_value(p->periods);
      rows.phase->show_value(p->phase);
    }
    if (p->kind == ProfileKind::Peak)
      rows.place->show_value(p->phase);
  }
}

void RailsPart::refresh() {
  if (bend() == nullptr)
    return;
  const RailsBend* r = &bend()->rails;
  const Lettering& l = *session_.selected()->lettering();
  const bool fill = fills(l), smooth = fills_smoothly(l);
  into_->show_choice(fill ? 1 : 0);
  show_row(gallery_button_, !fill);
  show_row(link_, !fill);
  const bool profiles = r->top.first.kind != ProfileKind::Guide ||
                        (r->link == EdgeLink::Free && r->bottom.first.kind != ProfileKind::Guide);
  show_row(depth_in_, !fill && profiles);
  depth_in_->set_word(1, unit_name(session_.document().unit));
  depth_in_->show_choice(static_cast<int>(r->depth_in));
  link_->show_choice(static_cast<int>(r->link));
  show_row(shape_, fill);
  show_row(corners_, smooth);
  show_row(corner_, smooth);
  show_edge(top_, r->top, !fill, r->depth_in);
  show_edge(bottom_, r->bottom, !fill && r->link == EdgeLink::Free, r->depth_in);
  show_rows(l);
  if (fill)
    show_shape(r->fill);
  else
    show_gallery(*r);
}

void RailsPart::show_shape(const ShapeFill& fill) {
  shape_->show_pieces(session_, fill);
  corners_->setText(fill.corners ? tr("moved by hand") : tr("found; drag them"));
  find_corners_->setEnabled(fill.corners.has_value());
  const bool known = block() != nullptr && block()->made.target.has_value();
  corner_at_->setEnabled(known);
  if (known && !session_.dragging())
    corner_at_->show_value(100 * corner_shares(block()->made)[static_cast<std::size_t>(corner_->currentIndex())]);
}

void RailsPart::show_gallery(const RailsBend& r) {
  for (const auto& [rows, edge] : {std::pair{&top_, &r.top}, {&bottom_, &r.bottom}})
    if (edge->first.kind == ProfileKind::Guide)
      rows->guide->show_pieces(session_, *edge);
  const QString name = words_of(rails_words(r));
  if (gallery_button_->text() != name || gallery_button_->icon().isNull()) {
    gallery_button_->setText(name);
    gallery_button_->setAccessibleName(tr("Gallery, now %1").arg(name));
  }
  if (!session_.dragging())
    gallery_button_->setIcon(rails_picture(session_, r, gallery_button_->iconSize(), devicePixelRatioF()));
}

} // namespace frelm
