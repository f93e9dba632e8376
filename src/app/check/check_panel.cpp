#include "app/check/check_panel.h"

#include "app/style/scheme.h"
#include "cutting/legibility.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>

namespace frelm {
namespace {

enum class Mark { Triangle, Square, Disc, Tick };

QPixmap mark_of(Mark mark) {
  const Scheme& s = scheme();
  QPixmap pixmap(32, 32);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  switch (mark) {
  case Mark::Triangle:
    painter.setBrush(s.brick);
    painter.drawPolygon(QPolygonF{QPointF(8, 2.5), QPointF(14, 13), QPointF(2, 13)});
    break;
  case Mark::Square:
    painter.setBrush(s.amber);
    painter.drawRect(QRectF(3.5, 3.5, 9, 9));
    break;
  case Mark::Disc:
    painter.setBrush(s.plum);
    painter.drawEllipse(QPointF(8, 8), 4, 4);
    break;
  case Mark::Tick:
    painter.setPen(QPen(s.teal, 1.8, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPolyline(QPolygonF{QPointF(3, 8.5), QPointF(6.5, 12), QPointF(13, 4)});
    break;
  }
  return pixmap;
}

// A row that can be clicked or entered with the keyboard.
class Row : public QWidget {
public:
  Row(Mark mark, const QString& weight, const QString& title, const QString& detail, std::function<void()> go)
      : go_(std::move(go)) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(8, 4, 8, 4);
    line->setSpacing(6);
    auto* shape = new QLabel;
    shape->setPixmap(mark_of(mark));
    shape->setToolTip(weight);
    line->addWidget(shape, 0, Qt::AlignTop);
    texts_ = new QVBoxLayout;
    texts_->setSpacing(1);
    auto* head = new QLabel(title);
    head->setObjectName("heading");
    head->setWordWrap(true);
    auto* rest = new QLabel(detail);
    rest->setObjectName("muted");
    rest->setWordWrap(true);
    texts_->addWidget(head);
    texts_->addWidget(rest);
    line->addLayout(texts_, 1);
    setAccessibleName(weight + ": " + title + ". " + detail);
    if (go_) {
      setFocusPolicy(Qt::StrongFocus);
      setCursor(Qt::PointingHandCursor);
    }
  }
  void add(QWidget* widget) { texts_->addWidget(widget, 0, Qt::AlignLeft); }

protected:
  void mouseReleaseEvent(QMouseEvent*) override {
    if (go_)
      go_();
  }
  void keyPressEvent(QKeyEvent* event) override {
    if (go_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space))
      go_();
    else
      QWidget::keyPressEvent(event);
  }
  void paintEvent(QPaintEvent*) override {
    if (!hasFocus())
      return;
    QPainter painter(this);
    painter.setPen(QPen(scheme().teal, 1));
    painter.drawRoundedRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5), 4, 4);
  }
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

private:
  std::function<void()> go_;
  QVBoxLayout* texts_;
};

} // namespace

CheckPanel::CheckPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), count_(new QLabel), list_(new QFrame),
      legible_(new QPushButton(tr("Legibility"))), readings_(new QFrame) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(6);
  auto* head = new QHBoxLayout;
  auto* heading = new QLabel(tr("Cut check"));
  heading->setObjectName("heading");
  count_->setObjectName("muted");
  head->addWidget(heading);
  head->addStretch();
  head->addWidget(count_);
  all->addLayout(head);
  list_->setObjectName("card");
  list_->setAccessibleName(tr("Cut check"));
  auto* rows = new QVBoxLayout(list_);
  rows->setContentsMargins(0, 4, 0, 4);
  rows->setSpacing(2);
  auto* scroll = new QScrollArea;
  scroll->setObjectName("panel");
  scroll->setFocusPolicy(Qt::NoFocus);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* inside = new QWidget;
  auto* column = new QVBoxLayout(inside);
  column->setContentsMargins(0, 0, 0, 0);
  column->addWidget(list_);
  legible_->setCheckable(true);
  legible_->setToolTip(tr("Proportions and gaps of the selected lettering against the 2010 ADA Standards, 703.5"));
  column->addWidget(legible_, 0, Qt::AlignLeft);
  readings_->setObjectName("card");
  readings_->setAccessibleName(tr("Legibility"));
  (new QVBoxLayout(readings_))->setContentsMargins(0, 4, 0, 4);
  column->addWidget(readings_);
  column->addStretch();
  connect(legible_, &QPushButton::toggled, this, &CheckPanel::show_legibility);
  connect(&session, &Session::gaps_changed, this, &CheckPanel::show_legibility);
  connect(&session, &Session::selection_changed, this, &CheckPanel::show_legibility);
  scroll->setWidget(inside);
  all->addWidget(scroll, 1);
  connect(&session, &Session::results_changed, this, [this] {
    if (!any_ || session_.check().findings != shown_)
      rebuild();
  });
  rebuild();
  show_legibility();
}

void CheckPanel::restyle() {
  rebuild();
  show_legibility();
}

void CheckPanel::show_legibility() {
  const Piece* piece = session_.selected();
  const Letters* letters =
      piece != nullptr && piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
  legible_->setVisible(letters != nullptr);
  readings_->setVisible(letters != nullptr && legible_->isChecked());
  if (!readings_->isVisibleTo(this))
    return;
  const auto gaps = session_.gaps(piece->id);
  const Result<PieceResult>& now = session_.seated(piece->id);
  const auto face = session_.faces().face(letters->face);
  if (gaps == nullptr || !now || !face)
    return; // the readings stay until the gaps are measured
  qDeleteAll(readings_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  auto* rows = qobject_cast<QVBoxLayout*>(readings_->layout());
  const auto percent = [](double v) { return QString::number(std::lround(v * 100)); };
  for (const LegibilityReading& r : legibility(*letters, *now->seated, *gaps, **face)) {
    if (r.most == 0) {
      rows->addWidget(new Row(
          Mark::Disc, tr("Note"), tr(r.what.c_str()),
          tr("%1 m: an inch of height for ten feet, %2").arg(r.low / 1000, 0, 'f', 1).arg(r.source.c_str()), {}));
      continue;
    }
    const QString range = r.high - r.low < 0.005 ? percent(r.low) : percent(r.low) + tr(" to ") + percent(r.high);
    rows->addWidget(new Row(r.holds() ? Mark::Tick : Mark::Square, r.holds() ? tr("Fine") : tr("Look at"),
                            tr(r.what.c_str()),
                            tr("%1 %; %2 to %3 % by ADA %4")
                                .arg(range, percent(r.least), percent(r.most), QString::fromStdString(r.source)),
                            {}));
  }
}

QWidget* CheckPanel::first_finding() const {
  for (QWidget* w : list_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly))
    if (w->focusPolicy() == Qt::StrongFocus)
      return w;
  return nullptr;
}

void CheckPanel::rebuild() {
  any_ = true;
  shown_ = session_.check().findings;
  qDeleteAll(list_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  auto* rows = qobject_cast<QVBoxLayout*>(list_->layout());
  for (const Finding& f : shown_) {
    const Mark mark = f.weight == Weight::MustFix ? Mark::Triangle
                      : f.weight == Weight::Look  ? Mark::Square
                                                  : Mark::Disc;
    const QString weight = f.weight == Weight::MustFix ? tr("Must fix")
                           : f.weight == Weight::Look  ? tr("Look at")
                                                       : tr("Note");
    std::function<void()> go;
    if (f.piece != 0)
      go = [this, f] { emit look_at(f); };
    auto* row = new Row(mark, weight, QString::fromStdString(f.title), QString::fromStdString(f.detail), go);
    for (const Cure c : f.cures) {
      auto* cure = new QPushButton(tr(cure_name(c)));
      cure->setObjectName("cure");
      connect(cure, &QPushButton::clicked, this, [this, c, id = f.piece] {
        session_.apply(tr(cure_name(c)), cured(session_.document(), id, c, session_.evaluator()));
      });
      row->add(cure);
    }
    rows->addWidget(row);
  }
  const std::size_t n = session_.check().to_look_at();
  count_->setText(n == 0 ? QString() : tr("%1 to look at").arg(n));
  if (n == 0) {
    const bool empty = session_.document().pieces.empty();
    rows->addWidget(
        new Row(Mark::Tick, tr("Fine"), empty ? tr("Nothing to cut yet") : tr("Ready to cut"),
                empty ? tr("findings appear here as you work") : tr("closed · no crossings · inside the sheet"), {}));
  }
}

} // namespace frelm
