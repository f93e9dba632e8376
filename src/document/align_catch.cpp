#include "document/align_catch.h"

#include <algorithm>

namespace frelm {
namespace {

std::optional<AlignCaught> nearest(const std::vector<AlignLine>& lines, const double (&places)[3], double reach) {
  std::optional<AlignCaught> best;
  const auto rank = [](const AlignCaught& c) { // of equally near ones
    const bool middles = c.side == AlignSide::Middle && c.line.side == AlignSide::Middle;
    return (middles ? 0 : 2) + (c.line.piece != 0 ? 0 : 1);
  };
  constexpr double alike = 1e-6; // mm
  for (std::size_t i = 0; i < std::size(places); ++i) {
    const auto from = std::lower_bound(lines.begin(), lines.end(), places[i] - reach,
                                       [](const AlignLine& l, double at) { return l.at < at; });
    for (auto l = from; l != lines.end() && l->at <= places[i] + reach; ++l) {
      const AlignCaught now{*l, static_cast<AlignSide>(i), l->at - places[i]};
      const double nearer = best ? std::abs(best->by) - std::abs(now.by) : reach;
      if (!best || nearer > alike || (nearer > -alike && rank(now) < rank(*best)))
        best = now;
    }
  }
  return best;
}

} // namespace

AlignLines align_lines(const Sheet& sheet, const std::vector<PlacedBox>& others) {
  AlignLines out;
  const auto add = [&](PieceId piece, const Box& box) {
    if (box.empty())
      return;
    const double x[]{box.x0, box.centre().x, box.x1}, y[]{box.y0, box.centre().y, box.y1};
    for (std::size_t i = 0; i < 3; ++i) {
      out.across.push_back({x[i], static_cast<AlignSide>(i), piece, box});
      out.down.push_back({y[i], static_cast<AlignSide>(i), piece, box});
    }
  };
  add(0, {0, 0, sheet.width, sheet.height});
  for (const PlacedBox& o : others)
    add(o.piece, o.box);
  for (std::vector<AlignLine>* lines : {&out.across, &out.down})
    std::sort(lines->begin(), lines->end(), [](const AlignLine& a, const AlignLine& b) { return a.at < b.at; });
  return out;
}

AlignCatch align_catch(const AlignLines& lines, const Box& moved, double reach) {
  if (moved.empty())
    return {};
  return {nearest(lines.across, {moved.x0, moved.centre().x, moved.x1}, reach),
          nearest(lines.down, {moved.y0, moved.centre().y, moved.y1}, reach)};
}

} // namespace frelm
