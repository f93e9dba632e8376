// A name given by hand goes before what the piece is made of.
#include "document/piece_name.h"

#include "document/measure.h"
#include "lettering/set_text.h"

namespace frelm {

Said piece_name(const Piece& piece, Unit unit) {
  const auto mm = [unit](double v) { return format_length(v, unit); };
  if (!piece.name.empty())
    return as_it_is(piece.name);
  if (const Guide* guide = piece.guide()) {
    if (const CircleGuide* circle = guide->circle())
      return say(FRELM_WORDS("core", "Circle r %1"), mm(circle->radius));
    if (const auto* band = std::get_if<BandGuide>(&guide->shape))
      return piece.is_shape() ? say(FRELM_WORDS("core", "Ring %1 to %2"), mm(band->inner), mm(band->outer))
                              : say(FRELM_WORDS("core", "Band %1 to %2"), mm(band->inner), mm(band->outer));
    if (const auto* spiral = std::get_if<SpiralGuide>(&guide->shape))
      return say(FRELM_WORDS("core", "Spiral, pitch %1"), mm(spiral->pitch));
    return say(shape_name(guide->shape));
  }
  if (const Lettering* l = piece.lettering()) {
    if (const Letters* letters = l->recipe.letters()) {
      std::u32string text = cased(plain_text(letters->text), letters->capitals);
      std::replace(text.begin(), text.end(), U'\n', U' ');
      std::string out = to_utf8(text);
      return out.find_first_not_of(' ') == std::string::npos ? say(FRELM_WORDS("core", "Empty lettering"))
                                                             : as_it_is(std::move(out));
    }
    return say(FRELM_WORDS("core", "Made from pieces"));
  }
  return say(FRELM_WORDS("core", "Outline"));
}

Said piece_name(const Document& document, const Piece& piece) {
  if (const Guide* g = piece.guide(); g != nullptr && piece.name.empty())
    if (const auto* edge = std::get_if<OutlineGuide>(&g->shape))
      if (const Piece* of = document.find(edge->of); of != nullptr && of->guide() == nullptr)
        return say(FRELM_WORDS("core", "Edge of %1"), piece_name(*of, document.unit));
  return piece_name(piece, document.unit);
}

std::string display_name(const Piece& piece, Unit unit) {
  return english(piece_name(piece, unit));
}

std::string display_name(const Document& document, const Piece& piece) {
  return english(piece_name(document, piece));
}

} // namespace frelm
