#include "geom/trace.h"

#include "geom/iso_lines.h"
#include "geom/pixel_line.h"
#include "geom/side_by_side.h"

#include <array>

namespace frelm {
namespace {

constexpr int most_pixels_a_side = 20000;
constexpr double certain_px = 0.3, uncertain_px = 0.5; // that a line may lie off, with greys and without

std::array<std::size_t, 256> histogram(const GreyPicture& p) {
  std::array<std::size_t, 256> out{};
  for (const std::uint8_t v : p.px)
    ++out[v];
  return out;
}

// Are there no greys between ink and paper? Asked of the neighbours that the level parts.
bool without_greys(const GreyPicture& p, double level) {
  const auto counts = histogram(p);
  const std::size_t few = p.px.size() / 200;
  std::size_t low = 0, high = 255;
  for (std::size_t n = counts[low]; n <= few && low < 255; n += counts[low])
    ++low;
  for (std::size_t n = counts[high]; n <= few && high > low; n += counts[high])
    --high;
  constexpr double near = 0.15, most = 0.75; // of the range; of the neighbours
  const double range = static_cast<double>(high - low), dark = static_cast<double>(low) + near * range,
               light = static_cast<double>(high) - near * range;
  std::size_t parted = 0, hard = 0;
  const auto look = [&](std::uint8_t a, std::uint8_t b) {
    if ((a < level) == (b < level))
      return;
    ++parted;
    hard += std::min(a, b) <= dark && std::max(a, b) >= light ? 1 : 0;
  };
  for (int y = 0; y < p.height; ++y)
    for (int x = 0; x + 1 < p.width; ++x)
      look(p.at(x, y), p.at(x + 1, y));
  for (int y = 0; y + 1 < p.height; ++y)
    for (int x = 0; x < p.width; ++x)
      look(p.at(x, y), p.at(x, y + 1));
  return static_cast<double>(hard) > most * static_cast<double>(parted);
}

// Each px a quarter, its neighbours an eighth, those over its corners a sixteenth.
GreyPicture blurred(const GreyPicture& p) {
  GreyPicture out{p.width, p.height, std::vector<std::uint8_t>(p.px.size())};
  constexpr int weights[] = {1, 2, 1}, sum_of_weights = 16;
  for (int y = 0; y < p.height; ++y)
    for (int x = 0; x < p.width; ++x) {
      int sum = sum_of_weights / 2;
      for (int j = -1; j <= 1; ++j)
        for (int i = -1; i <= 1; ++i)
          sum += weights[i + 1] * weights[j + 1] *
                 p.at(std::clamp(x + i, 0, p.width - 1), std::clamp(y + j, 0, p.height - 1));
      out.px[out.index(x, y)] = static_cast<std::uint8_t>(sum / sum_of_weights);
    }
  return out;
}

std::vector<Point> nodes_of(const Contour& c) {
  std::vector<Point> out;
  out.reserve(c.segments.size());
  for (const Segment& s : c.segments)
    out.push_back(s.p0);
  return out;
}

} // namespace

double ink_threshold(const GreyPicture& picture) {
  const auto counts = histogram(picture);
  const double all = static_cast<double>(picture.px.size());
  double sum = 0;
  for (std::size_t v = 0; v < counts.size(); ++v)
    sum += static_cast<double>(v * counts[v]);
  double below = 0, sum_below = 0, best = -1;
  std::size_t first = 127, last = 127;
  for (std::size_t v = 0; v + 1 < counts.size(); ++v) {
    below += static_cast<double>(counts[v]), sum_below += static_cast<double>(v * counts[v]);
    if (!(below > 0) || !(below < all))
      continue;
    const double apart = sum_below / below - (sum - sum_below) / (all - below);
    const double between = below * (all - below) * apart * apart;
    if (between > best * (1 + 1e-12))
      best = between, first = last = v;
    else if (between >= best * (1 - 1e-12))
      last = v;
  }
  return (static_cast<double>(first + last) / 2 + 0.5) / 255;
}

Result<Traced> trace(const GreyPicture& picture, const TraceOptions& options) {
  const Words where = FRELM_WORDS("core", "trace");
  if (picture.width < 1 || picture.height < 1 || picture.width > most_pixels_a_side ||
      picture.height > most_pixels_a_side)
    return bad_input(FRELM_WORDS("core", "the picture must have 1 to 20,000 pixels a side"), where);
  if (picture.px.size() != static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height))
    return bad_input(FRELM_WORDS("core", "the picture's data do not fit its size"), where);
  if (!(options.width > 0) || (options.threshold && !(*options.threshold >= 0 && *options.threshold <= 1)) ||
      !(options.speckle >= 0) || !(options.sharper_than > 0 && options.sharper_than <= 180))
    return bad_input(FRELM_WORDS("core", "the width must be more than 0 mm, the threshold between 0 and 1, the speckle "
                                         "size 0 or more, corners sharper than 0 to 180 degrees"),
                     where);
  const double level = std::clamp(255 * (options.threshold ? *options.threshold : ink_threshold(picture)), 0.5, 254.5);
  const double mm_per_px = options.width / picture.width;
  const bool hard = without_greys(picture, level);
  PixelLineOptions how;
  how.noise = hard ? uncertain_px : certain_px;
  const double grown = how.noise / certain_px;
  how.tolerance = options.tolerance >= 0 ? std::max(options.tolerance / mm_per_px, 1e-3) : grown * usual_trace_px;
  how.straight = options.straight >= 0 ? options.straight / mm_per_px : grown * usual_trace_px;
  how.sharper_than = radians(options.sharper_than);
  const Outline lines =
      iso_lines(hard ? blurred(picture) : picture, level, options.light_ink, options.speckle, options.stop);
  std::vector<PixelLine> drawn(lines.contours.size());
  side_by_side(drawn.size(), lines.node_count() > 2000, [&](std::size_t i) {
    if (!options.stop.stop_requested())
      drawn[i] = redrawn_ring(nodes_of(lines.contours[i]), how);
  });
  std::vector<RedrawnContour> contours;
  Traced out;
  for (PixelLine& line : drawn) {
    out.worst = std::max(out.worst, line.worst * mm_per_px);
    contours.push_back(std::move(line.drawn));
  }
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), where};
  RedrawnResult made = without_new_crossings(contours, options.stop);
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), where};
  out.tolerance = how.tolerance * mm_per_px, out.straight = how.straight * mm_per_px;
  out.points = lines.node_count();
  out.put_back = made.put_back;
  out.outline = made.outline.transformed(Affine{mm_per_px, 0, 0, mm_per_px, 0, 0});
  return out;
}

} // namespace frelm
