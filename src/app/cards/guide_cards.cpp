#include "app/cards/guide_cards.h"
#include "app/style/words.h"

#include "app/canvas/handles.h"
#include "app/style/scheme.h"
#include "document/measure.h"
#include "document/outline_edits.h"

namespace frelm {
namespace {

struct KindTile {
  std::size_t kind;
  const char* word;
  const char* icon;
  const char* how;
};
template <class Shape> constexpr std::size_t kind_of() {
  return GuideShape(Shape{}).index();
}
// In the order of the tiles.
const std::vector<KindTile>& tiles() {
  static const std::vector<KindTile> list{
      {kind_of<LineGuide>(), QT_TRANSLATE_NOOP("guide", "Line"), "guide-line",
       QT_TRANSLATE_NOOP("guide", "Drag from end to end; Shift keeps to steps of 15°.")},
      {kind_of<ArcGuide>(), QT_TRANSLATE_NOOP("guide", "Arc"), "guide-arc",
       QT_TRANSLATE_NOOP("guide", "Drag from end to end, then pull and click: the arc goes through the hand.")},
      {kind_of<CircleGuide>(), QT_TRANSLATE_NOOP("guide", "Circle"), "guide-circle",
       QT_TRANSLATE_NOOP("guide", "Drag from the centre outwards.")},
      {kind_of<BandGuide>(), QT_TRANSLATE_NOOP("guide", "Band"), "guide-band",
       QT_TRANSLATE_NOOP("guide",
                         "Drag from the centre outwards: the room between two circles; as a shape it is a ring.")},
      {kind_of<EllipseGuide>(), QT_TRANSLATE_NOOP("guide", "Ellipse"), "guide-ellipse",
       QT_TRANSLATE_NOOP("guide", "Drag from corner to corner.")},
      {kind_of<SpiralGuide>(), QT_TRANSLATE_NOOP("guide", "Spiral"), "guide-spiral",
       QT_TRANSLATE_NOOP("guide", "Drag from the centre outwards.")},
      {kind_of<FrameGuide>(), QT_TRANSLATE_NOOP("guide", "Frame"), "guide-frame",
       QT_TRANSLATE_NOOP("guide", "Drag from corner to corner; round it off in its card.")},
      {kind_of<PlateGuide>(), QT_TRANSLATE_NOOP("guide", "Plate"), "guide-plate",
       QT_TRANSLATE_NOOP("guide", "Drag from corner to corner: a plate with screw holes.")},
      {kind_of<RibbonGuide>(), QT_TRANSLATE_NOOP("guide", "Ribbon"), "guide-ribbon",
       QT_TRANSLATE_NOOP("guide", "Drag from end to end, or click a line to lay one along it.")},
      {kind_of<PolygonGuide>(), QT_TRANSLATE_NOOP("guide", "Polygon"), "guide-polygon",
       QT_TRANSLATE_NOOP("guide", "Drag from the centre to a corner.")},
      {kind_of<StarGuide>(), QT_TRANSLATE_NOOP("guide", "Star"), "guide-star",
       QT_TRANSLATE_NOOP("guide", "Drag from the centre to a point.")},
      {kind_of<HeartGuide>(), QT_TRANSLATE_NOOP("guide", "Heart"), "guide-heart",
       QT_TRANSLATE_NOOP("guide", "Drag from corner to corner.")},
      {kind_of<FreehandGuide>(), QT_TRANSLATE_NOOP("guide", "Freehand"), "guide-freehand",
       QT_TRANSLATE_NOOP("guide", "Draw a stroke; its smoothing can be changed later.")},
      {kind_of<PathGuide>(), QT_TRANSLATE_NOOP("guide", "Pen"), "guide-pen",
       QT_TRANSLATE_NOOP("guide",
                         "Click for corners, drag for smooth nodes; double click ends, the first node closes.")},
      {kind_of<OutlineGuide>(), QT_TRANSLATE_NOOP("guide", "Edge"), "guide-edge",
       QT_TRANSLATE_NOOP("guide", "Click an edge of an outline; the guide follows it.")},
      {kind_of<MidwayGuide>(), QT_TRANSLATE_NOOP("guide", "Midway"), "guide-midway",
       QT_TRANSLATE_NOOP("guide", "Click two circles, one within the other.")},
  };
  return list;
}

} // namespace

GuideCard::GuideCard(Session& session, QWidget* parent)
    : Card(0, tr("Guide"), session, parent), use_(new ChoiceRow(tr("Use"), {tr("Guide"), tr("Shape")})),
      winding_(new ChoiceRow(tr("Winding"), {tr("Clockwise"), tr("Other way")})),
      form_(new ChoiceRow(tr("Form"), {tr("Rectangle"), tr("Ellipse")})),
      holes_(new ChoiceRow(tr("Screw holes"), {tr("None"), tr("Two"), tr("Four")})),
      ends_(new ChoiceRow(tr("Ends"), {tr("Straight"), tr("Swallow tail")})), closed_(new QCheckBox(tr("Closed"))),
      folds_(new QCheckBox(tr("Folded behind, with tails"))), used_(note_label()),
      nodes_(new QPushButton(tr("Edit nodes"))), reverse_(new QPushButton(tr("Reverse"))), words_(new QLineEdit),
      steps_(new FinishPart(session)) {
  auto* letter = new QPushButton(tr("Letter it"));
  words_->setPlaceholderText(tr("Words to ride on it"));
  words_->setAccessibleName(tr("Words to ride on this guide"));
  letter->setToolTip(tr("A new lettering on this guide (Return)"));
  take_words(words_, letter, [this](const QString& words) { emit letter_it(words); });
  add_wide(in_row({{words_, 1}, {letter, 0}}));
  nodes_->setToolTip(tr("Pull its nodes with the Nodes tool (4); the first pull makes it a pen curve"));
  reverse_->setToolTip(tr("Its start and end change places; letters keep to their side"));
  use_->button(0)->setToolTip(tr("Letters ride on it; it is never cut"));
  use_->button(1)->setToolTip(tr("It is cut, and stays a shape with its measures"));
  connect(use_, &ChoiceRow::chosen, this, [this](int i) {
    edit(i == 0 ? tr("Use as a guide") : tr("Use as a shape"), false,
         [&](Piece& p) { p.destination = i == 0 ? Destination::Guide : Destination::Knife; });
  });
  const auto change = [this]<class Shape>(const QString& name, const std::function<void(Shape&)>& to) {
    edit_shape(name, false, [&](GuideShape& s) {
      if (auto* g = std::get_if<Shape>(&s))
        to(*g);
    });
  };
  connect(winding_, &ChoiceRow::chosen, this, [change](int i) {
    change.operator()<SpiralGuide>(tr("Change winding"), [i](SpiralGuide& g) { g.winding = static_cast<Winding>(i); });
  });
  connect(form_, &ChoiceRow::chosen, this, [change](int i) {
    change.operator()<PlateGuide>(tr("Change the plate"), [i](PlateGuide& g) { g.form = static_cast<PlateForm>(i); });
  });
  connect(holes_, &ChoiceRow::chosen, this, [change](int i) {
    change.operator()<PlateGuide>(tr("Change the screw holes"),
                                  [i](PlateGuide& g) { g.holes = static_cast<PlateHoles>(i); });
  });
  connect(ends_, &ChoiceRow::chosen, this, [change](int i) {
    change.operator()<RibbonGuide>(tr("Change the ends"),
                                   [i](RibbonGuide& g) { g.cut.end = static_cast<RibbonEnd>(i); });
  });
  connect(folds_, &QCheckBox::clicked, this, [change](bool on) {
    change.operator()<RibbonGuide>(on ? tr("Fold the ribbon") : tr("Unfold the ribbon"),
                                   [on](RibbonGuide& g) { g.cut.folds = on; });
  });
  connect(closed_, &QCheckBox::clicked, this, [change](bool on) {
    change.operator()<FreehandGuide>(tr("Close stroke"), [on](FreehandGuide& g) { g.closed = on; });
  });
  connect(nodes_, &QPushButton::clicked, this, &GuideCard::edit_nodes);
  connect(reverse_, &QPushButton::clicked, this,
          [this] { edit_shape(tr("Reverse guide"), false, [](GuideShape& s) { s = reversed(s); }); });
  auto* box = new QWidget;
  measures_ = new QGridLayout(box);
  measures_->setContentsMargins(0, 0, 0, 0);
  measures_->setHorizontalSpacing(rows_->horizontalSpacing());
  measures_->setVerticalSpacing(rows_->verticalSpacing());
  measures_->setColumnStretch(1, 1);
  add_row(tr("Use"), use_);
  add_wide(box);
  add_row(tr("Form"), form_);
  add_row(tr("Holes"), holes_);
  add_row(tr("Ends"), ends_);
  add_wide(folds_);
  add_wide(used_);
  add_row(tr("Winding"), winding_);
  add_wide(closed_);
  add_row(tr("Nodes"), {nodes_, reverse_});
  add_wide(steps_);
}

void GuideCard::restyle() {
  Card::restyle();
  steps_->restyle();
}

void GuideCard::edit_shape(const QString& name, bool stepped, const std::function<void(GuideShape&)>& change) {
  edit(name, stepped, [&](Piece& p) {
    if (p.guide() != nullptr)
      change(p.guide()->shape);
  });
}

const std::vector<MeasureField*>& GuideCard::fields_of(const GuideShape& shape) {
  auto [it, fresh] = fields_.try_emplace(shape.index());
  if (!fresh)
    return it->second;
  const std::vector<ShapeMeasure> measures = shape_measures(shape);
  for (std::size_t i = 0; i < measures.size(); ++i) {
    const ShapeMeasure& m = measures[i];
    const MeasureKind kind = m.kind == ShapeMeasureKind::Length  ? MeasureKind::Length
                             : m.kind == ShapeMeasureKind::Angle ? MeasureKind::Angle
                                                                 : MeasureKind::Count;
    auto* field = new MeasureField(kind, core_words(m.name));
    field->set_range(m.least, m.most);
    connect(field, &MeasureField::edited, this, [this, i, name = core_words(m.name)](double v, bool s) {
      edit_shape(tr("Change %1").arg(name.toLower()), s, [&](GuideShape& g) { g = with_measure(g, i, v); });
    });
    it->second.push_back(field);
  }
  std::swap(rows_, measures_); // rows of measures stand above the rest
  for (std::size_t i = 0; i < measures.size(); ++i) {
    const std::string_view name = measures[i].name;
    if (name.ends_with(" x")) { // places in one row
      add_row(name == "Centre x"  ? tr("Centre")
              : name == "Start x" ? tr("Start")
                                  : tr("End"),
              {it->second[i], it->second[i + 1]});
      ++i;
    } else {
      add_row(core_words(name), it->second[i]);
    }
  }
  std::swap(rows_, measures_);
  return it->second;
}

void GuideCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->guide() == nullptr)
    return;
  const GuideShape& shape = piece->guide()->shape;
  const Unit unit = session_.document().unit;
  fields_of(shape);
  for (const auto& [kind, fields] : fields_)
    for (MeasureField* f : fields)
      show_row(f, kind == shape.index());
  const std::vector<ShapeMeasure> measures = shape_measures(shape);
  const std::vector<MeasureField*>& fields = fields_of(shape);
  for (std::size_t i = 0; i < fields.size(); ++i) {
    if (measures[i].kind == ShapeMeasureKind::Length)
      fields[i]->set_unit(unit);
    fields[i]->show_value(measures[i].value);
  }
  const Result<PieceResult>& now = session_.seated(piece->id);
  use_->show_choice(piece->is_shape() ? 1 : 0);
  steps_->setVisible(piece->is_shape());
  steps_->refresh();
  const auto* ribbon = std::get_if<RibbonGuide>(&shape);
  const bool ends = ribbon != nullptr && now && !now->line->curve->closed();
  show_row(ends_, ends);
  folds_->setVisible(ends);
  if (ribbon != nullptr) {
    ends_->show_choice(static_cast<int>(ribbon->cut.end)), folds_->setChecked(ribbon->cut.folds);
    show_row(fields[1], ends && ribbon->cut.end == RibbonEnd::SwallowTail);
    for (std::size_t i = 2; i < fields.size(); ++i)
      show_row(fields[i], ends && ribbon->cut.folds);
  }
  const auto* plate = std::get_if<PlateGuide>(&shape);
  show_row(form_, plate != nullptr);
  show_row(holes_, plate != nullptr);
  if (plate != nullptr)
    form_->show_choice(static_cast<int>(plate->form)), holes_->show_choice(static_cast<int>(plate->holes));
  const auto* spiral = std::get_if<SpiralGuide>(&shape);
  show_row(winding_, spiral != nullptr);
  if (spiral != nullptr)
    winding_->show_choice(spiral->winding == Winding::Clockwise ? 0 : 1);
  const auto* stroke = std::get_if<FreehandGuide>(&shape);
  closed_->setVisible(stroke != nullptr);
  closed_->setChecked(stroke != nullptr && stroke->closed);
  reverse_->setVisible(!(reversed(shape) == shape));
  set_heading(piece->is_shape() ? tr("Shape") : tr("Guide"));
  QStringList riders;
  for (const PieceId id : riders_of(session_.shown(), piece->id))
    riders << piece_words(session_.shown(), *session_.shown().find(id));
  const bool closed = now && now->line->curve->closed();
  used_->setText(
      core_words(shape_name(shape)) + ". " +
      (!riders.isEmpty()    ? tr("Carries %1.").arg(riders.join(", "))
       : !piece->is_shape() ? tr("No letters ride on it.")
                            : QString()) +
      "\n" +
      (now ? (closed ? tr("Length around: %1 %2") : tr("Length: %1 %2"))
                 .arg(QString::fromStdString(format_length(now->line->curve->length(), unit)), unit_name(unit))
           : words_of(now.error())));
}

GuideKindCard::GuideKindCard(Session& session, QWidget* parent)
    : Card(0, tr("Draw a guide or shape"), session, parent),
      use_(new ChoiceRow(tr("Draw as"), {tr("Guide"), tr("Shape")})), how_(note_label()) {
  auto* grid_box = new QWidget;
  auto* grid = new QGridLayout(grid_box);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(3);
  int n = 0;
  for (const KindTile& tile : tiles()) {
    auto* b = new QToolButton;
    b->setObjectName("choice");
    b->setText(QCoreApplication::translate("guide", tile.word));
    b->setAccessibleName(tr("Guide kind: %1").arg(QCoreApplication::translate("guide", tile.word)));
    b->setToolTip(QCoreApplication::translate("guide", tile.how));
    b->setCheckable(true);
    b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    b->setIconSize(QSize(1, 1) * std::max(22, b->fontMetrics().height() * 5 / 4));
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    b->setFocusPolicy(Qt::StrongFocus);
    group_.addButton(b, static_cast<int>(tile.kind));
    grid->addWidget(b, n / 4, n % 4);
    ++n;
  }
  group_.setExclusive(true);
  connect(&group_, &QButtonGroup::idClicked, this, [this](int kind) { emit chosen(static_cast<std::size_t>(kind)); });
  add_wide(grid_box);
  use_->button(0)->setToolTip(tr("Letters ride on it; it is never cut"));
  use_->button(1)->setToolTip(tr("It is cut, and stays a shape with its measures"));
  connect(use_, &ChoiceRow::chosen, this,
          [this](int i) { session_.set_drawn_use(i == 0 ? GuideUse::Guide : GuideUse::Shape); });
  add_row(tr("Draw as"), use_);
  add_wide(how_);
  GuideKindCard::restyle();
}

void GuideKindCard::restyle() {
  Card::restyle();
  for (const KindTile& tile : tiles())
    if (auto* b = qobject_cast<QToolButton*>(group_.button(static_cast<int>(tile.kind))))
      b->setIcon(icon(tile.icon));
}

void GuideKindCard::show_kind(std::size_t kind) {
  use_->show_choice(always_shape(kind) || session_.drawn_use() == GuideUse::Shape ? 1 : 0);
  use_->setEnabled(!always_shape(kind));
  if (QAbstractButton* b = group_.button(static_cast<int>(kind)))
    b->setChecked(true);
  for (const KindTile& tile : tiles())
    if (tile.kind == kind)
      how_->setText(tr("%1 Places are caught; Ctrl lets go.").arg(QCoreApplication::translate("guide", tile.how)));
}

QString guide_kind_name(std::size_t kind) {
  for (const KindTile& tile : tiles())
    if (tile.kind == kind)
      return QCoreApplication::translate("guide", tile.word);
  return {};
}

QString node_command_name(NodeCommand command) {
  const QStringList names{QObject::tr("Add node"),   QObject::tr("Delete nodes"), QObject::tr("Corner"),
                          QObject::tr("Smooth"),     QObject::tr("Even"),         QObject::tr("Straight"),
                          QObject::tr("Curved"),     QObject::tr("Break"),        QObject::tr("Join ends"),
                          QObject::tr("Close line"), QObject::tr("Reverse line"), QObject::tr("Start here"),
                          QObject::tr("Sand"),       QObject::tr("One line")};
  return names[static_cast<int>(command)];
}

NodesCard::NodesCard(Session& session, QWidget* parent) : Card(0, tr("Nodes"), session, parent), about_(note_label()) {
  add_wide(about_);
  const auto button = [&](NodeCommand c, const QString& tip) {
    auto* b = new QPushButton(node_command_name(c));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, [this, c] { emit command(c); });
    buttons_[c] = b;
    return b;
  };
  add_row(tr("Node"), {button(NodeCommand::Corner, tr("Handles go their own ways")),
                       button(NodeCommand::Smooth, tr("Handles in one line")),
                       button(NodeCommand::Even, tr("Handles in one line and equally long"))});
  add_row(tr("Line"), {button(NodeCommand::Straight, tr("The stretch after each chosen node becomes a straight line")),
                       button(NodeCommand::Curved, tr("The stretch after each chosen node gets handles"))});
  add_row({},
          {button(NodeCommand::Stretch, tr("All between two chosen nodes becomes one straight line; nodes there go")),
           button(NodeCommand::Sand, tr("Evened out around the chosen nodes, with the Sand tool's brush"))});
  add_row(
      tr("Change"),
      {button(
           NodeCommand::Add,
           tr("A node in the middle of the stretch after each chosen one; a double click on the line adds one there")),
       button(NodeCommand::Delete, tr("The shape stays as near as it can (Delete)"))});
  add_row(tr("Ends"),
          {button(NodeCommand::Break, tr("The line opens at the node")),
           button(NodeCommand::Join, tr("Two chosen ends become one node; so does dragging one onto the other"))});
  add_row({}, {button(NodeCommand::Close, tr("A straight stretch from the end to the start"))});
  add_row(tr("Way"), {button(NodeCommand::Reverse, tr("Start and end change places")),
                      button(NodeCommand::StartHere, tr("A closed line starts at this node"))});
}

void NodesCard::refresh() {
  const Piece* piece = session_.selected();
  const Result<Outline> nodes =
      piece != nullptr ? nodes_of(session_.shown(), piece->id) : Result<Outline>(bad_input({}));
  const std::size_t chosen = session_.nodes_chosen().size();
  QString text;
  if (!nodes) {
    text = piece != nullptr && piece->lettering() != nullptr ? tr("Letters get nodes when they are released.")
                                                             : tr("Click a guide or an outline to see its nodes.");
  } else {
    text = tr("%1 of %2 nodes chosen.").arg(chosen).arg(nodes->node_count());
    if (piece->guide() != nullptr && !std::holds_alternative<PathGuide>(piece->guide()->shape))
      text += " " + tr("The first change makes this %1 a pen curve.")
                        .arg(core_words(shape_name(piece->guide()->shape)).toLower());
  }
  about_->setText(text);
  for (const auto& [c, b] : buttons_) {
    const bool whole_line = c == NodeCommand::Reverse || c == NodeCommand::Close;
    b->setEnabled(nodes.ok() && (chosen > 0 || whole_line) &&
                  ((c != NodeCommand::Join && c != NodeCommand::Stretch) || chosen == 2));
  }
}

} // namespace frelm
