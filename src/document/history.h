// History: a plain list of (name, document, selection). Nothing to invert, nothing to forget.
#pragma once

#include "document/document.h"

namespace frelm {

struct HistoryStep {
  std::string name; // what the step did: "Change text"; empty for the first
  Document document;
  std::vector<PieceId> selection;
};

class History {
public:
  explicit History(Document first = {});

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

  void mark_saved() { saved_ = at_, merge_key_.clear(); }
  bool is_saved() const { return saved_ == at_; }

private:
  static constexpr std::size_t never = static_cast<std::size_t>(-1);
  std::vector<HistoryStep> steps_;
  std::size_t at_ = 0;
  std::size_t saved_ = 0;
  std::string merge_key_;
};

} // namespace frelm
