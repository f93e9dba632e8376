#include "document/document.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>

namespace frelm {

std::string to_hex(Colour c) {
  return fmt::format("#{:02x}{:02x}{:02x}", c.r, c.g, c.b);
}

Result<Colour> colour_from_hex(const std::string& text) {
  unsigned value = 0;
  const bool shape = text.size() == 7 && text[0] == '#';
  const auto [end, status] = std::from_chars(text.data() + (shape ? 1 : 0), text.data() + text.size(), value, 16);
  if (!shape || status != std::errc() || end != text.data() + text.size())
    return bad_input(FRELM_WORDS("core", "a colour is written like #1f2a33"), as_it_is(text));
  return Colour{static_cast<std::uint8_t>(value >> 16), static_cast<std::uint8_t>(value >> 8 & 0xff),
                static_cast<std::uint8_t>(value & 0xff)};
}

const Piece* Document::find(PieceId id) const {
  const std::size_t at = index_of(id);
  return at < pieces.size() ? pieces[at].get() : nullptr;
}

// Ids are given out upwards, so most documents have them in order, or nearly: where the id would stand is looked at
// first. Thousands of pieces, each of which asks for another, would be quadratic otherwise.
std::size_t Document::index_of(PieceId id) const {
  const auto guess =
      std::lower_bound(pieces.begin(), pieces.end(), id, [](const auto& p, PieceId wanted) { return p->id < wanted; });
  if (guess != pieces.end() && (*guess)->id == id)
    return static_cast<std::size_t>(guess - pieces.begin());
  for (std::size_t i = 0; i < pieces.size(); ++i)
    if (pieces[i]->id == id)
      return i;
  return pieces.size();
}

bool Document::operator==(const Document& o) const {
  return sheet == o.sheet && unit == o.unit && next_id == o.next_id && materials == o.materials &&
         backings == o.backings && groups == o.groups && ruler_lines == o.ruler_lines && marks == o.marks &&
         finish_grows == o.finish_grows && ordered == o.ordered && set_aside == o.set_aside &&
         order_by_hand == o.order_by_hand && same_value(names, o.names) &&
         std::equal(pieces.begin(), pieces.end(), o.pieces.begin(), o.pieces.end(), same_value<Piece>);
}

const Finish* Piece::finish() const {
  if (lettering() != nullptr)
    return &lettering()->recipe.finish;
  if (outline() != nullptr)
    return &outline()->finish;
  return is_shape() ? &guide()->finish : nullptr;
}

bool OutlinePiece::operator==(const OutlinePiece& o) const {
  return finish == o.finish && moved == o.moved && reshaped == o.reshaped && same_value(outline, o.outline) &&
         same_value(origin, o.origin);
}

std::size_t bytes_of(const GuideShape& shape) {
  if (const auto* path = std::get_if<PathGuide>(&shape))
    return path->contour.segments.size() * sizeof(Segment);
  if (const auto* strip = std::get_if<RibbonGuide>(&shape))
    return bytes_of(ribbon_line(*strip));
  if (const auto* drawn = std::get_if<FreehandGuide>(&shape))
    return drawn->points.size() * sizeof(Point);
  return 0;
}

std::size_t bytes_of(const Piece& piece) {
  std::size_t sum = sizeof piece + piece.name.size();
  if (const Lettering* l = piece.lettering()) {
    if (const Letters* letters = l->recipe.letters())
      sum += letters->text.size() * sizeof(TypedChar);
    if (const auto* drawn = std::get_if<OutlineSource>(&l->recipe.source);
        drawn != nullptr && drawn->outline != nullptr)
      sum += bytes_of(*drawn->outline);
    for (const GuideRef* ref : l->recipe.bend.remembered())
      if (ref->own)
        sum += bytes_of(*ref->own);
    sum += l->recipe.bend.net.net.pegs.size() * sizeof(NetPeg) + l->recipe.tweaks.size() * sizeof(LetterTweak) +
           l->recipe.pairs.size() * sizeof(PairTweak);
  }
  if (const Guide* g = piece.guide())
    sum += bytes_of(g->shape);
  if (const OutlinePiece* o = piece.outline(); o != nullptr && o->outline != nullptr)
    sum += bytes_of(*o->outline);
  return sum;
}

} // namespace frelm
