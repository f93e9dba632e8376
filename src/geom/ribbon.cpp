#include "geom/ribbon.h"

#include "geom/arc_cubics.h"
#include "geom/boolean.h"
#include "geom/offset.h"

#include <optional>

namespace frelm {
namespace {

constexpr double fold_share = 0.75, longest_fold = 0.25; // of the width, of the line's length

Outline polygon(std::initializer_list<Point> points) {
  Contour c;
  for (const Point* p = points.begin(); p != points.end(); ++p)
    c.segments.push_back(Segment::line(*p, p + 1 == points.end() ? *points.begin() : p[1]));
  return {{c}};
}

// One end of a line, seen from outside: where it is and which way it points.
struct End {
  Point at;
  Vec out, down; // unit
};

class Maker {
public:
  Maker(const Curve& line, const RibbonCut& cut) : line_(line), cut_(cut) {}

  Result<Outline> run() {
    Contour along = line_.contour(default_arc_tolerance);
    if (line_.closed())
      return closed_band({{along}});
    const Outline front = band(along);
    const End left{end_at(0, -1)}, right{end_at(line_.length(), 1)};
    if (!cut_.folds)
      return checked(cut_.end == RibbonEnd::SwallowTail ? notched(notched(front, left), right) : front);
    Outline out = front;
    for (const auto& [end, inside] :
         {std::pair{left, end_at(reach(), -1)}, std::pair{right, end_at(line_.length() - reach(), 1)}})
      out = with_tail(std::move(out), front, end, inside);
    return checked(std::move(out));
  }

private:
  double reach() const { return std::min(fold_share * cut_.width, longest_fold * line_.length()); }
  End end_at(double s, double sense) const {
    const CurvePlace p = line_.at(s);
    return {p.point, p.tangent * sense, -up_of(p.tangent)};
  }
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
    if (!(cut_.notch > 0))
      return o;
    const Point tip = end.at - end.out * cut_.notch;
    const auto beyond = [&](double side) {
      const Point corner = end.at + end.down * (side * cut_.width / 2);
      return corner + (corner - tip) * 0.5;
    };
    return combined(BooleanOp::Difference, o, polygon({tip, beyond(1), beyond(-1)}));
  }
  Outline with_tail(Outline all, const Outline& front, const End& end, const End& inside) {
    const double side = cut_.drop < 0 ? -1 : 1, half = side * cut_.width / 2;
    const Point from = inside.at + inside.down * cut_.drop, to = end.at + end.out * cut_.tail + end.down * cut_.drop;
    const double third = distance(from, to) / 3;
    const Contour along{{Segment::cubic(from, from + inside.out * third, to - end.out * third, to)}, false};
    Outline tail = band(along);
    if (cut_.end == RibbonEnd::SwallowTail)
      tail = notched(tail, {to, end.out, end.down});
    const Outline fold =
        cut_.drop == 0
            ? Outline{}
            : polygon({end.at, end.at + end.down * half, inside.at + inside.down * (half + cut_.drop), inside.at});
    if (cut_.gap == 0)
      return combined(BooleanOp::Union, combined(BooleanOp::Union, all, fold), tail);
    all.append(combined(BooleanOp::Difference, fold, grown(front, cut_.gap)));
    all.append(combined(BooleanOp::Difference, tail, grown(combined(BooleanOp::Union, front, fold), cut_.gap)));
    return all;
  }

  const Curve& line_;
  const RibbonCut& cut_;
  std::optional<Error> failed_;
};

} // namespace

Result<Outline> ribbon_parts(const Curve& line, const RibbonCut& cut) {
  return Maker(line, cut).run();
}

} // namespace frelm
