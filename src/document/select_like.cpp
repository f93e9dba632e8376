#include "document/select_like.h"

#include <algorithm>

namespace frelm {
namespace {

bool alike(const Piece& a, const Piece& b, Like like) {
  switch (like) {
  case Like::Colour:
    return a.colour == b.colour;
  case Like::Destination:
    return a.destination == b.destination;
  case Like::Kind:
    return a.content.index() == b.content.index() &&
           (a.guide() == nullptr ||
            (a.guide()->shape.index() == b.guide()->shape.index() && a.is_shape() == b.is_shape()));
  }
  return false;
}

} // namespace

std::vector<PieceId> pieces_like(const Document& document, const std::vector<PieceId>& ids, Like like) {
  std::vector<PieceId> out;
  for (const auto& p : document.pieces) {
    const bool picked = std::find(ids.begin(), ids.end(), p->id) != ids.end();
    if (picked || (p->visible && !p->locked && std::any_of(ids.begin(), ids.end(), [&](PieceId id) {
                     const Piece* q = document.find(id);
                     return q != nullptr && alike(*p, *q, like);
                   })))
      out.push_back(p->id);
  }
  return out;
}

} // namespace frelm
