#include "cli/program.h"

#include <csignal>
#include <iostream>

int main(int argc, char** argv) {
  std::signal(SIGXFSZ, SIG_IGN); // a file that may not grow is told, like a full disk
  try {
    return frelm::run_program(std::vector<std::string>(argv + 1, argv + argc), std::cout, std::cerr);
  } catch (const std::exception& e) {
    std::cerr << "frelm-cli: something went wrong inside: " << e.what() << "\n";
    return 2;
  }
}
