// Versions: the job as it was at moments that were given a name, kept in its file beside it. They are no part of what
// is undone: going back to one is a step of its own, and leaves all of them as they are.
#pragma once

#include "document/document.h"

namespace frelm {

inline constexpr std::size_t most_versions = 50;

struct Version {
  std::string name;
  std::string when;  // ISO 8601, as the clock of the machine said
  Document document; // without backings: those of the job stay
  bool operator==(const Version&) const = default;
};
using Versions = std::vector<Version>; // the oldest first

// Errors: no name, one that is not UTF-8, no room for more.
Result<Versions> with_version(Versions versions, const std::string& name, const std::string& when, Document document);
// The job as that version has it; the backings and the ids given out since stay, so that nothing is named twice.
Document gone_back(const Document& now, const Version& version);

} // namespace frelm
