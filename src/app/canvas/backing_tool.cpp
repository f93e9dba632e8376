// Backings by hand: a drag inside moves the one that is worked on, or where that does not lie the one in front; at a
// corner it sizes it about the corner across. Pieces are left alone. Arrows move it.
#include "app/canvas/tool.h"

#include "app/style/words.h"

namespace frelm {
namespace {

constexpr std::size_t inside = 4; // else a corner, clockwise from the upper left one

class BackingTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    const Document& document = session.document();
    held_ = handle_at(document, session.backing(), event);
    at_ = session.backing();
    if (!held_) {
      at_ = backing_at(document, event.at);
      if (at_ == document.backings.size()) {
        reply.refused = document.backings.empty() ? QObject::tr("The job has no backing; add a picture first")
                                                  : QObject::tr("No backing lies here");
        return reply;
      }
      held_ = inside;
      reply.backing = at_;
    }
    start_ = document.backings[at_];
    from_ = event.at;
    moved_ = false;
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    const Document& document = session.document();
    if (!pressed || !held_) {
      const auto handle = handle_at(document, session.backing(), event);
      reply.cursor = !handle             ? Qt::ArrowCursor
                     : *handle == inside ? Qt::SizeAllCursor
                                         : (*handle % 2 == 0 ? Qt::SizeFDiagCursor : Qt::SizeBDiagCursor);
      return reply;
    }
    moved_ = moved_ || distance(event.at, from_) >= drag_begins_px * event.mm_per_px;
    if (!moved_ || at_ >= document.backings.size())
      return reply;
    const Backing now = *held_ == inside ? moved(start_, event.at - from_) : sized(event.at);
    const Unit unit = session.document().unit;
    reply.overlay.measure =
        *held_ == inside
            ? QObject::tr("%1, %2 %3")
                  .arg(length_text(bounds_of(now).x0, unit), length_text(bounds_of(now).y0, unit), unit_name(unit))
            : QObject::tr("%1 × %2 %3")
                  .arg(length_text(backing_width(now), unit), length_text(backing_height(now), unit), unit_name(unit));
    reply.overlay.measure_at = event.at;
    reply.preview = with_backing_changed(document, at_, now);
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply = move(session, event, true);
    reply.overlay = {};
    reply.commit = reply.preview.has_value();
    reply.name = held_ == inside ? QObject::tr("Move backing") : QObject::tr("Size backing");
    held_.reset();
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = held_.has_value();
    held_.reset();
    return reply;
  }
  ToolReply escape(const Session&) override { return leave(); }
  bool shows_backing() const override { return true; }
  ToolReply nudge(const Session& session, Vec by) override {
    ToolReply reply;
    const Document& document = session.document();
    if (session.backing() >= document.backings.size())
      return reply;
    reply.apply = with_backing_changed(document, session.backing(), moved(document.backings[session.backing()], by));
    reply.name = QObject::tr("Nudge backing");
    reply.merge_key = "nudge-backing";
    return reply;
  }

private:
  static std::optional<std::size_t> handle_at(const Document& document, std::size_t at, const ToolEvent& event) {
    if (at >= document.backings.size())
      return std::nullopt;
    const std::vector<Point> corners = backing_corners(document.backings[at]);
    for (std::size_t i = 0; i < corners.size(); ++i)
      if (distance(corners[i], event.at) <= pick_px * event.mm_per_px)
        return i;
    return covers(document.backings[at], event.at) ? std::optional(inside) : std::nullopt;
  }
  Backing sized(Point to) const {
    const std::vector<Point> corners = backing_corners(start_);
    const Point fixed = corners[(*held_ + 2) % 4], corner = corners[*held_];
    const Vec across = corner - fixed;
    constexpr double least = 0.01; // of what it was
    return scaled(start_, fixed, std::max(least, dot(to - fixed, across) / dot(across, across)));
  }

  std::optional<std::size_t> held_;
  std::size_t at_ = 0;
  Backing start_;
  Point from_;
  bool moved_ = false;
};

} // namespace

std::unique_ptr<Tool> make_backing_tool() {
  return std::make_unique<BackingTool>();
}

} // namespace frelm
