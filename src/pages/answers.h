// How frelm-pages ends.
#pragma once

namespace frelm::pages {

enum class Answer {
  Done = 0,
  Misuse = 10,
  Unreadable = 11,
  Locked = 12, // by a password
  NoSuchPage = 13,
  NoGhostscript = 14, // it is not installed
  TooMuch = 15,       // more than a page may hold
};

} // namespace frelm::pages
