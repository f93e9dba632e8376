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

// Writes beside the target, flushes to the disk, renames. Errors name the file and the system's reason.
class DiskStorage final : public Storage {
public:
  Result<std::string> read(const std::string& path) override;
  Result<Done> write(const std::string& path, const std::string& bytes) override;
  Result<Done> remove(const std::string& path) override;
};

} // namespace frelm
