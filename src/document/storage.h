// The one way to the disk for jobs, recovery and exports; tests put a failing one in its place.
#pragma once

#include "geom/result.h"

#include <string>

namespace frelm {

class Storage {
public:
  virtual ~Storage() = default;
  virtual Result<std::string> read(const std::string& path) = 0;
  // All or nothing: what stood at path stays whole until the new bytes are safely on the disk.
  virtual Result<Done> write(const std::string& path, const std::string& bytes) = 0;
  virtual Result<Done> remove(const std::string& path) = 0;
};

// Writes a nameless file beside the target (one with a short name where the file system has none such), flushes it to
// the disk and renames it over the target. A program that is killed leaves nothing half written; between naming and
// renaming it can leave one whole file, which the next write to that folder a minute later clears. Links are followed
// to what they point at. Pipes and devices are written into, never replaced. A file that may be written in a folder
// that may not is overwritten in place. The target keeps its permissions, and one that may not be written is left
// alone. Paths are bytes, as the system has them. Errors name the file and the system's reason.
class DiskStorage final : public Storage {
public:
  Result<std::string> read(const std::string& path) override;
  Result<Done> write(const std::string& path, const std::string& bytes) override;
  Result<Done> remove(const std::string& path) override;
};

} // namespace frelm
