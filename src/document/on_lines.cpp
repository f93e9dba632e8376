// Kinds of lines are told apart by the curve that letters would follow, so guides and drawn outlines are alike here.
#include "document/on_lines.h"

#include "document/blocks.h"
#include "document/edits.h"

namespace frelm {
namespace {

Result<Done> can_be_laid(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->lettering() == nullptr || piece->lettering()->recipe.letters() == nullptr)
    return bad_input(FRELM_WORDS("core", "select a lettering together with the line"), FRELM_WORDS("core", "Bend"));
  if (piece->locked)
    return bad_input(FRELM_WORDS("core", "the lettering is locked; unlock it to bend it"), FRELM_WORDS("core", "Bend"));
  return Done{};
}

} // namespace

std::optional<LetteringWithLines> lettering_with_lines(const Document& document, const std::vector<PieceId>& ids,
                                                       const DocumentEvaluator& evaluator) {
  constexpr std::size_t most = 3; // a lettering and two lines: of more nothing comes, so they are not looked at
  if (ids.size() > most)
    return std::nullopt;
  std::vector<PieceId> ordered = ids;
  std::sort(ordered.begin(), ordered.end(),
            [&](PieceId a, PieceId b) { return document.index_of(a) < document.index_of(b); });
  LetteringWithLines out;
  for (const PieceId id : ordered) {
    const Piece* piece = document.find(id);
    if (piece == nullptr)
      return std::nullopt;
    if (const Lettering* l = piece->lettering()) {
      if (out.lettering != 0 || l->recipe.letters() == nullptr)
        return std::nullopt;
      out.lettering = id;
      continue;
    }
    const auto line = evaluator.guide(document, id);
    if (!line)
      return std::nullopt;
    ((*line)->curve->closed() ? out.closed : out.open).push_back(id);
  }
  if (out.lettering == 0)
    return std::nullopt;
  return out;
}

void ride_near(Lettering& lettering, PieceId line_id, const GuideLine& line, Point near) {
  ride_on(lettering, line_id, line);
  GuideBend& bend = lettering.recipe.bend.guide;
  const Vec d = near - line.centre;
  bend.angle = wrap_degrees(std::round(degrees(std::atan2(d.y, d.x)) + 90));
  if (line.curve->closed() && std::abs(bend.angle) > 90)
    bend.tops = Tops::Inward;
  if (bend.by == AlongBy::Percent && bend.anchor == Anchor::CentredAt) {
    const OrientedGuide along = oriented(line, bend.tops);
    bend.percent = std::round(along.curve->nearest(near) / along.curve->length() * 100);
  }
}

Result<Document> ridden(const Document& document, PieceId lettering, PieceId line, const DocumentEvaluator& evaluator,
                        std::optional<Point> near) {
  if (const Result<Done> can = can_be_laid(document, lettering); !can)
    return can.error();
  const auto follow = evaluator.guide(document, line);
  if (!follow)
    return follow.error();
  return edit_piece(document, lettering, [&](Piece& p) {
    if (near)
      ride_near(*p.lettering(), line, **follow, *near);
    else
      ride_on(*p.lettering(), line, **follow);
  });
}

Result<Document> set_between(const Document& document, PieceId lettering, PieceId one, PieceId other,
                             const DocumentEvaluator& evaluator) {
  if (const Result<Done> can = can_be_laid(document, lettering); !can)
    return can.error();
  const auto middle = [&](PieceId id) -> Result<double> {
    const auto line = evaluator.guide(document, id);
    if (!line)
      return line.error();
    if ((*line)->curve->closed())
      return bad_input(FRELM_WORDS("core", "edges are open lines; a closed one can be filled instead"),
                       FRELM_WORDS("core", "Bend"));
    return (*line)->curve->at((*line)->curve->length() / 2).point.y;
  };
  const Result<double> first = middle(one), second = middle(other);
  if (!first)
    return first.error();
  if (!second)
    return second.error();
  Result<Together> begun = begin_warp(document, lettering, BendKind::Rails, evaluator);
  if (!begun)
    return begun.error();
  const bool swapped = *second < *first;
  return edit_piece(std::move(begun->document), begun->id, [&](Piece& p) {
    RailsBend& rails = p.lettering()->recipe.bend.rails;
    rails.into = RailsInto::Edges;
    rails.link = EdgeLink::Free;
    rails.top = {{swapped ? other : one, {}}, {ProfileKind::Guide, 0, 1, 0}, {}};
    rails.bottom = {{swapped ? one : other, {}}, {ProfileKind::Guide, 0, 1, 0}, {}};
  });
}

Result<Document> set_into(const Document& document, PieceId lettering, PieceId shape,
                          const DocumentEvaluator& evaluator) {
  if (const Result<Done> can = can_be_laid(document, lettering); !can)
    return can.error();
  const auto line = evaluator.guide(document, shape);
  if (!line)
    return line.error();
  if (!(*line)->curve->closed())
    return bad_input(FRELM_WORDS("core", "the shape to fill is open; close it first"), FRELM_WORDS("core", "Bend"));
  return fill_into(document, lettering, shape);
}

} // namespace frelm
