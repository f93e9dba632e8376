// Ties by hand: a drag from edge to edge of the selected piece is a tie of its finish, in its last step of ties or in
// one that is added. Both ends stand on the edge nearest to the hand.
#include "app/canvas/tool.h"

#include "geom/nodes.h"
#include "lettering/finish_edit.h"

namespace frelm {
namespace {

class TieTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    const Piece* piece = session.selected();
    if (piece == nullptr || piece->finish() == nullptr)
      return leave();
    from_ = edge_at(area_of(session), event.at);
    return {};
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    const auto area = area_of(session);
    const std::optional<Point> here = edge_at(area, event.at);
    reply.overlay.caught = here;
    if (!pressed || !from_ || !here || *here == *from_)
      return reply;
    const TieStep step = hand_tie_form(*session.selected()->finish(), session.selection_ink().height());
    const TieHolds holds = step.kind == TieKind::Stencil ? TieHolds::Sheet : TieHolds::Area;
    const Unit unit = session.document().unit;
    reply.overlay.lit_area = std::make_shared<const Outline>(tie_strip(*area, {*from_, *here}, step.form, holds));
    reply.overlay.measure = QObject::tr("%1 %2 long").arg(length_text(distance(*from_, *here), unit), unit_name(unit));
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    const std::optional<Point> from = std::exchange(from_, std::nullopt), to = edge_at(area_of(session), event.at);
    const Piece* piece = session.selected();
    if (piece == nullptr || !from || !to || distance(*from, *to) < drag_begins_px * event.mm_per_px)
      return reply;
    const Result<PieceResult>& now = session.seated(piece->id);
    bool added = false;
    Document tied = edit_piece(session.document(), piece->id, [&](Piece& p) {
      added = now && !p.locked && p.finish() != nullptr && add_hand_tie(*p.finish(), *from, *to, now->ink);
    });
    if (added)
      reply.apply = std::move(tied), reply.name = QObject::tr("Draw a tie");
    else
      reply.refused = QObject::tr("It can have no more ties, or is locked");
    return reply;
  }
  ToolReply cancel() override {
    from_.reset();
    return {};
  }
  ToolReply escape(const Session&) override { return leave(); }

private:
  // The selected piece's letters with the ties that they have; null: there are none.
  static std::shared_ptr<const Outline> area_of(const Session& session) {
    const Piece* piece = session.selected();
    if (piece == nullptr || piece->finish() == nullptr)
      return nullptr;
    const Session::LayersShown layers = session.layers(piece->id);
    if (layers.current && layers.finished != nullptr)
      return {layers.finished, layers.finished->letters().outline.get()};
    const Result<PieceResult>& now = session.seated(piece->id);
    return now ? std::make_shared<const Outline>(seated_outline(*now)) : nullptr;
  }
  static std::optional<Point> edge_at(const std::shared_ptr<const Outline>& area, Point p) {
    const auto near = area != nullptr ? nearest_on(*area, p) : std::nullopt;
    return near ? std::optional(near->point) : std::nullopt;
  }

  std::optional<Point> from_;
};

} // namespace

std::unique_ptr<Tool> make_tie_tool() {
  return std::make_unique<TieTool>();
}

} // namespace frelm
