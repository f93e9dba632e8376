// Where a cutter is reached: a port of this machine, or a pair of pseudo-terminals as a serial line. One at a time
// speaks to it; nothing here waits.
#pragma once

#include <memory>
#include <string>
#include <string_view>

namespace frelm::cutter {

class Wire {
public:
  virtual ~Wire() = default;
  virtual std::string name() const = 0; // "127.0.0.1:40123", "/dev/pts/4"
  // Up to `most` bytes that have come.
  virtual std::string read(std::size_t most) = 0;
  virtual void write(std::string_view bytes) = 0;
  virtual bool connected() const = 0;
};

// Throws std::exception with the reason: the port is taken, no pseudo-terminals.
std::unique_ptr<Wire> listen_on(unsigned short port); // 0: any that is free
std::unique_ptr<Wire> serial_line();

} // namespace frelm::cutter
