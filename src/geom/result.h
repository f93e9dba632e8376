// Result<T>: a value, or an Error that says what went wrong, where, and what to do about it.
// Nothing is thrown out of the core; each library is called in one adapter that turns what it throws into this.
#pragma once

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

template <class T> class [[nodiscard]] Result {
public:
  Result(T value) : state_(std::in_place_index<0>, std::move(value)) {}
  Result(Error error) : state_(std::in_place_index<1>, std::move(error)) {}

  bool ok() const { return state_.index() == 0; }
  explicit operator bool() const { return ok(); }
  const T& value() const& { return std::get<0>(state_); }
  T& value() & { return std::get<0>(state_); }
  T&& value() && { return std::get<0>(std::move(state_)); }
  const T& operator*() const& { return value(); }
  T& operator*() & { return value(); }
  const T* operator->() const { return &value(); }
  T* operator->() { return &value(); }
  const Error& error() const { return std::get<1>(state_); }

private:
  std::variant<T, Error> state_;
};

struct Done {
  bool operator==(const Done&) const = default;
};

inline Error bad_input(std::string message, std::string where = {}) {
  return {ErrorCode::BadInput, std::move(message), std::move(where)};
}

} // namespace frelm
