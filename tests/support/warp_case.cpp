#include "support/warp_case.h"

#include "support/cases.h"
#include "support/fixtures.h"

namespace frelm::test {
namespace {

std::string letters_only(std::size_t count) {
  std::string out = case_text(count);
  std::erase(out, ' ');
  return out;
}

Curve parabola(double x0, double x1, double y, double rise) {
  const Segment s = Segment::quadratic({x0, y}, {(x0 + x1) / 2, y - 2 * rise}, {x1, y});
  return Curve({s});
}
Curve wave(double x0, double x1, double y, double height, int halves) {
  std::vector<CurvePiece> pieces;
  const double w = (x1 - x0) / halves;
  for (int i = 0; i < halves; ++i) {
    const double a = x0 + w * i, up = (i % 2 == 0 ? -1 : 1) * height * 1.6;
    pieces.push_back(Segment::cubic({a, y}, {a + w * 0.35, y + up}, {a + w * 0.65, y + up}, {a + w, y}));
  }
  return Curve(std::move(pieces));
}

} // namespace

std::vector<WarpCase> warp_cases() {
  std::vector<WarpCase> out;
  const FaceName faces[] = {{"Lato", "Regular"}, {"Dancing Script", "Bold"}, {"Roboto Slab", "Bold"}};
  for (const FaceName& face : faces) {
    Outline letters;
    Letters recipe = letters_of(letters_only(64), face, 40, SizeBy::Capitals);
    for (const PlacedLetter& l : on_circle(recipe, 1e5).letters)
      letters.append(l.shape->transformed(Affine::translation({l.s, 0})));
    const Box box = letters.bounds();
    const auto add = [&](const char* name, Curve top, Curve bottom) {
      out.push_back(
          {std::string(name) + ", " + face.family, letters, *rails_map(box, {std::move(top), std::move(bottom)})});
    };
    const Curve straight = Curve::line({box.x0, box.y1}, {box.x1, box.y1});
    add("arch", parabola(box.x0, box.x1, box.y0, 24), straight);
    add("wave", wave(box.x0, box.x1, box.y0, 12, 6), straight);
    add("dip under arch", parabola(box.x0, box.x1, box.y0, 24), parabola(box.x0, box.x1, box.y1, -24));
  }
  return out;
}

} // namespace frelm::test
