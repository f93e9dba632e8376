// Shapes grown by half of what is to lie between them, as polygons. For each two of them as they may be turned the
// places at which one touches the other; open places are what of these, and of their crossings with each other and with
// the sheet's edges, lies in no other's. The next copy goes to the best open place.
#include "geom/placing.h"

#include "geom/along.h"
#include "geom/clipper_adapter.h"
#include "geom/offset.h"
#include "geom/winding.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>
#include <optional>

namespace frelm {
namespace {

constexpr double flat_shape = 0.05;    // mm
constexpr double least_pocket = 0.5;   // mm²: smaller ones are rounding
constexpr double touches = 0.004;      // mm: so far inside of another's places counts as touching
constexpr std::size_t tried = 28;      // copies, in each of the ways
enum class Better { Top, Low, Heavy }; // of two places: what ends lower, begins lower, weighs lower
constexpr std::array ways{Better::Top, Better::Low, Better::Heavy};

using Polygon = std::vector<Point>;

double area_of(const Polygon& p) {
  double sum = 0;
  for (std::size_t i = 0; i < p.size(); ++i)
    sum += cross(p[i], p[(i + 1) % p.size()]);
  return sum / 2;
}
Box box_of(const std::vector<Polygon>& polygons) {
  Box out;
  for (const Polygon& p : polygons)
    for (const Point q : p)
      out.add(q);
  return out;
}
// Ramer, Douglas, Peucker.
void simplify(const Polygon& p, std::size_t a, std::size_t b, double within, Polygon& out) {
  double worst = 0;
  std::size_t at = a;
  for (std::size_t i = a + 1; i < b; ++i)
    if (const double d = distance_to_chord(p[a], p[b % p.size()], p[i]); d > worst)
      worst = d, at = i;
  if (worst > within) {
    simplify(p, a, at, within, out);
    simplify(p, at, b, within, out);
  } else
    out.push_back(p[a]);
}
Polygon simple(const Polygon& p, double within) {
  std::size_t far = 0; // from the first: two ends that stay
  for (std::size_t i = 1; i < p.size(); ++i)
    if (distance(p[0], p[i]) > distance(p[0], p[far]))
      far = i;
  Polygon out;
  simplify(p, 0, far, within, out);
  simplify(p, far, p.size(), within, out);
  return out;
}
int winding(const std::vector<Polygon>& polygons, Point p) {
  int out = 0;
  for (const Polygon& ring : polygons)
    out += winding_of(ring, p);
  return out;
}
double to_edge(const std::vector<Polygon>& polygons, Point p) {
  double out = std::numeric_limits<double>::infinity();
  for (const Polygon& ring : polygons)
    for (std::size_t i = 0; i < ring.size(); ++i)
      out = std::min(out, distance_to_chord(ring[i], ring[(i + 1) % ring.size()], p));
  return out;
}

// A shape's outer lines, grown by half of what is to lie between, as polygons of few corners, which lie outside of
// that. Letters that stand by each other become few polygons: what lies between them is of no use to others.
Result<std::vector<Polygon>> grown_polygons(const Outline& shape, const PlacingWish& wish) {
  constexpr std::size_t few = 2, few_corners = 48;
  constexpr double finest = 0.15, coarsest = 20; // mm
  const Box box = shape.bounds();
  const double largest = 0.5 * std::min(box.width(), box.height());
  double close = 0;
  for (double within = finest;;) {
    const double by = wish.apart / 2 + within + flat_shape + 0.02;
    Result<OffsetResult> off = offset(shape, by + close, {.tolerance = flat_shape, .stop = wish.stop});
    if (off && close > 0)
      off = offset(off->rings.front(), -close, {.tolerance = flat_shape, .stop = wish.stop});
    if (!off)
      return off.error();
    std::vector<Polygon> out;
    std::size_t corners = 0;
    for (const Contour& c : off->rings.front().contours)
      if (c.area() > 0) {
        out.push_back(simple(flatten(c, flat_shape), within));
        corners += out.back().size();
      }
    if (out.size() > few && close <= largest)
      close = close == 0 ? std::max(1.0, largest / 16) : 2 * close;
    else if (corners > few_corners && within < coarsest)
      within *= 2;
    else
      return out;
  }
}

// A shape as it may be turned, its box at the origin.
struct Turned {
  std::vector<Polygon> polygons;
  Box own;          // of the shape itself, which has not grown
  double heavy = 0; // mm from the top of its box to where it weighs
  Affine place;     // from where the shape is drawn to here
};
Turned turned(const Outline& shape, const std::vector<Polygon>& polygons, double angle) {
  Turned out;
  const Affine turn = Affine::rotation(angle);
  for (const Polygon& p : polygons) {
    Polygon& to = out.polygons.emplace_back();
    for (const Point q : p)
      to.push_back(turn(q));
  }
  const Box box = box_of(out.polygons);
  double area = 0, moment = 0;
  for (Polygon& p : out.polygons) {
    for (Point& q : p)
      q = q - Point{box.x0, box.y0};
    for (std::size_t i = 0; i < p.size(); ++i) {
      const Point a = p[i], b = p[(i + 1) % p.size()];
      area += cross(a, b) / 2, moment += cross(a, b) * (a.y + b.y) / 6;
    }
  }
  out.heavy = area > 0 ? moment / area : box.height() / 2;
  out.place = Affine::translation({-box.x0, -box.y0}) * turn;
  out.own = shape.transformed(out.place).bounds();
  return out;
}

// Where a moving shape's origin may not be, beside a resting one: outlines and pockets.
struct NoGo {
  std::vector<Polygon> rings;
  Box box;
  bool holds(Point p) const { return box.contains(p) && winding(rings, p) != 0 && to_edge(rings, p) > touches; }
};

Result<NoGo> no_go(const Turned& resting, const Turned& moving) {
  NoGo out;
  std::vector<GridPolygon> all;
  const auto grid = [](const Polygon& p) {
    GridPolygon g;
    for (const Point q : p)
      g.push_back({std::llround(q.x * clipper_units_per_mm), std::llround(q.y * clipper_units_per_mm)});
    return g;
  };
  for (const Polygon& r : resting.polygons)
    for (const Polygon& m : moving.polygons)
      for (GridPolygon& ring : minkowski_difference(grid(r), grid(m))) {
        Polygon p;
        for (const GridPoint& g : ring)
          p.push_back({double(g.x) / clipper_units_per_mm, double(g.y) / clipper_units_per_mm});
        // Where it is a hole because one lies whole in the other it is filled; other holes are pockets.
        if (area_of(p) < 0) {
          if (area_of(p) > -least_pocket)
            continue;
          const Point in = lerp(p[0], p[1], 0.5) + unit(up_of(p[1] - p[0])) * 0.01;
          const Point corner = in + m.front();
          if (winding_of(r, corner) != 0 || winding_of(m, r.front() - in) != 0)
            continue;
        }
        all.push_back(std::move(ring));
      }
  if (resting.polygons.size() * moving.polygons.size() > 1) {
    Result<std::vector<GridPolygon>> united = clip_polygons(BooleanOp::Union, FillRule::Nonzero, all, all.size());
    if (!united)
      return united.error();
    all = std::move(*united);
  }
  for (const GridPolygon& ring : all) {
    Polygon p;
    for (const GridPoint& g : ring)
      p.push_back({double(g.x) / clipper_units_per_mm, double(g.y) / clipper_units_per_mm});
    if (area_of(p) > 0 || area_of(p) < -least_pocket)
      out.rings.push_back(std::move(p));
  }
  out.box = box_of(out.rings);
  return out;
}

struct Spot {
  std::size_t shape = 0, turn = 0;
  Point at; // of its box's corner
};

class Nester {
public:
  Nester(const std::vector<std::vector<Turned>>& shapes, const PlacingWish& wish, Box area)
      : shapes_(shapes), wish_(wish), area_(area) {}

  struct Trial {
    std::vector<std::pair<std::size_t, Spot>> copies; // with its sheet
    std::size_t sheets = 0;
    double end = 0; // of the last sheet, in the area
    bool whole = false;
  };
  // The first `most` of the copies, turned by some of the turns.
  Result<Trial> run(const std::vector<std::size_t>& copies, const std::vector<std::size_t>& turns, Better better,
                    std::size_t most, bool tell) {
    Trial out;
    turns_ = turns;
    begin_sheet();
    out.sheets = 1;
    for (std::size_t k = 0; k < std::min(most, copies.size()); ++k) {
      if (wish_.stop.stop_requested())
        return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
      std::optional<Spot> spot = best(copies[k], better);
      if (!spot && !placed_.empty()) {
        begin_sheet();
        ++out.sheets, out.end = 0;
        spot = best(copies[k], better);
      }
      if (!spot)
        return out; // no room even so: it may not be turned to where it fits
      if (const Result<Done> done = put(*spot); !done)
        return done.error();
      out.copies.emplace_back(out.sheets - 1, *spot);
      out.end = std::max(out.end, spot->at.y + shapes_[spot->shape][spot->turn].own.y1);
      if (tell && wish_.progress)
        wish_.progress(double(k + 1) / double(copies.size()));
    }
    out.whole = true;
    return out;
  }

private:
  using Key = std::pair<std::size_t, std::size_t>; // shape and turn
  void begin_sheet() {
    placed_.clear(), open_.clear();
    for (std::size_t s = 0; s < shapes_.size(); ++s)
      for (const std::size_t t : turns_)
        if (const Turned& m = shapes_[s][t]; fits(m)) {
          auto& open = open_[{s, t}];
          open.push_back({area_.x0 - m.own.x0, area_.y0 - m.own.y0});
          open.push_back({area_.x1 - m.own.x1, area_.y0 - m.own.y0});
        }
  }
  bool fits(const Turned& m) const {
    return m.own.width() <= area_.width() + 1e-9 && (wish_.length == 0 || m.own.height() <= area_.height() + 1e-9);
  }
  bool inside(const Turned& m, Point p) const {
    constexpr double slack = 1e-9; // mm
    return p.x + m.own.x0 >= area_.x0 - slack && p.x + m.own.x1 <= area_.x1 + slack &&
           p.y + m.own.y0 >= area_.y0 - slack && (wish_.length == 0 || p.y + m.own.y1 <= area_.y1 + slack);
  }
  std::optional<Spot> best(std::size_t shape, Better better) const {
    std::optional<Spot> out;
    std::pair<double, double> least{std::numeric_limits<double>::infinity(), 0};
    for (const std::size_t t : turns_) {
      const auto open = open_.find({shape, t});
      if (open == open_.end())
        continue;
      const Turned& m = shapes_[shape][t];
      for (const Point p : open->second) {
        const double key = better == Better::Top   ? p.y + m.own.y1
                           : better == Better::Low ? p.y + m.own.y0
                                                   : p.y + m.heavy;
        if (const std::pair value{std::round(key * 1e3), p.x}; value < least)
          least = value, out = Spot{shape, t, p};
      }
    }
    return out;
  }
  Result<const NoGo*> between(Key resting, Key moving) {
    if (wish_.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    const auto [it, fresh] = known_.try_emplace({resting, moving});
    if (fresh) {
      Result<NoGo> made = no_go(shapes_[resting.first][resting.second], shapes_[moving.first][moving.second]);
      if (!made)
        return made.error();
      it->second = std::move(*made);
    }
    return &it->second;
  }

  Result<Done> put(const Spot& spot) {
    placed_.push_back(spot);
    for (auto& [key, open] : open_) {
      const Turned& m = shapes_[key.first][key.second];
      std::vector<const NoGo*> others;
      for (const Spot& s : placed_) {
        const Result<const NoGo*> other = between({s.shape, s.turn}, key);
        if (!other)
          return other.error();
        others.push_back(*other);
      }
      const NoGo& own = *others.back();
      std::erase_if(open, [&](Point p) { return own.holds(p - spot.at); });
      // What is new: its own corners, and where its edges cross the others' and the area's.
      std::vector<Point> fresh;
      const Box box{own.box.x0 + spot.at.x, own.box.y0 + spot.at.y, own.box.x1 + spot.at.x, own.box.y1 + spot.at.y};
      std::vector<std::size_t> near;
      for (std::size_t i = 0; i + 1 < placed_.size(); ++i) {
        const Box& b = others[i]->box;
        const Point at = placed_[i].at;
        if (Box{b.x0 + at.x, b.y0 + at.y, b.x1 + at.x, b.y1 + at.y}.overlaps(box))
          near.push_back(i);
      }
      for (const Polygon& ring : own.rings)
        for (std::size_t k = 0; k < ring.size(); ++k) {
          const Point a = ring[k] + spot.at, b = ring[(k + 1) % ring.size()] + spot.at;
          fresh.push_back(a);
          for (const double x : {area_.x0 - m.own.x0, area_.x1 - m.own.x1})
            if ((a.x < x) != (b.x < x))
              fresh.push_back({x, lerp(a, b, (x - a.x) / (b.x - a.x)).y});
          if (const double y = area_.y0 - m.own.y0; (a.y < y) != (b.y < y))
            fresh.push_back({lerp(a, b, (y - a.y) / (b.y - a.y)).x, y});
          for (const std::size_t i : near)
            for (const Polygon& other : others[i]->rings)
              for (std::size_t j = 0; j < other.size(); ++j) {
                const Point c = other[j] + placed_[i].at, d = other[(j + 1) % other.size()] + placed_[i].at;
                const double det = cross(b - a, d - c);
                if (det == 0)
                  continue;
                const double t = cross(c - a, d - c) / det, u = cross(c - a, b - a) / det;
                if (t > 0 && t < 1 && u > 0 && u < 1)
                  fresh.push_back(lerp(a, b, t));
              }
        }
      for (const Point p : fresh) {
        if (!inside(m, p))
          continue;
        bool free = true;
        for (std::size_t i = placed_.size(); free && i-- > 0;)
          free = !others[i]->holds(p - placed_[i].at);
        if (free)
          open.push_back(p);
      }
    }
    return Done{};
  }

  const std::vector<std::vector<Turned>>& shapes_;
  const PlacingWish& wish_;
  Box area_;
  std::vector<std::size_t> turns_;
  std::vector<Spot> placed_;
  std::map<Key, std::vector<Point>> open_;
  std::map<std::pair<Key, Key>, NoGo> known_;
};

// Boxes side by side, as drawn or all by 90°, a new row where one is full.
struct Rows {
  std::vector<std::pair<std::size_t, Spot>> copies;
  std::size_t sheets = 1;
  double end = 0; // mm, of the last sheet
  bool fits = true;
};
Rows in_rows(const std::vector<Box>& boxes, const std::vector<std::size_t>& copies, const PlacingWish& wish,
             bool upright) {
  Rows out;
  const double x0 = wish.margin, x1 = wish.width - wish.margin;
  double x = x0, y = wish.margin, row = 0;
  for (const std::size_t shape : copies) {
    const double w = upright ? boxes[shape].height() : boxes[shape].width();
    const double h = upright ? boxes[shape].width() : boxes[shape].height();
    if (x > x0 && x + w > x1 + 1e-9)
      x = x0, y += row + wish.apart, row = 0;
    if (wish.length > 0 && y + h > wish.length - wish.margin + 1e-9)
      x = x0, y = wish.margin, row = 0, ++out.sheets, out.end = 0;
    if (x + w > x1 + 1e-9 || (wish.length > 0 && y + h > wish.length - wish.margin + 1e-9))
      return {{}, 0, 0, false};
    out.copies.emplace_back(out.sheets - 1, Spot{shape, upright ? 1U : 0U, {x, y}});
    row = std::max(row, h), x += w + wish.apart;
    out.end = std::max(out.end, y + h);
  }
  return out;
}
Affine box_place(const Box& box, bool upright, Point at) {
  if (!upright)
    return Affine::translation(at - Point{box.x0, box.y0});
  const Affine turn{0, 1, -1, 0, 0, 0}; // by 90°, exactly
  return Affine::translation(at - Point{-box.y1, box.x0}) * turn;
}

} // namespace

Result<PlacedShapes> place_shapes(const std::vector<Outline>& shapes, const std::vector<std::size_t>& counts,
                                  const PlacingWish& wish) {
  const Said here = FRELM_WORDS("core", "Placing");
  std::size_t count = 0;
  for (std::size_t i = 0; i < shapes.size(); ++i)
    count += shapes[i].empty() ? 0 : counts[i];
  if (count == 0)
    return bad_input(FRELM_WORDS("core", "there is nothing to place"), here);
  if (count > most_placed)
    return bad_input(say(FRELM_WORDS("core", "at most %1 copies are placed"), std::to_string(most_placed)), here);
  const double inner = wish.width - 2 * wish.margin;
  if (!(inner > 0) || (wish.length > 0 && wish.length <= 2 * wish.margin))
    return bad_input(FRELM_WORDS("core", "the margins leave nothing of the sheet"), here);
  std::vector<Box> boxes;
  std::vector<std::vector<Turned>> grown;
  const int steps = wish.turn == MayTurn::No        ? 1
                    : wish.turn == MayTurn::Half    ? 2
                    : wish.turn == MayTurn::Quarter ? 4
                                                    : 12;
  for (const Outline& shape : shapes) {
    boxes.push_back(shape.bounds());
    Result<std::vector<Polygon>> polygons = std::vector<Polygon>{};
    if (!shape.empty() && shapes.size() <= most_kinds)
      polygons = grown_polygons(shape, wish);
    if (!polygons)
      return polygons.error();
    std::vector<Turned>& turns = grown.emplace_back();
    for (int k = 0; k < steps; ++k)
      turns.push_back(turned(shape, *polygons, 2 * pi * k / steps));
  }
  std::vector<std::size_t> copies; // the largest first
  std::vector<std::size_t> by_size(shapes.size());
  std::iota(by_size.begin(), by_size.end(), std::size_t{0});
  std::stable_sort(by_size.begin(), by_size.end(), [&](std::size_t a, std::size_t b) {
    return boxes[a].width() * boxes[a].height() > boxes[b].width() * boxes[b].height();
  });
  for (const std::size_t i : by_size)
    if (!shapes[i].empty())
      copies.insert(copies.end(), counts[i], i);
  const Box area{wish.margin, wish.margin, wish.width - wish.margin, wish.length > 0 ? wish.length - wish.margin : 1e9};
  Nester placer(grown, wish, area);
  std::vector<std::vector<std::size_t>> turn_sets(1);
  for (int k = 0; k < steps; ++k)
    turn_sets[0].push_back(static_cast<std::size_t>(k));
  for (int k = 0; steps > 2 && k < steps / 2; ++k) // one, and upside down
    turn_sets.push_back({static_cast<std::size_t>(k), static_cast<std::size_t>(k + steps / 2)});
  using Trial = Nester::Trial;
  const auto sooner = [](const Trial& a, const Trial& b) {
    return a.whole != b.whole ? a.whole : a.sheets != b.sheets ? a.sheets < b.sheets : a.end < b.end - 1e-6;
  };
  Trial best;
  const std::vector<std::size_t>* best_turns = nullptr;
  Better best_way = Better::Top;
  if (shapes.size() > most_kinds)
    turn_sets.clear();
  for (const auto& turns : turn_sets)
    for (const Better way : ways) {
      const Result<Trial> run = placer.run(copies, turns, way, tried, false);
      if (!run)
        return run.error();
      if (best_turns == nullptr || sooner(*run, best))
        best = *run, best_turns = &turns, best_way = way;
    }
  if (copies.size() > tried && best.whole) {
    Result<Trial> all = placer.run(copies, *best_turns, best_way, copies.size(), true);
    if (!all)
      return all.error();
    best = std::move(*all);
  }
  Rows rows = in_rows(boxes, copies, wish, false);
  if (wish.turn == MayTurn::Quarter || wish.turn == MayTurn::Free)
    if (Rows other = in_rows(boxes, copies, wish, true);
        other.fits &&
        (!rows.fits || other.sheets < rows.sheets || (other.sheets == rows.sheets && other.end < rows.end)))
      rows = std::move(other);
  PlacedShapes out;
  const double rows_end = rows.end + wish.margin, own_end = best.end + wish.margin;
  out.in_rows = rows.fits && rows.sheets == 1 ? rows_end : 0;
  if (!best.whole && !rows.fits)
    return bad_input(
        FRELM_WORDS("core", "a shape has no room between the margins; take a larger sheet or let it be turned"), here);
  const bool plain = rows.fits && (!best.whole || rows.sheets < best.sheets ||
                                   (rows.sheets == best.sheets && rows_end <= own_end + 1e-9));
  if (plain) {
    for (const auto& [sheet, spot] : rows.copies)
      out.copies.push_back({spot.shape, sheet, box_place(boxes[spot.shape], spot.turn == 1, spot.at)});
    out.sheets = rows.sheets, out.used = rows_end;
    return out;
  }
  for (const auto& [sheet, spot] : best.copies)
    out.copies.push_back({spot.shape, sheet, Affine::translation(spot.at) * grown[spot.shape][spot.turn].place});
  out.sheets = best.sheets, out.used = own_end;
  return out;
}

} // namespace frelm
