// Ends look for each other first, nearest pairs before others, then for lines; of their own line they see only what
// lies further along it than twice the width, else every end would meet its own neighbourhood.
#include "geom/spaces.h"

#include "geom/along.h"
#include "geom/distance.h"
#include "geom/nodes.h"

#include <algorithm>

namespace frelm {
namespace {

constexpr double meets = 0.002; // mm: geom/arrangement takes it for one vertex

struct Line {
  const Contour* contour;
  Box box;
};
struct LooseEnd {
  Point at;
  std::size_t line;
  bool first; // of the contour
};

// What an end may be bridged to of the contour it belongs to.
Outline far_part(const Contour& contour, bool from_start, double beyond) {
  Contour out;
  out.closed = false;
  double walked = 0;
  for (std::size_t i = 0; i < contour.segments.size(); ++i) {
    const Segment& s = contour.segments[from_start ? i : contour.segments.size() - 1 - i];
    if (walked > beyond)
      out.segments.push_back(s);
    walked += Contour{{s}, false}.length();
  }
  if (!from_start)
    std::reverse(out.segments.begin(), out.segments.end());
  return {{out}};
}

class Bridger {
public:
  Bridger(const std::vector<Outline>& outlines, const Arrangement& arranged, double width) : width_(width) {
    for (const Outline& o : outlines)
      for (const Contour& c : o.contours)
        if (!c.segments.empty())
          lines_.push_back({&c, c.bounds()});
    find_loose_ends(arranged);
  }

  std::vector<Bridge> run(const std::stop_token& stop) {
    end_to_end();
    for (std::size_t e = 0; e < ends_.size() && !stop.stop_requested(); ++e)
      if (met_[e] == 0)
        end_to_line(ends_[e]);
    for (std::size_t a = 0; a < lines_.size() && !stop.stop_requested(); ++a)
      for (std::size_t b = a + 1; b < lines_.size(); ++b)
        line_to_line(lines_[a], lines_[b]);
    return std::move(bridges_);
  }

private:
  void find_loose_ends(const Arrangement& arranged) {
    const std::vector<Point> loose = arranged.loose_ends();
    for (std::size_t i = 0; i < lines_.size(); ++i) {
      const Contour& c = *lines_[i].contour;
      if (c.closed)
        continue;
      for (const bool first : {true, false}) {
        const Point p = first ? c.segments.front().p0 : c.segments.back().p3;
        if (std::any_of(loose.begin(), loose.end(), [&](Point q) { return distance(p, q) <= meets; }))
          ends_.push_back({p, i, first});
      }
    }
    met_.assign(ends_.size(), 0);
  }

  void end_to_end() {
    struct Pair {
      double apart;
      std::size_t a, b;
    };
    std::vector<Pair> pairs;
    for (std::size_t a = 0; a < ends_.size(); ++a)
      for (std::size_t b = a + 1; b < ends_.size(); ++b)
        if (const double d = distance(ends_[a].at, ends_[b].at); d <= width_)
          pairs.push_back({d, a, b});
    std::sort(pairs.begin(), pairs.end(), [](const Pair& p, const Pair& q) { return p.apart < q.apart; });
    for (const Pair& p : pairs) {
      if (met_[p.a] != 0 || met_[p.b] != 0)
        continue;
      met_[p.a] = met_[p.b] = 1;
      bridges_.push_back({ends_[p.a].at, ends_[p.b].at});
    }
  }

  void end_to_line(const LooseEnd& end) {
    Box at;
    at.add(end.at);
    double best = width_;
    std::optional<Point> to;
    const Outline own{{*lines_[end.line].contour}};
    for (std::size_t i = 0; i < lines_.size(); ++i) {
      if (lines_[i].box.distance_to(at) > best)
        continue;
      const Outline seen =
          i == end.line ? far_part(*lines_[i].contour, end.first, 2 * width_) : Outline{{*lines_[i].contour}};
      const auto near = nearest_on(seen, end.at);
      if (!near || near->distance > best)
        continue;
      if (i != end.line && nearest_on(own, near->point)->distance <= meets)
        continue; // the line comes there by itself
      best = near->distance, to = near->point;
    }
    if (to)
      bridges_.push_back({end.at, *to});
  }

  void line_to_line(const Line& a, const Line& b) {
    if (a.box.distance_to(b.box) > width_)
      return;
    const Closest near = closest_boundaries({{*a.contour}}, {{*b.contour}});
    if (near.overlapping || near.distance > width_ || near.distance <= meets)
      return;
    const Bridge bridge{near.on_a, near.on_b};
    const auto there = [&](const Bridge& o) {
      return (distance(o.from, bridge.from) < meets && distance(o.to, bridge.to) < meets) ||
             (distance(o.from, bridge.to) < meets && distance(o.to, bridge.from) < meets);
    };
    if (std::none_of(bridges_.begin(), bridges_.end(), there))
      bridges_.push_back(bridge);
  }

  double width_;
  std::vector<Line> lines_;
  std::vector<LooseEnd> ends_;
  std::vector<char> met_; // by another end
  std::vector<Bridge> bridges_;
};

} // namespace

Result<Spaces> Spaces::build(const std::vector<Outline>& outlines, double bridged, std::stop_token stop) {
  if (!(bridged >= 0) || !std::isfinite(bridged))
    return bad_input(FRELM_WORDS("core", "the width of openings must be 0 or more"));
  Result<Arrangement> drawn = Arrangement::build(outlines, stop);
  if (!drawn)
    return drawn.error();
  Spaces out;
  out.lines_ = std::move(*drawn);
  if (bridged > 0)
    out.bridges_ = Bridger(outlines, out.lines_, bridged).run(stop);
  if (!out.bridges_.empty()) {
    std::vector<Outline> all = outlines;
    for (const Bridge& b : out.bridges_)
      all.push_back({{{{Segment::line(b.from, b.to)}, false}}});
    Result<Arrangement> with = Arrangement::build(all, stop);
    if (!with)
      return with.error();
    out.bridged_ = std::move(*with);
  }
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  return out;
}

} // namespace frelm
