// Guides, drawn outlines and blocks are remembered by what they are made from, letterings by lettering/evaluate's own
// cache; a descent carries the path of pieces it came by, so that a piece made from itself is refused.
#include "document/evaluate.h"

#include "geom/boolean.h"
#include "geom/sound.h"
#include "lettering/shape_edit.h"

#include <fmt/format.h>

namespace frelm {

namespace {

std::size_t hash_of_shape(const GuideShape& shape) {
  std::size_t h = shape.index();
  for (const ShapeMeasure& m : shape_measures(shape))
    h = mix(h, hash_of(m.value));
  if (const auto* strip = std::get_if<RibbonGuide>(&shape))
    h = mix(h, hash_of_shape(ribbon_line(*strip)));
  if (const auto* path = std::get_if<PathGuide>(&shape))
    for (const Segment& s : path->contour.segments)
      h = mix(h, hash_of(s.p3.x, s.p3.y, s.p1.x));
  if (const auto* edge = std::get_if<OutlineGuide>(&shape))
    h = mix(h, hash_of(edge->contour, edge->corner.value_or(0)));
  return h;
}

} // namespace

std::size_t DocumentEvaluator::LineKey::hash() const {
  std::size_t h = hash_of_shape(shape);
  for (const auto& o : outlines)
    h = mix(h, hash_of(o));
  for (const auto& c : circles)
    h = mix(h, c ? hash_of(c->centre.x, c->centre.y, c->radius) : 0);
  return h;
}

std::size_t DocumentEvaluator::BlockKey::hash() const {
  std::size_t h = hash_of(parts.size(), placement.at.x, placement.at.y, placement.angle, bend.kind, guides.line,
                          guides.top, guides.bottom, bend.rails.top.first.depth, bend.rails.bottom.first.depth, sketch);
  for (const auto& p : parts)
    h = mix(h, hash_of(p));
  for (const NetPeg& p : bend.net.net.pegs)
    h = mix(h, hash_of(p.at.x, p.at.y));
  return h;
}

Result<PieceResult> DocumentEvaluator::piece(const Document& document, PieceId id, Depth depth,
                                             const Effort& effort) const {
  Descent descent;
  return evaluate_piece(document, id, depth, effort, descent);
}

Result<PieceResult> DocumentEvaluator::seat_now(const Document& document, PieceId id) const {
  Effort effort;
  effort.most_letters_evened = most_letters_;
  effort.sketch_warps = warps_ == Warps::Sketched;
  return piece(document, id, Depth::Seat, effort);
}

Outline seated_outline(const PieceResult& piece) {
  Outline out;
  if (piece.seated != nullptr)
    for (const Outline& letter : letter_outlines(*piece.seated))
      out.append(letter);
  else if (piece.outline != nullptr)
    out = *piece.outline;
  return out;
}

std::shared_ptr<const std::vector<Gap>> DocumentEvaluator::gaps(const std::shared_ptr<const SeatedText>& text,
                                                                std::stop_token stop) const {
  std::shared_ptr<const MeasuredGaps> measured = gaps_.find(text);
  if (measured == nullptr) {
    measured = std::make_shared<const MeasuredGaps>(MeasuredGaps{measure_gaps(*text, stop)});
    if (!stop.stop_requested())
      measured = gaps_.store(text, measured);
  }
  return {measured, &measured->list};
}

std::shared_ptr<const std::vector<NarrowPlace>> DocumentEvaluator::narrow(const std::shared_ptr<const Outline>& outline,
                                                                          Contours contours, double size,
                                                                          NarrowSide side, std::stop_token stop) const {
  NarrowKey key{outline, size, side};
  std::shared_ptr<const NarrowFound> found = narrow_.find(key);
  if (found == nullptr) {
    NarrowFound now;
    WeldOptions options;
    options.stop = stop;
    if (contours == Contours::Sound || near_groups({outline.get()}).sound.front())
      now.list = narrow_places(*outline, size, side, {.stop = stop});
    else if (const auto united = self_union(*outline, FillRule::Nonzero, options))
      now.list = narrow_places(united->outline, size, side, {.stop = stop});
    found = std::make_shared<const NarrowFound>(std::move(now));
    if (!stop.stop_requested())
      found = narrow_.store(std::move(key), found);
  }
  return {found, &found->list};
}

Result<std::shared_ptr<const GuideLine>> DocumentEvaluator::guide(const Document& document, PieceId id) const {
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return resolve_guide(document, id);
  LineKey key;
  const auto note = [&](PieceId followed) {
    const Piece* p = document.find(followed);
    key.outlines.push_back(p != nullptr && p->outline() != nullptr ? p->outline()->outline : nullptr);
    key.circles.push_back(p != nullptr ? circle_of(*p) : std::nullopt);
  };
  if (const Guide* g = piece->guide()) {
    key.shape = g->shape;
    if (const auto* outline = std::get_if<OutlineGuide>(&g->shape))
      note(outline->of);
    if (const auto* between = std::get_if<MidwayGuide>(&g->shape))
      note(between->first), note(between->second);
  } else if (const OutlinePiece* o = piece->outline()) {
    key.shape = OutlineGuide{};
    key.outlines.push_back(o->outline);
  }
  if (const auto known = lines_.find(key))
    return known;
  Result<std::shared_ptr<const GuideLine>> line = resolve_guide(document, id);
  if (!line)
    return line.error();
  return lines_.store(std::move(key), *line);
}

Result<std::shared_ptr<const GuideLine>> DocumentEvaluator::guide(const Document& document, const GuideRef& ref) const {
  if (guide_piece(document, ref) != nullptr)
    return guide(document, ref.guide);
  if (!ref.own)
    return guide_of(document, ref);
  LineKey key{*ref.own, {}, {}};
  if (const auto known = lines_.find(key))
    return known;
  auto line = guide_line(*ref.own);
  if (!line)
    return line.error();
  return lines_.store(std::move(key), *line);
}

Result<BendGuides> DocumentEvaluator::guides(const Document& document, const Bend& bend) const {
  BendGuides out;
  for (const GuideRef* ref : bend.followed()) {
    if (ref != &bend.guide && ref->guide == 0 && !ref->own)
      continue; // block_bend says which one is missing
    const auto line = guide(document, *ref);
    if (!line)
      return line.error();
    (ref == &bend.rails.top ? out.top : ref == &bend.rails.bottom ? out.bottom : out.line) = *line;
  }
  return out;
}

// Outlines as a block: warped, or only placed.
Result<PieceResult> DocumentEvaluator::evaluate_block(const Document& document, const Lettering& lettering,
                                                      std::vector<std::shared_ptr<const Outline>> parts,
                                                      std::vector<Layer> looks, Depth depth,
                                                      const Effort& effort) const {
  const Bend& bend = lettering.recipe.bend;
  const Result<BendGuides> followed = bend.warps() ? guides(document, bend) : Result<BendGuides>(BendGuides{});
  if (!followed)
    return followed.error();
  BlockKey key{std::move(parts), bend, lettering.placement, *followed, false};
  std::shared_ptr<const Bent> made = blocks_.find(key);
  if (made == nullptr && !bend.warps()) {
    const Affine frame = block_frame(bend, lettering.placement);
    Bent placed;
    for (const auto& p : key.parts)
      placed.made.outlines.push_back(p->transformed(frame));
    made = blocks_.store(key, std::make_shared<const Bent>(std::move(placed)));
  }
  if (made == nullptr && effort.sketch_warps) {
    key.sketch = true;
    made = blocks_.find(key);
  }
  if (made == nullptr) {
    std::vector<Outline> outlines;
    for (const auto& p : key.parts)
      outlines.push_back(*p);
    Result<BentOutlines> bent = bend_block(bend, outlines, lettering.placement, *followed,
                                           {key.sketch, &cache_.fills, {}, effort.stop}, effort.progress);
    if (!bent)
      return bent.error();
    made = blocks_.store(std::move(key), std::make_shared<const Bent>(Bent{std::move(*bent)}));
  }
  Result<PieceResult> out = evaluate_outlines([&] { return made->made.outlines; }, made,
                                              depth == Depth::Finish ? lettering.recipe.finish : Finish{{}}, effort);
  if (out && !looks.empty()) {
    const auto parted = grouped(made, std::move(looks), *out, lettering.recipe.finish, effort);
    if (!parted)
      return parted.error();
    out->finished = *parted;
  }
  if (out && bend.warps())
    out->bent = std::shared_ptr<const BentBlock>(made, &made->made.block);
  return out;
}

// Without steps the same object for the same parts and looks, so that nothing is painted anew for it.
Result<std::shared_ptr<const Finished>> DocumentEvaluator::grouped(const std::shared_ptr<const Bent>& made,
                                                                   std::vector<Layer> looks, const PieceResult& result,
                                                                   const Finish& steps, const Effort& effort) const {
  GroupKey key{made, {}};
  for (std::size_t i = 0; i < looks.size(); ++i) {
    key.looks.emplace_back(*looks[i].colour, *looks[i].destination);
    looks[i].outline = std::shared_ptr<const Outline>(made, &made->made.outlines[i]);
  }
  const bool plain = result.finished == nullptr;
  if (plain)
    if (auto known = grouped_.find(key))
      return known;
  Finished whole;
  if (plain) {
    whole.layers.emplace_back();
    whole.layers.back().outline = result.outline;
  } else {
    whole = *result.finished;
  }
  Result<Finished> parted =
      in_parts(std::move(whole), std::move(looks), plain ? Finish{{}} : steps, {&cache_.steps, effort.stop, {}});
  if (!parted)
    return parted.error();
  auto out = std::make_shared<const Finished>(std::move(*parted));
  return plain ? grouped_.store(std::move(key), std::move(out)) : out;
}

Result<DocumentEvaluator::PartMade> DocumentEvaluator::part(const Document& document, PieceId part,
                                                            const Effort& effort, Descent& descent) const {
  if (const auto known = descent.parts.find(part); known != descent.parts.end())
    return known->second;
  PartMade made;
  if (effort.sketch_warps) {
    const auto sketched = sketched_part(document, part, effort, descent);
    if (!sketched)
      return sketched.error();
    made = *sketched;
  } else {
    const Result<PieceResult> r = evaluate_piece(document, part, Depth::Finish, effort, descent);
    if (!r)
      return r.error();
    made = {r->outline, r->finished};
  }
  descent.path.pop_back();
  descent.parts.emplace(part, made);
  return made;
}

Result<DocumentEvaluator::PartMade> DocumentEvaluator::sketched_part(const Document& document, PieceId part,
                                                                     const Effort& effort, Descent& descent) const {
  const Result<PieceResult> r = evaluate_piece(document, part, Depth::Seat, effort, descent);
  if (!r)
    return r.error();
  const Piece& piece = *document.find(part);
  const auto whole = [](const std::shared_ptr<const Finished>& done) {
    return PartMade{done->letters().outline, done};
  };
  if (piece.lettering() == nullptr && piece.finish() != nullptr)
    if (const auto done = drawn_.find({r->outline, *piece.finish()}))
      return whole(done);
  if (r->seated != nullptr) {
    if (const auto done = cache_.finished.find({r->seated, piece.lettering()->recipe.finish}))
      return whole(done);
    auto all = std::make_shared<Outline>();
    for (const Outline& o : letter_outlines(*r->seated))
      all->append(o);
    return PartMade{std::move(all), nullptr};
  }
  return PartMade{r->outline != nullptr ? r->outline : std::make_shared<const Outline>(), r->finished};
}

// Bent as one they are their letters; standing as they are, each keeps its layers with their looks.
Result<PieceResult> DocumentEvaluator::evaluate_pieces(const Document& document, const Lettering& lettering,
                                                       const PiecesSource& pieces, Depth depth, const Effort& effort,
                                                       Descent& descent) const {
  std::vector<std::shared_ptr<const Outline>> parts;
  std::vector<Layer> looks;
  const bool keep_looks = !lettering.recipe.bend.warps();
  std::size_t nodes = 0;
  for (const PieceId id : pieces.pieces) {
    const auto made = this->part(document, id, effort, descent);
    if (!made)
      return made.error();
    if (made->outline == nullptr)
      continue;
    const Piece& piece = *document.find(id);
    PieceResult result;
    result.outline = made->outline, result.finished = keep_looks ? made->finished : nullptr;
    for (const PieceLayer& l : layers_of(piece, result)) {
      if (keep_looks && (l.destination == Destination::Off || l.destination == Destination::Guide))
        continue;
      parts.push_back(l.outline);
      nodes += l.outline->node_count();
      if (keep_looks)
        looks.push_back({LayerRole::Letters, 1, l.outline, l.colour, l.destination});
    }
    if (nodes > Descent::most_nodes)
      return bad_input(say(FRELM_WORDS("core", "its parts have more than %1 nodes; release some of them first"),
                           std::to_string(Descent::most_nodes)));
  }
  return evaluate_block(document, lettering, std::move(parts), std::move(looks), depth, effort);
}

Result<PieceResult> DocumentEvaluator::evaluate_outlines(const std::function<std::vector<Outline>()>& parts,
                                                         std::shared_ptr<const void> identity, const Finish& steps,
                                                         const Effort& effort) const {
  const Result<std::shared_ptr<const Finished>> done =
      finish(parts, std::move(identity), steps, {&cache_.steps, effort.stop, effort.progress});
  if (!done)
    return done.error();
  PieceResult out;
  out.outline = (*done)->letters().outline;
  if (steps.does_anything())
    out.finished = *done, out.weld = (*done)->report;
  out.ink = out.outline->bounds();
  return out;
}

Result<PieceResult> DocumentEvaluator::finished_drawn(const std::shared_ptr<const Outline>& drawn, const Finish& steps,
                                                      Depth depth, const Effort& effort) const {
  PieceResult out;
  if (depth == Depth::Finish && steps.does_anything()) {
    DrawnKey key{drawn, steps};
    out.finished = drawn_.find(key);
    if (out.finished == nullptr) {
      const auto made = finish([&] { return std::vector<Outline>{*drawn}; }, drawn, steps,
                               {&cache_.steps, effort.stop, effort.progress});
      if (!made)
        return made.error();
      out.finished = drawn_.store(std::move(key), *made);
    }
    out.weld = out.finished->report;
  }
  out.outline = out.finished != nullptr ? out.finished->letters().outline : drawn;
  out.ink = out.outline->bounds();
  return out;
}

Result<PieceResult> DocumentEvaluator::evaluate_guide(const Document& document, const Piece& piece, Depth depth,
                                                      const Effort& effort) const {
  const auto line = guide(document, piece.id);
  if (!line)
    return Error{line.error().code, line.error().what, piece.name.empty() ? line.error().at : as_it_is(piece.name)};
  GuideKey key{*line, piece.guide()->shape, ShapeWork::Exact};
  std::shared_ptr<const DrawnGuide> drawn = drawn_guides_.find(key);
  const bool sketched =
      drawn == nullptr && effort.sketch_warps && depth == Depth::Seat && std::holds_alternative<RibbonGuide>(key.shape);
  if (sketched) {
    key.work = ShapeWork::Sketch;
    drawn = drawn_guides_.find(key);
  }
  if (drawn == nullptr) {
    Result<Outline> outline = shape_outline(key.shape, **line, key.work);
    if (!outline)
      return placed_within(as_it_is(piece.name), outline.error());
    DrawnGuide made;
    made.outline = std::move(*outline);
    made.ink = made.outline.bounds();
    drawn = drawn_guides_.store(std::move(key), std::make_shared<const DrawnGuide>(std::move(made)));
  }
  const std::shared_ptr<const Outline> outline(drawn, &drawn->outline);
  const Finish* steps = piece.finish();
  if (steps != nullptr && depth == Depth::Finish) {
    Result<PieceResult> out = finished_drawn(outline, *steps, depth, effort);
    if (out)
      out->line = *line;
    return out;
  }
  PieceResult out;
  out.line = *line;
  out.ink = drawn->ink;
  out.outline = outline;
  out.sketched = sketched;
  return out;
}

Result<PieceResult> DocumentEvaluator::evaluate_piece(const Document& document, PieceId id, Depth depth,
                                                      const Effort& effort, Descent& descent) const {
  const Piece* piece = document.find(id);
  if (piece == nullptr)
    return bad_input(FRELM_WORDS("core", "a piece it is made from is no longer there"));
  if (std::find(descent.path.begin(), descent.path.end(), id) != descent.path.end())
    return bad_input(FRELM_WORDS("core", "is made from itself; take it out of its own sources"), as_it_is(piece->name));
  descent.path.push_back(id);

  if (piece->guide() != nullptr)
    return evaluate_guide(document, *piece, depth, effort);
  if (const OutlinePiece* drawn = piece->outline())
    return finished_drawn(drawn->outline, drawn->finish, depth, effort);

  const Lettering& lettering = *piece->lettering();
  const auto named = [&](Error error) { return placed_within(as_it_is(piece->name), std::move(error)); };
  if (const auto* outlines = std::get_if<OutlineSource>(&lettering.recipe.source)) {
    const auto drawn = outlines->outline != nullptr ? outlines->outline : std::make_shared<const Outline>();
    Result<PieceResult> r = evaluate_block(document, lettering, {drawn}, {}, depth, effort);
    return r ? std::move(r) : Result<PieceResult>(named(r.error()));
  }
  if (const auto* pieces = std::get_if<PiecesSource>(&lettering.recipe.source)) {
    Result<PieceResult> r = evaluate_pieces(document, lettering, *pieces, depth, effort, descent);
    return r ? std::move(r) : Result<PieceResult>(named(r.error()));
  }
  EvaluateOptions options;
  options.depth = depth;
  options.cache = &cache_;
  options.stop = effort.stop;
  options.most_letters_evened = effort.most_letters_evened;
  options.progress = effort.progress;
  options.sketch_warps = effort.sketch_warps;
  const Result<BendGuides> followed = guides(document, lettering.recipe.bend);
  if (!followed)
    return named(followed.error());
  const Result<Evaluation> e = frelm::evaluate(lettering.recipe, lettering.placement, *followed, faces_, options);
  if (!e)
    return named(e.error());
  PieceResult out;
  out.seated = e->seated;
  out.bent = e->seated->bent;
  out.ink = e->seated->ink;
  if (e->finished != nullptr) {
    out.finished = e->finished;
    out.outline = e->finished->letters().outline;
    out.weld = e->finished->report;
  }
  return out;
}

namespace {

// Until use says no.
template <class Use>
void each_cut_piece(const Document& document, const DocumentEvaluator& evaluator, const Effort& effort,
                    const Use& use) {
  const double n = double(document.pieces.size());
  for (std::size_t i = 0; i < document.pieces.size(); ++i) {
    const Piece& piece = *document.pieces[i];
    Effort here = effort;
    if (effort.progress)
      here.progress = [&](double share) { effort.progress((double(i) + share) / n); };
    if (piece.is_cut() && !use(piece, evaluator.piece(document, piece.id, Depth::Finish, here)))
      return;
  }
}

} // namespace

Result<CutSheet> cut_sheet(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop,
                           SheetSide side, const std::function<void(double)>& progress) {
  CutSheet sheet{{0, 0, document.sheet.width, document.sheet.height}, {}};
  sheet.order_by_hand = document.order_by_hand;
  std::optional<Error> unset;
  each_cut_piece(document, evaluator, {std::move(stop), progress},
                 [&](const Piece& piece, const Result<PieceResult>& result) {
                   if (result)
                     add_cut_layers(sheet, piece, *result, side);
                   else
                     unset = result.error();
                   return !unset;
                 });
  if (unset)
    return *unset;
  if (side == SheetSide::Cut)
    turn_mirrored(sheet, document.materials);
  return sheet;
}

CutSheet seen_sheet(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop) {
  CutSheet sheet{{0, 0, document.sheet.width, document.sheet.height}, {}};
  each_cut_piece(document, evaluator, {std::move(stop)}, [&](const Piece& piece, const Result<PieceResult>& result) {
    if (result)
      add_cut_layers(sheet, piece, *result, SheetSide::Seen);
    return true;
  });
  return sheet;
}

std::vector<PieceLayer> layers_of(const Piece& piece, const PieceResult& result) {
  if (result.finished == nullptr)
    return {{LayerRole::Letters, 1, piece.colour, piece.destination, result.outline}};
  return layers_of(piece, *result.finished);
}

std::vector<PieceLayer> layers_of(const Piece& piece, const Finished& finished) {
  std::vector<PieceLayer> out;
  for (const Layer& l : finished.layers)
    out.push_back(
        {l.role, l.number, l.colour.value_or(piece.colour), l.destination.value_or(piece.destination), l.outline});
  return out;
}

void add_cut_layers(CutSheet& sheet, const Piece& piece, const PieceResult& result, SheetSide side) {
  if (!piece.is_cut() || result.outline == nullptr)
    return;
  const std::vector<PieceLayer> layers = layers_of(piece, result);
  for (const PieceLayer& l : layers) {
    if (l.destination != Destination::Knife && l.destination != Destination::Pen)
      continue;
    sheet.pieces.push_back(
        {piece.id, piece.name, l.colour, l.destination,
         result.finished != nullptr && side == SheetSide::Cut ? result.finished->as_cut_of(*l.outline) : *l.outline,
         layers.size() > 1 ? l.id() : std::string()});
  }
}

} // namespace frelm
