// How the commands get their input.
#pragma once

#include "cli/command.h"
#include "document/document.h"
#include "formats/import.h"

namespace frelm {

struct OpenJob {
  Document document;
  std::unique_ptr<FaceLibrary> faces; // with the job's carried shapes
};
Result<OpenJob> open_job(const std::string& path, CommandContext& context);
// Of --sheet: by its name in the job's list, or as #rrggbb.
Result<Colour> colour_of(const std::string& material, const Document& document);
// A drawing's shapes; errors name the file, also that of a drawing of which nothing can be taken. What is left out is
// told.
Result<Drawing> read_drawing_bytes(const std::string& path, const std::string& bytes, CommandContext& context,
                                   const DrawingReadOptions& options = {});
Result<Drawing> read_drawing_file(const std::string& path, CommandContext& context,
                                  const DrawingReadOptions& options = {});

} // namespace frelm
