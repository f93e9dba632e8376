// Measure: a drag from place to place, caught by nodes, corners, centres and edges, says how far apart they are. The
// line stays; its ends can be dragged on. With Shift it is level, upright or at 45°. A click in a stroke measures
// across it. The line of a mark is dragged nearer to what it measures, or farther off.
#include "app/canvas/tool.h"

#include "app/style/words.h"

namespace frelm {
namespace {

class MeasureTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    const HandPlace hand = measured_place(session, event);
    start_ = hand.at;
    mark_ = mark_under(session, event);
    document_ = session.document();
    if (mark_)
      return {};
    if (const auto& line = session.measured()) // its ends
      for (const auto& [end, other] : {std::pair{line->from, line->to}, {line->to, line->from}})
        if (distance(end, event.at) <= pick_px * event.mm_per_px)
          start_ = other;
    ToolReply reply;
    reply.overlay.caught = hand.caught;
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    if (pressed && mark_)
      return move_mark(session, event);
    const HandPlace hand = measured_place(session, event, pressed ? start_ : std::nullopt);
    reply.overlay.caught = hand.caught;
    if (!pressed && mark_under(session, event))
      reply.cursor = Qt::SizeAllCursor;
    if (pressed && start_) {
      const MeasuredLine line{*start_, end_of(hand, event)};
      reply.overlay.measuring = line;
      const Unit unit = session.document().unit;
      reply.overlay.measure =
          QObject::tr("%1 %2 at %3°%4")
              .arg(length_text(distance(line.from, line.to), unit), unit_name(unit),
                   QString::number(std::round(10 * angle_of(line)) / 10), hand.caught ? hand.word : QString());
      reply.overlay.measure_at = event.at;
    }
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    if (mark_) {
      ToolReply reply;
      if (session.dragging())
        reply.commit = true, reply.name = QObject::tr("Move mark");
      mark_.reset(), start_.reset();
      return reply;
    }
    ToolReply reply = move(session, event, true);
    reply.overlay.measure.clear();
    reply.overlay.caught.reset();
    const std::optional<MeasuredLine> line = std::exchange(reply.overlay.measuring, std::nullopt);
    if (line && distance(line->from, line->to) >= drag_begins_px * event.mm_per_px)
      reply.measured = line;
    else if (const auto across = across_stroke(session.document(), session.evaluator(), event.at))
      reply.measured = across;
    start_.reset();
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = mark_.has_value();
    mark_.reset(), start_.reset();
    return reply;
  }
  ToolReply escape(const Session&) override { return leave(); }
  bool shows_measured() const override { return true; }

private:
  static HandPlace measured_place(const Session& session, const ToolEvent& event, std::optional<Point> from = {}) {
    return caught_place(session, session.document(), event, {.letters = CatchLetters::Yes, .from = from});
  }
  static std::optional<std::size_t> mark_under(const Session& session, const ToolEvent& event) {
    return mark_at(session.document(), event.at, pick_px * event.mm_per_px, session.evaluator());
  }
  ToolReply move_mark(const Session& session, const ToolEvent& event) const {
    ToolReply reply;
    DimensionMark& mark = reply.preview.emplace(document_).marks[*mark_];
    if (const auto at = drawn(document_, mark, session.evaluator()))
      mark.beside = beside_through(*at, event.at);
    reply.overlay.measure =
        QObject::tr("%1 %2 beside").arg(length_text(std::abs(mark.beside), document_.unit), unit_name(document_.unit));
    reply.overlay.measure_at = event.at;
    return reply;
  }

  static double angle_of(const MeasuredLine& line) { // degrees, counter-clockwise from level
    const Vec v = line.to - line.from;
    return degrees(std::atan2(-v.y, v.x));
  }
  Point end_of(const HandPlace& hand, const ToolEvent& event) const {
    if (!event.modifiers.testFlag(Qt::ShiftModifier))
      return hand.at;
    constexpr double step = 45;
    const Vec v = event.at - *start_;
    const Vec along = direction(radians(std::round(degrees(std::atan2(v.y, v.x)) / step) * step));
    return *start_ + dot(v, along) * along;
  }

  std::optional<Point> start_;
  std::optional<std::size_t> mark_; // under the hand
  Document document_;               // when the drag began
};

} // namespace

std::unique_ptr<Tool> make_measure_tool() {
  return std::make_unique<MeasureTool>();
}

} // namespace frelm
