#include "pages/postscript.h"

#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <fcntl.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

extern char** environ;

namespace frelm::pages {
namespace {

std::size_t number_at(const std::string& bytes, std::size_t at) { // 32 bits, lowest byte first
  std::size_t out = 0;
  for (std::size_t i = 0; i < 4; ++i)
    out |= static_cast<std::size_t>(static_cast<unsigned char>(bytes[at + i])) << (8 * i);
  return out;
}

std::string without_preview(const std::string& bytes) {
  constexpr std::size_t header = 30;
  if (bytes.size() < header || bytes.compare(0, 4, "\xC5\xD0\xD3\xC6") != 0)
    return bytes;
  const std::size_t from = number_at(bytes, 4), length = number_at(bytes, 8);
  return from < bytes.size() ? bytes.substr(from, length) : std::string();
}

bool write_file(const std::string& path, const std::string& bytes) {
  std::FILE* file = std::fopen(path.c_str(), "wb");
  if (file == nullptr)
    return false;
  const bool all = std::fwrite(bytes.data(), 1, bytes.size(), file) == bytes.size();
  return std::fclose(file) == 0 && all;
}

bool read_file(const std::string& path, std::string& bytes) {
  std::FILE* file = std::fopen(path.c_str(), "rb");
  if (file == nullptr)
    return false;
  bytes.clear();
  char some[1 << 16];
  for (std::size_t n = 0; (n = std::fread(some, 1, sizeof some, file)) > 0;)
    bytes.append(some, n);
  std::fclose(file);
  return !bytes.empty();
}

} // namespace

Answer pdf_of_postscript(std::string& bytes) {
  const char* room = std::getenv("TMPDIR");
  const std::string in = std::string(room == nullptr ? "/tmp" : room) + "/page.ps";
  const std::string out = std::string(room == nullptr ? "/tmp" : room) + "/page.pdf";
  if (!write_file(in, without_preview(bytes)))
    return Answer::TooMuch;
  unsetenv("GS_OPTIONS");
  unsetenv("GS_LIB");
  // 7200 dpi: places to 1/100 of that, 0.00004 mm, in the numbers that it writes.
  std::vector<std::string> words{"gs",
                                 "-dSAFER",
                                 "-dBATCH",
                                 "-dNOPAUSE",
                                 "-dQUIET",
                                 "-sDEVICE=pdfwrite",
                                 "-r7200",
                                 "-dEPSCrop",
                                 "-dAutoRotatePages=/None",
                                 "-dCompressPages=false",
                                 "-sOutputFile=" + out,
                                 in};
  std::vector<char*> arguments;
  for (std::string& word : words)
    arguments.push_back(word.data());
  arguments.push_back(nullptr);
  posix_spawn_file_actions_t files;
  posix_spawn_file_actions_init(&files);
  posix_spawn_file_actions_addopen(&files, 0, "/dev/null", O_RDONLY, 0);
  posix_spawn_file_actions_addopen(&files, 1, "/dev/null", O_WRONLY, 0);
  pid_t child = 0;
  const int started = posix_spawnp(&child, "gs", &files, nullptr, arguments.data(), environ);
  posix_spawn_file_actions_destroy(&files);
  if (started != 0)
    return started == ENOENT ? Answer::NoGhostscript : Answer::Unreadable;
  int status = 0;
  while (waitpid(child, &status, 0) < 0 && errno == EINTR)
    ;
  const bool ended_well = WIFEXITED(status) && WEXITSTATUS(status) == 0;
  if (!ended_well && WIFSIGNALED(status))
    return Answer::TooMuch;
  return ended_well && read_file(out, bytes) ? Answer::Done : Answer::Unreadable;
}

} // namespace frelm::pages
