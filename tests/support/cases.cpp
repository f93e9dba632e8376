#include "support/cases.h"

#include "lettering/set_text.h"
#include "support/fixtures.h"

#include <fstream>
#include <sstream>

namespace frelm::test {

std::string case_text(std::size_t letters) {
  std::ifstream file(FRELM_SOURCE_DIR "/bench/cases/tide-rhyme.txt");
  std::stringstream text;
  text << file.rdbuf();
  std::string line = text.str(), out;
  line.pop_back();
  std::size_t n = 0;
  for (std::size_t i = 0; n < letters; i = (i + 1) % line.size()) {
    out.push_back(line[i]);
    n += line[i] != ' ' ? 1 : 0;
  }
  return out;
}

// An Archimedean spiral of 18 mm pitch from r 40 mm outwards, as cubics of a sixteenth turn (within 0.001 mm).
Curve case_spiral(double turns) {
  const double a = 18 / (2 * pi);
  std::vector<CurvePiece> pieces;
  const auto at = [&](double t) { return direction(t) * (40 + a * t); };
  const auto d = [&](double t) { return direction(t) * a + Vec{-std::sin(t), std::cos(t)} * (40 + a * t); };
  const double step = 2 * pi / 16;
  for (int i = 0; i < static_cast<int>(turns * 16); ++i) {
    const double t0 = i * step, t1 = t0 + step;
    pieces.push_back(Segment::cubic(at(t0), at(t0) + d(t0) * (step / 3), at(t1) - d(t1) * (step / 3), at(t1)));
  }
  return Curve(std::move(pieces));
}

std::vector<Outline> case_letters(std::size_t letters) {
  if (letters == 14)
    return letter_outlines(on_circle(letters_of("Saltmarsh Lane"), 120));
  const Letters l = letters_of(case_text(letters), {"Dancing Script", "Bold"}, 10);
  const auto set = set_text(l, Ligatures::On, **bundled_faces().face(l.face));
  return letter_outlines(*seat_on_curve(space_text(*set, {}, Alignment::Left),
                                        std::make_shared<const Curve>(case_spiral(letters > 2000 ? 60 : 40)), {}));
}

} // namespace frelm::test
