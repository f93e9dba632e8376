#include "type/face.h"

#include <fmt/format.h>

namespace frelm {

std::string FaceName::text() const {
  std::string out = style.empty() ? family : family + " " + style;
  for (const AxisValue& a : axes)
    out += fmt::format(", {} {:.6g}", a.tag, a.value);
  return out;
}

} // namespace frelm
