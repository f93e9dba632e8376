#include "app/cards/lettering_card.h"

namespace frelm {

bool LetteringCard::several_lines(const Lettering& lettering) {
  const Letters* letters = lettering.recipe.letters();
  return letters != nullptr && plain_text(letters->text).find(U'\n') != std::u32string::npos;
}

void LetteringCard::edit_subject(const QString& step, bool stepped, const std::function<void(Lettering&)>& change) {
  edit(step, stepped, [&](Piece& p) {
    if (Lettering* l = p.lettering())
      change(*l);
  });
}

} // namespace frelm
