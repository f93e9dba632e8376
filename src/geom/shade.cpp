// Block shade: the boundary is cut where it runs along the way. Between two cuts all of it faces ahead (the sweep
// leaves the area there) or back. Each maximal stretch that faces ahead gives a band: the stretch, a line along the
// way, the stretch moved and reversed, a line back. A place in the sweep lies in the outline, or the way back from it
// to the outline leaves through a forward boundary: outline and bands together are the sweep. Weld unites them.
//
// What is narrower across the way than a quarter of the flattening makes no band of its own, whose sides would lie so
// near to the neighbours' that slits and needles as long as the way stay between them. A stretch like that which faces
// back stays in the band around it: the band folds over itself there, and whatever it covers by folding the outline
// covers too. One that faces ahead would sweep a needle, and is left out.
#include "geom/shade.h"

#include "geom/boolean.h"
#include "geom/components.h"
#include "geom/offset.h"

#include <array>
#include <optional>

namespace frelm {
namespace {

constexpr double narrow_share = 0.25; // of the flattening

// Parameters, ascending, where the segment's tangent is parallel to the way; none within `least` mm of another or of an
// end.
std::vector<double> cuts_along(const Segment& s, Vec way, double least) {
  std::vector<double> out{0};
  if (!s.is_line() && way != Vec{}) {
    // cross(way, C'(t)) is a quadratic; its roots by the form without cancellation.
    const double d0 = cross(way, s.p1 - s.p0), d1 = cross(way, s.p2 - s.p1), d2 = cross(way, s.p3 - s.p2);
    const double a = d0 - 2 * d1 + d2, b = 2 * (d1 - d0), c = d0;
    std::array<double, 2> roots{-1, -1};
    if (const double disc = b * b - 4 * a * c; disc >= 0) {
      const double q = -0.5 * (b + std::copysign(std::sqrt(disc), b));
      roots = {a != 0 ? q / a : -1, q != 0 ? c / q : -1};
    }
    std::sort(roots.begin(), roots.end());
    for (const double t : roots)
      if (t > out.back() && t < 1 && distance(s.at(t), s.at(out.back())) > least && distance(s.at(t), s.p3) > least)
        out.push_back(t);
  }
  out.push_back(1);
  return out;
}

struct Piece {
  Segment s;
  double ahead = 0; // mm that it goes across the way: more than 0 where it faces ahead, less where it faces back
};

std::vector<Piece> pieces_of(const Contour& contour, Vec way, double least) {
  std::vector<Piece> out;
  for (const Segment& s : contour.segments) {
    const std::vector<double> cuts = cuts_along(s, way, least);
    for (std::size_t i = 0; i + 1 < cuts.size(); ++i) {
      Segment part = cuts.size() == 2 ? s : s.part(cuts[i], cuts[i + 1]);
      if (!out.empty())
        part.p0 = out.back().s.p3;
      // The area lies to the right of travel (clockwise on screen); leaving it to the left is up_of.
      out.push_back({part, way == Vec{} ? 0 : dot(up_of(part.p3 - part.p0), unit(way))});
    }
  }
  if (!out.empty())
    out.back().s.p3 = out.front().s.p0;
  return out;
}

// Pieces one after the other that face the same way.
struct Facing {
  std::size_t first = 0, count = 0;
  bool ahead = false;
  double across = 0; // mm, the sum of their `ahead`
};

// Around the contour, those that face back and are narrow taken into what faces ahead beside them.
std::vector<Facing> facings(const std::vector<Piece>& pieces, double narrow) {
  const std::size_t n = pieces.size();
  const auto ahead = [&](std::size_t i) { return pieces[i % n].ahead > 0; };
  std::size_t start = 0;
  while (start < n && ahead(start) == ahead(start + n - 1))
    ++start;
  if (start == n) // a closed contour without any width
    return {};
  std::vector<Facing> runs;
  for (std::size_t k = start; k < start + n; ++k) {
    if (k == start || ahead(k) != ahead(k - 1))
      runs.push_back({k % n, 0, ahead(k), 0});
    ++runs.back().count;
    runs.back().across += pieces[k % n].ahead;
  }
  for (std::size_t k = 0; k < runs.size() && runs.size() > 2;) {
    const std::size_t before = (k + runs.size() - 1) % runs.size(), after = (k + 1) % runs.size();
    if (runs[k].ahead || -runs[k].across >= narrow) {
      ++k;
      continue;
    }
    runs[before].count += runs[k].count + runs[after].count;
    runs[before].across += runs[k].across + runs[after].across;
    for (const std::size_t gone : {std::max(k, after), std::min(k, after)})
      runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(gone));
    k = 0;
  }
  return runs;
}

void append_bands(const std::vector<Piece>& pieces, Vec way, double narrow, std::vector<Outline>& out) {
  for (const Facing& run : facings(pieces, narrow)) {
    if (!run.ahead || run.across < narrow)
      continue;
    std::vector<Segment> stretch;
    for (std::size_t i = 0; i < run.count; ++i)
      stretch.push_back(pieces[(run.first + i) % pieces.size()].s);
    const Affine move = Affine::translation(way);
    Contour band;
    band.segments = stretch;
    band.segments.push_back(Segment::line(stretch.back().p3, move(stretch.back().p3)));
    for (auto it = stretch.rbegin(); it != stretch.rend(); ++it)
      band.segments.push_back(it->transformed(move).reversed());
    band.segments.push_back(Segment::line(move(stretch.front().p0), stretch.front().p0));
    out.push_back({{std::move(band)}});
  }
}

std::optional<Error> bad_options(Vec way, const ShadeOptions& options) {
  if (!finite(way))
    return bad_input(FRELM_WORDS("core", "the shade's depth and angle must be numbers"), FRELM_WORDS("core", "shade"));
  if (!(options.gap >= 0))
    return bad_input(FRELM_WORDS("core", "the gap must be 0 mm or more"), FRELM_WORDS("core", "shade"));
  return std::nullopt;
}

// The outline united, closed contours only.
Result<WeldResult> sound(const Outline& outline, const ShadeOptions& options) {
  Outline closed;
  for (const Contour& c : outline.contours)
    if (c.closed)
      closed.contours.push_back(c);
  closed.make_area_positive();
  WeldOptions uniting = options.weld;
  uniting.small_loops = SmallLoops::Turned; // however narrow it is, it sweeps an area
  return self_union(closed, FillRule::Nonzero, uniting);
}

Result<WeldResult> without_letters(const Outline& shade, const Outline& letters, const ShadeOptions& options) {
  if (options.gap == 0)
    return combine(BooleanOp::Difference, {shade}, {letters}, options.weld);
  OffsetOptions growing;
  growing.stop = options.weld.stop;
  const Result<OffsetResult> grown = offset(letters, options.gap, growing);
  if (!grown)
    return grown.error();
  return combine(BooleanOp::Difference, {shade}, grown->rings, options.weld);
}

Result<WeldResult> finished(Result<WeldResult> shade, const Outline& letters, const Outline& source,
                            const ShadeOptions& options) {
  if (shade && options.part == ShadePart::Alone)
    shade = without_letters(shade->outline, letters, options);
  if (shade)
    shade->report.nodes_in = source.node_count();
  return shade;
}

} // namespace

Result<WeldResult> block_shade(const Outline& outline, Vec way, const ShadeOptions& options) {
  if (auto e = bad_options(way, options))
    return *e;
  const Result<WeldResult> letters = sound(outline, options);
  if (!letters)
    return letters.error();
  const double narrow = narrow_share * options.weld.flattening;
  std::vector<Outline> parts;
  for (const Outline& part : components(letters->outline)) {
    Outline cut; // where the bands are, so that outline and bands meet in nodes and not in a tangency
    std::vector<Outline> bands;
    for (const Contour& c : part.contours) {
      const std::vector<Piece> pieces = pieces_of(c, way, narrow);
      Contour& cut_here = cut.contours.emplace_back();
      for (const Piece& p : pieces)
        cut_here.segments.push_back(p.s);
      append_bands(pieces, way, narrow, bands);
    }
    parts.push_back(std::move(cut));
    parts.insert(parts.end(), bands.begin(), bands.end());
  }
  return finished(weld(parts, options.weld), letters->outline, outline, options);
}

Result<WeldResult> drop_shade(const Outline& outline, Vec way, const ShadeOptions& options) {
  if (auto e = bad_options(way, options))
    return *e;
  const Result<WeldResult> letters = sound(outline, options);
  if (!letters)
    return letters.error();
  const Outline moved = letters->outline.transformed(Affine::translation(way));
  if (options.part == ShadePart::WithLetters)
    return finished(weld({letters->outline, moved}, options.weld), letters->outline, outline, options);
  return finished(WeldResult{moved, letters->report}, letters->outline, outline, options);
}

} // namespace frelm
