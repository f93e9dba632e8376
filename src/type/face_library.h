// The faces of this machine: the bundled ones first, then what fontconfig knows; and the shapes an open job carries.
#pragma once

#include "type/carried_face.h"
#include "type/face.h"

#include <map>
#include <mutex>

namespace frelm {

struct FaceEntry {
  FaceName name;
  std::string file;
  int index = 0;   // of the face in its file; from bit 16 on the number of a variable face's named instance, or 0
  int weight = 80; // fontconfig's scale: 80 regular, 200 bold
  bool slanted = false;
  bool bundled = false;
};

// A face of the machine that has no outlines to cut.
enum class NoOutlines { Pixels, Pictures };
struct FaceWithoutOutlines {
  std::string family;
  NoOutlines has = NoOutlines::Pixels;
};

class FaceLibrary {
public:
  // bundled_directory: our own faces (assets/faces); may be empty. system_faces: also list the machine's.
  FaceLibrary(std::string bundled_directory, bool system_faces);

  // Sorted: bundled before system, then by family, weight, slant.
  const std::vector<FaceEntry>& entries() const { return entries_; }
  // By family, each once.
  const std::vector<FaceWithoutOutlines>& without_outlines() const { return without_outlines_; }
  // The entry for a name: exact family and style, whatever the axes, or nothing.
  const FaceEntry* find(const FaceName& name) const;

  // The face itself: from its font file, varied along the axes named; else from carried shapes; else NotFound.
  // Thread-safe; a style is opened once, the last few varied ones are kept.
  Result<std::shared_ptr<const Face>> face(const FaceName& name) const;
  // A job's own shapes, used for faces that the machine lacks. Replaces what was carried before.
  void set_carried(std::vector<CarriedShapes> shapes);

private:
  std::shared_ptr<const Face> opened(const FaceName& name) const; // from its file; null where that is not to be had

  std::vector<FaceEntry> entries_;
  std::vector<FaceWithoutOutlines> without_outlines_;
  mutable std::mutex mutex_;
  mutable std::map<FaceName, std::shared_ptr<const Face>> open_;
  mutable std::vector<std::pair<FaceName, std::shared_ptr<const Face>>> varied_; // those used last at the end
  std::map<FaceName, std::shared_ptr<const Face>> carried_;
};

} // namespace frelm
