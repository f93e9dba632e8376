// frelm-cli: the core on the command line. Exit 0 fine, 1 findings, 2 could not do it (one line on stderr).
#pragma once

#include "geom/result.h"

#include <iosfwd>
#include <string>
#include <vector>

namespace frelm {

int run_program(const std::vector<std::string>& arguments, std::ostream& out, std::ostream& err);

} // namespace frelm
