// Recovery: what was being edited, kept where a crash cannot take it.
//
// A folder holds one file per running program, `<number>.frelm`, and a lock beside it that the system frees when the
// program ends, however it ends. A file whose lock is free belongs to nobody: it is offered at the next start.
// The first line names the job it came from; the job file's bytes follow.
#pragma once

#include "document/storage.h"

#include <memory>
#include <optional>
#include <vector>

namespace frelm {

struct RecoveredJob {
  std::string file;     // the recovery file
  std::string job_path; // where it was saved last; empty if never
  std::string bytes;    // the job
};

class Recovery {
public:
  // Takes a free number in the folder, which is made if need be. When that fails nothing is kept, and `problem` says
  // so.
  Recovery(std::string folder, Storage& storage);
  ~Recovery();
  Recovery(const Recovery&) = delete;
  Recovery& operator=(const Recovery&) = delete;

  Result<Done> keep(const std::string& job_path, const std::string& job_bytes);
  // The job is saved or given up: nothing to recover.
  void discard();
  std::optional<Error> problem() const { return problem_; }

  // Files that a dead program left behind. Damaged ones are skipped.
  std::vector<RecoveredJob> left_behind() const;
  void forget(const RecoveredJob& job);

private:
  std::string folder_, file_;
  Storage& storage_;
  int lock_ = -1;
  std::optional<Error> problem_;
};

} // namespace frelm
