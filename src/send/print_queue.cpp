#include "send/print_queue.h"

#include "formats/child_program.h"

namespace frelm {
namespace {

constexpr double asked_within = 3, taken_within = 60; // s

} // namespace

std::vector<std::string> print_queues(const std::stop_token& stop) {
  const Result<ChildAnswer> said = run_child("lpstat", {"-e"}, {}, {asked_within, 1 << 16}, stop);
  std::vector<std::string> out;
  if (!said || said->ended || said->code != 0)
    return out;
  std::string name;
  for (const char c : said->bytes + "\n")
    if (c != '\n')
      name += c;
    else if (!name.empty())
      out.push_back(std::exchange(name, {}));
  return out;
}

SendReport queue_program(const HpglProgram& program, std::size_t first, const std::string& queue,
                         const std::stop_token& stop) {
  SendReport report;
  report.next = first;
  const auto refused = [&](Error why) {
    report.stopped = std::move(why);
    return report;
  };
  if (queue.empty() || queue.front() == '-') // which lp would take for an option
    return refused(Error{ErrorCode::BadInput, FRELM_WORDS("core", "say which queue: queue:NAME"), {}});
  HpglProgram rest = program;
  rest.paths.erase(rest.paths.begin(), rest.paths.begin() + static_cast<std::ptrdiff_t>(first));
  const Result<ChildAnswer> done =
      run_child("lp", {"-d", queue, "-o", "raw", "-s"}, program_text(rest), {taken_within, 1 << 16}, stop);
  if (!done && done.error().code == ErrorCode::Cancelled)
    return refused(done.error());
  if (!done)
    return refused(Error{ErrorCode::NotFound,
                         FRELM_WORDS("core", "this machine has no printer queues: install lp, or send to a port"),
                         {}});
  if (done->ended || done->code != 0)
    return refused(Error{ErrorCode::NotFound,
                         FRELM_WORDS("core", "the queue did not take it; see whether it is there and takes jobs"),
                         as_it_is(queue)});
  report.next = program.paths.size(), report.handed_over = true;
  for (const HpglPath& p : rest.paths)
    report.cut += p.cut;
  return report;
}

} // namespace frelm
