#include "cutting/order_check.h"
#include "cutting/finding_words.h"
#include "cutting/sheet_parts.h"
#include "document/clean_up.h"

#include "geom/along.h"
#include "geom/clean_lines.h"
#include "geom/nesting.h"
#include "geom/nodes.h"

#include <map>
#include <set>

namespace frelm {
namespace {

// A little way to the side on which a segment's own contour winds; either would do.
Vec inwards(const Segment& s) {
  constexpr double little = 1e-4; // mm
  return up_of(unit(s.derivative(0.5))) * -little;
}

// Lines of one colour and operation that stand there twice, by the layer that is in front.
std::vector<Finding> doubles(const Document& document, const std::vector<CutLayer>& layers,
                             const std::stop_token& stop) {
  std::map<std::pair<Colour, Destination>, std::vector<std::size_t>> sheets;
  for (std::size_t i = 0; i < layers.size(); ++i)
    sheets[{layers[i].colour, layers[i].destination}].push_back(i);
  std::vector<Finding> out;
  for (const auto& [sheet, on_it] : sheets) {
    std::vector<Contour> contours;
    std::vector<const Contour*> given;
    std::vector<std::size_t> layer_of, segments;
    for (const std::size_t i : on_it)
      for (const Contour& c : layers[i].outline->contours) {
        contours.push_back(c), given.push_back(&c);
        layer_of.push_back(i), segments.push_back(c.segments.size());
      }
    if (stop.stop_requested())
      return {};
    const LinesCleaned left = without_doubles(std::move(contours), doubled);
    if (left.doubles == 0)
      continue;
    for (std::size_t k = 0; k < left.contours.size(); ++k)
      segments[left.from[k]] -= left.contours[k].segments.size();
    std::map<std::size_t, std::pair<std::size_t, Box>> twice; // of each layer: how many lines, and where
    for (std::size_t k = 0; k < given.size(); ++k)
      if (segments[k] > 0) {
        auto& [count, where] = twice[layer_of[k]];
        ++count, where.add(given[k]->bounds());
      }
    for (const auto& [i, lines] : twice) {
      const Piece& piece = *layers[i].piece;
      const bool cleaned = piece.outline() != nullptr && piece.outline()->origin == nullptr && !piece.locked;
      out.push_back(
          {Weight::MustFix, FindingKind::CutTwice,
           counted(lines.first, FRELM_WORDS("core", "%1: 1 line lies on another of its colour"),
                   FRELM_WORDS("core", "%1: %2 lines lie on others of their colour"), short_name(document, piece)),
           piece.id, lines.second.grown(1), cleaned ? std::vector{Cure::DropDoubles} : std::vector<Cure>{}});
    }
  }
  return out;
}

} // namespace

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
    if (const auto sheets = sheet_parts(document, evaluator, Links::LeftOut, stop))
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
  std::vector<double> areas;
  std::vector<const Contour*> lines;
  for (const Contour& c : outline.contours)
    areas.push_back(c.closed ? c.area() : 0), lines.push_back(&c);
  const std::vector<Nest> nests = nesting(lines);
  for (std::size_t k = 0; k < outline.contours.size(); ++k) {
    const Contour& c = outline.contours[k];
    bool inside = false; // of one that runs the same way
    for (auto around = nests[k].around; around && !inside; around = nests[*around].around)
      inside = areas[*around] * areas[k] > 0;
    if (inside && std::abs(winding_number(outline, c.segments.front().at(0.5) + inwards(c.segments.front()))) > 1)
      out.filled.push_back(k);
    const std::size_t n = c.segments.size();
    std::size_t run = 0; // of tiny lines up to here
    for (std::size_t i = 0; i < n; ++i) {
      const Segment& s = c.segments[i];
      if (n > 1 && control_length(s) < least_between_nodes)
        out.close.push_back({k, i});
      const Segment& before = c.segments[(i + n - 1) % n];
      const auto turn = [](const Segment& a, const Segment& b) {
        return turn_between(a.end_tangent(), b.start_tangent());
      };
      const bool goes_on = run > 0 && std::abs(turn(before, s)) < radians(tiny_turn);
      run = !s.is_line() || control_length(s) >= tiny_line ? 0 : goes_on ? run + 1 : 1;
      if (run == tiny_run)
        out.tiny.push_back({k, i + 1 - tiny_run});
      if ((i + 1 == n && !c.closed) || n < 2)
        continue;
      const Segment& next = c.segments[(i + 1) % n];
      if (std::abs(turn(s, next)) > radians(spike_turn)) {
        out.spikes.push_back({k, (i + 1) % n});
        continue;
      }
      const double width = control_length(s);
      constexpr double longer = 4; // sides than its end is wide
      if (n > 2 && (c.closed || i > 0) && width < hair && width >= least_between_nodes &&
          std::abs(turn(before, s) + turn(s, next)) > radians(spike_turn) &&
          std::min(control_length(before), control_length(next)) > longer * width)
        out.spikes.push_back({k, i}), out.spikes.push_back({k, (i + 1) % n});
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
      if (before.is_line())
        before = Segment::line(before.p0, after.p3);
      else if (after.is_line() || control_length(after) < least_between_nodes) // its end goes there, with its handle
        before = Segment::cubic(before.p0, before.p1, before.p2 + (after.p3 - before.p3), after.p3);
      else
        before = Segment::cubic(before.p0, before.p1, after.p2, after.p3);
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
  const Finish* finish = piece.finish();
  const bool thinned =
      finish != nullptr && std::any_of(finish->steps.begin(), finish->steps.end(), [](const FinishStep& s) {
        return s.on && std::holds_alternative<ThinStep>(s.what);
      });
  if (!faults.tiny.empty() && !thinned)
    add(FindingKind::LinesTiny,
        counted(faults.tiny.size(), FRELM_WORDS("core", "%1: 1 curve is lines shorter than %3 in a row"),
                FRELM_WORDS("core", "%1: %2 curves are lines shorter than %3 in a row"), name,
                length_words(document, tiny_line)),
        box_of(faults.tiny), Cure::FewerNodes);
  if (!faults.close.empty())
    add(FindingKind::NodesClose,
        counted(faults.close.size(), FRELM_WORDS("core", "%1: 1 pair of nodes nearer than %3"),
                FRELM_WORDS("core", "%1: %2 pairs of nodes nearer than %3"), name,
                length_words(document, least_between_nodes)),
        box_of(faults.close), Cure::TidyNodes);
  return out;
}

} // namespace frelm
