// Beside the Snip and the Take space tool: how they work, and which openings are bridged.
#pragma once

#include "app/canvas/tool_table.h"
#include "app/cards/card.h"

namespace frelm {

class LineToolCard : public Card {
  Q_OBJECT

public:
  LineToolCard(ToolKind tool, Session& session, QWidget* parent = nullptr);
  void refresh() override;

private:
  QLabel* told_;
  MeasureField* bridged_ = nullptr; // of Take space
};

} // namespace frelm
