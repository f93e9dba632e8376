// What the Rails and the Net part of the Bend card share: edits that would fold letters over, or after which they could
// not be set, are refused with the reason.
#pragma once

#include "app/cards/lettering_card.h"

namespace frelm {

class WarpPart : public LetteringCard {
  Q_OBJECT

public:
  explicit WarpPart(Session& session, QWidget* parent = nullptr);

signals:
  void problem(const QString& text);

protected:
  const Bend* bend() const; // of the selected piece
  // The warp that is shown; nothing while there is none.
  const BentBlock* block() const;
  void edit_subject(const QString& step, bool stepped, const std::function<void(Lettering&)>& change) override;
  void edit_bend(const QString& name, const std::function<void(Bend&)>& change, const std::string& merge_key = {});

private:
  void apply_unless_refused(const QString& name, const std::function<void(Lettering&)>& change, const std::string& key);
};

} // namespace frelm
