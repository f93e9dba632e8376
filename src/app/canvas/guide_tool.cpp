// Guide: drag from the centre outwards to draw a circle; a click alone makes one of the usual size.
#include "app/canvas/tool.h"
#include "document/measure.h"

namespace frelm {
namespace {

constexpr double usual_radius = 100; // mm
constexpr double least_radius = 1;

class GuideTool final : public Tool {
public:
  ToolReply press(const Session&, const ToolEvent& event) override {
    centre_ = event.at;
    pressed_ = true;
    return crossed();
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply = crossed();
    if (!pressed || !pressed_)
      return reply;
    const double r = radius(event);
    if (r < least_radius)
      return reply;
    reply.overlay.ghost = CircleGuide{centre_, r, 0};
    reply.overlay.measure =
        "radius " + length_text(r, session.document().unit) + " " + unit_name(session.document().unit);
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    if (!pressed_)
      return reply;
    pressed_ = false;
    const double r = radius(event);
    Added added = add_piece(session.document(), new_circle(centre_, r < least_radius ? usual_radius : r));
    reply.apply = std::move(added.document);
    reply.select = {added.id};
    reply.name = "Add circle";
    reply.back_to_select = true;
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = !pressed_;
    pressed_ = false;
    return reply;
  }

private:
  static ToolReply crossed() {
    ToolReply reply;
    reply.cursor = Qt::CrossCursor;
    return reply;
  }
  // Half millimetres, unless Ctrl asks for every place.
  double radius(const ToolEvent& event) const {
    const double r = distance(event.at, centre_);
    return event.modifiers.testFlag(Qt::ControlModifier) ? r : std::round(r * 2) / 2;
  }
  Point centre_;
  bool pressed_ = false;
};

} // namespace

std::unique_ptr<Tool> make_guide_tool() {
  return std::make_unique<GuideTool>();
}

} // namespace frelm
