// Bounded memories of computed values, found by hash. Several share one budget: what was used longest ago goes first,
// whichever memory holds it. Thread-safe. Values are shared and immutable.
//
// A key has `std::size_t hash() const`, equality and, where it holds more than its own size, `bytes()`; a value has
// `bytes()`. A value that works things out later (`forget()`) is measured anew whenever the budget is, and forgets them
// when it goes, since others may hold it still.
// Keys are compared, and what has gone is freed, outside the lock: it is held for microseconds only, since the
// interface thread must never wait long for a thread of lower priority that was interrupted while holding it.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <memory>
#include <mutex>
#include <unordered_map>
#include <vector>

namespace frelm {

inline std::size_t mix(std::size_t seed, std::size_t v) { // after Boost's hash_combine
  return seed ^ (v + std::size_t{0x9e3779b97f4a7c15} + (seed << 12) + (seed >> 4));
}
template <class... T> std::size_t hash_of(const T&... values) {
  std::size_t h = 0;
  ((h = mix(h, std::hash<T>{}(values))), ...);
  return h;
}

class MemoryBudget;

// One memory as its budget sees it.
class BudgetedMemory {
public:
  virtual ~BudgetedMemory() = default;
  struct Held {
    std::uint64_t used = 0; // when
    std::size_t bytes = 0;
  };
  virtual void list(std::vector<Held>& out) = 0;
  virtual void drop_until(std::uint64_t used) = 0; // all used then or before
};

class MemoryBudget {
public:
  explicit MemoryBudget(std::size_t bytes) : limit_(bytes) {}
  MemoryBudget(const MemoryBudget&) = delete;
  MemoryBudget& operator=(const MemoryBudget&) = delete;

  void set_limit(std::size_t bytes) {
    limit_ = bytes;
    trim(0);
  }
  std::size_t limit() const { return limit_; }
  // What all memories hold now.
  std::size_t bytes() const {
    std::size_t sum = 0;
    for (const BudgetedMemory::Held& h : all())
      sum += h.bytes;
    return sum;
  }

  void clear() {
    for (BudgetedMemory* m : memories())
      m->drop_until(~std::uint64_t{0});
  }

  // For memories: `more` bytes were stored.
  void trim(std::size_t more) {
    if ((since_ += more) < limit_ / 16 && more > 0)
      return;
    since_ = 0;
    std::vector<BudgetedMemory::Held> held = all();
    std::sort(held.begin(), held.end(), [](const auto& a, const auto& b) { return a.used > b.used; });
    std::size_t sum = 0, i = 0;
    while (i < held.size() && sum + held[i].bytes <= limit_ - limit_ / 16)
      sum += held[i++].bytes;
    if (i == held.size())
      return;
    // What was stored last stays, however large it is.
    const std::uint64_t until = held[std::min(std::max<std::size_t>(i, 1), held.size() - 1)].used;
    for (BudgetedMemory* m : memories())
      m->drop_until(i == 0 && held.size() == 1 ? 0 : until);
  }
  std::uint64_t now() { return ++clock_; }
  void enter(BudgetedMemory* m) {
    const std::lock_guard lock(mutex_);
    memories_.push_back(m);
  }
  void leave(BudgetedMemory* m) {
    const std::lock_guard lock(mutex_);
    std::erase(memories_, m);
  }

private:
  std::vector<BudgetedMemory*> memories() const {
    const std::lock_guard lock(mutex_);
    return memories_;
  }
  std::vector<BudgetedMemory::Held> all() const {
    std::vector<BudgetedMemory::Held> out;
    for (BudgetedMemory* m : memories())
      m->list(out);
    return out;
  }

  std::atomic<std::size_t> limit_, since_ = 0;
  std::atomic<std::uint64_t> clock_ = 0;
  mutable std::mutex mutex_;
  std::vector<BudgetedMemory*> memories_;
};

template <class Key> struct MemoHash {
  std::size_t operator()(const Key& key) const { return key.hash(); }
};
template <class T> struct MemoHash<std::shared_ptr<const T>> {
  std::size_t operator()(const std::shared_ptr<const T>& key) const { return std::hash<const T*>{}(key.get()); }
};

template <class Key, class Value> class Memo final : public BudgetedMemory {
public:
  // share: the most that this memory may hold, as a share of the budget.
  explicit Memo(MemoryBudget& budget, double share = 1) : budget_(budget), share_(share) { budget_.enter(this); }
  ~Memo() override { budget_.leave(this); }
  Memo(const Memo&) = delete;
  Memo& operator=(const Memo&) = delete;

  std::shared_ptr<const Value> find(const Key& key) {
    for (const std::shared_ptr<Entry>& entry : candidates(MemoHash<Key>{}(key)))
      if (entry->key == key) {
        entry->used = budget_.now();
        return entry->value;
      }
    return nullptr;
  }
  // Keeps the value and gives it back; or the one that another thread has stored for an equal key meanwhile, so that
  // there is one value for a key, whoever made it.
  std::shared_ptr<const Value> store(Key key, std::shared_ptr<const Value> value) {
    const std::size_t hash = MemoHash<Key>{}(key);
    const auto entry = std::make_shared<Entry>(std::move(key), value, budget_.now());
    const Entries before = candidates(hash);
    for (const auto& known : before)
      if (known->key == entry->key)
        return known->value;
    {
      const std::lock_guard lock(mutex_);
      const auto [from, to] = entries_.equal_range(hash);
      for (auto it = from; it != to; ++it) // stored since that look
        if (std::find(before.begin(), before.end(), it->second) == before.end() && it->second->key == entry->key)
          return it->second->value;
      entries_.emplace(hash, entry);
    }
    if (share_ < 1)
      keep_to_share();
    budget_.trim(entry->bytes());
    return value;
  }
  std::size_t bytes() {
    std::size_t sum = 0;
    for (const auto& e : snapshot())
      sum += e->bytes();
    return sum;
  }

  void list(std::vector<Held>& out) override {
    for (const auto& e : snapshot())
      out.push_back({e->used, e->bytes()});
  }
  void drop_until(std::uint64_t used) override {
    Entries gone; // freed after the lock
    {
      const std::lock_guard lock(mutex_);
      for (auto it = entries_.begin(); it != entries_.end();)
        if (it->second->used <= used) {
          gone.push_back(std::move(it->second));
          it = entries_.erase(it);
        } else {
          ++it;
        }
    }
    for (const auto& e : gone)
      e->forget();
  }

private:
  struct Entry {
    Entry(Key k, std::shared_ptr<const Value> v, std::uint64_t now)
        : key(std::move(k)), value(std::move(v)), used(now) {
      if constexpr (requires { key.bytes(); })
        own = key.bytes();
      if constexpr (!grows)
        own += value->bytes();
    }
    std::size_t bytes() const {
      std::size_t sum = sizeof *this + own;
      if constexpr (grows)
        sum += value->bytes();
      return sum;
    }
    void forget() const {
      if constexpr (grows)
        value->forget();
    }
    static constexpr bool grows = requires(const Value& v) { v.forget(); };
    Key key;
    std::shared_ptr<const Value> value;
    std::size_t own = 0;
    std::atomic<std::uint64_t> used;
  };
  using Entries = std::vector<std::shared_ptr<Entry>>;

  Entries candidates(std::size_t hash) const {
    Entries out;
    const std::lock_guard lock(mutex_);
    const auto [from, to] = entries_.equal_range(hash);
    for (auto it = from; it != to; ++it)
      out.push_back(it->second);
    return out;
  }
  Entries snapshot() const {
    Entries out;
    const std::lock_guard lock(mutex_);
    out.reserve(entries_.size());
    for (const auto& [hash, e] : entries_)
      out.push_back(e);
    return out;
  }
  void keep_to_share() {
    std::vector<Held> held;
    list(held);
    std::sort(held.begin(), held.end(), [](const auto& a, const auto& b) { return a.used > b.used; });
    const auto most = static_cast<std::size_t>(share_ * static_cast<double>(budget_.limit()));
    std::size_t sum = 0, i = 0;
    while (i < held.size() && (i == 0 || sum + held[i].bytes <= most))
      sum += held[i++].bytes;
    if (i < held.size())
      drop_until(held[i].used);
  }

  MemoryBudget& budget_;
  double share_;
  std::unordered_multimap<std::size_t, std::shared_ptr<Entry>> entries_;
  mutable std::mutex mutex_;
};

} // namespace frelm
