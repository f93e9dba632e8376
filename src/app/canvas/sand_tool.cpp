// Sand: a brush that evens out the outline or guide it is drawn over; corners that it doesn't touch stay, and no place
// moves farther from where it was than set. One stroke is one step; beside the hand stands how the nodes fall.
#include "app/canvas/tool.h"

#include "document/outline_edits.h"
#include "geom/distance.h"

namespace frelm {
namespace {

constexpr double dab_apart = 1.0 / 3; // of the brush's radius
constexpr int most_dabs = 16;         // for one move of the hand: a small brush that is drawn fast leaves gaps

class SandTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply = cancel(); // of a stroke whose end was not told
    const PieceId id = under(session, event);
    const Piece* piece = session.document().find(id);
    if (piece != nullptr && piece->lettering() != nullptr)
      reply.refused = QObject::tr("Release the letters first; then their outlines can be sanded");
    else if (const Result<Outline> drawn = piece != nullptr ? nodes_of(session.document(), id) : bad_input({}); drawn)
      stroke_.emplace(Stroke{id, *drawn, *drawn, *drawn, event.at});
    if (stroke_ && session.selection() != std::vector{id})
      reply.select = std::vector{id};
    if (stroke_ && dab(session, event.at))
      show(session, reply);
    ring(session, event, reply);
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    if (pressed && stroke_) {
      const double apart = session.brush().radius * dab_apart;
      const double way = distance(stroke_->last, event.at);
      const Point from = stroke_->last;
      bool changed = false;
      const int dabs = static_cast<int>(std::min(std::floor(way / apart), static_cast<double>(most_dabs)));
      for (int i = 1; i <= dabs; ++i)
        changed = dab(session, lerp(from, event.at, static_cast<double>(i) / dabs)) || changed;
      if (changed)
        show(session, reply);
    }
    ring(session, event, reply);
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    if (stroke_ && stroke_->now != stroke_->was)
      reply.commit = true, reply.name = QObject::tr("Sand");
    stroke_.reset();
    ring(session, event, reply);
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = stroke_.has_value();
    stroke_.reset();
    return reply;
  }
  ToolReply escape(const Session&) override {
    ToolReply reply = cancel();
    reply.back_to_select = !reply.cancel;
    return reply;
  }

private:
  struct Stroke {
    PieceId piece = 0;
    Outline was, now, shown; // shown: now with few nodes
    Point last;              // dab
  };

  // The selected piece where the brush is over it, else the frontmost one.
  static PieceId under(const Session& session, const ToolEvent& event) {
    if (const Piece* piece = session.selected(); piece != nullptr && !piece->locked)
      if (const Result<Outline> drawn = nodes_of(session.document(), piece->id);
          drawn && Boundary(*drawn).nearer_than(session.brush().radius, event.at))
        return piece->id;
    return piece_at(session, event.at, session.brush().radius);
  }

  bool dab(const Session& session, Point at) {
    stroke_->last = at;
    Outline next = sanded(stroke_->was, stroke_->now, at, session.brush());
    if (next == stroke_->now)
      return false;
    stroke_->now = std::move(next);
    return true;
  }
  void show(const Session& session, ToolReply& reply) {
    stroke_->shown = with_few_nodes(stroke_->was, stroke_->now, session.brush());
    reply.preview = edit_nodes(session.document(), stroke_->piece, [&](const Outline&) { return stroke_->shown; });
  }

  void ring(const Session& session, const ToolEvent& event, ToolReply& reply) const {
    reply.overlay.brush = CircleGuide{event.at, session.brush().radius};
    if (!stroke_)
      return;
    reply.overlay.measure =
        QObject::tr("%1 → %2 nodes").arg(stroke_->was.node_count()).arg(stroke_->shown.node_count());
    reply.overlay.measure_at = event.at;
  }

  std::optional<Stroke> stroke_;
};

} // namespace

std::unique_ptr<Tool> make_sand_tool() {
  return std::make_unique<SandTool>();
}

} // namespace frelm
