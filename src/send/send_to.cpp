#include "send/send_to.h"

#include "send/print_queue.h"

namespace frelm {

SendReport send_to(const std::string& address, const HpglProgram& program, std::size_t first, const SendWatch& watch) {
  if (is_queue(address))
    return queue_program(program, first, address.substr(queue_prefix.size()), watch.stop);
  const Result<std::unique_ptr<CutterWire>> wire = open_wire(address);
  if (wire)
    return send_program(program, first, **wire, watch);
  SendReport nobody;
  nobody.next = first, nobody.stopped = wire.error();
  return nobody;
}

} // namespace frelm
