// Backings in the job file.
#pragma once

#include "document/job_json.h"

namespace frelm::job_json {

Json backings(const std::vector<Backing>& list);
Backing backing(const At& at);

} // namespace frelm::job_json
