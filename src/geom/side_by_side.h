// Work on parts that have nothing to do with each other, on all processors.
#pragma once

#include <cstddef>
#include <functional>

namespace frelm {

// work(i) for every i below count, each once, on as many threads as the machine has processors (which take over the
// caller's priority); returns when all are done. What is thrown by one comes out here. worth_it: false does it all on
// the caller's thread, for work that is quicker than starting a thread (some 0.05 ms). The result must not depend on
// the order: each i writes to a place of its own.
void side_by_side(std::size_t count, bool worth_it, const std::function<void(std::size_t)>& work);

} // namespace frelm
