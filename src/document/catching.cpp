#include "document/catching.h"
#include "document/ruler_lines.h"
#include "geom/said.h"

#include "geom/bisect.h"
#include "geom/crossings.h"
#include "geom/nodes.h"

#include <functional>

namespace frelm {

Words catch_name(CatchKind kind) {
  constexpr Words names[] = {
      FRELM_WORDS("core", "node"),     FRELM_WORDS("core", "corner"),     FRELM_WORDS("core", "centre"),
      FRELM_WORDS("core", "crossing"), FRELM_WORDS("core", "touching"),   FRELM_WORDS("core", "square"),
      FRELM_WORDS("core", "edge"),     FRELM_WORDS("core", "ruler line"), FRELM_WORDS("core", "edge of the sheet")};
  return names[static_cast<std::size_t>(kind)];
}

namespace {

// map: of its points.
template <class Map = std::identity> Box control_box_of(const Outline& outline, const Map& map = {}) {
  Box out;
  for (const Contour& c : outline.contours) {
    if (!c.segments.empty())
      out.add(map(c.segments.front().p0));
    for (const Segment& s : c.segments)
      out.add(map(s.p1)), out.add(map(s.p2)), out.add(map(s.p3));
  }
  return out;
}

// The letters of a text that come near p, and the box of its ink.
Outline letters_near(const SeatedText& text, Point p, double reach) {
  const Box& b = text.ink;
  const Point corners[] = {{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
  Contour extent;
  for (std::size_t i = 0; i < std::size(corners); ++i)
    extent.segments.push_back(Segment::line(corners[i], corners[(i + 1) % std::size(corners)]));
  Outline out{{extent}};
  for (const PlacedLetter& l : text.letters)
    if (!l.blank() && control_box_of(*l.shape, l.place).grown(reach).contains(p))
      out.append(l.shape->transformed(l.place));
  return out;
}

// The parameters of a segment at which a value changes its sign, found by halving: two of one sixteenth are missed.
template <class Value, class Visit> void for_each_root(const Value& value, const Visit& visit) {
  constexpr int parts = 16;
  double before = value(0.0);
  for (int i = 0; i < parts; ++i) {
    const double low = double(i) / parts, high = double(i + 1) / parts, after = value(high);
    if (before * after <= 0)
      visit(bisect({low, high}, [&](double t) { return before * value(t) <= 0; }).high);
    before = after;
  }
}

// Where an outline crosses a ruler line nearest to p.
std::optional<Point> crossing_near(const Outline& outline, const RulerLine& line, Point p, double reach) {
  std::optional<Point> best;
  double nearest = reach;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      if (s.bounds().grown(reach).contains(p))
        for_each_root([&](double t) { return cross(way_of(line), s.at(t) - line.at); },
                      [&](double t) {
                        if (const double d = distance(s.at(t), p); d < nearest)
                          best = s.at(t), nearest = d;
                      });
  return best;
}

// The segments of an outline that come near p.
struct NearSegment {
  Segment segment;
  Box box;
  PieceId piece = 0;
};
void add_near(std::vector<NearSegment>& out, const Outline& outline, PieceId piece, Point p, double reach) {
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      if (const Box box = s.control_box(); box.grown(reach).contains(p))
        out.push_back({s, box, piece});
}

// Where lines cross each other nearest to p, also those of one piece; not where one goes on as the next.
std::optional<Caught> crossing_of_lines(const std::vector<NearSegment>& near, Point p, double reach) {
  constexpr std::size_t most_segments = 60; // a hand that sees more sees no single crossing
  std::optional<Caught> best;
  if (near.size() > most_segments)
    return best;
  double nearest = reach;
  for (std::size_t i = 0; i < near.size(); ++i)
    for (std::size_t k = i + 1; k < near.size(); ++k) {
      if (!near[i].box.overlaps(near[k].box))
        continue;
      for (const CurveCrossing& c : crossings(near[i].segment, near[k].segment)) {
        constexpr double at_end = 1e-6;
        const bool joint =
            near[i].piece == near[k].piece && (c.t < at_end || c.t > 1 - at_end) && (c.u < at_end || c.u > 1 - at_end);
        if (const double d = distance(c.point, p); !joint && d < nearest)
          best = Caught{CatchKind::Crossing, c.point, near[i].piece}, nearest = d;
      }
    }
  return best;
}

// Where a line from a place touches a curved segment, or stands square to any, nearest to p: where the cross or the dot
// product of its way with the tangent is nothing.
std::optional<Caught> seen_from(Point from, const std::vector<NearSegment>& near, Point p, double reach) {
  std::optional<Caught> best;
  double nearest = reach;
  for (const NearSegment& n : near)
    for (const CatchKind kind : {CatchKind::Touch, CatchKind::Square}) {
      if (kind == CatchKind::Touch && n.segment.is_line())
        continue;
      const auto value = [&](double t) {
        const Vec way = n.segment.at(t) - from, along = n.segment.derivative(t);
        return kind == CatchKind::Touch ? cross(way, along) : dot(way, along);
      };
      for_each_root(value, [&](double t) {
        constexpr double away = 1e-6; // of a place itself there is no way
        const Point at = n.segment.at(t);
        if (const double d = distance(at, p); d < nearest && distance(at, from) > away)
          best = Caught{kind, at, n.piece}, nearest = d;
      });
    }
  return best;
}

} // namespace

std::optional<Caught> catch_at(const Document& document, const DocumentEvaluator& evaluator, Point p, double reach,
                               const CatchHow& how) {
  std::optional<Caught> best;
  double nearest = reach;
  const auto offer = [&](CatchKind kind, Point at, PieceId piece, double handicap = 0) {
    if (const double d = distance(at, p) + handicap; d < nearest)
      best = Caught{kind, at, piece}, nearest = d;
  };
  std::vector<std::pair<PieceId, std::shared_ptr<const Outline>>> near;
  for (const auto& piece : document.pieces) {
    const bool lettering = piece->lettering() != nullptr;
    if (!piece->visible || (lettering && how.letters == CatchLetters::No) ||
        std::find(how.except.begin(), how.except.end(), piece->id) != how.except.end())
      continue;
    std::shared_ptr<const Outline> outline;
    if (const OutlinePiece* o = piece->outline()) {
      outline = o->outline;
    } else if (const Result<PieceResult> r = evaluator.seat_now(document, piece->id); r) {
      if (lettering && !r->ink.grown(reach).contains(p))
        continue;
      outline = r->seated != nullptr ? std::make_shared<const Outline>(letters_near(*r->seated, p, reach)) : r->outline;
      if (r->line != nullptr && r->line->curve->closed())
        offer(CatchKind::Centre, r->line->centre, piece->id);
    }
    if (outline == nullptr)
      continue;
    if (!control_box_of(*outline).grown(reach).contains(p))
      continue; // of thousands most; exact extremes take ten times as long
    const Box box = outline->bounds();
    if ((lettering || piece->outline() != nullptr) && box.grown(reach).contains(p))
      offer(CatchKind::Centre, box.centre(), piece->id);
    if (!box.grown(reach).contains(p))
      continue;
    near.emplace_back(piece->id, outline);
    for (const Contour& c : outline->contours)
      for (std::size_t i = 0; i < node_count(c); ++i) {
        const Point at = node_point(c, i);
        if (distance(at, p) > reach)
          continue;
        const NodeKind kind = node_kind(c, i);
        offer(kind == NodeKind::Corner || kind == NodeKind::End ? CatchKind::Corner : CatchKind::Node, at, piece->id);
      }
  }
  std::vector<NearSegment> lines;
  for (const auto& [id, outline] : near)
    add_near(lines, *outline, id, p, reach);
  if (const auto crossing = crossing_of_lines(lines, p, reach))
    offer(CatchKind::Crossing, crossing->at, crossing->piece);
  if (how.from)
    if (const auto seen = seen_from(*how.from, lines, p, reach))
      offer(seen->kind, seen->at, seen->piece);
  const std::vector<RulerLine>& rulers = document.ruler_lines;
  for (std::size_t i = 0; i < rulers.size(); ++i) {
    if (distance(foot_on(rulers[i], p), p) > reach)
      continue;
    for (std::size_t k = i + 1; k < rulers.size(); ++k)
      if (const auto at = crossing_of(rulers[i], rulers[k]))
        offer(CatchKind::Crossing, *at, 0);
    for (const auto& [id, outline] : near)
      if (const auto at = crossing_near(*outline, rulers[i], p, reach))
        offer(CatchKind::Crossing, *at, id);
  }
  if (best)
    return best;
  for (const RulerLine& l : rulers)
    offer(CatchKind::RulerLine, foot_on(l, p), 0);
  // Edges only where no point catches.
  for (const auto& [id, outline] : near)
    if (const auto n = nearest_on(*outline, p))
      offer(CatchKind::Edge, n->point, id);
  const Sheet& s = document.sheet;
  for (const Point at : {Point{0, p.y}, Point{s.width, p.y}, Point{p.x, 0}, Point{p.x, s.height}})
    offer(CatchKind::SheetEdge, at, 0);
  return best;
}

} // namespace frelm
