// Result<T>: a value, or an Error that says what went wrong, where, and what to do about it.
// Nothing is thrown out of the core; each library is called in one adapter that turns what it throws into this.
#pragma once

#include <stdexcept>
#include <string>
#include <utility>
#include <variant>

namespace frelm {

enum class ErrorCode { BadInput, NotFound, Unreadable, Unwritable, Unsupported, Cancelled, Internal };

struct Error {
  ErrorCode code = ErrorCode::Internal;
  std::string message; // one sentence for a person: what, and what to do
  std::string where;   // file, piece, position; may be empty

  // "where: message", or just the message.
  std::string text() const { return where.empty() ? message : where + ": " + message; }
  bool operator==(const Error&) const = default;
};

// Reading a Result that has not been asked is an error where Clang compiles (-Wconsumed, see FRELM_CONSUMED); a
// temporary can't be read at all. Where a failure is impossible, `sure` says why, and tests hold it to that.
#if defined(__clang__)
#define FRELM_CONSUMED(x) [[clang::x]]
#else
#define FRELM_CONSUMED(x)
#endif

template <class T> class [[nodiscard]] FRELM_CONSUMED(consumable(unknown)) Result {
public:
  FRELM_CONSUMED(return_typestate(unknown)) Result(T value) : state_(std::in_place_index<0>, std::move(value)) {}
  FRELM_CONSUMED(return_typestate(unknown)) Result(Error error) : state_(std::in_place_index<1>, std::move(error)) {}

  FRELM_CONSUMED(test_typestate(unconsumed)) bool ok() const { return state_.index() == 0; }
  FRELM_CONSUMED(test_typestate(unconsumed)) explicit operator bool() const { return ok(); }
  FRELM_CONSUMED(callable_when("unconsumed")) const T& operator*() const& { return std::get<0>(state_); }
  FRELM_CONSUMED(callable_when("unconsumed")) T& operator*() & { return std::get<0>(state_); }
  FRELM_CONSUMED(callable_when("unconsumed")) const T* operator->() const& { return &std::get<0>(state_); }
  FRELM_CONSUMED(callable_when("unconsumed")) T* operator->() & { return &std::get<0>(state_); }
#ifdef FRELM_RESULT_TEMPORARIES // tests and tools: what fails there ends them, with its place
  T operator*() && {
    return std::get<0>(std::move(state_));
  }
  T* operator->() && {
    return &std::get<0>(state_);
  }
#else
  T operator*() && = delete;
  T operator*() const&& = delete;
  T* operator->() && = delete;
  T* operator->() const&& = delete;
#endif
  T value_or(T other) const& {
    return ok() ? std::get<0>(state_) : std::move(other);
  }
  T value_or(T other) && {
    return ok() ? std::get<0>(std::move(state_)) : std::move(other);
  }
  FRELM_CONSUMED(callable_when("consumed", "unknown")) const Error& error() const& {
    return std::get<1>(state_);
  }

private:
  template <class U> friend U sure(Result<U> result, const char* why);
  std::variant<T, Error> state_;
};

// The value of a Result that can't fail here, `why` saying what makes that so. Throws std::logic_error with both
// sentences where it does.
template <class T> T sure(Result<T> result, const char* why) {
  if (result.state_.index() != 0)
    throw std::logic_error(std::string(why) + ", yet: " + std::get<1>(result.state_).text());
  return std::get<0>(std::move(result.state_));
}

struct Done {
  bool operator==(const Done&) const = default;
};

inline Error bad_input(std::string message, std::string where = {}) {
  return {ErrorCode::BadInput, std::move(message), std::move(where)};
}

} // namespace frelm
