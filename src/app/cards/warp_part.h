// What the Rails and the Net part of the Bend card share: edits that would fold letters over, or after which they could
// not be set, are refused with the reason.
#pragma once

#include "app/cards/card.h"

namespace frelm {

class WarpPart : public Card {
  Q_OBJECT

public:
  explicit WarpPart(Session& session, QWidget* parent = nullptr);

signals:
  void problem(const QString& text);

protected:
  const Bend* bend() const; // of the selected piece
  // The warp that is shown; nothing while there is none.
  const BentBlock* block() const;
  void edit_bend(const QString& name, const std::function<void(Bend&)>& change, const std::string& merge_key = {});
};

} // namespace frelm
