#include "app/window/top_row.h"

#include "app/style/scheme.h"

#include <QHBoxLayout>

namespace frelm {
namespace {

constexpr int levels = 5; // from all words to the fewest

QFrame* upright_line() {
  auto* line = new QFrame;
  line->setFixedSize(1, 22);
  line->setObjectName("divider");
  return line;
}

} // namespace

TopRow::TopRow(Session& session, Canvas& canvas, const CommandTable& commands, QWidget* parent)
    : QWidget(parent), session_(session), canvas_(canvas), commands_(commands), line_(new QHBoxLayout(this)) {
  setObjectName("topRow");
  setAttribute(Qt::WA_StyledBackground);
  line_->setContentsMargins(10, 1, 10, 4);
  line_->setSpacing(4);
  line_->setSizeConstraint(QLayout::SetNoConstraint);
  add_tools();
  line_->addWidget(upright_line());
  undo_ = add_button(tr("Undo"), {});
  redo_ = add_button(tr("Redo"), {});
  line_->addWidget(upright_line());
  view_ = new ChoiceRow(tr("View"), {tr("Ink"), tr("Lines"), tr("Knife"), tr("Names")});
  view_->button(0)->setToolTip(tr("Filled, as it will look (F7)"));
  view_->button(1)->setToolTip(tr("Bare outlines with their nodes (F8)"));
  view_->button(2)->setToolTip(tr("What is cut, in which order and direction (F9)"));
  view_->button(3)->setToolTip(tr("One design, a list of names (Shift+F9)"));
  view_->show_choice(0);
  line_->addWidget(view_);
  line_->addStretch(1);
  sheet_ = add_button({}, tr("Sheet size; click to change it"));
  unit_ = new ChoiceRow(tr("Unit"), {tr("mm"), tr("in")});
  line_->addWidget(unit_);
  zoom_ = add_button({}, tr("Zoom; click to see the whole sheet (W)"));
  connect(view_, &ChoiceRow::chosen, this, [this](int i) { canvas_.set_view(static_cast<View>(i)); });
  connect(unit_, &ChoiceRow::chosen, this, [this](int i) { emit unit_wanted(static_cast<Unit>(i)); });
  connect(undo_, &QToolButton::clicked, &session_, &Session::undo);
  connect(redo_, &QToolButton::clicked, &session_, &Session::redo);
  connect(zoom_, &QToolButton::clicked, this, [this] { canvas_.zoom_to_sheet(); });
  connect(sheet_, &QToolButton::clicked, this, &TopRow::sheet_wanted);
  connect(&canvas_, &Canvas::tool_changed, this, [this](ToolKind kind) {
    const auto i = static_cast<std::size_t>(kind);
    tools_[i < tools_.size() ? i : 0]->setChecked(true);
  });
  connect(&canvas_, &Canvas::view_changed, this, [this](View view) { view_->show_choice(static_cast<int>(view)); });
  connect(&canvas_, &Canvas::zoom_changed, this, [this] {
    zoom_->setText(tr("%1 %").arg(std::lround(canvas_.zoom() * 100)));
    fit();
  });
}

QToolButton* TopRow::add_button(const QString& words, const QString& tip) {
  auto* b = new QToolButton;
  b->setObjectName("tool");
  b->setText(words);
  b->setToolTip(tip);
  b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  b->setIconSize(QSize(1, 1) * std::max(18, b->fontMetrics().height()));
  line_->addWidget(b);
  return b;
}

void TopRow::add_tools() {
  for (const ToolRow& tool : tool_table()) {
    if (tool.id == nullptr)
      continue;
    QToolButton* b = add_button(QString(tool.words).remove('&'), tr("%1 (%2)").arg(tool.tip, tool.key));
    b->setCheckable(true);
    b->setAutoExclusive(true);
    b->setChecked(tool.kind == ToolKind::Select);
    connect(b, &QToolButton::clicked, this, [this, kind = tool.kind] { canvas_.set_tool(kind); });
    tools_.push_back(b);
  }
}

void TopRow::refresh() {
  const Document& d = session_.document();
  if (sheet_shown_ == std::pair{d.sheet, d.unit}) // as it is through every drag
    return;
  sheet_shown_ = {d.sheet, d.unit};
  unit_->show_choice(static_cast<int>(d.unit));
  fit();
}

void TopRow::refresh_commands() {
  const auto follow = [&](QToolButton* button, const char* id) {
    const QAction* action = commands_.action(id);
    button->setEnabled(action->isEnabled());
    button->setToolTip(action->isEnabled() ? tr("%1 (%2)").arg(QString(action->text()).remove('&'),
                                                               action->shortcut().toString(QKeySequence::NativeText))
                                           : action->toolTip());
  };
  follow(undo_, "edit.undo");
  follow(redo_, "edit.redo");
}

void TopRow::restyle() {
  for (std::size_t i = 0; i < tools_.size(); ++i)
    tools_[i]->setIcon(icon(tool_table()[i].icon));
  undo_->setIcon(icon("undo"));
  redo_->setIcon(icon("redo"));
  for (QToolButton* b : findChildren<QToolButton*>())
    b->ensurePolished();
  zoom_->setMinimumWidth(zoom_->fontMetrics().horizontalAdvance(tr("%1 %").arg(1000)) + 24); // words don't come and go
  fit();
}

void TopRow::show_level(int level) {
  const auto words = [](QToolButton* b, bool on) {
    b->setToolButtonStyle(on ? Qt::ToolButtonTextBesideIcon : Qt::ToolButtonIconOnly);
  };
  words(undo_, level < 1);
  words(redo_, level < 1);
  const Document& d = session_.document();
  const QString width = length_text(d.sheet.width, d.unit), height = length_text(d.sheet.height, d.unit);
  sheet_->setText(level < 2 ? tr("Sheet %1 × %2 %3").arg(width, height, unit_name(d.unit))
                            : tr("%1 × %2").arg(width, height));
  sheet_->setAccessibleName(tr("Sheet %1 × %2 %3").arg(width, height, unit_name(d.unit)));
  for (QToolButton* tool : tools_)
    words(tool, level < 3);
  unit_->setVisible(level < 4);
  sheet_->setVisible(level < 4);
}

int TopRow::wanted_width() const {
  line_->invalidate();
  return line_->minimumSize().width();
}

void TopRow::fit() {
  for (int level = 0; level < levels; ++level) {
    show_level(level);
    if (wanted_width() <= width())
      break;
  }
  line_->activate();
}

QSize TopRow::minimumSizeHint() const {
  return {200, line_->minimumSize().height()};
}

void TopRow::resizeEvent(QResizeEvent*) {
  fit();
}

} // namespace frelm
