// The steps run over a state: the layers so far, what the letters are, the outermost ring. Every operation is asked for
// by what it works on (the objects themselves) and its numbers, and looked up before it is done: chains of equal steps
// meet the same objects, so that only what comes after a change is worked out.
#include "lettering/finish_layers.h"
#include "lettering/finish_edit.h"

#include "geom/boolean.h"
#include "geom/cases.h"
#include "geom/cut_parts.h"
#include "geom/few_nodes.h"
#include "geom/nodes.h"
#include "geom/round_corners.h"
#include "geom/shade.h"
#include "geom/tab.h"
#include "geom/thin.h"

#include <algorithm>
#include <map>

namespace frelm {
namespace {

using Made = std::shared_ptr<const FinishMade>;
using Drawn = std::shared_ptr<const Outline>;

constexpr double least_tie_length = 1e-3; // mm

Drawn outline_of(const Made& made) {
  return {made, &made->outline};
}

// What has been made of the same before, or made now and kept where there is a memory.
Result<Made> made_once(FinishMemo* memo, const FinishOpKey& key, const std::stop_token& stop,
                       const std::function<Result<FinishMade>()>& make) {
  Made made = memo != nullptr ? memo->find(key) : nullptr;
  if (made != nullptr)
    return made;
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  Result<FinishMade> fresh = make();
  if (!fresh)
    return fresh.error();
  made = std::make_shared<const FinishMade>(std::move(*fresh));
  return memo != nullptr ? memo->store(key, std::move(made)) : made;
}

// Steps that draw an outline anew.
Result<FinishMade> redraw(const ThinStep& s, const Outline& outline, const std::stop_token& stop) {
  FinishMade out;
  const auto take = [&](Outline& now, const ThinReport& report) {
    out.outline = std::move(now);
    out.step.worst = report.worst;
    if (report.worst > 0)
      out.step.at = report.worst_at;
    return std::move(out);
  };
  if (s.aim == NodeAim::Machine) {
    Result<FewNodes> few =
        few_nodes(outline, {.per_100 = s.per_100, .apart = s.apart, .most_off = s.most_off, .stop = stop});
    if (!few)
      return few.error();
    out.step.reached = few->reached;
    return take(few->outline, few->report);
  }
  Result<ThinResult> fewer = thin(outline, {.tolerance = s.tolerance, .stop = stop});
  if (!fewer)
    return fewer.error();
  return take(fewer->outline, fewer->report);
}
Result<FinishMade> redraw(const RoundStep& s, const Outline& outline, const std::stop_token& stop) {
  Result<RoundResult> round = round_corners(
      outline, {.radius = s.radius, .which = s.which, .sharper_than = radians(s.sharper_than), .stop = stop});
  if (!round)
    return round.error();
  FinishMade out{std::move(round->outline), {}, {}};
  out.step.rounded = round->report.rounded, out.step.smaller = round->report.smaller;
  out.step.left = round->report.left;
  return out;
}
FinishOpKey redraw_key(const ThinStep& s, const Drawn& outline) {
  const double aim = s.aim == NodeAim::Machine ? 1 : 0;
  return {FinishOp::Thin, outline, {}, {aim, s.tolerance, s.per_100, s.apart, s.most_off}};
}
FinishOpKey redraw_key(const RoundStep& s, const Drawn& outline) {
  return {FinishOp::Round, outline, {}, {s.radius, static_cast<double>(s.which), s.sharper_than}};
}

// Those by hand where they stand now: each end on the edge nearest to its place.
std::vector<Tie> hand_ties(const TieStep& s, const Outline& area, const Box& ink) {
  std::vector<Tie> out;
  for (const HandTie& t : s.by_hand) {
    const auto at = [&](Point share) {
      return nearest_on(area, {ink.x0 + share.x * ink.width(), ink.y0 + share.y * ink.height()});
    };
    const auto from = at(t.from), to = at(t.to);
    if (from && to && distance(from->point, to->point) > least_tie_length)
      out.push_back({from->point, to->point});
  }
  return out;
}

Result<WeldResult> with_those(const TieStep& s, const Outline& area, const std::vector<Tie>& ties,
                              const std::stop_token& stop) {
  WeldOptions options;
  options.stop = stop;
  return s.kind == TieKind::Stencil ? with_bridges(area, ties, s.form, options)
                                    : with_ties(area, ties, s.form, options);
}

// area: sound. Those by hand, and what is wanted yet.
Result<FinishMade> tied(const TieStep& s, const Outline& area, const Box& ink, const std::stop_token& stop) {
  const bool stencil = s.kind == TieKind::Stencil;
  FinishMade out;
  out.step.ties = hand_ties(s, area, ink);
  Result<WeldResult> made = with_those(s, area, out.step.ties, stop);
  if (made && s.all) {
    out.weld = made->report;
    const std::vector<Tie> more =
        stencil ? stencil_bridges(made->outline, s.form, s.bridges, stop) : ties_for_loose(made->outline, s.form, stop);
    made = with_those(s, made->outline, more, stop);
    out.step.ties.insert(out.step.ties.end(), more.begin(), more.end());
  }
  if (!made)
    return made.error();
  out.weld.add(made->report);
  out.step.parts = stencil ? loose_stock(made->outline).size() : cut_parts(made->outline).size();
  out.outline = std::move(made->outline);
  return out;
}

class Work {
public:
  Work(const std::function<std::vector<Outline>()>& parts, std::shared_ptr<const void> identity,
       const FinishEffort& effort)
      : parts_(parts), identity_(std::move(identity)), effort_(effort) {}

  Result<std::shared_ptr<const Finished>> run(const Finish& finish) {
    const Result<Made> plain = appended();
    if (!plain)
      return plain.error();
    Layer letters;
    letters.outline = outline_of(*plain);
    out_.layers.push_back(std::move(letters));
    out_.report.nodes_in = (*plain)->outline.node_count();
    ink_ = (*plain)->outline.bounds();
    for (const FinishStep& step : finish.steps) {
      report_ = {};
      if (step.on) {
        std::optional<Error> failed = std::visit([this](const auto& what) { return this->step(what); }, step.what);
        if (effort_.stop.stop_requested())
          return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), step_name(step.what)};
        if (failed)
          return Error{failed->code, failed->what, step_name(step.what)};
      }
      out_.steps.push_back(report_);
      if (effort_.progress)
        effort_.progress(static_cast<double>(out_.steps.size()) / static_cast<double>(finish.steps.size()));
    }
    out_.report.nodes_out = out_.node_count();
    out_.letters_apart = !welded_ && !reduced_;
    if (mirrored_)
      out_.as_cut = {-1, 0, 0, 1, 2 * out_.bounds().centre().x, 0};
    return std::make_shared<const Finished>(std::move(out_));
  }

private:
  std::optional<Error> step(const WeldStep&) {
    const Result<Drawn> made = sound_letters();
    if (!made)
      return made.error();
    report_.nodes_in = letters().outline->node_count();
    welded_ = true;
    if (!reduced_) // else it is sound, and less than the whole letters
      letters().outline = *made;
    report_.nodes_out = letters().outline->node_count();
    return std::nullopt;
  }

  std::optional<Error> step(const ThinStep& s) { return redraw_layers(s); }
  std::optional<Error> step(const RoundStep& s) { return redraw_layers(s); }

  // Every layer that stands so far drawn anew, each outline once, and with them the wholes that steps to come work on.
  template <class Step> std::optional<Error> redraw_layers(const Step& step) {
    std::map<Drawn, Made> done;
    const auto redrawn = [&](Drawn& outline) -> Result<Made> {
      if (const auto it = done.find(outline); it != done.end()) {
        outline = outline_of(it->second);
        return it->second;
      }
      const Result<Made> made = op(redraw_key(step, outline), [&] { return redraw(step, *outline, effort_.stop); });
      if (!made)
        return made.error();
      done[outline] = *made;
      outline = outline_of(*made);
      return *made;
    };
    for (Layer& layer : out_.layers) {
      report_.nodes_in += layer.outline->node_count();
      const Result<Made> made = redrawn(layer.outline);
      if (!made)
        return made.error();
      const StepReport& did = (*made)->step;
      if (did.worst > report_.worst)
        report_.worst = did.worst, report_.at = did.at;
      report_.rounded += did.rounded, report_.smaller += did.smaller, report_.left += did.left;
      report_.nodes_out += layer.outline->node_count();
    }
    for (Drawn* whole : {&sound_, &last_ring_})
      if (*whole != nullptr)
        if (const Result<Made> made = redrawn(*whole); !made)
          return made.error();
    as_typed_ = false;
    return std::nullopt;
  }

  std::optional<Error> step(const BorderStep& s) {
    const Result<Drawn> base = s.of == BorderOf::Letters ? sound_letters() : all_so_far();
    if (!base)
      return base.error();
    report_.nodes_in = (*base)->node_count();
    std::vector<const BorderRing*> rings; // nearest first
    for (const std::size_t i : nearest_first(s.rings))
      rings.push_back(&s.rings[i]);
    std::vector<Layer> made;
    for (const BorderRing* ring : rings) {
      const Result<Drawn> area = ring_area(*base, *ring, s);
      if (!area)
        return area.error();
      Layer layer;
      layer.role = LayerRole::Ring, layer.number = ++rings_, layer.outline = *area;
      layer.colour = ring->colour, layer.destination = ring->destination;
      made.push_back(std::move(layer));
    }
    if (s.side == BorderSide::Outside && !made.empty())
      last_ring_ = made.back().outline;
    if (s.taken_out)
      if (std::optional<Error> failed = take_out(*base, rings, made, s))
        return failed;
    for (const Layer& layer : made)
      report_.nodes_out += layer.outline->node_count();
    std::reverse(made.begin(), made.end()); // back to front
    const auto own = [](const Layer& l) { return l.role == LayerRole::Letters; };
    const auto shade = [](const Layer& l) { return l.role != LayerRole::Shade; };
    auto& layers = out_.layers;
    const auto at = s.side != BorderSide::Outside ? std::find_if(layers.begin(), layers.end(), own) + 1
                    : s.of == BorderOf::AllSoFar  ? layers.begin()
                                                  : std::find_if(layers.begin(), layers.end(), shade);
    layers.insert(at, made.begin(), made.end());
    if (s.side == BorderSide::Outside && !made.empty())
      ring_layer_ = made.front().number;
    return std::nullopt;
  }

  // The whole of a ring, whatever lies on it.
  Result<Drawn> ring_area(const Drawn& base, const BorderRing& ring, const BorderStep& s) {
    Drawn outer = base;
    if (s.side != BorderSide::Inside) {
      const Result<Drawn> wider = grown(base, ring.distance, s);
      if (!wider)
        return wider.error();
      outer = *wider;
    }
    if (s.side == BorderSide::Outside)
      return outer;
    const Result<Drawn> inner = grown(base, -ring.distance, s);
    if (!inner)
      return inner.error();
    return taken(outer, *inner);
  }

  // From every ring what lies on it, and from letters under rings those, each less the overlap.
  std::optional<Error> take_out(const Drawn& base, const std::vector<const BorderRing*>& rings,
                                std::vector<Layer>& layers, const BorderStep& s) {
    const bool beneath = s.side == BorderSide::Outside;
    const auto take = [&](Drawn& from, double lid_at) -> std::optional<Error> {
      const Result<Drawn> lid = this->lid(base, lid_at - s.overlap, s);
      if (!lid)
        return lid.error();
      if (*lid == nullptr)
        return std::nullopt;
      const Result<Drawn> rest = taken(from, *lid);
      if (!rest)
        return rest.error();
      from = *rest;
      return std::nullopt;
    };
    for (std::size_t i = beneath ? 0 : 1; i < layers.size(); ++i)
      if (auto failed = take(layers[i].outline, i == 0 ? 0 : rings[i - 1]->distance))
        return failed;
    if (beneath || layers.empty())
      return std::nullopt;
    Drawn rest = base;
    if (auto failed = take(rest, rings.back()->distance))
      return failed;
    letters().outline = rest, reduced_ = true;
    return std::nullopt;
  }

  // What a border covers up to a distance; null: nothing.
  Result<Drawn> lid(const Drawn& base, double distance, const BorderStep& s) {
    if (s.side != BorderSide::Outside)
      return distance > 0 ? ring_area(base, {.distance = distance}, s) : Result<Drawn>(Drawn{});
    return distance == 0 ? Result<Drawn>(base) : grown(base, distance, s);
  }

  std::optional<Error> step(const ShadeStep& s) {
    Drawn base = s.of == ShadeOf::LastRing ? last_ring_ : nullptr;
    if (base == nullptr) {
      const Result<Drawn> letters = sound_letters();
      if (!letters)
        return letters.error();
      base = *letters;
    }
    report_.nodes_in = base->node_count();
    const bool into_ring = s.with_ring && last_ring_ != nullptr;
    const bool alone = s.apart || into_ring;
    const FinishOpKey key{s.kind == ShadeKind::Block ? FinishOp::BlockShade : FinishOp::DropShade,
                          base,
                          {},
                          {s.angle, s.depth, alone ? 1.0 : 0.0, s.apart ? s.gap : 0.0}};
    const Result<Made> made = op(key, [&]() -> Result<FinishMade> {
      ShadeOptions options;
      options.part = alone ? ShadePart::Alone : ShadePart::WithLetters;
      options.gap = s.apart ? s.gap : 0;
      options.weld.stop = effort_.stop;
      const Vec way = direction(radians(s.angle)) * s.depth;
      Result<WeldResult> shade =
          s.kind == ShadeKind::Block ? block_shade(*base, way, options) : drop_shade(*base, way, options);
      if (!shade)
        return shade.error();
      return FinishMade{std::move(shade->outline), {}, shade->report};
    });
    if (!made)
      return made.error();
    report_.nodes_out = (*made)->outline.node_count();
    if (into_ring) {
      Layer& ring = outermost_ring();
      const Result<Drawn> both = joined(ring.outline, outline_of(*made));
      if (!both)
        return both.error();
      ring.outline = *both;
      return std::nullopt;
    }
    Layer layer;
    layer.role = LayerRole::Shade, layer.number = ++shades_, layer.outline = outline_of(*made);
    layer.colour = s.colour, layer.destination = s.destination;
    out_.layers.insert(out_.layers.begin(), std::move(layer));
    return std::nullopt;
  }

  std::optional<Error> step(const TabStep& s) {
    const Result<Drawn> letters = sound_letters();
    if (!letters)
      return letters.error();
    const Drawn base = last_ring_ != nullptr ? last_ring_ : *letters;
    const Point near = tab_place(s, ink_);
    const TabRing ring = s.ring();
    const auto place = edge_nearest(*base, near);
    report_.nodes_in = report_.nodes_out = base->node_count();
    if (!place)
      return std::nullopt;
    report_.at = tab_rim(*place, ring);
    // The layer, and what later steps take for the whole of it; these can differ where something was taken out.
    std::map<Drawn, Drawn> done;
    const auto join = [&](Drawn& outline) -> std::optional<Error> {
      if (const auto it = done.find(outline); it != done.end()) {
        outline = it->second;
        return std::nullopt;
      }
      const Result<Made> made =
          op({FinishOp::Tab, outline, {}, {place->at.x, place->at.y, ring.outer, ring.inner, ring.depth}},
             [&]() -> Result<FinishMade> {
               WeldOptions options;
               options.stop = effort_.stop;
               Result<WeldResult> joined = with_tab(*outline, place->at, ring, options);
               if (!joined)
                 return joined.error();
               return FinishMade{std::move(joined->outline), {}, joined->report};
             });
      if (!made)
        return made.error();
      outline = done[outline] = outline_of(*made);
      return std::nullopt;
    };
    if (last_ring_ == nullptr && !reduced_) // else what is typed needn't be sound
      this->letters().outline = *letters;
    Drawn& whole = last_ring_ != nullptr ? last_ring_ : sound_;
    Drawn& layer = last_ring_ != nullptr ? outermost_ring().outline : this->letters().outline;
    std::optional<Error> failed = join(layer);
    if (!failed)
      failed = join(whole);
    if (failed)
      return failed;
    if (last_ring_ == nullptr)
      welded_ = true, as_typed_ = false;
    report_.nodes_out = layer->node_count();
    return std::nullopt;
  }

  std::optional<Error> step(const TieStep& s) {
    const Result<Drawn> letters = sound_letters();
    if (!letters)
      return letters.error();
    report_.nodes_in = (*letters)->node_count();
    const auto key = [&](const Drawn& of, const Drawn& and_of) {
      return FinishOpKey{FinishOp::Ties,
                         of,
                         and_of,
                         {static_cast<double>(s.kind), s.form.width, static_cast<double>(s.form.ends),
                          static_cast<double>(s.bridges.each), s.bridges.angle, s.all ? 1.0 : 0.0},
                         s.by_hand};
    };
    const Result<Made> made = op(key(sound_, {}), [&] { return tied(s, *sound_, ink_, effort_.stop); });
    if (!made)
      return made.error();
    report_.ties = (*made)->step.ties, report_.parts = (*made)->step.parts;
    Drawn& layer = this->letters().outline;
    if (reduced_) { // less than the whole of the letters: the same ties there
      const Result<Made> less = op(key(layer, sound_), [&]() -> Result<FinishMade> {
        Result<WeldResult> with = with_those(s, *layer, report_.ties, effort_.stop);
        if (!with)
          return with.error();
        return FinishMade{std::move(with->outline), {}, with->report};
      });
      if (!less)
        return less.error();
      layer = outline_of(*less);
    }
    sound_ = outline_of(*made);
    if (!reduced_)
      layer = sound_;
    welded_ = true, as_typed_ = false;
    report_.nodes_out = layer->node_count();
    return std::nullopt;
  }

  std::optional<Error> step(const MirrorStep&) {
    mirrored_ = !mirrored_;
    return std::nullopt;
  }

  Layer& outermost_ring() { // where there is a last ring
    return *std::find_if(out_.layers.begin(), out_.layers.end(),
                         [&](const Layer& l) { return l.role == LayerRole::Ring && l.number == ring_layer_; });
  }

  Layer& letters() {
    return *std::find_if(out_.layers.begin(), out_.layers.end(),
                         [](const Layer& l) { return l.role == LayerRole::Letters; });
  }

  Result<Made> op(const FinishOpKey& key, const std::function<Result<FinishMade>()>& make) {
    Result<Made> made = made_once(identity_ != nullptr ? effort_.memo : nullptr, key, effort_.stop, make);
    if (made)
      out_.report.add((*made)->weld);
    return made;
  }

  Result<Made> appended() {
    return op({FinishOp::Append, identity_, {}, {}}, [&]() -> Result<FinishMade> {
      FinishMade out;
      for (const Outline& part : parts_())
        out.outline.append(part);
      return out;
    });
  }

  // The letters as one sound outline: the parts united, or what has been made of them since.
  Result<Made> united() {
    WeldOptions options;
    options.stop = effort_.stop;
    const auto took = [](Result<WeldResult> welded) -> Result<FinishMade> {
      if (!welded)
        return welded.error();
      return FinishMade{std::move(welded->outline), {}, welded->report};
    };
    if (as_typed_)
      return op({FinishOp::Weld, identity_, {}, {}}, [&] { return took(weld(parts_(), options)); });
    const Drawn now = letters().outline;
    return op({FinishOp::Unite, now, {}, {}}, [&] { return took(self_union(*now, FillRule::Nonzero, options)); });
  }
  Result<Drawn> sound_letters() {
    if (sound_ != nullptr)
      return sound_;
    const Result<Made> made = united();
    if (!made)
      return made.error();
    return sound_ = outline_of(*made);
  }

  Result<Drawn> all_so_far() {
    Result<Drawn> sum = sound_letters();
    for (const Layer& layer : out_.layers) {
      if (!sum)
        break;
      if (layer.role != LayerRole::Letters)
        sum = joined(*sum, layer.outline);
    }
    return sum;
  }

  Result<Drawn> grown(const Drawn& outline, double distance, const BorderStep& s) {
    const FinishOpKey key{FinishOp::Offset,
                          outline,
                          {},
                          {distance, static_cast<double>(s.join), s.mitre_limit, static_cast<double>(s.holes),
                           s.holes == HoleRule::DropSmall ? s.hole_size : 0}};
    const Result<Made> made = op(key, [&]() -> Result<FinishMade> {
      OffsetOptions options;
      options.join = s.join, options.mitre_limit = s.mitre_limit;
      options.holes = distance > 0 ? s.holes : HoleRule::Keep, options.hole_size = s.hole_size;
      options.stop = effort_.stop;
      Result<OffsetResult> rings = offset(*outline, distance, options);
      if (!rings)
        return rings.error();
      FinishMade out{std::move(rings->rings.front()), {}, rings->report.weld};
      out.step.vanished = rings->report.vanished.size();
      out.step.holes_out = rings->report.closed_holes.size() + rings->report.dropped_holes;
      return out;
    });
    if (!made)
      return made.error();
    report_.vanished += (*made)->step.vanished, report_.holes_out += (*made)->step.holes_out;
    return outline_of(*made);
  }

  Result<Drawn> combined(FinishOp op_kind, BooleanOp how, const Drawn& a, const Drawn& b) {
    const Result<Made> made = op({op_kind, a, b, {}}, [&]() -> Result<FinishMade> {
      WeldOptions options;
      options.stop = effort_.stop;
      Result<WeldResult> result = combine(how, {*a}, {*b}, options);
      if (!result)
        return result.error();
      return FinishMade{std::move(result->outline), {}, result->report};
    });
    if (!made)
      return made.error();
    return outline_of(*made);
  }
  Result<Drawn> taken(const Drawn& from, const Drawn& what) {
    return combined(FinishOp::Take, BooleanOp::Difference, from, what);
  }
  Result<Drawn> joined(const Drawn& a, const Drawn& b) { return combined(FinishOp::Join, BooleanOp::Union, a, b); }

  const std::function<std::vector<Outline>()>& parts_;
  std::shared_ptr<const void> identity_;
  const FinishEffort& effort_;
  Finished out_;
  StepReport report_; // of the step that runs
  Box ink_;           // of the letters
  Drawn sound_;       // the whole letters united, where that is known
  Drawn last_ring_;   // the whole area of the outermost ring
  bool mirrored_ = false;
  bool as_typed_ = true; // the letters are the parts, but for being united
  bool welded_ = false;
  bool reduced_ = false; // rings were taken out of the letters' layer
  int rings_ = 0, shades_ = 0, ring_layer_ = 0;
};

} // namespace

std::string layer_id(LayerRole role, int number) {
  const std::string n = std::to_string(number);
  switch (role) {
  case LayerRole::Letters:
    return number == 1 ? "letters" : "letters-" + n;
  case LayerRole::Ring:
    return "ring-" + n;
  case LayerRole::Shade:
    return number == 1 ? "shade" : "shade-" + n;
  }
  return {};
}

const Layer& Finished::letters() const {
  if (whole.outline != nullptr)
    return whole;
  return *std::find_if(layers.begin(), layers.end(), [](const Layer& l) { return l.role == LayerRole::Letters; });
}

Outline Finished::as_cut_of(const Outline& layer) const {
  return as_cut == Affine{} ? layer : turned_over(layer, as_cut);
}

std::size_t Finished::node_count() const {
  std::size_t sum = 0;
  for (const Layer& l : layers)
    sum += l.outline->node_count();
  return sum;
}

Box Finished::bounds() const {
  Box box;
  for (const Layer& l : layers)
    box.add(l.outline->bounds());
  return box;
}

std::size_t Finished::bytes() const {
  std::size_t sum = sizeof *this + steps.size() * sizeof(StepReport);
  for (const Layer& l : layers)
    sum += sizeof l + bytes_of(*l.outline);
  return sum;
}

Result<std::shared_ptr<const Finished>> finish(const std::function<std::vector<Outline>()>& parts,
                                               std::shared_ptr<const void> identity, const Finish& finish,
                                               const FinishEffort& effort) {
  return Work(parts, std::move(identity), effort).run(finish);
}

Result<Finished> in_parts(Finished finished, std::vector<Layer> parts, const Finish& steps,
                          const FinishEffort& effort) {
  if (!finished.letters_apart || finished.whole.outline != nullptr || parts.empty())
    return finished;
  int number = 0;
  for (Layer& p : parts) {
    p.role = LayerRole::Letters, p.number = ++number;
    for (const FinishStep& s : steps.steps) {
      const std::optional<Error> failed = std::visit(
          [&](const auto& step) -> std::optional<Error> {
            if constexpr (requires { redraw_key(step, p.outline); }) {
              if (!s.on)
                return std::nullopt;
              const Result<Made> made = made_once(effort.memo, redraw_key(step, p.outline), effort.stop,
                                                  [&] { return redraw(step, *p.outline, effort.stop); });
              if (!made)
                return made.error();
              p.outline = outline_of(*made);
            }
            return std::nullopt;
          },
          s.what);
      if (failed)
        return *failed;
    }
  }
  const auto at = std::find_if(finished.layers.begin(), finished.layers.end(),
                               [](const Layer& l) { return l.role == LayerRole::Letters; });
  finished.whole = *at;
  finished.layers.insert(finished.layers.erase(at), parts.begin(), parts.end());
  return finished;
}

} // namespace frelm
