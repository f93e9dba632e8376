#include "geom/side_by_side.h"

#include <algorithm>
#include <atomic>
#include <exception>
#include <system_error>
#include <thread>
#include <vector>

namespace frelm {

void side_by_side(std::size_t count, bool worth_it, const std::function<void(std::size_t)>& work) {
  const std::size_t threads = std::min<std::size_t>(count, std::max(1U, std::thread::hardware_concurrency()));
  std::atomic<std::size_t> next{0};
  std::vector<std::exception_ptr> thrown(std::max<std::size_t>(threads, 1));
  const auto take_turns = [&](std::size_t thread) {
    try {
      for (std::size_t i = next++; i < count; i = next++)
        work(i);
    } catch (...) {
      thrown[thread] = std::current_exception();
      next = count;
    }
  };
  {
    std::vector<std::jthread> others;
    for (std::size_t t = 1; worth_it && t < threads; ++t)
      try {
        others.emplace_back(take_turns, t);
      } catch (const std::system_error&) { // no more threads to be had: those there are do it
        break;
      }
    take_turns(0);
  }
  for (const std::exception_ptr& e : thrown)
    if (e)
      std::rethrow_exception(e);
}

} // namespace frelm
