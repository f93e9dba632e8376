#include "document/history.h"

#include <set>

namespace frelm {

History::History(Document first, std::size_t most_bytes) : most_bytes_(most_bytes) {
  steps_.push_back({"", std::move(first), {}, next_id_++, 0});
}

void History::push(std::string name, Document document, std::vector<PieceId> selection, std::string merge_key) {
  const bool newest = at_ + 1 == steps_.size();
  if (!merge_key.empty() && merge_key == merge_key_ && newest && at_ > 0 && !is_saved()) {
    steps_[at_].document = std::move(document);
    steps_[at_].selection = std::move(selection);
    steps_[at_].id = next_id_++;
  } else {
    steps_.resize(at_ + 1);
    steps_.push_back({std::move(name), std::move(document), std::move(selection), next_id_++, 0});
    ++at_;
    merge_key_ = std::move(merge_key);
  }
  measure(at_);
  trim();
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

const HistoryStep& History::go_to(std::size_t at) {
  merge_key_.clear();
  at_ = std::min(at, steps_.size() - 1);
  return current();
}

void History::mark_saved(std::uint64_t id) {
  saved_ = id;
  merge_key_.clear();
}

void History::set_most_bytes(std::size_t bytes) {
  most_bytes_ = bytes;
  trim();
}

std::size_t History::bytes() const {
  std::size_t sum = 0;
  for (const HistoryStep& s : steps_)
    sum += s.bytes;
  return sum;
}

void History::measure(std::size_t step) {
  std::set<const Piece*> had;
  for (const auto& p : steps_[step - 1].document.pieces)
    had.insert(p.get());
  HistoryStep& s = steps_[step];
  s.bytes = sizeof s + s.name.size() + s.document.pieces.size() * sizeof(std::shared_ptr<const Piece>);
  for (const auto& p : s.document.pieces)
    if (!had.contains(p.get()))
      s.bytes += bytes_of(*p);
  if (const auto& names = s.document.names; names != nullptr && names != steps_[step - 1].document.names)
    for (const auto& row : names->rows)
      for (const std::string& cell : row)
        s.bytes += sizeof(std::string) + cell.size();
  std::set<const PictureFile*> pictures;
  for (const Backing& b : steps_[step - 1].document.backings)
    pictures.insert(b.picture.get());
  for (const Backing& b : s.document.backings)
    s.bytes += sizeof b + (pictures.insert(b.picture.get()).second ? b.picture->bytes.size() : 0);
}

void History::trim() {
  std::size_t sum = bytes(), drop = 0;
  while (sum > most_bytes_ && drop + 1 < at_)
    sum -= steps_[++drop].bytes;
  if (drop == 0)
    return;
  steps_.erase(steps_.begin(), steps_.begin() + static_cast<std::ptrdiff_t>(drop));
  steps_.front().bytes = 0; // the base that the others build on
  at_ -= drop;
  let_go_ += drop;
}

} // namespace frelm
