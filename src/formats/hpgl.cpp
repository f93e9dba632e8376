#include "formats/hpgl.h"

#include "geom/along.h"

#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace frelm {
namespace {

constexpr double farthest_unit = 8'388'607; // 2^23 - 1, what real controllers count to
constexpr double gravity = 9806.65;         // mm/s²

struct Place {
  long x = 0, y = 0;
  bool operator==(const Place&) const = default;
};

class Plotter {
public:
  Plotter(const Box& frame, const HpglOptions& options) : frame_(frame), options_(options) {}

  std::string begin() {
    std::string out = "IN;";
    if (options_.page_size) {
      const long along = std::lround(frame_.width() * hpgl_units_per_mm),
                 across = std::lround(frame_.height() * hpgl_units_per_mm);
      out += fmt::format("PS{}{}{};", options_.turned ? across : along, comma(), options_.turned ? along : across);
    }
    return out + "PA;\n";
  }
  // Nothing: it is smaller than a unit.
  std::optional<HpglPath> contour(const Contour& c) {
    HpglPath out;
    out.places = flatten(c, options_.flatten);
    if (c.closed)
      out.places.push_back(out.places.front());
    std::vector<Place> line;
    for (const Point p : out.places)
      if (const Place u = unit(p); line.empty() || u != line.back())
        line.push_back(u);
    if (line.size() < 2)
      return std::nullopt;
    out.bytes = fmt::format("PU{}{}{};\n", line[0].x, comma(), line[0].y);
    constexpr std::size_t most = 40; // places in an instruction: buffers are small
    for (std::size_t i = 1; i < line.size(); i += most) {
      out.bytes += "PD";
      for (std::size_t k = i; k < std::min(line.size(), i + most); ++k)
        out.bytes += fmt::format("{}{}{}{}", k > i ? comma() : "", line[k].x, comma(), line[k].y);
      out.bytes += ";\n";
    }
    out.cut = row_length(out.places, false);
    out.x = line.back().x, out.y = line.back().y;
    return out;
  }
  std::string end() const { return options_.back_home ? fmt::format("PU0{}0;SP0;\n", comma()) : "PU;SP0;\n"; }
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
  bool too_far_ = false;
};

} // namespace

Result<HpglProgram> hpgl_program(const CutPlan& plan, const HpglOptions& options,
                                 const std::vector<HpglSpeed>& speeds) {
  Plotter plotter(plan.sheet.frame, options);
  HpglProgram out;
  out.begin = plotter.begin();
  const std::vector<std::size_t> tools = tools_of(plan);
  std::optional<std::size_t> tool; // that is taken
  for (std::size_t i = 0; i < plan.order.size(); ++i) {
    const CutPath& path = plan.order[i];
    std::optional<HpglPath> next = plotter.contour(plan.sheet.pieces[path.piece].outline.contours[path.contour]);
    std::string before;
    const std::size_t layer = plan.layer_of[path.piece];
    if (tools[layer] != tool) {
      tool = tools[layer];
      before = fmt::format("SP{};\n", *tool + 1);
      if (layer < speeds.size() && speeds[layer].cut > 0)
        before += fmt::format("VS{:.4g};\n", speeds[layer].cut / 10);
      if (layer < speeds.size() && speeds[layer].acceleration > 0)
        before += fmt::format("AS{:.4g};\n", speeds[layer].acceleration / gravity);
    }
    if (next) {
      next->bytes = before + next->bytes, next->of = i;
      out.paths.push_back(std::move(*next));
    } else if (!before.empty())
      tool = std::nullopt; // it comes with the first of its paths that is written
  }
  out.end = plotter.end();
  if (plotter.too_far())
    return bad_input(FRELM_WORDS("core", "a line reaches farther than the format can count; move it onto the sheet"),
                     FRELM_WORDS("core", "HP-GL"));
  return out;
}

std::string program_text(const HpglProgram& program) {
  std::string out = program.begin;
  for (const HpglPath& p : program.paths)
    out += p.bytes;
  return out + program.end;
}

Result<std::string> write_hpgl(const CutPlan& plan, const HpglOptions& options) {
  const Result<HpglProgram> program = hpgl_program(plan, options);
  if (!program)
    return program.error();
  return program_text(*program);
}

} // namespace frelm
