// Ends and middles are looked up in a grid of cells as wide as the tolerance, with their neighbours.
#include "geom/clean_lines.h"

#include "geom/nesting.h"
#include "geom/nodes.h"

#include <algorithm>
#include <cstdint>
#include <numeric>
#include <unordered_map>

namespace frelm {
namespace {

class Grid {
public:
  explicit Grid(double cell) : cell_(std::max(cell, 1e-9)) {}
  void put(Point p, std::size_t what) { cells_[key(column(p.x), column(p.y))].push_back(what); }
  template <class Look> void around(Point p, const Look& look) const {
    const std::int64_t x = column(p.x), y = column(p.y);
    for (std::int64_t i = x - 1; i <= x + 1; ++i)
      for (std::int64_t j = y - 1; j <= y + 1; ++j)
        if (const auto at = cells_.find(key(i, j)); at != cells_.end())
          for (const std::size_t what : at->second)
            look(what);
  }

private:
  std::int64_t column(double v) const { return static_cast<std::int64_t>(std::floor(v / cell_)); }
  static std::uint64_t key(std::int64_t x, std::int64_t y) {
    return static_cast<std::uint64_t>(x) * 0x9E3779B97F4A7C15ULL ^ static_cast<std::uint64_t>(y);
  }
  double cell_;
  std::unordered_map<std::uint64_t, std::vector<std::size_t>> cells_;
};

bool same_line(const Segment& a, const Segment& b, double tolerance) {
  const auto near = [&](const Segment& c) {
    constexpr int places = 4;
    for (int i = 0; i <= places; ++i)
      if (distance(a.at(i / double(places)), c.at(i / double(places))) > tolerance)
        return false;
    return true;
  };
  return near(b) || near(b.reversed());
}

// Closed contours of the same extent, one of which runs along the other.
bool same_line(const Contour& a, const Contour& b, double tolerance) {
  const Outline other{{b}};
  constexpr int places = 3; // of each segment
  for (const Segment& s : a.segments)
    for (int i = 0; i < places; ++i)
      if (const auto n = nearest_on(other, s.at((i + 0.5) / places)); !n || n->distance > tolerance)
        return false;
  return true;
}

bool same_extent(const Box& a, const Box& b, double tolerance) {
  return distance({a.x0, a.y0}, {b.x0, b.y0}) <= tolerance && distance({a.x1, a.y1}, {b.x1, b.y1}) <= tolerance;
}

} // namespace

LinesCleaned without_doubles(std::vector<Contour> contours, double tolerance) {
  LinesCleaned out;
  Grid middles(tolerance);
  std::vector<const Segment*> kept; // of the contours given, which stay where they are
  const auto seen = [&](const Segment& s) {
    bool found = false;
    middles.around(s.at(0.5), [&](std::size_t i) { found = found || same_line(s, *kept[i], tolerance); });
    return found;
  };
  const auto keep = [&](const Segment& s) {
    middles.put(s.at(0.5), kept.size());
    kept.push_back(&s);
  };
  Grid corners(tolerance); // of the closed ones' extents
  std::vector<std::pair<Box, const Contour*>> closed;
  const auto drawn_before = [&](const Contour& c, const Box& box) {
    bool found = false;
    corners.around({box.x0, box.y0}, [&](std::size_t i) {
      found = found || (same_extent(box, closed[i].first, tolerance) && same_line(c, *closed[i].second, tolerance));
    });
    return found;
  };
  std::vector<std::vector<Contour>> left(contours.size());
  for (std::size_t i = 0; i < contours.size(); ++i) {
    const Contour& c = contours[i];
    if (!c.closed)
      continue;
    const Box box = c.bounds();
    if (!c.segments.empty() && (std::all_of(c.segments.begin(), c.segments.end(), seen) || drawn_before(c, box))) {
      out.doubles += c.segments.size();
      continue;
    }
    for (const Segment& s : c.segments)
      keep(s);
    corners.put({box.x0, box.y0}, closed.size());
    closed.emplace_back(box, &c);
    left[i].push_back(c);
  }
  for (std::size_t i = 0; i < contours.size(); ++i) {
    if (contours[i].closed)
      continue;
    bool goes_on = false;
    for (const Segment& s : contours[i].segments) {
      if (seen(s)) {
        ++out.doubles;
        goes_on = false;
        continue;
      }
      keep(s);
      if (!goes_on)
        left[i].push_back({{}, false});
      left[i].back().segments.push_back(s);
      goes_on = true;
    }
  }
  for (std::size_t i = 0; i < left.size(); ++i)
    for (Contour& c : left[i]) {
      out.contours.push_back(std::move(c));
      out.from.push_back(i);
    }
  return out;
}

namespace {

// Two ends of each open contour: 2i its start, 2i + 1 its end.
class Joiner {
public:
  Joiner(std::vector<Contour> lines, double tolerance) : lines_(std::move(lines)), tolerance_(tolerance) {
    partner_.assign(2 * lines_.size(), none);
    pair_up();
  }

  LinesCleaned chains() {
    LinesCleaned out;
    used_.assign(lines_.size(), false);
    for (const bool rings : {false, true}) // chains from their free ends first, then what has none
      for (std::size_t i = 0; i < lines_.size(); ++i)
        for (const std::size_t end : {2 * i, 2 * i + 1})
          if (!used_[i] && (rings || partner_[end] == none))
            out.contours.push_back(chain_from(end, out.joined));
    return out;
  }

private:
  static constexpr std::size_t none = static_cast<std::size_t>(-1);

  Point at(std::size_t end) const {
    const std::vector<Segment>& s = lines_[end / 2].segments;
    return end % 2 == 0 ? s.front().p0 : s.back().p3;
  }
  Vec out_of(std::size_t end) const { // the way on beyond the end
    const std::vector<Segment>& s = lines_[end / 2].segments;
    return end % 2 == 0 ? -s.front().start_tangent() : s.back().end_tangent();
  }

  void pair_up() {
    struct Meeting {
      double bend = 0; // 0: goes on straight
      std::size_t a = 0, b = 0;
    };
    Grid grid(tolerance_);
    std::vector<Meeting> meetings;
    constexpr std::size_t most = 64; // ends at one place; further ones stay free
    for (std::size_t end = 0; end < partner_.size(); ++end) {
      std::size_t met = 0;
      grid.around(at(end), [&](std::size_t other) {
        if (met < most && distance(at(end), at(other)) <= tolerance_) {
          const bool of_itself = end / 2 == other / 2;
          if (of_itself && !(lines_[end / 2].length() > 4 * tolerance_))
            return; // too short to come back to its start
          meetings.push_back({1 + dot(out_of(end), out_of(other)), end, other});
          ++met;
        }
      });
      grid.put(at(end), end);
    }
    std::stable_sort(meetings.begin(), meetings.end(),
                     [](const Meeting& a, const Meeting& b) { return a.bend < b.bend; });
    for (const Meeting& m : meetings)
      if (partner_[m.a] == none && partner_[m.b] == none)
        partner_[m.a] = m.b, partner_[m.b] = m.a;
  }

  Contour chain_from(std::size_t first, std::size_t& joints) {
    Contour out{{}, false};
    std::size_t from = first;
    for (;;) {
      const std::size_t line = from / 2;
      used_[line] = true;
      const Contour piece = from % 2 == 0 ? lines_[line] : lines_[line].reversed();
      for (Segment s : piece.segments) {
        if (!out.segments.empty() && s.p0 != out.segments.back().p3)
          begin_at(s, out.segments.back().p3);
        out.segments.push_back(s);
      }
      const std::size_t next = partner_[from ^ 1];
      if (next == none)
        return out;
      ++joints;
      if (used_[next / 2]) { // back at the start
        Segment& last = out.segments.back();
        end_at(last, out.segments.front().p0);
        out.closed = true;
        return out;
      }
      from = next;
    }
  }
  static void begin_at(Segment& s, Point p) {
    if (s.is_line())
      s = Segment::line(p, s.p3);
    else
      s.p0 = p;
  }
  static void end_at(Segment& s, Point p) {
    if (s.is_line())
      s = Segment::line(s.p0, p);
    else
      s.p3 = p;
  }

  std::vector<Contour> lines_;
  double tolerance_;
  std::vector<std::size_t> partner_;
  std::vector<bool> used_;
};

} // namespace

LinesCleaned joined(std::vector<Contour> contours, double tolerance) {
  std::vector<Contour> open;
  LinesCleaned out;
  for (Contour& c : contours)
    if (!c.segments.empty())
      (c.closed ? out.contours : open).push_back(std::move(c));
  LinesCleaned chains = Joiner(std::move(open), tolerance).chains();
  out.joined = chains.joined;
  for (Contour& c : chains.contours)
    out.contours.push_back(std::move(c));
  return out;
}

std::vector<Outline> nested(std::vector<Contour> contours) {
  std::vector<Outline> out;
  std::vector<std::size_t> closed;
  std::vector<double> area;
  std::vector<const Contour*> lines;
  for (std::size_t i = 0; i < contours.size(); ++i) {
    if (contours[i].closed)
      closed.push_back(i);
    area.push_back(contours[i].closed ? contours[i].area() : 0);
    lines.push_back(&contours[i]);
  }
  const std::vector<Nest> nests = nesting(lines);
  std::stable_sort(closed.begin(), closed.end(),
                   [&](std::size_t a, std::size_t b) { return std::abs(area[a]) > std::abs(area[b]); });
  std::vector<std::size_t> shape_of(contours.size(), 0);
  for (const std::size_t i : closed) {
    const bool hole = nests[i].depth % 2 != 0;
    Contour c = (area[i] > 0) == hole ? contours[i].reversed() : contours[i];
    if (hole) {
      shape_of[i] = shape_of[*nests[i].around];
      out[shape_of[i]].contours.push_back(std::move(c));
    } else {
      shape_of[i] = out.size();
      out.push_back({{std::move(c)}});
    }
  }
  for (Contour& c : contours)
    if (!c.closed && !c.segments.empty())
      out.push_back({{std::move(c)}});
  return out;
}

} // namespace frelm
