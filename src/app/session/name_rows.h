// The rows of a job's list as they come out: worked out beside the window, what is looked at first, then the rest.
//
// The list is the document's (Document::names); every change of it is a step of the history.
#pragma once

#include "app/session/mailbox.h"
#include "app/session/newest_worker.h"
#include "app/session/session.h"
#include "document/name_fill.h"

namespace frelm {

struct NameRow {
  bool known = false;
  std::vector<NameFinding> findings;
  bool by_hand = false;
  Said why_not;                          // what kept it from being set; empty: it is
  std::shared_ptr<const CutSheet> sheet; // as it is seen; only of rows that are looked at
  bool sound() const { return known && findings.empty() && why_not.empty(); }
};

class NameRows : public QObject {
  Q_OBJECT

public:
  explicit NameRows(Session& session, QObject* parent = nullptr);

  void set_wanted(bool wanted);
  void end();                                        // before the session goes
  void look_at(std::size_t first, std::size_t last); // rows that are on the screen
  const NameList* list() const { return session_.document().names.get(); }
  std::size_t count() const { return rows_.size(); }
  const NameRow& row(std::size_t i) const { return rows_[i]; }
  std::size_t to_look_at() const; // rows that are not sound, as far as they are known
  std::size_t known() const { return known_; }

  // Steps: the list changed, or a new one; false: it can't be.
  void set_list(const QString& step, NameList list);
  void set_cell(std::size_t row, std::size_t column, const std::string& text);
  void set_rules(const QString& step, const std::function<void(NameRule&)>& change); // of all places

signals:
  void changed(); // the list
  void row_changed(int row);

private:
  void ask();
  void begin_anew();

  Session& session_;
  bool wanted_ = false;
  std::vector<NameRow> rows_;
  std::size_t first_ = 0, last_ = 12, known_ = 0;
  std::uint64_t asked_ = 0;
  Mailbox mailbox_;
  NewestWorker worker_{8}; // the last member: its thread ends before what it uses
};

} // namespace frelm
