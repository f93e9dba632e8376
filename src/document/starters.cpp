#include "document/starters.h"

#include "lettering/evaluate.h"

namespace frelm {
namespace {

// The run's length set straight, mm; 0 where it can't be set.
double straight_length(const Recipe& recipe, const FaceLibrary& faces) {
  Recipe plain = recipe;
  plain.bend = {};
  if (Letters* l = plain.letters())
    for (TypedChar& c : l->text)
      if (c.c == U'\n')
        c.c = U' ';
  EvaluateOptions options;
  options.depth = Depth::Seat;
  const Result<Evaluation> e = evaluate(plain, {}, nullptr, faces, options);
  if (!e)
    return 0;
  return e->seated->used_length;
}

} // namespace

Result<Starter> add_badge(Document document, const BadgeOptions& o) {
  Starter out;
  BandGuide band;
  band.centre = o.centre, band.inner = o.inner, band.outer = o.outer;
  band.margin = (o.outer - o.inner) * 0.18;
  const Result<std::shared_ptr<const GuideLine>> line = guide_line(GuideShape(band));
  if (!line)
    return line.error();
  Added guide = add_piece(std::move(document), new_guide(band));
  document = std::move(guide.document);
  out.pieces.push_back(guide.id);
  for (const auto& [text, tops, angle] :
       {std::tuple{o.lower, Tops::Inward, 180.0}, std::tuple{o.upper, Tops::Outward, 0.0}}) {
    Piece piece = new_lettering(document, text, o.centre);
    Recipe& recipe = piece.lettering()->recipe;
    recipe.letters()->face = o.face;
    recipe.letters()->capitals = Capitals::Capitals;
    recipe.letters()->size = band.outer - band.inner - 2 * band.margin;
    ride_on(*piece.lettering(), guide.id, **line);
    recipe.bend.guide.tops = tops;
    recipe.bend.guide.angle = angle;
    recipe.bend.guide.fit_height = true;
    recipe.bend.sit_by = SitBy::Middle;
    // Feet (or tops, below) close in by half the height over the radius of what lies between the letters' middles.
    const double height = recipe.letters()->size, closing = height / (band.outer + band.inner);
    recipe.spacing.letter = height * (0.04 + 0.6 * closing);
    Added added = add_piece(std::move(document), std::move(piece));
    document = std::move(added.document);
    out.pieces.push_back(added.id);
  }
  out.document = std::move(document);
  return out;
}

Result<Starter> add_spiral(Document document, const SpiralOptions& o, const FaceLibrary& faces) {
  Starter out;
  SpiralGuide spiral;
  spiral.centre = o.centre, spiral.inner = o.inner, spiral.pitch = o.pitch;
  const Piece* taken = document.find(o.lettering);
  Piece piece = taken != nullptr ? *taken : new_lettering(document, o.text, o.centre);
  Recipe& recipe = piece.lettering()->recipe;
  if (taken == nullptr)
    recipe.letters()->face = o.face;
  const std::u32string text = plain_text(recipe.letters()->text);
  recipe.letters()->size_by = SizeBy::Full;
  const Result<std::shared_ptr<const GuideLine>> inner = guide_line(GuideShape(spiral));
  if (!inner)
    return inner.error();
  recipe.letters()->size = (*inner)->fit->height;
  // Turns for the run's length, lines one after another: π (R² − r²) / pitch is the length of a spiral (to pitch²).
  const auto lines = static_cast<double>(std::count(text.begin(), text.end(), U'\n'));
  const double length = straight_length(recipe, faces) + lines * recipe.letters()->size + 0.5 * o.pitch;
  const double outer = std::sqrt(length * o.pitch / pi + o.inner * o.inner);
  spiral.turns = std::max(1.0, (outer - o.inner) / o.pitch);
  const Result<std::shared_ptr<const GuideLine>> line = guide_line(GuideShape(spiral));
  if (!line)
    return line.error();
  Added guide = add_piece(std::move(document), new_guide(spiral));
  ride_on(*piece.lettering(), guide.id, **line);
  recipe.bend.lines = LinesGo::FollowOn;
  recipe.bend.guide.fit_height = true;
  if (taken != nullptr) {
    out.document = edit_piece(std::move(guide.document), o.lettering, [&](Piece& p) { p = std::move(piece); });
    out.pieces = {guide.id, o.lettering};
    return out;
  }
  Added added = add_piece(std::move(guide.document), std::move(piece));
  out.document = std::move(added.document);
  out.pieces = {guide.id, added.id};
  return out;
}

} // namespace frelm
