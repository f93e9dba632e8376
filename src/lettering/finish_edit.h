// What hands do to a finish: steps and rings added with measures that suit the letters, shades and rings dragged.
#pragma once

#include "geom/outline.h"
#include "lettering/finish_layers.h"

namespace frelm {

// Added last, with sizes that suit letters `height` mm high and a colour that neither they (`own`) nor their layers
// have.
void add_fitting_step(Finish& finish, FinishAction what, double height, Colour own);
// One more ring for the border at `step`, as far out again as the nearest. Nothing where there is no room for it.
void add_ring(Finish& finish, std::size_t step, Colour own);

// The layers that the steps make besides the letters, as they are numbered (finish_layers): visit(role, number, colour,
// destination), with references into the finish.
template <class F, class Visit> void for_each_layer(F& finish, const Visit& visit) {
  int rings = 0, shades = 0;
  bool ringed = false;
  for (auto& s : finish.steps) {
    if (!s.on)
      continue;
    if (auto* border = std::get_if<BorderStep>(&s.what)) {
      for (const std::size_t i : nearest_first(border->rings))
        visit(LayerRole::Ring, ++rings, border->rings[i].colour, border->rings[i].destination);
      ringed = ringed || (border->side == BorderSide::Outside && !border->rings.empty());
    } else if (auto* shade = std::get_if<ShadeStep>(&s.what); shade != nullptr && !(shade->with_ring && ringed)) {
      visit(LayerRole::Shade, ++shades, shade->colour, shade->destination);
    }
  }
}

const BorderRing& outermost_ring(const BorderStep& border);

// Shades have a handle beyond their depth, on a stalk; borders one at their outermost ring; tabs one in their middle;
// every tie has one half way.
struct FinishHandle {
  std::size_t step = 0, part = 0; // part: of a step that has several
  Point at, root;                 // `at` where it has no stalk
};
struct FinishHandlePlaces {
  double beyond = 0; // mm that a shade's handle stands off the end of its way
  double beside = 0; // mm between the handles of several borders
};
// ink: of the letters. made: what the steps have made, where that is known. Steps that are off have none.
std::vector<FinishHandle> finish_handles(const Finish& finish, const Box& ink, const Finished* made,
                                         const FinishHandlePlaces& places);
// The place that a tab asks for; it stands on the edge nearest to it.
Point tab_place(const TabStep& tab, const Box& ink);

// The step that a tie drawn by hand goes into: the last one of ties that is on, or one of just those drawn by hand that
// suits letters `height` mm high.
TieStep hand_tie_form(const Finish& finish, double height);
// A tie more by hand, from place to place, in a step of its own where there is none. False: there are as many ties or
// steps as there can be, or letters without an extent; nothing changes.
bool add_hand_tie(Finish& finish, Point from, Point to, const Box& ink);

struct FinishDrag {
  Vec by;                                 // mm of the hand's way
  Point to;                               // where the hand is
  Box ink;                                // of the letters
  double beyond = 0;                      // as the handles were asked for
  double step_mm = 0.1;                   // 0: free
  double step_deg = 1;                    // 0: free
  std::size_t part = 0;                   // of a step with several handles
  const std::vector<Tie>* ties = nullptr; // as they stood when the drag began
};
// The step as the hand leaves it, its measures in their ranges. Steps without a handle stay as they are.
FinishAction dragged(FinishAction what, const FinishDrag& drag);

} // namespace frelm
