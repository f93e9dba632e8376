#include "app/cards/warp_parts.h"

#include "app/canvas/handles.h"
#include "app/cards/gallery.h"
#include "document/blocks.h"
#include "document/measure.h"
#include "lettering/block_edit.h"

#include <QHBoxLayout>

namespace frelm {
namespace {

constexpr std::size_t most_heights = 12; // listed one by one

QLabel* note() {
  auto* label = new QLabel;
  label->setObjectName("muted");
  label->setWordWrap(true);
  return label;
}

const RailsBend* rails_of(const Session& session) {
  const Piece* piece = session.selected();
  return piece != nullptr && piece->lettering() != nullptr ? &piece->lettering()->recipe.bend.rails : nullptr;
}

// Names and ids of pieces into a combo box; gives the ids.
std::vector<PieceId> fill_pieces(QComboBox* box, const Session& session, const GuideRef& ref, bool closed,
                                 const QString& own) {
  const Document& document = session.document();
  std::vector<PieceId> ids;
  QStringList names;
  int current = -1;
  for (const auto& p : document.pieces) {
    if (p->lettering() != nullptr)
      continue;
    const auto line = session.evaluator().guide(document, p->id);
    if (!line || (*line)->curve->closed() != closed)
      continue;
    if (p->id == ref.guide)
      current = static_cast<int>(ids.size());
    ids.push_back(p->id);
    names << QString::fromStdString(display_name(document, *p));
  }
  if (current < 0) {
    current = static_cast<int>(ids.size());
    ids.push_back(0);
    names << (ref.own ? own : QObject::tr("None yet"));
  }
  QStringList shown;
  for (int i = 0; i < box->count(); ++i)
    shown << box->itemText(i);
  if (shown != names) {
    box->clear();
    box->addItems(names);
  }
  box->setCurrentIndex(current);
  return ids;
}

// Would this edit of the selected piece's bend fold its letters over, which they don't do now? Then it is refused, in
// words; empty: it is good.
QString refusal(const Session& session, const std::function<void(Bend&)>& change) {
  const Piece* piece = session.selected();
  const Result<PieceResult>& now = session.seated(piece->id);
  if (!now || now->bent == nullptr || now->bent->report.folds > 0)
    return {};
  const Document changed = edit_piece(session.document(), piece->id, [&](Piece& p) {
    if (p.lettering() != nullptr)
      change(p.lettering()->recipe.bend);
  });
  const Result<PieceResult> then = session.evaluator().seat_now(changed, piece->id);
  if (!then || then->bent == nullptr || then->bent->report.folds == 0)
    return {};
  const Point at = then->bent->report.fold_box.centre();
  const Unit unit = session.document().unit;
  return QObject::tr("The letters would fold over at x %1, y %2 %3; bend less there")
      .arg(QString::fromStdString(format_length(std::round(at.x * 10) / 10, unit)),
           QString::fromStdString(format_length(std::round(at.y * 10) / 10, unit)), unit_name(unit));
}

QWidget* in_row(std::initializer_list<std::pair<QWidget*, int>> fields) {
  auto* box = new QWidget;
  auto* line = new QHBoxLayout(box);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  for (const auto& [w, stretch] : fields) {
    line->addWidget(w, stretch);
    w->setProperty("rowBox", QVariant::fromValue<QObject*>(box));
  }
  return box;
}

} // namespace

RailsPart::RailsPart(Session& session, QWidget* parent)
    : Card(0, {}, session, parent), into_(new ChoiceRow(tr("Rails"), {tr("Between edges"), tr("Fill a shape")})),
      link_(new ChoiceRow(tr("Bottom edge"), {tr("Own"), tr("Same"), tr("Mirrored")})),
      depth_in_(new ChoiceRow(tr("Depth in"), {tr("%"), tr("mm")})),
      verticals_(new ChoiceRow(tr("Verticals"), {tr("Follow"), tr("Kept")})),
      height_(new ChoiceRow(tr("Height"), {tr("Stretched"), tr("Natural")})), gallery_button_(new QToolButton),
      gallery_(new Gallery(session, this)),
      taper_along_(new MeasureField(MeasureKind::Percent, tr("Taper of the ends"))),
      taper_across_(new MeasureField(MeasureKind::Percent, tr("Taper of the sides"))), shape_(new QComboBox),
      pick_(new QPushButton(tr("Pick…"))), find_corners_(new QPushButton(tr("Find again"))), corners_(note()),
      margin_(length_field(tr("Margin of the shape"), 0)), corner_(new QComboBox),
      corner_at_(new MeasureField(MeasureKind::Percent, tr("Place of the corner"))) {
  embed();
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
  shape_->setAccessibleName(tr("Shape to fill"));
  shape_->setMinimumContentsLength(8);
  shape_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  pick_->setToolTip(tr("Click a closed line on the sheet, or a space that several lines enclose"));
  add_row(tr("Shape"), in_row({{shape_, 1}, {pick_, 0}}));
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

  connect(into_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(i == 0 ? tr("Bend between edges") : tr("Fill a shape"), false,
               [&](RailsBend& r) { r.into = static_cast<RailsInto>(i); });
    if (const RailsBend* r = rails_of(session_); i == 1 && r != nullptr && r->fill.guide == 0 && !r->fill.own)
      emit pick_shape();
  });
  connect(gallery_button_, &QToolButton::clicked, this, &RailsPart::open_gallery);
  connect(gallery_, &Gallery::chosen, this, [this](int i) {
    const RailsBend chosen = gallery_->bends()[static_cast<std::size_t>(i)];
    edit_rails(QString::fromStdString(rails_name(chosen)), false, [&](RailsBend& r) {
      const double height = [&] {
        const Result<PieceResult>& now = session_.seated(session_.selected()->id);
        return now && now->bent != nullptr ? now->bent->made.block.height() : 0;
      }();
      const auto depth = [&](RailProfile p) { // the gallery's depths are in %
        if (r.depth_in == DepthIn::Millimetre && height > 0)
          p.depth = std::round(p.depth * height / 100 * 2) / 2;
        return p;
      };
      r.top = {{}, depth(chosen.top.first), depth(chosen.top.plus)};
      r.bottom = {{}, depth(chosen.bottom.first), depth(chosen.bottom.plus)};
      r.link = chosen.link;
    });
  });
  connect(link_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the bottom edge"), false, [&](RailsBend& r) {
      const EdgeLink link = static_cast<EdgeLink>(i);
      if (link == EdgeLink::Free && r.link != EdgeLink::Free) { // it stays as it is, and is its own from now on
        const EdgeLink was = r.link;
        r.bottom = r.top;
        if (was == EdgeLink::Mirrored)
          for (RailProfile* p : {&r.bottom.first, &r.bottom.plus}) {
            if (p->kind == ProfileKind::Arch || p->kind == ProfileKind::Dip)
              p->kind = p->kind == ProfileKind::Arch ? ProfileKind::Dip : ProfileKind::Arch;
            else
              p->depth = -p->depth;
          }
      }
      r.link = link;
    });
  });
  connect(depth_in_, &ChoiceRow::chosen, this, [this](int i) {
    const Piece* piece = session_.selected();
    const Result<PieceResult>& now = session_.seated(piece != nullptr ? piece->id : 0);
    const double height = now && now->bent != nullptr ? now->bent->made.block.height() * now->bent->made.scale : 0;
    edit_rails(tr("Change the unit of depths"), false, [&](RailsBend& r) {
      if (static_cast<int>(r.depth_in) == i || !(height > 0))
        return;
      const double k = i == 1 ? height / 100 : 100 / height;
      for (RailEdge* e : {&r.top, &r.bottom})
        e->first.depth *= k, e->plus.depth *= k;
      r.depth_in = static_cast<DepthIn>(i);
    });
  });
  connect(verticals_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change verticals"), false, [&](RailsBend& r) { r.verticals = static_cast<Verticals>(i); });
  });
  connect(taper_along_, &MeasureField::edited, this,
          [this](double v, bool s) { edit_rails(tr("Taper the ends"), s, [&](RailsBend& r) { r.taper_along = v; }); });
  connect(taper_across_, &MeasureField::edited, this, [this](double v, bool s) {
    edit_rails(tr("Taper the sides"), s, [&](RailsBend& r) { r.taper_across = v; });
  });
  connect(shape_, &QComboBox::activated, this, [this](int i) {
    const Piece* piece = session_.selected();
    const auto at = static_cast<std::size_t>(i);
    if (piece != nullptr && at < shapes_.size() && shapes_[at] != 0)
      session_.apply(tr("Fill another shape"), fill_into(session_.document(), piece->id, shapes_[at]));
  });
  connect(pick_, &QPushButton::clicked, this, &RailsPart::pick_shape);
  connect(height_, &ChoiceRow::chosen, this, [this](int i) {
    edit_rails(tr("Change the filling height"), false,
               [&](RailsBend& r) { r.fill.height = static_cast<FillHeight>(i); });
  });
  connect(find_corners_, &QPushButton::clicked, this,
          [this] { edit_rails(tr("Find corners again"), false, [](RailsBend& r) { r.fill.corners.reset(); }); });
}

EdgeRows RailsPart::build_edge(bool bottom) {
  const QString name = bottom ? tr("Bottom edge") : tr("Top edge");
  EdgeRows e{};
  QStringList kinds;
  for (int k = 0; k <= static_cast<int>(ProfileKind::Guide); ++k)
    kinds << tr(profile_name(static_cast<ProfileKind>(k)));
  e.kind = new QComboBox, e.plus = new QComboBox, e.guide = new QComboBox;
  e.kind->addItems(kinds);
  e.kind->setAccessibleName(name);
  kinds.removeLast();
  kinds.front() = tr("nothing");
  e.plus->addItems(kinds);
  e.plus->setAccessibleName(tr("%1, added to it").arg(name));
  e.plus->setToolTip(tr("A second profile on top of the first"));
  e.guide->setAccessibleName(tr("%1, guide").arg(name));
  for (QComboBox* box : {e.kind, e.plus, e.guide}) {
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
      const RailsBend* r = rails_of(session_);
      if (r == nullptr)
        return;
      const bool plus = (bottom ? r->bottom : r->top).first.kind != kind;
      edit_profile(bottom, plus, step, s, [&](RailProfile& p) { p.*member = v; });
    };
  };
  connect(e.periods, &MeasureField::edited, this,
          detail(tr("Change periods"), ProfileKind::Wave, &RailProfile::periods));
  connect(e.phase, &MeasureField::edited, this, detail(tr("Change phase"), ProfileKind::Wave, &RailProfile::phase));
  connect(e.place, &MeasureField::edited, this, detail(tr("Move the peak"), ProfileKind::Peak, &RailProfile::phase));
  connect(e.guide, &QComboBox::activated, this, [this, bottom](int i) {
    const auto at = static_cast<std::size_t>(i);
    if (at < lines_.size() && lines_[at] != 0)
      edit_rails(tr("Change the edge's guide"), false, [&](RailsBend& r) {
        RailEdge& edge = bottom ? r.bottom : r.top;
        edge.guide = lines_[at];
        edge.own.reset();
      });
  });
  return e;
}

void RailsPart::edit_rails(const QString& name, bool stepped, const std::function<void(RailsBend&)>& change) {
  if (session_.selected() == nullptr)
    return;
  if (const QString fault = refusal(session_, [&](Bend& b) { change(b.rails); }); !fault.isEmpty()) {
    emit problem(fault);
    refresh();
    return;
  }
  edit(name, stepped, [&](Piece& p) {
    if (p.lettering() != nullptr)
      change(p.lettering()->recipe.bend.rails);
  });
}

void RailsPart::edit_profile(bool bottom, bool plus, const QString& name, bool stepped,
                             const std::function<void(RailProfile&)>& change) {
  edit_rails(name, stepped, [&](RailsBend& r) {
    RailEdge& edge = bottom ? r.bottom : r.top;
    change(plus ? edge.plus : edge.first);
  });
}

void RailsPart::choose_profile(bool bottom, bool plus, ProfileKind kind) {
  const RailsBend* now = rails_of(session_);
  if (now == nullptr)
    return;
  // The first open line there is, for an edge that has none yet.
  PieceId line = 0;
  if (kind == ProfileKind::Guide) {
    for (const PieceId id : lines_)
      if (id != 0 && id != (bottom ? now->top : now->bottom).guide && line == 0)
        line = id;
    for (const PieceId id : lines_)
      line = line == 0 ? id : line;
    if (line == 0 && (bottom ? now->bottom : now->top).guide == 0) {
      emit problem(tr("Draw an open guide first (3); then the edge can follow it"));
      refresh();
      return;
    }
  }
  edit_rails(tr("Change profile"), false, [&](RailsBend& r) {
    RailEdge& edge = bottom ? r.bottom : r.top;
    RailProfile& p = plus ? edge.plus : edge.first;
    p.kind = kind;
    if (kind == ProfileKind::Guide && edge.guide == 0)
      edge.guide = line;
    if (kind == ProfileKind::Wave)
      p.phase = 0;
    if (kind == ProfileKind::Peak)
      p.phase = 0;
  });
}

void RailsPart::set_corner(double percent, bool stepped) {
  const Piece* piece = session_.selected();
  const Result<PieceResult>& now = session_.seated(piece != nullptr ? piece->id : 0);
  if (!now || now->bent == nullptr || !now->bent->made.target)
    return;
  std::array<double, 4> corners = corner_shares(now->bent->made);
  corners[static_cast<std::size_t>(corner_->currentIndex())] = percent / 100;
  if (!corners_in_order(corners)) {
    emit problem(tr("Corners keep their order around the shape; type a place between its neighbours"));
    refresh();
    return;
  }
  edit_rails(tr("Move a corner"), stepped, [&](RailsBend& r) { r.fill.corners = corners; });
}

void RailsPart::open_gallery() {
  gallery_->open_at(gallery_button_);
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
  const Piece* piece = session_.selected();
  const RailsBend* r = rails_of(session_);
  if (r == nullptr)
    return;
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
  for (QWidget* w : {static_cast<QWidget*>(shape_), static_cast<QWidget*>(height_), static_cast<QWidget*>(margin_),
                     static_cast<QWidget*>(corners_), static_cast<QWidget*>(corner_)})
    show_row(w, fill);
  show_edge(top_, r->top, !fill, r->depth_in);
  show_edge(bottom_, r->bottom, !fill && r->link == EdgeLink::Free, r->depth_in);
  depth_in_->set_word(1, unit_name(session_.document().unit));
  depth_in_->show_choice(static_cast<int>(r->depth_in));
  link_->show_choice(static_cast<int>(r->link));
  verticals_->show_choice(static_cast<int>(r->verticals));
  taper_along_->show_value(r->taper_along);
  taper_across_->show_value(r->taper_across);
  if (fill) {
    shapes_ = fill_pieces(shape_, session_, r->fill, true, tr("Own copy of a shape"));
    height_->show_choice(static_cast<int>(r->fill.height));
    corners_->setText(r->fill.corners ? tr("moved by hand") : tr("found; drag them"));
    find_corners_->setEnabled(r->fill.corners.has_value());
    const Result<PieceResult>& now = session_.seated(piece->id);
    const bool known = now && now->bent != nullptr && now->bent->made.target.has_value();
    corner_at_->setEnabled(known);
    if (known)
      corner_at_->show_value(100 * corner_shares(now->bent->made)[static_cast<std::size_t>(corner_->currentIndex())]);
    margin_->set_unit(session_.document().unit);
    margin_->show_value(r->fill.margin);
    return;
  }
  if (r->top.first.kind == ProfileKind::Guide || r->bottom.first.kind == ProfileKind::Guide || lines_.empty()) {
    lines_ = fill_pieces(top_.guide, session_, r->top, false, tr("Own copy of a guide"));
    const std::vector<PieceId> below =
        fill_pieces(bottom_.guide, session_, r->bottom, false, tr("Own copy of a guide"));
    lines_ = lines_.size() >= below.size() ? lines_ : below;
  }
  const QString name = QString::fromStdString(rails_name(*r));
  if (gallery_button_->text() != name || gallery_button_->icon().isNull()) {
    gallery_button_->setText(name);
    gallery_button_->setAccessibleName(tr("Gallery, now %1").arg(name));
  }
  if (!session_.dragging() && piece != nullptr)
    gallery_button_->setIcon(rails_picture(session_, *r, gallery_button_->iconSize(), devicePixelRatioF()));
}

NetPart::NetPart(Session& session, QWidget* parent)
    : Card(0, {}, session, parent), over_(new QLabel), columns_(new QLabel), rows_count_(new QLabel), note_(note()),
      straight_row_(new QPushButton(tr("Row"))), straight_column_(new QPushButton(tr("Column"))),
      even_row_(new QPushButton(tr("Row"))), even_column_(new QPushButton(tr("Column"))),
      reset_(new QPushButton(tr("All back"))), mirror_(new QCheckBox(tr("Mirror left and right"))), peg_(new QLabel),
      x_(length_field(tr("Peg, x"))), y_(length_field(tr("Peg, y"))) {
  embed();
  add_row(tr("Over"), over_);
  for (const NetLine line : {NetLine::Column, NetLine::Row}) {
    const bool column = line == NetLine::Column;
    auto *fewer = new QToolButton, *more = new QToolButton;
    fewer->setText("−"), more->setText("+");
    fewer->setAccessibleName(column ? tr("One column less") : tr("One row less"));
    more->setAccessibleName(column ? tr("One column more") : tr("One row more"));
    fewer->setToolTip(tr("Takes the line out that says least; what changes is told"));
    more->setToolTip(tr("Halves the widest cell; nothing changes"));
    QLabel* count = column ? columns_ : rows_count_;
    count->setAlignment(Qt::AlignCenter);
    for (QToolButton* b : {fewer, more}) {
      b->setFocusPolicy(Qt::StrongFocus);
      b->setMinimumWidth(fontMetrics().height() * 2);
    }
    connect(fewer, &QToolButton::clicked, this, [this, line] { change_lines(line, false); });
    connect(more, &QToolButton::clicked, this, [this, line] { change_lines(line, true); });
    add_row(column ? tr("Columns") : tr("Rows"), in_row({{fewer, 0}, {count, 1}, {more, 0}}));
    steps_.push_back(fewer);
    steps_.push_back(more);
  }
  mirror_->setToolTip(tr("What is pulled on one side of the middle is pulled on the other side too"));
  add_wide(mirror_);
  auto *back = new QToolButton, *on = new QToolButton;
  back->setText("‹"), on->setText("›");
  back->setAccessibleName(tr("Peg before"));
  on->setAccessibleName(tr("Next peg"));
  for (QToolButton* b : {back, on})
    b->setFocusPolicy(Qt::StrongFocus);
  peg_->setAlignment(Qt::AlignCenter);
  add_row(tr("Peg"), in_row({{back, 0}, {peg_, 1}, {on, 0}}));
  add_row(tr("Place"), {x_, y_});
  straight_row_->setToolTip(tr("The chosen peg's row onto the line between its ends"));
  straight_column_->setToolTip(tr("The chosen peg's column onto the line between its ends"));
  add_row(tr("Straighten"), {straight_row_, straight_column_});
  even_row_->setToolTip(tr("Pegs of the row spaced as the columns are"));
  even_column_->setToolTip(tr("Pegs of the column spaced as the rows are"));
  add_row(tr("Even out"), {even_row_, even_column_});
  add_row(tr("Pegs"), reset_);
  reset_->setToolTip(tr("The bend as it was before the net"));
  add_wide(note_);
  connect(mirror_, &QCheckBox::clicked, this, [this](bool on_now) {
    edit_net(on_now ? tr("Mirror pulls") : tr("Pull one side"), [&](NetBend& n) { n.mirror = on_now; });
  });
  connect(back, &QToolButton::clicked, this, [this] { step_peg(-1); });
  connect(on, &QToolButton::clicked, this, [this] { step_peg(1); });
  connect(x_, &MeasureField::edited, this, [this](double v, bool s) { move_peg(v, {}, s); });
  connect(y_, &MeasureField::edited, this, [this](double v, bool s) { move_peg({}, v, s); });
  connect(straight_row_, &QPushButton::clicked, this, [this] { on_line(NetLine::Row, true); });
  connect(straight_column_, &QPushButton::clicked, this, [this] { on_line(NetLine::Column, true); });
  connect(even_row_, &QPushButton::clicked, this, [this] { on_line(NetLine::Row, false); });
  connect(even_column_, &QPushButton::clicked, this, [this] { on_line(NetLine::Column, false); });
  connect(reset_, &QPushButton::clicked, this, [this] {
    edit_net(tr("Take pegs back"),
             [](NetBend& n) { n.net = flat_net(n.net.columns.size() - 1, n.net.rows.size() - 1); });
  });
}

std::vector<std::size_t> NetPart::chosen() const {
  return chosen_pegs(session_);
}

void NetPart::edit_net(const QString& name, const std::function<void(NetBend&)>& change, const std::string& key) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  if (const QString fault = refusal(session_, [&](Bend& b) { change(b.net); }); !fault.isEmpty()) {
    emit problem(fault);
    refresh();
    return;
  }
  session_.edit(
      name, piece->id, [&](Piece& p) { change(p.lettering()->recipe.bend.net); }, key);
}

void NetPart::change_lines(NetLine line, bool more) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const NetBend net = piece->lettering()->recipe.bend.net;
  const bool column = line == NetLine::Column;
  removed_.clear();
  session_.choose_nodes({});
  if (more) {
    edit_net(column ? tr("Add a column") : tr("Add a row"), [&](NetBend& n) {
      const double at = widest_middle(n.net, line);
      n.net = with_line(n.net, line, at);
      if (column && n.mirror)
        n.net = with_line(n.net, line, 1 - at);
    });
    return;
  }
  const std::optional<NetRemoval> less = without_line(net.net, line);
  if (!less)
    return;
  const Unit unit = session_.document().unit;
  removed_ =
      tr("Taken out: changed by at most %1 %2.")
          .arg(QString::fromStdString(format_length(std::round(less->largest * 100) / 100, unit)), unit_name(unit));
  removed_of_ = piece->id;
  edit_net(column ? tr("Take a column out") : tr("Take a row out"), [&](NetBend& n) { n.net = less->net; });
}

void NetPart::on_line(NetLine line, bool straight) {
  const Piece* piece = session_.selected();
  const std::vector<std::size_t> pegs = chosen();
  const Result<PieceResult>& now = session_.seated(piece != nullptr ? piece->id : 0);
  if (piece == nullptr || pegs.empty() || !now || now->bent == nullptr)
    return;
  const Lettering& l = *piece->lettering();
  const Result<Bend> changed = with_net_line(l.recipe.bend, now->bent->made, l.placement, pegs.back(), line, straight);
  if (!changed)
    return;
  const QString name = straight ? (line == NetLine::Row ? tr("Straighten row") : tr("Straighten column"))
                                : (line == NetLine::Row ? tr("Even out row") : tr("Even out column"));
  removed_.clear();
  edit_net(name, [&](NetBend& n) { n.net = changed->net.net; });
}

void NetPart::step_peg(int by) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const auto count = static_cast<int>(piece->lettering()->recipe.bend.net.net.pegs.size());
  const std::vector<std::size_t> pegs = chosen();
  const int at = pegs.empty() ? (by > 0 ? 0 : count - 1) : (static_cast<int>(pegs.back()) + by + count) % count;
  session_.choose_nodes({{0, static_cast<std::size_t>(at)}});
}

std::optional<Point> NetPart::peg_place(std::size_t peg) const {
  const Piece* piece = session_.selected();
  const Result<PieceResult>& now = session_.seated(piece->id);
  if (now && now->bent != nullptr)
    for (const BlockHandle& h :
         block_handles(piece->lettering()->recipe.bend, now->bent->made, piece->lettering()->placement, {}))
      if (h.kind == BlockHandleKind::Peg && h.index == peg)
        return h.at;
  return std::nullopt;
}

void NetPart::move_peg(std::optional<double> x, std::optional<double> y, bool stepped) {
  const Piece* piece = session_.selected();
  const std::vector<std::size_t> pegs = chosen();
  if (piece == nullptr || pegs.empty())
    return;
  const Lettering& l = *piece->lettering();
  const std::optional<Point> now = peg_place(pegs.back());
  if (!now)
    return;
  const Vec by{x ? *x - now->x : 0, y ? *y - now->y : 0};
  const Bend bend = with_pegs_moved(l.recipe.bend, l.placement, pegs, by);
  edit_net(
      tr("Move peg"), [&](NetBend& n) { n.net = bend.net.net; }, stepped ? "step peg" : "");
}

void NetPart::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const NetBend& n = piece->lettering()->recipe.bend.net;
  const QString names[]{tr("Straight"), tr("Arc"), tr("Guide"),
                        QString::fromStdString(rails_name(piece->lettering()->recipe.bend.rails))};
  over_->setText(names[static_cast<int>(n.base)]);
  over_->setToolTip(tr("The bend that the net was started from; it can still be changed there"));
  columns_->setText(QString::number(n.net.columns.size() - 1));
  rows_count_->setText(QString::number(n.net.rows.size() - 1));
  steps_[0]->setEnabled(n.net.columns.size() > 2);
  steps_[2]->setEnabled(n.net.rows.size() > 2);
  mirror_->setChecked(n.mirror);
  const std::vector<std::size_t> pegs = chosen();
  const Unit unit = session_.document().unit;
  const Result<PieceResult>& now = session_.seated(piece->id);
  const bool one = !pegs.empty() && now && now->bent != nullptr;
  for (MeasureField* f : {x_, y_}) {
    f->set_unit(unit);
    f->setEnabled(one);
  }
  for (QPushButton* b : {straight_row_, straight_column_, even_row_, even_column_})
    b->setEnabled(one);
  reset_->setEnabled(std::any_of(n.net.pegs.begin(), n.net.pegs.end(), [](const NetPeg& p) { return p != NetPeg{}; }));
  peg_->setText(pegs.empty()      ? tr("none")
                : pegs.size() > 1 ? tr("%1 chosen").arg(pegs.size())
                                  : tr("%1 of %2").arg(pegs.back() + 1).arg(n.net.pegs.size()));
  if (const std::optional<Point> at = one ? peg_place(pegs.back()) : std::nullopt) {
    x_->show_value(at->x);
    y_->show_value(at->y);
  }
  note_->setText(removed_of_ == piece->id && !removed_.isEmpty() ? removed_
                 : pegs.empty()
                     ? tr("Pull the pegs on the sheet; a click chooses one, Shift adds more.")
                     : tr("%1 of %2 pegs chosen; arrows move them.").arg(pegs.size()).arg(n.net.pegs.size()));
}

StrokesPart::StrokesPart(Session& session, QWidget* parent)
    : Card(0, {}, session, parent), numbers_(note()), least_(length_field(tr("Thinnest stroke that can be cut"), 0)) {
  embed();
  least_->set_step(0.1);
  least_->setToolTip(tr("Strokes that the bend makes thinner than this are told in the Cut check; 0 asks for nothing"));
  add_row(tr("Least stroke"), least_);
  add_wide(numbers_);
  connect(least_, &MeasureField::edited, this, [this](double v, bool s) {
    edit(tr("Change the least stroke"), s, [&](Piece& p) {
      if (p.lettering() != nullptr)
        p.lettering()->recipe.bend.least_stroke = v;
    });
  });
}

void StrokesPart::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  const Unit unit = session_.document().unit;
  least_->set_unit(unit);
  least_->show_value(piece->lettering()->recipe.bend.least_stroke);
  const Result<PieceResult>& now = session_.seated(piece->id);
  if (!now || now->bent == nullptr) {
    numbers_->setText(now ? QString() : QString::fromStdString(now.error().text()));
    return;
  }
  const BentBlock& b = *now->bent;
  QString text = tr("Strokes %1 to %2 % of the straight ones, sheared by up to %3°.")
                     .arg(std::lround(100 * b.stretch.narrowest))
                     .arg(std::lround(100 * b.stretch.widest))
                     .arg(degrees(b.stretch.steepest_shear), 0, 'f', 0);
  if (b.heights.size() > 1) {
    const auto [low, high] = std::minmax_element(b.heights.begin(), b.heights.end());
    const auto mm = [&](double v) { return QString::fromStdString(format_length(std::round(v * 10) / 10, unit)); };
    if (b.heights.size() <= most_heights) {
      QStringList all;
      for (const double v : b.heights)
        all << mm(v);
      text += " " + tr("Heights from left to right: %1 %2.").arg(all.join(", "), unit_name(unit));
    } else {
      text += " " + tr("Letters %1 to %2 %3 high; first %4, last %5.")
                        .arg(mm(*low), mm(*high), unit_name(unit), mm(b.heights.front()), mm(b.heights.back()));
    }
  }
  if (!b.sketch)
    text += " " + tr("%1 nodes, %2 before.").arg(b.report.nodes_out).arg(b.report.nodes_in);
  if (b.report.folds > 0)
    text += " " + tr("The letters fold over: undo, or bend less.");
  numbers_->setText(text);
}

} // namespace frelm
