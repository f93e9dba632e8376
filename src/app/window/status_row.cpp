#include "app/window/status_row.h"

#include "app/style/words.h"
#include "document/measure.h"

#include <QHBoxLayout>

namespace frelm {
namespace {

constexpr int long_work_ms = 400;

} // namespace

StatusRow::StatusRow(Session& session, Canvas& canvas, Task& task, Task& saving, QWidget* parent)
    : QWidget(parent), session_(session), task_(task), saving_(saving), selection_(new ShortLabel), work_(new QLabel),
      pointer_(new QLabel), cancel_(new QPushButton(tr("Cancel"))) {
  setObjectName("status");
  setAttribute(Qt::WA_StyledBackground);
  auto* line = new QHBoxLayout(this);
  line->setContentsMargins(12, 2, 12, 2);
  line->setSpacing(22);
  cancel_->setObjectName("flat");
  cancel_->hide();
  line->addWidget(selection_, 1);
  line->addWidget(work_);
  line->addWidget(cancel_);
  line->addWidget(pointer_);
  connect(cancel_, &QPushButton::clicked, this, [this] {
    if (task_.running())
      task_.cancel();
    else
      session_.stop_work();
  });
  long_.setSingleShot(true);
  long_.setInterval(long_work_ms);
  connect(&long_, &QTimer::timeout, this, &StatusRow::refresh);
  connect(&session, &Session::work_changed, this, &StatusRow::refresh);
  connect(&session, &Session::results_changed, this, &StatusRow::refresh);
  connect(&task, &Task::changed, this, &StatusRow::refresh);
  connect(&saving, &Task::changed, this, &StatusRow::refresh);
  connect(&canvas, &Canvas::left, pointer_, &QLabel::clear);
  connect(&canvas, &Canvas::hovered, this, [this](Point p) {
    const Unit unit = session_.document().unit;
    pointer_->setText(tr("x %1  y %2 %3").arg(length_text(p.x, unit, 1), length_text(p.y, unit, 1), unit_name(unit)));
  });
}

QString StatusRow::counted() {
  if (session_.selection().empty())
    return tr("Nothing selected");
  const Unit unit = session_.document().unit;
  const Box ink = session_.selection_ink();
  std::size_t letters = 0, nodes = 0;
  QString guide;
  constexpr std::size_t most_counted = 500; // while the hand moves
  const bool counts = !session_.dragging() || session_.selection().size() <= most_counted;
  for (const PieceId id : counts ? session_.selection() : std::vector<PieceId>{}) {
    const Result<PieceResult>& now = session_.seated(id);
    const Piece* piece = session_.shown().find(id);
    if (!now || piece == nullptr)
      continue;
    nodes += piece->guide() != nullptr ? 0 : session_.nodes(id);
    if (now->seated == nullptr)
      continue;
    for (const PlacedLetter& l : now->seated->letters)
      letters += l.blank() ? 0 : 1;
    const BendKind laid = piece->lettering()->recipe.bend.laid_by();
    if (laid == BendKind::Arc || laid == BendKind::Guide)
      guide = tr("guide %1 of %2 %3 used")
                  .arg(length_text(now->seated->used_length, unit, 1), length_text(now->seated->guide_length, unit, 1),
                       unit_name(unit));
  }
  QStringList parts{tr("Selection %1 × %2 %3")
                        .arg(length_text(ink.width(), unit, 1), length_text(ink.height(), unit, 1), unit_name(unit))};
  if (letters > 0)
    parts << tr("%1 letters").arg(letters);
  if (nodes > 0)
    parts << tr("%1 nodes").arg(nodes);
  if (!guide.isEmpty())
    parts << guide;
  if (const Piece* piece = session_.selected(); piece != nullptr && piece->link)
    parts << tr("one of %1 linked copies").arg(copies_of(session_.shown(), *piece));
  return parts.join("      ");
}

QString StatusRow::working() const {
  if (const Piece* piece = session_.selected())
    if (const Result<PieceResult>& now = session_.seated(piece->id); !now)
      return words_of(now.error());
  if (task_.running())
    return task_.progress() > 0 ? tr("%1… %2 %").arg(task_.name()).arg(task_.progress()) : tr("%1…").arg(task_.name());
  if (saving_.running())
    return tr("%1…").arg(saving_.name());
  if (session_.evening()) {
    const bool bends = std::any_of(session_.shown().pieces.begin(), session_.shown().pieces.end(), [](const auto& p) {
      return p->lettering() != nullptr && p->lettering()->recipe.bend.warps();
    });
    return (bends ? tr("Bending… %1 %") : tr("Evening gaps… %1 %")).arg(std::lround(100 * session_.progress()));
  }
  if (session_.busy())
    return taking_long() && session_.progress() > 0 ? tr("Finishing… %1 %").arg(std::lround(100 * session_.progress()))
                                                    : tr("Finishing…");
  return session_.waiting() || session_.stopped() ? tr("Stopped before it was done; the next change begins again")
                                                  : QString();
}

// What is done in a moment shows no button that would only flicker.
bool StatusRow::taking_long() const {
  return session_.busy() && !long_.isActive();
}

void StatusRow::refresh() {
  const bool busy = session_.busy();
  if (busy && !busy_)
    long_.start();
  busy_ = busy;
  selection_->set_words(counted());
  const QString words = working();
  work_->setText(fontMetrics().elidedText(words, Qt::ElideRight, width() / 2)); // an error may be long
  work_->setToolTip(words);
  cancel_->setVisible(task_.running() || session_.evening() || taking_long());
}

} // namespace frelm
