// frelm-pages: one page of a PDF or PostScript file as SVG at true size.
//
//   frelm-pages pdf|ps PAGE < FILE > OUT
//
// A program of its own, because what reads pages runs other people's data through much code: here it has little
// memory, little time, no other file, and can be ended at any moment. What it prints: lines "NAME VALUE", an empty
// line, the SVG. Exit codes: pages/answers.h. Temporary files stand in $TMPDIR, which the caller removes.
#include "pages/answers.h"
#include "pages/one_page.h"
#include "pages/page_svg.h"
#include "pages/postscript.h"

#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <unistd.h>

namespace {

using namespace frelm::pages;

constexpr rlim_t most_memory = rlim_t{256} << 20; // bytes
constexpr rlim_t most_seconds = 4;                // of a processor, for each program
constexpr rlim_t largest_file = rlim_t{256} << 20;

void limit(int what, rlim_t most) {
  const rlimit both{most, most};
  setrlimit(static_cast<__rlimit_resource_t>(what), &both);
}

std::string standard_input() {
  std::string out;
  char some[1 << 16];
  for (ssize_t n = 0; (n = read(0, some, sizeof some)) > 0;)
    out.append(some, static_cast<std::size_t>(n));
  return out;
}

} // namespace

int main(int argc, char** argv) {
  if (argc != 3)
    return static_cast<int>(Answer::Misuse);
  prctl(PR_SET_PDEATHSIG, SIGKILL); // nobody would read it
  limit(RLIMIT_DATA, most_memory);
  limit(RLIMIT_CPU, most_seconds);
  limit(RLIMIT_FSIZE, largest_file);
  limit(RLIMIT_CORE, 0);

  std::string bytes = standard_input();
  if (std::string(argv[1]) == "ps")
    if (const Answer made = pdf_of_postscript(bytes); made != Answer::Done)
      return static_cast<int>(made);
  OnePage page;
  if (const Answer taken = take_page(bytes, std::atoi(argv[2]), page); taken != Answer::Done)
    return static_cast<int>(taken);
  std::string svg;
  if (const Answer drawn = svg_of_page(page, svg); drawn != Answer::Done)
    return static_cast<int>(drawn);

  std::printf("pages %d\neffects %d\nfaces %d\nface %s\ndamage %s\n\n", page.pages, page.effects,
              static_cast<int>(page.other_faces.size()), page.other_faces.empty() ? "" : page.other_faces[0].c_str(),
              page.damage.c_str());
  return std::fwrite(svg.data(), 1, svg.size(), stdout) == svg.size() && std::fflush(stdout) == 0
             ? 0
             : static_cast<int>(Answer::Unreadable);
}
