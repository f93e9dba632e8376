// A program to whatever stands at an address: a port or serial line (send/wire), path by path, or a printer queue
// (send/print_queue), all at once.
#pragma once

#include "send/sender.h"

namespace frelm {

SendReport send_to(const std::string& address, const HpglProgram& program, std::size_t first,
                   const SendWatch& watch = {});

} // namespace frelm
