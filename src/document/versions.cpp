#include "document/versions.h"

#include "type/face.h"

namespace frelm {

Result<Versions> with_version(Versions versions, const std::string& name, const std::string& when, Document document) {
  if (name.empty() || to_utf8(from_utf8(name)) != name)
    return bad_input(FRELM_WORDS("core", "give the version a name"));
  if (versions.size() >= most_versions)
    return bad_input(FRELM_WORDS("core", "there is no room for more versions; remove one first"));
  document.backings.clear();
  document.carried = nullptr;
  versions.push_back({name, when, std::move(document)});
  return versions;
}

Document gone_back(const Document& now, const Version& version) {
  Document out = version.document;
  out.backings = now.backings;
  out.carried = now.carried;
  out.next_id = std::max(now.next_id, version.document.next_id);
  return out;
}

} // namespace frelm
