// Printer queues of this machine, for cutters that stand behind one: bytes are handed over as they are (raw), by `lp`
// (POSIX.1-2017, XCU, lp) where it is installed. A queue takes a whole program and tells nothing of what is cut.
#pragma once

#include "send/sender.h"

#include <string>
#include <vector>

namespace frelm {

inline constexpr std::string_view queue_prefix = "queue:"; // "queue:NAME" is one's address

inline bool is_queue(std::string_view address) {
  return address.starts_with(queue_prefix);
}
// Their names, as `lpstat -e` lists them; none where nothing prints. Waits 3 s at most.
std::vector<std::string> print_queues(const std::stop_token& stop = {});
// From path `first` on. All of them count as handed over, or none. `stopped`: the queue is not there, or did not take
// it; lp is not installed; Cancelled.
SendReport queue_program(const HpglProgram& program, std::size_t first, const std::string& queue,
                         const std::stop_token& stop = {});

} // namespace frelm
