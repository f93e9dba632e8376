#include "support/fixtures.h"

#include "geom/weld.h"

namespace frelm::test {

std::string faces_directory() {
  return FRELM_SOURCE_DIR "/assets/faces";
}
std::string face_file(const std::string& name) {
  return faces_directory() + "/" + name;
}

const FaceLibrary& bundled_faces() {
  static const FaceLibrary library(faces_directory(), false);
  return library;
}

const DocumentEvaluator& evaluator() {
  static const DocumentEvaluator e(bundled_faces());
  return e;
}

Letters letters_of(const std::string& text, FaceName face, double size, SizeBy by) {
  Letters l;
  std::uint64_t id = 1;
  l.text = retyped({}, from_utf8(text), id);
  l.face = std::move(face);
  l.size = size;
  l.size_by = by;
  return l;
}

SeatedText on_circle(const Letters& letters, double radius, const Spacing& spacing) {
  const auto face = bundled_faces().face(letters.face);
  const auto set = set_text(letters, ligatures_for(spacing), **face);
  RunPlace place;
  place.anchor = RunAnchor::Middle;
  RunStyle style;
  style.spacing = spacing;
  return *seat_on_curve(space_text(*set, spacing, Alignment::Centre),
                        std::make_shared<const Curve>(Curve::circle({}, radius)), place, style);
}

std::shared_ptr<const GuideLine> line_of(const GuideShape& shape) {
  return *guide_line(shape);
}

CircleGuide circle_under(const Document& document, const Lettering& lettering) {
  return (*guide_of(document, lettering.recipe.bend.guide))->circle.value();
}

CircleJob circle_job(const std::string& text, double radius) {
  CircleJob job;
  Added guide = add_piece({}, new_circle({300, 200}, radius));
  job.guide = guide.id;
  job.document = std::move(guide.document);
  Piece lettering = new_lettering(job.document, from_utf8(text), {300, 200});
  Recipe& recipe = lettering.lettering()->recipe;
  recipe.bend.kind = BendKind::Guide;
  recipe.bend.guide.guide = job.guide;
  Added added = add_piece(std::move(job.document), std::move(lettering));
  job.document = std::move(added.document);
  job.lettering = added.id;
  return job;
}

double uniform(std::mt19937_64& random, double low, double high) {
  return low + (high - low) * static_cast<double>(random() >> 11) * 0x1p-53;
}

FinishStep random_step(std::mt19937_64& random) {
  const auto pick = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
  FinishStep out;
  out.on = pick(4) != 0;
  switch (pick(9)) {
  case 0:
    out.what = WeldStep{};
    break;
  case 1:
    out.what = ThinStep{uniform(random, 0.01, 0.3)};
    break;
  case 2:
  case 3: {
    BorderStep b;
    b.rings.clear();
    for (std::size_t i = 0, n = 1 + pick(3); i < n; ++i)
      b.rings.push_back({.distance = uniform(random, 0.1, 4)});
    b.side = static_cast<BorderSide>(pick(3)), b.of = static_cast<BorderOf>(pick(2));
    b.join = static_cast<JoinStyle>(pick(3)), b.holes = static_cast<HoleRule>(pick(3));
    b.taken_out = pick(2) == 0, b.overlap = pick(2) == 0 ? 0 : 0.2;
    out.what = b;
    break;
  }
  case 4:
    out.what = ShadeStep{.kind = static_cast<ShadeKind>(pick(2)),
                         .angle = uniform(random, -180, 180),
                         .depth = uniform(random, 0, 8),
                         .of = static_cast<ShadeOf>(pick(2)),
                         .apart = pick(2) == 0,
                         .gap = uniform(random, 0, 1),
                         .with_ring = pick(2) == 0};
    break;
  case 5:
    out.what = RoundStep{uniform(random, 0.05, 3), static_cast<WhichCorners>(pick(3)), uniform(random, 20, 180)};
    break;
  case 6:
    out.what = TabStep{.outer = uniform(random, 0.5, 20),
                       .inner = uniform(random, 0, 20),
                       .depth = uniform(random, 0.1, 20),
                       .across = uniform(random, -1, 2),
                       .down = uniform(random, -1, 2)};
    break;
  case 7: {
    TieStep ties{
        static_cast<TieKind>(pick(2)), {uniform(random, 0.2, 3), static_cast<TieEnds>(pick(2))}, {}, {}, pick(3) > 0};
    ties.bridges = {1 + static_cast<int>(pick(2)), uniform(random, -90, 90)};
    for (std::size_t n = pick(3); n > 0; --n)
      ties.by_hand.push_back(
          {{uniform(random, 0, 1), uniform(random, 0, 1)}, {uniform(random, 0, 1), uniform(random, 0, 1)}});
    out.what = ties;
    break;
  }
  default:
    out.what = MirrorStep{};
  }
  return out;
}

Outline random_blob(std::mt19937_64& random, Point centre, double radius, int n) {
  std::vector<Point> nodes;
  std::vector<Vec> tangents;
  for (int i = 0; i < n; ++i) {
    const double a = 2 * pi * i / n;
    nodes.push_back(centre + direction(a) * (radius * uniform(random, 0.6, 1.2)));
    tangents.push_back(direction(a + pi / 2) * (radius * 2 * pi / n / 3));
  }
  Contour c;
  for (int i = 0; i < n; ++i) {
    const auto u = static_cast<std::size_t>(i), v = static_cast<std::size_t>((i + 1) % n);
    c.segments.push_back(uniform(random, 0, 1) < 0.25
                             ? Segment::line(nodes[u], nodes[v])
                             : Segment::cubic(nodes[u], nodes[u] + tangents[u], nodes[v] - tangents[v], nodes[v]));
  }
  return {{c}};
}

std::vector<Outline> straight_letters(const std::string& text, const FaceName& face, double size) {
  std::vector<Outline> out;
  for (const PlacedLetter& l : on_circle(letters_of(text, face, size), 1e5).letters)
    out.push_back(l.shape->transformed(Affine::translation({l.s, 0})));
  Box box;
  for (const Outline& o : out)
    box.add(o.bounds());
  for (Outline& o : out)
    o = o.transformed(Affine::translation({-box.x0, 0}));
  return out;
}
Outline straight_word(const std::string& text, const FaceName& face, double size) {
  return weld(straight_letters(text, face, size))->outline;
}

} // namespace frelm::test
