#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_outline_menu(QMenu* menu) {
  const auto finish = [this]() -> const Finish* {
    const Piece* piece = session_.selected();
    return piece == nullptr                ? nullptr
           : piece->lettering() != nullptr ? &piece->lettering()->recipe.finish
           : piece->outline() != nullptr   ? &piece->outline()->finish
                                           : nullptr;
  };
  commands_.add(
      menu, {.id = "outline.weld",
             .words = tr("&Weld"),
             .keys = {QKeySequence("Ctrl+J")},
             .tip = tr("What overlaps becomes one outline; the letters stay live"),
             .run = [this] { toggle_weld(); },
             .why_not = [finish] { return finish() != nullptr ? QString() : tr("Select a lettering or an outline"); },
             .on = [finish] { return finish() != nullptr && finish()->welds(); }});
  menu->addSeparator();
  for (int i = 0; i <= static_cast<int>(NodeCommand::StartHere); ++i) {
    const auto command = static_cast<NodeCommand>(i);
    commands_.add(menu, {.id = QString("outline.node.%1").arg(i),
                         .words = node_command_name(command),
                         .run = [this, command] { node_command(command); },
                         .why_not = [this, command]() -> QString {
                           const Piece* piece = session_.selected();
                           if (canvas_->tool() != ToolKind::Nodes)
                             return tr("Take the Nodes tool first");
                           if (piece == nullptr || piece->lettering() != nullptr)
                             return tr("Select an outline or a guide");
                           const bool whole_line = command == NodeCommand::Reverse || command == NodeCommand::Close;
                           return whole_line || !session_.nodes_chosen().empty() ? QString()
                                                                                 : tr("Choose a node first");
                         }});
  }
}

} // namespace frelm
