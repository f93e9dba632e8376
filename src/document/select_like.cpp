#include "document/select_like.h"

#include <set>
#include <tuple>

namespace frelm {
namespace {

// What pieces that are alike have in common.
using Trait = std::tuple<Colour, Destination, std::size_t, std::size_t, bool>;
Trait trait_of(const Piece& p, Like like) {
  Trait out{};
  switch (like) {
  case Like::Colour:
    std::get<0>(out) = p.colour;
    break;
  case Like::Destination:
    std::get<1>(out) = p.destination;
    break;
  case Like::Kind:
    std::get<2>(out) = p.content.index();
    std::get<3>(out) = p.guide() != nullptr ? p.guide()->shape.index() : 0;
    std::get<4>(out) = p.is_shape();
    break;
  }
  return out;
}

} // namespace

std::vector<PieceId> pieces_like(const Document& document, const std::vector<PieceId>& ids, Like like) {
  const std::set<PieceId> picked(ids.begin(), ids.end());
  std::set<Trait> traits;
  for (const auto& p : document.pieces)
    if (picked.contains(p->id))
      traits.insert(trait_of(*p, like));
  std::vector<PieceId> out;
  for (const auto& p : document.pieces)
    if (picked.contains(p->id) || (p->visible && !p->locked && traits.contains(trait_of(*p, like))))
      out.push_back(p->id);
  return out;
}

} // namespace frelm
