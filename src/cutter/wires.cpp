#include "cutter/wires.h"

#include <utility> // which asio of Debian 12 forgets

#include <boost/asio.hpp>
#include <optional>
#include <pty.h>
#include <termios.h>
#include <unistd.h>

namespace frelm::cutter {
namespace {

namespace asio = boost::asio;
using asio::ip::tcp;

// What can't be written now waits.
template <class Stream> void write_some(Stream& stream, std::string& waiting) {
  boost::system::error_code fault;
  const std::size_t n = waiting.empty() ? 0 : stream.write_some(asio::buffer(waiting), fault);
  waiting.erase(0, n);
}

class Port : public Wire {
public:
  explicit Port(unsigned short port) : acceptor_(io_, tcp::endpoint(asio::ip::address_v4::loopback(), port)) {
    acceptor_.non_blocking(true);
  }
  std::string name() const override { return "127.0.0.1:" + std::to_string(acceptor_.local_endpoint().port()); }
  std::string read(std::size_t most) override {
    boost::system::error_code fault;
    if (!socket_) {
      tcp::socket next(io_);
      acceptor_.accept(next, fault);
      if (fault)
        return {};
      next.non_blocking(true);
      next.set_option(tcp::no_delay(true));
      socket_.emplace(std::move(next));
      waiting_.clear();
    }
    write_some(*socket_, waiting_);
    std::string out(std::min<std::size_t>(most, 4096), '\0');
    if (out.empty())
      return out;
    const std::size_t n = socket_->read_some(asio::buffer(out), fault);
    if (fault && fault != asio::error::would_block)
      socket_.reset();
    out.resize(fault ? 0 : n);
    return out;
  }
  void write(std::string_view bytes) override {
    if (!socket_)
      return;
    waiting_ += bytes;
    write_some(*socket_, waiting_);
  }
  bool connected() const override { return socket_.has_value(); }

private:
  asio::io_context io_;
  tcp::acceptor acceptor_;
  std::optional<tcp::socket> socket_;
  std::string waiting_;
};

class SerialLine : public Wire {
public:
  SerialLine() : line_(io_) {
    int ours = -1, theirs = -1;
    char path[128] = "";
    if (openpty(&ours, &theirs, path, nullptr, nullptr) != 0)
      throw std::runtime_error("there are no pseudo-terminals");
    termios plain{};
    tcgetattr(theirs, &plain);
    cfmakeraw(&plain);
    tcsetattr(theirs, TCSANOW, &plain);
    kept_ = theirs; // so that it stays while nobody has it open
    path_ = path;
    line_.assign(ours);
    line_.non_blocking(true);
  }
  ~SerialLine() override { ::close(kept_); }
  std::string name() const override { return path_; }
  std::string read(std::size_t most) override {
    write_some(line_, waiting_);
    std::string out(std::min<std::size_t>(most, 4096), '\0');
    if (out.empty())
      return out;
    boost::system::error_code fault;
    const std::size_t n = line_.read_some(asio::buffer(out), fault);
    out.resize(fault ? 0 : n);
    return out;
  }
  void write(std::string_view bytes) override {
    waiting_ += bytes;
    write_some(line_, waiting_);
  }
  bool connected() const override { return true; }

private:
  asio::io_context io_;
  asio::posix::stream_descriptor line_;
  int kept_ = -1;
  std::string path_, waiting_;
};

} // namespace

std::unique_ptr<Wire> listen_on(unsigned short port) {
  return std::make_unique<Port>(port);
}
std::unique_ptr<Wire> serial_line() {
  return std::make_unique<SerialLine>();
}

} // namespace frelm::cutter
