// The bead stands at the middle of the ink, its start or its end, as the anchor says; sliding it turns a place on the
// guide back into the anchor's angle, distance or share.
#include "document/bead.h"

#include "document/level.h"

namespace frelm {

Result<Bead> bead_of(const Document& document, PieceId id, const DocumentEvaluator& evaluator) {
  const Piece* piece = document.find(id);
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  if (l == nullptr || !l->recipe.bend.rides())
    return bad_input(FRELM_WORDS("core", "the letters ride on no guide"), FRELM_WORDS("core", "Bend"));
  const auto line = evaluator.guide(document, *l);
  if (!line)
    return line.error();
  const GuideBend& bend = l->recipe.bend.guide;
  const bool down = l->recipe.letters() != nullptr && l->recipe.letters()->downwards;
  const OrientedGuide guide = down ? oriented_down(**line) : oriented(**line, bend.tops);
  Bead bead;
  bead.guide = guide.curve;
  const double whole = guide.curve->length();
  const double along = bend.by == AlongBy::Distance ? bend.distance : whole * bend.percent / 100;
  if (bend.by != AlongBy::Angle)
    bead.s = bend.anchor == Anchor::EndsAt ? whole - along : along;
  else if (guide.curve->closed())
    bead.s = length_at_angle(**line, guide, bend.angle);
  else
    bead.s = whole * (bend.anchor == Anchor::CentredAt ? 0.5 : bend.anchor == Anchor::StartsAt ? 0 : 1);
  if (guide.curve->closed()) {
    bead.s = std::fmod(bead.s, whole);
    if (bead.s < 0)
      bead.s += whole;
  }
  const CurvePlace p = guide.curve->at(bead.s);
  bead.at = p.point;
  bead.up = up_of(p.tangent);
  return bead;
}

Document slide_bead(const Document& document, PieceId id, const DocumentEvaluator& evaluator, double s) {
  const Result<Bead> bead = bead_of(document, id, evaluator);
  if (!bead)
    return document;
  const double whole = bead->guide->length();
  const auto line = evaluator.guide(document, *document.find(id)->lettering());
  return edit_piece(document, id, [&](Piece& p) {
    GuideBend& b = p.lettering()->recipe.bend.guide;
    const double along = b.anchor == Anchor::EndsAt ? whole - s : s;
    if (b.by == AlongBy::Angle && !bead->guide->closed())
      b.by = AlongBy::Percent;
    switch (b.by) {
    case AlongBy::Angle: {
      const Vec d = bead->guide->at(s).point - (*line)->centre;
      b.angle = wrap_degrees(degrees(std::atan2(d.y, d.x)) + 90);
      break;
    }
    case AlongBy::Distance:
      b.distance = along;
      break;
    case AlongBy::Percent:
      b.percent = along / whole * 100;
      break;
    }
  });
}

Result<BeadCatch> level_catch(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                              std::stop_token stop) {
  const Result<Bead> bead = bead_of(document, id, evaluator);
  if (!bead)
    return bead.error();
  const Result<Document> level = leveled(document, id, evaluator, std::move(stop));
  if (!level)
    return level.error();
  const Result<Bead> there = bead_of(*level, id, evaluator);
  if (!there)
    return there.error();
  if (there->guide->length() != bead->guide->length() ||
      (document.find(id) == level->find(id) && !(*level == document)))
    return bad_input(FRELM_WORDS("core", "the guide is turned, not the run"), FRELM_WORDS("core", "Level"));
  return BeadCatch{there->s, "level"};
}

std::vector<BeadCatch> bead_catches(const Document& document, PieceId id, const DocumentEvaluator& evaluator) {
  std::vector<BeadCatch> out;
  const Result<Bead> bead = bead_of(document, id, evaluator);
  if (!bead)
    return out;
  const Curve& guide = *bead->guide;
  const double whole = guide.length();
  for (const CurveCorner& c : guide.corners())
    out.push_back({c.s, "corner"});
  const auto line = evaluator.guide(document, *document.find(id)->lettering());
  if (line && (*line)->circle) { // seen from the centre: top, right, bottom, left
    const Piece* piece = document.find(id);
    const OrientedGuide oriented_guide = oriented(**line, piece->lettering()->recipe.bend.guide.tops);
    for (const double angle : {0.0, 90.0, 180.0, 270.0}) {
      double s = std::fmod(length_at_angle(**line, oriented_guide, angle), whole);
      out.push_back({s < 0 ? s + whole : s, "quarter"});
    }
  } else {
    if (!guide.closed())
      out.push_back({whole / 2, "middle"}), out.push_back({0, "start"}), out.push_back({whole, "end"});
    else
      out.push_back({whole / 2, "middle"}), out.push_back({0, "start"});
    for (const double share : {0.25, 0.75})
      out.push_back({whole * share, "quarter"});
  }
  for (const double s : guide.joints())
    out.push_back({s, "node"});
  return out;
}

} // namespace frelm
