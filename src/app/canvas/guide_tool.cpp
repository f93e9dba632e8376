// Guide: draws the kind of guide that is chosen in the left column. Round kinds are dragged from their centre outwards,
// frames and ellipses from corner to corner, lines from end to end, arcs by two ends and a pull, freehand as a stroke,
// pen curves node by node; edges and midway circles are taken from what is there.
#include "app/canvas/tool.h"
#include "app/style/words.h"
#include "document/measure.h"
#include "lettering/shape_edit.h"

namespace frelm {
namespace {

constexpr double usual_radius = 100;   // mm, for a click without a drag
constexpr double stroke_step_px = 1.5; // between kept points of a stroke
constexpr double close_px = 8;         // a pen curve closes when its first node is clicked this near

template <class Shape> constexpr std::size_t kind_of() {
  return GuideShape(Shape{}).index();
}

class GuideTool : public Tool {
protected:
  static ToolReply crossed(const std::optional<Point>& caught = {}) {
    ToolReply reply;
    reply.overlay.caught = caught;
    return reply;
  }
  static void add(ToolReply& reply, const Session& session, GuideShape shape) {
    const QString name = core_words(shape_name(shape)).toLower();
    Document document = session.document();
    // Letters that wait for a guide get this one.
    const Piece* waiting = session.selected();
    const auto line = guide_line(shape);
    Piece drawn = new_guide(std::move(shape), session.drawn_use());
    const bool cut = drawn.is_shape();
    Added added = add_piece(std::move(document), std::move(drawn));
    document = reorder_piece(std::move(added.document), added.id, 0);
    if (!cut && waiting != nullptr && waiting->lettering() != nullptr && !waiting->locked &&
        waiting->lettering()->recipe.bend.kind == BendKind::Guide) {
      const auto resolved = line ? line : resolve_guide(document, added.id);
      if (resolved)
        document = edit_piece(std::move(document), waiting->id,
                              [&](Piece& p) { ride_on(*p.lettering(), added.id, **resolved); });
      reply.select = {waiting->id};
    } else {
      reply.select = {added.id};
    }
    reply.apply = std::move(document);
    reply.name = QObject::tr("Add %1").arg(name);
    reply.back_to_select = true;
  }
};

// Dragged between two places.
class DragTool final : public GuideTool {
public:
  explicit DragTool(std::size_t kind) : kind_(kind) {}

  ToolReply press(const Session& session, const ToolEvent& event) override {
    from_ = caught_place(session, session.document(), event).at;
    from_raw_ = event.at;
    pressed_ = true;
    return crossed();
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    const HandPlace place = end_at(session, event);
    ToolReply reply = crossed(place.caught);
    if (!pressed || !pressed_ || distance(event.at, from_raw_) < drag_begins_px * event.mm_per_px)
      return reply;
    const GuideShape shape = shape_at(session, event, place);
    reply.overlay.ghost = shape;
    reply.overlay.measure_at = event.at;
    const Unit unit = session.document().unit;
    const auto* ribbon = std::get_if<RibbonGuide>(&shape);
    const GuideShape straight = ribbon != nullptr ? ribbon_line(*ribbon) : shape;
    if (const auto* line = std::get_if<LineGuide>(&straight)) {
      reply.overlay.measure =
          QObject::tr("length %1 %2").arg(length_text(distance(line->from, line->to), unit), unit_name(unit));
    } else {
      const std::vector<ShapeMeasure> m = shape_measures(shape);
      const bool corner_to_corner = std::holds_alternative<FrameGuide>(shape) ||
                                    std::holds_alternative<HeartGuide>(shape) ||
                                    std::holds_alternative<PlateGuide>(shape);
      const std::size_t first = std::holds_alternative<PolygonGuide>(shape) ||
                                        std::holds_alternative<StarGuide>(shape) ||
                                        std::holds_alternative<BandGuide>(shape)
                                    ? 1
                                    : 0;
      reply.overlay.measure =
          corner_to_corner || std::holds_alternative<EllipseGuide>(shape)
              ? QString("%1 × %2 %3")
                    .arg(length_text(m[0].value * (corner_to_corner ? 1 : 2), unit),
                         length_text(m[1].value * (corner_to_corner ? 1 : 2), unit), unit_name(unit))
              : QObject::tr("radius %1 %2")
                    .arg(length_text(std::holds_alternative<SpiralGuide>(shape) ? std::get<SpiralGuide>(shape).outer()
                                                                                : m[first].value,
                                     unit),
                         unit_name(unit));
    }
    reply.overlay.measure += place.word;
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    if (!pressed_)
      return reply;
    const HandPlace place = end_at(session, event);
    pressed_ = false;
    const bool clicked = distance(event.at, from_raw_) < drag_begins_px * event.mm_per_px;
    if (!clicked)
      add(reply, session, shape_at(session, event, place));
    else if (const auto line = line_at(session, event); line && kind_ == kind_of<RibbonGuide>())
      add(reply, session, along(*line));
    else if (const auto usual = usual_shape(kind_, from_, usual_radius))
      add(reply, session, *usual);
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = !pressed_;
    pressed_ = false;
    return reply;
  }

private:
  // The end of a line is caught where it touches what it comes to, or stands square to it.
  HandPlace end_at(const Session& session, const ToolEvent& event) const {
    const bool straight = kind_ == kind_of<LineGuide>() || kind_ == kind_of<RibbonGuide>();
    return caught_place(session, session.document(), event,
                        {.from = pressed_ && straight ? std::optional(from_) : std::nullopt});
  }
  static std::optional<GuideShape> line_at(const Session& session, const ToolEvent& event) {
    const PieceId id = piece_at(session, event.at, pick_px * event.mm_per_px);
    const Piece* piece = session.document().find(id);
    if (piece == nullptr || piece->lettering() != nullptr)
      return std::nullopt;
    const Result<GuideShape> own = own_shape(session.document(), id);
    return own ? std::optional(*own) : std::nullopt;
  }
  // A ribbon as wide as suits the line's length.
  static GuideShape along(const GuideShape& line) {
    const auto laid = guide_line(line);
    const double length = laid ? (*laid)->curve->length() : usual_radius;
    const GuideShape usual = drawn_shape(kind_of<RibbonGuide>(), {}, {length, 0});
    const Result<RibbonGuide> ribbon = along_line(std::get<RibbonGuide>(usual), line);
    return ribbon ? GuideShape(*ribbon) : usual;
  }
  // Half millimetres for radii, unless Ctrl asks for every place or something was caught; Shift: lines in steps of 15°,
  // frames, plates and ellipses as squares and circles.
  GuideShape shape_at(const Session&, const ToolEvent& event, const HandPlace& place) const {
    Point to = place.at;
    Vec d = to - from_;
    if (event.modifiers.testFlag(Qt::ShiftModifier)) {
      if (kind_ == kind_of<LineGuide>() || kind_ == kind_of<RibbonGuide>()) {
        const double step = pi / 12, a = std::round(std::atan2(d.y, d.x) / step) * step;
        to = from_ + direction(a) * length(d);
      } else if (kind_ == kind_of<FrameGuide>() || kind_ == kind_of<EllipseGuide>() || kind_ == kind_of<PlateGuide>()) {
        const double side = std::max(std::abs(d.x), std::abs(d.y));
        to = from_ + Vec{d.x < 0 ? -side : side, d.y < 0 ? -side : side};
      }
    }
    GuideShape shape = drawn_shape(kind_, from_, to);
    if (!place.caught && !event.modifiers.testFlag(Qt::ControlModifier))
      if (auto* circle = std::get_if<CircleGuide>(&shape))
        circle->radius = std::max(0.5, std::round(circle->radius * 2) / 2);
    return shape;
  }
  std::size_t kind_;
  Point from_, from_raw_;
  bool pressed_ = false;
};

// Two ends, then a pull: the arc goes through the hand.
class ArcTool final : public GuideTool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    const HandPlace place = caught_place(session, session.document(), event);
    ToolReply reply = crossed(place.caught);
    pressed_at_ = event.at;
    if (ends_.size() < 2) {
      ends_.push_back(place.at);
      return reply;
    }
    if (const auto arc = arc_through(ends_[0], place.at, ends_[1])) {
      add(reply, session, *arc);
      ends_.clear();
    }
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    const HandPlace place = caught_place(session, session.document(), event);
    ToolReply reply = crossed(place.caught);
    reply.overlay.measure_at = event.at;
    const Unit unit = session.document().unit;
    if (ends_.size() == 1 && distance(place.at, ends_[0]) > 0.1) {
      reply.overlay.ghost = LineGuide{ends_[0], place.at};
      reply.overlay.measure = QObject::tr("chord %1 %2%3")
                                  .arg(length_text(distance(ends_[0], place.at), unit), unit_name(unit), place.word);
    } else if (ends_.size() == 2 && !pressed) {
      if (const auto arc = arc_through(ends_[0], place.at, ends_[1])) {
        reply.overlay.ghost = *arc;
        reply.overlay.measure = QObject::tr("radius %1 %2   sweep %3°")
                                    .arg(length_text(arc->radius, unit), unit_name(unit))
                                    .arg(std::abs(arc->sweep), 0, 'f', 1) +
                                place.word;
      }
    }
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply = crossed();
    if (ends_.size() == 1 && distance(event.at, pressed_at_) > drag_begins_px * event.mm_per_px) {
      ends_.push_back(caught_place(session, session.document(), event).at);
      if (distance(ends_[0], ends_[1]) < 0.5)
        ends_.pop_back();
    }
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = ends_.empty();
    ends_.clear();
    return reply;
  }

private:
  std::vector<Point> ends_;
  Point pressed_at_;
};

class FreehandTool final : public GuideTool {
public:
  ToolReply press(const Session&, const ToolEvent& event) override {
    points_ = {event.at};
    return crossed();
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply = crossed();
    if (!pressed || points_.empty())
      return reply;
    if (distance(points_.back(), event.at) > stroke_step_px * event.mm_per_px)
      points_.push_back(event.at);
    reply.overlay.stroke = points_;
    double length = 0;
    for (std::size_t i = 1; i < points_.size(); ++i)
      length += distance(points_[i - 1], points_[i]);
    const Unit unit = session.document().unit;
    reply.overlay.measure = QObject::tr("length %1 %2").arg(length_text(length, unit, 1), unit_name(unit));
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply = crossed();
    if (points_.size() >= 3 && distance(points_.front(), points_.back()) > 0) {
      FreehandGuide stroke;
      stroke.points = std::move(points_);
      // A stroke that comes back to its beginning is a ring.
      stroke.closed =
          distance(stroke.points.front(), event.at) < 2 * close_px * event.mm_per_px && stroke.points.size() > 12;
      add(reply, session, std::move(stroke));
    }
    points_.clear();
    return reply;
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = points_.empty();
    points_.clear();
    return reply;
  }

private:
  std::vector<Point> points_;
};

// Node by node: a click makes a corner, a drag a smooth node; the first node closes, a double click or Return ends.
class PenTool final : public GuideTool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    if (event.twice)
      return end(session, false);
    const HandPlace place = caught_place(session, session.document(), event);
    if (nodes_.size() > 2 && distance(event.at, nodes_.front().at) < close_px * event.mm_per_px)
      return end(session, true);
    nodes_.push_back({place.at, {}});
    return draw(session, event, place);
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    const HandPlace place = caught_place(session, session.document(), event);
    if (pressed && !nodes_.empty() && distance(event.at, nodes_.back().at) > drag_begins_px * event.mm_per_px)
      nodes_.back().handle = event.at - nodes_.back().at;
    return draw(session, event, place);
  }
  ToolReply release(const Session& session, const ToolEvent& event) override {
    return draw(session, event, {event.at, {}, {}});
  }
  std::optional<ToolReply> finish(const Session& session) override {
    if (nodes_.size() < 2)
      return std::nullopt;
    return end(session, false);
  }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = nodes_.empty();
    nodes_.clear();
    return reply;
  }

private:
  struct Node {
    Point at;
    Vec handle; // to the next node; its mirror goes to the one before
  };
  static Segment between(const Node& a, const Node& b) {
    if (a.handle == Vec{} && b.handle == Vec{})
      return Segment::line(a.at, b.at);
    return Segment::cubic(a.at, a.handle == Vec{} ? lerp(a.at, b.at, 1.0 / 3) : a.at + a.handle,
                          b.handle == Vec{} ? lerp(a.at, b.at, 2.0 / 3) : b.at - b.handle, b.at);
  }
  Contour contour(std::optional<Node> next, bool closed) const {
    Contour c;
    c.closed = closed;
    for (std::size_t i = 1; i < nodes_.size(); ++i)
      c.segments.push_back(between(nodes_[i - 1], nodes_[i]));
    if (next && !nodes_.empty())
      c.segments.push_back(between(nodes_.back(), *next));
    if (closed)
      c.segments.push_back(between(nodes_.back(), nodes_.front()));
    return c;
  }
  ToolReply draw(const Session& session, const ToolEvent& event, const HandPlace& place) const {
    ToolReply reply = crossed(place.caught);
    if (nodes_.empty())
      return reply;
    const bool pulling = nodes_.back().handle != Vec{};
    Contour c = contour(pulling && nodes_.size() > 1 ? std::nullopt : std::optional<Node>({place.at, {}}), false);
    if (c.bounds().width() + c.bounds().height() > 0)
      reply.overlay.ghost = PathGuide{c};
    const Unit unit = session.document().unit;
    reply.overlay.measure =
        QObject::tr("length %1 %2").arg(length_text(c.length(), unit, 1), unit_name(unit)) + place.word;
    reply.overlay.measure_at = event.at;
    return reply;
  }
  ToolReply end(const Session& session, bool closed) {
    ToolReply reply = crossed();
    // A double click's second press came after its first had set a node there.
    if (nodes_.size() > 1)
      add(reply, session, PathGuide{contour({}, closed)});
    nodes_.clear();
    return reply;
  }
  std::vector<Node> nodes_;
};

// Edges show under the hand; a click makes a guide that follows the one shown.
class EdgeTool final : public GuideTool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply = crossed();
    if (const auto edge = edge_at(session, event))
      add(reply, session, edge->guide);
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool) override {
    ToolReply reply = crossed();
    if (const auto edge = edge_at(session, event)) {
      reply.overlay.edge = std::make_shared<const Curve>(edge->curve);
      const Unit unit = session.document().unit;
      reply.overlay.measure = QString("%1, %2 %3")
                                  .arg(edge->guide.corner ? QObject::tr("edge") : QObject::tr("whole line"),
                                       length_text(edge->curve.length(), unit, 1), unit_name(unit));
      reply.overlay.measure_at = event.at;
    }
    return reply;
  }
  ToolReply release(const Session&, const ToolEvent&) override { return crossed(); }
  ToolReply cancel() override { return leave(); }

private:
  static std::optional<OutlineEdge> edge_at(const Session& session, const ToolEvent& event) {
    std::optional<OutlineEdge> best;
    double nearest = 2 * pick_px * event.mm_per_px;
    for (const auto& piece : session.document().pieces) {
      const OutlinePiece* o = piece->outline();
      if (o == nullptr || !piece->visible || !o->outline->bounds().grown(nearest).contains(event.at))
        continue;
      const auto near = nearest_on(*o->outline, event.at);
      if (!near || near->distance > nearest)
        continue;
      for (OutlineEdge& edge : edges_of(piece->id, *o->outline))
        if (edge.guide.contour == near->contour)
          if (const double d = distance(edge.curve.at(edge.curve.nearest(event.at)).point, event.at); d < nearest)
            best = std::move(edge), nearest = d;
    }
    return best;
  }
};

// One circle, then another around or within it.
class MidwayTool final : public GuideTool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply = crossed();
    const PieceId id = circle_at(session, event);
    if (id == 0)
      return reply;
    if (first_ == 0 || first_ == id) {
      first_ = id;
      return reply;
    }
    add(reply, session, MidwayGuide{first_, id, 2});
    first_ = 0;
    return reply;
  }
  ToolReply move(const Session& session, const ToolEvent& event, bool) override {
    ToolReply reply = crossed();
    reply.overlay.measure =
        first_ == 0 ? QObject::tr("click the first circle") : QObject::tr("click the second circle");
    reply.overlay.measure_at = event.at;
    if (const PieceId id = circle_at(session, event); id != 0)
      if (const auto line = resolve_guide(session.document(), id))
        reply.overlay.edge = (*line)->curve;
    return reply;
  }
  ToolReply release(const Session&, const ToolEvent&) override { return crossed(); }
  ToolReply cancel() override {
    ToolReply reply;
    reply.back_to_select = first_ == 0;
    first_ = 0;
    return reply;
  }

private:
  static PieceId circle_at(const Session& session, const ToolEvent& event) {
    PieceId best = 0;
    double nearest = 2 * pick_px * event.mm_per_px;
    for (const auto& piece : session.document().pieces)
      if (const auto c = circle_of(*piece); c && piece->visible)
        if (const double d = std::abs(distance(event.at, c->centre) - c->radius); d < nearest)
          best = piece->id, nearest = d;
    return best;
  }
  PieceId first_ = 0;
};

} // namespace

std::unique_ptr<Tool> make_guide_tool(std::size_t kind) {
  if (kind == kind_of<ArcGuide>())
    return std::make_unique<ArcTool>();
  if (kind == kind_of<FreehandGuide>())
    return std::make_unique<FreehandTool>();
  if (kind == kind_of<PathGuide>())
    return std::make_unique<PenTool>();
  if (kind == kind_of<OutlineGuide>())
    return std::make_unique<EdgeTool>();
  if (kind == kind_of<MidwayGuide>())
    return std::make_unique<MidwayTool>();
  return std::make_unique<DragTool>(kind);
}

} // namespace frelm
