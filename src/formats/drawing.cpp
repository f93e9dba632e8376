#include "formats/drawing.h"

#include <algorithm>

namespace frelm {

Words words_of(Lost what) {
  switch (what) {
  case Lost::Text:
    return FRELM_WORDS("core", "text");
  case Lost::Picture:
    return FRELM_WORDS("core", "picture");
  case Lost::OtherContent:
    return FRELM_WORDS("core", "page inside the drawing");
  case Lost::Dimension:
    return FRELM_WORDS("core", "dimension or leader");
  case Lost::Endless:
    return FRELM_WORDS("core", "construction line without an end");
  case Lost::CutShort:
    return FRELM_WORDS("core", "rest of a file that is cut short");
  case Lost::Damaged:
    return FRELM_WORDS("core", "damaged part of the file");
  case Lost::BrokenPath:
    return FRELM_WORDS("core", "rest of a path behind an error");
  case Lost::Missing:
    return FRELM_WORDS("core", "copy of something that isn't there");
  case Lost::OtherFile:
    return FRELM_WORDS("core", "copy of something in another file");
  case Lost::TooMuch:
    return FRELM_WORDS("core", "copies or groups beyond all bounds");
  case Lost::Beyond:
    return FRELM_WORDS("core", "shape too far out for any sheet");
  case Lost::OffPage:
    return FRELM_WORDS("core", "shape outside of the drawing's page");
  case Lost::Unclipped:
    return FRELM_WORDS("core", "clip or mask; what it hides was taken");
  case Lost::Marker:
    return FRELM_WORDS("core", "arrowhead or other marker");
  case Lost::Pattern:
    return FRELM_WORDS("core", "pattern; its area was taken");
  case Lost::Effect:
    return FRELM_WORDS("core", "blur, shadow or other effect");
  case Lost::Fading:
    return FRELM_WORDS("core", "shade that fades away; all of its area was taken");
  case Lost::Gradient:
    return FRELM_WORDS("core", "gradient; taken as one colour");
  case Lost::Tangled:
    return FRELM_WORDS("core", "tangle of lines; taken as it is written");
  case Lost::Unread:
    return FRELM_WORDS("core", "something that can't be read");
  case Lost::OtherStyles:
    return FRELM_WORDS("core", "style sheet in another file");
  case Lost::OtherFace:
    return FRELM_WORDS("core", "face that the file doesn’t hold, shown in another");
  case Lost::Double:
    return FRELM_WORDS("core", "line that stands there twice");
  case Lost::Tiny:
    return FRELM_WORDS("core", "flat or tiny shape");
  }
  return {};
}

Said words_of(const LeftOut& l) {
  const Words what = words_of(l.what);
  const std::string count = std::to_string(l.count);
  if (!l.detail.empty())
    return l.count > 1 ? say(FRELM_WORDS("core", "%1 (%2; first: %3)"), what, count, l.detail)
                       : say(FRELM_WORDS("core", "%1 (%2)"), what, l.detail);
  return l.count > 1 ? say(FRELM_WORDS("core", "%1 (%2)"), what, count) : Said(what);
}

std::string in_one_line(const std::vector<LeftOut>& list) {
  std::string out;
  for (const LeftOut& l : list)
    out.append(out.empty() ? "" : ", ").append(english(words_of(l)));
  return out;
}

Result<Done> shows_something(const Drawing& drawing) {
  if (!drawing.shapes.empty())
    return Done{};
  if (drawing.left_out.empty())
    return bad_input(FRELM_WORDS("core", "the drawing shows no shapes; save it with its shapes as paths"));
  return bad_input(say(FRELM_WORDS("core", "the drawing shows nothing that can be cut, only what can't be taken: %1. "
                                           "Turn it into paths where it was made"),
                       in_one_line(drawing.left_out)));
}

void LeftOutList::add(Lost what, const Box& place, const std::string& detail, std::size_t count) {
  add(LeftOut{what, count, place.empty() ? std::vector<Box>{} : std::vector{place}, detail});
}

void LeftOutList::add(const LeftOut& more) {
  if (more.count == 0)
    return;
  auto at = std::find_if(list_.begin(), list_.end(), [&](const LeftOut& l) { return l.what == more.what; });
  if (at == list_.end())
    at = list_.insert(list_.end(), LeftOut{more.what, 0, {}, {}});
  constexpr std::size_t most_places = 1000, longest_detail = 120;
  at->count += more.count;
  const std::size_t room = most_places - std::min(most_places, at->places.size());
  at->places.insert(at->places.end(), more.places.begin(),
                    more.places.begin() + static_cast<std::ptrdiff_t>(std::min(room, more.places.size())));
  if (at->detail.empty())
    at->detail = more.detail.substr(0, longest_detail);
}

std::vector<LeftOut> LeftOutList::list() const {
  std::vector<LeftOut> out = list_;
  std::sort(out.begin(), out.end(), [](const LeftOut& a, const LeftOut& b) { return a.what < b.what; });
  return out;
}

} // namespace frelm
