// A bounded memory of computed values: least recently used go first. Thread-safe. Values are shared and immutable.
#pragma once

#include <list>
#include <memory>
#include <mutex>

namespace frelm {

template <class Key, class Value> class Memo {
public:
  explicit Memo(std::size_t bytes) : limit_(bytes) {}

  std::shared_ptr<const Value> find(const Key& key) {
    const std::lock_guard lock(mutex_);
    for (auto it = entries_.begin(); it != entries_.end(); ++it)
      if (it->key == key) {
        entries_.splice(entries_.begin(), entries_, it);
        return entries_.front().value;
      }
    return nullptr;
  }
  void store(Key key, std::shared_ptr<const Value> value) {
    const std::size_t size = value->bytes();
    const std::lock_guard lock(mutex_);
    entries_.push_front({std::move(key), std::move(value), size});
    used_ += size;
    while (used_ > limit_ && entries_.size() > 1) {
      used_ -= entries_.back().size;
      entries_.pop_back();
    }
  }
  std::size_t bytes() const {
    const std::lock_guard lock(mutex_);
    return used_;
  }

private:
  struct Entry {
    Key key;
    std::shared_ptr<const Value> value;
    std::size_t size;
  };
  std::list<Entry> entries_;
  std::size_t limit_, used_ = 0;
  mutable std::mutex mutex_;
};

} // namespace frelm
