// Written beside the target and renamed over it once it is whole and on the disk, so that a crash or a full disk leaves
// the old file; links are followed, what can't be replaced (a pipe, a device) is written into. Between a part file's
// name and its renaming a program can be killed; the next write to that folder clears such whole, nameless leftovers.
#include "document/storage.h"

#include <atomic>
#include <cerrno>
#include <charconv>
#include <climits>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <signal.h>
#include <string_view>
#include <sys/stat.h>
#include <unistd.h>

namespace frelm {
namespace {

Error disk_error(ErrorCode code, Words what, const std::string& path, int number) {
  const std::string reason = std::strerror(number);
  const auto told = [&]() -> Said {
    if (number == ENOSPC || number == EDQUOT)
      return say(FRELM_WORDS("core", "%1: %2; free some space and try again"), what, reason);
    if (number == EACCES || number == EPERM || number == EROFS)
      return say(FRELM_WORDS("core", "%1: %2; choose a folder you may write to"), what, reason);
    return say(FRELM_WORDS("core", "%1: %2"), what, reason);
  };
  return {code, told(), as_it_is(path)};
}

bool write_all(int file, const std::string& bytes) {
  for (std::size_t done = 0; done < bytes.size();) {
    const ssize_t n = ::write(file, bytes.data() + done, bytes.size() - done);
    if (n < 0 && errno == EINTR)
      continue;
    if (n < 0)
      return false;
    done += static_cast<std::size_t>(n);
  }
  return true;
}

constexpr std::string_view part_prefix = ".frelm-part-"; // then the writer's process and a number

std::string folder_of(const std::string& path) {
  const std::size_t slash = path.rfind('/');
  return slash == std::string::npos ? "." : slash == 0 ? "/" : path.substr(0, slash);
}

// The path that a chain of links ends at, whether anything stands there or not.
Result<std::string> followed(std::string path) {
  const std::string asked = path;
  constexpr int most_links = 40;
  for (int i = 0; i < most_links; ++i) {
    char to[PATH_MAX];
    const ssize_t n = ::readlink(path.c_str(), to, sizeof to);
    if (n < 0)
      return path;
    const std::string next(to, static_cast<std::size_t>(n));
    path = next.starts_with('/') ? std::string() : folder_of(path).append("/");
    path.append(next);
  }
  return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be written"), asked, ELOOP);
}

// The bytes on their way: a file in the folder that has no name until it is whole, or a short one of its own. Gone
// again when it is not renamed.
struct PartFile {
  explicit PartFile(const std::string& folder) : folder_(folder) {
    if (::access("/proc/self/fd", X_OK) == 0) // where a file without a name can be given one
      file = ::open(folder.c_str(), O_TMPFILE | O_WRONLY | O_CLOEXEC, 0666);
    if (file >= 0)
      return;
    name = own_name();
    file = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    problem = errno;
    if (file < 0)
      name.clear();
  }
  ~PartFile() {
    if (file >= 0)
      ::close(file);
    if (!name.empty())
      ::unlink(name.c_str());
  }
  PartFile(const PartFile&) = delete;
  PartFile& operator=(const PartFile&) = delete;

  bool give_name() {
    if (!name.empty())
      return true;
    const std::string wanted = own_name();
    ::unlink(wanted.c_str());
    const std::string open_file = "/proc/self/fd/" + std::to_string(file);
    if (::linkat(AT_FDCWD, open_file.c_str(), AT_FDCWD, wanted.c_str(), AT_SYMLINK_FOLLOW) != 0)
      return false;
    name = wanted;
    return true;
  }

  int file = -1;
  int problem = 0;
  std::string name; // with its folder; empty while it has none

private:
  std::string own_name() const {
    static std::atomic<unsigned> count = 0;
    return std::string(folder_).append("/").append(part_prefix) + std::to_string(::getpid()) + "-" +
           std::to_string(++count);
  }
  std::string folder_;
};

// Part files of programs that are gone. One that was written less than a minute before `now` (the folder's own clock)
// stays: on a shared folder its writer may run on another machine.
void clear_leftovers(const std::string& folder, time_t now) {
  constexpr time_t settled = 60;
  std::error_code broken;
  std::filesystem::directory_iterator at(folder, broken);
  for (; !broken && at != std::filesystem::directory_iterator(); at.increment(broken)) {
    const std::string name = at->path().filename().string();
    if (!name.starts_with(part_prefix))
      continue;
    pid_t writer = 0;
    const char* const digits = name.data() + part_prefix.size();
    const auto read = std::from_chars(digits, name.data() + name.size(), writer);
    struct stat was {};
    if (read.ec == std::errc() && writer > 0 && ::kill(writer, 0) != 0 && errno == ESRCH &&
        ::lstat(at->path().c_str(), &was) == 0 && S_ISREG(was.st_mode) && was.st_mtime + settled < now)
      ::unlink(at->path().c_str());
  }
}

// Into what stands there: a pipe, a device, or a file that can't be replaced.
Result<Done> write_into(const std::string& target, const std::string& bytes, int flags, const std::string& path) {
  const int file = ::open(target.c_str(), flags);
  if (file < 0)
    return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be written"), path, errno);
  const bool good = write_all(file, bytes) && (::fsync(file) == 0 || errno == EINVAL || errno == ENOTSUP);
  const int number = errno;
  ::close(file);
  if (!good)
    return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be written"), path, number);
  return Done{};
}

} // namespace

Result<std::string> DiskStorage::read(const std::string& path) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (file < 0)
    return disk_error(ErrorCode::Unreadable, FRELM_WORDS("core", "the file can't be read"), path, errno);
  std::string out;
  char buffer[1 << 16];
  for (;;) {
    const ssize_t n = ::read(file, buffer, sizeof buffer);
    if (n < 0 && errno == EINTR)
      continue;
    if (n < 0) {
      const int number = errno;
      ::close(file);
      return disk_error(ErrorCode::Unreadable, FRELM_WORDS("core", "the file can't be read"), path, number);
    }
    if (n == 0)
      break;
    out.append(buffer, static_cast<std::size_t>(n));
  }
  ::close(file);
  return out;
}

Result<Done> DiskStorage::write(const std::string& path, const std::string& bytes) {
  const auto refused = [&](int number) {
    return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be written"), path, number);
  };
  const Result<std::string> found = followed(path);
  if (!found)
    return found.error();
  const std::string& target = *found;
  struct stat was {};
  const bool there = ::stat(target.c_str(), &was) == 0;
  if (there && S_ISDIR(was.st_mode))
    return refused(EISDIR);
  if (there && ::access(target.c_str(), W_OK) != 0)
    return refused(errno);
  if (there && !S_ISREG(was.st_mode))
    return write_into(target, bytes, O_WRONLY | O_CLOEXEC | O_NOCTTY, path);
  const std::string folder = folder_of(target);
  PartFile part(folder);
  if (part.file < 0) {
    if (!there || (part.problem != EACCES && part.problem != EPERM && part.problem != EROFS))
      return refused(part.problem);
    constexpr int over = O_WRONLY | O_CLOEXEC | O_TRUNC;
    const Result<std::string> before = read(target);
    const Result<Done> written = write_into(target, bytes, over, path);
    if (!written && before)
      (void)write_into(target, *before, over, path).ok();
    return written.ok() ? Result<Done>(Done{}) : Result<Done>(written.error());
  }
  if (there)
    (void)!::fchmod(part.file, was.st_mode & 07777);
  if (!write_all(part.file, bytes) || ::fsync(part.file) != 0)
    return refused(errno);
  if (!part.give_name())
    return refused(errno);
  if (::rename(part.name.c_str(), target.c_str()) != 0)
    return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be put in place"), path, errno);
  part.name.clear();
  struct stat written {};
  if (::fstat(part.file, &written) == 0)
    clear_leftovers(folder, written.st_mtime);
  // The rename itself must reach the disk too.
  if (const int dir = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); dir >= 0) {
    ::fsync(dir);
    ::close(dir);
  }
  return Done{};
}

Result<Done> DiskStorage::remove(const std::string& path) {
  if (::unlink(path.c_str()) != 0 && errno != ENOENT)
    return disk_error(ErrorCode::Unwritable, FRELM_WORDS("core", "the file can't be removed"), path, errno);
  return Done{};
}

} // namespace frelm
