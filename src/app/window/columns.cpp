#include "app/window/columns.h"

#include <QSettings>
#include <QVBoxLayout>

namespace frelm {
namespace {

// The canvas gets at least so much of the width, or pieces and check go behind tabs.
constexpr double canvas_share = 0.53;
constexpr int canvas_least = 440; // px
constexpr int right_least = 196;  // px at usual text
constexpr int edge = 6;           // px around what stands in a column

QWidget* column() {
  auto* out = new QWidget;
  out->setObjectName("panel");
  out->setAttribute(Qt::WA_StyledBackground);
  return out;
}

} // namespace

Columns::Columns(Session& session, const Parts& parts, QWidget* parent)
    : QWidget(parent), session_(session), parts_(parts), across_(new QSplitter(Qt::Horizontal)),
      down_(new QSplitter(Qt::Vertical)), right_(new QSplitter(Qt::Vertical)), left_(column()), right_panel_(column()),
      tab_row_(new QWidget), tabs_(new ChoiceRow(tr("Column"), {tr("Work"), tr("Pieces"), tr("Cut check")})),
      pages_(new QStackedWidget) {
  auto* tab_line = new QVBoxLayout(tab_row_);
  tab_line->setContentsMargins(0, 0, edge, 0);
  tab_line->addWidget(tabs_);
  tabs_->show_choice(0);
  connect(tabs_, &ChoiceRow::chosen, pages_, &QStackedWidget::setCurrentIndex);
  auto* left = new QVBoxLayout(left_);
  left->setContentsMargins(edge, edge, 0, edge);
  left->setSpacing(6);
  left->addWidget(tab_row_);
  left->addWidget(pages_, 1);
  pages_->addWidget(parts.cards);
  tab_row_->hide();
  auto* right = new QVBoxLayout(right_panel_);
  right->setContentsMargins(edge, edge, edge, edge);
  right->addWidget(right_);
  right_->setHandleWidth(6);
  right_->addWidget(parts.pieces);
  right_->addWidget(parts.check);
  right_->setSizes({220, 300});
  right_->setChildrenCollapsible(false);
  right_->setStyleSheet("QSplitter::handle { background: transparent; }");
  down_->setHandleWidth(1);
  down_->addWidget(parts.canvas);
  down_->addWidget(parts.strip);
  down_->addWidget(parts.time);
  parts.time->hide();
  down_->setStretchFactor(0, 1);
  down_->setCollapsible(0, false);
  down_->setCollapsible(1, false);
  down_->setCollapsible(2, false);
  across_->setHandleWidth(1);
  across_->addWidget(left_);
  across_->addWidget(down_);
  across_->addWidget(right_panel_);
  across_->setStretchFactor(1, 1);
  across_->setChildrenCollapsible(false);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSizeConstraint(QLayout::SetNoConstraint);
  all->addWidget(across_);
  connect(across_, &QSplitter::splitterMoved, this, [this] { moved_ = true; });
  connect(down_, &QSplitter::splitterMoved, this, [this] {
    if (parts_.time->isVisible())
      time_height_ = parts_.time->height();
    else if (!parts_.strip->folded())
      strip_height_ = parts_.strip->height();
  });
}

QSize Columns::minimumSizeHint() const {
  const int cards = parts_.cards->minimumSizeHint().width() + edge + 2;
  return {cards + canvas_least / 2, parts_.canvas->minimumHeight() + parts_.strip->minimumSizeHint().height()};
}

// What the parts need is known only when they have been styled.
bool Columns::event(QEvent* event) {
  if (event->type() == QEvent::LayoutRequest)
    arrange();
  return QWidget::event(event);
}

// Until the user has moved an edge the columns are as narrow as they may be: the letters get the room.
void Columns::resizeEvent(QResizeEvent*) {
  arrange();
}

void Columns::share_out() {
  const int cards = left_->minimumSizeHint().width(),
            right = std::max(right_least, right_panel_->minimumSizeHint().width());
  across_->setSizes({cards, width() - cards - (tabbed_ ? 0 : right) - 2 * across_->handleWidth(), right});
}

void Columns::arrange() {
  const int cards = left_->minimumSizeHint().width();
  const int others = std::max(parts_.pieces->minimumSizeHint().width(), parts_.check->minimumSizeHint().width());
  const int canvas = width() - cards - std::max(right_least, others + 2 * edge);
  set_tabbed(canvas < std::max<int>(canvas_least, static_cast<int>(canvas_share * width())));
  if (!moved_)
    share_out();
}

void Columns::set_tabbed(bool tabbed) {
  if (tabbed == tabbed_)
    return;
  tabbed_ = tabbed;
  if (tabbed) {
    three_ = across_->saveState();
    pages_->addWidget(parts_.pieces);
    pages_->addWidget(parts_.check);
  } else {
    right_->addWidget(parts_.pieces);
    right_->addWidget(parts_.check);
    parts_.pieces->show();
    parts_.check->show();
    pages_->setCurrentIndex(0);
    tabs_->show_choice(0);
  }
  tab_row_->setVisible(tabbed);
  right_panel_->setVisible(!tabbed);
  if (!tabbed)
    across_->restoreState(three_);
}

void Columns::show_tab(Tab tab) {
  if (!tabbed_)
    return;
  tabs_->show_choice(static_cast<int>(tab));
  pages_->setCurrentIndex(static_cast<int>(tab));
}

bool Columns::lettering_selected() const {
  const Piece* piece = session_.selected();
  return piece != nullptr && piece->lettering() != nullptr && piece->lettering()->recipe.letters() != nullptr;
}

void Columns::set_strip_folded(bool folded) {
  strip_wanted_folded_ = folded;
  fit_strip();
}

void Columns::set_time_shown(bool shown) {
  parts_.strip->setVisible(!shown);
  parts_.time->setVisible(shown);
  fit_strip();
}

void Columns::fit_strip() {
  if (parts_.canvas->hand_down())
    return;
  if (parts_.time->isVisibleTo(this)) {
    parts_.canvas->set_kept_free(0);
    const int time = std::max(time_height_, parts_.time->minimumSizeHint().height());
    down_->setSizes({std::max(1, down_->height() - time - down_->handleWidth()), 0, time});
    return;
  }
  const bool folded = strip_wanted_folded_ || !lettering_selected();
  if (folded != parts_.strip->folded()) {
    if (folded && parts_.strip->isVisible())
      strip_height_ = std::max(parts_.strip->height(), parts_.strip->minimumSizeHint().height());
    parts_.strip->set_folded(folded);
  }
  const int line = parts_.strip->folded_height();
  // What the strip takes again with the next lettering is left free, so that nothing moves then.
  parts_.canvas->set_kept_free(folded && !strip_wanted_folded_ ? std::max(0, strip_height_ - line) : 0);
  const int strip = folded ? line : strip_height_;
  down_->setSizes({std::max(1, down_->height() - strip - down_->handleWidth()), strip, 0});
}

void Columns::remember(QSettings& settings) const {
  if (moved_)
    settings.setValue("window/columns", tabbed_ ? three_ : across_->saveState());
  settings.setValue("window/stripHeight", strip_height_);
  settings.setValue("window/stripFolded", strip_wanted_folded_);
}

void Columns::recall(const QSettings& settings) {
  if (settings.contains("window/columns"))
    moved_ = across_->restoreState(settings.value("window/columns").toByteArray());
  across_->setChildrenCollapsible(false);
  strip_height_ = std::clamp(settings.value("window/stripHeight", strip_height_).toInt(), 60, 600);
  strip_wanted_folded_ = settings.value("window/stripFolded", false).toBool();
  fit_strip();
}

} // namespace frelm
