// Corners: the run is laid from its first letter on; a letter that would reach into a corner's room starts after it
// instead, and the room left before the corner is shared among the gaps of the side just finished. The run's extent
// changes by that, so a run held by its middle or end is laid again from a moved start until it stays (at most
// most_rounds times; the best is kept: near a corner no start may be exact).
#include "lettering/run_layout.h"

#include "geom/bisect.h"

namespace frelm {
namespace {

constexpr int most_rounds = 24;
constexpr double sharpest_turn = 150 * pi / 180; // beyond it no margin would do
constexpr double most_margin_share = 0.45;       // of the shorter side beside the corner
constexpr double settled = 1e-6;                 // mm

void append(Run& run, const SpacedText& text, std::size_t line, double from) {
  const SpacedLine& l = text.lines[line];
  const bool first = run.cells.empty();
  for (std::size_t i = 0; i < l.middles.size(); ++i) {
    const SetCluster& c = text.set->lines[line][i];
    const double at = from + l.middles[i] - c.advance / 2;
    run.cells.push_back({line, i, at, at, c.advance, c.blank(), false});
  }
  run.length = run.plain_length = from + l.length;
  if (first)
    run.ink_start = from + l.ink_start;
  run.ink_end = from + l.ink_end;
}

struct Laid {
  std::vector<RunCell> cells;
  double first = 0, last = 0; // extent of the inked letters' advances
};

Laid lay_once(const Run& run, double start, std::vector<CornerStop> stops) {
  Laid out;
  out.cells = run.cells;
  double shift = 0;
  std::size_t side_start = 0; // first cell of the side being filled
  std::size_t next = 0;       // the first stop not yet passed
  const auto finish_side = [&](std::size_t end, double room_end) {
    // Share what is free up to the stop among the gaps between this side's inked letters.
    std::vector<std::size_t> inked;
    for (std::size_t i = side_start; i < end; ++i)
      if (!out.cells[i].blank)
        inked.push_back(i);
    if (inked.empty())
      return;
    const RunCell& last = out.cells[inked.back()];
    const double free = room_end - (last.at + last.advance);
    if (!(free > 0))
      return;
    if (inked.size() == 1 && side_start > 0) {
      for (std::size_t i = side_start; i < end; ++i)
        out.cells[i].at += free / 2;
      return;
    }
    const auto gaps = static_cast<double>(inked.back() - inked.front());
    for (std::size_t i = inked.front(); i < end && gaps > 0; ++i)
      out.cells[i].at += free * std::min(static_cast<double>(i - inked.front()) / gaps, 1.0);
  };
  for (std::size_t i = 0; i < out.cells.size(); ++i) {
    RunCell& c = out.cells[i];
    c.at += start + shift;
    if (c.blank)
      continue;
    while (next < stops.size() && stops[next].at + stops[next].margin <= c.at + settled)
      ++next;
    bool moved = false;
    std::size_t stop = next;
    double to = c.at;
    while (stop < stops.size() && to + c.advance > stops[stop].at - stops[stop].margin + settled) {
      to = stops[stop].at + stops[stop].margin;
      moved = true;
      ++stop;
      const bool fits = stop == stops.size() || to + c.advance <= stops[stop].at - stops[stop].margin + settled;
      if (fits)
        break;
      if (stop - next > 8) { // sides shorter than the letter: it has to straddle
        moved = false;
        c.straddles = true;
        break;
      }
    }
    if (moved) {
      const double by = to - c.at;
      finish_side(i, stops[next].at - stops[next].margin);
      c.at = to;
      shift += by;
      side_start = i;
      next = stop;
    }
  }
  bool any = false;
  for (const RunCell& c : out.cells)
    if (!c.blank) {
      out.first = any ? std::min(out.first, c.at) : c.at;
      out.last = any ? std::max(out.last, c.at + c.advance) : c.at + c.advance;
      any = true;
    }
  return out;
}

// The least room before and after a corner at σ = here that keeps what stands `band` mm above the guide from meeting
// across it: band tan(half the turn) on straight sides, more where the sides themselves bend towards each other.
double corner_margin(const Parallel& line, double here, double turn, double band, double most) {
  if (band == 0)
    return 0;
  const double half = std::min(std::abs(turn), sharpest_turn) / 2;
  const double straight = std::abs(band) * std::tan(half);
  if (straight >= most)
    return most;
  const auto reach = [&](double sigma) {
    const CurvePlace p = line.at(sigma).on_curve;
    return p.point + up_of(p.tangent) * band;
  };
  constexpr double beside = 1e-4; // mm from the corner, where its two directions are taken
  const Vec across = unit(line.at(here - beside).on_curve.tangent + line.at(here + beside).on_curve.tangent);
  const auto clear = [&](double m) { return dot(reach(here + m) - reach(here - m), across) >= 0; };
  double low = 0, high = straight;
  while (!clear(high)) {
    low = high;
    high *= 1.25;
    if (high >= most)
      return most;
  }
  constexpr int halvings = 40;
  return bisect({low, high}, clear, halvings).high;
}

} // namespace

Run run_of_line(const SpacedText& text, std::size_t line) {
  Run run;
  append(run, text, line, 0);
  return run;
}

Run run_of_all_lines(const SpacedText& text, double gap) {
  Run run;
  for (std::size_t l = 0; l < text.lines.size(); ++l)
    append(run, text, l, l == 0 ? 0 : run.length + gap);
  return run;
}

Run repeated(const Run& unit, const SetText& set, std::size_t separator_first, std::uint64_t copies, double room,
             bool closed) {
  const auto is_separator = [&](const RunCell& c) { return set.lines[c.line][c.cluster].first >= separator_first; };
  double text_length = unit.length;
  for (const RunCell& c : unit.cells)
    if (is_separator(c))
      text_length = std::min(text_length, c.at);
  const double open_extra = closed ? 0 : unit.length - text_length;
  if (!(unit.length > 0))
    return unit;
  constexpr std::uint64_t most_copies = 2000;
  std::uint64_t n = copies;
  if (n == 0)
    n = static_cast<std::uint64_t>(std::clamp(std::floor((room + open_extra + 1e-6) / unit.length), 1.0, 1e6));
  n = std::min(n, most_copies);
  const double gaps = static_cast<double>(closed ? n : n - 1);
  const double used = static_cast<double>(n) * unit.length - open_extra;
  const double slack = gaps > 0 ? std::max(0.0, room - used) / gaps : 0;
  Run out;
  for (std::uint64_t k = 0; k < n; ++k) {
    const double from = static_cast<double>(k) * (unit.length + slack);
    for (RunCell c : unit.cells) {
      const bool of_separator = is_separator(c);
      if (of_separator && !closed && k + 1 == n)
        continue;
      c.at += from + (of_separator ? slack / 2 : 0);
      c.plain += static_cast<double>(k) * unit.length;
      out.cells.push_back(c);
    }
  }
  out.length = closed ? static_cast<double>(n) * (unit.length + slack)
                      : static_cast<double>(n - 1) * (unit.length + slack) + text_length;
  out.plain_length = static_cast<double>(n) * unit.length;
  out.ink_start = unit.ink_start;
  out.ink_end = out.length;
  return out;
}

Run repeated_by_sides(const Run& unit, const SetText& set, std::size_t separator_first,
                      const std::vector<CornerStop>& stops, double around, bool closed) {
  Run out;
  struct Side {
    double from, to;
  };
  std::vector<Side> sides;
  for (std::size_t i = 0; i + 1 < stops.size(); ++i)
    sides.push_back({stops[i].at + stops[i].margin, stops[i + 1].at - stops[i + 1].margin});
  if (closed) {
    sides.push_back({stops.back().at + stops.back().margin, stops.front().at + around - stops.front().margin});
  } else {
    sides.insert(sides.begin(), {0, stops.front().at - stops.front().margin});
    sides.push_back({stops.back().at + stops.back().margin, around});
  }
  const Run once = repeated(unit, set, separator_first, 1, 0, false);
  for (const Side& side : sides) {
    const double room = side.to - side.from;
    if (once.length > room + settled)
      continue;
    const auto n = static_cast<std::uint64_t>(std::floor((room - once.length) / unit.length + settled)) + 1;
    // Laid tight first, to know what is left.
    const double used = repeated(unit, set, separator_first, n, 0, false).length;
    const double ends = (room - used) / static_cast<double>(n); // half at each end
    Run run = repeated(unit, set, separator_first, n, room - ends, false);
    for (RunCell& c : run.cells) {
      c.at += side.from + ends / 2;
      out.cells.push_back(c);
    }
  }
  if (!out.cells.empty())
    out.length = out.ink_end = out.cells.back().at + out.cells.back().advance;
  return out;
}

double spread(Run& run, double room, SpreadEnds ends, double tightest) {
  const std::size_t n = run.cells.size();
  const auto gaps = static_cast<double>(ends == SpreadEnds::Meeting ? n : n > 0 ? n - 1 : 0);
  if (!(gaps > 0))
    return 0;
  const double more = std::max((room - run.length) / gaps, -tightest);
  for (std::size_t i = 0; i < n; ++i)
    run.cells[i].at += more * static_cast<double>(i);
  run.length += more * static_cast<double>(n - 1);
  run.ink_end += more * static_cast<double>(n - 1);
  return more;
}

std::vector<CornerStop> corner_stops(const Parallel& line, double low, double high) {
  const std::vector<CurveCorner> corners = line.curve().corners();
  std::vector<CornerStop> out;
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const double here = line.from_curve(corners[i].s);
    const auto side_to = [&](std::size_t other, double turn) {
      return std::abs(line.from_curve(corners[other].s) + turn - here);
    };
    double side = line.length();
    if (i > 0)
      side = std::min(side, side_to(i - 1, 0));
    else if (line.closed() && corners.size() > 1)
      side = std::min(side, side_to(corners.size() - 1, -line.length()));
    if (i + 1 < corners.size())
      side = std::min(side, side_to(i + 1, 0));
    else if (line.closed() && corners.size() > 1)
      side = std::min(side, side_to(0, line.length()));
    // Turning clockwise the tops fan out and feet close in; the other way round tops close in.
    const double band = corners[i].turn > 0 ? std::min(0.0, low) : std::max(0.0, high);
    out.push_back({here, corner_margin(line, here, corners[i].turn, band, most_margin_share * side)});
  }
  return out;
}

double lay_by_sides(Run& run, double start, double anchor_share, const std::vector<CornerStop>& stops, double around,
                    bool closed) {
  if (stops.empty() || run.cells.empty())
    return start;
  std::vector<CornerStop> all;
  if (closed) {
    const auto first = static_cast<long>(std::floor((start - around) / around)),
               last = static_cast<long>(std::ceil((start + 2 * run.length + 2 * around) / around));
    for (long turn = first; turn < last; ++turn)
      for (const CornerStop& s : stops)
        all.push_back({s.at + static_cast<double>(turn) * around, s.margin});
  } else {
    all = stops;
  }
  const auto extent_of = [&](const Laid& laid) { return laid.first + anchor_share * (laid.last - laid.first); };
  // Where the anchor is to be: as the run lies before it meets corners.
  double first = 0, last = 0;
  bool any = false;
  for (const RunCell& c : run.cells)
    if (!c.blank) {
      first = any ? std::min(first, c.at) : c.at;
      last = any ? std::max(last, c.at + c.advance) : c.at + c.advance;
      any = true;
    }
  if (!any)
    return start;
  const double wanted = start + first + anchor_share * (last - first);
  Laid best;
  double best_miss = std::numeric_limits<double>::infinity(), now = start;
  for (int round = 0; round < (anchor_share == 0 ? 1 : most_rounds); ++round) {
    Laid laid = lay_once(run, now, all);
    const double miss = wanted - extent_of(laid);
    if (std::abs(miss) < best_miss - settled)
      best = std::move(laid), best_miss = std::abs(miss), start = now;
    if (best_miss < settled)
      break;
    now += miss * (round < 6 ? 1 : 0.5);
  }
  for (RunCell& c : best.cells)
    c.at -= start;
  run.cells = std::move(best.cells);
  run.length = std::max(run.length, best.last - start);
  run.ink_end = std::max(run.ink_end, best.last - start);
  return start;
}

} // namespace frelm
