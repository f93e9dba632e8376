// A job as one SVG: what any browser shows is the sheet as it is seen, and the job file stands in its metadata, so that
// it opens live again. The metadata also says what was drawn (of every shape colour, contours, extents, area); a
// drawing that another program changed since is told.
#pragma once

#include "document/versions.h"
#include "formats/svg.h"
#include "type/face_library.h"

#include <optional>

namespace frelm {

// Never fails, since it is how a job is saved: what can't be set is missing in the drawing, and there in the job.
std::string write_job_svg(const Document& document, const DocumentEvaluator& evaluator, const Versions& versions = {},
                          const std::stop_token& stop = {});

struct JobInSvg {
  std::string job; // the job file's bytes
  bool drawing_changed = false;
};
// Nothing: a drawing without a job.
std::optional<JobInSvg> job_in_svg(std::string_view bytes);

} // namespace frelm
