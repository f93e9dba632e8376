#include "document/history.h"

namespace frelm {

History::History(Document first) {
  steps_.push_back({"", std::move(first), {}});
}

void History::push(std::string name, Document document, std::vector<PieceId> selection, std::string merge_key) {
  const bool newest = at_ + 1 == steps_.size();
  if (!merge_key.empty() && merge_key == merge_key_ && newest && at_ > 0 && saved_ != at_) {
    steps_[at_].document = std::move(document);
    steps_[at_].selection = std::move(selection);
    return;
  }
  steps_.resize(at_ + 1);
  if (saved_ != never && saved_ > at_)
    saved_ = never;
  steps_.push_back({std::move(name), std::move(document), std::move(selection)});
  ++at_;
  merge_key_ = std::move(merge_key);
}

const HistoryStep& History::undo() {
  merge_key_.clear();
  if (can_undo())
    --at_;
  return current();
}

const HistoryStep& History::redo() {
  merge_key_.clear();
  if (can_redo())
    ++at_;
  return current();
}

} // namespace frelm
