// What opening a file brings: a job, as much of it as can be read, or a drawing as a new job. Read away from the
// interface thread.
#pragma once

#include "document/job_file.h"
#include "document/storage.h"

#include <QString>

namespace frelm {

struct Opened {
  Document document;
  std::vector<JobLoss> lost;        // pieces that could not be read
  std::vector<std::string> skipped; // of a drawing
  bool drawing = false;
};

// Errors: those of the disk, of read_what_can_be_read and job_from_svg.
Result<Opened> read_to_open(Storage& storage, const QString& path);

// "Kite, piece 3 and 2 more" and why the first was not read.
QString describe_losses(const std::vector<JobLoss>& lost);

} // namespace frelm
