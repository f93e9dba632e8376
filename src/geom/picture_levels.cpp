#include "geom/picture_levels.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <numeric>

namespace frelm {
namespace {

constexpr int flat = 24;                               // what neighbours of one colour may differ by, in any part
constexpr int reach = 2;                               // px from an edge to what lies beside it
constexpr int rounds = 12;                             // of settling the colours
constexpr int bin_bits = 3;                            // that a part of a colour loses for counting
constexpr double one = 20 * 20;                        // squares of distances: colours nearer than this are one
constexpr double rare_share = 0.02, wide_share = 0.02; // of the picture; of a colour's pixels
constexpr std::uint8_t edge = 255;

struct Shade { // a colour that is counted
  std::array<double, 3> at{};
  double count = 0;
};
std::array<double, 3> parts(Rgb c) {
  return {double(c.r), double(c.g), double(c.b)};
}
double squares(const std::array<double, 3>& a, const std::array<double, 3>& b) {
  double out = 0;
  for (std::size_t i = 0; i < 3; ++i)
    out += (a[i] - b[i]) * (a[i] - b[i]);
  return out;
}

struct Mixture {
  std::size_t a = 0, b = 0;
  double of_b = 0; // the share of b
};

class Parting {
public:
  Parting(const ColourPicture& picture, std::stop_token stop) : p_(picture), stop_(std::move(stop)) {}

  std::vector<PictureLevel> run(int count) {
    find_flat();
    find_colours(static_cast<std::size_t>(count));
    label();
    if (drop_fringes())
      label();
    std::vector<PictureLevel> out(colours_.size());
    for (PictureLevel& level : out)
      level.cover = {p_.width, p_.height, std::vector<std::uint8_t>(p_.px.size(), 255)};
    std::vector<std::size_t> at_edge(out.size());
    for (int y = 0; y < p_.height && !stop_.stop_requested(); ++y)
      for (int x = 0; x < p_.width; ++x)
        cover(x, y, out, at_edge);
    for (std::size_t i = 0; i < out.size(); ++i) {
      const auto part = [&](std::size_t k) { return static_cast<std::uint8_t>(std::lround(colours_[i].at[k])); };
      out[i].colour = {part(0), part(1), part(2)};
      out[i].share /= static_cast<double>(p_.px.size());
    }
    out[static_cast<std::size_t>(std::max_element(at_edge.begin(), at_edge.end()) - at_edge.begin())].at_edge = true;
    std::erase_if(out, [](const PictureLevel& l) { return !(l.share > 0); });
    std::stable_sort(out.begin(), out.end(),
                     [](const PictureLevel& a, const PictureLevel& b) { return a.share > b.share; });
    return out;
  }

private:
  std::size_t index(int x, int y) const { return p_.index(x, y); }
  static bool alike(Rgb a, Rgb b) {
    return std::abs(a.r - b.r) <= flat && std::abs(a.g - b.g) <= flat && std::abs(a.b - b.b) <= flat;
  }
  void find_flat() {
    label_.assign(p_.px.size(), 0);
    for (int y = 0; y < p_.height; ++y)
      for (int x = 0; x < p_.width; ++x) {
        const Rgb own = p_.at(x, y);
        const bool even =
            (x == 0 || alike(own, p_.at(x - 1, y))) && (x + 1 == p_.width || alike(own, p_.at(x + 1, y))) &&
            (y == 0 || alike(own, p_.at(x, y - 1))) && (y + 1 == p_.height || alike(own, p_.at(x, y + 1)));
        if (!even)
          label_[index(x, y)] = edge;
      }
  }

  void find_colours(std::size_t count) {
    constexpr std::size_t side = std::size_t{1} << (8 - bin_bits);
    std::vector<Shade> bins(side * side * side);
    const auto add = [&](Rgb c) {
      Shade& s =
          bins[(static_cast<std::size_t>(c.r >> bin_bits) * side + static_cast<std::size_t>(c.g >> bin_bits)) * side +
               static_cast<std::size_t>(c.b >> bin_bits)];
      const auto v = parts(c);
      for (std::size_t i = 0; i < 3; ++i)
        s.at[i] += v[i];
      s.count += 1;
    };
    for (std::size_t i = 0; i < p_.px.size(); ++i)
      if (label_[i] != edge)
        add(p_.px[i]);
    if (std::none_of(bins.begin(), bins.end(), [](const Shade& s) { return s.count > 0; }))
      std::for_each(p_.px.begin(), p_.px.end(), add); // nothing but edges
    std::vector<Shade> shades;
    for (Shade& s : bins)
      if (s.count > 0) {
        for (double& v : s.at)
          v /= s.count;
        shades.push_back(s);
      }
    // The most frequent one; then always what is farthest from all that there are, rare ones less so.
    std::stable_sort(shades.begin(), shades.end(), [](const Shade& a, const Shade& b) { return a.count > b.count; });
    colours_ = {shades.front()};
    std::vector<double> nearest(shades.size(), std::numeric_limits<double>::infinity());
    while (colours_.size() < count) {
      std::size_t far = 0;
      double worth = 0;
      for (std::size_t i = 0; i < shades.size(); ++i) {
        nearest[i] = std::min(nearest[i], squares(shades[i].at, colours_.back().at));
        const double w = nearest[i] <= one ? 0 : nearest[i] * std::sqrt(shades[i].count);
        if (w > worth)
          worth = w, far = i;
      }
      if (!(worth > 0))
        break;
      colours_.push_back(shades[far]);
    }
    for (int round = 0; round < rounds; ++round) {
      std::vector<Shade> sums(colours_.size());
      for (const Shade& s : shades) {
        Shade& sum = sums[nearest_colour(s.at)];
        for (std::size_t i = 0; i < 3; ++i)
          sum.at[i] += s.count * s.at[i];
        sum.count += s.count;
      }
      for (std::size_t k = 0; k < colours_.size(); ++k)
        for (std::size_t i = 0; i < 3 && sums[k].count > 0; ++i)
          colours_[k].at[i] = sums[k].at[i] / sums[k].count;
    }
  }
  std::size_t nearest_colour(const std::array<double, 3>& at) const {
    std::size_t best = 0;
    for (std::size_t k = 1; k < colours_.size(); ++k)
      if (squares(at, colours_[k].at) < squares(at, colours_[best].at))
        best = k;
    return best;
  }

  void label() {
    for (std::size_t i = 0; i < p_.px.size(); ++i)
      if (label_[i] != edge)
        label_[i] = static_cast<std::uint8_t>(nearest_colour(parts(p_.px[i])));
  }
  // Rare colours that are nowhere a few pixels wide are what JPEG makes of the edges between others.
  bool drop_fringes() {
    std::vector<std::size_t> all(colours_.size()), wide(colours_.size());
    for (int y = 0; y < p_.height; ++y)
      for (int x = 0; x < p_.width; ++x) {
        const std::uint8_t own = label_[index(x, y)];
        if (own == edge)
          continue;
        ++all[own];
        bool solid = x >= reach && y >= reach && x + reach < p_.width && y + reach < p_.height;
        for (int v = y - reach; solid && v <= y + reach; ++v)
          for (int u = x - reach; solid && u <= x + reach; ++u)
            solid = label_[index(u, v)] == own;
        wide[own] += solid ? 1 : 0;
      }
    std::vector<Shade> kept;
    for (std::size_t k = 0; k < colours_.size(); ++k) {
      const bool rare = double(all[k]) < rare_share * double(p_.px.size());
      if (!rare || double(wide[k]) >= wide_share * double(all[k]))
        kept.push_back(colours_[k]);
    }
    if (kept.empty() || kept.size() == colours_.size())
      return false;
    colours_ = std::move(kept);
    return true;
  }
  void cover(int x, int y, std::vector<PictureLevel>& out, std::vector<std::size_t>& at_edge) const {
    const std::size_t i = index(x, y);
    const auto [a, b, of_b] = label_[i] == edge ? mixed(x, y) : Mixture{label_[i], label_[i], 0};
    const auto covered = static_cast<int>(std::lround(255 * of_b));
    out[a].cover.px[i] = static_cast<std::uint8_t>(covered);
    out[a].share += 1 - of_b;
    if (b != a)
      out[b].cover.px[i] = static_cast<std::uint8_t>(255 - covered), out[b].share += of_b;
    if (x == 0 || y == 0 || x + 1 == p_.width || y + 1 == p_.height)
      ++at_edge[of_b > 0.5 ? b : a];
  }
  // The two colours near an edge's pixel whose mixture it is, as nearly as any.
  Mixture mixed(int x, int y) const {
    std::array<bool, most_levels> near{};
    for (int v = std::max(0, y - reach); v <= std::min(p_.height - 1, y + reach); ++v)
      for (int u = std::max(0, x - reach); u <= std::min(p_.width - 1, x + reach); ++u)
        if (const std::uint8_t l = label_[index(u, v)]; l != edge)
          near[l] = true;
    const auto own = parts(p_.at(x, y));
    Mixture out{nearest_colour(own), 0, 0};
    out.b = out.a;
    double best = std::numeric_limits<double>::infinity();
    for (std::size_t k = 0; k < colours_.size(); ++k)
      for (std::size_t l = k; near[k] && l < colours_.size(); ++l) {
        if (!near[l])
          continue;
        double along = 0, whole = squares(colours_[k].at, colours_[l].at);
        for (std::size_t i = 0; i < 3; ++i)
          along += (own[i] - colours_[k].at[i]) * (colours_[l].at[i] - colours_[k].at[i]);
        const double t = whole > 0 ? std::clamp(along / whole, 0.0, 1.0) : 0;
        std::array<double, 3> between{};
        for (std::size_t i = 0; i < 3; ++i)
          between[i] = colours_[k].at[i] + t * (colours_[l].at[i] - colours_[k].at[i]);
        if (const double off = squares(own, between); off < best)
          best = off, out = {k, l, t};
      }
    return out;
  }

  const ColourPicture& p_;
  std::stop_token stop_;
  std::vector<std::uint8_t> label_; // the colour of a flat pixel, or `edge`
  std::vector<Shade> colours_;
};

} // namespace

std::vector<PictureLevel> picture_levels(const ColourPicture& picture, int count, std::stop_token stop) {
  return Parting(picture, std::move(stop)).run(std::clamp(count, 2, most_levels));
}

} // namespace frelm
