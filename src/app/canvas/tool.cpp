// What tools do alike.
#include "app/canvas/tool.h"
#include "document/arrange.h"

#include <QObject>

namespace frelm {

ToolReply Tool::nudge(const Session& session, Vec by) {
  ToolReply reply;
  if (session.selection().empty())
    return reply;
  Document moved = move_pieces(session.document(), session.selection(), by);
  if (moved == session.document()) {
    reply.refused = QObject::tr(
        "What is selected, or the guide that it rides on, is locked; Arrange → Lock lets it be moved again");
    return reply;
  }
  reply.apply = std::move(moved);
  reply.name = QObject::tr("Nudge");
  reply.merge_key = "nudge";
  return reply;
}

} // namespace frelm
