#include "app/cards/gallery.h"
#include "app/style/words.h"

#include "app/canvas/painter.h"
#include "app/style/scheme.h"
#include "lettering/block_edit.h"

#include <QApplication>
#include <QGridLayout>
#include <QScreen>
#include <QTimer>

namespace frelm {
namespace {

constexpr int columns = 4;
constexpr std::size_t most_letters = 12; // of the word in a picture
constexpr QSize picture_size{104, 48};

// Of the selected piece before it is bent; as it is, where that isn't known.
Box block_of(const Session& session) {
  const Piece* piece = session.selected();
  const Result<PieceResult>& now = session.seated(piece != nullptr ? piece->id : 0);
  return !now ? Box{} : now->bent != nullptr ? now->bent->made.block : now->ink;
}

} // namespace

QPixmap rails_picture(const Session& session, const RailsBend& rails, QSize size, double ratio) {
  QPixmap out(size * ratio);
  out.setDevicePixelRatio(ratio);
  out.fill(Qt::transparent);
  const Piece* piece = session.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return out;
  Document document;
  Piece copy = *piece;
  Recipe& recipe = copy.lettering()->recipe;
  copy.lettering()->placement = {};
  copy.visible = true;
  const bool guided = rails.top.first.kind == ProfileKind::Guide || rails.bottom.first.kind == ProfileKind::Guide;
  if (guided || std::holds_alternative<PiecesSource>(recipe.source)) // pieces that it follows or is made from
    document = session.shown();
  if (Letters* letters = recipe.letters()) {
    TypedText& text = letters->text;
    const auto end = std::find_if(text.begin(), text.end(), [](const TypedChar& c) { return c.c == U'\n'; });
    text.erase(end, text.end());
    if (text.size() > most_letters) {
      const auto space = std::find_if(text.begin(), text.end(), [](const TypedChar& c) { return c.c == U' '; });
      text.resize(std::min<std::size_t>(most_letters, static_cast<std::size_t>(space - text.begin())));
    }
  }
  recipe.bend = {};
  recipe.bend.kind = BendKind::Rails;
  recipe.bend.rails = rails;
  recipe.spacing.mode = SpacingMode::AsSet;
  const Added added = add_piece(std::move(document), std::move(copy));
  const Result<PieceResult> r = session.evaluator().seat_now(added.document, added.id);
  if (!r || r->ink.empty())
    return out;
  Outline all;
  if (r->seated != nullptr)
    for (const Outline& o : letter_outlines(*r->seated))
      all.append(o);
  else if (r->outline != nullptr)
    all = *r->outline;
  const double k =
      0.92 * std::min(size.width() / std::max(r->ink.width(), 1e-6), size.height() / std::max(r->ink.height(), 1e-6));
  const Point c = r->ink.centre();
  QPainter painter(&out);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.translate(size.width() / 2.0, size.height() / 2.0);
  painter.scale(k, k);
  painter.translate(-c.x, -c.y);
  painter.fillPath(to_path(all), scheme().text);
  return out;
}

Gallery::Gallery(Session& session, QWidget* parent) : QFrame(parent, Qt::Popup), session_(session) {
  setObjectName("gallery");
  setAttribute(Qt::WA_StyledBackground);
  setAccessibleName(tr("Gallery of bends"));
}

// The first time it opens: a window is shown sooner without.
void Gallery::build() {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(8, 8, 8, 8);
  grid->setSpacing(4);
  const std::vector<RailsBend> list = rails_gallery(0, 0); // their names
  for (std::size_t i = 0; i < list.size(); ++i) {
    auto* b = new QToolButton;
    b->setText(words_of(rails_words(list[i])));
    b->setAccessibleName(tr("Gallery: %1").arg(b->text()));
    b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    b->setIconSize(picture_size);
    b->setFocusPolicy(Qt::StrongFocus);
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    tiles_.push_back(b);
    const int n = static_cast<int>(i);
    grid->addWidget(b, n / columns, n % columns);
    connect(b, &QToolButton::clicked, this, [this, n] {
      hide();
      emit chosen(n);
    });
  }
}

void Gallery::open_at(QWidget* beside) {
  if (tiles_.empty())
    build();
  drawn_ = 0;
  // For pictures the word's first line, for the bend itself the whole block.
  const frelm::Box box = block_of(session_);
  bends_ = rails_gallery(box.width(), box.height());
  adjustSize();
  const QRect screen = beside->screen()->availableGeometry();
  QPoint at = beside->mapToGlobal(QPoint(0, beside->height() + 2));
  at.setX(std::clamp(at.x(), screen.left(), std::max(screen.left(), screen.right() - width())));
  at.setY(std::clamp(at.y(), screen.top(), std::max(screen.top(), screen.bottom() - height())));
  move(at);
  show();
  tiles_.front()->setFocus();
  draw_next();
}

// One picture at a time, so that nothing waits for all of them.
void Gallery::draw_next() {
  if (!isVisible() || drawn_ >= tiles_.size())
    return;
  tiles_[drawn_]->setIcon(rails_picture(session_, bends_[drawn_], picture_size, devicePixelRatioF()));
  ++drawn_;
  QTimer::singleShot(0, this, &Gallery::draw_next);
}

} // namespace frelm
