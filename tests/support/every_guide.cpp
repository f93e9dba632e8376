#include "support/every_guide.h"

#include "geom/path_data.h"

namespace frelm::test {

Contour wave() {
  return parse_outline("M-90 20C-40 -70 10 60 60 -10S110 -60 140 -20L190 -35")->contours[0];
}

std::vector<Point> hand_stroke(int n) {
  std::vector<Point> out;
  for (int i = 0; i < n; ++i) {
    const double t = static_cast<double>(i) / (n - 1);
    out.push_back({-120 + 260 * t + 0.5 * std::sin(70 * t), 30 * std::sin(4.5 * t) + 0.7 * std::cos(113 * t)});
  }
  return out;
}

std::vector<std::pair<const char*, GuideShape>> every_guide() {
  return {
      {"circle", CircleGuide{{13, -7}, 101, 20}},
      {"line", LineGuide{{-80, 30}, {150, -20}}},
      {"arc", ArcGuide{{10, 90}, 140, -50, 115}},
      {"arc-anticlockwise", ArcGuide{{10, -90}, 140, 140, 70}},
      {"band", BandGuide{{5, 3}, 83, 111, 3, -15}},
      {"ellipse", EllipseGuide{{-9, 4}, 132, 71, 17, 30, 360}},
      {"ellipse-arc", EllipseGuide{{-9, 4}, 132, 71, 17, -70, 140}},
      {"spiral", SpiralGuide{{3, 8}, 31, 21, 2.6, 40, Winding::Clockwise}},
      {"spiral-from-nothing", SpiralGuide{{3, 8}, 0, 33, 3, 0, Winding::Counterclockwise}},
      {"frame", FrameGuide{{7, 11}, 310, 190, 0, 8}},
      {"frame-rounded", FrameGuide{{7, 11}, 310, 190, 27, 8}},
      {"polygon", PolygonGuide{{-4, 6}, 120, 7, 11}},
      {"star", StarGuide{{-4, 6}, 170, 95, 5, 11}},
      {"heart", HeartGuide{{2, 9}, 230, 205, -6}},
      {"plate", PlateGuide{.centre = {7, 11}, .width = 310, .height = 190, .corner = 27, .turn = 8}},
      {"plate-oval",
       PlateGuide{.centre = {-9, 4}, .width = 264, .height = 142, .form = PlateForm::Ellipse, .turn = 17}},
      {"ribbon", RibbonGuide{LineGuide{{-80, 30}, {150, -20}}, {.width = 24}}},
      {"ribbon-arc", RibbonGuide{ArcGuide{{10, 90}, 140, -50, 115}, {.folds = true}}},
      {"ribbon-wave", RibbonGuide{PathGuide{wave()}, {.end = RibbonEnd::Straight}}},
      {"freehand", FreehandGuide{hand_stroke(90), 6, false}},
      {"pen-curve", PathGuide{wave()}},
  };
}

} // namespace frelm::test
