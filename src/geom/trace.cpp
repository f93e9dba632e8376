// The one place that calls potrace.
#include "geom/trace.h"

#include <memory>
#include <potracelib.h>

namespace frelm {
namespace {

constexpr int most_pixels_a_side = 20000;
constexpr double default_tolerance_px = 0.25;
constexpr int word_bits = static_cast<int>(8 * sizeof(potrace_word));

struct Bits {
  std::vector<potrace_word> words;
  potrace_bitmap_t map{};
};

// Row 0 of potrace's map is the lowest.
Bits ink_of(const GreyPicture& picture, const TraceOptions& o) {
  Bits out;
  const int row = (picture.width + word_bits - 1) / word_bits;
  out.words.assign(static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.height), 0);
  for (int y = 0; y < picture.height; ++y)
    for (int x = 0; x < picture.width; ++x) {
      const auto at =
          static_cast<std::size_t>(y) * static_cast<std::size_t>(picture.width) + static_cast<std::size_t>(x);
      if ((picture.grey[at] < o.threshold * 255) == o.light_ink)
        continue;
      const auto word = static_cast<std::size_t>(picture.height - 1 - y) * static_cast<std::size_t>(row) +
                        static_cast<std::size_t>(x / word_bits);
      out.words[word] |= potrace_word{1} << (word_bits - 1 - x % word_bits);
    }
  out.map = {picture.width, picture.height, row, out.words.data()};
  return out;
}

Contour contour_of(const potrace_path_t& path, double scale, int height) {
  const auto point = [&](const potrace_dpoint_t& p) { return Point{p.x * scale, (height - p.y) * scale}; };
  Contour c;
  const potrace_curve_t& curve = path.curve;
  Point at = point(curve.c[curve.n - 1][2]);
  const Point start = at;
  for (int i = 0; i < curve.n; ++i) {
    const auto& p = curve.c[i];
    const Point end = i + 1 == curve.n ? start : point(p[2]);
    if (curve.tag[i] == POTRACE_CORNER) {
      c.segments.push_back(Segment::line(at, point(p[1])));
      c.segments.push_back(Segment::line(point(p[1]), end));
    } else {
      c.segments.push_back(Segment::cubic(at, point(p[0]), point(p[1]), end));
    }
    at = end;
  }
  if ((c.area() > 0) != (path.sign == '+'))
    c = c.reversed();
  return c;
}

} // namespace

Result<ThinResult> trace(const GreyPicture& picture, const TraceOptions& options) {
  if (picture.width < 1 || picture.height < 1 || picture.width > most_pixels_a_side ||
      picture.height > most_pixels_a_side)
    return bad_input(FRELM_WORDS("core", "the picture must have 1 to 20,000 pixels a side"),
                     FRELM_WORDS("core", "trace"));
  if (picture.grey.size() != static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height))
    return bad_input(FRELM_WORDS("core", "the picture's data do not fit its size"), FRELM_WORDS("core", "trace"));
  if (!(options.width > 0) || !(options.threshold >= 0 && options.threshold <= 1) || options.speckle < 0)
    return bad_input(
        FRELM_WORDS("core",
                    "the width must be more than 0 mm, the threshold between 0 and 1, the speckle size 0 or more"),
        FRELM_WORDS("core", "trace"));
  Bits bits = ink_of(picture, options);
  const std::unique_ptr<potrace_param_t, decltype(&potrace_param_free)> param(potrace_param_default(),
                                                                              &potrace_param_free);
  if (!param)
    return Error{ErrorCode::Internal,
                 FRELM_WORDS("core", "there is not enough memory to trace the picture; make it smaller"),
                 FRELM_WORDS("core", "trace")};
  param->turdsize = options.speckle;
  const std::unique_ptr<potrace_state_t, decltype(&potrace_state_free)> state(potrace_trace(param.get(), &bits.map),
                                                                              &potrace_state_free);
  if (!state || state->status != POTRACE_STATUS_OK)
    return Error{ErrorCode::Internal,
                 FRELM_WORDS("core", "there is not enough memory to trace the picture; make it smaller"),
                 FRELM_WORDS("core", "trace")};
  const double scale = options.width / picture.width;
  Outline outline;
  for (const potrace_path_t* path = state->plist; path != nullptr; path = path->next)
    if (path->curve.n > 0)
      outline.contours.push_back(contour_of(*path, scale, picture.height));
  ThinOptions thinning;
  thinning.tolerance = options.tolerance >= 0 ? options.tolerance : default_tolerance_px * scale;
  thinning.stop = options.stop;
  return thin(outline, thinning);
}

} // namespace frelm
