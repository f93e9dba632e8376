#include "app/session/line_fault_finder.h"

namespace frelm {

LineFaultFinder::LineFaultFinder(Session& session, QObject* parent) : QObject(parent), session_(session), answer_(5) {
  connect(&session_, &Session::document_changed, this, &LineFaultFinder::look);
}

void LineFaultFinder::watch(std::vector<std::vector<PieceId>> drawings, std::vector<LineFaults> known) {
  drawings_ = std::move(drawings), found_ = std::move(known);
  looked_at_ = watched();
  answer_.forget();
  emit found_changed();
}

std::vector<std::shared_ptr<const Piece>> LineFaultFinder::watched() const {
  std::vector<std::shared_ptr<const Piece>> out;
  const Document& document = session_.document();
  for (const std::vector<PieceId>& ids : drawings_)
    for (const PieceId id : ids)
      if (const std::size_t i = document.index_of(id); i < document.pieces.size())
        out.push_back(document.pieces[i]);
  return out;
}

void LineFaultFinder::look() {
  if (drawings_.empty() || session_.dragging())
    return;
  std::vector<std::shared_ptr<const Piece>> now = watched();
  if (now == looked_at_)
    return;
  looked_at_ = std::move(now);
  answer_.ask(
      [document = session_.document(),
       drawings = drawings_](const std::stop_token& stop) -> std::optional<std::vector<LineFaults>> {
        std::vector<LineFaults> found;
        for (const std::vector<PieceId>& ids : drawings) {
          if (stop.stop_requested())
            return std::nullopt;
          found.push_back(line_faults(document, ids));
        }
        return found;
      },
      [this](std::vector<LineFaults> found) {
        found_ = std::move(found);
        emit found_changed();
      });
}

} // namespace frelm
