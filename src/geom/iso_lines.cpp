// Each line is begun where ink has paper to its right, which every line has somewhere, and followed from square to
// square of four pixels' middles, clockwise about the ink as it is seen, until it comes back.
#include "geom/iso_lines.h"

#include <cmath>

namespace frelm {
namespace {

// A way from a pixel to one of its four neighbours.
enum class Way : std::uint8_t { Right, Down, Left, Up };
constexpr int dx[] = {1, 0, -1, 0}, dy[] = {0, 1, 0, -1};
Way turned_by(Way w, int quarters) {
  return static_cast<Way>((static_cast<int>(w) + quarters) & 3);
}

// Between an ink pixel and the paper beside it.
struct Border {
  int x = 0, y = 0;
  Way way = Way::Right;
  bool operator==(const Border&) const = default;
};

class Follower {
public:
  Follower(const GreyPicture& picture, double level, bool light) : p_(picture), level_(level), light_(light) {}

  // How much of ink there is: more than 0 is ink.
  double ink(int x, int y) const {
    if (x < 0 || y < 0 || x >= p_.width || y >= p_.height)
      return -paper_beyond();
    const double v = level_ - p_.at(x, y);
    return light_ ? -v : v;
  }
  bool is_ink(int x, int y) const { return ink(x, y) > 0; }
  Point place(const Border& b) const {
    const int d = static_cast<int>(b.way);
    const double here = ink(b.x, b.y), there = ink(b.x + dx[d], b.y + dy[d]);
    const double t = here / (here - there);
    return {b.x + 0.5 + t * dx[d], b.y + 0.5 + t * dy[d]};
  }
  // The next border of the same line, by the two pixels ahead.
  Border next(const Border& b) const {
    const Way ahead = turned_by(b.way, 1); // along the line
    const int a = static_cast<int>(ahead), o = static_cast<int>(b.way);
    const int hx = b.x + dx[a], hy = b.y + dy[a]; // ahead of the ink
    const int ox = hx + dx[o], oy = hy + dy[o];   // ahead of the paper
    const bool ink_ahead = is_ink(hx, hy), ink_across = is_ink(ox, oy);
    if (ink_ahead && ink_across)
      return {ox, oy, turned_by(b.way, -1)}; // an inner corner: the paper ends
    if (ink_ahead)
      return {hx, hy, b.way};
    if (!ink_across)
      return {b.x, b.y, ahead}; // an outer corner
    // Ink touches ink over the corner.
    const double mean = ink(b.x, b.y) + ink(b.x + dx[o], b.y + dy[o]) + ink(hx, hy) + ink(ox, oy);
    return mean > 0 ? Border{ox, oy, turned_by(b.way, -1)} : Border{b.x, b.y, ahead};
  }

private:
  // As much as white paper has, but for pictures whose level leaves none.
  double paper_beyond() const { return std::max(1.0, light_ ? level_ : 255 - level_); }

  const GreyPicture& p_;
  double level_;
  bool light_;
};

double area_of(const std::vector<Point>& ring) {
  double twice = 0;
  for (std::size_t i = 0; i < ring.size(); ++i)
    twice += cross(ring[i] - ring.front(), ring[(i + 1) % ring.size()] - ring.front());
  return twice / 2;
}

} // namespace

Outline iso_lines(const GreyPicture& picture, double level, bool light, double speckle, std::stop_token stop) {
  const Follower f(picture, level, light);
  const auto width = static_cast<std::size_t>(picture.width);
  std::vector<bool> seen(width * static_cast<std::size_t>(picture.height)); // ink whose right border was followed
  Outline out;
  std::vector<Point> ring;
  for (int y = 0; y < picture.height && !stop.stop_requested(); ++y)
    for (int x = 0; x < picture.width; ++x) {
      if (seen[static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x)] || !f.is_ink(x, y) ||
          f.is_ink(x + 1, y))
        continue;
      ring.clear();
      const Border start{x, y, Way::Right};
      Border b = start;
      do {
        if (b.way == Way::Right)
          seen[static_cast<std::size_t>(b.y) * width + static_cast<std::size_t>(b.x)] = true;
        const Point p = f.place(b);
        if (ring.empty() || distance(ring.back(), p) > 0)
          ring.push_back(p);
        b = f.next(b);
      } while (b != start && !(ring.size() % 4096 == 0 && stop.stop_requested()));
      if (ring.size() < 3 || std::abs(area_of(ring)) < speckle)
        continue;
      Contour c;
      c.segments.reserve(ring.size());
      for (std::size_t i = 0; i < ring.size(); ++i)
        c.segments.push_back(Segment::line(ring[i], ring[(i + 1) % ring.size()]));
      out.contours.push_back(std::move(c));
    }
  return out;
}

} // namespace frelm
