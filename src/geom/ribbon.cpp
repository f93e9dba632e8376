#include "geom/ribbon.h"

#include "geom/arc_cubics.h"
#include "geom/boolean.h"
#include "geom/offset.h"

#include <algorithm>
#include <array>
#include <optional>

namespace frelm {
namespace {

constexpr double fold_share = 0.75, longest_fold = 0.25; // of the width, of the line's length

Outline polygon(const std::vector<Point>& points) {
  Contour c;
  for (std::size_t i = 0; i < points.size(); ++i)
    c.segments.push_back(Segment::line(points[i], points[(i + 1) % points.size()]));
  return {{c}};
}

// One end of a line, seen from outside: where it is and which way it points.
struct End {
  Point at;
  Vec out, down; // unit
};

// Where the parts lie; what is made of them is the Maker's and the sketch's.
class Layout {
public:
  Layout(const Curve& line, const RibbonCut& cut) : line_(line), cut_(cut) {}

  End left() const { return end_at(0, -1); }
  End right() const { return end_at(line_.length(), 1); }
  // Each end, and the place inside it where its fold begins.
  std::array<std::pair<End, End>, 2> ends() const {
    const double reach = std::min(fold_share * cut_.width, longest_fold * line_.length());
    return {std::pair{left(), end_at(reach, -1)}, std::pair{right(), end_at(line_.length() - reach, 1)}};
  }
  Point notch(const End& end) const { return end.at - end.out * cut_.notch; }
  bool notched() const { return cut_.end == RibbonEnd::SwallowTail && cut_.notch > 0; }
  End tail_end(const End& end) const {
    return {end.at + end.out * cut_.tail + end.down * cut_.drop, end.out, end.down};
  }
  Segment tail(const End& end, const End& inside) const {
    const Point from = inside.at + inside.down * cut_.drop, to = tail_end(end).at;
    const double third = distance(from, to) / 3;
    return Segment::cubic(from, from + inside.out * third, to - end.out * third, to);
  }
  // Nothing without a drop.
  Outline fold(const End& end, const End& inside) const {
    const double half = (cut_.drop < 0 ? -1 : 1) * cut_.width / 2;
    return cut_.drop == 0
               ? Outline{}
               : polygon({end.at, end.at + end.down * half, inside.at + inside.down * (half + cut_.drop), inside.at});
  }

private:
  End end_at(double s, double sense) const {
    const CurvePlace p = line_.at(s);
    return {p.point, p.tangent * sense, -up_of(p.tangent)};
  }

  const Curve& line_;
  const RibbonCut& cut_;
};

class Maker {
public:
  Maker(const Curve& line, const RibbonCut& cut) : line_(line), cut_(cut), layout_(line, cut) {}

  Result<Outline> run() {
    Contour along = line_.contour(default_arc_tolerance);
    if (line_.closed())
      return closed_band({{along}});
    const Outline front = band(along);
    if (!cut_.folds)
      return checked(notched(notched(front, layout_.left()), layout_.right()));
    Outline out = front;
    for (const auto& [end, inside] : layout_.ends())
      out = with_tail(std::move(out), front, end, inside);
    return checked(std::move(out));
  }

private:
  Result<Outline> checked(Outline out) const { return failed_ ? Result<Outline>(*failed_) : std::move(out); }

  // After a first failure nothing more is done; it is told in the end.
  template <class R, class Take> Outline took(R made, const Take& take) {
    if (!made) {
      failed_ = failed_ ? failed_ : made.error();
      return {};
    }
    return take(std::move(*made));
  }
  Outline grown(const Outline& o, double by, const OffsetOptions& options = {}) {
    return failed_ ? Outline{}
                   : took(offset(o, by, options), [](OffsetResult&& r) { return std::move(r.rings.front()); });
  }
  Outline combined(BooleanOp op, const Outline& a, const Outline& b) {
    return failed_ ? Outline{} : took(combine(op, {a}, {b}), [](WeldResult&& r) { return std::move(r.outline); });
  }

  Outline band(Contour along) {
    along.closed = false;
    return grown({{along}}, cut_.width / 2, {.join = JoinStyle::Mitre, .cap = CapStyle::Flat});
  }
  Result<Outline> closed_band(const Outline& area) {
    const Outline outer = grown(area, cut_.width / 2), inner = grown(area, -cut_.width / 2);
    return checked(combined(BooleanOp::Difference, outer, inner));
  }
  // The triangle from the end's corners to the notch, and a little more outside.
  Outline notched(const Outline& o, const End& end) {
    if (!layout_.notched())
      return o;
    const Point tip = layout_.notch(end);
    const auto beyond = [&](double side) {
      const Point corner = end.at + end.down * (side * cut_.width / 2);
      return corner + (corner - tip) * 0.5;
    };
    return combined(BooleanOp::Difference, o, polygon({tip, beyond(1), beyond(-1)}));
  }
  Outline with_tail(Outline all, const Outline& front, const End& end, const End& inside) {
    const Outline tail = notched(band({{layout_.tail(end, inside)}, false}), layout_.tail_end(end));
    const Outline fold = layout_.fold(end, inside);
    if (cut_.gap == 0)
      return combined(BooleanOp::Union, combined(BooleanOp::Union, all, fold), tail);
    all.append(combined(BooleanOp::Difference, fold, grown(front, cut_.gap)));
    all.append(combined(BooleanOp::Difference, tail, grown(combined(BooleanOp::Union, front, fold), cut_.gap)));
    return all;
  }

  const Curve& line_;
  const RibbonCut& cut_;
  Layout layout_;
  std::optional<Error> failed_;
};

// A band as a polygon: one side there, the other one back, with the notches of the ends that have one.
Outline sketched_band(const Curve& line, double width, std::optional<Point> first, std::optional<Point> last) {
  const int n = std::clamp(static_cast<int>(line.joints().size()) * 4, 48, 400);
  std::vector<Point> places;
  const auto side = [&](int i, double half) {
    const CurvePlace p = line.at(line.length() * i / n);
    places.push_back(p.point + up_of(p.tangent) * half);
  };
  for (int i = 0; i <= n; ++i)
    side(i, width / 2);
  if (last)
    places.push_back(*last);
  for (int i = n; i >= 0; --i)
    side(i, -width / 2);
  if (first)
    places.push_back(*first);
  return polygon(places);
}

} // namespace

Outline ribbon_sketch(const Curve& line, const RibbonCut& cut) {
  const Layout layout(line, cut);
  const auto notch = [&](const End& end) { return layout.notched() ? std::optional(layout.notch(end)) : std::nullopt; };
  const bool tails = cut.folds && !line.closed(), ends = !tails && !line.closed();
  Outline out = sketched_band(line, cut.width, ends ? notch(layout.left()) : std::nullopt,
                              ends ? notch(layout.right()) : std::nullopt);
  if (tails)
    for (const auto& [end, inside] : layout.ends()) {
      out.append(layout.fold(end, inside));
      out.append(sketched_band(Curve({layout.tail(end, inside)}), cut.width, {}, notch(layout.tail_end(end))));
    }
  for (Contour& c : out.contours) // nothing is taken out of anything
    if (c.area() < 0)
      c = c.reversed();
  return out;
}

Result<Outline> ribbon_parts(const Curve& line, const RibbonCut& cut) {
  return Maker(line, cut).run();
}

} // namespace frelm
