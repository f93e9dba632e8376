#include "document/marks.h"

#include "document/arrange.h"
#include "document/catching.h"
#include "geom/crossings.h"
#include "geom/distance.h"
#include "geom/nodes.h"
#include "geom/weld.h"

#include <algorithm>

namespace frelm {
namespace {

constexpr double at_edge = 1e-3;                  // mm: an end that was caught lies on the outline
constexpr std::size_t most_nodes_measured = 3000; // what takes longer the screen does not wait for

std::optional<Box> ink_of(const Document& document, PieceId id, const DocumentEvaluator& evaluator) {
  const Result<PieceResult> r = evaluator.seat_now(document, id);
  return r && !r->ink.empty() ? std::optional(r->ink) : std::nullopt;
}

MarkEnd end_at(const Document& document, Point p, const DocumentEvaluator& evaluator) {
  PieceId piece = 0;
  if (const auto caught = catch_at(document, evaluator, p, at_edge, {.letters = CatchLetters::Yes}))
    piece = caught->piece;
  const std::optional<Box> ink = piece != 0 ? ink_of(document, piece, evaluator) : std::nullopt;
  if (!ink)
    return {0, p};
  return {piece, share_of(*ink, p)};
}

std::optional<Point> place_of(const Document& document, const MarkEnd& end, const DocumentEvaluator& evaluator) {
  if (end.piece == 0)
    return end.at;
  const std::optional<Box> ink = ink_of(document, end.piece, evaluator);
  if (!ink)
    return std::nullopt;
  return at_share(*ink, end.at);
}

} // namespace

DimensionMark mark_of(const Document& document, const MeasuredLine& line, const DocumentEvaluator& evaluator) {
  return {end_at(document, line.from, evaluator), end_at(document, line.to, evaluator), mark_beside};
}

std::optional<MarkDrawn> drawn(const Document& document, const DimensionMark& mark,
                               const DocumentEvaluator& evaluator) {
  const std::optional<Point> from = place_of(document, mark.from, evaluator);
  const std::optional<Point> to = place_of(document, mark.to, evaluator);
  if (!from || !to || !(distance(*from, *to) > 0))
    return std::nullopt;
  MarkDrawn out{*from, *to, {}, {}, {}, distance(*from, *to), 0};
  const Vec along = (*to - *from) / out.length;
  const Vec by = mark.beside * Vec{along.y, -along.x};
  out.line_from = *from + by, out.line_to = *to + by;
  out.middle = out.line_from + (out.line_to - out.line_from) / 2;
  out.angle = degrees(std::atan2(along.y, along.x));
  if (out.angle > 90 + 1e-9)
    out.angle -= 180;
  else if (out.angle <= -90 + 1e-9)
    out.angle += 180;
  return out;
}

std::optional<std::size_t> mark_at(const Document& document, Point p, double reach,
                                   const DocumentEvaluator& evaluator) {
  std::optional<std::size_t> best;
  for (std::size_t i = 0; i < document.marks.size(); ++i)
    if (const auto m = drawn(document, document.marks[i], evaluator)) {
      const Vec v = m->line_to - m->line_from;
      const double t = std::clamp(dot(p - m->line_from, v) / dot(v, v), 0.0, 1.0);
      if (const double d = distance(m->line_from + t * v, p); d <= reach)
        best = i, reach = d;
    }
  return best;
}

double beside_through(const MarkDrawn& mark, Point p) {
  return cross(p - mark.from, mark.to - mark.from) / mark.length;
}

PieceMeasures measures_of(const PieceResult& piece) {
  PieceMeasures out;
  const Outline outline = seated_outline(piece);
  bool closed = true;
  out.length = outline.length();
  for (const Contour& c : outline.contours)
    closed = closed && c.closed;
  if (!closed || outline.node_count() > most_nodes_measured)
    return out; // letters that overlap count once: a weld
  if (const auto welded = weld({outline}))
    out.area = std::abs(welded->outline.area());
  return out;
}

std::optional<double> gap_between(const PieceResult& a, const PieceResult& b) {
  const Outline first = seated_outline(a), second = seated_outline(b);
  if (first.contours.empty() || second.contours.empty() ||
      first.node_count() + second.node_count() > most_nodes_measured)
    return std::nullopt;
  const auto inside = [](const Outline& in, const Outline& of) {
    return winding_number(of, in.contours.front().segments.front().p0, 0.01) != 0;
  };
  if (inside(first, second) || inside(second, first))
    return 0;
  return closest_boundaries(first, second).distance;
}

std::optional<MeasuredLine> across_stroke(const Document& document, const DocumentEvaluator& evaluator, Point at) {
  for (auto it = document.pieces.rbegin(); it != document.pieces.rend(); ++it) {
    const Piece& piece = **it;
    if (!piece.visible || (piece.guide() != nullptr && !piece.is_shape()))
      continue;
    const Result<PieceResult> now = evaluator.seat_now(document, piece.id);
    if (!now || !now->ink.contains(at))
      continue;
    const Outline outline = seated_outline(*now);
    if (winding_number(outline, at) == 0)
      continue;
    const auto edge = nearest_on(outline, at);
    const Vec way = edge ? at - edge->point : Vec{};
    if (!(length(way) > 0))
      continue;
    // The first place beyond on the same line.
    const Vec along = way / length(way);
    const double far = std::hypot(now->ink.width(), now->ink.height());
    const Segment ray = Segment::line(at, at + far * along);
    double nearest = far;
    for (const Contour& c : outline.contours)
      for (const Segment& s : c.segments)
        for (const CurveCrossing& c2 : crossings(ray, s))
          nearest = std::min(nearest, c2.t * far);
    if (nearest < far)
      return MeasuredLine{edge->point, at + nearest * along};
  }
  return std::nullopt;
}

std::optional<AlongCurve> along_curve(const Document& document, const DocumentEvaluator& evaluator,
                                      const MeasuredLine& line) {
  for (auto it = document.pieces.rbegin(); it != document.pieces.rend(); ++it) {
    const Piece& piece = **it;
    const Result<PieceResult> now = evaluator.seat_now(document, piece.id);
    if (!piece.visible || !now)
      continue;
    const Outline outline = now->outline != nullptr ? *now->outline : seated_outline(*now);
    const auto near = [&](Point p) {
      const auto n = nearest_on(outline, p);
      return n && n->distance <= at_edge ? n : std::nullopt;
    };
    if (!outline.bounds().grown(at_edge).contains(line.from) || !outline.bounds().grown(at_edge).contains(line.to))
      continue;
    const auto from = near(line.from), to = near(line.to);
    if (!from || !to || from->contour != to->contour)
      continue;
    const Contour& c = outline.contours[from->contour];
    const auto before = [&](const NearestOnOutline& at) { // mm along the contour
      Contour part{{c.segments.begin(), c.segments.begin() + static_cast<std::ptrdiff_t>(at.segment)}, false};
      part.segments.push_back(c.segments[at.segment].part(0, at.t));
      return part.length();
    };
    const double way = std::abs(before(*to) - before(*from));
    if (!c.closed)
      return AlongCurve{way, {}};
    const double rest = c.length() - way;
    return AlongCurve{std::min(way, rest), std::max(way, rest)};
  }
  return std::nullopt;
}

Result<Document> moved_to_measure(const Document& document, const std::vector<PieceId>& selection,
                                  const MeasuredLine& line, double length, const DocumentEvaluator& evaluator) {
  const double now = distance(line.from, line.to);
  if (!(now > 0) || !(length >= 0) || !std::isfinite(length))
    return bad_input(FRELM_WORDS("core", "draw a line of some length and say how long it is"));
  std::vector<PieceId> ids = selection;
  if (const PieceId end = end_at(document, line.to, evaluator).piece; ids.empty() && end != 0)
    ids = {end};
  if (ids.empty())
    return bad_input(FRELM_WORDS("core", "the line ends on no piece that could move; select one, or end it on one"));
  Document out = move_pieces(document, ids, (line.to - line.from) * ((length - now) / now));
  if (out == document && length != now)
    return bad_input(FRELM_WORDS("core", "what the line ends on is locked"));
  return out;
}

Document without_mark(Document document, std::size_t at) {
  if (at < document.marks.size())
    document.marks.erase(document.marks.begin() + static_cast<std::ptrdiff_t>(at));
  return document;
}

Document without_lost_marks(Document document) {
  std::erase_if(document.marks, [&](const DimensionMark& m) {
    return (m.from.piece != 0 && document.find(m.from.piece) == nullptr) ||
           (m.to.piece != 0 && document.find(m.to.piece) == nullptr);
  });
  return document;
}

} // namespace frelm
