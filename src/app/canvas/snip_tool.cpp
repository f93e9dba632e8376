// Snip: the stretch of a line under the hand, from crossing to crossing, lights up; a click takes it out, a drag takes
// out each that it passes. Ends that meet no other line are marked.
#include "app/canvas/tool.h"

#include "app/style/words.h"
#include "geom/nodes.h"

namespace frelm {
namespace {

class SnipTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    chosen_.clear();
    ToolReply reply;
    if (const auto stretch = stretch_at(session, event)) {
      if (const Said why = why_not_snip(session.document(), *session.line_work(), *stretch); !why.empty())
        reply.refused = words_of(why);
      else
        chosen_.push_back(*stretch);
    }
    light(session, {}, reply);
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    std::optional<ArrangedStretch> stretch = stretch_at(session, event);
    if (stretch && !why_not_snip(session.document(), *session.line_work(), *stretch).empty())
      stretch.reset();
    if (stretch && pressed && std::none_of(chosen_.begin(), chosen_.end(), [&](const ArrangedStretch& s) {
          return s.from == stretch->from && s.to == stretch->to;
        }))
      chosen_.push_back(*stretch);
    light(session, pressed ? std::nullopt : stretch, reply);
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent&) override {
    ToolReply reply;
    const auto work = session.line_work();
    if (work == nullptr || chosen_.empty())
      return reply;
    Result<Document> rest = snipped(session.document(), *work, chosen_);
    chosen_.clear();
    if (rest)
      reply.apply = std::move(*rest), reply.name = QObject::tr("Snip");
    else
      reply.refused = words_of(rest.error());
    return reply;
  }
  ToolReply cancel() override {
    chosen_.clear();
    return {};
  }
  ToolReply escape(const Session&) override { return leave(); }

private:
  static std::optional<ArrangedStretch> stretch_at(const Session& session, const ToolEvent& event) {
    const auto work = session.line_work();
    if (work == nullptr)
      return std::nullopt;
    std::optional<ArrangedStretch> stretch = work->spaces.lines().stretch_at(event.at);
    if (!stretch || owner_of(session.document(), *work, *stretch) == nullptr)
      return std::nullopt;
    const auto near = nearest_on({{stretch->curve}}, event.at);
    return near && near->distance <= pick_px * event.mm_per_px ? stretch : std::nullopt;
  }

  void light(const Session& session, const std::optional<ArrangedStretch>& hovered, ToolReply& reply) const {
    Outline lit;
    for (const ArrangedStretch& s : chosen_)
      lit.contours.push_back(s.curve);
    if (hovered)
      lit.contours.push_back(hovered->curve);
    reply.overlay.lit_lines = std::make_shared<const Outline>(std::move(lit));
    if (const auto work = session.line_work())
      reply.overlay.loose_ends = work->spaces.lines().loose_ends();
  }

  std::vector<ArrangedStretch> chosen_;
};

} // namespace

std::unique_ptr<Tool> make_snip_tool() {
  return std::make_unique<SnipTool>();
}

} // namespace frelm
