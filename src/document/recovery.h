// Recovery: what was being edited, kept where a crash cannot take it.
//
// A folder holds one file per running program, `<number>.frelm`, and a lock beside it that the system frees when the
// program ends, however it ends. A file whose lock is free belongs to nobody: it is offered at the next start, to one
// program only, which holds its lock as long as it may still bring it back.
// The file: "frelm-recovery 2 N\n", N bytes of the path of the job it came from, "\n", the job file's bytes. Up to
// version 1 the first line was "frelm-recovery PATH".
#pragma once

#include "document/storage.h"

#include <chrono>
#include <memory>
#include <optional>
#include <vector>

namespace frelm {

class FileLock {
public:
  explicit FileLock(int file) : file_(file) {}
  ~FileLock();
  FileLock(const FileLock&) = delete;
  FileLock& operator=(const FileLock&) = delete;

private:
  int file_;
};

// Nothing: another program has it, or it can't be made.
std::shared_ptr<const FileLock> try_lock(const std::string& path);

struct RecoveredJob {
  std::string file;     // the recovery file
  std::string job_path; // where it was saved last; empty if never
  std::string bytes;    // the job
  std::chrono::system_clock::time_point kept;
  std::shared_ptr<const FileLock> lock; // no other program is offered it meanwhile
};

class Recovery {
public:
  // Takes a free number in the folder, which is made if need be. When that fails nothing is kept, and `problem` says
  // so.
  Recovery(std::string folder, Storage& storage);
  Recovery(const Recovery&) = delete;
  Recovery& operator=(const Recovery&) = delete;

  Result<Done> keep(const std::string& job_path, const std::string& job_bytes);
  // The job is saved or given up: nothing to recover.
  void discard();
  std::optional<Error> problem() const { return problem_; }

  // What dead programs left behind, the newest first. Damaged files and folders that can't be read are skipped.
  std::vector<RecoveredJob> left_behind() const;
  void forget(const RecoveredJob& job);

private:
  std::string folder_, file_;
  Storage& storage_;
  std::shared_ptr<const FileLock> lock_;
  std::optional<Error> problem_;
};

} // namespace frelm
