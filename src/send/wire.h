// How bytes get to a cutter, and its answers back: a port, a serial line. Nothing here waits longer than it is told.
//
// Errors: NotFound where nothing is there, Unreadable where the line breaks; the words say what to do.
#pragma once

#include "geom/result.h"

#include <chrono>
#include <memory>
#include <string>
#include <string_view>

namespace frelm {

using Milliseconds = std::chrono::milliseconds;

class CutterWire {
public:
  virtual ~CutterWire() = default;
  // All of it, or an error after `wait`.
  virtual Result<Done> write(std::string_view bytes, Milliseconds wait) = 0;
  // What has come, as soon as anything has; empty after `wait`.
  virtual Result<std::string> read(Milliseconds wait) = 0;
};

// "tcp:HOST:PORT", "serial:DEVICE" (at 9600 baud, or "serial:DEVICE:BAUD"). Errors: another form; nobody there.
Result<std::unique_ptr<CutterWire>> open_wire(const std::string& address);

} // namespace frelm
