// How many panels: `Division` says it for each axis. Where the seams lie: the least cut through by dynamic programming
// over the stretch that each may lie in; what a level line cuts through of an area is the sum of its edges' places on
// that line, with their sense (Green), so all lines are weighed in one walk over the edges.
#include "cutting/panels.h"

#include "geom/boolean.h"
#include "geom/clip_line.h"
#include "geom/rectangle.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

namespace frelm {
namespace {

enum class Axis { X, Y };
double of(Point p, Axis axis) {
  return axis == Axis::X ? p.x : p.y;
}

// What seams need beside the work, at each of their ends.
constexpr double beside = seam_mark_distance + seam_mark_size;

// A stretch parted into so many, each at most `most` long with its overlaps. 0: can't be.
std::size_t parts_of_stretch(double length, double most, double overlap) {
  constexpr double rounding = 1e-6;
  if (most == 0 || length <= most + rounding)
    return 1;
  const double reach = std::max(overlap, seam_mark_size); // of a panel, over both sides of a seam
  if (most < 2 * reach + 3 * beside)                      // no strip that anybody would lay
    return 0;
  const double n = std::ceil((length - reach - rounding) / (most - reach));
  return n <= double(most_panels) ? static_cast<std::size_t>(n) : 0;
}

struct Division {
  std::size_t columns = 0, rows = 0;
  double most_wide = 0, most_high = 0; // of a panel; 0: as long as it likes
  std::size_t count() const { return columns * rows; }
};
Division divided(double width, double height, double most_wide, double most_high, double overlap) {
  Division out{1, 1, most_wide, most_high};
  for (int i = 0; i < 3; ++i) { // marks of one kind of seams may ask for one of the other
    out.columns = parts_of_stretch(width + (out.rows > 1 ? 2 * beside : 0), most_wide, overlap);
    out.rows = parts_of_stretch(height + (out.columns > 1 ? 2 * beside : 0), most_high, overlap);
  }
  return out;
}
// On the sheet as it lies or turned, whichever takes fewer. count() 0: it fits, is not to be parted, or can't be.
Division division_of(const Box& work, const Material& m) {
  const double width = work.width(), height = work.height();
  if (m.panel_overlap <= 0 || work.empty() || fits(m, width, height))
    return {};
  const Division a = divided(width, height, m.length, m.width, m.panel_overlap),
                 b = divided(width, height, m.width, m.length, m.panel_overlap);
  const auto possible = [](const Division& d) { return d.count() > 0 && d.count() <= most_panels; };
  if (!possible(a) || !possible(b))
    return possible(a) ? a : possible(b) ? b : Division{};
  return b.count() < a.count() ? b : a;
}

// mm that lines across the work, at equal steps, cut through of it; every line crossed counts a little besides.
struct CutThrough {
  double from = 0, step = 1;
  std::vector<double> cut;
  double at(double place) const {
    const double i = std::clamp(std::round((place - from) / step), 0.0, double(cut.size() - 1));
    return cut[static_cast<std::size_t>(i)];
  }
};
CutThrough weighed(const std::vector<const CutPiece*>& work, Axis axis, double from, double to) {
  constexpr double finest = 0.5, tolerance = 0.1, a_crossing = 0.01;
  constexpr double most_steps = 8000;
  CutThrough out{from, std::max(finest, (to - from) / most_steps), {}};
  const auto count = static_cast<std::size_t>((to - from) / out.step) + 1;
  std::vector<double> through(count, 0), crossed(count, 0);
  const Axis other = axis == Axis::X ? Axis::Y : Axis::X;
  const double sense = axis == Axis::X ? -1 : 1;
  for (const CutPiece* p : work)
    for (const Contour& c : p->outline.contours) {
      const std::vector<Point> line = flatten(c, tolerance);
      for (std::size_t i = 0; i + (c.closed ? 0 : 1) < line.size(); ++i) {
        const Point a = line[i], b = line[(i + 1) % line.size()];
        const double lo = std::min(of(a, axis), of(b, axis)), hi = std::max(of(a, axis), of(b, axis));
        const double up = of(b, axis) > of(a, axis) ? -sense : sense;
        // Half-open, so that a corner between two edges counts once.
        const double first = std::max(0.0, std::ceil((lo - from) / out.step));
        for (auto k = static_cast<std::size_t>(first); k < count; ++k) {
          const double at = from + double(k) * out.step;
          if (at >= hi)
            break;
          const double share = (at - of(a, axis)) / (of(b, axis) - of(a, axis));
          if (c.closed)
            through[k] += up * std::lerp(of(a, other), of(b, other), share);
          crossed[k] += a_crossing;
        }
      }
    }
  for (std::size_t k = 0; k < count; ++k)
    through[k] = std::abs(through[k]) + crossed[k];
  out.cut = std::move(through);
  return out;
}

// Where the seams lie, in order: all in the work from `from` to `to`, which `room` more may stand out of at both ends
// for marks. Any two follow each other by what a panel may take at most and `least`, as the farthest places that each
// may have do: so there is always an answer.
std::vector<double> seams(const CutThrough& weight, double from, double to, double room, std::size_t parts, double most,
                          double overlap) {
  const double half = overlap / 2, reach = std::max(overlap, seam_mark_size) / 2;
  const double inner = most - 2 * reach, outer = most - reach - room; // between two seams, and at the ends
  constexpr double narrowest = 20;                                    // of a panel, where there is a choice
  const double least = std::min(std::max(overlap, narrowest), (to - from) / (2 * double(parts)));
  const std::size_t n = parts - 1;
  struct Place {
    double at, cost;
    std::size_t before;
  };
  std::vector<std::vector<Place>> tried(n);
  constexpr int most_tries = 400;
  for (std::size_t i = 0; i < n; ++i) {
    const double equal = std::lerp(from, to, double(i + 1) / double(parts));
    const double low = std::max(to - outer - double(n - 1 - i) * inner, from + half + double(i + 1) * least),
                 high = std::min(from + outer + double(i) * inner, to - half - double(n - i) * least);
    const double step = std::max(0.5, (high - low) / most_tries);
    const auto take = [&](double x) {
      // Away from the middle counts for little: a seam through 1 mm more is worth going a metre.
      Place place{x, weight.at(x) + (weight.at(x - half) + weight.at(x + half)) * 0.25 + 1e-3 * std::abs(x - equal), 0};
      constexpr double rounding = 1e-6;
      double best = i == 0 ? 0 : std::numeric_limits<double>::infinity();
      for (std::size_t k = 0; i > 0 && k < tried[i - 1].size(); ++k)
        if (const Place& b = tried[i - 1][k];
            x - b.at <= inner + rounding && x - b.at >= least - rounding && b.cost < best)
          best = b.cost, place.before = k;
      place.cost += best;
      tried[i].push_back(place);
    };
    for (double x = low; x < high; x += step)
      take(x);
    take(high);
  }
  std::vector<double> out(n);
  const auto cheapest = std::min_element(tried.back().begin(), tried.back().end(),
                                         [](const Place& a, const Place& b) { return a.cost < b.cost; });
  auto k = static_cast<std::size_t>(cheapest - tried.back().begin());
  for (std::size_t i = n; i-- > 0; k = tried[i][k].before)
    out[i] = tried[i][k].at;
  return out;
}

Box box_of(const std::vector<const CutPiece*>& work) {
  Box out;
  for (const CutPiece* p : work)
    out.add(p->outline.bounds());
  return out;
}

// What of a piece lies in a panel.
Result<Outline> within(const Outline& outline, const Box& panel, const std::stop_token& stop) {
  if (panel.contains(outline.bounds()))
    return outline;
  OutlineParts parts = parts_of(outline);
  // What lies beside the panel winds around nothing in it.
  std::erase_if(parts.closed.contours, [&](const Contour& c) { return !c.bounds().overlaps(panel); });
  Outline out;
  if (!parts.closed.empty()) {
    WeldOptions options;
    options.stop = stop;
    Result<WeldResult> cut = combine(BooleanOp::Intersection, {parts.closed}, {{{rectangle(panel)}}}, options);
    if (!cut)
      return cut.error();
    out = std::move(cut->outline);
  }
  for (const Contour& line : parts.open.contours)
    for (Contour& c : clip_line(line, panel))
      out.contours.push_back(std::move(c));
  return out;
}

} // namespace

std::size_t panel_count(const Box& work, const Material& m) {
  return division_of(work, m).count();
}

bool panels_help(const Box& work, Material m) {
  m.panel_overlap = usual_panel_overlap;
  return panel_count(work, m) > 1;
}

std::vector<Panel> panels_of(const std::vector<const CutPiece*>& work, const Material& m) {
  const Box box = box_of(work);
  const Division d = division_of(box, m);
  if (d.count() < 2)
    return {};
  const auto along = [&](Axis axis, double from, double to, std::size_t parts, double most, bool marked) {
    return parts < 2
               ? std::vector<double>{}
               : seams(weighed(work, axis, from, to), from, to, marked ? beside : 0, parts, most, m.panel_overlap);
  };
  const std::vector<double> x = along(Axis::X, box.x0, box.x1, d.columns, d.most_wide, d.rows > 1),
                            y = along(Axis::Y, box.y0, box.y1, d.rows, d.most_high, d.columns > 1);
  const double half = m.panel_overlap / 2;
  const auto stretch = [half](const std::vector<double>& at, std::size_t i, double from, double to) {
    return std::pair(i == 0 ? from : at[i - 1] - half, i == at.size() ? to : at[i] + half);
  };
  std::vector<Panel> out;
  constexpr double away = seam_mark_distance + seam_mark_size / 2;
  const bool down = y.empty(); // strips that stand beside one another are cut one below the other
  Point first;                 // of the panel that stays where it is
  double next = 0;
  for (std::size_t row = 0; row < d.rows; ++row)
    for (std::size_t column = 0; column < d.columns; ++column) {
      Panel p;
      std::tie(p.part.x0, p.part.x1) = stretch(x, column, box.x0, box.x1);
      std::tie(p.part.y0, p.part.y1) = stretch(y, row, box.y0, box.y1);
      const bool top = row == 0, bottom = row + 1 == d.rows, left = column == 0, right = column + 1 == d.columns;
      for (std::size_t i = column - (left ? 0 : 1); i < column + (right ? 0 : 1); ++i) { // seams on either side
        if (top)
          p.marks.push_back({x[i], box.y0 - away});
        if (bottom)
          p.marks.push_back({x[i], box.y1 + away});
      }
      for (std::size_t i = row - (top ? 0 : 1); i < row + (bottom ? 0 : 1); ++i) {
        if (left)
          p.marks.push_back({box.x0 - away, y[i]});
        if (right)
          p.marks.push_back({box.x1 + away, y[i]});
      }
      Box taken = p.part; // with its marks
      if (!x.empty())
        taken.y0 -= top ? beside : 0, taken.y1 += bottom ? beside : 0;
      if (!y.empty())
        taken.x0 -= left ? beside : 0, taken.x1 += right ? beside : 0;
      if (out.empty())
        first = {taken.x0, taken.y0}, next = down ? taken.y0 : taken.x0;
      p.moved = down ? Vec{first.x - taken.x0, next - taken.y0} : Vec{next - taken.x0, first.y - taken.y0};
      p.alone = {first.x - taken.x0, first.y - taken.y0};
      next += (down ? taken.height() : taken.width()) + panel_distance;
      out.push_back(std::move(p));
    }
  return out;
}

Result<Done> part_in_panels(CutSheet& sheet, const std::vector<Material>& materials, std::size_t only,
                            const std::stop_token& stop) {
  for (const Material& m : materials) {
    std::vector<const CutPiece*> work;
    for (const CutPiece& p : sheet.pieces)
      if (p.colour == m.colour && !p.outline.empty())
        work.push_back(&p);
    const std::vector<Panel> panels = panels_of(work, m);
    if (panels.empty())
      continue;
    std::vector<CutPiece> pieces;
    for (std::size_t i = 0; i < panels.size(); ++i) {
      const Panel& panel = panels[i];
      if (only > 0 && i + 1 != only)
        continue;
      const Vec by = only > 0 ? panel.alone : panel.moved;
      const Affine move = Affine::translation(by);
      for (const CutPiece* p : work) {
        if (stop.stop_requested())
          return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
        Result<Outline> part = within(p->outline, panel.part, stop);
        if (!part)
          return part.error();
        if (part->empty())
          continue;
        CutPiece& piece = pieces.emplace_back(*p);
        piece.outline = part->transformed(move);
        piece.panel = i + 1, piece.panels = panels.size();
      }
      CutPiece marks{0, "Seam marks", m.colour, Destination::Knife, {}, {}, i + 1, panels.size()};
      constexpr double h = seam_mark_size / 2;
      for (const Point at : panel.marks) {
        const Point p = at + by;
        marks.outline.contours.push_back({{Segment::line({p.x - h, p.y}, {p.x + h, p.y})}, false});
        marks.outline.contours.push_back({{Segment::line({p.x, p.y - h}, {p.x, p.y + h})}, false});
      }
      if (!marks.outline.empty())
        pieces.push_back(std::move(marks));
    }
    std::erase_if(sheet.pieces, [&](const CutPiece& p) { return p.colour == m.colour; });
    for (const CutPiece& p : pieces)
      sheet.frame.add(p.outline.bounds());
    sheet.pieces.insert(sheet.pieces.end(), std::make_move_iterator(pieces.begin()),
                        std::make_move_iterator(pieces.end()));
  }
  if (only > 0)
    std::erase_if(sheet.pieces, [](const CutPiece& p) { return p.panel == 0; });
  return Done{};
}

} // namespace frelm
