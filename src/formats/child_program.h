// Another program that is given bytes and gives bytes back, and can be ended at any moment. It and what it starts are
// a group of their own; temporary files stand in a folder of their own ($TMPDIR), which is gone afterwards.
#pragma once

#include "geom/result.h"

#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

namespace frelm {

struct ChildLimits {
  double seconds = 30; // by the clock
  std::size_t most_bytes = std::size_t{128} << 20;
};
struct ChildAnswer {
  int code = 0;       // what it ended with
  bool ended = false; // it crashed, or was ended by its limits or ours
  std::string bytes;
};
// A program without a slash in its name is looked for as the shell does. Errors: it can't be started, no room for its
// files, Cancelled.
Result<ChildAnswer> run_child(const std::string& program, const std::vector<std::string>& arguments,
                              std::string_view input, const ChildLimits& limits, const std::stop_token& stop);

} // namespace frelm
