// Areas: GEOS on curves flattened at `fine`. A sliver that one side drops counts for little; a hole, a missing overlap
// or a notch as deep as an offset counts for much.
#include "reference/outline_trials.h"

#include "reference/geos_tools.h"
#include "support/fixtures.h"

#include <fmt/format.h>

namespace frelm::test {
namespace {

constexpr double fine = 5e-4;          // mm
constexpr double sliver = 0.006;       // mm: contours of a smaller mean width may be there or not
constexpr double tangency = 0.004;     // mm: what runs nearer may be taken as touching
constexpr double least_node = 0.004;   // mm between nodes, unless the source has them
constexpr double close_by = 0.004;     // mm: the same node, moved near a tangency
constexpr double self_crossing = 1e-4; // mm x length: area that is wound around other than once

struct Area {
  std::vector<Ring> rings;
  double area = 0, length = 0;
  explicit Area(std::vector<Ring> r) : rings(std::move(r)), area(total_area(rings)), length(total_length(rings)) {}
};

class Geos {
public:
  ~Geos() {
    for (GEOSGeometry* g : all_)
      GEOSGeom_destroy_r(c_.h, g);
  }
  GEOSGeometry* own(GEOSGeometry* g) {
    all_.push_back(checked(g));
    return g;
  }
  GEOSGeometry* fill(const Outline& o, double flattening = fine) { return own(filled(c_.h, o, flattening)); }
  GEOSGeometry* unite(const std::vector<GEOSGeometry*>& parts) {
    std::vector<GEOSGeometry*> copies;
    for (const GEOSGeometry* p : parts)
      copies.push_back(GEOSGeom_clone_r(c_.h, p));
    GEOSGeometry* all = own(GEOSGeom_createCollection_r(c_.h, GEOS_GEOMETRYCOLLECTION, copies.data(),
                                                        static_cast<unsigned>(copies.size())));
    return own(GEOSUnaryUnion_r(c_.h, all));
  }
  Area area(const GEOSGeometry* g) const { return Area(rings_of_area(c_.h, g)); }
  // Without holes of a smaller mean width than slivers have: nobody's counters.
  GEOSGeometry* without_hairs(GEOSGeometry* g) {
    std::vector<GEOSGeometry*> parts{g};
    for (const Ring& r : area(g).rings)
      if (const double a = ring_area(r); a < 0 && -2 * a < tangency * ring_length(r)) {
        Outline o;
        Contour& c = o.contours.emplace_back();
        for (std::size_t i = 0; i < r.size(); ++i)
          c.segments.push_back(Segment::line(r[i], r[(i + 1) % r.size()]));
        parts.push_back(fill(o));
      }
    return parts.size() > 1 ? unite(parts) : g;
  }
  // The area and what is `by` mm more and less of it: how firmly its contours stand.
  std::vector<Area> brackets(const GEOSGeometry* g, double by) {
    constexpr int quadrant = 8;
    return {area(g), area(own(GEOSBuffer_r(c_.h, g, by, quadrant))), area(own(GEOSBuffer_r(c_.h, g, -by, quadrant)))};
  }
  GEOSContextHandle_t h() const { return c_.h; }

private:
  GeosContext c_;
  std::vector<GEOSGeometry*> all_;
};

std::string place(Point p) {
  return fmt::format(" at {:.3f},{:.3f}", p.x, p.y);
}

// Closed, and wound around once wherever it is filled.
std::string own_fault(const Outline& got) {
  if (const std::string f = closed_fault(got); !f.empty())
    return f;
  if (got.empty())
    return "";
  Geos geos;
  const Area filled = geos.area(geos.fill(got, 1e-4));
  const double twice = std::abs(filled.area - total_area(rings_of(got, 1e-4)));
  if (twice > self_crossing * (1 + got.length()))
    return fmt::format("crosses itself: {:.5f} mm² wound around other than once", twice);
  return "";
}

// As many contours as one of the truths has, or a number between them.
std::string contour_fault(const Outline& got, const std::vector<Area>& truths) {
  const auto ours = rings_of(got, fine);
  std::size_t least = std::numeric_limits<std::size_t>::max(), most = 0;
  for (const Area& truth : truths) {
    least = std::min(least, ring_count(truth.rings, 2 * sliver));
    most = std::max(most, ring_count(truth.rings, sliver / 4));
  }
  if (ring_count(ours, 2 * sliver) > most || ring_count(ours, sliver / 4) < least)
    return fmt::format("{} contours, GEOS {} to {}", got.contours.size(), least, most);
  return "";
}

// No new nodes nearer to each other than least_node.
std::string node_fault(const Outline& got, const std::vector<Outline>& sources) {
  std::vector<std::pair<Point, Point>> own;
  for (const Outline& o : sources)
    for (const Contour& c : o.contours)
      for (const Segment& s : c.segments)
        if (distance(s.p0, s.p3) < least_node)
          own.push_back({s.p0, s.p3});
  for (const Contour& c : got.contours)
    for (const Segment& s : c.segments) {
      const double l = distance(s.p0, s.p3);
      if (l >= least_node || s.bounds().width() + s.bounds().height() >= least_node)
        continue;
      const auto same = [&](const auto& e) {
        return (distance(e.first, s.p0) < close_by && distance(e.second, s.p3) < close_by) ||
               (distance(e.second, s.p0) < close_by && distance(e.first, s.p3) < close_by);
      };
      if (std::none_of(own.begin(), own.end(), same))
        return fmt::format("nodes {:.6f} mm apart", l) + place(s.p0);
    }
  return "";
}

std::string first_of(std::initializer_list<std::string> faults) {
  for (const std::string& f : faults)
    if (!f.empty())
      return f;
  return "";
}

// Slivers, which either side may drop, aside.
std::string area_fault(const Outline& got, const Area& truth, double allowed) {
  allowed += 0.002;
  for (const Ring& r : truth.rings)
    if (2 * std::abs(ring_area(r)) < sliver * ring_length(r))
      allowed += std::abs(ring_area(r));
  const double ours = total_area(rings_of(got, fine));
  return std::abs(ours - truth.area) <= allowed
             ? ""
             : fmt::format("area {:.4f}, GEOS {:.4f}, allowed {:.4f}", ours, truth.area, allowed);
}

// Every place of `from` within `bound` of `to`.
std::string distance_fault(const char* what, const std::vector<Ring>& from, const std::vector<Ring>& to, double bound) {
  if (from.empty() || to.empty())
    return "";
  const BoundaryDistance distance_to(to);
  for (const Ring& r : from)
    for (const Point p : r)
      if (const double d = distance_to(p); d > bound)
        return fmt::format("{} {:.4f} mm off", what, d) + place(p);
  return "";
}

double input_length(const std::vector<Outline>& shapes) {
  double sum = 0;
  for (const Outline& o : shapes)
    sum += o.length();
  return sum;
}

} // namespace

std::string weld_fault(const std::vector<Outline>& shapes, const Outline& got) {
  Geos geos;
  std::vector<GEOSGeometry*> parts;
  for (const Outline& o : shapes)
    if (!o.empty())
      parts.push_back(geos.fill(o));
  GEOSGeometry* united = geos.unite(parts);
  const Area truth = geos.area(united);
  return first_of({own_fault(got), area_fault(got, truth, 5e-4 * input_length(shapes)),
                   contour_fault(got, geos.brackets(united, tangency)), node_fault(got, shapes)});
}

std::string boolean_fault(char op, const Outline& a, const Outline& b, const Outline& got) {
  Geos geos;
  GEOSGeometry *x = geos.fill(a), *y = geos.fill(b);
  const auto done = [&](GEOSGeometry* other) {
    return geos.own(op == 'u'   ? GEOSUnion_r(geos.h(), x, other)
                    : op == 'd' ? GEOSDifference_r(geos.h(), x, other)
                    : op == 'i' ? GEOSIntersection_r(geos.h(), x, other)
                                : GEOSSymDifference_r(geos.h(), x, other));
  };
  const Area truth = geos.area(done(y));
  std::vector<Area> truths{truth};
  for (const double by : {-tangency, tangency})
    truths.push_back(geos.area(done(geos.own(GEOSBuffer_r(geos.h(), y, by, 8)))));
  return first_of({own_fault(got), area_fault(got, truth, 5e-4 * input_length({a, b})), contour_fault(got, truths),
                   node_fault(got, {a, b})});
}

std::string offset_fault(const Outline& source, double d, const Outline& got) {
  constexpr double bound = 0.01;
  Geos geos;
  GEOSGeometry* area = geos.without_hairs(geos.fill(source, 1e-4));
  constexpr int quadrant = 100;
  GEOSGeometry* grown = geos.own(GEOSBuffer_r(geos.h(), area, d, quadrant));
  const Area truth = geos.area(grown);
  const std::string own = own_fault(got);
  if (!own.empty())
    return own;
  const BoundaryDistance from(geos.area(area).rings);
  double worst = 0;
  Point at;
  for (const Contour& c : got.contours)
    for (const Segment& s : c.segments) {
      const int n = std::clamp(static_cast<int>(distance(s.p0, s.p3) / 0.1), 5, 60);
      for (int i = 0; i < n; ++i) {
        const Point p = s.at(static_cast<double>(i) / n);
        if (const double off = from(p) - std::abs(d); std::abs(off) > std::abs(worst))
          worst = off, at = p;
      }
    }
  if (std::abs(worst) > bound + 2e-4)
    return fmt::format("{:.4f} mm off the definition", worst) + place(at);
  // GEOS simplifies concave stretches by up to a hundredth of the distance.
  const double unsure = 0.01 * std::abs(d) + bound;
  GEOSGeometry* ours = geos.fill(got, 1e-3);
  GEOSGeometry* differing = geos.own(GEOSSymDifference_r(geos.h(), grown, ours));
  // Where they differ by more, the definition says who is right.
  const GEOSGeometry* thick = geos.own(GEOSBuffer_r(geos.h(), differing, -unsure, 4));
  for (int i = 0; i < GEOSGetNumGeometries_r(geos.h(), thick); ++i) {
    const GEOSGeometry* inside = geos.own(GEOSPointOnSurface_r(geos.h(), GEOSGetGeometryN_r(geos.h(), thick, i)));
    Point p;
    if (GEOSGeomGetX_r(geos.h(), inside, &p.x) != 1 || GEOSGeomGetY_r(geos.h(), inside, &p.y) != 1)
      continue;
    const double to_area = GEOSContains_r(geos.h(), area, inside) == 1 ? -from(p) : from(p);
    const bool wanted = to_area <= d, ours_has = GEOSContains_r(geos.h(), ours, inside) == 1;
    if (wanted != ours_has && std::abs(to_area - d) > bound)
      return fmt::format("{} {:.3f} mm from the edge", wanted ? "missing" : "too much", to_area) + place(p);
  }
  return area_fault(got, truth, unsure * truth.length);
}

std::string shade_fault(const Outline& source, Vec way, const Outline& got) {
  Geos geos;
  GEOSGeometry* area = geos.without_hairs(geos.fill(source));
  const Area rings = geos.area(area);
  std::vector<GEOSGeometry*> parts{area};
  for (const Ring& r : rings.rings)
    for (std::size_t i = 0; i < r.size(); ++i) {
      const Point a = r[i], b = r[(i + 1) % r.size()];
      if (std::abs(cross(unit(way), b - a)) < 1e-9)
        continue;
      GEOSCoordSequence* seq = GEOSCoordSeq_create_r(geos.h(), 5, 2);
      const Point corners[] = {a, b, b + way, a + way, a};
      for (unsigned k = 0; k < 5; ++k) {
        GEOSCoordSeq_setX_r(geos.h(), seq, k, corners[k].x);
        GEOSCoordSeq_setY_r(geos.h(), seq, k, corners[k].y);
      }
      parts.push_back(
          geos.own(GEOSGeom_createPolygon_r(geos.h(), GEOSGeom_createLinearRing_r(geos.h(), seq), nullptr, 0)));
    }
  GEOSGeometry* swept = geos.unite(parts);
  const Area truth = geos.area(swept);
  return first_of({own_fault(got), area_fault(got, truth, 1e-3 * truth.length),
                   contour_fault(got, geos.brackets(swept, tangency)),
                   distance_fault("shade", rings_of(got, 1e-3), truth.rings, 0.011)});
}

std::string thin_fault(const Outline& source, double tolerance, const Outline& got) {
  const auto a = rings_of(source, 1e-3), b = rings_of(got, 1e-4);
  return first_of({own_fault(got), distance_fault("source", a, b, tolerance + 1e-3),
                   distance_fault("result", b, rings_of(source, 1e-4), tolerance + 1e-3)});
}

std::string warp_fault(const Outline& source, const WarpMap& map, const Outline& got) {
  constexpr double bound = 0.005;
  constexpr int places = 200; // of each segment; lines bend too
  std::vector<Ring> image;
  for (const Contour& c : source.contours) {
    Ring& r = image.emplace_back();
    for (const Segment& s : c.segments)
      for (int i = 0; i < places; ++i)
        r.push_back(map.at(s.at(static_cast<double>(i) / places)).point);
  }
  const auto ours = rings_of(got, 1e-4);
  return first_of({closed_fault(got), distance_fault("warped", ours, image, bound + 5e-4),
                   distance_fault("image", image, ours, bound + 5e-4)});
}

} // namespace frelm::test
