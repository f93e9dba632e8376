// What each sheet falls into, worked out beside the window for the newest document while somebody looks at it.
#pragma once

#include "app/session/session.h"
#include "cutting/sheet_parts.h"

namespace frelm {

class PartsFinder : public QObject {
  Q_OBJECT

public:
  explicit PartsFinder(Session& session, QObject* parent = nullptr);
  ~PartsFinder() override;

  void set_wanted(bool wanted);
  // As last worked out; null: nothing yet.
  std::shared_ptr<const std::vector<SheetParts>> sheets() const { return sheets_; }
  bool current() const { return current_; }        // of the document as it is now
  const Said& why_not() const { return why_not_; } // what kept it from being worked out, if anything

signals:
  void changed();

private:
  void ask();

  Session& session_;
  bool wanted_ = false, current_ = false;
  std::uint64_t request_ = 0;
  std::shared_ptr<const std::vector<SheetParts>> sheets_;
  Said why_not_;
  Mailbox mailbox_;
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
