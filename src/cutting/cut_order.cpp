#include "cutting/cut_order.h"

#include "geom/along.h"
#include "geom/nesting.h"

#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/index/rtree.hpp>
#include <map>
#include <numeric>
#include <random>

namespace frelm {
namespace {

namespace bg = boost::geometry;
using TreePoint = bg::model::d2::point_xy<double>;
using Place = std::pair<TreePoint, std::size_t>;

constexpr std::size_t most_starts = 32;  // places at which a closed line may begin
constexpr double corner = 20 * pi / 180; // radians: a seam hides in such a turn
constexpr unsigned looked_through = 60;  // places to begin at, for
constexpr std::size_t neighbours = 10;   // that a line may come next to
constexpr std::size_t longest_moved = 3; // lines in a row
constexpr std::size_t longest_turned = 1000;
constexpr int most_passes = 40;
constexpr int rounds = 2; // of order and starts
constexpr std::size_t most_shakes = 400, shaken_lines = 30'000, longest_shaken = 30;
constexpr double least_gain = 1e-6; // mm

// A line with the places at which it may be begun.
struct Line {
  std::size_t piece = 0, contour = 0;
  bool closed = true;
  std::vector<std::size_t> at; // segments, of closed lines; of open ones 0 is the first end, 1 the last
  std::vector<Point> in, out;  // for each of these
  std::size_t chosen = 0;
  Point entry() const { return in[chosen]; }
  Point exit() const { return out[chosen]; }
};

std::vector<std::size_t> corners_of(const Contour& c) {
  std::vector<std::size_t> out;
  const std::size_t n = c.segments.size();
  for (std::size_t i = 0; i < n; ++i)
    if (const Segment& before = c.segments[(i + n - 1) % n];
        std::abs(turn_between(before.end_tangent(), c.segments[i].start_tangent())) > corner)
      out.push_back(i);
  return out;
}
// Corners that point into the part, which lies inside of the line or outside of it; else the lowest node.
std::vector<std::size_t> hidden_places(const Contour& c, bool part_inside) {
  std::vector<std::size_t> out = corners_of(c);
  const std::size_t n = c.segments.size();
  const double sense = (c.area() > 0) == part_inside ? 1 : -1;
  std::erase_if(out, [&](std::size_t i) {
    return sense * turn_between(c.segments[(i + n - 1) % n].end_tangent(), c.segments[i].start_tangent()) > 0;
  });
  if (out.empty()) {
    const auto lowest = std::max_element(c.segments.begin(), c.segments.end(),
                                         [](const Segment& a, const Segment& b) { return a.p0.y < b.p0.y; });
    out.push_back(static_cast<std::size_t>(lowest - c.segments.begin()));
  }
  return out;
}

Line line_of(const Contour& c, std::size_t piece, std::size_t contour, Seam seam, bool part_inside) {
  Line out{piece, contour, c.closed, {}, {}, {}, 0};
  if (!c.closed) {
    const Point a = c.segments.front().p0, b = c.segments.back().p3;
    out.at = {0, 1}, out.in = {a, b}, out.out = {b, a};
    return out;
  }
  const std::size_t n = c.segments.size();
  out.at = seam == Seam::Hidden ? hidden_places(c, part_inside) : corners_of(c);
  if (out.at.empty())
    out.at.resize(n), std::iota(out.at.begin(), out.at.end(), std::size_t{0});
  if (out.at.size() > most_starts) { // spread over all of them
    std::vector<std::size_t> some;
    for (std::size_t i = 0; i < most_starts; ++i)
      some.push_back(out.at[i * out.at.size() / most_starts]);
    out.at = std::move(some);
  }
  for (const std::size_t i : out.at)
    out.in.push_back(c.segments[i].p0);
  out.out = out.in;
  return out;
}

class Orderer {
public:
  Orderer(std::vector<Line> lines, std::vector<Nest> nests, Point from, std::stop_token stop)
      : lines_(std::move(lines)), nests_(std::move(nests)), from_(from), stop_(std::move(stop)) {}

  std::vector<std::size_t> run() {
    begin();
    choose_starts();
    for (int round = 0; round < rounds && !stop_.stop_requested(); ++round) {
      find_neighbours();
      look_.assign(lines_.size(), true);
      improve();
      choose_starts();
    }
    if (order_.size() > 3)
      shake();
    return order_;
  }
  const Line& line(std::size_t i) const { return lines_[i]; }

private:
  double cost(std::size_t a, std::size_t b) const { return distance(exit_of(a), entry_of(b)); }
  // The knife's first place stands before all, and nothing after the last counts.
  static constexpr std::size_t none = static_cast<std::size_t>(-1);
  Point exit_of(std::size_t i) const { return i == none ? from_ : lines_[i].exit(); }
  Point entry_of(std::size_t i) const { return lines_[i].entry(); }

  // The nearest next line whose inner lines are done, at the nearest of its places.
  void begin() {
    std::vector<std::size_t> inner(lines_.size(), 0);
    for (const Nest& n : nests_)
      if (n.around)
        ++inner[*n.around];
    bg::index::rtree<Place, bg::index::rstar<16>> ready;
    const auto offer = [&](std::size_t i) {
      for (const Point p : lines_[i].in)
        ready.insert({{p.x, p.y}, i});
    };
    std::vector<Place> first;
    for (std::size_t i = 0; i < lines_.size(); ++i)
      if (inner[i] == 0)
        for (const Point p : lines_[i].in)
          first.push_back({{p.x, p.y}, i});
    ready = bg::index::rtree<Place, bg::index::rstar<16>>(first);
    Point knife = from_;
    std::vector<Place> found;
    while (!ready.empty()) {
      found.clear();
      ready.query(bg::index::nearest(TreePoint{knife.x, knife.y}, 1), std::back_inserter(found));
      const std::size_t i = found.front().second;
      Line& line = lines_[i];
      for (std::size_t k = 0; k < line.in.size(); ++k) {
        if (distance(line.in[k], knife) < distance(line.entry(), knife))
          line.chosen = k;
        ready.remove({{line.in[k].x, line.in[k].y}, i});
      }
      knife = line.exit();
      order_.push_back(i);
      if (nests_[i].around && --inner[*nests_[i].around] == 0)
        offer(*nests_[i].around);
    }
  }

  // For this order, the shortest way through the places of all lines.
  void choose_starts() {
    if (order_.empty())
      return;
    std::vector<std::vector<std::size_t>> came(order_.size());
    std::vector<double> before{0}, now;
    std::vector<Point> from{from_};
    for (std::size_t k = 0; k < order_.size(); ++k) {
      const Line& line = lines_[order_[k]];
      now.assign(line.in.size(), std::numeric_limits<double>::infinity());
      came[k].assign(line.in.size(), 0);
      for (std::size_t s = 0; s < line.in.size(); ++s)
        for (std::size_t b = 0; b < from.size(); ++b)
          if (const double d = before[b] + distance(from[b], line.in[s]); d < now[s])
            now[s] = d, came[k][s] = b;
      before = now, from = line.out;
    }
    auto best = static_cast<std::size_t>(std::min_element(before.begin(), before.end()) - before.begin());
    for (std::size_t k = order_.size(); k-- > 0;) {
      lines_[order_[k]].chosen = best;
      best = came[k][best];
    }
  }

  void find_neighbours() {
    std::vector<Place> places; // all at which lines may begin
    for (std::size_t i = 0; i < lines_.size(); ++i)
      for (const Point p : lines_[i].in)
        places.push_back({{p.x, p.y}, i});
    const bg::index::rtree<Place, bg::index::rstar<16>> tree(places);
    near_.assign(lines_.size(), {});
    std::vector<Place> found;
    for (std::size_t i = 0; i < lines_.size(); ++i) {
      found.clear();
      const Point p = exit_of(i);
      tree.query(bg::index::nearest(TreePoint{p.x, p.y}, looked_through), std::back_inserter(found));
      std::sort(found.begin(), found.end(), [&](const Place& a, const Place& b) {
        const double da = distance(p, {a.first.x(), a.first.y()}), db = distance(p, {b.first.x(), b.first.y()});
        return da != db ? da < db : a.second < b.second;
      });
      for (const Place& f : found)
        if (f.second != i && near_[i].size() < neighbours &&
            std::find(near_[i].begin(), near_[i].end(), f.second) == near_[i].end())
          near_[i].push_back(f.second);
    }
  }
  std::size_t before(std::size_t place) const { return place == 0 ? none : order_[place - 1]; }
  double to(std::size_t a, std::size_t place) const { // to what stands there; past the end is free
    return place < order_.size() ? cost(a, order_[place]) : 0;
  }
  void renumber(std::size_t first, std::size_t last) {
    for (std::size_t i = first; i <= last; ++i)
      place_[order_[i]] = i;
  }

  // Only lines beside which something has changed are looked at (Bentley, Fast algorithms for geometric traveling
  // salesman problems, 1992).
  void improve() {
    if (order_.empty())
      return;
    place_.resize(lines_.size());
    renumber(0, order_.size() - 1);
    for (int pass = 0; pass < most_passes; ++pass) {
      bool better = false;
      for (std::size_t i = 0; i < lines_.size(); ++i) {
        if (!look_[i])
          continue;
        if (stop_.stop_requested())
          return;
        const bool moved = std::any_of(near_[i].begin(), near_[i].end(), // what could come after i
                                       [&](std::size_t next) { return moved_after(i, next) || turned_after(i, next); });
        look_[i] = moved, better = better || moved;
      }
      if (!better)
        break;
    }
  }

  double way() const {
    double out = 0;
    for (std::size_t k = 0; k < order_.size(); ++k)
      out += cost(before(k), order_[k]);
    return out;
  }
  // Two neighbouring rows change places, what that upsets is improved, and what is no shorter is taken back; small
  // sheets are shaken often (Lourenço, Martin, Stützle, Iterated local search, 2003).
  void shake() {
    std::mt19937 random(static_cast<std::uint32_t>(order_.size()));
    const std::size_t n = order_.size(), times = std::min(most_shakes, shaken_lines / n);
    double least = way();
    for (std::size_t t = 0; t < times && !stop_.stop_requested(); ++t) {
      const std::vector<std::size_t> order = order_;
      std::vector<std::size_t> chosen;
      for (const Line& l : lines_)
        chosen.push_back(l.chosen);
      const std::size_t first = random() % (n - 1), room = std::min(n - first - 1, longest_shaken);
      const std::size_t a = 1 + random() % room, b = 1 + random() % std::min(n - first - a, longest_shaken);
      renumber(0, n - 1);
      if (!may_move(first, first + a - 1, first + a + b - 1))
        continue;
      for (const std::size_t at : {first, first + a, first + a + b})
        look_beside(at);
      const auto from = order_.begin() + static_cast<std::ptrdiff_t>(first);
      std::rotate(from, from + static_cast<std::ptrdiff_t>(a), from + static_cast<std::ptrdiff_t>(a + b));
      improve();
      choose_starts();
      if (const double now = way(); now < least - least_gain) {
        least = now;
        continue;
      }
      order_ = order;
      for (std::size_t i = 0; i < lines_.size(); ++i)
        lines_[i].chosen = chosen[i];
    }
  }

  // A row that begins at `next` is put after `i`.
  bool moved_after(std::size_t i, std::size_t next) {
    const std::size_t first = place_[next];
    for (std::size_t n = 1; n <= longest_moved && first + n <= order_.size(); ++n) {
      const std::size_t last = first + n - 1, target = place_[i];
      if (target + 1 >= first && target <= last)
        return false; // it stands there, or in the row
      const std::size_t after = target + 1;
      const double left =
          cost(before(first), next) + to(order_[last], last + 1) + to(i, after) - to(before(first), last + 1);
      double least = cost(i, next) + to(order_[last], after);
      std::size_t begun = lines_[next].chosen;
      for (std::size_t s = 0; n == 1 && s < lines_[next].in.size(); ++s) { // one alone may begin elsewhere there
        const Line& l = lines_[next];
        const double d =
            distance(exit_of(i), l.in[s]) + (after < order_.size() ? distance(l.out[s], entry_of(order_[after])) : 0);
        if (d < least)
          least = d, begun = s;
      }
      if (left - least <= least_gain || !may_move(first, last, target))
        continue;
      for (const std::size_t at : {first, last + 1, after})
        look_beside(at);
      lines_[next].chosen = begun;
      const auto b = order_.begin();
      const auto d = [](std::size_t v) { return static_cast<std::ptrdiff_t>(v); };
      if (target < first)
        std::rotate(b + d(after), b + d(first), b + d(last + 1)), renumber(after, last);
      else
        std::rotate(b + d(first), b + d(last + 1), b + d(after)), renumber(first, target);
      return true;
    }
    return false;
  }
  // What stands before and at a place of the order.
  void look_beside(std::size_t place) {
    if (place > 0)
      look_[order_[place - 1]] = true;
    if (place < order_.size())
      look_[order_[place]] = true;
  }
  // Nothing is cut after what lies around it.
  bool may_move(std::size_t first, std::size_t last, std::size_t target) const {
    if (target < first) { // others come to stand after it: none of them may lie in it
      for (std::size_t k = target + 1; k < first; ++k)
        if (const auto& a = nests_[order_[k]].around; a && place_[*a] >= first && place_[*a] <= last)
          return false;
      return true;
    }
    for (std::size_t k = first; k <= last; ++k)
      if (const auto& a = nests_[order_[k]].around; a && place_[*a] > last && place_[*a] <= target)
        return false;
    return true;
  }
  // What lies between i and `next` is turned round, so that `next` comes after i.
  bool turned_after(std::size_t i, std::size_t next) {
    const std::size_t first = place_[i] + 1, last = place_[next];
    if (last <= first || last - first > longest_turned)
      return false;
    // Closed lines end where they begin; open ones are cut the other way.
    const double gain =
        cost(i, order_[first]) + to(next, last + 1) - distance(exit_of(i), turned_entry(next)) -
        (last + 1 < order_.size() ? distance(turned_exit(order_[first]), entry_of(order_[last + 1])) : 0);
    if (gain <= least_gain)
      return false;
    for (std::size_t k = first; k <= last; ++k)
      if (const auto& a = nests_[order_[k]].around; a && place_[*a] >= first && place_[*a] <= last)
        return false;
    look_beside(first), look_beside(last + 1);
    std::reverse(order_.begin() + static_cast<std::ptrdiff_t>(first),
                 order_.begin() + static_cast<std::ptrdiff_t>(last + 1));
    for (std::size_t k = first; k <= last; ++k)
      if (Line& l = lines_[order_[k]]; !l.closed)
        l.chosen = 1 - l.chosen;
    renumber(first, last);
    return true;
  }
  Point turned_entry(std::size_t i) const { return lines_[i].closed ? entry_of(i) : exit_of(i); }
  Point turned_exit(std::size_t i) const { return lines_[i].closed ? exit_of(i) : entry_of(i); }

  std::vector<Line> lines_;
  std::vector<Nest> nests_;
  Point from_;
  std::stop_token stop_;
  std::vector<std::size_t> order_, place_;
  std::vector<std::vector<std::size_t>> near_;
  std::vector<bool> look_; // by line
};

} // namespace

std::vector<CutPath> cut_order(const CutSheet& sheet, const std::stop_token& stop) {
  std::vector<std::size_t> all(sheet.pieces.size());
  std::iota(all.begin(), all.end(), std::size_t{0});
  return cut_order(sheet, all, Seam::Corners, stop);
}

std::vector<CutPath> cut_order(const CutSheet& sheet, const std::vector<std::size_t>& pieces, Seam seam,
                               const std::stop_token& stop) {
  std::vector<std::pair<std::size_t, std::size_t>> where;
  std::vector<const Contour*> contours;
  for (const std::size_t p : pieces)
    for (std::size_t i = 0; i < sheet.pieces[p].outline.contours.size(); ++i)
      if (const Contour& c = sheet.pieces[p].outline.contours[i]; !c.segments.empty())
        contours.push_back(&c), where.emplace_back(p, i);
  const std::vector<Nest> nests = nesting(contours, stop);
  std::vector<Line> lines;
  for (std::size_t i = 0; i < contours.size(); ++i)
    lines.push_back(line_of(*contours[i], where[i].first, where[i].second, seam, nests[i].depth % 2 == 0));
  Orderer orderer(std::move(lines), nests, Point{sheet.frame.x0, sheet.frame.y1}, stop);
  const std::vector<std::size_t> order = orderer.run();
  std::vector<std::size_t> place(order.size());
  for (std::size_t k = 0; k < order.size(); ++k)
    place[order[k]] = k;
  std::vector<CutPath> out;
  for (const std::size_t i : order) {
    const Line& line = orderer.line(i);
    CutPath path;
    path.piece = line.piece, path.contour = line.contour, path.depth = nests[i].depth;
    path.colour = sheet.pieces[line.piece].colour;
    path.reversed = !line.closed && line.chosen == 1;
    path.first = line.closed ? line.at[line.chosen] : 0;
    path.start = line.entry();
    const std::vector<Segment>& s = contours[i]->segments;
    path.heading = path.reversed ? -s.back().end_tangent() : s[path.first].start_tangent();
    if (nests[i].around)
      path.inside = place[*nests[i].around];
    out.push_back(path);
  }
  return out;
}

CutTurn turn_of(const CutSheet& sheet, const CutPath& path) {
  const CutPiece& piece = sheet.pieces[path.piece];
  std::string layer = piece.layer;
  if (piece.panel > 0)
    layer.append("/").append(std::to_string(piece.panel));
  return {piece.id, std::move(layer), path.contour};
}

std::vector<CutPath> ordered_by_hand(const CutSheet& sheet, std::vector<CutPath> order) {
  if (sheet.order_by_hand.empty())
    return order;
  std::map<CutTurn, std::size_t> places;
  for (std::size_t i = 0; i < order.size(); ++i)
    places[turn_of(sheet, order[i])] = i;
  std::vector<bool> named(order.size(), false);
  std::vector<std::size_t> wanted;
  for (const CutTurn& t : sheet.order_by_hand)
    if (const auto it = places.find(t); it != places.end() && !named[it->second])
      named[it->second] = true, wanted.push_back(it->second);
  if (wanted.empty())
    return order;
  for (std::size_t i = 0; i < order.size(); ++i)
    if (!named[i])
      wanted.push_back(i);
  std::vector<std::vector<std::size_t>> inner(order.size());
  for (const std::size_t i : wanted)
    if (order[i].inside)
      inner[*order[i].inside].push_back(i);
  std::vector<std::size_t> out, place(order.size(), order.size());
  const auto take = [&](const auto& self, std::size_t i) -> void {
    if (place[i] != order.size())
      return;
    for (const std::size_t k : inner[i])
      self(self, k);
    place[i] = out.size(), out.push_back(i);
  };
  for (const std::size_t i : wanted)
    take(take, i);
  std::vector<CutPath> sorted;
  for (const std::size_t i : out) {
    sorted.push_back(order[i]);
    if (sorted.back().inside)
      sorted.back().inside = place[*order[i].inside];
  }
  return sorted;
}

Contour begun_at(Contour contour, std::size_t first) {
  std::vector<Segment>& s = contour.segments;
  std::rotate(s.begin(), s.begin() + static_cast<std::ptrdiff_t>(first), s.end());
  return contour;
}

Contour as_cut(const CutSheet& sheet, const CutPath& path) {
  const Contour& c = sheet.pieces[path.piece].outline.contours[path.contour];
  return path.reversed ? c.reversed() : begun_at(c, path.first);
}

} // namespace frelm
