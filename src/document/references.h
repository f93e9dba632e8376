// What a piece names by id: other pieces that it follows or is made from, and the ids of its own letters.
#pragma once

#include "document/piece.h"

namespace frelm {

// Calls visit(PieceId&) for every piece that the content names, also those that a bend only remembers; not what a
// release put aside (Origin). 0 stands for none and is left out.
template <class Content, class Visit> void for_each_reference(Content& content, const Visit& visit) {
  const auto named = [&](auto& id) {
    if (id != 0)
      visit(id);
  };
  if (auto* l = std::get_if<Lettering>(&content)) {
    for (auto* ref : l->recipe.bend.remembered())
      named(ref->guide);
    if (auto* made_from = std::get_if<PiecesSource>(&l->recipe.source))
      for (auto& source : made_from->pieces)
        named(source);
  }
  if (auto* g = std::get_if<Guide>(&content)) {
    if (auto* edge = std::get_if<OutlineGuide>(&g->shape))
      named(edge->of);
    if (auto* between = std::get_if<MidwayGuide>(&g->shape))
      named(between->first), named(between->second);
  }
}

// New ids for the letters of a recipe, from next_id on; what the hand did to them goes along.
inline void renew_letter_ids(Recipe& recipe, std::uint64_t& next_id) {
  Letters* letters = recipe.letters();
  if (letters == nullptr)
    return;
  for (TypedChar& c : letters->text) {
    const std::uint64_t fresh = next_id++;
    for (LetterTweak& t : recipe.tweaks)
      if (t.id == c.id)
        t.id = fresh;
    for (LetterAlternate& a : letters->alternates)
      if (a.id == c.id)
        a.id = fresh;
    for (PairTweak& t : recipe.pairs)
      for (std::uint64_t* letter : {&t.left, &t.right})
        if (*letter == c.id)
          *letter = fresh;
    c.id = fresh;
  }
}

} // namespace frelm
