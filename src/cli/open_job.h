#pragma once

#include "cli/command.h"
#include "document/document.h"

namespace frelm {

struct OpenJob {
  Document document;
  std::unique_ptr<FaceLibrary> faces; // with the job's carried shapes
};
Result<OpenJob> open_job(const std::string& path, CommandContext& context);

} // namespace frelm
