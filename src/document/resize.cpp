// On a kept guide the ink's width is no simple function of the letter size, but a smooth one, nearly proportional:
// secants of log(size) over log(scale) find it in two or three tries, each of which seats the letters anew. Where that
// fails (letters that go round a corner jump) the scale is bracketed by steps from 1 and halved.
#include "document/resize.h"
#include "document/arrange.h"
#include "geom/bisect.h"

namespace frelm {
namespace {

constexpr int most_steps = 48; // of a quarter

} // namespace

Result<Document> with_ink_size(const Document& document, PieceId id, InkSide side, double target, GuideScaling guide,
                               const DocumentEvaluator& evaluator, const SizeEffort& effort) {
  if (!(target > 0) || !std::isfinite(target))
    return bad_input(FRELM_WORDS("core", "the finished size must be more than 0 mm"));
  const Piece* whose = document.find(id);
  const bool warps =
      whose != nullptr && whose->lettering() != nullptr && whose->lettering()->recipe.bend.warps(); // not as sketched
  const Result<PieceResult> now = warps ? evaluator.piece(document, id, Depth::Seat) : evaluator.seat_now(document, id);
  if (!now)
    return now.error();
  const auto measure = [&](const Box& box) { return side == InkSide::Width ? box.width() : box.height(); };
  const double was = measure(now->ink);
  if (!(was > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to measure yet; type some letters first"));
  const Piece& piece = *document.find(id);
  if (piece.locked)
    return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it to change its size"));
  const Point about = now->ink.centre();
  const Lettering* lettering = piece.lettering();
  const bool bent = lettering != nullptr && lettering->recipe.bend.laid_by() != BendKind::Straight &&
                    (lettering->recipe.bend.laid_by() != BendKind::Rails || lettering->recipe.bend.placed_by_guides());
  if (lettering != nullptr && lettering->recipe.bend.laid_by() == BendKind::Rails && bent)
    guide = GuideScaling::Along; // what fills a shape is as large as the shape
  const bool exact_scaling = !bent || guide == GuideScaling::Along;
  const Point fixed = lettering != nullptr ? about : Point{now->ink.x0, now->ink.y0};
  if (exact_scaling)
    return scale_piece(document, id, fixed, target / was, GuideScaling::Along);

  const auto at_scale = [&](double k) { return scale_piece(document, id, fixed, k, guide); };
  const auto measured_at = [&](double k) -> double {
    Document scaled = at_scale(k);
    if (effort.roughly)
      scaled = edit_piece(std::move(scaled), id, [](Piece& p) {
        SpacingMode& mode = p.lettering()->recipe.spacing.mode; // only letterings are bent
        if (mode == SpacingMode::EvenGaps || mode == SpacingMode::KeepJoined)
          mode = SpacingMode::AsSet;
      });
    const Result<PieceResult> r = evaluator.seat_now(scaled, id);
    if (!r)
      return -1;
    return measure(r->ink);
  };
  const double plain = effort.roughly ? measured_at(1) : was;
  const auto size_at = [&](double k) { return measured_at(k) * was / plain; };
  struct Try {
    double at, off; // logarithms: of the scale, and of the size over the target
  };
  const auto good = [&](double size) { return std::abs(size - target) <= effort.within; };
  constexpr int most_secants = 8;
  constexpr double farthest = 2; // one secant's step
  Try before{0, std::log(was / target)}, last{-before.off, 0};
  for (int i = 0; i < most_secants; ++i) {
    const double size = size_at(std::exp(last.at));
    if (good(size))
      return at_scale(std::exp(last.at));
    if (!(size > 0))
      break;
    last.off = std::log(size / target);
    const double rise = (last.off - before.off) / (last.at - before.at), step = -last.off / rise;
    if (!(std::abs(step) <= farthest))
      break;
    before = last;
    last.at += step;
  }
  double low = 1, high = 1;
  const double grow = was < target ? 1.25 : 0.8;
  double k = 1, size = was;
  for (int i = 0; i < most_steps; ++i) {
    const double next = k * grow, next_size = size_at(next);
    if (next_size < 0)
      break;
    const bool crossed = (size - target) * (next_size - target) <= 0;
    if (crossed) {
      low = std::min(k, next), high = std::max(k, next);
      break;
    }
    k = next, size = next_size;
  }
  if (low == high)
    return bad_input(FRELM_WORDS(
        "core", "letters on this guide can't reach that size; let the guide scale along, or change the guide"));
  const bool rising = size_at(low) < size_at(high);
  for (int i = 0; i < 80; ++i) {
    const double middle = std::sqrt(low * high), got = size_at(middle);
    if (good(got))
      return at_scale(middle);
    ((got < target) == rising ? low : high) = middle;
  }
  return bad_input(
      FRELM_WORDS("core", "letters on this guide can't reach that size exactly; let the guide scale along"));
}

Result<Document> with_spread_width(const Document& document, PieceId id, double target,
                                   const DocumentEvaluator& evaluator) {
  const Piece* piece = document.find(id);
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  if (l == nullptr || l->recipe.letters() == nullptr || l->recipe.letters()->downwards)
    return bad_input(FRELM_WORDS("core", "only letters in lines can be spread"));
  if (piece->locked)
    return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it to change its size"));
  if (!(target > 0) || !std::isfinite(target))
    return bad_input(FRELM_WORDS("core", "the finished size must be more than 0 mm"));
  const auto spread_over = [&](double length) {
    return edit_piece(document, id, [&](Piece& p) {
      Spacing& s = p.lettering()->recipe.spacing;
      s.mode = SpacingMode::Spread, s.over = SpreadOver::Length, s.length = length;
    });
  };
  Error failed;
  const auto width_at = [&](double length) -> double {
    const Result<PieceResult> r = evaluator.piece(spread_over(length), id, Depth::Seat);
    if (!r) {
      failed = r.error();
      return -1;
    }
    return r->ink.width();
  };
  // Straight and level letters are as long as they are told; others by halves.
  constexpr double within = 1e-7;
  double length = target;
  if (const double first = width_at(length); !(std::abs(first - target) <= within)) {
    constexpr int most_tries = 12;
    double low = target / 64, high = target;
    const double least = width_at(low);
    if (least < 0)
      return failed;
    if (least > target + within)
      return bad_input(FRELM_WORDS("core", "the letters would stand too close; make them smaller first"));
    int tries = 0;
    for (double w = first; w < target && tries < most_tries; ++tries)
      w = width_at(high *= 1.25);
    if (tries == most_tries)
      return bad_input(FRELM_WORDS("core", "these letters can't be spread so wide where they stand"));
    const Bracket found = bisect({low, high}, [&](double v) { return width_at(v) >= target; });
    length = found.high;
    if (!(std::abs(width_at(length) - target) <= 0.001))
      return bad_input(FRELM_WORDS("core", "these letters can't be spread so wide where they stand"));
  }
  Document out = spread_over(length);
  if (l->recipe.bend.placed_by_guides())
    return out;
  const Result<PieceResult> was = evaluator.piece(document, id, Depth::Seat),
                            now = evaluator.piece(out, id, Depth::Seat);
  if (!was || !now)
    return out;
  return move_pieces(std::move(out), {id}, was->ink.centre() - now->ink.centre());
}

} // namespace frelm
