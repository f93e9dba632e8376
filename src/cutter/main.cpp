// frelm-cutter: a cutter to practise with. It listens on a port of this machine or on a serial line, cuts what comes as
// fast as it is told, and writes what it cut.
#include "cutter/drawing.h"
#include "cutter/wires.h"

#include <CLI/CLI.hpp>
#include <chrono>
#include <csignal>
#include <fmt/format.h>
#include <iostream>
#include <map>
#include <thread>

namespace {

using namespace frelm::cutter;
using Clock = std::chrono::steady_clock;

volatile std::sig_atomic_t asked_to_end = 0, asked_to_go_on = 0;

const std::map<std::string, FaultKind> fault_names{{"unknown-command", FaultKind::UnknownCommand},
                                                   {"out-of-bounds", FaultKind::OutOfBounds},
                                                   {"stall", FaultKind::Stall},
                                                   {"noise", FaultKind::Noise},
                                                   {"paper-out", FaultKind::PaperOut},
                                                   {"blade-lifted", FaultKind::BladeLifted},
                                                   {"pause", FaultKind::Pause},
                                                   {"power-loss", FaultKind::PowerLoss}};

struct Options {
  PlotterOptions plotter;
  unsigned short port = 0;
  bool serial = false, once = false, quiet = false;
  double times = 1; // as fast as a real one
  std::string fault, size;
  std::vector<std::string> drawings;
};

// Empty, or what is wrong with it.
std::string read_fault(Options& o) {
  const std::size_t at = o.fault.find('@');
  const auto kind = fault_names.find(o.fault.substr(0, at));
  if (kind == fault_names.end())
    return "there is no fault of that name";
  o.plotter.fault = kind->second;
  if (at != std::string::npos && !CLI::detail::lexical_cast(o.fault.substr(at + 1), o.plotter.fault_at))
    return "after @ comes how much is cut before it, in mm";
  return {};
}
std::string read_size(Options& o) {
  const std::size_t x = o.size.find('x');
  if (x == std::string::npos || !CLI::detail::lexical_cast(o.size.substr(0, x), o.plotter.length) ||
      !CLI::detail::lexical_cast(o.size.substr(x + 1), o.plotter.width) || !(o.plotter.length > 0) ||
      !(o.plotter.width > 0))
    return "as 1200x610: along and across, mm";
  return {};
}

std::string state(const Plotter& p) {
  return fmt::format("{:7.1f} s  {}  x {:.1f} y {:.1f}  cut {:.0f} mm  {} lines  {} bytes waiting", p.busy(),
                     p.status() & 16   ? "paused"
                     : p.status() & 32 ? "no material"
                     : p.idle()        ? "ready"
                     : p.pen_down()    ? "cutting"
                                       : "moving",
                     p.at().x, p.at().y, p.cut(), p.strokes().size(), p.room());
}

int run(const Options& o) {
  Plotter plotter(o.plotter);
  const std::unique_ptr<Wire> wire = o.serial ? serial_line() : listen_on(o.port);
  std::cout << (o.serial ? "serial line " : "listening on ") << wire->name() << std::endl;
  Clock::time_point last = Clock::now(), heard = last, told = last;
  bool was_connected = false;
  while (asked_to_end == 0 && !plotter.off()) {
    const bool busy = wire->connected() || !plotter.idle();
    std::this_thread::sleep_for(busy ? std::chrono::microseconds(500) : std::chrono::microseconds(10'000));
    constexpr std::size_t any = 4096;
    const std::string bytes = wire->read(o.plotter.strict ? any : std::min(any, plotter.room()));
    const Clock::time_point now = Clock::now();
    if (!bytes.empty())
      heard = now;
    plotter.receive(bytes);
    if (asked_to_go_on != 0)
      asked_to_go_on = 0, plotter.go_on();
    // Bytes that are under way are no want of bytes.
    constexpr std::chrono::milliseconds long_enough{250};
    plotter.advance(std::chrono::duration<double>(now - last).count() * o.times, now - heard > long_enough);
    last = now;
    wire->write(plotter.take_replies());
    if (!o.quiet && now - told > std::chrono::milliseconds(500) && busy)
      told = now, std::cout << state(plotter) << std::endl;
    was_connected = was_connected || wire->connected();
    if (o.once && was_connected && !o.serial && !wire->connected() && plotter.idle())
      break;
  }
  int out = plotter.off() ? 3 : 0;
  for (const std::string& path : o.drawings)
    if (const std::string wrong = write_drawing(plotter, path); !wrong.empty())
      std::cerr << "frelm-cutter: " << wrong << "\n", out = 1;
  for (const std::string& t : plotter.troubles())
    std::cout << t << "\n";
  std::cout << state(plotter) << std::endl;
  return out;
}

} // namespace

int main(int argc, char** argv) {
  CLI::App app{
      "A cutter to practise with: it takes HP-GL on a port of this machine or on a serial line, cuts as a small "
      "machine would, and writes what it cut when it ends (Ctrl+C).\n"
      "kill -USR1 loads new material or ends a pause at the machine."};
  Options o;
  app.add_option("--port", o.port, "of this machine; 0: any that is free")->capture_default_str();
  app.add_flag("--serial", o.serial, "a serial line (a pair of pseudo-terminals) instead of a port");
  app.add_option("--draw", o.drawings, "what was cut: .json (with times), .svg or .png");
  app.add_option("--times", o.times, "as fast as a real one")->check(CLI::Range(0.01, 100'000.0));
  app.add_option("--buffer", o.plotter.buffer, "bytes")->check(CLI::Range(64, 1 << 20))->capture_default_str();
  app.add_option("--size", o.size, "of the material as 1200x610: along and across, mm");
  app.add_option("--speed", o.plotter.cut, "mm/s with the blade down")->check(CLI::Range(0.1, 5000.0));
  app.add_option("--travel", o.plotter.travel, "mm/s with the blade up")->check(CLI::Range(0.1, 5000.0));
  app.add_option("--acceleration", o.plotter.acceleration, "mm/s²")->check(CLI::Range(1.0, 1e6));
  app.add_option("--down", o.plotter.down, "s to put the blade down")->check(CLI::Range(0.0, 60.0));
  app.add_option("--up", o.plotter.up, "s to lift the blade")->check(CLI::Range(0.0, 60.0));
  app.add_option("--corner", o.plotter.corner, "mm that a corner may be off, which says how fast it is taken")
      ->check(CLI::Range(1e-6, 10.0));
  app.add_flag("--strict", o.plotter.strict, "what has no room in the buffer is lost");
  app.add_option("--fault", o.fault,
                 "unknown-command, out-of-bounds, stall, noise, paper-out, blade-lifted, pause or power-loss; @MM: "
                 "after so much is cut");
  app.add_option("--fault-lasts", o.plotter.fault_lasts, "s, of pause and paper-out; 0: until told (USR1)")
      ->check(CLI::Range(0.0, 1e6));
  app.add_flag("--once", o.once, "end when the first who connected has gone and all is cut");
  app.add_flag("--quiet", o.quiet, "no line of state twice a second");
  CLI11_PARSE(app, argc, argv);
  for (const std::string& wrong : {o.fault.empty() ? "" : read_fault(o), o.size.empty() ? "" : read_size(o)})
    if (!wrong.empty()) {
      std::cerr << "frelm-cutter: " << wrong << " (--help lists the options)\n";
      return 2;
    }
  std::signal(SIGINT, [](int) { asked_to_end = 1; });
  std::signal(SIGTERM, [](int) { asked_to_end = 1; });
  std::signal(SIGUSR1, [](int) { asked_to_go_on = 1; });
  std::signal(SIGPIPE, SIG_IGN);
  try {
    return run(o);
  } catch (const std::exception& e) {
    std::cerr << "frelm-cutter: " << e.what() << "\n";
    return 2;
  }
}
