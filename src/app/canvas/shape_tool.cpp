// Shape: a click takes a closed line, or the space that several lines enclose, as the shape for the selected lettering
// to fill. A space that no single line bounds becomes a guide of its own.
#include "app/canvas/tool.h"

#include "document/blocks.h"
#include "geom/arrangement.h"

namespace frelm {
namespace {

constexpr double same_area = 0.002; // share: a space that is just what one line encloses

class ShapeTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    const Piece* lettering = session.selected();
    if (lettering == nullptr || lettering->lettering() == nullptr) {
      reply.back_to_select = true;
      return reply;
    }
    const std::optional<Contour> space = space_at(session, event.at);
    if (!space) {
      reply.overlay.measure = QObject::tr("no closed line around this place");
      reply.overlay.measure_at = event.at;
      return reply;
    }
    Document document = session.document();
    PieceId shape = bounded_by(session, *space);
    if (shape == 0) {
      Added added = add_piece(std::move(document), new_guide(PathGuide{*space}));
      document = reorder_piece(std::move(added.document), added.id, 0);
      document =
          edit_piece(std::move(document), added.id, [](Piece& p) { p.name = QObject::tr("Space").toStdString(); });
      shape = added.id;
    }
    reply.apply = fill_into(document, lettering->id, shape);
    reply.name = QObject::tr("Fill a shape");
    reply.back_to_select = true;
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool) override {
    ToolReply reply;
    reply.overlay.measure = QObject::tr("click the shape to fill");
    reply.overlay.measure_at = event.at;
    if (const std::optional<Contour> space = space_at(session, event.at))
      reply.overlay.edge = std::make_shared<const Curve>(Curve({space->segments.begin(), space->segments.end()}, true));
    return reply;
  }
  ToolReply release(const Session&, const ToolEvent&) override { return {}; }
  ToolReply cancel() override { return leave(); }

private:
  // Lines that can bound a space: guides, drawn outlines; not the letters.
  static std::vector<std::pair<PieceId, Outline>> lines_of(const Session& session) {
    std::vector<std::pair<PieceId, Outline>> out;
    for (const auto& p : session.document().pieces)
      if (p->visible && p->lettering() == nullptr)
        if (const Result<PieceResult>& now = session.seated(p->id); now && now->outline != nullptr)
          out.emplace_back(p->id, *now->outline);
    return out;
  }

  // The lines are arranged once for each state of the document.
  std::optional<Contour> space_at(const Session& session, Point at) {
    if (!arranged_ || revision_ != session.revision()) {
      std::vector<Outline> outlines;
      for (auto& [id, outline] : lines_of(session))
        outlines.push_back(std::move(outline));
      Result<Arrangement> made = Arrangement::build(outlines);
      arranged_ = made ? std::optional(std::move(*made)) : std::nullopt;
      revision_ = session.revision();
    }
    if (!arranged_)
      return std::nullopt;
    const std::optional<Outline> face = arranged_->face_at(at);
    if (!face || face->contours.empty())
      return std::nullopt;
    return face->contours.front();
  }

  static PieceId bounded_by(const Session& session, const Contour& space) {
    const Box box = space.bounds();
    const double area = std::abs(space.area()), near = 1e-3 * std::max(box.width(), box.height());
    for (const auto& [id, outline] : lines_of(session)) {
      const Contour* only = outline.contours.size() == 1 ? &outline.contours.front() : nullptr;
      if (only == nullptr || !only->closed || std::abs(std::abs(only->area()) - area) > same_area * area)
        continue;
      const Box b = only->bounds();
      if (std::abs(b.x0 - box.x0) < near && std::abs(b.x1 - box.x1) < near && std::abs(b.y0 - box.y0) < near &&
          std::abs(b.y1 - box.y1) < near)
        return id;
    }
    return 0;
  }

  std::optional<Arrangement> arranged_;
  std::uint64_t revision_ = 0;
};

} // namespace

std::unique_ptr<Tool> make_shape_tool() {
  return std::make_unique<ShapeTool>();
}

} // namespace frelm
