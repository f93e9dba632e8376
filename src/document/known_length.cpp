#include "document/known_length.h"

#include "document/arrange.h"

namespace frelm {
namespace {

// The number of backings: none.
std::size_t backing_under(const Document& document, const MeasuredLine& line) {
  const std::size_t at = backing_at(document, line.from);
  return at < document.backings.size() && covers(document.backings[at], line.to) ? at : document.backings.size();
}

} // namespace

Scales scaled_by(const Document& document, const std::vector<PieceId>& selection, const MeasuredLine& line) {
  return !selection.empty()                                         ? Scales::Selection
         : backing_under(document, line) < document.backings.size() ? Scales::Backing
                                                                    : Scales::All;
}

Result<Document> with_known_length(Document document, const std::vector<PieceId>& selection, const MeasuredLine& line,
                                   double length) {
  const double k = length / distance(line.from, line.to);
  if (!(k > 0) || !std::isfinite(k))
    return bad_input(FRELM_WORDS("core", "draw a line of some length and say how long it is"));
  switch (scaled_by(document, selection, line)) {
  case Scales::Selection:
    return scale_pieces(std::move(document), selection, line.from, k);
  case Scales::Backing: {
    const std::size_t at = backing_under(document, line);
    Backing changed = scaled(document.backings[at], line.from, k);
    return with_backing_changed(std::move(document), at, std::move(changed));
  }
  case Scales::All:
    break;
  }
  std::vector<PieceId> all;
  for (const auto& p : document.pieces)
    all.push_back(p->id);
  for (Backing& b : document.backings)
    b = scaled(std::move(b), line.from, k);
  return scale_pieces(std::move(document), all, line.from, k);
}

} // namespace frelm
