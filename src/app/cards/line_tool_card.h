// Beside the Snip, Take space and Sand tools: how they work, which openings are bridged, the size of the brush.
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
  void add_brush();

  ToolKind tool_;
  MeasureField* bridged_ = nullptr;                                    // of Take space
  MeasureField *size_ = nullptr, *evens_ = nullptr, *drift_ = nullptr; // of Sand
};

} // namespace frelm
