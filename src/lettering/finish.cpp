#include "lettering/finish.h"

#include "geom/cases.h"
#include "lettering/memo.h"

#include <algorithm>
#include <numeric>

namespace frelm {

bool alike(Colour a, Colour b) {
  constexpr int near = 24;
  return std::abs(a.r - b.r) < near && std::abs(a.g - b.g) < near && std::abs(a.b - b.b) < near;
}

std::optional<Colour> unlike(const std::vector<Colour>& used, std::span<const Colour> offered) {
  for (const Colour& c : offered)
    if (std::none_of(used.begin(), used.end(), [&](Colour u) { return alike(c, u); }))
      return c;
  return std::nullopt;
}

bool Finish::welds() const {
  return std::any_of(steps.begin(), steps.end(),
                     [](const FinishStep& s) { return s.on && std::holds_alternative<WeldStep>(s.what); });
}

bool Finish::does_anything() const {
  return std::any_of(steps.begin(), steps.end(), [](const FinishStep& s) { return s.on; });
}

bool Finish::keeps_parts() const {
  bool ringed = false;
  for (const FinishStep& s : steps) {
    const auto* border = std::get_if<BorderStep>(&s.what);
    const bool outside = border != nullptr && border->side == BorderSide::Outside;
    if (s.on &&
        (std::holds_alternative<WeldStep>(s.what) || std::holds_alternative<TieStep>(s.what) ||
         (border != nullptr && border->taken_out && !outside) || (std::holds_alternative<TabStep>(s.what) && !ringed)))
      return false;
    ringed = ringed || (s.on && outside);
  }
  return true;
}

bool Finish::makes_layers() const {
  return std::any_of(steps.begin(), steps.end(), [](const FinishStep& s) {
    return s.on && !std::holds_alternative<WeldStep>(s.what) && !std::holds_alternative<ThinStep>(s.what) &&
           !std::holds_alternative<RoundStep>(s.what) && !std::holds_alternative<TabStep>(s.what) &&
           !std::holds_alternative<TieStep>(s.what);
  });
}

Box Finish::around(const Box& letters) const {
  Box ring = letters, all = letters;
  for (const FinishStep& s : steps) {
    if (!s.on || letters.empty())
      continue;
    if (const auto* b = std::get_if<BorderStep>(&s.what); b != nullptr && b->side != BorderSide::Inside) {
      double furthest = 0;
      for (const BorderRing& r : b->rings)
        furthest = std::max(furthest, r.distance);
      ring.add((b->of == BorderOf::Letters ? letters : all).grown(furthest));
      all.add(ring);
    }
    if (const auto* tab = std::get_if<TabStep>(&s.what))
      ring.add(ring.grown(tab->outer)), all.add(ring);
    if (const auto* shade = std::get_if<ShadeStep>(&s.what)) {
      const Vec way = direction(radians(shade->angle)) * shade->depth;
      const Box& base = shade->of == ShadeOf::Letters ? letters : ring;
      all.add({base.x0 + way.x, base.y0 + way.y, base.x1 + way.x, base.y1 + way.y});
    }
  }
  return all;
}

std::size_t Finish::hash() const {
  std::size_t h = steps.size();
  for (const FinishStep& s : steps)
    h = mix(h,
            std::visit(Cases{
                           [](const WeldStep&) { return hash_of(0); },
                           [](const ThinStep& t) { return hash_of(1, t.tolerance, t.per_100, t.apart); },
                           [](const RoundStep& r) { return hash_of(5, r.radius, r.sharper_than); },
                           [](const BorderStep& b) {
                             return hash_of(2, b.rings.size(), b.rings.empty() ? 0 : b.rings.front().distance);
                           },
                           [](const ShadeStep& t) { return hash_of(3, t.angle, t.depth); },
                           [](const TabStep& t) { return hash_of(6, t.outer, t.across, t.down); },
                           [](const TieStep& t) { return hash_of(7, t.form.width, t.bridges.angle, t.by_hand.size()); },
                           [](const MirrorStep&) { return hash_of(4); },
                       },
                       s.what) +
                (s.on ? 1 : 0));
  return h;
}

std::vector<std::size_t> nearest_first(const std::vector<BorderRing>& rings) {
  std::vector<std::size_t> out(rings.size());
  std::iota(out.begin(), out.end(), std::size_t{0});
  std::stable_sort(out.begin(), out.end(),
                   [&](std::size_t a, std::size_t b) { return rings[a].distance < rings[b].distance; });
  return out;
}

TabRing TabStep::ring() const {
  return {outer, std::min(inner, outer - least_tab / 2), std::min(depth, outer)};
}

void set_weld(Finish& finish, bool on) {
  for (FinishStep& s : finish.steps)
    if (std::holds_alternative<WeldStep>(s.what)) {
      s.on = on;
      return;
    }
  finish.steps.insert(finish.steps.begin(), {WeldStep{}, on});
}

void scale_finish(Finish& finish, double k) {
  const auto grow = [k](double& v, double least) { v = std::clamp(v * k, least, most_distance); };
  for (FinishStep& s : finish.steps)
    std::visit(Cases{
                   [](const WeldStep&) {},
                   [](const ThinStep&) {},
                   [&](RoundStep& r) { grow(r.radius, least_rounding); },
                   [&](BorderStep& b) {
                     for (BorderRing& r : b.rings)
                       grow(r.distance, least_ring);
                     grow(b.hole_size, 0), grow(b.overlap, 0);
                   },
                   [&](ShadeStep& d) { grow(d.depth, 0), grow(d.gap, 0); },
                   [&](TieStep& t) { t.form.width = std::clamp(t.form.width * k, least_tie, most_tie); },
                   [&](TabStep& t) { grow(t.outer, least_tab), grow(t.inner, 0), grow(t.depth, least_tab_depth); },
                   [](const MirrorStep&) {},
               },
               s.what);
}

Words step_name(const FinishAction& what) {
  return std::visit(
      Cases{
          [](const WeldStep&) { return FRELM_WORDS("core", "Weld"); },
          [](const ThinStep&) { return FRELM_WORDS("core", "Fewer nodes"); },
          [](const RoundStep&) { return FRELM_WORDS("core", "Round corners"); },
          [](const BorderStep&) { return FRELM_WORDS("core", "Border"); },
          [](const ShadeStep& s) {
            return s.kind == ShadeKind::Block ? FRELM_WORDS("core", "Block shade") : FRELM_WORDS("core", "Drop shade");
          },
          [](const TabStep&) { return FRELM_WORDS("core", "Hanging tab"); },
          [](const TieStep& s) {
            return s.kind == TieKind::Parts ? FRELM_WORDS("core", "Ties") : FRELM_WORDS("core", "Stencil");
          },
          [](const MirrorStep&) { return FRELM_WORDS("core", "Mirror"); },
      },
      what);
}

} // namespace frelm
