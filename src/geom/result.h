// Result<T>: a value, or an Error that says what went wrong, where, and what to do about it.
// Nothing is thrown out of the core; each library is called in one adapter that turns what it throws into this.
#pragma once

#include "geom/said.h"

#include <stdexcept>
#include <string>
#include <utility>
#include <variant>

namespace frelm {

enum class ErrorCode { BadInput, NotFound, Unreadable, Unwritable, Unsupported, Cancelled, Internal };

struct Error {
  ErrorCode code = ErrorCode::Internal;
  Said what; // one sentence for a person: what, and what to do
  Said at;   // file, piece, position; may be empty

  Said said() const { return at.empty() ? what : Said(FRELM_WORDS("core", "%1: %2"), {at, what}); }
  // In English: the sentence, its place, and both.
  std::string message() const { return english(what); }
  std::string where() const { return english(at); }
  std::string text() const { return english(said()); }
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

inline Error bad_input(Said what, Said at = {}) {
  return {ErrorCode::BadInput, std::move(what), std::move(at)};
}

// The same at `outer`, of which the error's own place is a part.
inline Error placed_within(Said outer, Error error) {
  error.at = error.at.empty() || outer.empty() ? (outer.empty() ? error.at : outer)
                                               : Said(FRELM_WORDS("core", "%1, %2"), {outer, error.at});
  return error;
}

} // namespace frelm
