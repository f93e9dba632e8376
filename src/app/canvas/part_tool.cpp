// A box is dragged on the sheet: the part of the backing that is to be traced. Then back to Select.
#include "app/canvas/tool.h"

namespace frelm {
namespace {

class PartTool final : public Tool {
public:
  ToolReply press(const Session&, const ToolEvent& event) override {
    from_ = event.at;
    return {};
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    if (!pressed || !from_)
      return reply;
    const Box box = box_to(event.at);
    const Unit unit = session.document().unit;
    reply.overlay.rubber = box;
    reply.overlay.measure =
        QObject::tr("%1 × %2 %3").arg(length_text(box.width(), unit), length_text(box.height(), unit), unit_name(unit));
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply release(const Session&, const ToolEvent& event) override {
    ToolReply reply;
    if (from_ && distance(*from_, event.at) >= drag_begins_px * event.mm_per_px) {
      reply.part = box_to(event.at);
      reply.back_to_select = true;
    }
    from_.reset();
    return reply;
  }
  ToolReply cancel() override {
    from_.reset();
    return {};
  }
  ToolReply escape(const Session&) override { return leave(); }

private:
  Box box_to(Point to) const {
    Box out;
    out.add(*from_), out.add(to);
    return out;
  }

  std::optional<Point> from_;
};

} // namespace

std::unique_ptr<Tool> make_part_tool() {
  return std::make_unique<PartTool>();
}

} // namespace frelm
