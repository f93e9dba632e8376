// The job file, `.frelm`: JSON, documented in docs/file-format.md.
#pragma once

#include "document/document.h"
#include "type/face_library.h"

#include <string>
#include <string_view>

namespace frelm {

inline constexpr int job_file_version = 4;

// UTF-8 bytes, with the shapes of all letters used. Faces that can't be found keep the shapes the document carries.
std::string write_job(const Document& document, const FaceLibrary& faces);

// Unknown fields are ignored. Errors: not JSON or cut short, not a job file, a later version, a value out of range;
// `where` names the place in the file.
Result<Document> read_job(std::string_view bytes);

} // namespace frelm
