#include "type/face_library.h"

#include "type/font_face.h"

#include <algorithm>
#include <filesystem>
#include <fontconfig/fontconfig.h>
#include <optional>
#include <set>

namespace frelm {
namespace {

std::string string_of(FcPattern* pattern, const char* key) {
  FcChar8* value = nullptr;
  return FcPatternGetString(pattern, key, 0, &value) == FcResultMatch ? reinterpret_cast<const char*>(value) : "";
}
int int_of(FcPattern* pattern, const char* key, int otherwise) {
  int value = otherwise;
  return FcPatternGetInteger(pattern, key, 0, &value) == FcResultMatch ? value : otherwise;
}

constexpr std::size_t most_varied = 24;

// One font as fontconfig describes it; nothing where it has no outlines. Of a variable one each named instance is a
// font, with its number in the index's upper half; the pattern for all its axes is left out.
std::optional<FaceEntry> entry_of(FcPattern* p, const std::string& file, bool bundled) {
  FcBool outline = FcFalse, variable = FcFalse;
  FcPatternGetBool(p, FC_OUTLINE, 0, &outline);
  FcPatternGetBool(p, FC_VARIABLE, 0, &variable);
  const std::string format = string_of(p, FC_FONTFORMAT);
  const int index = int_of(p, FC_INDEX, 0);
  FaceEntry entry{{string_of(p, FC_FAMILY), string_of(p, FC_STYLE)},
                  file,
                  index,
                  int_of(p, FC_WEIGHT, 80),
                  int_of(p, FC_SLANT, 0) != 0,
                  bundled};
  if (outline == FcFalse || variable == FcTrue || (format != "TrueType" && format != "CFF"))
    return std::nullopt;
  if (entry.name.family.empty())
    return std::nullopt;
  return entry;
}

std::vector<FaceEntry> bundled_fonts(const std::string& directory) {
  std::vector<FaceEntry> out;
  std::error_code failed;
  for (const auto& item : std::filesystem::recursive_directory_iterator(directory, failed)) {
    const std::string extension = item.path().extension().string(), file = item.path().string();
    if (extension != ".otf" && extension != ".ttf")
      continue;
    FcFontSet* set = FcFontSetCreate();
    constexpr unsigned all = -1U; // faces and named instances
    FcFreeTypeQueryAll(reinterpret_cast<const FcChar8*>(file.c_str()), all, nullptr, nullptr, set);
    for (int i = 0; i < set->nfont; ++i)
      if (std::optional<FaceEntry> entry = entry_of(set->fonts[i], file, true))
        out.push_back(std::move(*entry));
    FcFontSetDestroy(set);
  }
  return out;
}

std::vector<FaceEntry> system_fonts(std::vector<FaceWithoutOutlines>& without_outlines) {
  std::vector<FaceEntry> out;
  FcConfig* config = FcInitLoadConfigAndFonts();
  if (config == nullptr)
    return out;
  if (const FcFontSet* set = FcConfigGetFonts(config, FcSetSystem); set != nullptr)
    for (int i = 0; i < set->nfont; ++i) {
      FcPattern* font = set->fonts[i];
      if (std::optional<FaceEntry> entry = entry_of(font, string_of(font, FC_FILE), false))
        out.push_back(std::move(*entry));
      FcBool outline = FcTrue, colour = FcFalse;
      FcPatternGetBool(font, FC_OUTLINE, 0, &outline);
      FcPatternGetBool(font, FC_COLOR, 0, &colour);
      if (outline == FcFalse)
        without_outlines.push_back(
            {string_of(font, FC_FAMILY), colour == FcTrue ? NoOutlines::Pictures : NoOutlines::Pixels});
    }
  FcConfigDestroy(config);
  return out;
}

} // namespace

FaceLibrary::FaceLibrary(std::string bundled_directory, bool system_faces) {
  std::vector<FaceEntry> found;
  if (!bundled_directory.empty())
    found = bundled_fonts(bundled_directory);
  if (system_faces)
    for (FaceEntry& entry : system_fonts(without_outlines_))
      found.push_back(std::move(entry));
  std::set<FaceName> seen;
  for (FaceEntry& entry : found)
    if (seen.insert(entry.name).second)
      entries_.push_back(std::move(entry));
  std::sort(entries_.begin(), entries_.end(), [](const FaceEntry& a, const FaceEntry& b) {
    return std::tuple(!a.bundled, a.name.family, a.weight, a.slanted, a.name.style) <
           std::tuple(!b.bundled, b.name.family, b.weight, b.slanted, b.name.style);
  });
  const auto family = [](const FaceWithoutOutlines& f) { return f.family; };
  std::erase_if(without_outlines_, [&](const FaceWithoutOutlines& f) {
    return f.family.empty() ||
           std::any_of(entries_.begin(), entries_.end(), [&](const FaceEntry& e) { return e.name.family == f.family; });
  });
  std::ranges::sort(without_outlines_, {}, family);
  const auto same = [&](const FaceWithoutOutlines& a, const FaceWithoutOutlines& b) { return a.family == b.family; };
  without_outlines_.erase(std::unique(without_outlines_.begin(), without_outlines_.end(), same),
                          without_outlines_.end());
}

const FaceEntry* FaceLibrary::find(const FaceName& name) const {
  for (const FaceEntry& e : entries_)
    if (e.name.family == name.family && e.name.style == name.style)
      return &e;
  return nullptr;
}

std::shared_ptr<const Face> FaceLibrary::opened(const FaceName& name) const {
  const FaceName style{name.family, name.style};
  const auto known = open_.find(style);
  std::shared_ptr<const Face> face = known != open_.end() ? known->second : nullptr;
  if (face == nullptr) {
    const FaceEntry* entry = find(style);
    if (entry == nullptr)
      return nullptr;
    const Result<std::shared_ptr<const Face>> read = open_font(entry->file, entry->index);
    if (!read)
      return nullptr;
    face = open_.emplace(style, *read).first->second;
  }
  if (name.axes.empty())
    return face;
  const auto at = std::ranges::find(varied_, name, &std::pair<FaceName, std::shared_ptr<const Face>>::first);
  if (at != varied_.end()) {
    std::rotate(at, at + 1, varied_.end());
    return varied_.back().second;
  }
  std::shared_ptr<const Face> made = face->varied(name.axes);
  if (made == nullptr)
    return nullptr;
  if (varied_.size() == most_varied)
    varied_.erase(varied_.begin());
  varied_.emplace_back(name, made);
  return made;
}

Result<std::shared_ptr<const Face>> FaceLibrary::face(const FaceName& name) const {
  const std::lock_guard lock(mutex_);
  if (std::shared_ptr<const Face> face = opened(name))
    return face;
  if (const auto it = carried_.find(name); it != carried_.end())
    return it->second;
  if (!name.axes.empty() && find(name) != nullptr)
    return Error{ErrorCode::NotFound,
                 FRELM_WORDS("core", "the face on this machine can't be varied so; choose one of its styles"),
                 as_it_is(name.text())};
  return Error{ErrorCode::NotFound,
               FRELM_WORDS("core", "the face is not on this machine; install it or choose another"),
               as_it_is(name.text())};
}

void FaceLibrary::set_carried(std::vector<CarriedShapes> shapes) {
  const std::lock_guard lock(mutex_);
  carried_.clear();
  for (CarriedShapes& s : shapes) {
    const FaceName name = s.name;
    carried_.emplace(name, make_carried_face(std::move(s)));
  }
}

} // namespace frelm
