// Take space: the space that lines, letters and the sheet's edges enclose around the hand lights up; a click makes it a
// piece, a drag one piece of all that it passes. With Shift it is added to the piece just made. Openings that are
// bridged show as lines.
#include "app/canvas/tool.h"

#include "app/style/words.h"

namespace frelm {
namespace {

class SpaceTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    taken_.clear();
    return move(session, event, true);
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    const auto space = space_at(session, event.at);
    if (space != nullptr && pressed && std::find(taken_.begin(), taken_.end(), space) == taken_.end() &&
        std::none_of(taken_.begin(), taken_.end(), [&](const auto& t) { return *t == *space; }))
      taken_.push_back(space);
    Outline lit;
    for (const auto& t : taken_)
      lit.append(*t);
    if (space != nullptr && !pressed)
      lit.append(*space);
    reply.overlay.lit_area = std::make_shared<const Outline>(std::move(lit));
    if (const auto work = session.line_work())
      reply.overlay.bridges = work->spaces.bridges();
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    std::vector<Outline> spaces;
    for (const auto& t : taken_)
      spaces.push_back(*t);
    taken_.clear();
    if (spaces.empty()) {
      if (session.line_work() != nullptr)
        reply.refused = QObject::tr("No lines enclose this place");
      return reply;
    }
    const bool more = event.modifiers.testFlag(Qt::ShiftModifier);
    Result<SpaceTaken> made = take_space(session.document(), spaces, more ? made_ : 0);
    if (!made) {
      reply.refused = words_of(made.error());
      return reply;
    }
    made_ = made->piece;
    reply.apply = std::move(made->document);
    reply.name = QObject::tr("Take space");
    reply.select = std::vector{made_};
    return reply;
  }
  ToolReply cancel() override {
    taken_.clear();
    return {};
  }
  ToolReply escape(const Session&) override { return leave(); }

private:
  // Kept while the hand stays in it: a sheet full of letters takes a moment to look through.
  std::shared_ptr<const Outline> space_at(const Session& session, Point at) {
    const auto work = session.line_work();
    if (work == nullptr)
      return nullptr;
    if (work == of_ && last_ != nullptr && winding_number(*last_, at) != 0)
      return last_;
    of_ = work;
    std::optional<Outline> space = work->spaces.at(at);
    return last_ = space ? std::make_shared<const Outline>(std::move(*space)) : nullptr;
  }

  std::vector<std::shared_ptr<const Outline>> taken_;
  std::shared_ptr<const LineWork> of_;
  std::shared_ptr<const Outline> last_;
  PieceId made_ = 0; // by the click before
};

} // namespace

std::unique_ptr<Tool> make_space_tool() {
  return std::make_unique<SpaceTool>();
}

} // namespace frelm
