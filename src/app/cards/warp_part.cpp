#include "app/cards/warp_part.h"

#include "app/style/words.h"
#include "document/blocks.h"

namespace frelm {

WarpPart::WarpPart(Session& session, QWidget* parent) : LetteringCard(0, {}, session, parent) {
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

void WarpPart::edit_subject(const QString& step, bool stepped, const std::function<void(Lettering&)>& change) {
  apply_unless_refused(step, change, stepped ? "step " + step.toStdString() : "");
}

void WarpPart::edit_bend(const QString& name, const std::function<void(Bend&)>& change, const std::string& merge_key) {
  apply_unless_refused(
      name, [&](Lettering& l) { change(l.recipe.bend); }, merge_key);
}

void WarpPart::apply_unless_refused(const QString& name, const std::function<void(Lettering&)>& change,
                                    const std::string& key) {
  if (bend() == nullptr)
    return;
  const PieceId id = session_.selected()->id;
  Document changed = edit_piece(session_.document(), id, [&](Piece& p) { change(*p.lettering()); });
  if (const std::optional<Error> fault = warp_refusal(session_.document(), changed, id, session_.evaluator())) {
    emit problem(words_of(*fault));
    refresh();
    return;
  }
  session_.apply(name, std::move(changed), {}, key);
}

} // namespace frelm
