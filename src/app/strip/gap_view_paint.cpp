// How the run looks, unrolled.
#include "app/strip/gap_marks.h"
#include "app/strip/gap_view.h"
#include "app/style/scheme.h"
#include "document/measure.h"

namespace frelm {
namespace {

constexpr double ring_reach = 6; // px from the middle of a joined gap's mark

// What of a row of pixels is taken.
class Occupied {
public:
  explicit Occupied(int width) : taken_(static_cast<std::size_t>(std::max(width, 0)), false) {}
  // False, and nothing taken, when another has some of it already.
  bool take(double from, double to) {
    const auto px = [&](double x) {
      return taken_.begin() + static_cast<std::ptrdiff_t>(std::clamp(x, 0.0, double(taken_.size())));
    };
    const auto first = px(from), last = px(std::ceil(to));
    if (std::find(first, last, true) != last)
      return false;
    std::fill(first, last, true);
    return true;
  }

private:
  std::vector<bool> taken_;
};

} // namespace

void GapView::paint_axis(QPainter& painter, const SeatedText& text, double baseline) const {
  const Scheme& s = scheme();
  QPen guide(s.teal, 1.2);
  guide.setDashPattern({6, 3, 1, 3});
  painter.setPen(guide);
  painter.drawLine(QPointF(0, baseline), QPointF(width(), baseline));
  const double one = session_.document().unit == Unit::Inch ? mm_per_inch : 1;
  const double step = ruler_step(px_per_mm() * one, 70);
  painter.setPen(s.muted);
  for (long i = std::lround(std::ceil(range_.from / (step * one))); static_cast<double>(i) * step * one <= range_.to;
       ++i) {
    const double x = x_of(static_cast<double>(i) * step * one);
    painter.drawLine(QPointF(x, axis_px() - 3), QPointF(x, axis_px()));
    painter.drawText(QRectF(x - 40, -1, 80, axis_px() - 2), Qt::AlignCenter,
                     QString::number(static_cast<double>(i) * step));
  }
  // The guide's own start and end (the seam of a closed one).
  painter.setPen(QPen(s.teal, 1.6));
  for (const double at : {0.0, text.guide_length}) {
    const double x = x_of(at);
    if (x >= 0 && x <= width())
      painter.drawLine(QPointF(x, baseline - 7), QPointF(x, baseline + 7));
  }
  // Its corners.
  for (const CurveCorner& c : text.guide->corners())
    if (const double x = x_of(c.s); x >= 0 && x <= width())
      painter.drawPolyline(
          QPolygonF{QPointF(x - 5, baseline + 6), QPointF(x, baseline + 1), QPointF(x + 5, baseline + 6)});
}

void GapView::paint_letters(QPainter& painter, const SeatedText& text, double baseline) {
  const Scheme& s = scheme();
  const Piece& piece = *session_.selected();
  const double k = px_per_mm();
  constexpr double palest = 0.75; // of the lightness: paler letters can't be told from the strip
  const QColor own(piece.colour.r, piece.colour.g, piece.colour.b);
  const QColor colour = s.dark || own.lightnessF() > palest ? s.text : own;
  for (const PlacedLetter& l : text.letters) {
    const double x = x_of(l.s - l.advance / 2 * l.stretch);
    if (l.line != line_ || l.blank() || x > width() + 200 || x_of(l.s + l.advance) < -200)
      continue;
    if (session_.letter() != 0 && id_of(l) == session_.letter())
      painter.fillRect(QRectF(x, band().top() + 1, l.advance * l.stretch * k, band().height() - 2), s.teal_soft);
    painter.setTransform(QTransform(k * l.stretch, 0, 0, k, x, baseline));
    const bool off = l.beyond || l.meets_start;
    painter.setPen(off ? QPen(colour, 0) : QPen(Qt::NoPen));
    QBrush brush(colour, off ? Qt::BDiagPattern : Qt::SolidPattern);
    if (off)
      brush.setTransform(painter.transform().inverted());
    painter.setBrush(brush);
    painter.drawPath(paths_.of(l.plain));
    painter.resetTransform();
  }
}

void GapView::paint_gaps(QPainter& painter) const {
  const auto t = text();
  const Recipe* r = recipe();
  if (t == nullptr || r == nullptr)
    return;
  std::vector<const Gap*> all = gaps();
  const std::vector<PairId>& chosen = session_.gaps_chosen();
  const auto is_chosen = [&](const Gap* g) {
    if (chosen.empty())
      return false;
    const auto p = pair(*g);
    return p && std::find(chosen.begin(), chosen.end(), *p) != chosen.end();
  };
  // Those that matter most first: where letters stand close on the screen, marks and numbers that have no room beside
  // them stay for a closer look.
  const auto rank = [&](const Gap* g) {
    return is_chosen(g) ? 0 : g->look == GapLook::Even || g->look == GapLook::Joined ? 2 : 1;
  };
  std::stable_sort(all.begin(), all.end(), [&](const Gap* a, const Gap* b) { return rank(a) < rank(b); });
  Occupied marks(width()), numbers(width());
  for (const Gap* g : all) {
    const PlacedLetter &a = t->letters[g->left], &b = t->letters[g->right];
    const QPointF at = bracket(*g);
    if (at.x() < -40 || at.x() > width() + 40)
      continue;
    const double around = g->seam ? t->guide_length : 0;
    GapMark mark;
    mark.look = g->look;
    const double left = x_of(a.s + (t->ink_of(a).x1 - a.advance / 2) * a.stretch),
                 right = x_of(b.s + around + (t->ink_of(b).x0 - b.advance / 2) * b.stretch);
    mark.half = std::max((right - left) / 2, 3.5); // letters that reach over one another get a small mark
    mark.chosen = is_chosen(g);
    const double reach = (g->joined() ? ring_reach : mark.half) + 1;
    if (!mark.chosen && !marks.take(at.x() - reach, at.x() + reach))
      continue;
    const auto p = pair(*g);
    mark.by_hand = p && r->pair(p->left, p->right) != nullptr;
    mark.word_space = g->word_space;
    mark.too_narrow = !g->joined() && g->closest.distance < r->spacing.least_gap - least_gap_slack;
    mark.number = g->joined() ? QString() : length_text(g->closest.distance, session_.document().unit, 1);
    const double w = QFontMetricsF(painter.font()).horizontalAdvance(mark.number) / 2;
    if (!mark.number.isEmpty() && !numbers.take(at.x() - w - 1, at.x() + w + 1))
      mark.number.clear();
    paint_gap_mark(painter, at, mark);
  }
}

void GapView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const Scheme& s = scheme();
  const auto t = text();
  QFont small = painter.font();
  small.setPointSizeF(small.pointSizeF() * gap_small_print);
  painter.setFont(small);
  painter.setPen(QPen(s.lines, 1));
  painter.setBrush(s.dark ? s.panel : s.panel.lighter(102));
  painter.drawRect(band().adjusted(-2, 0, 2, 0));
  if (t == nullptr || line_ >= t->spaced->lines.size()) {
    painter.setPen(s.muted);
    painter.drawText(band(), Qt::AlignCenter, tr("Select a lettering to see its gaps"));
    return;
  }
  const SetText& set = *t->spaced->set;
  const double k = px_per_mm(), tall = std::max(set.cap_height, set.ascent * 0.9);
  const double free = std::max(0.0, band().height() - (tall + set.descent) * k);
  const double baseline = band().bottom() - free / 2 - set.descent * k;
  painter.save();
  painter.setClipRect(band().adjusted(0, -axis_px(), 0, 0));
  paint_letters(painter, *t, baseline);
  paint_axis(painter, *t, baseline);
  painter.restore();
  if (hasFocus()) {
    painter.setPen(QPen(s.teal, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(band().adjusted(0, 0, -1, 0));
  }
  paint_gaps(painter);
  if (t->overflow > 0) {
    painter.setPen(s.brick);
    painter.drawText(
        band().adjusted(0, 4, -10, 0), Qt::AlignRight | Qt::AlignTop,
        tr("%1 %2 too long")
            .arg(length_text(t->overflow, session_.document().unit, 1), unit_name(session_.document().unit)));
  }
}

} // namespace frelm
