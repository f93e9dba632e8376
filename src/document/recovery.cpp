#include "document/recovery.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <sys/file.h>
#include <unistd.h>

namespace frelm {
namespace {

constexpr int most_programs = 256;
constexpr const char* header = "frelm-recovery ";

int try_lock(const std::string& path) {
  const int fd = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
  if (fd < 0)
    return -1;
  if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
    ::close(fd);
    return -1;
  }
  return fd;
}

} // namespace

Recovery::Recovery(std::string folder, Storage& storage) : folder_(std::move(folder)), storage_(storage) {
  std::error_code failed;
  std::filesystem::create_directories(folder_, failed);
  for (int i = 0; i < most_programs && !failed; ++i) {
    const std::string file = folder_ + "/" + std::to_string(i) + ".frelm";
    if (std::filesystem::exists(file))
      continue; // somebody's, or left behind
    lock_ = try_lock(file + ".lock");
    if (lock_ < 0)
      continue;
    if (std::filesystem::exists(file)) { // taken in between
      ::close(lock_);
      lock_ = -1;
      continue;
    }
    file_ = file;
    return;
  }
  problem_ = Error{ErrorCode::Unwritable, "unsaved work can't be kept safe here; save often", folder_};
}

Recovery::~Recovery() {
  if (lock_ >= 0)
    ::close(lock_);
}

Result<Done> Recovery::keep(const std::string& job_path, const std::string& job_bytes) {
  if (problem_)
    return *problem_;
  return storage_.write(file_, header + job_path + "\n" + job_bytes);
}

void Recovery::discard() {
  if (!problem_)
    (void)storage_.remove(file_).ok();
}

std::vector<RecoveredJob> Recovery::left_behind() const {
  std::vector<RecoveredJob> out;
  std::error_code failed;
  std::vector<std::filesystem::path> files;
  for (const auto& entry : std::filesystem::directory_iterator(folder_, failed))
    if (entry.path().extension() == ".frelm" && entry.path() != file_)
      files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  for (const auto& path : files) {
    const int lock = try_lock(path.string() + ".lock");
    if (lock < 0)
      continue;
    ::close(lock);
    const Result<std::string> bytes = storage_.read(path.string());
    if (!bytes || !bytes->starts_with(header))
      continue;
    const std::size_t line = bytes->find('\n');
    if (line == std::string::npos)
      continue;
    out.push_back(
        {path.string(), bytes->substr(std::strlen(header), line - std::strlen(header)), bytes->substr(line + 1)});
  }
  return out;
}

void Recovery::forget(const RecoveredJob& job) {
  (void)storage_.remove(job.file).ok();
}

} // namespace frelm
