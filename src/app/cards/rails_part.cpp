#include "app/cards/rails_part.h"
#include "app/style/words.h"

#include "app/cards/gallery.h"
#include "document/blocks.h"
#include "document/measure.h"
#include "lettering/block_edit.h"

namespace frelm {

RailsPart::RailsPart(Session& session, QWidget* parent)
    : WarpPart(session, parent), into_(new ChoiceRow(tr("Rails"), {tr("Between edges"), tr("Fill a shape")})),
      link_(new ChoiceRow(tr("Bottom edge"), {tr("Own"), tr("Same"), tr("Mirrored")})),
      depth_in_(new ChoiceRow(tr("Depth in"), {tr("%"), tr("mm")})),
      verticals_(new ChoiceRow(tr("Verticals"), {tr("Follow"), tr("Kept")})),
      style_(new ChoiceRow(tr("Letters in the shape"), {tr("Smooth"), tr("Upright")})),
      from_(new MeasureField(MeasureKind::Percent, tr("Letters begin at, of the greatest height"))),
      to_(new MeasureField(MeasureKind::Percent, tr("Letters end at, of the greatest height"))),
      proportion_(new MeasureField(MeasureKind::Percent, tr("Proportion"))),
      height_(new ChoiceRow(tr("Height"), {tr("Stretched"), tr("Natural")})), gallery_button_(new QToolButton),
      gallery_(new Gallery(session, this)),
      taper_along_(new MeasureField(MeasureKind::Percent, tr("Taper of the ends"))),
      taper_across_(new MeasureField(MeasureKind::Percent, tr("Taper of the sides"))),
      shape_(new PieceChoice(PieceChoice::Lines::Closed, tr("Shape to fill"))), pick_(new QPushButton(tr("Pick…"))),
      find_corners_(new QPushButton(tr("Find again"))), corners_(note_label()),
      margin_(length_field(tr("Margin of the shape"), 0)), corner_(new ChoiceBox),
      corner_at_(new MeasureField(MeasureKind::Percent, tr("Place of the corner"))) {
  add_wide(into_);
  gallery_button_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  gallery_button_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  gallery_button_->setIconSize({72, 28});
  gallery_button_->setFocusPolicy(Qt::StrongFocus);
  gallery_button_->setToolTip(tr("Choose a bend by its looks"));
  add_row(tr("Gallery"), gallery_button_);
  top_ = build_edge(false);
  add_row(tr("Bottom"), link_);
  bottom_ = build_edge(true);
  add_row(tr("Depth in"), depth_in_);
  verticals_->button(0)->setToolTip(tr("Evenly by the length of each edge"));
  verticals_->button(1)->setToolTip(tr("Upright strokes stay upright"));
  add_row(tr("Verticals"), verticals_);
  for (MeasureField* f : {taper_along_, taper_across_})
    f->set_range(-90, 90);
  taper_along_->setToolTip(tr("Lower towards the left end; negative: towards the right one"));
  taper_across_->setToolTip(tr("Narrower at the bottom; negative: at the top"));
  add_row(tr("Taper ends"), taper_along_);
  add_row(tr("Taper sides"), taper_across_);
  pick_->setToolTip(tr("Click a closed line on the sheet, or a space that several lines enclose"));
  add_row(tr("Shape"), in_row({{shape_, 1}, {pick_, 0}}));
  build_upright();
  height_->button(0)->setToolTip(tr("The ink reaches the whole shape"));
  height_->button(1)->setToolTip(tr("Letters keep their proportions and fill the width"));
  add_row(tr("Height"), height_);
  margin_->set_step(0.5);
  margin_->setToolTip(tr("How far letters stay off the edge of the shape"));
  add_row(tr("Margin"), margin_);
  connect(margin_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_rails(tr("Change the margin"), s, [&](RailsBend& b) { b.fill.margin = v; });
  });
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

  // Not refused without a shape: that is asked for next.
  connect(into_, &ChoiceRow::chosen, this, [this](int i) {
    edit(i == 0 ? tr("Bend between edges") : tr("Fill a shape"), false, [&](Piece& p) {
      if (p.lettering() != nullptr)
        p.lettering()->recipe.bend.rails.into = static_cast<RailsInto>(i);
    });
    if (const Bend* b = bend(); b != nullptr && b->fills() && b->rails.fill.guide == 0 && !b->rails.fill.own)
      emit pick_shape();
  });
  connect(gallery_button_, &QToolButton::clicked, this, [this] { gallery_->open_at(gallery_button_); });
  // mm of the block, as large as its target: what depths in % are of.
  const auto height = [this] { return block() != nullptr ? block()->made.block.height() * block()->made.scale : 0.0; };
  connect(gallery_, &Gallery::chosen, this, [this, height](int i) {
    const RailsBend chosen = gallery_->bends()[static_cast<std::size_t>(i)];
    edit_rails(words_of(rails_words(chosen)), false, [&](RailsBend& r) { r = with_profiles(r, chosen, height()); });
  });
  connect(link_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the bottom edge"), false, [&](RailsBend& r) { r = with_link(r, static_cast<EdgeLink>(i)); });
  });
  connect(depth_in_, &ChoiceRow::chosen, this, [this, height](int i) {
    edit_rails(tr("Change the unit of depths"), false,
               [&](RailsBend& r) { r = with_depth_in(r, static_cast<DepthIn>(i), height()); });
  });
  connect(verticals_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change verticals"), false, [&](RailsBend& r) { r.verticals = static_cast<Verticals>(i); });
  });
  connect(taper_along_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_rails(tr("Taper the ends"), s, [&](RailsBend& r) { r.taper_along = v; }); });
  connect(taper_across_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_rails(tr("Taper the sides"), s, [&](RailsBend& r) { r.taper_across = v; });
  });
  connect(shape_, &PieceChoice::chosen, this, [this](PieceId id) {
    session_.apply(tr("Fill another shape"), fill_into(session_.document(), session_.selected()->id, id));
  });
  connect(pick_, &QPushButton::clicked, this, &RailsPart::pick_shape);
  connect(height_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the filling height"), false,
               [&](RailsBend& r) { r.fill.height = static_cast<FillHeight>(i); });
  });
  connect(find_corners_, &QPushButton::clicked, this,
          [this] { edit_rails(tr("Find corners again"), false, [](RailsBend& r) { r.fill.corners.reset(); }); });
}

void RailsPart::build_upright() {
  style_->button(0)->setToolTip(tr("The whole block follows the shape's edge"));
  style_->button(1)->setToolTip(tr("Stems stay vertical; every letter reaches from edge to edge where it stands"));
  add_row(tr("Letters"), style_);
  for (MeasureField* f : {from_, to_}) {
    f->set_range(100 * least_end, 100);
    f->set_step(5);
    f->setToolTip(tr("Where the shape is so much of its greatest height; the diamonds at the ends move it too"));
  }
  add_row(tr("Ends at"), in_row({{from_, 1}, {to_, 1}}));
  proportion_->set_range(0, 100);
  proportion_->set_step(10);
  proportion_->setToolTip(
      tr("How far a letter's width grows with its height: 0 % all are stretched alike, 100 % each keeps its shape"));
  add_row(tr("Proportion"), proportion_);
  connect(style_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(i == 1 ? tr("Fill upright") : tr("Fill smoothly"), false,
               [&](RailsBend& r) { r.fill.style = static_cast<FillStyle>(i); });
  });
  for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
    connect(side == 0 ? from_ : to_, &MeasureField::edited, this, [this, side](double v, bool s) {
      edit_rails(tr("Move an end"), s, [&](RailsBend& r) { r.fill.upright.ends[side] = v / 100; });
    });
  connect(proportion_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_rails(tr("Change the proportion"), s, [&](RailsBend& r) { r.fill.upright.proportion = v / 100; });
  });
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
  const bool fill = r->into == RailsInto::Shape;
  into_->show_choice(fill ? 1 : 0);
  show_row(gallery_button_, !fill);
  for (QWidget* w : {static_cast<QWidget*>(link_), static_cast<QWidget*>(verticals_)})
    show_row(w, !fill);
  const bool profiles = r->top.first.kind != ProfileKind::Guide ||
                        (r->link == EdgeLink::Free && r->bottom.first.kind != ProfileKind::Guide);
  show_row(depth_in_, !fill && profiles);
  show_row(taper_along_, !fill);
  show_row(taper_across_, !fill);
  const bool upright = r->fill.style == FillStyle::Upright;
  for (QWidget* w : {static_cast<QWidget*>(shape_), static_cast<QWidget*>(margin_), static_cast<QWidget*>(style_)})
    show_row(w, fill);
  for (QWidget* w : {static_cast<QWidget*>(height_), static_cast<QWidget*>(corners_), static_cast<QWidget*>(corner_)})
    show_row(w, fill && !upright);
  show_row(from_, fill && upright);
  show_row(proportion_, fill && upright);
  show_edge(top_, r->top, !fill, r->depth_in);
  show_edge(bottom_, r->bottom, !fill && r->link == EdgeLink::Free, r->depth_in);
  depth_in_->set_word(1, unit_name(session_.document().unit));
  depth_in_->show_choice(static_cast<int>(r->depth_in));
  link_->show_choice(static_cast<int>(r->link));
  verticals_->show_choice(static_cast<int>(r->verticals));
  taper_along_->show_value(r->taper_along);
  taper_across_->show_value(r->taper_across);
  if (fill) {
    shape_->show_pieces(session_, r->fill);
    style_->show_choice(static_cast<int>(r->fill.style));
    from_->show_value(100 * r->fill.upright.ends[0]);
    to_->show_value(100 * r->fill.upright.ends[1]);
    proportion_->show_value(100 * r->fill.upright.proportion);
    height_->show_choice(static_cast<int>(r->fill.height));
    corners_->setText(r->fill.corners ? tr("moved by hand") : tr("found; drag them"));
    find_corners_->setEnabled(r->fill.corners.has_value());
    const bool known = block() != nullptr && block()->made.target.has_value();
    corner_at_->setEnabled(known);
    if (known && !session_.dragging())
      corner_at_->show_value(100 * corner_shares(block()->made)[static_cast<std::size_t>(corner_->currentIndex())]);
    margin_->set_unit(session_.document().unit);
    margin_->show_value(r->fill.margin);
    return;
  }
  for (const auto& [rows, edge] : {std::pair{&top_, &r->top}, {&bottom_, &r->bottom}})
    if (edge->first.kind == ProfileKind::Guide)
      rows->guide->show_pieces(session_, *edge);
  const QString name = words_of(rails_words(*r));
  if (gallery_button_->text() != name || gallery_button_->icon().isNull()) {
    gallery_button_->setText(name);
    gallery_button_->setAccessibleName(tr("Gallery, now %1").arg(name));
  }
  if (!session_.dragging())
    gallery_button_->setIcon(rails_picture(session_, *r, gallery_button_->iconSize(), devicePixelRatioF()));
}

} // namespace frelm
