#include "document/guides.h"

#include "geom/arc_cubics.h"

namespace frelm {
namespace {

constexpr double circle_share = 0.002; // of the radius: how far a circle's points may be off it
constexpr int deepest = 8;             // guides that follow one another

Curve curve_of(const Contour& c) {
  return Curve({c.segments.begin(), c.segments.end()}, c.closed);
}

const Contour* longest(const Outline& outline) {
  const Contour* best = nullptr;
  double length = -1;
  for (const Contour& c : outline.contours)
    if (const double l = c.length(); l > length)
      best = &c, length = l;
  return best;
}

Result<BandGuide> midway(const Document& document, const MidwayGuide& g) {
  const Piece *a = document.find(g.first), *b = document.find(g.second);
  const std::optional<CircleGuide> ca = a != nullptr ? circle_of(*a) : std::nullopt,
                                   cb = b != nullptr ? circle_of(*b) : std::nullopt;
  if (!ca || !cb)
    return bad_input(FRELM_WORDS("core", "the two circles it lies between are no longer there; choose another guide"),
                     FRELM_WORDS("core", "Guide"));
  constexpr double least_room = 1e-6; // mm between them
  const double room = std::abs(ca->radius - cb->radius);
  if (!(room > least_room) || distance(ca->centre, cb->centre) > room)
    return bad_input(FRELM_WORDS("core", "the two circles do not lie one within the other; move one"),
                     FRELM_WORDS("core", "Guide"));
  return BandGuide{lerp(ca->centre, cb->centre, 0.5), std::min(ca->radius, cb->radius),
                   std::max(ca->radius, cb->radius), g.margin, ca->start};
}

Result<std::shared_ptr<const GuideLine>> resolve(const Document& document, PieceId id, int depth) {
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return bad_input(FRELM_WORDS("core", "the guide is no longer there; choose another"), FRELM_WORDS("core", "Guide"));
  if (depth > deepest)
    return bad_input(FRELM_WORDS("core", "guides follow each other in a circle; choose another"),
                     as_it_is(piece->name));
  if (const OutlinePiece* o = piece->outline()) {
    const Contour* c = longest(*o->outline);
    if (c == nullptr)
      return bad_input(FRELM_WORDS("core", "the outline is empty; choose another guide"), as_it_is(piece->name));
    return guide_line(curve_of(*c));
  }
  const Guide* guide = piece->guide();
  if (guide == nullptr)
    return bad_input(FRELM_WORDS("core", "a lettering cannot be a guide; release it first"), as_it_is(piece->name));
  if (const auto* follows = std::get_if<OutlineGuide>(&guide->shape))
    return follow_outline(document, *follows);
  if (const auto* between = std::get_if<MidwayGuide>(&guide->shape)) {
    const Result<BandGuide> band = midway(document, *between);
    if (!band)
      return band.error();
    return guide_line(GuideShape(*band));
  }
  return guide_line(guide->shape);
}

} // namespace

Result<std::shared_ptr<const GuideLine>> follow_outline(const Document& document, const OutlineGuide& g) {
  const Piece* piece = document.find(g.of);
  if (piece == nullptr || piece->outline() == nullptr)
    return bad_input(FRELM_WORDS("core", "the outline it follows is no longer there; choose another guide"),
                     FRELM_WORDS("core", "Guide"));
  const Outline& outline = *piece->outline()->outline;
  if (g.contour >= outline.contours.size())
    return bad_input(FRELM_WORDS("core", "the outline no longer has that line; choose another guide"),
                     FRELM_WORDS("core", "Guide"));
  Curve curve = curve_of(outline.contours[g.contour]);
  if (!g.corner)
    return guide_line(std::move(curve));
  const std::vector<CurveCorner> corners = curve.corners();
  if (*g.corner >= corners.size())
    return bad_input(FRELM_WORDS("core", "the outline no longer has that corner; choose another edge"),
                     FRELM_WORDS("core", "Guide"));
  const double from = corners[*g.corner].s;
  const double to = *g.corner + 1 < corners.size() ? corners[*g.corner + 1].s
                    : curve.closed()               ? corners[0].s + curve.length()
                                                   : curve.length();
  return guide_line(curve.part(from, to));
}

Result<std::shared_ptr<const GuideLine>> resolve_guide(const Document& document, PieceId id) {
  return resolve(document, id, 0);
}

const Piece* guide_piece(const Document& document, const GuideRef& ref) {
  const Piece* piece = document.find(ref.guide);
  return piece != nullptr && piece->lettering() == nullptr ? piece : nullptr;
}

Result<std::shared_ptr<const GuideLine>> guide_of(const Document& document, const GuideRef& ref) {
  if (guide_piece(document, ref) != nullptr)
    return resolve_guide(document, ref.guide);
  if (ref.own)
    return guide_line(*ref.own);
  return bad_input(FRELM_WORDS("core", "choose a guide for the letters to ride on"), FRELM_WORDS("core", "Bend"));
}

std::optional<CircleGuide> circle_of(const Contour& contour) {
  if (!contour.closed || contour.segments.empty())
    return std::nullopt;
  const Box box = contour.bounds();
  const Point centre = box.centre();
  const double r = (box.width() + box.height()) / 4;
  for (const Segment& s : contour.segments)
    for (const double t : {0.0, 0.25, 0.5, 0.75})
      if (std::abs(distance(s.at(t), centre) - r) > circle_share * r)
        return std::nullopt;
  return CircleGuide{centre, r, 0};
}

std::optional<CircleGuide> circle_of(const Piece& piece) {
  if (const Guide* g = piece.guide()) {
    if (const auto* c = std::get_if<CircleGuide>(&g->shape))
      return *c;
    if (const auto* b = std::get_if<BandGuide>(&g->shape))
      return CircleGuide{b->centre, (b->inner + b->outer) / 2, b->start};
  }
  if (const OutlinePiece* o = piece.outline())
    if (const Contour* c = longest(*o->outline))
      return circle_of(*c);
  return std::nullopt;
}

std::vector<PieceId> riders_of(const Document& document, PieceId guide) {
  std::vector<PieceId> out;
  for (const auto& p : document.pieces)
    if (const Lettering* l = p->lettering())
      for (const GuideRef* followed : l->recipe.bend.followed())
        if (followed->guide == guide) {
          out.push_back(p->id);
          break;
        }
  return out;
}

std::vector<PieceId> followers_of(const Document& document, PieceId piece) {
  std::vector<PieceId> out;
  for (const auto& p : document.pieces) {
    const Guide* g = p->guide();
    if (g == nullptr)
      continue;
    const auto* outline = std::get_if<OutlineGuide>(&g->shape);
    const auto* between = std::get_if<MidwayGuide>(&g->shape);
    if ((outline != nullptr && outline->of == piece) ||
        (between != nullptr && (between->first == piece || between->second == piece)))
      out.push_back(p->id);
  }
  return out;
}

std::vector<PieceId> carriers_of(const Document& document, PieceId guide) {
  const Piece* piece = document.find(guide);
  if (piece != nullptr && piece->guide() != nullptr) {
    if (const auto* outline = std::get_if<OutlineGuide>(&piece->guide()->shape);
        outline != nullptr && document.find(outline->of) != nullptr)
      return {outline->of};
    if (const auto* between = std::get_if<MidwayGuide>(&piece->guide()->shape); between != nullptr)
      return {between->first, between->second};
  }
  return {guide};
}

Result<GuideShape> own_shape(const Document& document, const GuideShape& shape) {
  if (const auto* between = std::get_if<MidwayGuide>(&shape)) {
    const Result<BandGuide> band = midway(document, *between);
    if (!band)
      return band.error();
    return GuideShape(*band);
  }
  const auto* edge = std::get_if<OutlineGuide>(&shape);
  if (edge == nullptr)
    return shape;
  const auto line = follow_outline(document, *edge);
  if (!line)
    return line.error();
  return GuideShape(PathGuide{(*line)->curve->contour(default_arc_tolerance)});
}

Result<GuideShape> own_shape(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  if (piece != nullptr && piece->guide() != nullptr)
    return own_shape(document, piece->guide()->shape);
  const auto line = resolve_guide(document, id);
  if (!line)
    return line.error();
  return GuideShape(PathGuide{(*line)->curve->contour(default_arc_tolerance)});
}

std::vector<OutlineEdge> edges_of(PieceId id, const Outline& outline) {
  std::vector<OutlineEdge> out;
  for (std::size_t c = 0; c < outline.contours.size(); ++c) {
    const Curve curve = curve_of(outline.contours[c]);
    const std::vector<CurveCorner> corners = curve.corners();
    if (corners.empty() || (corners.size() == 1 && curve.closed())) {
      out.push_back({{id, c, {}}, curve});
      continue;
    }
    for (std::size_t k = 0; k < corners.size(); ++k) {
      const bool last = k + 1 == corners.size();
      if (last && !curve.closed()) {
        out.push_back({{id, c, k}, curve.part(corners[k].s, curve.length())});
        continue;
      }
      out.push_back({{id, c, k}, curve.part(corners[k].s, last ? corners[0].s + curve.length() : corners[k + 1].s)});
    }
  }
  return out;
}

} // namespace frelm
