// What was cut, when, and how it ended: a line of JSON each in one file, the oldest first.
#pragma once

#include "document/storage.h"
#include "send/sender.h"

#include <vector>

namespace frelm {

inline constexpr std::size_t most_logged = 2000; // the oldest go

struct CutLogEntry {
  std::string when; // ISO 8601, of the machine's own zone
  std::string job, material, cutter;
  std::size_t paths = 0, whole_paths = 0; // cut, of
  double cut = 0, seconds = 0;            // mm
  std::string ended;                      // empty: all was cut; else why it stopped
  bool operator==(const CutLogEntry&) const = default;
};

// A line that can't be read is passed over. Errors: the disk's, but a file that isn't there is an empty log.
Result<std::vector<CutLogEntry>> read_cut_log(Storage& storage, const std::string& path);
Result<Done> add_to_cut_log(Storage& storage, const std::string& path, const CutLogEntry& entry);
std::string time_now();
// What is known when it ended: now, with this report of a program of so many paths.
CutLogEntry ended_now(CutLogEntry about, const SendReport& report, std::size_t whole_paths);

} // namespace frelm
