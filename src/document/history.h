// History: a plain list of (name, document, selection). Nothing to invert, nothing to forget, but bounded in bytes: the
// oldest steps go first. Steps share the pieces they have in common; each is counted with what it has of its own.
#pragma once

#include "document/document.h"

namespace frelm {

struct HistoryStep {
  std::string name; // what the step did: "Change text"; empty for the first
  Document document;
  std::vector<PieceId> selection;
  std::uint64_t id = 0;  // never used twice in one history
  std::size_t bytes = 0; // of pieces that the step before does not have
};

inline constexpr std::size_t usual_history_bytes = std::size_t{256} << 20;

class History {
public:
  explicit History(Document first = {}, std::size_t most_bytes = usual_history_bytes);

  const HistoryStep& current() const { return steps_[at_]; }
  // Steps that could be redone go. With the same non-empty merge key as the step before, which must be the newest and
  // not the saved one, that step is replaced: typing a word is one step.
  void push(std::string name, Document document, std::vector<PieceId> selection, std::string merge_key = {});
  void stop_merging() { merge_key_.clear(); }

  bool can_undo() const { return at_ > 0; }
  bool can_redo() const { return at_ + 1 < steps_.size(); }
  std::string undo_name() const { return can_undo() ? steps_[at_].name : ""; }
  std::string redo_name() const { return can_redo() ? steps_[at_ + 1].name : ""; }
  const HistoryStep& undo();
  const HistoryStep& redo();
  // All that are kept, the oldest first; the first is what the others began from.
  const HistoryStep& step(std::size_t at) const { return steps_[at]; }
  std::size_t at() const { return at_; }
  const HistoryStep& go_to(std::size_t at); // the last one, where there are fewer

  // The step with this id is what is on the disk; a step that has gone or been replaced meanwhile marks nothing.
  void mark_saved(std::uint64_t id);
  void mark_saved() { mark_saved(current().id); }
  bool is_saved() const { return saved_ == current().id; }

  std::size_t bytes() const;
  std::size_t steps() const { return steps_.size() - 1; }
  std::size_t let_go() const { return let_go_; } // oldest steps that had no room any more
  std::size_t most_bytes() const { return most_bytes_; }
  void set_most_bytes(std::size_t bytes);

private:
  void measure(std::size_t step);
  void trim();

  std::vector<HistoryStep> steps_;
  std::size_t at_ = 0;
  std::size_t most_bytes_;
  std::size_t let_go_ = 0;
  std::uint64_t next_id_ = 1, saved_ = 1;
  std::string merge_key_;
};

} // namespace frelm
