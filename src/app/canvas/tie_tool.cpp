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
    if (step_of(session) == nullptr)
      return leave();
    from_ = edge_at(session, event.at);
    return {};
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    const std::optional<Point> here = edge_at(session, event.at);
    reply.overlay.caught = here;
    if (!pressed || !from_ || !here)
      return reply;
    const Tie tie{*from_, *here};
    const Unit unit = session.document().unit;
    if (const auto area = area_of(session); area != nullptr && distance(tie.from, tie.to) > 0) {
      const TieStep step = last_step(session);
      reply.overlay.lit_area = std::make_shared<const Outline>(
          tie_strip(*area, tie, step.form, step.kind == TieKind::Stencil ? TieHolds::Sheet : TieHolds::Area));
    }
    reply.overlay.measure =
        QObject::tr("%1 %2 long").arg(length_text(distance(tie.from, tie.to), unit), unit_name(unit));
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    const std::optional<Point> from = std::exchange(from_, std::nullopt), to = edge_at(session, event.at);
    const Piece* piece = step_of(session);
    if (piece == nullptr || !from || !to || distance(*from, *to) < drag_begins_px * event.mm_per_px)
      return reply;
    const auto step = with_hand_tie(last_step(session), *from, *to, session.seated(piece->id)->ink);
    if (!step) {
      reply.refused = QObject::tr("It has as many ties by hand as there can be");
      return reply;
    }
    reply.apply = edit_piece(session.document(), piece->id, [&](Piece& p) {
      std::vector<FinishStep>& steps = p.finish()->steps;
      for (auto s = steps.rbegin(); s != steps.rend(); ++s)
        if (s->on && std::holds_alternative<TieStep>(s->what)) {
          s->what = *step;
          return;
        }
      steps.emplace_back();
      steps.back().what = *step;
    });
    reply.name = QObject::tr("Draw a tie");
    return reply;
  }
  ToolReply cancel() override {
    from_.reset();
    return {};
  }
  ToolReply escape(const Session&) override { return leave(); }

private:
  // The selected piece, where it can have a tie.
  static const Piece* step_of(const Session& session) {
    const Piece* piece = session.selected();
    const Finish* finish = piece != nullptr && !piece->locked ? piece->finish() : nullptr;
    return finish != nullptr && (finish->steps.size() < most_finish_steps || has_ties(*finish)) &&
                   session.seated(piece->id)
               ? piece
               : nullptr;
  }
  static bool has_ties(const Finish& finish) {
    return std::any_of(finish.steps.begin(), finish.steps.end(),
                       [](const FinishStep& s) { return s.on && std::holds_alternative<TieStep>(s.what); });
  }
  // The last one that is on; else one for just those that are drawn.
  static TieStep last_step(const Session& session) {
    const Piece* piece = session.selected();
    for (auto s = piece->finish()->steps.rbegin(); s != piece->finish()->steps.rend(); ++s)
      if (const auto* tie = std::get_if<TieStep>(&s->what); tie != nullptr && s->on)
        return *tie;
    Finish fitting{{}};
    TieStep own;
    own.all = false;
    add_fitting_step(fitting, own, session.selection_ink().height(), piece->colour);
    return std::get<TieStep>(fitting.steps.front().what);
  }
  static std::shared_ptr<const Outline> area_of(const Session& session) {
    const Piece* piece = session.selected();
    if (piece == nullptr)
      return nullptr;
    const Session::LayersShown layers = session.layers(piece->id);
    if (layers.current && layers.finished != nullptr)
      return {layers.finished, layers.finished->letters().outline.get()};
    const Result<PieceResult>& now = session.seated(piece->id);
    return now ? std::make_shared<const Outline>(seated_outline(*now)) : nullptr;
  }
  static std::optional<Point> edge_at(const Session& session, Point p) {
    const auto area = area_of(session);
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
