// Doubles are found by a fingerprint of each contour that does not depend on where it begins or which way it runs, and
// then compared by places on both.
#include "cutting/order_check.h"
#include "cutting/finding_words.h"
#include "cutting/sheet_parts.h"

#include "geom/along.h"
#include "geom/nodes.h"

#include <array>
#include <map>
#include <set>

namespace frelm {
namespace {

// Contours that can be the same line: their boxes agree to a cell.
using Print = std::array<long, 4>;
Print print_of(const Box& b) {
  constexpr double cell = 0.01; // mm
  return {std::lround(b.x0 / cell), std::lround(b.y0 / cell), std::lround(b.x1 / cell), std::lround(b.y1 / cell)};
}

// A little way to the side on which a segment's own contour winds; either would do.
Vec inwards(const Segment& s) {
  constexpr double little = 1e-4; // mm
  return up_of(unit(s.derivative(0.5))) * -little;
}

// Lines of one colour and operation that lie on each other. Boxes on the border of two cells are looked at in both.
std::vector<Finding> doubles(const Document& document, const std::vector<CutLayer>& layers,
                             const std::stop_token& stop) {
  struct Line {
    std::size_t layer;
    const Contour* contour;
  };
  std::map<Print, std::vector<Line>> by_box;
  std::vector<std::pair<std::size_t, Box>> twice(layers.size()); // of each layer: how many lines, and where
  for (std::size_t i = 0; i < layers.size() && !stop.stop_requested(); ++i)
    for (const Contour& c : layers[i].outline->contours) {
      const Box box = c.bounds();
      std::vector<Line>& near = by_box[print_of(box)];
      for (const Line& l : near)
        if (layers[l.layer].colour == layers[i].colour && layers[l.layer].destination == layers[i].destination &&
            c.segments.size() < 2000 && same_line(c, *l.contour)) {
          ++twice[i].first, twice[i].second.add(box);
          break;
        }
      near.push_back({i, &c});
    }
  std::vector<Finding> out;
  for (std::size_t i = 0; i < layers.size(); ++i)
    if (twice[i].first > 0)
      out.push_back({Weight::MustFix, FindingKind::CutTwice,
                     counted(twice[i].first, FRELM_WORDS("core", "%1: 1 line lies on another of its colour"),
                             FRELM_WORDS("core", "%1: %2 lines lie on others of their colour"),
                             short_name(document, *layers[i].piece)),
                     layers[i].piece->id, twice[i].second.grown(1),
                     layers[i].piece->outline() != nullptr && !layers[i].piece->locked ? std::vector{Cure::DropDoubles}
                                                                                       : std::vector<Cure>{}});
  return out;
}

} // namespace

bool same_line(const Contour& a, const Contour& b) {
  const Outline in{{b}};
  constexpr int places = 3;
  for (const Segment& s : a.segments)
    for (int i = 0; i < places; ++i)
      if (const auto n = nearest_on(in, s.at((i + 0.5) / places)); !n || n->distance > cut_twice)
        return false;
  return true;
}

std::vector<Finding> check_order(const Document& document, const DocumentEvaluator& evaluator,
                                 const std::vector<CutLayer>& layers, const std::stop_token& stop) {
  std::vector<Finding> out = doubles(document, layers, stop);
  const auto mm = [&](double v) { return length_words(document, v); };
  Box all;
  for (const CutLayer& l : layers)
    all.add(l.ink);
  const Ordered& ordered = document.ordered;
  const auto off = [](double is, double wanted) { return wanted > 0 && std::abs(is - wanted) > ordered_slack; };
  if (!all.empty() && (off(all.width(), ordered.width) || off(all.height(), ordered.height)))
    out.push_back(
        {Weight::Look,
         FindingKind::SizeNotOrdered,
         say(FRELM_WORDS("core", "it measures %1 × %2; ordered are %3 × %4"), mm(all.width()), mm(all.height()),
             ordered.width > 0 ? mm(ordered.width) : "…", ordered.height > 0 ? mm(ordered.height) : "…"),
         0,
         all,
         {}});
  if (!document.materials.empty()) {
    std::map<Colour, Box> unlisted;
    for (const CutLayer& l : layers)
      if (material_of(document.materials, l.colour) == nullptr)
        unlisted[l.colour].add(l.ink);
    for (const auto& [colour, box] : unlisted)
      out.push_back({Weight::Note,
                     FindingKind::ColourUnlisted,
                     say(FRELM_WORDS("core", "%1 stands for no material in the list"), to_hex(colour)),
                     0,
                     box,
                     {}});
  }
  if (layers.empty() && !document.backings.empty())
    out.push_back({Weight::Note,
                   FindingKind::PictureOnly,
                   say(FRELM_WORDS("core", "a picture is never cut; trace it or draw over it")),
                   0,
                   {},
                   {}});
  if (ordered.parts > 0 && !layers.empty() && !stop.stop_requested())
    if (const auto sheets = sheet_parts(document, evaluator, stop))
      for (const SheetParts& s : *sheets)
        if (const auto n = static_cast<int>(s.parts.size()); n != ordered.parts) {
          Box where;
          for (std::size_t i = std::min<std::size_t>(1, s.parts.size()); i < s.parts.size(); ++i)
            where.add(s.parts[i].box);
          out.push_back(
              {Weight::MustFix,
               FindingKind::PartsNotOrdered,
               say(n == 1 ? FRELM_WORDS("core", "%1 leaves in one piece; %3 are ordered")
                          : FRELM_WORDS("core", "%1 falls into %2 parts; %3 ordered"),
                   s.name.empty() ? to_hex(s.colour) : s.name, std::to_string(n), std::to_string(ordered.parts)),
               0,
               where.empty() && !s.parts.empty() ? s.parts.front().box : where,
               {}});
          // One piece alone can be tied.
          std::set<const Piece*> of;
          for (const CutLayer& l : layers)
            if (l.colour == s.colour && l.destination == Destination::Knife)
              of.insert(l.piece);
          if (of.size() == 1 && n > ordered.parts && (*of.begin())->finish() != nullptr && !(*of.begin())->locked)
            out.back().piece = (*of.begin())->id, out.back().cures = {Cure::TieParts};
        }
  return out;
}

DrawnFaults drawn_faults(const Outline& outline) {
  DrawnFaults out;
  std::vector<Box> boxes;
  for (const Contour& c : outline.contours)
    boxes.push_back(c.bounds());
  for (std::size_t k = 0; k < outline.contours.size(); ++k) {
    const Contour& c = outline.contours[k];
    const double area = c.closed ? c.area() : 0;
    const auto around = [&](std::size_t other) {
      const Contour& o = outline.contours[other];
      return other != k && o.closed && boxes[other].contains(boxes[k]) && o.area() * area > 0 &&
             std::abs(o.area()) > std::abs(area) && lies_in(c, o) &&
             std::abs(winding_number(outline, c.segments.front().at(0.5) + inwards(c.segments.front()))) > 1;
    };
    for (std::size_t other = 0; area != 0 && other < boxes.size(); ++other)
      if (around(other)) {
        out.filled.push_back(k);
        break;
      }
    const std::size_t n = c.segments.size();
    for (std::size_t i = 0; i < n; ++i) {
      const Segment& s = c.segments[i];
      if (n > 1 && control_length(s) < least_between_nodes)
        out.close.push_back({k, i});
      if (i + 1 == n && !c.closed)
        continue;
      const Segment& next = c.segments[(i + 1) % n];
      if (n > 1 && std::abs(turn_between(s.end_tangent(), next.start_tangent())) > radians(spike_turn))
        out.spikes.push_back({k, (i + 1) % n});
    }
  }
  return out;
}

Outline tidied(Outline outline) {
  constexpr int rounds = 8;
  constexpr std::size_t least_segments = 3;
  for (int round = 0; round < rounds; ++round) {
    const DrawnFaults faults = drawn_faults(outline);
    if (faults.close.empty() && faults.spikes.empty())
      break;
    // The last first, so that the places before stay.
    std::vector<NodeAt> nodes = faults.spikes;
    nodes.insert(nodes.end(), faults.close.begin(), faults.close.end());
    std::sort(nodes.begin(), nodes.end(), [](const NodeAt& a, const NodeAt& b) {
      return a.contour != b.contour ? a.contour > b.contour : a.node > b.node;
    });
    nodes.erase(std::unique(nodes.begin(), nodes.end()), nodes.end());
    for (const NodeAt at : nodes) {
      Contour& c = outline.contours[at.contour];
      const std::size_t n = c.segments.size();
      if (n <= least_segments || (!c.closed && at.node == 0))
        continue;
      Segment& before = c.segments[(at.node + n - 1) % n];
      const Segment& after = c.segments[at.node % n];
      before = before.is_line() || after.is_line() || control_length(after) < least_between_nodes
                   ? before.is_line()
                         ? Segment::line(before.p0, after.p3)
                         : Segment::cubic(before.p0, before.p1, before.p2 + (after.p3 - before.p3), after.p3)
                   : Segment::cubic(before.p0, before.p1, after.p2, after.p3);
      c.segments.erase(c.segments.begin() + static_cast<std::ptrdiff_t>(at.node % n));
      connect(c);
    }
  }
  return outline;
}

std::vector<Finding> check_drawn(const Document& document, const Piece& piece, const Outline& outline,
                                 const std::string& name) {
  std::vector<Finding> out;
  const DrawnFaults faults = drawn_faults(outline);
  const auto add = [&](FindingKind kind, Said what, const Box& where, Cure cure) {
    out.push_back({Weight::Look, kind, std::move(what), piece.id, where.grown(1), {cure}});
  };
  const auto box_of = [&](const std::vector<NodeAt>& nodes) {
    Box where;
    for (const NodeAt at : nodes)
      where.add(node_point(outline.contours[at.contour], at.node));
    return where;
  };
  if (!faults.filled.empty()) {
    Box where;
    for (const std::size_t k : faults.filled)
      where.add(outline.contours[k].bounds());
    add(FindingKind::HolesFilled,
        counted(faults.filled.size(), FRELM_WORDS("core", "%1: 1 line inside runs the same way as the one around it"),
                FRELM_WORDS("core", "%1: %2 lines inside run the same way as those around them"), name),
        where, Cure::TurnHoles);
  }
  if (!faults.spikes.empty())
    add(FindingKind::Spikes,
        counted(faults.spikes.size(), FRELM_WORDS("core", "%1: the line turns back on itself at 1 node"),
                FRELM_WORDS("core", "%1: the line turns back on itself at %2 nodes"), name),
        box_of(faults.spikes), Cure::TidyNodes);
  if (!faults.close.empty())
    add(FindingKind::NodesClose,
        counted(faults.close.size(), FRELM_WORDS("core", "%1: 1 pair of nodes nearer than %3"),
                FRELM_WORDS("core", "%1: %2 pairs of nodes nearer than %3"), name,
                length_words(document, least_between_nodes)),
        box_of(faults.close), Cure::TidyNodes);
  return out;
}

} // namespace frelm
