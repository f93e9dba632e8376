#include "geom/net.h"

#include <array>
#include <memory>

namespace frelm {
namespace {

constexpr double twist_step = 1e-5;         // of the box: how far apart `along` is taken for its change
constexpr double same_share = 1e-6;         // two lines of a net nearer than this are one
constexpr std::size_t fitted_per_cell = 24; // places that a removal is fitted at
constexpr std::size_t looked_at = 12;       // places per cell, each way, where changes are looked for

// Cubic Hermite weights of both ends' values and slopes (per unit of the whole), and their derivatives.
struct Weights {
  std::size_t cell = 0;
  std::array<double, 2> value, slope, value_d, slope_d;
};
Weights weights(const std::vector<double>& lines, double share) {
  const auto next = std::upper_bound(lines.begin() + 1, lines.end() - 1, share);
  Weights w;
  w.cell = static_cast<std::size_t>(next - lines.begin()) - 1;
  const double wide = lines[w.cell + 1] - lines[w.cell], t = (share - lines[w.cell]) / wide, u = 1 - t;
  w.value = {(1 + 2 * t) * u * u, t * t * (3 - 2 * t)};
  w.slope = {t * u * u * wide, -t * t * u * wide};
  w.value_d = {-6 * t * u / wide, 6 * t * u / wide};
  w.slope_d = {u * (1 - 3 * t), t * (3 * t - 2)};
  return w;
}

WarpPlace place_on(const Net& net, double across, double down) {
  const Weights a = weights(net.columns, across), b = weights(net.rows, down);
  WarpPlace out{};
  for (std::size_t j = 0; j < 2; ++j)
    for (std::size_t i = 0; i < 2; ++i) {
      const NetPeg& peg = net.peg(a.cell + i, b.cell + j);
      const auto sum = [&](double value, double slope, double across_value, double across_slope) {
        return peg.at * (value * across_value) + peg.along * (slope * across_value) +
               peg.down * (value * across_slope) + peg.twist * (slope * across_slope);
      };
      out.point += sum(a.value[i], a.slope[i], b.value[j], b.slope[j]);
      out.dx += sum(a.value_d[i], a.slope_d[i], b.value[j], b.slope[j]);
      out.dy += sum(a.value[i], a.slope[i], b.value_d[j], b.slope_d[j]);
    }
  return out;
}
WarpPlace place_on(const Box& source, const Net& net, Point p) {
  WarpPlace w = place_on(net, (p.x - source.x0) / source.width(), (p.y - source.y0) / source.height());
  w.dx = w.dx / source.width(), w.dy = w.dy / source.height();
  return w;
}

std::optional<Error> fault_of(const Box& source, const Net& net) {
  if (!(source.width() > 0) || !(source.height() > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to bend: the outline has no width or no height"),
                     FRELM_WORDS("core", "net"));
  for (const std::vector<double>* lines : {&net.columns, &net.rows})
    if (lines->size() < 2 || lines->front() != 0 || lines->back() != 1 ||
        std::adjacent_find(lines->begin(), lines->end(), [](double a, double b) { return !(a < b); }) != lines->end())
      return bad_input(FRELM_WORDS("core", "the net's lines are out of order"), FRELM_WORDS("core", "net"));
  if (net.pegs.size() != net.columns.size() * net.rows.size())
    return bad_input(FRELM_WORDS("core", "the net's pegs do not fit its columns and rows"), FRELM_WORDS("core", "net"));
  for (const NetPeg& peg : net.pegs)
    if (!finite(peg.at) || !finite(peg.along) || !finite(peg.down) || !finite(peg.twist))
      return bad_input(FRELM_WORDS("core", "a peg of the net has no place; move it back"), FRELM_WORDS("core", "net"));
  return std::nullopt;
}

void add_breaks(WarpMap& map, const Box& source, const Net& net) {
  for (std::size_t i = 1; i + 1 < net.columns.size(); ++i)
    map.breaks.push_back(source.x0 + source.width() * net.columns[i]);
  for (std::size_t j = 1; j + 1 < net.rows.size(); ++j)
    map.level_breaks.push_back(source.y0 + source.height() * net.rows[j]);
  std::sort(map.breaks.begin(), map.breaks.end());
  std::sort(map.level_breaks.begin(), map.level_breaks.end());
}

// Columns and rows change places, so that what follows is written for columns only.
Net turned(const Net& net) {
  Net out{net.rows, net.columns, {}};
  for (std::size_t i = 0; i < net.columns.size(); ++i)
    for (std::size_t j = 0; j < net.rows.size(); ++j) {
      NetPeg peg = net.peg(i, j);
      std::swap(peg.along, peg.down);
      out.pegs.push_back(peg);
    }
  return out;
}

Net with_column(const Net& net, double share) {
  Net out{net.columns, net.rows, {}};
  const auto at = std::upper_bound(out.columns.begin(), out.columns.end(), share);
  const auto place = static_cast<std::size_t>(at - out.columns.begin());
  out.columns.insert(at, share);
  const Weights w = weights(net.columns, share);
  for (std::size_t j = 0; j < net.rows.size(); ++j)
    for (std::size_t i = 0; i < out.columns.size(); ++i) {
      if (i != place) {
        out.pegs.push_back(net.peg(i < place ? i : i - 1, j));
        continue;
      }
      NetPeg peg;
      for (std::size_t k = 0; k < 2; ++k) {
        const NetPeg& from = net.peg(w.cell + k, j);
        peg.at += from.at * w.value[k] + from.along * w.slope[k];
        peg.along += from.at * w.value_d[k] + from.along * w.slope_d[k];
        peg.down += from.down * w.value[k] + from.twist * w.slope[k];
        peg.twist += from.down * w.value_d[k] + from.twist * w.slope_d[k];
      }
      out.pegs.push_back(peg);
    }
  return out;
}

// Solves the symmetric positive system for several right sides at once (Cholesky); both are overwritten.
void solve(std::vector<std::vector<double>>& a, std::vector<std::vector<double>>& right) {
  const std::size_t n = a.size();
  for (std::size_t i = 0; i < n; ++i) {
    for (std::size_t j = 0; j <= i; ++j) {
      double sum = a[i][j];
      for (std::size_t k = 0; k < j; ++k)
        sum -= a[i][k] * a[j][k];
      a[i][j] = i == j ? std::sqrt(std::max(sum, 1e-300)) : sum / a[j][j];
    }
  }
  for (std::vector<double>& b : right) {
    for (std::size_t i = 0; i < n; ++i) {
      for (std::size_t k = 0; k < i; ++k)
        b[i] -= a[i][k] * b[k];
      b[i] /= a[i][i];
    }
    for (std::size_t i = n; i-- > 0;) {
      for (std::size_t k = i + 1; k < n; ++k)
        b[i] -= a[k][i] * b[k];
      b[i] /= a[i][i];
    }
  }
}

// Values and slopes on the remaining columns, fitted to the whole of every row.
Net without_column(const Net& net, std::size_t gone) {
  Net out{net.columns, net.rows, {}};
  out.columns.erase(out.columns.begin() + static_cast<std::ptrdiff_t>(gone));
  const std::size_t n = out.columns.size(), m = net.rows.size(), unknowns = 2 * n;
  std::vector<std::vector<double>> normal(unknowns, std::vector<double>(unknowns, 0));
  std::vector<std::vector<double>> right(4 * m, std::vector<double>(unknowns, 0));
  for (std::size_t c = 0; c + 1 < net.columns.size(); ++c)
    for (std::size_t k = 0; k <= fitted_per_cell; ++k) {
      const double share = std::lerp(net.columns[c], net.columns[c + 1], static_cast<double>(k) / fitted_per_cell);
      const double weight = (net.columns[c + 1] - net.columns[c]) * (k == 0 || k == fitted_per_cell ? 0.5 : 1);
      const Weights was = weights(net.columns, share), now = weights(out.columns, share);
      const std::array<std::size_t, 4> at{now.cell, now.cell + 1, n + now.cell, n + now.cell + 1};
      const std::array<double, 4> by{now.value[0], now.value[1], now.slope[0], now.slope[1]};
      for (std::size_t a = 0; a < 4; ++a)
        for (std::size_t b = 0; b < 4; ++b)
          normal[at[a]][at[b]] += weight * by[a] * by[b];
      for (std::size_t j = 0; j < m; ++j) {
        Vec value{}, slope{};
        for (std::size_t e = 0; e < 2; ++e) {
          const NetPeg& from = net.peg(was.cell + e, j);
          value += from.at * was.value[e] + from.along * was.slope[e];
          slope += from.down * was.value[e] + from.twist * was.slope[e];
        }
        const std::array<double, 4> wanted{value.x, value.y, slope.x, slope.y};
        for (std::size_t q = 0; q < 4; ++q)
          for (std::size_t a = 0; a < 4; ++a)
            right[4 * j + q][at[a]] += weight * by[a] * wanted[q];
      }
    }
  solve(normal, right);
  for (std::size_t j = 0; j < m; ++j)
    for (std::size_t i = 0; i < n; ++i) {
      const auto fitted = [&](std::size_t q, std::size_t k) { return right[4 * j + q][k]; };
      NetPeg peg;
      peg.at = {fitted(0, i), fitted(1, i)}, peg.along = {fitted(0, n + i), fitted(1, n + i)};
      peg.down = {fitted(2, i), fitted(3, i)}, peg.twist = {fitted(2, n + i), fitted(3, n + i)};
      peg.touched = net.peg(i < gone ? i : i + 1, j).touched;
      out.pegs.push_back(peg);
    }
  return out;
}

double largest_change(const Net& a, const Net& b) {
  double most = 0;
  const std::size_t across = (a.columns.size() - 1) * looked_at, down = (a.rows.size() - 1) * looked_at;
  for (std::size_t j = 0; j <= down; ++j)
    for (std::size_t i = 0; i <= across; ++i) {
      const double u = static_cast<double>(i) / static_cast<double>(across),
                   v = static_cast<double>(j) / static_cast<double>(down);
      most = std::max(most, distance(place_on(a, u, v).point, place_on(b, u, v).point));
    }
  return most;
}

// Slope at knot i of values over uneven knots: of the parabola through it and its neighbours.
template <class Value> Vec slope_at(const std::vector<double>& at, std::size_t i, const Value& value) {
  const std::size_t n = at.size();
  const auto chord = [&](std::size_t k) { return (value(k + 1) - value(k)) / (at[k + 1] - at[k]); };
  if (n == 2)
    return chord(0);
  const std::size_t k = std::clamp<std::size_t>(i, 1, n - 2);
  const double before = at[k] - at[k - 1], after = at[k + 1] - at[k];
  const Vec bend = (chord(k) - chord(k - 1)) / (before + after);
  return i == k ? chord(k - 1) + bend * before : i < k ? chord(0) - bend * before : chord(n - 2) + bend * after;
}

// The net with these displacements added to its pegs, directions and twists with them.
Net with_moves(Net net, const std::vector<Vec>& moves) {
  const std::size_t n = net.columns.size(), m = net.rows.size();
  std::vector<Vec> down(moves.size());
  for (std::size_t j = 0; j < m; ++j)
    for (std::size_t i = 0; i < n; ++i)
      down[net.index(i, j)] = slope_at(net.rows, j, [&](std::size_t k) { return moves[net.index(i, k)]; });
  for (std::size_t j = 0; j < m; ++j)
    for (std::size_t i = 0; i < n; ++i) {
      NetPeg& peg = net.peg(i, j);
      peg.at += moves[net.index(i, j)];
      peg.down += down[net.index(i, j)];
      peg.along += slope_at(net.columns, i, [&](std::size_t k) { return moves[net.index(k, j)]; });
      peg.twist += slope_at(net.columns, i, [&](std::size_t k) { return down[net.index(k, j)]; });
    }
  return net;
}

// The pegs of a line, and their images.
std::vector<std::size_t> pegs_of(const Net& net, NetLine line, std::size_t number) {
  std::vector<std::size_t> out;
  if (line == NetLine::Row)
    for (std::size_t i = 0; i < net.columns.size(); ++i)
      out.push_back(net.index(i, number));
  else
    for (std::size_t j = 0; j < net.rows.size(); ++j)
      out.push_back(net.index(number, j));
  return out;
}
Point grid_point(const Box& source, const Net& net, std::size_t peg) {
  return {source.x0 + source.width() * net.columns[peg % net.columns.size()],
          source.y0 + source.height() * net.rows[peg / net.columns.size()]};
}

} // namespace

std::vector<double> even_shares(std::size_t cells) {
  std::vector<double> out;
  for (std::size_t i = 0; i <= std::max<std::size_t>(cells, 1); ++i)
    out.push_back(static_cast<double>(i) / static_cast<double>(std::max<std::size_t>(cells, 1)));
  return out;
}

Net flat_net(std::size_t columns, std::size_t rows) {
  Net net{even_shares(columns), even_shares(rows), {}};
  net.pegs.resize(net.columns.size() * net.rows.size());
  return net;
}

Result<WarpMap> net_map(const Box& source, const Net& net) {
  if (const std::optional<Error> fault = fault_of(source, net))
    return *fault;
  WarpMap map;
  add_breaks(map, source, net);
  map.at = [source, shared = std::make_shared<const Net>(net)](Point p) { return place_on(source, *shared, p); };
  return map;
}

Result<WarpMap> displaced(WarpMap base, const Box& source, const Net& net) {
  if (const std::optional<Error> fault = fault_of(source, net))
    return *fault;
  WarpMap map;
  map.breaks = base.breaks, map.level_breaks = base.level_breaks;
  add_breaks(map, source, net);
  map.at = [source, under = std::move(base.at), shared = std::make_shared<const Net>(net)](Point p) {
    WarpPlace w = under(p);
    const WarpPlace by = place_on(source, *shared, p);
    w.point += by.point, w.dx += by.dx, w.dy += by.dy;
    return w;
  };
  return map;
}

Net net_from(const WarpMap& map, const Box& source, std::vector<double> columns, std::vector<double> rows) {
  Net net{std::move(columns), std::move(rows), {}};
  const double w = source.width(), h = source.height();
  for (const double v : net.rows)
    for (const double u : net.columns) {
      const Point p{source.x0 + w * u, source.y0 + h * v};
      const WarpPlace at = map.at(p);
      const Vec below = map.at({p.x, p.y + h * twist_step}).dx, above = map.at({p.x, p.y - h * twist_step}).dx;
      net.pegs.push_back({at.point, at.dx * w, at.dy * h, (below - above) * (w / (2 * twist_step)), false});
    }
  return net;
}

Net with_line(const Net& net, NetLine line, double share) {
  const std::vector<double>& lines = line == NetLine::Column ? net.columns : net.rows;
  if (!(share > 0) || !(share < 1))
    return net;
  for (const double there : lines)
    if (std::abs(there - share) < same_share)
      return net;
  return line == NetLine::Column ? with_column(net, share) : turned(with_column(turned(net), share));
}

double widest_middle(const Net& net, NetLine line) {
  const std::vector<double>& lines = line == NetLine::Column ? net.columns : net.rows;
  double best = 0.5, widest = 0;
  for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
    const double wide = lines[i + 1] - lines[i], middle = (lines[i] + lines[i + 1]) / 2;
    if (wide > widest + same_share ||
        (wide > widest - same_share && std::abs(middle - 0.5) < std::abs(best - 0.5) - same_share))
      widest = wide, best = middle;
  }
  return best;
}

std::optional<NetRemoval> without_line(const Net& net, NetLine line) {
  const Net across = line == NetLine::Column ? net : turned(net);
  std::optional<NetRemoval> best;
  for (std::size_t k = 1; k + 1 < across.columns.size(); ++k) {
    Net less = without_column(across, k);
    const double change = largest_change(across, less);
    if (!best || change < best->largest)
      best = NetRemoval{std::move(less), k, change};
  }
  if (best && line == NetLine::Row)
    best->net = turned(best->net);
  return best;
}

Net pulled(const Net& net, const std::vector<NetPull>& pulls) {
  const std::size_t n = net.columns.size(), m = net.rows.size();
  std::vector<Vec> moves(net.pegs.size());
  std::vector<bool> by_hand(net.pegs.size(), false);
  for (const NetPull& p : pulls)
    moves[p.peg] = p.by, by_hand[p.peg] = true;
  Net out = net;
  for (std::size_t j = 1; j + 1 < m; ++j)
    for (std::size_t i = 1; i + 1 < n; ++i) {
      const std::size_t k = net.index(i, j);
      if (by_hand[k])
        out.pegs[k].touched = true;
      if (by_hand[k] || net.pegs[k].touched)
        continue;
      const double u = net.columns[i], v = net.rows[j];
      const auto side = [&](std::size_t a, std::size_t b) { return moves[net.index(a, b)]; };
      moves[k] = lerp(side(i, 0), side(i, m - 1), v) + lerp(side(0, j), side(n - 1, j), u) -
                 lerp(lerp(side(0, 0), side(n - 1, 0), u), lerp(side(0, m - 1), side(n - 1, m - 1), u), v);
    }
  return with_moves(std::move(out), moves);
}

std::optional<std::size_t> mirrored_peg(const Net& net, std::size_t peg) {
  const double share = 1 - net.columns[peg % net.columns.size()];
  for (std::size_t i = 0; i < net.columns.size(); ++i)
    if (std::abs(net.columns[i] - share) < same_share)
      return net.index(i, peg / net.columns.size());
  return std::nullopt;
}

Net straightened(const Net& net, const WarpMap& base, const Box& source, NetLine line, std::size_t number) {
  const std::vector<std::size_t> pegs = pegs_of(net, line, number);
  const auto image = [&](std::size_t k) { return base.at(grid_point(source, net, k)).point + net.pegs[k].at; };
  const Point from = image(pegs.front());
  const Vec way = image(pegs.back()) - from;
  if (!(length(way) > 0))
    return net;
  const Vec along = unit(way);
  std::vector<NetPull> pulls;
  for (const std::size_t k : pegs) {
    const Point p = image(k);
    pulls.push_back({k, from + along * dot(p - from, along) - p});
  }
  Net out = pulled(net, pulls);
  for (const std::size_t k : pegs) {
    const WarpPlace under = base.at(grid_point(source, net, k));
    const bool row = line == NetLine::Row;
    const Vec own = row ? under.dx * source.width() : under.dy * source.height();
    Vec& direction = row ? out.pegs[k].along : out.pegs[k].down;
    direction = along * dot(own + direction, along) - own;
    out.pegs[k].touched = true;
  }
  return out;
}

double bend_of_line(const WarpMap& map, const Box& source, const Net& net, NetLine line, std::size_t number) {
  const std::vector<std::size_t> pegs = pegs_of(net, line, number);
  const Point a = grid_point(source, net, pegs.front()), b = grid_point(source, net, pegs.back());
  const Point from = map.at(a).point;
  const Vec way = map.at(b).point - from;
  double most = 0;
  const std::size_t places = (pegs.size() - 1) * looked_at;
  for (std::size_t i = 0; i <= places && length(way) > 0; ++i) {
    const Point p = map.at(lerp(a, b, static_cast<double>(i) / static_cast<double>(places))).point;
    most = std::max(most, std::abs(cross(unit(way), p - from)));
  }
  return most;
}

Net evened_out(const Net& net, const WarpMap& base, const Box& source, NetLine line, std::size_t number) {
  const std::vector<std::size_t> pegs = pegs_of(net, line, number);
  const std::vector<double>& shares = line == NetLine::Row ? net.columns : net.rows;
  std::vector<Point> images;
  std::vector<double> far{0};
  for (const std::size_t k : pegs) {
    images.push_back(base.at(grid_point(source, net, k)).point + net.pegs[k].at);
    if (images.size() > 1)
      far.push_back(far.back() + distance(images[images.size() - 2], images.back()));
  }
  std::vector<NetPull> pulls;
  for (std::size_t i = 1; i + 1 < pegs.size(); ++i) {
    const double wanted = far.back() * shares[i];
    std::size_t k = 1;
    while (k + 1 < far.size() && far[k] < wanted)
      ++k;
    const double wide = far[k] - far[k - 1];
    pulls.push_back({pegs[i], lerp(images[k - 1], images[k], wide > 0 ? (wanted - far[k - 1]) / wide : 0) - images[i]});
  }
  return pulled(net, pulls);
}

} // namespace frelm
