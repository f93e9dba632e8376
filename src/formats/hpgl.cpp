#include "formats/hpgl.h"

#include <cmath>
#include <fmt/format.h>

namespace frelm {
namespace {

constexpr double farthest_unit = 8'388'607; // 2^23 - 1, what real controllers count to

struct Place {
  long x = 0, y = 0;
  bool operator==(const Place&) const = default;
};

class Plotter {
public:
  Plotter(const Box& frame, const HpglOptions& options) : frame_(frame), options_(options) {}

  void begin() {
    out_ = "IN;";
    if (options_.page_size) {
      const long along = std::lround(frame_.width() * hpgl_units_per_mm),
                 across = std::lround(frame_.height() * hpgl_units_per_mm);
      out_ += fmt::format("PS{}{}{};", options_.turned ? across : along, comma(), options_.turned ? along : across);
    }
    out_ += "PA;\n";
  }
  void pen(std::size_t number) { out_ += fmt::format("SP{};\n", number); }
  void contour(const Contour& c) {
    std::vector<Place> line;
    for (const Point p : flatten(c, options_.flatten))
      if (const Place u = unit(p); line.empty() || u != line.back())
        line.push_back(u);
    if (c.closed && line.back() != line.front())
      line.push_back(line.front());
    if (line.size() < 2) // smaller than a unit
      return;
    out_ += fmt::format("PU{}{}{};\n", line[0].x, comma(), line[0].y);
    constexpr std::size_t most = 40; // places in an instruction: buffers are small
    for (std::size_t i = 1; i < line.size(); i += most) {
      out_ += "PD";
      for (std::size_t k = i; k < std::min(line.size(), i + most); ++k)
        out_ += fmt::format("{}{}{}{}", k > i ? comma() : "", line[k].x, comma(), line[k].y);
      out_ += ";\n";
    }
  }
  std::string end() {
    out_ += options_.back_home ? fmt::format("PU0{}0;SP0;\n", comma()) : "PU;SP0;\n";
    return std::move(out_);
  }
  bool too_far() const { return too_far_; }

private:
  const char* comma() const { return options_.spaces ? " " : ","; }
  Place unit(Point p) {
    double x = p.x - frame_.x0, y = frame_.y1 - p.y;
    if (options_.mirrored)
      x = frame_.width() - x;
    if (options_.from_middle)
      x -= frame_.width() / 2, y -= frame_.height() / 2;
    if (options_.turned) // about the corner or the middle; from the corner it stays above and beside it
      std::tie(x, y) = std::pair(options_.from_middle ? -y : frame_.height() - y, x);
    x *= hpgl_units_per_mm, y *= hpgl_units_per_mm;
    too_far_ = too_far_ || !(std::abs(x) <= farthest_unit && std::abs(y) <= farthest_unit);
    return too_far_ ? Place{} : Place{std::lround(x), std::lround(y)};
  }

  Box frame_;
  HpglOptions options_;
  std::string out_;
  bool too_far_ = false;
};

} // namespace

Result<std::string> write_hpgl(const CutPlan& plan, const HpglOptions& options) {
  Plotter plotter(plan.sheet.frame, options);
  plotter.begin();
  std::size_t layer = plan.layers.size();
  for (const CutPath& path : plan.order) {
    if (plan.layer_of[path.piece] != layer)
      plotter.pen((layer = plan.layer_of[path.piece]) + 1);
    plotter.contour(plan.sheet.pieces[path.piece].outline.contours[path.contour]);
  }
  if (plotter.too_far())
    return bad_input(FRELM_WORDS("core", "a line reaches farther than the format can count; move it onto the sheet"),
                     FRELM_WORDS("core", "HP-GL"));
  return plotter.end();
}

} // namespace frelm
