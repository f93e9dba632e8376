// Switching finish steps.
#pragma once

#include "lettering/recipe.h"

namespace frelm {

// The weld step switched on or off where it stands; added at the end where there is none.
inline void set_weld(Finish& finish, bool on) {
  for (FinishStep& s : finish.steps)
    if (s.kind == FinishKind::Weld) {
      s.on = on;
      return;
    }
  finish.steps.push_back({FinishKind::Weld, on});
}

} // namespace frelm
