#include "document/evaluate.h"

namespace frelm {

Result<PieceResult> DocumentEvaluator::piece(const Document& document, PieceId id, Depth depth,
                                             std::stop_token stop) const {
  std::vector<PieceId> path;
  return evaluate_piece(document, id, depth, stop, path);
}

Result<PieceResult> DocumentEvaluator::evaluate_outlines(const std::vector<Outline>& parts, const Finish& steps,
                                                         std::shared_ptr<const Outline> plain,
                                                         const std::stop_token& stop) const {
  PieceResult out;
  if (!steps.welds() && plain != nullptr) {
    out.outline = std::move(plain);
  } else {
    const Result<std::shared_ptr<const Finished>> done = finish(parts, steps, stop);
    if (!done)
      return done.error();
    out.outline = std::shared_ptr<const Outline>(*done, &(*done)->outline);
    out.weld = (*done)->report;
  }
  out.ink = out.outline->bounds();
  return out;
}

Result<PieceResult> DocumentEvaluator::evaluate_piece(const Document& document, PieceId id, Depth depth,
                                                      const std::stop_token& stop, std::vector<PieceId>& path) const {
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return bad_input("a piece it is made from is no longer there");
  if (std::find(path.begin(), path.end(), id) != path.end())
    return bad_input("is made from itself; take it out of its own sources", piece->name);
  path.push_back(id);

  if (const Guide* guide = piece->guide()) {
    if (!(guide->circle.radius > 0))
      return bad_input("the circle's radius must be more than 0 mm", piece->name);
    PieceResult out;
    out.curve = std::make_shared<const Curve>(curve_of(guide->circle));
    const Point c = guide->circle.centre;
    const double r = guide->circle.radius;
    out.ink = {c.x - r, c.y - r, c.x + r, c.y + r};
    Outline circle;
    circle.contours.push_back(circle_contour(c, r));
    out.outline = std::make_shared<const Outline>(std::move(circle));
    return out;
  }
  if (const OutlinePiece* drawn = piece->outline())
    return evaluate_outlines({*drawn->outline}, drawn->finish, drawn->outline, stop);

  const Lettering& lettering = *piece->lettering();
  if (const auto* outlines = std::get_if<OutlineSource>(&lettering.recipe.source)) {
    const auto drawn = outlines->outline != nullptr ? outlines->outline : std::make_shared<const Outline>();
    return evaluate_outlines({*drawn}, lettering.recipe.finish, drawn, stop);
  }
  if (const auto* pieces = std::get_if<PiecesSource>(&lettering.recipe.source)) {
    std::vector<Outline> parts;
    for (const PieceId part : pieces->pieces) {
      const Result<PieceResult> r = evaluate_piece(document, part, Depth::Finish, stop, path);
      if (!r)
        return r.error();
      if (r->outline != nullptr)
        parts.push_back(*r->outline);
      path.pop_back();
    }
    return evaluate_outlines(parts, lettering.recipe.finish, nullptr, stop);
  }
  EvaluateOptions options;
  options.depth = depth;
  options.cache = &cache_;
  options.stop = stop;
  const Result<Evaluation> e =
      frelm::evaluate(lettering.recipe, lettering.placement, guide_of(document, lettering), faces_, options);
  if (!e) {
    Error error = e.error();
    error.where = error.where.empty() ? piece->name : piece->name + ", " + error.where;
    return error;
  }
  PieceResult out;
  out.seated = e->seated;
  out.ink = e->seated->ink;
  if (e->finished != nullptr) {
    out.outline = std::shared_ptr<const Outline>(e->finished, &e->finished->outline);
    out.weld = e->finished->report;
  }
  return out;
}

Result<CutSheet> cut_sheet(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop) {
  CutSheet sheet;
  sheet.frame = {0, 0, document.sheet.width, document.sheet.height};
  for (const auto& piece : document.pieces) {
    if (!piece->is_cut())
      continue;
    const Result<PieceResult> result = evaluator.piece(document, piece->id, Depth::Finish, stop);
    if (!result)
      return result.error();
    sheet.pieces.push_back({piece->id, piece->name, piece->colour, piece->destination, *result->outline});
  }
  return sheet;
}

} // namespace frelm
