// What each sheet falls into, and where two selected pieces hold together; worked out beside the window for the newest
// document while somebody looks at it.
#pragma once

#include "app/session/newest_answer.h"
#include "app/session/session.h"
#include "cutting/sheet_parts.h"
#include "geom/contacts.h"

namespace frelm {

class PartsFinder : public QObject {
  Q_OBJECT

public:
  explicit PartsFinder(Session& session, QObject* parent = nullptr);

  void set_wanted(bool wanted);
  void end(); // before the session goes
  // As last worked out; null: nothing yet.
  std::shared_ptr<const std::vector<SheetParts>> sheets() const { return found_.sheets; }
  bool current() const { return current_; }              // of the document as it is now
  const Said& why_not() const { return found_.why_not; } // what kept it from being worked out, if anything
  // Of the two that are selected, once that is known.
  const std::optional<std::vector<Contact>>& contacts() const { return contacts_; }

signals:
  void changed();

private:
  struct Found {
    std::shared_ptr<const std::vector<SheetParts>> sheets;
    Said why_not;
  };
  void ask();
  void ask_contacts();

  Session& session_;
  bool wanted_ = false, current_ = false;
  Found found_;
  std::optional<std::vector<Contact>> contacts_;
  NewestAnswer<Found> answer_; // the last members: their threads end before what they use
  NewestAnswer<std::vector<Contact>> contacts_answer_;
};

} // namespace frelm
