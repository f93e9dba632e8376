// A ruler line under the hand: drawn out of a ruler, or moved where it stands; nodes, corners, centres and edges catch
// it, Ctrl lets go of them. Back on the ruler it goes.
#include "app/canvas/tool.h"

#include "document/catching.h"
#include "document/ruler_lines.h"

namespace frelm {
namespace {

class RulerLineTool final : public Tool {
public:
  explicit RulerLineTool(RulerLineDrag drag) : drag_(drag) {}

  ToolReply press(const Session& session, const ToolEvent&) override {
    start_ = session.document();
    moved_ = false;
    return {};
  }

  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    reply.cursor = cursor();
    if (!pressed)
      return reply;
    moved_ = true;
    RulerLine line = old() ? *old() : RulerLine{{}, drag_.upright ? 90.0 : 0.0, false};
    if (event.on_ruler) {
      reply.preview = old() ? without_ruler_line(start_, *drag_.at) : start_;
      reply.overlay.measure = old() ? QObject::tr("the line goes") : QString();
      reply.overlay.measure_at = event.at;
      return reply;
    }
    Document rest = old() ? without_ruler_line(start_, *drag_.at) : start_;
    const HandPlace hand = caught_place(session, rest, event);
    line.at = hand.at;
    reply.overlay.caught = hand.caught;
    reply.overlay.measure = ruler_line_words(line, start_.unit) + hand.word;
    reply.overlay.measure_at = event.at;
    reply.preview = old() ? with_ruler_line(start_, *drag_.at, line) : add_ruler_line(std::move(rest), line);
    return reply;
  }

  ToolReply release(const Session& session, const ToolEvent& event) override {
    if (!moved_)
      return {};
    ToolReply reply = move(session, event, true);
    reply.overlay = {};
    moved_ = false;
    const bool same = reply.preview && *reply.preview == start_;
    reply.commit = !same, reply.cancel = same;
    if (same)
      reply.preview.reset();
    reply.name = !old()           ? QObject::tr("Add ruler line")
                 : event.on_ruler ? QObject::tr("Remove ruler line")
                                  : QObject::tr("Move ruler line");
    return reply;
  }

  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = std::exchange(moved_, false);
    return reply;
  }

private:
  const RulerLine* old() const {
    return drag_.at && *drag_.at < start_.ruler_lines.size() ? &start_.ruler_lines[*drag_.at] : nullptr;
  }
  Qt::CursorShape cursor() const {
    const bool upright = old() ? upright_at(*old()).has_value() : drag_.upright;
    return upright ? Qt::SplitHCursor : old() && !level_at(*old()) ? Qt::SizeAllCursor : Qt::SplitVCursor;
  }

  RulerLineDrag drag_;
  Document start_;
  bool moved_ = false;
};

} // namespace

QString ruler_line_words(const RulerLine& line, Unit unit) {
  const QString name = unit_name(unit);
  if (const auto x = upright_at(line))
    return QObject::tr("upright at %1 %2").arg(length_text(*x, unit), name);
  if (const auto y = level_at(line))
    return QObject::tr("level at %1 %2").arg(length_text(*y, unit), name);
  return QObject::tr("%1° through %2, %3 %4")
      .arg(QString::number(std::round(100 * line.angle) / 100), length_text(line.at.x, unit),
           length_text(line.at.y, unit), name);
}

std::unique_ptr<Tool> make_ruler_line_tool(const RulerLineDrag& drag) {
  return std::make_unique<RulerLineTool>(drag);
}

} // namespace frelm
