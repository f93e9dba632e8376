#include "document/storage.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <sys/stat.h>
#include <unistd.h>

namespace frelm {
namespace {

Error disk_error(ErrorCode code, const std::string& what, const std::string& path, int number) {
  std::string advice;
  if (number == ENOSPC || number == EDQUOT)
    advice = "; free some space and try again";
  if (number == EACCES || number == EPERM || number == EROFS)
    advice = "; choose a folder you may write to";
  return {code, what + ": " + std::strerror(number) + advice, path};
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

} // namespace

Result<std::string> DiskStorage::read(const std::string& path) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (file < 0)
    return disk_error(ErrorCode::Unreadable, "the file can't be read", path, errno);
  std::string out;
  char buffer[1 << 16];
  for (;;) {
    const ssize_t n = ::read(file, buffer, sizeof buffer);
    if (n < 0 && errno == EINTR)
      continue;
    if (n < 0) {
      const int number = errno;
      ::close(file);
      return disk_error(ErrorCode::Unreadable, "the file can't be read", path, number);
    }
    if (n == 0)
      break;
    out.append(buffer, static_cast<std::size_t>(n));
  }
  ::close(file);
  return out;
}

Result<Done> DiskStorage::write(const std::string& path, const std::string& bytes) {
  const std::string beside = path + ".part" + std::to_string(::getpid());
  const int file = ::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0666);
  if (file < 0)
    return disk_error(ErrorCode::Unwritable, "the file can't be written", path, errno);
  struct stat was {};
  if (::stat(path.c_str(), &was) == 0)
    (void)!::fchmod(file, was.st_mode & 07777);
  if (!write_all(file, bytes) || ::fsync(file) != 0) {
    const int number = errno;
    ::close(file);
    ::unlink(beside.c_str());
    return disk_error(ErrorCode::Unwritable, "the file can't be written", path, number);
  }
  ::close(file);
  if (::rename(beside.c_str(), path.c_str()) != 0) {
    const int number = errno;
    ::unlink(beside.c_str());
    return disk_error(ErrorCode::Unwritable, "the file can't be put in place", path, number);
  }
  // The rename itself must reach the disk too.
  const std::string folder = std::filesystem::path(path).parent_path().string();
  if (const int dir = ::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); dir >= 0) {
    ::fsync(dir);
    ::close(dir);
  }
  return Done{};
}

Result<Done> DiskStorage::remove(const std::string& path) {
  if (::unlink(path.c_str()) != 0 && errno != ENOENT)
    return disk_error(ErrorCode::Unwritable, "the file can't be removed", path, errno);
  return Done{};
}

} // namespace frelm
