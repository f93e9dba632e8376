// The job file, `.frelm`: JSON, documented in docs/file-format.md.
#pragma once

#include "document/versions.h"
#include "type/face_library.h"

#include <string>
#include <string_view>

namespace frelm {

inline constexpr int job_file_version = 16;

// Of a valid document: UTF-8 bytes that read back equal, with the shapes of all letters used. Faces that can't be found
// keep the shapes the document carries.
std::string write_job(const Document& document, const FaceLibrary& faces, const Versions& versions = {});

// A document that is valid (validity.h). Unknown fields are ignored. Errors: not JSON or cut short, not a job file, a
// later version, a value that can't be; `where` names the place in the file.
Result<Document> read_job(std::string_view bytes);

// The same, but pieces that can't be read are left out and told: each loss with the piece's name, the reason and its
// place in the file. What followed a lost piece goes with it, or loses its guide.
struct JobLoss {
  std::string name;
  Error error;
};
struct ReadJob {
  Document document;
  std::vector<JobLoss> lost; // empty: all is there
  Versions versions = {};    // each with what of it could be read
};
Result<ReadJob> read_what_can_be_read(std::string_view bytes);

} // namespace frelm
