// Background threads give way to the interface thread: on a machine with few cores a drag stays smooth while letters
// are welded and measured behind it.
#pragma once

#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace frelm {

// Of the calling thread; Linux gives every thread a niceness of its own. 0 is the interface thread's, 19 the lowest.
// Where it can't be set nothing changes.
inline void give_way(int niceness) {
  (void)setpriority(PRIO_PROCESS, static_cast<id_t>(syscall(SYS_gettid)), niceness);
}

} // namespace frelm
