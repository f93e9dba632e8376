// Words as outlines, for sheets that people read: one face for Latin, else the first of the machine's that has all the
// letters.
#pragma once

#include "formats/page.h"
#include "lettering/set_text.h"
#include "type/face_library.h"

namespace frelm {

class TextLines {
public:
  explicit TextLines(const FaceLibrary& faces) : faces_(faces) {}

  // One line with its baseline's start at 0,0; cap height in mm. Empty for blanks.
  Outline line(const std::string& words, double caps);
  double width(const std::string& words, double caps); // advance, mm
  // Lines no wider than this, broken at spaces, else within a word; the last of `most` ends with "…" where there would
  // be more.
  std::vector<std::string> wrapped(const std::string& words, double caps, double width, std::size_t most);
  // What fits, with "…" where something had to go.
  std::string fitted(const std::string& words, double caps, double width);

private:
  std::shared_ptr<const SetText> set(const std::string& words, double caps);
  const FaceLibrary& faces_;
  std::map<std::pair<std::string, double>, std::shared_ptr<const SetText>> known_;
};

} // namespace frelm
