// How the commands get their input.
#pragma once

#include "cli/command.h"
#include "document/document.h"
#include "formats/svg.h"

namespace frelm {

struct OpenJob {
  Document document;
  std::unique_ptr<FaceLibrary> faces; // with the job's carried shapes
};
Result<OpenJob> open_job(const std::string& path, CommandContext& context);
// An SVG file's shapes; errors name the file.
Result<Drawing> read_drawing(const std::string& path, CommandContext& context);

} // namespace frelm
