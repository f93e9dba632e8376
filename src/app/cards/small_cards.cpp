#include "app/cards/small_cards.h"

#include "app/commands/colour_choice.h"

#include "app/style/words.h"
#include "document/arrange.h"
#include "document/piece_groups.h"
#include "lettering/finish.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace frelm {
FinishCard::FinishCard(Session& session, QWidget* parent)
    : Card(4, tr("Finish"), session, parent), steps_(new FinishPart(session)) {
  add_wide(steps_);
}

void FinishCard::restyle() {
  Card::restyle();
  steps_->restyle();
}

void FinishCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return;
  steps_->refresh();
  const Finish& finish = piece->lettering()->recipe.finish;
  const auto on = std::count_if(finish.steps.begin(), finish.steps.end(), [](const FinishStep& s) { return s.on; });
  set_summary(on == 0                     ? tr("nothing")
              : on == 1 && finish.welds() ? tr("weld")
              : on == 1                   ? tr("1 step")
                                          : tr("%1 steps").arg(on));
}

ReleaseBox::ReleaseBox(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), as_(new ChoiceBox), guide_(new ChoiceBox),
      button_(new QPushButton(tr("Release to outlines"))) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 6, 0);
  all->setSpacing(6);
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  as_->addItems({tr("As one piece"), tr("By line"), tr("By letter")});
  as_->setAccessibleName(tr("Release as"));
  guide_->addItems({tr("Guide goes"), tr("Guide stays")});
  guide_->setAccessibleName(tr("The guide after release"));
  guide_->setToolTip(tr("A guide that stays never cuts; one that other letters ride on stays in any case"));
  row->addWidget(as_, 1);
  row->addWidget(guide_, 1);
  all->addLayout(row);
  colours_ = new QWidget;
  colours_->setToolTip(tr("The colour that each line gets when it is released"));
  auto* line = new QHBoxLayout(colours_);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  all->addWidget(colours_);
  connect(as_, &QComboBox::activated, this, [this] { show_colours(); });
  button_->setObjectName("strong");
  button_->setToolTip(tr("The letters become plain outlines and can be reopened later (Ctrl+Return)"));
  all->addWidget(button_);
  connect(button_, &QPushButton::clicked, this, &ReleaseBox::release);
}

void ReleaseBox::refresh() {
  const Piece* piece = session_.selected();
  const bool lettering = piece != nullptr && piece->lettering() != nullptr;
  setVisible(lettering);
  if (!lettering)
    return;
  const Result<PieceResult>& now = session_.seated(piece->id);
  button_->setEnabled(now && !now->ink.empty());
  const std::vector<const GuideRef*> followed = piece->lettering()->recipe.bend.followed();
  guide_->setVisible(std::any_of(followed.begin(), followed.end(), [&](const GuideRef* ref) {
    const Piece* guide = session_.shown().find(ref->guide);
    return guide != nullptr && guide->guide() != nullptr;
  }));
  as_->setVisible(piece->lettering()->recipe.letters() != nullptr);
  show_colours();
}

// One button for each line of the text, in its colour.
void ReleaseBox::show_colours() {
  const Piece* piece = session_.selected();
  const Letters* letters =
      piece != nullptr && piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
  const std::size_t lines = letters != nullptr ? split_lines(plain_text(letters->text)).size() : 0;
  const bool shown = lines > 1 && as() == ReleaseAs::ByLine;
  colours_->setVisible(shown);
  if (!shown)
    return;
  while (colour_buttons_.size() < lines) {
    auto* b = new QToolButton;
    const std::size_t line = colour_buttons_.size();
    b->setFocusPolicy(Qt::StrongFocus);
    b->setText(QString::number(line + 1));
    b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    b->setAccessibleName(tr("Colour of line %1").arg(line + 1));
    connect(b, &QToolButton::clicked, this, [this, line] { emit pick_colour(line); });
    colours_->layout()->addWidget(b);
    colour_buttons_.push_back(b);
  }
  for (std::size_t i = 0; i < colour_buttons_.size(); ++i) {
    colour_buttons_[i]->setVisible(i < lines);
    const std::vector<Colour>& own = piece->lettering()->line_colours;
    const Colour c = i < own.size() ? own[i] : piece->colour;
    colour_buttons_[i]->setIcon(swatch(c, 16));
  }
}

OutlineCard::OutlineCard(Session& session, QWidget* parent)
    : Card(0, tr("Outline"), session, parent), pose_(new PosePart(session)), nodes_(note_label()),
      steps_(new FinishPart(session)), came_from_(note_label()), reopen_(new QPushButton(tr("Reopen"))) {
  add_wide(pose_);
  add_wide(nodes_);
  add_wide(steps_);
  add_wide(came_from_);
  add_wide(reopen_);
  reopen_->setToolTip(tr("The live lettering takes this outline's place again (Ctrl+Shift+Return)"));
  connect(pose_, &PosePart::problem, this, &OutlineCard::problem);
  connect(reopen_, &QPushButton::clicked, this, &OutlineCard::reopen);
}

void OutlineCard::refresh() {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->guide() != nullptr)
    return;
  pose_->refresh();
  const OutlinePiece* drawn = piece->outline(); // else outlines bent as one
  const auto outline = session_.finished(piece->id);
  nodes_->setText(outline != nullptr ? FinishPart::lines_told(*outline)
                                     : tr("%1 nodes").arg(session_.nodes(piece->id)));
  nodes_->setVisible(drawn == nullptr); // of drawings the steps say it
  steps_->setVisible(drawn != nullptr);
  steps_->refresh();
  if (commands_ != nullptr)
    commands_->refresh();
  const bool released = drawn != nullptr && drawn->origin != nullptr;
  came_from_->setVisible(released);
  reopen_->setVisible(released);
  came_from_->setText(tr("Came from lettering"));
}

void OutlineCard::put_in(OutlinePart* commands) {
  commands_ = commands;
  add_wide(commands_);
}

void OutlineCard::restyle() {
  Card::restyle();
  steps_->restyle();
}

ManyCard::ManyCard(Session& session, QWidget* parent)
    : Card(0, tr("Several pieces"), session, parent), text_(note_label()), pose_(new PosePart(session)) {
  add_wide(text_);
  add_wide(pose_);
  connect(pose_, &PosePart::problem, this, &ManyCard::problem);
}

void ManyCard::offer(const CommandTable& commands, const QStringList& ids) {
  auto* held = new QWidget;
  auto* grid = new QGridLayout(held);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(5);
  add_wide(held);
  for (const QString& id : ids) {
    const CommandTable::Entry* entry = commands.find(id);
    auto* button = new QPushButton(entry->words());
    button->setToolTip(entry->command.tip);
    connect(button, &QPushButton::clicked, entry->action, &QAction::trigger);
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    button->setParent(held);
    offers_.emplace_back(button, entry);
  }
}

void ManyCard::put_in(PlacePart* place, OutlinePart* commands) {
  place_ = place, commands_ = commands;
  add_wide(place_);
  add_wide(commands_);
}

void ManyCard::refresh() {
  if (place_ != nullptr)
    place_->refresh();
  if (commands_ != nullptr)
    commands_->refresh();
  pose_->refresh();
  if (!offers_.empty()) { // two beside each other, those that can be done
    auto* grid = qobject_cast<QGridLayout*>(offers_.front().first->parentWidget()->layout());
    int n = 0;
    for (const auto& [button, entry] : offers_) {
      const bool can = entry->why_not().isEmpty();
      button->setVisible(can);
      grid->removeWidget(button);
      if (can)
        grid->addWidget(button, n / 2, n % 2), ++n;
    }
  }
  const GroupId group = whole_group(session_.shown(), session_.selection());
  const PieceGroup* own = group != 0 ? group_of(session_.shown(), group) : nullptr;
  set_heading(own == nullptr      ? tr("Several pieces")
              : own->name.empty() ? tr("Group")
                                  : tr("Group %1").arg(QString::fromStdString(own->name)));
  text_->setText(tr("%1 pieces. Arrows nudge, Delete removes them.").arg(session_.selection().size()));
}

StartCard::StartCard(Session& session, QWidget* parent)
    : Card(0, tr("Letter it"), session, parent), words_(new QLineEdit) {
  words_->setPlaceholderText(tr("A boat's name, a motto…"));
  words_->setAccessibleName(tr("Words to letter"));
  auto* go = new QPushButton(tr("Letter it"));
  go->setObjectName("strong");
  auto* open = new QPushButton(tr("Open a job…"));
  open->setToolTip(tr("Ctrl+O"));
  auto* badge = new QPushButton(tr("Badge"));
  badge->setToolTip(tr("Two texts in one band around a circle, with its measures for you to change"));
  auto* examples = new QPushButton(tr("Examples…"));
  examples->setToolTip(tr("Finished jobs to look at and take apart"));
  add_wide(words_);
  add_wide(go);
  add_row(tr("Or"), {open, badge});
  add_row(tr("Look at"), examples);
  take_words(words_, go, [this](const QString& words) { emit letter_it(words); });
  connect(open, &QPushButton::clicked, this, &StartCard::open);
  connect(badge, &QPushButton::clicked, this, &StartCard::badge);
  connect(examples, &QPushButton::clicked, this,
          [this, examples] { emit show_examples(examples->mapToGlobal(QPoint(0, examples->height()))); });
}

void StartCard::refresh() {}

SheetCard::SheetCard(Session& session, QWidget* parent)
    : Card(0, tr("Sheet"), session, parent), width_(length_field(tr("Sheet width"), 1, 20000)),
      height_(length_field(tr("Sheet height"), 1, 20000)), ordered_width_(length_field(tr("Ordered width"), 0, 20000)),
      ordered_height_(length_field(tr("Ordered height"), 0, 20000)),
      ordered_parts_(new MeasureField(MeasureKind::Count, tr("Ordered parts"))) {
  add_row(tr("Width"), width_);
  add_row(tr("Height"), height_);
  add_row(tr("Ordered"), {ordered_width_, ordered_height_});
  add_row(tr("In parts"), ordered_parts_);
  ordered_width_->setToolTip(tr("The width that all of it should have; the Cut check compares. 0: not said"));
  ordered_height_->setToolTip(tr("The height that all of it should have; the Cut check compares. 0: not said"));
  ordered_parts_->setToolTip(
      tr("How many parts each sheet should leave in, 1 for one that holds together. 0: not said"));
  ordered_parts_->set_range(0, most_ordered_parts);
  const auto change = [this](double Sheet::*side, double v, bool stepped) {
    Document document = session_.document();
    document.sheet.*side = v;
    session_.apply(tr("Change sheet"), std::move(document), {}, stepped ? "step sheet" : "");
  };
  const auto order = [this](const std::function<void(Ordered&)>& said, bool stepped) {
    Document document = session_.document();
    said(document.ordered);
    session_.apply(tr("Change what is ordered"), std::move(document), {}, stepped ? "step order" : "");
  };
  connect(width_, &MeasureField::edited, this, [change](double v, bool s) { change(&Sheet::width, v, s); });
  connect(height_, &MeasureField::edited, this, [change](double v, bool s) { change(&Sheet::height, v, s); });
  connect(ordered_width_, &MeasureField::edited, this,
          [order](double v, bool s) { order([v](Ordered& o) { o.width = v; }, s); });
  connect(ordered_height_, &MeasureField::edited, this,
          [order](double v, bool s) { order([v](Ordered& o) { o.height = v; }, s); });
  connect(ordered_parts_, &MeasureField::edited, this,
          [order](double v, bool s) { order([v](Ordered& o) { o.parts = static_cast<int>(std::lround(v)); }, s); });
}

void SheetCard::refresh() {
  const Document& document = session_.document();
  for (MeasureField* f : {width_, height_, ordered_width_, ordered_height_})
    f->set_unit(document.unit);
  width_->show_value(document.sheet.width);
  height_->show_value(document.sheet.height);
  ordered_width_->show_value(document.ordered.width);
  ordered_height_->show_value(document.ordered.height);
  ordered_parts_->show_value(document.ordered.parts);
}

} // namespace frelm
