// The handles of the selected piece: where they are and what dragging one makes of the document. Objects beside the
// canvas; the select tool drags them, the painter draws them.
#pragma once

#include "app/canvas/tool.h"

namespace frelm {

enum class HandleKind { Bead, Stem, ArcPull, Centre, Radius, Turn, Corner };

struct Handle {
  HandleKind kind = HandleKind::Bead;
  Point at;
  Point root;     // where its stalk begins; `at` if it has none
  int corner = 0; // 0 to 3 clockwise from the top left
};

std::vector<Handle> handles_of(const Session& session, double mm_per_px);

// The circle of a lettering's Guide bend or of a guide piece.
struct HandleDrag {
  Document document; // as it would be
  QString name;      // of the step
  QString measure;
  std::optional<Point> caught;
};
// start: the document when the drag began. Empty when nothing sensible comes of it (the preview stays).
std::optional<HandleDrag> drag_handle(const Session& session, const Document& start, const Handle& handle, Point from,
                                      const ToolEvent& to);

} // namespace frelm
