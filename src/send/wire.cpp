// Boost.Asio opens; poll waits, since nothing may wait longer than it is told.
#include "send/wire.h"

#include <utility> // which asio of Debian 12 forgets

#include <boost/asio.hpp>
#include <charconv>
#include <fcntl.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

namespace frelm {
namespace {

namespace asio = boost::asio;
using Clock = std::chrono::steady_clock;

constexpr Milliseconds longest_connecting{2500};
constexpr unsigned usual_baud = 9600;

Error gone(const std::string& name) {
  return {ErrorCode::Unreadable,
          FRELM_WORDS("core", "the connection broke; switch the cutter on and see to its cable, then go on"),
          as_it_is(name)};
}

// On a descriptor that never blocks.
class DescriptorWire : public CutterWire {
public:
  DescriptorWire(int descriptor, std::string name) : descriptor_(descriptor), name_(std::move(name)) {}

  Result<Done> write(std::string_view bytes, Milliseconds wait) override {
    const Clock::time_point until = Clock::now() + wait;
    while (!bytes.empty()) {
      // A line that broke is an error here, no signal.
      ssize_t n = ::send(descriptor_, bytes.data(), bytes.size(), MSG_NOSIGNAL);
      if (n < 0 && errno == ENOTSOCK)
        n = ::write(descriptor_, bytes.data(), bytes.size());
      if (n > 0) {
        bytes.remove_prefix(static_cast<std::size_t>(n));
        continue;
      }
      if (n < 0 && errno != EAGAIN && errno != EINTR)
        return gone(name_);
      if (!comes(POLLOUT, until))
        return Error{ErrorCode::Unreadable,
                     FRELM_WORDS("core", "the cutter takes nothing any more; see to it, then go on"), as_it_is(name_)};
    }
    return Done{};
  }
  Result<std::string> read(Milliseconds wait) override {
    if (!comes(POLLIN, Clock::now() + wait))
      return std::string();
    std::string out(4096, '\0');
    const ssize_t n = ::read(descriptor_, out.data(), out.size());
    if (n == 0 || (n < 0 && errno != EAGAIN && errno != EINTR))
      return gone(name_);
    out.resize(n > 0 ? static_cast<std::size_t>(n) : 0);
    return out;
  }

private:
  bool comes(short what, Clock::time_point until) const {
    const auto left = std::chrono::duration_cast<Milliseconds>(until - Clock::now()).count();
    pollfd wanted{descriptor_, what, 0};
    return ::poll(&wanted, 1, static_cast<int>(std::clamp<long long>(left, 0, 60'000))) > 0;
  }
  int descriptor_;
  std::string name_;
};

class TcpWire : public DescriptorWire {
public:
  TcpWire(std::unique_ptr<asio::io_context> io, asio::ip::tcp::socket socket, std::string name)
      : DescriptorWire(socket.native_handle(), std::move(name)), io_(std::move(io)), socket_(std::move(socket)) {}

private:
  std::unique_ptr<asio::io_context> io_;
  asio::ip::tcp::socket socket_;
};

class SerialWire : public DescriptorWire {
public:
  SerialWire(std::unique_ptr<asio::io_context> io, asio::serial_port port, std::string name)
      : DescriptorWire(port.native_handle(), std::move(name)), io_(std::move(io)), port_(std::move(port)) {}

private:
  std::unique_ptr<asio::io_context> io_;
  asio::serial_port port_;
};

Result<std::unique_ptr<CutterWire>> open_port(const std::string& rest) {
  const std::size_t colon = rest.rfind(':');
  if (colon == std::string::npos || colon == 0 || colon + 1 == rest.size())
    return bad_input(FRELM_WORDS("core", "an address and a port are wanted, as in tcp:127.0.0.1:9100"), as_it_is(rest));
  auto io = std::make_unique<asio::io_context>();
  asio::ip::tcp::socket socket(*io);
  asio::ip::tcp::resolver resolver(*io);
  boost::system::error_code fault = asio::error::timed_out;
  resolver.async_resolve(
      rest.substr(0, colon), rest.substr(colon + 1),
      [&](const boost::system::error_code& found, asio::ip::tcp::resolver::results_type places) {
        fault = found;
        if (found)
          return;
        fault = asio::error::timed_out;
        asio::async_connect(socket, places, [&](const boost::system::error_code& done, const auto&) { fault = done; });
      });
  io->run_for(longest_connecting);
  if (fault)
    return Error{ErrorCode::NotFound,
                 FRELM_WORDS("core", "nobody answers there; switch the cutter on, and check its address and port"),
                 as_it_is(rest)};
  socket.non_blocking(true, fault);
  socket.native_non_blocking(true, fault);
  socket.set_option(asio::ip::tcp::no_delay(true), fault);
  return std::unique_ptr<CutterWire>(std::make_unique<TcpWire>(std::move(io), std::move(socket), rest));
}

Result<std::unique_ptr<CutterWire>> open_serial(const std::string& rest) {
  std::string device = rest;
  unsigned baud = usual_baud;
  if (const std::size_t colon = rest.rfind(':'); colon != std::string::npos) {
    device = rest.substr(0, colon);
    const auto [end, fault] = std::from_chars(rest.data() + colon + 1, rest.data() + rest.size(), baud);
    if (fault != std::errc() || end != rest.data() + rest.size() || baud == 0)
      return bad_input(FRELM_WORDS("core", "a device is wanted, and its speed, as in serial:/dev/ttyUSB0:9600"),
                       as_it_is(rest));
  }
  auto io = std::make_unique<asio::io_context>();
  asio::serial_port port(*io);
  boost::system::error_code fault;
  port.open(device, fault);
  using Base = asio::serial_port_base;
  if (!fault)
    port.set_option(Base::baud_rate(baud), fault);
  if (!fault)
    port.set_option(Base::character_size(8), fault);
  if (!fault)
    port.set_option(Base::flow_control(Base::flow_control::none), fault);
  if (fault)
    return Error{ErrorCode::NotFound,
                 say(FRELM_WORDS("core", "the serial line can't be opened (%1); check its name, and that no other "
                                         "program has it"),
                     fault.message()),
                 as_it_is(device)};
  const int flags = ::fcntl(port.native_handle(), F_GETFL);
  ::fcntl(port.native_handle(), F_SETFL, flags | O_NONBLOCK);
  return std::unique_ptr<CutterWire>(std::make_unique<SerialWire>(std::move(io), std::move(port), device));
}

} // namespace

Result<std::unique_ptr<CutterWire>> open_wire(const std::string& address) {
  if (address.starts_with("tcp:"))
    return open_port(address.substr(4));
  if (address.starts_with("serial:"))
    return open_serial(address.substr(7));
  return bad_input(FRELM_WORDS("core", "tcp:HOST:PORT or serial:DEVICE is wanted"), as_it_is(address));
}

} // namespace frelm
