#include "cutting/material_check.h"
#include "cutting/finding_words.h"
#include "cutting/panels.h"
#include "geom/few_nodes.h"

#include <cmath>

namespace frelm {
namespace {

struct Narrow {
  std::size_t count = 0;
  double least = 0; // mm
  Box where;        // of the narrowest
};

// Where two sides run together into a point: the narrowest is at one end of what is narrow. In a gap the knife only
// makes a corner there; in a stroke it leaves a needle, which counts when it is long.
bool only_a_corner(const NarrowPlace& n, double size, NarrowSide side) {
  constexpr double point_share = 0.2, long_needle = 5; // of the size
  constexpr double at_end = 0.3;                       // of the length, off the middle
  const bool pointed =
      n.width < point_share * size && distance(lerp(n.a, n.b, 0.5), n.where.centre()) > at_end * n.length;
  return pointed && (side == NarrowSide::Gaps || n.length < long_needle * size);
}

class Looker {
public:
  Looker(const DocumentEvaluator& evaluator, const std::stop_token& stop) : evaluator_(evaluator), stop_(stop) {}

  Narrow look(const CutLayer& layer, double size, NarrowSide side) const {
    Narrow out;
    const auto contours = layer.sound ? DocumentEvaluator::Contours::Sound : DocumentEvaluator::Contours::MayCross;
    const auto add = [&](const std::shared_ptr<const Outline>& outline, const Affine& place) {
      const double scale = std::sqrt(std::abs(place.determinant()));
      if (!(scale > 0))
        return;
      const auto found = evaluator_.narrow(outline, contours, size / scale, side, stop_); // held while it is read
      for (const NarrowPlace& n : *found) {
        if (only_a_corner(n, size / scale, side))
          continue;
        ++out.count;
        if (out.count == 1 || n.width * scale < out.least) {
          out.least = n.width * scale;
          out.where = Box{};
          for (const Point p : {n.a, n.b, Point{n.where.x0, n.where.y0}, Point{n.where.x1, n.where.y1}})
            out.where.add(place(p));
        }
      }
    };
    if (layer.letters == nullptr)
      add(layer.outline, Affine{});
    else
      for (const PlacedLetter& l : layer.letters->letters)
        if (!l.blank())
          add(l.shape, l.place);
    return out;
  }

private:
  const DocumentEvaluator& evaluator_;
  const std::stop_token& stop_;
};

// More nodes than its machine takes well.
std::optional<Finding> too_dense(const Document& document, const CutLayer& layer, const Material& m,
                                 const std::string& name) {
  Outline apart; // letters that were never united
  if (layer.letters != nullptr)
    for (const Outline& letter : letter_outlines(*layer.letters))
      apart.append(letter);
  const NodeDensity density = node_density(layer.letters != nullptr ? apart : *layer.outline);
  if (reaches(density, {.per_100 = m.nodes_per_100, .apart = m.nodes_apart}))
    return std::nullopt;
  const bool many = !reaches(density, {.per_100 = m.nodes_per_100});
  const auto whole = [](double v) { return std::to_string(std::lround(v)); };
  Finding out{Weight::Look,
              FindingKind::NodesDense,
              many ? say(FRELM_WORDS("core", "%1: %2 nodes for each 100 mm of line, %3 takes %4"), name,
                         whole(density.per_100), m.name, whole(m.nodes_per_100))
                   : say(FRELM_WORDS("core", "%1: nodes %2 apart, %3 takes %4"), name,
                         length_words(document, density.apart), m.name, length_words(document, m.nodes_apart)),
              layer.piece->id,
              {},
              {}};
  if (many)
    out.where = layer.ink;
  else
    out.where.add(density.closest), out.where = out.where.grown(1);
  if (layer.piece->finish() != nullptr && !layer.piece->locked)
    out.cures = {Cure::FewerNodes};
  return out;
}

} // namespace

std::vector<Finding> check_materials(const Document& document, const DocumentEvaluator& evaluator,
                                     const std::vector<CutLayer>& layers, const std::stop_token& stop) {
  std::vector<Finding> out;
  const Looker looker(evaluator, stop);
  const auto mm = [&](double v) { return length_words(document, v); };
  std::map<Colour, Box> taken;
  for (const CutLayer& layer : layers) {
    const Material* m = material_of(document.materials, layer.colour);
    if (m == nullptr || stop.stop_requested())
      continue;
    taken[layer.colour].add(layer.ink);
    if (layer.destination != Destination::Knife) // a pen draws what a knife can't cut
      continue;
    const std::string name = short_name(document, *layer.piece);
    if (m->nodes_per_100 > 0 || m->nodes_apart > 0)
      if (std::optional<Finding> dense = too_dense(document, layer, *m, name))
        out.push_back(std::move(*dense));
    const struct {
      double least;
      NarrowSide side;
      FindingKind kind;
      Words one, several;
    } looks[]{{m->least_stroke, NarrowSide::Strokes, FindingKind::StrokesThin,
               FRELM_WORDS("core", "%1: 1 stroke under %3 in %4, the thinnest %5"),
               FRELM_WORDS("core", "%1: %2 strokes under %3 in %4, the thinnest %5")},
              {std::max(m->least_gap, m->tool.kerf), NarrowSide::Gaps, // less than the kerf is lost in it
               FindingKind::GapsThin, FRELM_WORDS("core", "%1: 1 gap under %3 in %4, the narrowest %5"),
               FRELM_WORDS("core", "%1: %2 gaps under %3 in %4, the narrowest %5")}};
    for (const auto& look : looks)
      if (look.least > 0)
        if (const Narrow n = looker.look(layer, look.least, look.side); n.count > 0)
          out.push_back({Weight::Look,
                         look.kind,
                         counted(n.count, look.one, look.several, name, mm(look.least), m->name, mm(n.least)),
                         layer.piece->id,
                         n.where.grown(1),
                         {}});
  }
  for (const auto& [colour, box] : taken) {
    const Material* m = material_of(document.materials, colour);
    if (!fits(*m, box.width(), box.height()) && panel_count(box, *m) == 0)
      out.push_back({Weight::Look, FindingKind::TooLarge,
                     m->length > 0 ? say(FRELM_WORDS("core", "%1: %2 × %3 on a sheet of %4 × %5"), m->name,
                                         mm(box.width()), mm(box.height()), mm(m->width), mm(m->length))
                                   : say(FRELM_WORDS("core", "%1: %2 × %3 on a roll %4 wide"), m->name, mm(box.width()),
                                         mm(box.height()), mm(m->width)),
                     0, box, panels_help(box, *m) ? std::vector{Cure::CutInPanels} : std::vector<Cure>{}});
  }
  return out;
}

} // namespace frelm
