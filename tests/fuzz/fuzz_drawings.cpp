// Any bytes as a drawing: it is read or refused, and what is read can be cut: finite, joined, closed where it is an
// area. Nothing may crash, hang, read or compute out of bounds. Built as fuzz_geometry is; begin with the drawings of
// the tests:
//   build/fuzz/tests/fuzz/fuzz_drawings CORPUS tests/formats/drawings -max_len=4000 -max_total_time=600
#include "formats/import.h"

#include <cstdint>
#include <cstdio>
#include <cstdlib>

using namespace frelm;

namespace {

void check(bool good, const char* what) {
  if (good)
    return;
  std::fprintf(stderr, "%s\n", what);
  std::abort();
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const Result<Drawing> drawing = read_drawing({reinterpret_cast<const char*>(data), size});
  if (!drawing.ok()) {
    check(!drawing.error().text().empty(), "refused without a word");
    return 0;
  }
  for (const DrawnShape& s : drawing->shapes)
    for (const Contour& c : s.outline.contours) {
      check(!c.segments.empty(), "a contour of nothing");
      check(c.closed || s.line_width > 0, "an area that is not closed");
      for (std::size_t i = 0; i < c.segments.size(); ++i) {
        check(all_finite(c.segments[i]), "a place that is no number");
        check(i == 0 || c.segments[i].p0 == c.segments[i - 1].p3, "segments that don't join");
      }
      check(!c.closed || c.segments.back().p3 == c.segments.front().p0, "a closed contour with a gap");
    }
  if (const Result<Imported> job = job_from_drawing(*drawing); !job.ok())
    check(!job.error().text().empty(), "refused without a word");
  return 0;
}
