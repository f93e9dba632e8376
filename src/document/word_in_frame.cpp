#include "document/word_in_frame.h"

#include "document/arrange.h"
#include "document/edits.h"
#include "document/outline_commands.h"
#include "geom/cut_parts.h"
#include "geom/ties.h"
#include "geom/weld.h"

namespace frelm {
namespace {

// All that a piece cuts, united.
Result<Outline> area_of(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                        const std::stop_token& stop) {
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return bad_input(FRELM_WORDS("core", "the piece is no longer there"));
  const Result<PieceResult> r = evaluator.piece(document, id, Depth::Finish, stop);
  if (!r)
    return r.error();
  std::vector<Outline> layers;
  if (r->finished != nullptr)
    for (const PieceLayer& l : layers_of(*piece, *r->finished))
      layers.push_back(*l.outline);
  else
    layers.push_back(r->outline != nullptr ? *r->outline : seated_outline(*r));
  WeldOptions options;
  options.stop = stop;
  Result<WeldResult> united = weld(layers, options);
  if (!united)
    return united.error();
  return std::move(united->outline);
}

double extent(const Outline& o) {
  return std::max(o.bounds().width(), o.bounds().height());
}

} // namespace

Result<std::vector<Contact>> contacts_between(const Document& document, PieceId a, PieceId b,
                                              const DocumentEvaluator& evaluator, std::stop_token stop) {
  const Result<Outline> first = area_of(document, a, evaluator, stop), second = area_of(document, b, evaluator, stop);
  if (!first)
    return first.error();
  if (!second)
    return second.error();
  return contacts(*first, *second, stop);
}

Result<FoundInFrame> find_tie_in(const Document& document, const std::vector<PieceId>& ids, const TieInWish& wish,
                                 const DocumentEvaluator& evaluator, std::stop_token stop,
                                 const std::function<void(double)>& progress) {
  if (ids.size() != 2)
    return bad_input(FRELM_WORDS("core", "select a word and a frame"));
  const Result<Outline> a = area_of(document, ids[0], evaluator, stop), b = area_of(document, ids[1], evaluator, stop);
  if (!a)
    return a.error();
  if (!b)
    return b.error();
  const bool inside_a = !loose_stock(*a).empty(), inside_b = !loose_stock(*b).empty();
  if (!inside_a && !inside_b)
    return bad_input(FRELM_WORDS("core", "neither of the two has an inside; one must be a frame"));
  const bool first = inside_a && (!inside_b || extent(*a) > extent(*b)); // is the frame
  Result<TieInFound> found = first ? tie_in(*b, *a, wish, stop, progress) : tie_in(*a, *b, wish, stop, progress);
  if (!found)
    return found.error();
  return FoundInFrame{first ? WordInFrame{ids[1], ids[0]} : WordInFrame{ids[0], ids[1]}, std::move(*found)};
}

Result<Document> tied_in(const Document& document, PieceId word, const TiedIn& answer) {
  const Piece* piece = document.find(word);
  if (piece == nullptr || piece->locked)
    return bad_input(FRELM_WORDS("core", "the word is locked, or no longer there"));
  Document out = document;
  out.finish_grows = true;
  out = scale_pieces(std::move(out), {word}, answer.from, answer.scale);
  out = turn_pieces(std::move(out), {word}, answer.from, answer.turn);
  out = move_pieces(std::move(out), {word}, answer.at - answer.from);
  out.finish_grows = document.finish_grows;
  return out;
}

Result<OnePiece> made_one(const Document& document, const WordInFrame& pair, double width,
                          const DocumentEvaluator& evaluator, std::stop_token stop) {
  Result<OutlinesMade> made =
      make_outlines(document, {pair.frame, pair.word}, OutlineCommand::WeldTogether, {}, evaluator, false, stop);
  if (!made)
    return made.error();
  OnePiece out{std::move(made->document), made->pieces.front(), 0};
  const auto parts = [&]() -> Result<std::size_t> {
    const Result<Outline> area = area_of(out.document, out.piece, evaluator, stop);
    if (!area)
      return area.error();
    return cut_parts(*area).size();
  };
  Result<std::size_t> count = parts();
  if (count && *count > 1) {
    out.document = edit_piece(std::move(out.document), out.piece, [&](Piece& p) {
      p.finish()->steps.emplace_back();
      TieStep ties;
      ties.form.width = std::clamp(width, least_tie, most_tie);
      p.finish()->steps.back().what = ties;
    });
    count = parts();
  }
  if (!count)
    return count.error();
  out.parts = *count;
  return out;
}

} // namespace frelm
