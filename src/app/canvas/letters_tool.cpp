// Letters: a click on the sheet begins a lettering there; a click on a guide begins one that rides on it, where it was
// clicked. Typing goes on in the Letters card.
#include "app/canvas/tool.h"
#include "document/on_lines.h"

namespace frelm {
namespace {

class LettersTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    Document document = session.document();
    const PieceId under = carrier_at(session, event);
    const Piece* piece = document.find(under);
    if (piece != nullptr && piece->lettering() != nullptr) {
      reply.select = {under};
      reply.type_text = true;
      reply.back_to_select = true;
      return reply;
    }
    Piece lettering = new_lettering(session.preferences(), document, QObject::tr("Letters").toStdU32String(), event.at);
    // On a guide, or on the line of an outline: the letters ride on it.
    if (const auto line = piece != nullptr ? session.evaluator().guide(document, under) : bad_input({}); line)
      ride_near(*lettering.lettering(), under, **line, event.at);
    Added added = add_piece(std::move(document), std::move(lettering));
    reply.apply = std::move(added.document);
    reply.select = {added.id};
    reply.name = QObject::tr("Add lettering");
    reply.type_text = true;
    reply.back_to_select = true;
    return reply;
  }
  // The piece under the hand; else a band that the hand is in.
  static PieceId carrier_at(const Session& session, const ToolEvent& event) {
    if (const PieceId id = piece_at(session, event.at, pick_px * event.mm_per_px); id != 0)
      return id;
    for (const auto& piece : session.document().pieces)
      if (const Guide* g = piece->guide(); g != nullptr && piece->visible)
        if (const auto* band = std::get_if<BandGuide>(&g->shape)) {
          const double r = distance(event.at, band->centre);
          if (r > band->inner && r < band->outer)
            return piece->id;
        }
    return 0;
  }
  ToolReply move(const Session&, const ToolEvent&, bool) override { return {}; }
  ToolReply release(const Session&, const ToolEvent&) override { return {}; }
  ToolReply cancel() override { return leave(); }
};

} // namespace

std::unique_ptr<Tool> make_letters_tool() {
  return std::make_unique<LettersTool>();
}

} // namespace frelm
