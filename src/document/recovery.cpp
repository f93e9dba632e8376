// A lock is flock's, which goes with its last file descriptor, however the program ends; files are written by
// document/storage.
#include "document/recovery.h"

#include <algorithm>
#include <charconv>
#include <fcntl.h>
#include <filesystem>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace frelm {
namespace {

constexpr int most_programs = 256;
constexpr std::string_view header = "frelm-recovery ", version = "2 ";

bool exists(const std::string& path) {
  struct stat found {};
  return ::lstat(path.c_str(), &found) == 0;
}

// The path and the job in a recovery file; nothing where it is damaged.
std::optional<std::pair<std::string, std::string>> parts_of(std::string_view bytes) {
  if (!bytes.starts_with(header))
    return std::nullopt;
  bytes.remove_prefix(header.size());
  const std::size_t line = bytes.find('\n');
  if (line == std::string_view::npos)
    return std::nullopt;
  if (!bytes.starts_with(version)) // version 1
    return std::pair{std::string(bytes.substr(0, line)), std::string(bytes.substr(line + 1))};
  std::size_t length = 0;
  const auto [end, status] = std::from_chars(bytes.data() + version.size(), bytes.data() + line, length);
  bytes.remove_prefix(line + 1);
  if (status != std::errc() || bytes.size() <= length || bytes[length] != '\n')
    return std::nullopt;
  return std::pair{std::string(bytes.substr(0, length)), std::string(bytes.substr(length + 1))};
}

} // namespace

std::shared_ptr<const FileLock> try_lock(const std::string& path) {
  const int fd = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
  if (fd < 0)
    return nullptr;
  if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
    ::close(fd);
    return nullptr;
  }
  return std::make_shared<const FileLock>(fd);
}

FileLock::~FileLock() {
  ::close(file_);
}

Recovery::Recovery(std::string folder, Storage& storage) : folder_(std::move(folder)), storage_(storage) {
  std::error_code failed;
  std::filesystem::create_directories(folder_, failed);
  for (int i = 0; i < most_programs && !failed; ++i) {
    const std::string file = folder_ + "/" + std::to_string(i) + ".frelm";
    if (exists(file))
      continue; // somebody's, or left behind
    lock_ = try_lock(file + ".lock");
    if (lock_ == nullptr)
      continue;
    if (exists(file)) { // taken in between
      lock_.reset();
      continue;
    }
    file_ = file;
    return;
  }
  problem_ = Error{ErrorCode::Unwritable, FRELM_WORDS("core", "unsaved work can't be kept safe here; save often"),
                   as_it_is(folder_)};
}

Result<Done> Recovery::keep(const std::string& job_path, const std::string& job_bytes) {
  if (problem_)
    return *problem_;
  const std::string first = std::string(header) + std::string(version) + std::to_string(job_path.size());
  return storage_.write(file_, first + "\n" + job_path + "\n" + job_bytes);
}

void Recovery::discard() {
  if (!problem_)
    (void)storage_.remove(file_).ok();
}

std::vector<RecoveredJob> Recovery::left_behind() const {
  std::vector<RecoveredJob> out;
  std::error_code failed;
  std::filesystem::directory_iterator entry(folder_, failed);
  for (; !failed && entry != std::filesystem::directory_iterator(); entry.increment(failed)) {
    const std::string file = entry->path().string();
    if (!file.ends_with(".frelm") || file == file_)
      continue;
    RecoveredJob job;
    job.file = file;
    job.lock = try_lock(file + ".lock");
    struct stat found {};
    if (job.lock == nullptr || ::stat(file.c_str(), &found) != 0) // another program's, or forgotten just now
      continue;
    job.kept = std::chrono::system_clock::from_time_t(found.st_mtime);
    const Result<std::string> bytes = storage_.read(file);
    if (!bytes)
      continue;
    auto parts = parts_of(*bytes);
    if (!parts)
      continue;
    std::tie(job.job_path, job.bytes) = std::move(*parts);
    out.push_back(std::move(job));
  }
  std::sort(out.begin(), out.end(), [](const RecoveredJob& a, const RecoveredJob& b) {
    return a.kept != b.kept ? a.kept > b.kept : a.file < b.file;
  });
  return out;
}

void Recovery::forget(const RecoveredJob& job) {
  (void)storage_.remove(job.file).ok();
}

} // namespace frelm
