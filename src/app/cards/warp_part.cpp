#include "app/cards/warp_part.h"

#include "document/blocks.h"

namespace frelm {

WarpPart::WarpPart(Session& session, QWidget* parent) : Card(0, {}, session, parent) {
  embed();
}

const Bend* WarpPart::bend() const {
  const Piece* piece = session_.selected();
  return piece != nullptr && piece->lettering() != nullptr ? &piece->lettering()->recipe.bend : nullptr;
}

const BentBlock* WarpPart::block() const {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return nullptr;
  const Result<PieceResult>& now = session_.seated(piece->id);
  return now ? now->bent.get() : nullptr;
}

void WarpPart::edit_bend(const QString& name, const std::function<void(Bend&)>& change, const std::string& merge_key) {
  if (bend() == nullptr)
    return;
  const PieceId id = session_.selected()->id;
  Document changed = edit_piece(session_.document(), id, [&](Piece& p) { change(p.lettering()->recipe.bend); });
  if (const std::optional<Error> fault = warp_refusal(session_.document(), changed, id, session_.evaluator())) {
    emit problem(QString::fromStdString(fault->text()));
    refresh();
    return;
  }
  session_.apply(name, std::move(changed), {}, merge_key);
}

} // namespace frelm
