#include "geom/ties.h"

#include "geom/along.h"
#include "geom/boolean.h"
#include "geom/components.h"
#include "geom/crossings.h"
#include "geom/cut_parts.h"
#include "geom/distance.h"
#include "geom/groups.h"
#include "geom/nodes.h"

#include <algorithm>
#include <queue>

namespace frelm {
namespace {

constexpr double hold = 0.02;       // mm that an end lies in what it holds, at least
constexpr double most_longer = 1.8; // a second bridge of a counter, than its first: else it runs along a stroke
constexpr double most_added = 1.5;  // of its length times its width, before another place is looked for

// Where a ray from p meets the outline's edges, ascending.
std::vector<double> meets(const Outline& outline, Point p, Vec way, double far) {
  std::vector<double> out;
  const Segment ray = Segment::line(p, p + far * way);
  Box box;
  box.add(ray.p0), box.add(ray.p3);
  for (const Contour& c : outline.contours)
    if (c.closed)
      for (const Segment& s : c.segments)
        if (s.control_box().grown(meet_distance).overlaps(box))
          for (const CurveCrossing& x : crossings(ray, s))
            out.push_back(x.t * far);
  std::sort(out.begin(), out.end());
  return out;
}

bool filled(const Outline& area, Point p) {
  return winding_number(area, p) != 0;
}

// How far both sides of a strip, which comes to `end` along `way`, must go on to be in what it holds; nothing: one of
// them finds nothing there.
std::optional<double> sunk(const Outline& area, Point end, Vec way, const TieForm& form, TieHolds holds) {
  const double far = deepest_tie * form.width;
  double out = 0;
  for (const double side : {-0.5, 0.5}) {
    const Point p = end + side * form.width * up_of(way);
    const auto held = [&](double at) { return filled(area, p + at * way) == (holds == TieHolds::Area); };
    if (held(hold))
      continue;
    bool found = false;
    for (const double at : meets(area, p, way, far))
      if (!found && at > 0 && held(at + hold))
        out = std::max(out, at), found = true;
    if (!found)
      return std::nullopt;
  }
  return out;
}

// A strip along a line, with what its ends are sunk by.
Outline strip(const Tie& tie, const TieForm& form, double before, double after) {
  const Vec way = unit(tie.to - tie.from), aside = up_of(way) * (form.width / 2);
  const Point a = tie.from - before * way, b = tie.to + after * way;
  Contour c; // clockwise on screen
  c.segments.push_back(Segment::line(a + aside, b + aside));
  const auto cap = [&](Point middle, Vec out) {              // from its left to its right, as seen along `out`
    const Contour disc = circle_contour({}, form.width / 2); // from its top, clockwise
    const Affine turn = Affine::translation(middle) * Affine::rotation(std::atan2(out.y, out.x));
    for (std::size_t i = 0; i < disc.segments.size(); ++i) // the half towards `out`
      if (disc.segments[i].at(0.5).x > 0)
        c.segments.push_back(disc.segments[i].transformed(turn));
  };
  if (form.ends == TieEnds::Round)
    cap(b, way);
  else
    c.segments.push_back(Segment::line(b + aside, b - aside));
  c.segments.push_back(Segment::line(b - aside, a - aside));
  if (form.ends == TieEnds::Round)
    cap(a, -way);
  else
    c.segments.push_back(Segment::line(a - aside, a + aside));
  connect(c);
  Outline out{{c}};
  out.make_area_positive();
  return out;
}

double box_gap(const Box& a, const Box& b) {
  return std::hypot(std::max({0.0, a.x0 - b.x1, b.x0 - a.x1}), std::max({0.0, a.y0 - b.y1, b.y0 - a.y1}));
}

// Ways from one part to another.
struct Way {
  Tie tie;
  double length = 0, along = 0; // along: of the edge it begins on, mm
  std::size_t contour = 0;
};

// From places along a part's edge to the other part, those that are about as short as the shortest.
void add_ways(std::vector<Way>& out, const Outline& from, const Outline& to, double most, double step) {
  const Box near = to.bounds().grown(most);
  for (std::size_t k = 0; k < from.contours.size(); ++k) {
    double along = 0;
    for (const Segment& s : from.contours[k].segments) {
      const double length = Contour{{s}, false}.length();
      const int n = std::max(1, static_cast<int>(std::ceil(length / step)));
      if (s.control_box().overlaps(near))
        for (int i = 0; i < n; ++i) {
          const Point p = s.at((i + 0.5) / n);
          if (!near.contains(p))
            continue;
          const auto q = nearest_on(to, p);
          if (q && q->distance <= most)
            out.push_back({{p, q->point}, q->distance, along + length * (i + 0.5) / n, k});
        }
      along += length;
    }
  }
}

// The place of an edge so far along it, mm.
Point along_edge(const Contour& contour, double along) {
  for (const Segment& s : contour.segments) {
    const double length = Contour{{s}, false}.length();
    if (along <= length) // near enough: it is only where to look
      return s.at(length > 0 ? along / length : 0);
    along -= length;
  }
  return contour.segments.back().p3;
}

// The middle of each row of neighbours, the longest row first.
std::vector<Tie> middles(const std::vector<Way>& ways, const Outline& from, const Outline& to, double step) {
  std::vector<std::pair<double, Tie>> rows;
  for (std::size_t begin = 0, end = 0; begin < ways.size(); begin = end) {
    end = begin + 1;
    while (end < ways.size() && ways[end].contour == ways[begin].contour &&
           ways[end].along - ways[end - 1].along <= 1.5 * step)
      ++end;
    const double low = ways[begin].along, high = ways[end - 1].along;
    const Point p = along_edge(from.contours[ways[begin].contour], (low + high) / 2);
    if (const auto q = nearest_on(to, p); q && q->distance > 0)
      rows.push_back({high - low, {p, q->point}});
  }
  std::stable_sort(rows.begin(), rows.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
  std::vector<Tie> out;
  for (const auto& [length, tie] : rows)
    out.push_back(tie);
  return out;
}

class Joiner {
public:
  Joiner(const Outline& area, const TieForm& form) : form_(form), parts_(components(area)) {
    std::erase_if(parts_, [](const Outline& o) { return !o.contours.front().closed; });
    for (const Outline& p : parts_)
      boxes_.push_back(p.bounds());
  }

  std::vector<Tie> ties(const std::stop_token& stop) {
    struct Pair {
      double least = 0; // mm between them, at least; exactly, once measured
      std::size_t i = 0, k = 0;
      bool measured = false;
      bool operator<(const Pair& o) const { // the nearest first
        return least != o.least ? least > o.least : i != o.i ? i > o.i : k > o.k;
      }
    };
    std::priority_queue<Pair> queue;
    for (std::size_t i = 0; i < parts_.size(); ++i)
      for (std::size_t k = i + 1; k < parts_.size(); ++k)
        queue.push({box_gap(boxes_[i], boxes_[k]), i, k, false});
    Groups joined(parts_.size());
    std::vector<Tie> out;
    while (!queue.empty() && out.size() + 1 < parts_.size() && !stop.stop_requested()) {
      Pair pair = queue.top();
      queue.pop();
      if (joined.first_of(pair.i) == joined.first_of(pair.k))
        continue;
      const Closest nearest = closest_boundaries(parts_[pair.i], parts_[pair.k]);
      if (!pair.measured) {
        pair.least = nearest.distance, pair.measured = true;
        queue.push(pair);
        continue;
      }
      out.push_back(place(pair.i, pair.k, nearest));
      joined.join(pair.i, pair.k);
    }
    return out;
  }

private:
  // What a tie adds to the area, mm²; nothing: it holds nowhere, or meets something else.
  std::optional<double> added(const Tie& tie, std::size_t i, std::size_t k) const {
    const Vec way = unit(tie.to - tie.from);
    const auto before = sunk(parts_[i], tie.from, -way, form_, TieHolds::Area);
    const auto after = sunk(parts_[k], tie.to, way, form_, TieHolds::Area);
    if (!before || !after)
      return std::nullopt;
    const Outline shape = strip(tie, form_, *before + hold, *after + hold);
    const Box box = shape.bounds();
    for (std::size_t n = 0; n < parts_.size(); ++n)
      if (n != i && n != k && boxes_[n].overlaps(box) && closest(shape, parts_[n]).distance <= 0)
        return std::nullopt;
    const auto joined = weld({parts_[i], parts_[k], shape});
    const std::size_t apart = parts_[i].contours.size() + parts_[k].contours.size();
    if (!joined || joined->outline.contours.size() + 1 != apart) // it would enclose something
      return std::nullopt;
    return joined->outline.area() - parts_[i].area() - parts_[k].area();
  }

  // The best of the ties that were tried between two parts.
  struct Best {
    Tie tie;
    std::optional<double> area; // mm² that it adds; nothing: it is not sound
    bool few = false;           // no more than is looked for
  };
  void try_tie(Best& best, const Tie& tie, std::size_t i, std::size_t k, double most) const {
    if (!(distance(tie.from, tie.to) > 0))
      return;
    const std::optional<double> area = added(tie, i, k);
    if (area && (!best.area || *area < *best.area * (1 - 1e-4)))
      best = {tie, area, *area <= most};
  }

  Tie place(std::size_t i, std::size_t k, const Closest& nearest) const {
    Best best{{nearest.on_a, nearest.on_b}, {}, false};
    if (!(nearest.distance > 0))
      return best.tie;
    constexpr double as_near = 1e-3; // mm
    const double step = std::max(form_.width / 8, 1e-3), most = most_added * nearest.distance * form_.width;
    std::vector<Way> ways;
    // Where edges run beside each other, in the middle of the longest stretch.
    add_ways(ways, parts_[i], parts_[k], nearest.distance + as_near, step);
    for (const Tie& t : middles(ways, parts_[i], parts_[k], step))
      if (distance(t.from, t.to) <= nearest.distance + as_near && !best.few)
        try_tie(best, t, i, k, most);
    if (!best.few)
      try_tie(best, {nearest.on_a, nearest.on_b}, i, k, most);
    if (!best.few)
      look_farther(best, i, k, nearest.distance + form_.width, most);
    return best.tie;
  }

  // From places of both edges, the nearest first, to the nearest place of the other; then from any to any; then both
  // ends of the best along their edges.
  void look_farther(Best& best, std::size_t i, std::size_t k, double farthest, double most) const {
    constexpr std::size_t tries = 48, slanted_tries = 20;
    const double step = std::max(form_.width / 8, 1e-3);
    std::vector<Way> ways;
    add_ways(ways, parts_[i], parts_[k], farthest, step);
    const std::size_t forth = ways.size();
    add_ways(ways, parts_[k], parts_[i], farthest, step);
    for (std::size_t n = forth; n < ways.size(); ++n)
      std::swap(ways[n].tie.from, ways[n].tie.to);
    std::stable_sort(ways.begin(), ways.end(), [](const Way& a, const Way& b) { return a.length < b.length; });
    const auto every = [&](std::size_t of) { return std::max<std::size_t>(1, ways.size() / of); };
    for (std::size_t n = 0; n < ways.size() && !best.few; n += every(tries))
      try_tie(best, ways[n].tie, i, k, most);
    for (std::size_t n = 0; n < ways.size(); n += every(slanted_tries))
      for (std::size_t m = 0; m < ways.size() && !best.few; m += every(slanted_tries))
        if (const Tie t{ways[n].tie.from, ways[m].tie.to}; n != m && distance(t.from, t.to) <= farthest)
          try_tie(best, t, i, k, most);
    for (double move = form_.width / 4; best.area && move > form_.width / 40; move /= 2)
      for (Tie before; before != best.tie && !best.few;) {
        before = best.tie;
        const Vec aside[] = {{0, 0}, {move, 0}, {-move, 0}, {0, move}, {0, -move}};
        for (const Vec by : aside)
          for (const Vec other_by : aside)
            try_tie(
                best,
                {nearest_on(parts_[i], before.from + by)->point, nearest_on(parts_[k], before.to + other_by)->point}, i,
                k, most);
      }
  }

  TieForm form_;
  std::vector<Outline> parts_;
  std::vector<Box> boxes_;
};

// A counter, and the line that its bridges lie on.
struct Counter {
  CutPart part;
  Point on; // a place of the line, in the counter
};

class Bridger {
public:
  Bridger(const Outline& area, const TieForm& form) : area_(area), form_(form) {
    for (CutPart& p : loose_stock(area))
      counters_.push_back({p, p.at});
    far_ = std::hypot(area.bounds().width(), area.bounds().height()) + form.width;
  }

  std::vector<Tie> bridges(const BridgeChoice& choice, const std::stop_token& stop) {
    const double angle = radians(choice.angle);
    const Vec way = direction(angle);
    if (std::abs(way.x) > std::abs(way.y))
      line_up(up_of(way));
    Groups held(counters_.size() + 1); // 0: the sheet
    std::vector<Tie> out;
    const auto take = [&](std::size_t counter, const Found& f) {
      const bool known = f.leads_to != 0 && held.first_of(counter + 1) == held.first_of(f.leads_to);
      if (known || std::any_of(out.begin(), out.end(), [&](const Tie& t) { return too_near(t, f.tie); }))
        return;
      out.push_back(f.tie);
      held.join(counter + 1, f.leads_to);
    };
    for (std::size_t i = 0; i < counters_.size() && !stop.stop_requested(); ++i) {
      std::vector<Found> both;
      for (const Vec w : {way, -way})
        if (const auto f = across(i, counters_[i].on, w))
          both.push_back(*f);
      std::stable_sort(both.begin(), both.end(), [](const Found& a, const Found& b) { return length(a) < length(b); });
      for (std::size_t n = 0; n < both.size() && n < static_cast<std::size_t>(choice.each); ++n)
        if (length(both[n]) <= most_longer * length(both[0]))
          take(i, both[n]);
    }
    // Whatever is still by itself: the shortest way to what holds.
    constexpr int directions = 16;
    for (bool grew = true; grew && !stop.stop_requested();) {
      grew = false;
      for (std::size_t i = 0; i < counters_.size(); ++i) {
        if (held.first_of(i + 1) == held.first_of(0))
          continue;
        std::optional<Found> best;
        for (int d = 0; d < directions; ++d)
          if (const auto f = across(i, counters_[i].part.at, direction(angle + 2 * pi * d / directions));
              f && held.first_of(f->leads_to) != held.first_of(i + 1) && (!best || length(*f) < length(*best)))
            best = f;
        if (best)
          out.push_back(best->tie), held.join(i + 1, best->leads_to), grew = true;
      }
    }
    return stop.stop_requested() ? std::vector<Tie>{} : out;
  }

private:
  struct Found {
    Tie tie;
    std::size_t leads_to = 0; // 0: the sheet, else a counter and one
  };
  static double length(const Found& f) { return distance(f.tie.from, f.tie.to); }
  bool too_near(const Tie& a, const Tie& b) const { // the two would be one wide one
    const Segment s = Segment::line(a.from, a.to), t = Segment::line(b.from, b.to);
    return closest_boundaries({{{{s}, false}}}, {{{{t}, false}}}).distance < form_.width;
  }

  // The stroke beyond the counter: from where the ray enters it to where it leaves.
  std::optional<Found> across(std::size_t counter, Point from, Vec way) const {
    double enters = -1;
    for (const double at : meets(area_, from, way, far_)) {
      const bool in = filled(area_, from + (at + hold) * way);
      if (enters < 0 && in) {
        enters = at;
      } else if (enters >= 0 && !in) {
        const Tie tie{from + enters * way, from + at * way};
        const bool begins = sunk(area_, tie.from, -way, form_, TieHolds::Sheet).has_value() || narrow(counter, way);
        if (!begins || !sunk(area_, tie.to, way, form_, TieHolds::Sheet))
          return std::nullopt;
        const std::size_t to = region(tie.to + hold * way);
        return to == counter + 1 ? std::nullopt : std::optional(Found{tie, to});
      }
    }
    return std::nullopt;
  }
  // From where to where a counter reaches along a direction.
  struct Extent {
    std::size_t counter = 0;
    double low = std::numeric_limits<double>::infinity(), high = -low;
  };
  Extent extent(std::size_t counter, Vec along) const {
    Extent out{counter};
    for (const Point p : flatten(counters_[counter].part.outline.contours.front(), form_.width / 20))
      out.low = std::min(out.low, dot(p, along)), out.high = std::max(out.high, dot(p, along));
    return out;
  }
  // All of the counter goes into the bridge.
  bool narrow(std::size_t counter, Vec way) const {
    const Extent e = extent(counter, up_of(way));
    return e.high - e.low < form_.width;
  }
  std::size_t region(Point p) const {
    for (std::size_t i = 0; i < counters_.size(); ++i)
      if (counters_[i].part.box.contains(p) && filled(counters_[i].part.outline, p))
        return i + 1;
    return 0;
  }

  // Counters whose extents along `down` have something in common share a line through the middle of that.
  void line_up(Vec down) {
    std::vector<Extent> extents;
    for (std::size_t i = 0; i < counters_.size(); ++i) {
      Extent e = extent(i, down);
      const double margin = std::min(form_.width / 2, (e.high - e.low) / 2);
      e.low += margin, e.high -= margin;
      extents.push_back(e);
    }
    std::sort(extents.begin(), extents.end(), [](const Extent& a, const Extent& b) { return a.high < b.high; });
    for (std::size_t begin = 0, end = 0; begin < extents.size(); begin = end) {
      double low = extents[begin].low;
      const double high = extents[begin].high;
      for (end = begin; end < extents.size() && extents[end].low <= high; ++end)
        low = std::max(low, extents[end].low);
      for (std::size_t n = begin; n < end; ++n) {
        Counter& c = counters_[extents[n].counter];
        const Point on = c.part.at + ((low + high) / 2 - dot(c.part.at, down)) * down;
        if (region(on) == extents[n].counter + 1)
          c.on = on;
      }
    }
  }

  const Outline& area_;
  TieForm form_;
  std::vector<Counter> counters_;
  double far_ = 0;
};

} // namespace

Outline tie_strip(const Outline& area, const Tie& tie, const TieForm& form, TieHolds holds) {
  const Vec way = unit(tie.to - tie.from);
  const auto before = sunk(area, tie.from, -way, form, holds), after = sunk(area, tie.to, way, form, holds);
  return strip(tie, form, before.value_or(0) + hold, after.value_or(0) + hold);
}

std::vector<Tie> ties_for_loose(const Outline& area, const TieForm& form, std::stop_token stop) {
  return Joiner(area, form).ties(stop);
}

Result<WeldResult> with_ties(const Outline& area, const std::vector<Tie>& ties, const TieForm& form,
                             const WeldOptions& options) {
  std::vector<Outline> shapes{area};
  for (const Tie& t : ties)
    shapes.push_back(tie_strip(area, t, form));
  return weld(shapes, options);
}

std::vector<Tie> stencil_bridges(const Outline& area, const TieForm& form, const BridgeChoice& choice,
                                 std::stop_token stop) {
  return Bridger(area, form).bridges(choice, stop);
}

Result<WeldResult> with_bridges(const Outline& area, const std::vector<Tie>& bridges, const TieForm& form,
                                const WeldOptions& options) {
  std::vector<Outline> strips;
  for (const Tie& t : bridges)
    strips.push_back(tie_strip(area, t, form, TieHolds::Sheet));
  return combine(BooleanOp::Difference, {area}, strips, options);
}

} // namespace frelm
