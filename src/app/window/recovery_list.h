// What programs that were not closed properly left behind: a page over the sheet with each job's name, when it was kept
// and a small picture of it. Pictures are made on a thread of their own.
#pragma once

#include "app/session/mailbox.h"
#include "app/window/page.h"
#include "document/recovery.h"
#include "type/face_library.h"

#include <thread>

class QVBoxLayout;

namespace frelm {

class RecoveryList : public Page {
  Q_OBJECT

public:
  RecoveryList(std::vector<RecoveredJob> jobs, const FaceLibrary& faces, QWidget* over);
  // The row goes; the page with the last one.
  void remove(const RecoveredJob& job);
  std::size_t count() const { return rows_.size(); }

signals:
  void bring_back(const RecoveredJob& job);
  void throw_away(const RecoveredJob& job);

protected:
  QSize wanted() const override;

private:
  QWidget* row_for(const RecoveredJob& job);
  void make_pictures(const std::stop_token& stop, const FaceLibrary& faces, const std::vector<RecoveredJob>& jobs);

  QVBoxLayout* list_;
  std::vector<std::pair<std::string, QWidget*>> rows_; // by the recovery file
  Mailbox mailbox_;
  std::jthread painter_;
};

} // namespace frelm
