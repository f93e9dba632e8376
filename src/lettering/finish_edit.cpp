#include "lettering/finish_edit.h"

#include <algorithm>
#include <cmath>

namespace frelm {
namespace {

constexpr double ring_share = 0.05, depth_share = 0.15, radius_share = 0.01; // of the letters' height
constexpr double tab_share = 0.08, hole_share = 0.45, tie_share = 0.04;
constexpr double least_fitting = 0.5, most_fitting = 25; // mm

double fitting(double mm) {
  return std::clamp(std::round(2 * mm) / 2, least_fitting, most_fitting);
}

double fitting_tie(double height) {
  constexpr double least = 0.5, most = 5; // mm
  return std::clamp(std::round(20 * height * tie_share) / 20, least, most);
}

// The first of a few that nothing like is there yet: each layer is a sheet of its own.
Colour unused_colour(const Finish& finish, Colour own) {
  std::vector<Colour> used{own};
  for (const FinishStep& s : finish.steps) {
    if (const auto* border = std::get_if<BorderStep>(&s.what))
      for (const BorderRing& ring : border->rings)
        used.push_back(ring.colour);
    if (const auto* shade = std::get_if<ShadeStep>(&s.what))
      used.push_back(shade->colour);
  }
  const Colour few[]{
      {0x0f, 0x6e, 0x73}, {0x9b, 0x2f, 0x45}, {0xc9, 0x8a, 0x12}, {0xf4, 0xf1, 0xea}, {0x1f, 0x2a, 0x33}};
  return unlike(used, few).value_or(few[0]);
}

double rounded(double v, double step) {
  return step > 0 ? std::round(v / step) * step : v;
}

} // namespace

const BorderRing& outermost_ring(const BorderStep& border) {
  return *std::max_element(border.rings.begin(), border.rings.end(),
                           [](const BorderRing& a, const BorderRing& b) { return a.distance < b.distance; });
}

void add_fitting_step(Finish& finish, FinishAction what, double height, Colour own) {
  const Colour colour = unused_colour(finish, own);
  if (auto* border = std::get_if<BorderStep>(&what))
    border->rings.front().distance = fitting(height * ring_share), border->rings.front().colour = colour;
  if (auto* round = std::get_if<RoundStep>(&what))
    round->radius = std::clamp(std::round(10 * height * radius_share) / 10, 0.1, most_fitting);
  if (auto* shade = std::get_if<ShadeStep>(&what))
    shade->depth = fitting(height * depth_share), shade->colour = colour;
  if (auto* tab = std::get_if<TabStep>(&what)) {
    tab->outer = std::max(2 * fitting(height * tab_share), 6.0), tab->inner = std::round(tab->outer * hole_share);
    tab->depth = std::round(2 * (tab->outer - tab->inner)) / 5; // four fifths of its ring's width
  }
  if (auto* tie = std::get_if<TieStep>(&what))
    tie->form.width = fitting_tie(height);
  finish.steps.emplace_back();
  finish.steps.back().what = std::move(what);
}

void add_ring(Finish& finish, std::size_t step, Colour own) {
  auto* border = step < finish.steps.size() ? std::get_if<BorderStep>(&finish.steps[step].what) : nullptr;
  if (border == nullptr || border->rings.size() >= most_rings_of_border)
    return;
  BorderRing next = border->rings.back();
  next.distance = std::min(next.distance + border->rings.front().distance, most_distance);
  next.colour = unused_colour(finish, own);
  border->rings.push_back(next);
}

Point tab_place(const TabStep& tab, const Box& ink) {
  return {ink.x0 + tab.across * ink.width(), ink.y0 + tab.down * ink.height()};
}

std::vector<FinishHandle> finish_handles(const Finish& finish, const Box& ink, const Finished* made,
                                         const FinishHandlePlaces& places) {
  std::vector<FinishHandle> out;
  int borders = 0;
  for (std::size_t i = 0; i < finish.steps.size(); ++i) {
    const FinishStep& step = finish.steps[i];
    if (!step.on)
      continue;
    if (const auto* s = std::get_if<ShadeStep>(&step.what)) {
      const Vec way = direction(radians(s->angle));
      const Point root{way.x < -1e-9 ? ink.x0 : ink.x1, way.y < -1e-9 ? ink.y0 : ink.y1};
      out.push_back({i, 0, root + way * (s->depth + places.beyond), root});
    } else if (const auto* b = std::get_if<BorderStep>(&step.what)) {
      const double d = outermost_ring(*b).distance;
      const Point at{ink.x0 - (b->side == BorderSide::Inside ? -d : d),
                     (ink.y0 + ink.y1) / 2 + places.beside * borders++};
      out.push_back({i, 0, at, at});
    } else if (std::holds_alternative<TieStep>(step.what)) {
      if (made == nullptr || i >= made->steps.size())
        continue;
      for (std::size_t k = 0; k < made->steps[i].ties.size(); ++k) {
        const Tie& tie = made->steps[i].ties[k];
        const Point at = lerp(tie.from, tie.to, 0.5);
        out.push_back({i, k, at, at});
      }
    } else if (const auto* t = std::get_if<TabStep>(&step.what)) {
      const Point at =
          made != nullptr && i < made->steps.size() && made->steps[i].at ? *made->steps[i].at : tab_place(*t, ink);
      out.push_back({i, 0, at, at});
    }
  }
  return out;
}

namespace {

std::optional<HandTie> shares_of(const Tie& tie, const Box& ink) {
  if (!(ink.width() > 0) || !(ink.height() > 0))
    return std::nullopt;
  const auto share = [&](Point p) {
    const auto within = [](double v) { return std::clamp(v, -farthest_share, farthest_share); };
    return Point{within((p.x - ink.x0) / ink.width()), within((p.y - ink.y0) / ink.height())};
  };
  return HandTie{share(tie.from), share(tie.to)};
}

// One that was found moves to those by hand. Of a stencil all do: its counters have several, which belong together.
void drag_tie(TieStep& step, const FinishDrag& drag) {
  if (drag.ties == nullptr || drag.part >= drag.ties->size())
    return;
  std::vector<Tie> ties = *drag.ties;
  ties[drag.part].from += drag.by, ties[drag.part].to += drag.by;
  std::vector<HandTie> by_hand;
  for (std::size_t i = 0; i < ties.size() && by_hand.size() < most_hand_ties; ++i)
    if (i < step.by_hand.size() || i == drag.part || step.kind == TieKind::Stencil) {
      if (i < step.by_hand.size() && i != drag.part)
        by_hand.push_back(step.by_hand[i]);
      else if (const auto shares = shares_of(ties[i], drag.ink))
        by_hand.push_back(*shares);
    }
  step.by_hand = std::move(by_hand);
}

} // namespace

namespace {

std::size_t last_ties(const Finish& finish) { // past the end: none
  for (std::size_t i = finish.steps.size(); i-- > 0;)
    if (finish.steps[i].on && std::holds_alternative<TieStep>(finish.steps[i].what))
      return i;
  return finish.steps.size();
}

} // namespace

TieStep hand_tie_form(const Finish& finish, double height) {
  if (const std::size_t at = last_ties(finish); at < finish.steps.size())
    return std::get<TieStep>(finish.steps[at].what);
  TieStep own;
  own.all = false;
  own.form.width = fitting_tie(height);
  return own;
}

bool add_hand_tie(Finish& finish, Point from, Point to, const Box& ink) {
  TieStep ties = hand_tie_form(finish, ink.height());
  const auto shares = shares_of({from, to}, ink);
  const std::size_t at = last_ties(finish);
  if (!shares || at >= most_finish_steps || ties.by_hand.size() >= most_hand_ties)
    return false;
  ties.by_hand.push_back(*shares);
  if (at == finish.steps.size())
    finish.steps.emplace_back();
  finish.steps[at].what = std::move(ties);
  return true;
}

FinishAction dragged(FinishAction what, const FinishDrag& drag) {
  if (auto* s = std::get_if<ShadeStep>(&what)) {
    const Vec way = direction(radians(s->angle)) * (s->depth + drag.beyond) + drag.by;
    s->angle = rounded(degrees(std::atan2(way.y, way.x)), drag.step_deg);
    s->depth = std::clamp(rounded(length(way) - drag.beyond, drag.step_mm), 0.0, most_distance);
  } else if (auto* b = std::get_if<BorderStep>(&what)) {
    double& distance = b->rings[static_cast<std::size_t>(&outermost_ring(*b) - b->rings.data())].distance;
    const double out = b->side == BorderSide::Inside ? drag.by.x : -drag.by.x;
    distance = std::clamp(rounded(distance + out, drag.step_mm), least_ring, most_distance);
  } else if (auto* tie = std::get_if<TieStep>(&what)) {
    drag_tie(*tie, drag);
  } else if (auto* t = std::get_if<TabStep>(&what)) {
    const auto share = [](double way, double whole) {
      return std::clamp(way / std::max(whole, 1e-6), -farthest_share, farthest_share);
    };
    t->across = share(drag.to.x - drag.ink.x0, drag.ink.width());
    t->down = share(drag.to.y - drag.ink.y0, drag.ink.height());
  }
  return what;
}

} // namespace frelm
