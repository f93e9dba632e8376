// A choice of guides and outlines for a bend to follow.
#pragma once

#include "app/session/session.h"
#include "app/style/choice_box.h"

namespace frelm {

class PieceChoice : public ChoiceBox {
  Q_OBJECT

public:
  enum class Lines { Any, Open, Closed };
  PieceChoice(Lines lines, const QString& name, QWidget* parent = nullptr);
  // Lists what there is; last, where no piece is chosen, the private copy or none.
  void show_pieces(const Session& session, const GuideRef& ref);
  // Those that could be chosen now, in drawing order.
  static std::vector<PieceId> pieces(const Session& session, Lines lines);

signals:
  void chosen(PieceId id);

private:
  Lines lines_;
  std::vector<PieceId> ids_;
};

} // namespace frelm
