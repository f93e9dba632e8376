// Its input is a file in memory, so nothing has to be written while it is read; its output a pipe that is read as it
// comes, until it is shut.
#include "formats/child_program.h"

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

extern char** environ;

namespace frelm {
namespace {

class Descriptor {
public:
  explicit Descriptor(int fd) : fd_(fd) {}
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  ~Descriptor() { shut(); }
  void shut() {
    if (fd_ >= 0)
      close(fd_);
    fd_ = -1;
  }
  int operator*() const { return fd_; }

private:
  int fd_;
};

class OwnFolder {
public:
  OwnFolder() {
    std::error_code failed;
    std::string name = (std::filesystem::temp_directory_path(failed) / "frelm-XXXXXX").string();
    if (!failed && mkdtemp(name.data()) != nullptr)
      path_ = name;
  }
  OwnFolder(const OwnFolder&) = delete;
  OwnFolder& operator=(const OwnFolder&) = delete;
  ~OwnFolder() {
    std::error_code ignored;
    if (!path_.empty())
      std::filesystem::remove_all(path_, ignored);
  }
  const std::string& path() const { return path_; }

private:
  std::string path_;
};

bool fill(int fd, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t n = write(fd, bytes.data(), bytes.size());
    if (n < 0 && errno != EINTR)
      return false;
    bytes.remove_prefix(n > 0 ? static_cast<std::size_t>(n) : 0);
  }
  return lseek(fd, 0, SEEK_SET) == 0;
}

std::vector<std::string> surroundings(const std::string& folder) {
  std::vector<std::string> out{"TMPDIR=" + folder};
  for (char** one = environ; *one != nullptr; ++one)
    if (std::strncmp(*one, "TMPDIR=", 7) != 0 && std::strncmp(*one, "LC_", 3) != 0)
      out.emplace_back(*one);
  out.emplace_back("LC_ALL=C");
  return out;
}

std::vector<char*> pointers(std::vector<std::string>& words) {
  std::vector<char*> out;
  for (std::string& word : words)
    out.push_back(word.data());
  out.push_back(nullptr);
  return out;
}

} // namespace

Result<ChildAnswer> run_child(const std::string& program, const std::vector<std::string>& arguments,
                              std::string_view input, const ChildLimits& limits, const std::stop_token& stop) {
  const OwnFolder folder;
  const Descriptor in(memfd_create("frelm", MFD_CLOEXEC));
  int ends[2] = {-1, -1};
  if (folder.path().empty() || *in < 0 || !fill(*in, input) || pipe2(ends, O_CLOEXEC) != 0)
    return Error{ErrorCode::Unwritable, FRELM_WORDS("core", "there is no room for temporary files"), {}};
  const Descriptor out(ends[0]);
  Descriptor theirs(ends[1]);

  posix_spawn_file_actions_t files;
  posix_spawn_file_actions_init(&files);
  posix_spawn_file_actions_adddup2(&files, *in, 0);
  posix_spawn_file_actions_adddup2(&files, *theirs, 1);
  posix_spawn_file_actions_addopen(&files, 2, "/dev/null", O_WRONLY, 0);
  posix_spawnattr_t how;
  posix_spawnattr_init(&how);
  sigset_t none, all;
  sigemptyset(&none), sigfillset(&all);
  posix_spawnattr_setsigmask(&how, &none);
  posix_spawnattr_setsigdefault(&how, &all);
  posix_spawnattr_setpgroup(&how, 0);
  posix_spawnattr_setflags(&how, POSIX_SPAWN_SETPGROUP | POSIX_SPAWN_SETSIGMASK | POSIX_SPAWN_SETSIGDEF);
  std::vector<std::string> words{program}, around = surroundings(folder.path());
  words.insert(words.end(), arguments.begin(), arguments.end());
  pid_t child = 0;
  const int failed =
      posix_spawnp(&child, program.c_str(), &files, &how, pointers(words).data(), pointers(around).data());
  posix_spawn_file_actions_destroy(&files);
  posix_spawnattr_destroy(&how);
  theirs.shut();
  if (failed != 0)
    return Error{ErrorCode::Unsupported, FRELM_WORDS("core", "can't be started; is all of Frelm installed?"),
                 as_it_is(program)};

  ChildAnswer answer;
  const auto until = std::chrono::steady_clock::now() + std::chrono::duration<double>(limits.seconds);
  bool cut = false;
  for (;;) {
    if (stop.stop_requested() || std::chrono::steady_clock::now() > until || answer.bytes.size() > limits.most_bytes) {
      cut = true;
      break;
    }
    pollfd wait{*out, POLLIN, 0};
    constexpr int patience = 50; // ms between looks at the clock
    if (poll(&wait, 1, patience) <= 0)
      continue;
    char some[1 << 16];
    const ssize_t n = read(*out, some, sizeof some);
    if (n == 0)
      break;
    if (n > 0)
      answer.bytes.append(some, static_cast<std::size_t>(n));
  }
  if (cut)
    kill(-child, SIGKILL);
  int status = 0;
  while (waitpid(child, &status, 0) < 0 && errno == EINTR)
    ;
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  answer.ended = cut || !WIFEXITED(status);
  answer.code = WIFEXITED(status) ? WEXITSTATUS(status) : 0;
  return answer;
}

} // namespace frelm
