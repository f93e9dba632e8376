// Nodes: picks nodes of the selected guide or outline, moves them and their handles; a double click on a line adds a
// node, an end dragged onto another end joins.
#include "app/canvas/tool.h"
#include "document/measure.h"
#include "document/outline_edits.h"

namespace frelm {
namespace {

class NodesTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    from_ = event.at;
    moved_ = false;
    drag_ = Drag::None;
    start_ = session.document();
    const Result<Outline> nodes = nodes_now(session);
    const double reach = (pick_px + 2) * event.mm_per_px;
    if (nodes) {
      outline_ = *nodes;
      if (const auto handle = handle_at(session, *nodes, event.at, reach)) {
        grabbed_ = handle->first, side_ = handle->second;
        drag_ = Drag::Handle;
        return reply;
      }
      if (const auto node = node_at(*nodes, event.at, reach)) {
        std::vector<NodeAt> chosen = session.nodes_chosen();
        const auto had = std::find(chosen.begin(), chosen.end(), *node);
        if (event.modifiers.testFlag(Qt::ShiftModifier)) {
          if (had != chosen.end())
            chosen.erase(had);
          else
            chosen.push_back(*node);
        } else if (had == chosen.end()) {
          chosen = {*node};
        }
        grabbed_ = *node;
        reply.nodes = chosen;
        drag_ = Drag::Node;
        return reply;
      }
      if (const auto near = nearest_on(*nodes, event.at); near && near->distance < reach) {
        if (event.twice && near->t > 0 && near->t < 1) {
          reply.apply = edit_nodes(session.document(), session.selected()->id, [&](Outline o) {
            return add_node(std::move(o), near->contour, near->segment, near->t);
          });
          reply.name = QObject::tr("Add node");
          reply.nodes = std::vector<NodeAt>{{near->contour, near->segment + 1}};
        } else {
          reply.nodes = std::vector<NodeAt>{};
        }
        return reply;
      }
    }
    const PieceId id = piece_at(session, event.at, pick_px * event.mm_per_px);
    if (id != 0 && session.document().find(id)->lettering() == nullptr &&
        (session.selected() == nullptr || session.selected()->id != id)) {
      reply.select = std::vector<PieceId>{id};
      return reply;
    }
    drag_ = Drag::Rubber;
    if (!event.modifiers.testFlag(Qt::ShiftModifier))
      reply.nodes = std::vector<NodeAt>{};
    return reply;
  }

  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    ToolReply reply;
    if (!pressed || drag_ == Drag::None) {
      const Result<Outline> nodes = nodes_now(session);
      const double reach = (pick_px + 2) * event.mm_per_px;
      if (nodes && (node_at(*nodes, event.at, reach) || handle_at(session, *nodes, event.at, reach)))
        reply.cursor = Qt::OpenHandCursor;
      return reply;
    }
    if (!moved_ && distance(event.at, from_) < drag_begins_px * event.mm_per_px)
      return reply;
    moved_ = true;
    reply.overlay.measure_at = event.at;
    if (drag_ == Drag::Rubber) {
      Box box;
      box.add(from_), box.add(event.at);
      reply.overlay.rubber = box;
      return reply;
    }
    const Piece* held = session.selected();
    if (held == nullptr)
      return reply;
    const PieceId id = held->id;
    const Unit unit = start_.unit;
    if (drag_ == Drag::Handle) {
      reply.preview =
          edit_nodes(start_, id, [&](Outline o) { return move_handle(std::move(o), grabbed_, side_, event.at); });
      name_ = QObject::tr("Move handle");
      const Point node = node_point(outline_.contours[grabbed_.contour], grabbed_.node);
      reply.overlay.measure =
          QObject::tr("handle %1 %2").arg(length_text(distance(node, event.at), unit), unit_name(unit));
      return reply;
    }
    const Point was = node_point(outline_.contours[grabbed_.contour], grabbed_.node);
    ToolEvent hand = event;
    hand.at = was + (event.at - from_);
    if (event.modifiers.testFlag(Qt::ShiftModifier)) {
      const Vec by = hand.at - was;
      hand.at = was + (std::abs(by.x) > std::abs(by.y) ? Vec{by.x, 0} : Vec{0, by.y});
    }
    std::vector<PieceId> except{id};
    for (const PieceId follower : followers_of(start_, id))
      except.push_back(follower);
    HandPlace place = caught_place(session, start_, hand, {.except = except});
    join_ = end_near(hand.at, (pick_px + 2) * event.mm_per_px);
    if (join_) {
      place.at = node_point(outline_.contours[join_->contour], join_->node);
      place.caught = place.at;
      place.word = QObject::tr(" · joins");
    }
    reply.preview = edit_nodes(
        start_, id, [&](Outline o) { return move_nodes(std::move(o), session.nodes_chosen(), place.at - was); });
    name_ = QObject::tr("Move nodes");
    reply.overlay.caught = place.caught;
    reply.overlay.measure =
        QString("x %1   y %2 %3%4")
            .arg(length_text(place.at.x, unit), length_text(place.at.y, unit), unit_name(unit), place.word);
    return reply;
  }

  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    if (moved_ && drag_ == Drag::Rubber) {
      Box box;
      box.add(from_), box.add(event.at);
      std::vector<NodeAt> chosen = session.nodes_chosen();
      for (std::size_t c = 0; c < outline_.contours.size(); ++c)
        for (std::size_t i = 0; i < node_count(outline_.contours[c]); ++i)
          if (box.contains(node_point(outline_.contours[c], i)))
            chosen.push_back({c, i});
      reply.nodes = std::move(chosen);
    } else if (moved_ && join_ && session.dragging() && session.selected() != nullptr) {
      const PieceId id = session.selected()->id;
      const NodeAt a = grabbed_, b = *join_;
      reply.cancel = true;
      reply.apply = edit_nodes(start_, id, [&](Outline o) {
        // The dragged end comes to the other one, which stays.
        const Vec by = node_point(o.contours[b.contour], b.node) - node_point(o.contours[a.contour], a.node);
        o = move_nodes(std::move(o), {a}, by);
        return join_ends(std::move(o), a, b);
      });
      reply.nodes = std::vector<NodeAt>{};
      reply.name = QObject::tr("Join ends");
    } else if (moved_ && session.dragging()) {
      reply.commit = true;
      reply.name = name_;
    }
    drag_ = Drag::None;
    moved_ = false;
    join_.reset();
    return reply;
  }

  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = moved_;
    reply.back_to_select = drag_ == Drag::None;
    drag_ = Drag::None;
    moved_ = false;
    return reply;
  }

  bool shows_nodes() const override { return true; }

  ToolReply nudge(const Session& session, Vec by) override {
    if (session.nodes_chosen().empty() || session.selected() == nullptr)
      return Tool::nudge(session, by);
    ToolReply reply;
    reply.apply = edit_nodes(session.document(), session.selected()->id,
                             [&](Outline o) { return move_nodes(std::move(o), session.nodes_chosen(), by); });
    reply.name = QObject::tr("Nudge nodes");
    reply.merge_key = "nudge nodes";
    return reply;
  }

private:
  enum class Drag { None, Node, Handle, Rubber };

  static Result<Outline> nodes_now(const Session& session) {
    const Piece* piece = session.selected();
    if (piece == nullptr || piece->locked)
      return bad_input(FRELM_WORDS("core", "nothing to edit"));
    return nodes_of(session.shown(), piece->id);
  }
  static std::optional<NodeAt> node_at(const Outline& o, Point at, double reach) {
    std::optional<NodeAt> best;
    for (std::size_t c = 0; c < o.contours.size(); ++c)
      for (std::size_t i = 0; i < node_count(o.contours[c]); ++i)
        if (const double d = distance(node_point(o.contours[c], i), at); d < reach)
          best = NodeAt{c, i}, reach = d;
    return best;
  }
  static std::optional<std::pair<NodeAt, HandleSide>> handle_at(const Session& session, const Outline& o, Point at,
                                                                double reach) {
    std::optional<std::pair<NodeAt, HandleSide>> best;
    for (const NodeAt n : session.nodes_chosen()) {
      if (n.contour >= o.contours.size() || n.node >= node_count(o.contours[n.contour]))
        continue;
      // A node is grabbed before its handles where they lie close together.
      if (distance(node_point(o.contours[n.contour], n.node), at) < reach / 2)
        return std::nullopt;
      for (const HandleSide side : {HandleSide::In, HandleSide::Out})
        if (const auto h = node_handle(o.contours[n.contour], n.node, side); h && distance(*h, at) < reach)
          best = {n, side}, reach = distance(*h, at);
    }
    return best;
  }
  // Another open end near a place, when a single end is dragged.
  std::optional<NodeAt> end_near(Point at, double reach) const {
    const auto is_end = [&](NodeAt n) { return node_kind(outline_.contours[n.contour], n.node) == NodeKind::End; };
    if (!is_end(grabbed_))
      return std::nullopt;
    for (std::size_t c = 0; c < outline_.contours.size(); ++c)
      for (std::size_t i = 0; i < node_count(outline_.contours[c]); ++i)
        if (const NodeAt n{c, i};
            n != grabbed_ && is_end(n) && distance(node_point(outline_.contours[c], i), at) < reach)
          return n;
    return std::nullopt;
  }

  Drag drag_ = Drag::None;
  bool moved_ = false;
  Point from_;
  Document start_;
  Outline outline_;
  NodeAt grabbed_;
  HandleSide side_ = HandleSide::Out;
  std::optional<NodeAt> join_;
  QString name_;
};

} // namespace

std::unique_ptr<Tool> make_nodes_tool() {
  return std::make_unique<NodesTool>();
}

} // namespace frelm
