// What could be cleaned of drawings' lines, as they stand in the newest step: worked out beside the window after each
// step that changes them.
#pragma once

#include "app/session/newest_answer.h"
#include "app/session/session.h"
#include "document/clean_up.h"

namespace frelm {

class LineFaultFinder : public QObject {
  Q_OBJECT

public:
  explicit LineFaultFinder(Session& session, QObject* parent = nullptr);

  // The pieces of each drawing, and what is known of them by now.
  void watch(std::vector<std::vector<PieceId>> drawings, std::vector<LineFaults> known);
  const std::vector<LineFaults>& found() const { return found_; } // one a drawing

signals:
  void found_changed();

private:
  void look();
  std::vector<std::shared_ptr<const Piece>> watched() const;

  Session& session_;
  std::vector<std::vector<PieceId>> drawings_;
  std::vector<std::shared_ptr<const Piece>> looked_at_;
  std::vector<LineFaults> found_;
  NewestAnswer<std::vector<LineFaults>> answer_; // the last member: its thread ends before what it uses
};

} // namespace frelm
