// Places along one way are numbers, and lines that catch are sorted by theirs, so each place finds its nearest by a
// search. Gaps are between the box that is moved and the nearest boxes to both sides that stand in the same row.
#include "document/align_catch.h"

#include "document/ruler_lines.h"

#include <algorithm>

namespace frelm {
namespace {

struct Place {
  AlignSide side;
  double at;
};

bool catches(const Place& place, const AlignLine& line) {
  const auto of_box = [](AlignSide s) { return s <= AlignSide::High; };
  return line.to == AlignTo::RulerLine || place.side == line.side || (of_box(place.side) && of_box(line.side));
}

int rank(const AlignCaught& c) { // of equally near ones
  if (c.line.to == AlignTo::RulerLine)
    return 0;
  const bool middles = c.side == AlignSide::Middle && c.line.side == AlignSide::Middle;
  return 1 + (middles ? 0 : 2) + (c.line.to == AlignTo::Piece ? 0 : 1) + (c.line.side == AlignSide::EqualGap ? 4 : 0);
}

void offer(std::optional<AlignCaught>& best, const AlignCaught& now, double reach) {
  constexpr double alike = 1e-6; // mm
  if (std::abs(now.by) > reach)
    return;
  const double nearer = best ? std::abs(best->by) - std::abs(now.by) : reach;
  if (!best || nearer > alike || (nearer > -alike && rank(now) < rank(*best)))
    best = now;
}

std::optional<AlignCaught> nearest(const std::vector<AlignLine>& lines, const std::vector<Place>& places,
                                   double reach) {
  std::optional<AlignCaught> best;
  for (const Place& p : places) {
    const auto from = std::lower_bound(lines.begin(), lines.end(), p.at - reach,
                                       [](const AlignLine& l, double at) { return l.at < at; });
    for (auto l = from; l != lines.end() && l->at <= p.at + reach; ++l)
      if (catches(p, *l))
        offer(best, {*l, p.side, l->at - p.at}, reach);
  }
  return best;
}

// The box seen along one way: from low to high, and the band that it takes across.
struct Span {
  double low, high, from, to;
  bool beside(const Span& o) const { return from < o.to && o.from < to; }
};
Span span_of(const Box& b, bool across) {
  return across ? Span{b.x0, b.x1, b.y0, b.y1} : Span{b.y0, b.y1, b.x0, b.x1};
}

// The nearest box before `of` (or after it) in its row.
const PlacedBox* neighbour(const std::vector<PlacedBox>& others, const Span& of, bool across, bool before,
                           const PlacedBox* except) {
  const PlacedBox* best = nullptr;
  double nearest = 1e18;
  for (const PlacedBox& o : others) {
    const Span s = span_of(o.box, across);
    const double gap = before ? of.low - s.high : s.low - of.high;
    if (&o != except && s.beside(of) && gap > 0 && gap < nearest)
      best = &o, nearest = gap;
  }
  return best;
}

void equal_gaps(const AlignLines& lines, const Box& moved, bool across, double reach,
                std::optional<AlignCaught>& best) {
  const Span m = span_of(moved, across);
  const PlacedBox* before = neighbour(lines.others, m, across, true, nullptr);
  const PlacedBox* after = neighbour(lines.others, m, across, false, nullptr);
  const auto catch_low = [&](double low, const PlacedBox& by, const PlacedBox& other, double gap) {
    AlignCaught c;
    c.line = {low, AlignSide::EqualGap, AlignTo::Piece, by.piece, by.box};
    c.side = AlignSide::Low, c.by = low - m.low;
    const auto gap_box = [&](double from) {
      return across ? Box{from, moved.y0, from + gap, moved.y1} : Box{moved.x0, from, moved.x1, from + gap};
    };
    const Span a = span_of(by.box, across), b = span_of(other.box, across);
    const double high = low + (m.high - m.low);
    c.equal.push_back(gap_box(a.low < low ? a.high : high));
    if (&by != &other && (a.low < low) == (b.low < low)) // both to one side: the gap between them
      c.equal.push_back(gap_box(std::min(a.high, b.high)));
    else
      c.equal.push_back(gap_box(b.low < low ? b.high : high));
    offer(best, c, reach);
  };
  if (before != nullptr && after != nullptr) {
    const Span a = span_of(before->box, across), b = span_of(after->box, across);
    if (const double gap = (b.low - a.high - (m.high - m.low)) / 2; gap > 0)
      catch_low(a.high + gap, *before, *after, gap);
  }
  if (before != nullptr) {
    const Span a = span_of(before->box, across);
    if (const PlacedBox* next = neighbour(lines.others, a, across, true, before)) {
      const double gap = a.low - span_of(next->box, across).high;
      catch_low(a.high + gap, *before, *next, gap);
    }
  }
  if (after != nullptr) {
    const Span b = span_of(after->box, across);
    if (const PlacedBox* next = neighbour(lines.others, b, across, false, after)) {
      const double gap = span_of(next->box, across).low - b.high;
      catch_low(b.low - gap - (m.high - m.low), *after, *next, gap);
    }
  }
}

} // namespace

PlacedBox placed_box(PieceId id, const PieceResult& r) {
  PlacedBox out{id, r.ink};
  if (r.seated == nullptr)
    return out;
  constexpr std::size_t most_lines = 100; // letters on a slope, one by one
  for (const PlacedLetter& l : r.seated->letters) {
    if (l.blank())
      continue;
    if (std::abs(l.angle) > 1e-9 || l.shape != l.plain || out.baselines.size() > most_lines)
      return {id, r.ink};
    if (out.baselines.empty() || std::abs(out.baselines.back() - l.origin.y) > 1e-6) {
      out.baselines.push_back(l.origin.y);
      out.cap_lines.push_back(l.origin.y - r.seated->spaced->set->cap_height);
    }
  }
  return out;
}

AlignLines align_lines(const Document& document, std::vector<PlacedBox> others) {
  AlignLines out;
  const auto add = [&](PieceId piece, const Box& box) {
    if (box.empty())
      return;
    const AlignTo to = piece != 0 ? AlignTo::Piece : AlignTo::Sheet;
    const double x[]{box.x0, box.centre().x, box.x1}, y[]{box.y0, box.centre().y, box.y1};
    for (std::size_t i = 0; i < 3; ++i) {
      out.across.push_back({x[i], static_cast<AlignSide>(i), to, piece, box});
      out.down.push_back({y[i], static_cast<AlignSide>(i), to, piece, box});
    }
  };
  const Box sheet{0, 0, document.sheet.width, document.sheet.height};
  add(0, sheet);
  for (const PlacedBox& o : others) {
    add(o.piece, o.box);
    for (const double y : o.baselines)
      out.down.push_back({y, AlignSide::Baseline, AlignTo::Piece, o.piece, o.box});
    for (const double y : o.cap_lines)
      out.down.push_back({y, AlignSide::CapLine, AlignTo::Piece, o.piece, o.box});
  }
  for (const RulerLine& l : document.ruler_lines) {
    if (const auto x = upright_at(l))
      out.across.push_back({*x, AlignSide::Low, AlignTo::RulerLine, 0, sheet});
    if (const auto y = level_at(l))
      out.down.push_back({*y, AlignSide::Low, AlignTo::RulerLine, 0, sheet});
  }
  for (std::vector<AlignLine>* lines : {&out.across, &out.down})
    std::sort(lines->begin(), lines->end(), [](const AlignLine& a, const AlignLine& b) { return a.at < b.at; });
  out.others = std::move(others);
  return out;
}

AlignCatch align_catch(const AlignLines& lines, const PlacedBox& moved, double reach) {
  const Box& box = moved.box;
  if (box.empty())
    return {};
  std::vector<Place> across{{AlignSide::Low, box.x0}, {AlignSide::Middle, box.centre().x}, {AlignSide::High, box.x1}};
  std::vector<Place> down{{AlignSide::Low, box.y0}, {AlignSide::Middle, box.centre().y}, {AlignSide::High, box.y1}};
  for (const double y : moved.baselines)
    down.push_back({AlignSide::Baseline, y});
  for (const double y : moved.cap_lines)
    down.push_back({AlignSide::CapLine, y});
  AlignCatch out{nearest(lines.across, across, reach), nearest(lines.down, down, reach)};
  equal_gaps(lines, box, true, reach, out.across);
  equal_gaps(lines, box, false, reach, out.down);
  return out;
}

std::optional<SizeCaught> size_catch(const std::vector<PlacedBox>& others, const Box& sized, double scale,
                                     double reach) {
  std::optional<SizeCaught> out;
  double nearest = reach;
  const auto offer = [&](double mine, double theirs, PieceId piece, bool wide) {
    if (const double off = std::abs(theirs - mine * scale); mine > 0 && theirs > 0 && off < nearest)
      nearest = off, out = SizeCaught{theirs / mine, piece, wide};
  };
  for (const PlacedBox& other : others) {
    offer(sized.width(), other.box.width(), other.piece, true);
    offer(sized.height(), other.box.height(), other.piece, false);
  }
  return out;
}

} // namespace frelm
