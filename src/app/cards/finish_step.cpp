#include "app/cards/finish_step.h"

#include "app/canvas/tool.h"
#include "app/commands/colour_choice.h"
#include "app/style/words.h"
#include "lettering/finish_edit.h"

#include <QApplication>
#include <QMouseEvent>
#include <QVBoxLayout>

namespace frelm {

namespace {

// Where a measure stands in what a step does; null in other steps.
template <class Step, class T> auto in_step(T Step::*member) {
  return [member](auto& what) {
    auto* step = std::get_if<Step>(&what);
    return step != nullptr ? &(step->*member) : nullptr;
  };
}
template <class Step, class Part, class T> auto in_step(Part Step::*part, T Part::*member) {
  return [part, member](auto& what) {
    auto* step = std::get_if<Step>(&what);
    return step != nullptr ? &(step->*part.*member) : nullptr;
  };
}
template <class T> auto in_ring(std::size_t i, T BorderRing::*member) {
  return [i, member](auto& what) {
    auto* border = std::get_if<BorderStep>(&what);
    return border != nullptr && i < border->rings.size() ? &(border->rings[i].*member) : nullptr;
  };
}

} // namespace

class StepRows : public RowsCard<FinishAction> {
  Q_DECLARE_TR_FUNCTIONS(frelm::StepRows)

public:
  StepRows(std::size_t index, Session& session, QWidget* parent) : RowsCard(0, {}, session, parent), index_(index) {
    embed();
  }
  void refresh() override {}
  using RowsCard::show_rows;

  void build(const ThinStep&) {
    const auto machine = [](const FinishAction& what) {
      const auto* t = std::get_if<ThinStep>(&what);
      return t != nullptr && t->aim == NodeAim::Machine;
    };
    const auto curves = [machine](const FinishAction& what) { return !machine(what); };
    choice({{}, tr("How few nodes"), tr("Change how few nodes")}, {tr("Within a tolerance"), tr("For a machine")},
           in_step(&ThinStep::aim));
    number({tr("Tolerance"), tr("Tolerance of fewer nodes"), tr("Change the tolerance")},
           {MeasureKind::Length, least_tolerance, most_tolerance, 0.01}, in_step(&ThinStep::tolerance), curves);
    number({tr("In 100 mm"), tr("Nodes in 100 mm"), tr("Change how few nodes"),
            tr("At most so many nodes for each 100 mm of line; 0: any number")},
           {MeasureKind::Count, 0, most_per_100}, in_step(&ThinStep::per_100), machine);
    number({tr("Apart"), tr("Distance from node to node"), tr("Change the distance of nodes"),
            tr("At least so far along the line; 0: any distance")},
           {MeasureKind::Length, 0, most_distance, 0.1}, in_step(&ThinStep::apart), machine);
    number({tr("Off by up to"), tr("What fewer nodes may cost"), tr("Change what fewer nodes may cost"),
            tr("The line moves by no more than this")},
           {MeasureKind::Length, least_tolerance, most_tolerance, 0.1}, in_step(&ThinStep::most_off), machine);
  }

  void build(const RoundStep&) {
    number({tr("Radius"), tr("Radius of the corners"), tr("Change the radius")},
           {MeasureKind::Length, least_rounding, most_distance, 0.1}, in_step(&RoundStep::radius));
    choice({tr("Corners"), tr("Which corners"), tr("Change the corners")}, {tr("All"), tr("Outer"), tr("Inner")},
           in_step(&RoundStep::which));
    number({tr("Sharper than"), tr("Corners sharper than"), tr("Change the angle of corners"),
            tr("Corners whose sides open less than this are rounded")},
           {.kind = MeasureKind::Angle, .low = least_opening, .high = 180, .step = 5},
           in_step(&RoundStep::sharper_than));
  }

  void build(const BorderStep& b) {
    for (std::size_t i = 0; i < b.rings.size(); ++i)
      ring_row(i, b.rings.size());
    auto* more = new QPushButton(tr("Add a ring"));
    more->setToolTip(tr("One more ring, as far out again"));
    add_wide(more);
    connect(more, &QPushButton::clicked, this,
            [this] { edit(tr("Add a ring"), false, [&](Piece& p) { add_ring(*p.finish(), index_, p.colour); }); });
    const QString side = tr("Change the border");
    choice({tr("Side"), tr("Side of the rings"), side}, {tr("Outside"), tr("Inside"), tr("Both")},
           in_step(&BorderStep::side));
    choice({tr("Around"), tr("What the rings go around"), side}, {tr("Letters"), tr("All so far")},
           in_step(&BorderStep::of));
    choice({tr("Corners"), tr("Corners of the rings"), side}, {tr("Round"), tr("Mitred"), tr("Bevelled")},
           in_step(&BorderStep::join));
    number({tr("Limit"), tr("Longest mitre in distances"), tr("Change the mitre limit")},
           {MeasureKind::Count, 1, most_mitre_limit, 0.5}, in_step(&BorderStep::mitre_limit),
           [](const FinishAction& what) { return std::get<BorderStep>(what).join == JoinStyle::Mitre; });
    choice({tr("Holes"), tr("Holes of the rings"), side}, {tr("Kept"), tr("Dropped"), tr("Small go")},
           in_step(&BorderStep::holes));
    number({tr("Under"), tr("Holes dropped that fit into a square of"), tr("Change the size of holes")},
           {MeasureKind::Length, 0, most_distance}, in_step(&BorderStep::hole_size),
           [](const FinishAction& what) { return std::get<BorderStep>(what).holes == HoleRule::DropSmall; });
    choice({tr("Beneath"), tr("Under what lies on it"), side}, {tr("Solid"), tr("Taken out")},
           in_step(&BorderStep::taken_out));
    number({tr("Overlap"), tr("Overlap of layers laid side by side"), tr("Change the overlap")},
           {MeasureKind::Length, 0, most_distance, 0.1}, in_step(&BorderStep::overlap),
           [](const FinishAction& what) { return std::get<BorderStep>(what).taken_out; });
  }

  void build(const ShadeStep&) {
    const QString change = tr("Change the shade");
    number({tr("Angle"), tr("Angle of the shade"), tr("Turn the shade"), tr("0° is to the right; clockwise")},
           {.kind = MeasureKind::Angle, .low = -360, .high = 360, .step = 5}, in_step(&ShadeStep::angle));
    number({tr("Depth"), tr("Depth of the shade"), tr("Change the shade's depth")},
           {MeasureKind::Length, 0, most_distance}, in_step(&ShadeStep::depth));
    choice({tr("Thrown by"), tr("What throws the shade"), change}, {tr("Last ring"), tr("Letters")},
           in_step(&ShadeStep::of));
    choice({tr("Stands"), tr("Where the shade stands"), change}, {tr("Joined"), tr("Apart")},
           in_step(&ShadeStep::apart));
    number({tr("Gap"), tr("Gap before the shade"), tr("Change the shade's gap")},
           {MeasureKind::Length, 0, most_distance, 0.5}, in_step(&ShadeStep::gap),
           [](const FinishAction& what) { return std::get<ShadeStep>(what).apart; });
    choice({tr("Layer"), tr("Layer of the shade"), change}, {tr("Its own"), tr("The ring's")},
           in_step(&ShadeStep::with_ring));
    const auto [colour, to] =
        layer_fields(tr("the shade"), in_step(&ShadeStep::colour), in_step(&ShadeStep::destination));
    add_row(tr("Colour"), {colour, to});
    on_show([colour = colour](const FinishAction& what) { show_row(colour, !std::get<ShadeStep>(what).with_ring); });
  }

  void build(const TabStep&) {
    const QString change = tr("Change the tab");
    number({tr("Diameter"), tr("Diameter of the tab"), change}, {MeasureKind::Length, least_tab, most_distance, 0.5},
           in_step(&TabStep::outer));
    number({tr("Hole"), tr("Diameter of its hole"), change, tr("0: no hole")},
           {MeasureKind::Length, 0, most_distance, 0.5}, in_step(&TabStep::inner));
    number({tr("Joins by"), tr("How deep it reaches into the edge"), change},
           {MeasureKind::Length, least_tab_depth, most_distance, 0.1}, in_step(&TabStep::depth));
    const NumberRange share{
        .kind = MeasureKind::Percent, .low = -100 * farthest_share, .high = 100 * farthest_share, .shown_as = 100};
    const QString move = tr("Move the tab"), tip = tr("It stands on the edge nearest to this place; drag it there");
    number({tr("Across"), tr("Place of the tab across"), move, tip}, share, in_step(&TabStep::across));
    number({tr("Down"), tr("Place of the tab downwards"), move, tip}, share, in_step(&TabStep::down));
  }

  void build(const TieStep& s) {
    const QString change = tr("Change the ties");
    number({tr("Width"), tr("Width of the ties"), change}, {MeasureKind::Length, least_tie, most_tie, 0.1},
           in_step(&TieStep::form, &TieForm::width));
    choice({tr("Ends"), tr("Ends of the ties"), change}, {tr("Square"), tr("Round")},
           in_step(&TieStep::form, &TieForm::ends));
    if (s.kind == TieKind::Stencil) {
      number({tr("Each"), tr("Bridges of each counter"), change, tr("On one side, or on two opposite ones")},
             {.kind = MeasureKind::Count, .low = 1, .high = 2, .whole = true},
             in_step(&TieStep::bridges, &BridgeChoice::each));
      number({tr("Angle"), tr("Angle of the bridges"), change, tr("0° is level; level ones lie on one line")},
             {.kind = MeasureKind::Angle, .low = -360, .high = 360, .step = 15},
             in_step(&TieStep::bridges, &BridgeChoice::angle));
    }
    flag({s.kind == TieKind::Stencil ? tr("Every counter") : tr("All that is loose"),
          {},
          change,
          tr("Besides those set by hand, all that are wanted yet; they follow the letters")},
         in_step(&TieStep::all));
    auto* anew = new QPushButton(tr("Place all anew"));
    anew->setToolTip(tr("Those set by hand go"));
    add_wide(anew);
    connect(anew, &QPushButton::clicked, this, [this] {
      edit_subject(tr("Place all ties anew"), false, [](FinishAction& what) {
        std::get<TieStep>(what).by_hand.clear();
        std::get<TieStep>(what).all = true;
      });
    });
    on_show([anew](const FinishAction& what) { anew->setVisible(!std::get<TieStep>(what).by_hand.empty()); });
  }

protected:
  void edit_subject(const QString& name, bool stepped, const std::function<void(FinishAction&)>& change) override {
    edit(name, stepped, [&](Piece& p) {
      if (Finish* f = p.finish(); f != nullptr && index_ < f->steps.size())
        change(f->steps[index_].what);
    });
  }

private:
  // The colour of a layer and where it goes; whose: "ring 1".
  template <class ColourAt, class DestinationAt>
  std::pair<QToolButton*, ChoiceBox*> layer_fields(const QString& whose, const ColourAt& colour_at,
                                                   const DestinationAt& destination_at) {
    auto* colour = new QToolButton;
    colour->setAccessibleName(tr("Colour of %1").arg(whose));
    colour->setToolTip(tr("The sheet that %1 is cut from").arg(whose));
    connect(colour, &QToolButton::clicked, this, [this, colour, colour_at, whose] {
      choose_colour(this, colour->mapToGlobal(QPoint(0, colour->height())), session_,
                    [this, colour_at, whose](Colour c) {
                      edit_subject(tr("Change the colour of %1").arg(whose), false, [&](FinishAction& what) {
                        if (Colour* value = colour_at(what))
                          *value = c;
                      });
                    });
    });
    auto* to = new ChoiceBox;
    for (int i = 0; i <= static_cast<int>(Destination::Off); ++i)
      to->addItem(destination_word(static_cast<Destination>(i)));
    to->setAccessibleName(tr("Where %1 goes").arg(whose));
    connect(to, &QComboBox::activated, this, [this, destination_at, whose](int i) {
      edit_subject(tr("Change where %1 goes").arg(whose), false, [&](FinishAction& what) {
        if (Destination* value = destination_at(what))
          *value = static_cast<Destination>(i);
      });
    });
    on_show([colour, to, colour_at, destination_at](const FinishAction& what) {
      colour->setIcon(swatch(*colour_at(what), 16));
      to->setCurrentIndex(static_cast<int>(*destination_at(what)));
    });
    return {colour, to};
  }

  void ring_row(std::size_t i, std::size_t count) {
    const QString whose = tr("ring %1").arg(i + 1);
    const NumberRange range{MeasureKind::Length, least_ring, most_distance, 0.5};
    auto* field = new_number({{}, tr("Distance of %1").arg(whose)}, range);
    bind(field, tr("Change the distance of %1").arg(whose), range, in_ring(i, &BorderRing::distance));
    const auto [colour, to] =
        layer_fields(whose, in_ring(i, &BorderRing::colour), in_ring(i, &BorderRing::destination));
    std::vector<std::pair<QWidget*, int>> fields{{field, 3}, {colour, 0}, {to, 2}};
    if (count > 1) {
      auto* gone = new QToolButton;
      gone->setText("×");
      gone->setObjectName("flat");
      gone->setAccessibleName(tr("Remove %1").arg(whose));
      gone->setToolTip(tr("Remove this ring"));
      connect(gone, &QToolButton::clicked, this, [this, i] {
        edit_subject(tr("Remove a ring"), false, [i](FinishAction& what) {
          auto& rings = std::get<BorderStep>(what).rings;
          rings.erase(rings.begin() + static_cast<std::ptrdiff_t>(i));
        });
      });
      fields.emplace_back(gone, 0);
    }
    add_row(count > 1 ? tr("Ring %1").arg(i + 1) : tr("Distance"), in_row(fields));
  }

  std::size_t index_;
};

FinishStepBox::FinishStepBox(std::size_t index, const FinishAction& what, Session& session, QWidget* parent)
    : QFrame(parent), session_(session), index_(index), on_(new QCheckBox), heading_(new QToolButton),
      told_(new ShortLabel),
      measures_(std::holds_alternative<WeldStep>(what) || std::holds_alternative<MirrorStep>(what)
                    ? nullptr
                    : new StepRows(index, session, this)) {
  setObjectName("finishStep");
  const QString name = words_of(step_name(what));
  on_->setAccessibleName(tr("%1 on").arg(name));
  on_->setToolTip(tr("Off is as if the step weren't there; its measures stay"));
  connect(on_, &QCheckBox::clicked, this, [this, name](bool on) {
    edit_steps(on ? tr("Switch %1 on").arg(name.toLower()) : tr("Switch %1 off").arg(name.toLower()),
               [&](std::vector<FinishStep>& steps) { steps[index_].on = on; });
  });
  heading_->setText(name);
  heading_->setObjectName("flat");
  heading_->setToolTip(measures_ != nullptr ? tr("Show or hide its measures; drag it, or Alt and an arrow, to move it")
                                            : tr("Drag it, or Alt and an arrow, to move it"));
  heading_->setFocusPolicy(Qt::StrongFocus);
  heading_->installEventFilter(this);
  connect(heading_, &QToolButton::clicked, this, [this] { emit opened(index_); });
  told_->setObjectName("muted");
  told_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  told_->setMinimumWidth(20);
  auto* more = new QToolButton;
  more->setObjectName("flat");
  more->setText("⋯");
  more->setAccessibleName(tr("%1: move or remove").arg(name));
  more->setToolTip(tr("Move the step up or down, or remove it"));
  more->setPopupMode(QToolButton::InstantPopup);
  more->setMenu(step_menu(name));
  auto* head = new QHBoxLayout;
  head->setSpacing(4);
  head->addWidget(on_);
  head->addWidget(heading_);
  head->addWidget(told_, 1);
  head->addWidget(more);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(6, 3, 4, 3);
  all->setSpacing(5);
  all->addLayout(head);
  if (measures_ == nullptr)
    return;
  std::visit(
      [this](const auto& step) {
        if constexpr (requires { measures_->build(step); })
          measures_->build(step);
      },
      what);
  all->addWidget(measures_);
}

QMenu* FinishStepBox::step_menu(const QString& name) {
  auto* menu = new QMenu(this);
  up_ = menu->addAction(tr("Earlier"), this, [this] { move_to(index_ - 1); });
  down_ = menu->addAction(tr("Later"), this, [this] { move_to(index_ + 1); });
  menu->addAction(tr("Remove"), this, [this, name] {
    edit_steps(tr("Remove %1").arg(name.toLower()), [&](std::vector<FinishStep>& steps) {
      steps.erase(steps.begin() + static_cast<std::ptrdiff_t>(index_));
    });
  });
  return menu;
}

void FinishStepBox::show_step(const FinishStep& step, const StepReport* report, bool open, std::size_t count) {
  count_ = count;
  on_->setChecked(step.on);
  up_->setEnabled(index_ > 0);
  down_->setEnabled(index_ + 1 < count);
  told_->set_words(!step.on ? tr("off") : report == nullptr ? tr("working…") : words_about(step.what, *report));
  if (std::holds_alternative<ThinStep>(step.what) && report != nullptr && report->at) {
    const Unit unit = session_.document().unit;
    told_->setToolTip(tr("%1\nFarthest off at %2, %3 %4: the cross on the sheet")
                          .arg(told_->toolTip(), length_text(report->at->x, unit, 1),
                               length_text(report->at->y, unit, 1), unit_name(unit)));
  }
  if (measures_ == nullptr)
    return;
  measures_->setVisible(open);
  measures_->show_rows(step.what);
}

QString FinishStepBox::words_about(const FinishAction& what, const StepReport& report) const {
  const auto nodes = [](std::size_t n) { return tr("%1 nodes").arg(n); };
  if (std::holds_alternative<WeldStep>(what))
    return nodes(report.nodes_out);
  if (std::holds_alternative<ThinStep>(what))
    return (report.reached ? tr("%1 → %2, %3 mm off") : tr("%1 → %2, %3 mm off; no fewer"))
        .arg(report.nodes_in)
        .arg(report.nodes_out)
        .arg(report.worst, 0, 'f', 3);
  if (std::holds_alternative<RoundStep>(what))
    return report.left > 0      ? tr("%1, %2 left").arg(report.rounded).arg(report.left)
           : report.smaller > 0 ? tr("%1, %2 smaller").arg(report.rounded).arg(report.smaller)
                                : tr("%1 rounded").arg(report.rounded);
  if (const auto* b = std::get_if<BorderStep>(&what)) {
    if (report.vanished > 0)
      return tr("%1 parts too thin").arg(report.vanished);
    const QString rings = b->rings.size() == 1 ? tr("1 ring") : tr("%1 rings").arg(b->rings.size());
    return tr("%1 · %2").arg(rings, nodes(report.nodes_out));
  }
  if (const auto* s = std::get_if<ShadeStep>(&what)) {
    const Unit unit = session_.document().unit;
    return tr("%1° · %2 %3").arg(QString::number(s->angle, 'g', 4), length_text(s->depth, unit), unit_name(unit));
  }
  if (const auto* t = std::get_if<TabStep>(&what)) {
    const Unit unit = session_.document().unit;
    return !report.at            ? tr("no edge to join")
           : t->ring().inner > 0 ? tr("hole %1 %2").arg(length_text(t->ring().inner, unit), unit_name(unit))
                                 : tr("no hole");
  }
  if (const auto* t = std::get_if<TieStep>(&what)) {
    const QString count = report.ties.size() == 1 ? tr("1 tie") : tr("%1 ties").arg(report.ties.size());
    if (t->kind == TieKind::Stencil)
      return report.parts == 0   ? tr("%1, none loose").arg(count)
             : report.parts == 1 ? tr("%1, 1 loose").arg(count)
                                 : tr("%1, %2 loose").arg(count).arg(report.parts);
    return report.parts == 1 ? tr("%1, 1 part").arg(count) : tr("%1, %2 parts").arg(count).arg(report.parts);
  }
  return tr("seen from behind");
}

void FinishStepBox::edit_steps(const QString& name, const std::function<void(std::vector<FinishStep>&)>& change) {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  session_.edit(name, piece->id, [&](Piece& p) {
    if (Finish* f = p.finish(); f != nullptr && index_ < f->steps.size())
      change(f->steps);
  });
}

bool FinishStepBox::eventFilter(QObject* object, QEvent* event) {
  if (object != heading_)
    return QFrame::eventFilter(object, event);
  if (event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Escape && dragged_) {
      held_.reset();
      parentWidget()->layout()->activate();
      parentWidget()->layout()->invalidate();
      return true;
    }
    if (key->modifiers() == Qt::AltModifier && (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down)) {
      const bool up = key->key() == Qt::Key_Up;
      if (up ? index_ > 0 : index_ + 1 < count_)
        move_to(up ? index_ - 1 : index_ + 1);
      return true;
    }
  }
  return drag(event);
}

bool FinishStepBox::drag(QEvent* event) {
  const auto hand = [event, this] {
    return parentWidget()->mapFromGlobal(static_cast<QMouseEvent*>(event)->globalPosition().toPoint()).y();
  };
  switch (event->type()) {
  case QEvent::MouseButtonPress:
    held_ = hand() - y(), dragged_ = false;
    return false;
  case QEvent::MouseMove:
    if (!held_)
      return false;
    if (!dragged_ && std::abs(hand() - y() - *held_) < QApplication::startDragDistance())
      return false;
    dragged_ = true;
    raise();
    move(x(), std::clamp(hand() - *held_, 0, std::max(0, parentWidget()->height() - height())));
    return true;
  case QEvent::MouseButtonRelease: {
    if (!dragged_) {
      held_.reset();
      return false;
    }
    const std::size_t to = held_ ? place_at(hand()) : index_;
    held_.reset(), dragged_ = false;
    heading_->setDown(false);
    parentWidget()->layout()->invalidate();
    if (to != index_)
      move_to(to);
    else
      parentWidget()->layout()->activate();
    return true;
  }
  default:
    return false;
  }
}

// Among the steps, of the hand at this height: as many stand before it as have their middle above.
std::size_t FinishStepBox::place_at(int hand) const {
  std::size_t before = 0;
  for (const auto* other : parentWidget()->findChildren<FinishStepBox*>(Qt::FindDirectChildrenOnly))
    if (other != this && other->isVisible() && other->geometry().center().y() < hand)
      ++before;
  return before;
}

void FinishStepBox::move_to(std::size_t to) {
  const std::size_t from = index_;
  edit_steps(tr("Move a step"), [&](std::vector<FinishStep>& steps) {
    if (to >= steps.size())
      return;
    FinishStep step;
    step.on = steps[from].on;
    step.what = steps[from].what;
    steps.erase(steps.begin() + static_cast<std::ptrdiff_t>(from));
    steps.insert(steps.begin() + static_cast<std::ptrdiff_t>(to), step);
  });
  emit moved(to);
}

} // namespace frelm
