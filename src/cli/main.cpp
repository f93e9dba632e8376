#include "cli/program.h"

#include <iostream>

int main(int argc, char** argv) {
  return frelm::run_program(std::vector<std::string>(argv + 1, argv + argc), std::cout, std::cerr);
}
