// A bounded memory of computed values: least recently used go first. Thread-safe. Values are shared and immutable.
//
// Keys are compared, and what has gone is freed, outside the lock: it is held for microseconds only, since the
// interface thread must never wait long for a thread of lower priority that was interrupted while holding it.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <memory>
#include <mutex>
#include <vector>

namespace frelm {

template <class Key, class Value> class Memo {
public:
  explicit Memo(std::size_t bytes) : limit_(bytes) {}

  std::shared_ptr<const Value> find(const Key& key) {
    const Entries now = snapshot();
    for (auto it = now.rbegin(); it != now.rend(); ++it)
      if ((*it)->key == key) {
        (*it)->used = ++clock_;
        return (*it)->value;
      }
    return nullptr;
  }
  // Keeps the value and gives it back; or the one that another thread has stored for an equal key meanwhile, so that
  // there is one value for a key, whoever made it.
  std::shared_ptr<const Value> store(Key key, std::shared_ptr<const Value> value) {
    const auto entry = std::make_shared<Entry>(std::move(key), value, value->bytes(), ++clock_);
    const Entries before = snapshot();
    for (const auto& known : before)
      if (known->key == entry->key)
        return known->value;
    const std::uint64_t seen = before.empty() ? 0 : before.back()->number;
    Entries gone; // freed after the lock
    const std::lock_guard lock(mutex_);
    for (auto it = entries_.rbegin(); it != entries_.rend() && (*it)->number > seen; ++it) // stored since that look
      if ((*it)->key == entry->key)
        return (*it)->value;
    entry->number = ++numbers_;
    entries_.push_back(entry);
    bytes_ += entry->size;
    while (bytes_ > limit_ && entries_.size() > 1) {
      const auto oldest = std::min_element(entries_.begin(), std::prev(entries_.end()),
                                           [](const auto& a, const auto& b) { return a->used < b->used; });
      bytes_ -= (*oldest)->size;
      gone.push_back(std::move(*oldest));
      entries_.erase(oldest);
    }
    return value;
  }
  std::size_t bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
  }

private:
  struct Entry {
    Entry(Key k, std::shared_ptr<const Value> v, std::size_t bytes, std::uint64_t now)
        : key(std::move(k)), value(std::move(v)), size(bytes), used(now) {}
    Key key;
    std::shared_ptr<const Value> value;
    std::size_t size;
    std::uint64_t number = 0; // in order of storing
    std::atomic<std::uint64_t> used;
  };
  using Entries = std::vector<std::shared_ptr<Entry>>;

  Entries snapshot() const {
    const std::lock_guard lock(mutex_);
    return entries_;
  }

  Entries entries_; // by number
  std::size_t limit_, bytes_ = 0;
  std::uint64_t numbers_ = 0;
  std::atomic<std::uint64_t> clock_ = 0;
  mutable std::mutex mutex_;
};

} // namespace frelm
