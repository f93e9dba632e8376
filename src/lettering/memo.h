// A bounded memory of computed values: least recently used go first. Thread-safe. Values are shared and immutable.
#pragma once

#include <list>
#include <memory>
#include <mutex>

namespace frelm {

template <class Key, class Value> class Memo {
  struct Entry {
    Key key;
    std::shared_ptr<const Value> value;
    std::size_t size;
  };

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
  // Keeps the value and gives it back; or the one that another thread has stored for an equal key meanwhile, so that
  // there is one value for a key, whoever made it.
  std::shared_ptr<const Value> store(Key key, std::shared_ptr<const Value> value) {
    const std::size_t size = value->bytes();
    std::list<Entry> gone; // freed after the lock, which another thread may be waiting for
    const std::lock_guard lock(mutex_);
    for (const Entry& entry : entries_)
      if (entry.key == key)
        return entry.value;
    entries_.push_front({std::move(key), value, size});
    used_ += size;
    while (used_ > limit_ && entries_.size() > 1) {
      used_ -= entries_.back().size;
      gone.splice(gone.begin(), entries_, std::prev(entries_.end()));
    }
    return value;
  }
  std::size_t bytes() const {
    const std::lock_guard lock(mutex_);
    return used_;
  }

private:
  std::list<Entry> entries_;
  std::size_t limit_, used_ = 0;
  mutable std::mutex mutex_;
};

} // namespace frelm
