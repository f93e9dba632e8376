#include "lettering/evaluate.h"

namespace frelm {
namespace {

// Only what shaping reads: alignment and pitch changes must not shape again.
Letters shaping_part(const Letters& letters) {
  Letters l = letters;
  l.alignment = Alignment::Left;
  l.line_pitch = 0;
  return l;
}

// Looks the key up, or makes and stores the value; `make` returns Result<shared_ptr<const Value>>.
template <class Key, class Value, class Make>
Result<std::shared_ptr<const Value>> cached(Memo<Key, Value>* memo, Key key, const Make& make) {
  if (memo != nullptr)
    if (std::shared_ptr<const Value> found = memo->find(key))
      return found;
  Result<std::shared_ptr<const Value>> made = make();
  if (made && memo != nullptr)
    return memo->store(std::move(key), *made);
  return made;
}

} // namespace

std::vector<Outline> letter_outlines(const SeatedText& text) {
  std::vector<Outline> out;
  for (const PlacedLetter& l : text.letters)
    if (!l.blank())
      out.push_back(l.shape->transformed(l.placement()));
  return out;
}

Result<std::shared_ptr<const Finished>> finish(const std::vector<Outline>& parts, const Finish& steps,
                                               std::stop_token stop) {
  auto out = std::make_shared<Finished>();
  if (steps.welds()) {
    WeldOptions options;
    options.stop = std::move(stop);
    Result<WeldResult> welded = weld(parts, options);
    if (!welded)
      return welded.error();
    out->outline = std::move(welded->outline);
    out->report = welded->report;
  } else {
    for (const Outline& part : parts)
      out->outline.append(part);
    out->report.nodes_in = out->report.nodes_out = out->outline.node_count();
  }
  return std::shared_ptr<const Finished>(std::move(out));
}

Result<Evaluation> evaluate(const Recipe& recipe, const Placement& placement, const CircleGuide* guide,
                            const FaceLibrary& faces, const EvaluateOptions& options) {
  const Letters* letters = recipe.letters();
  if (letters == nullptr)
    return bad_input("this recipe has no letters", "Letters");
  EvaluateCache* cache = options.cache;
  const Result<std::shared_ptr<const Face>> face = faces.face(letters->face);
  if (!face)
    return face.error();

  const Ligatures ligatures = ligatures_for(recipe.spacing);
  const auto set =
      cached(cache ? &cache->set : nullptr, EvaluateCache::SetKey{*face, shaping_part(*letters), ligatures},
             [&] { return set_text(*letters, ligatures, **face); });
  if (!set)
    return set.error();

  const Alignment alignment = recipe.bend.kind == BendKind::Straight ? letters->alignment : Alignment::Centre;
  const auto spaced = cached(
      cache ? &cache->spaced : nullptr, EvaluateCache::SpaceKey{*set, recipe.spacing, alignment},
      [&]() -> Result<std::shared_ptr<const SpacedText>> { return space_text(*set, recipe.spacing, alignment); });
  if (!spaced)
    return spaced.error();

  EvaluateCache::SeatKey seat_key{*spaced, recipe.bend, letters->alignment, letters->line_pitch, placement, {}};
  if (guide != nullptr)
    seat_key.guide = *guide;
  const auto seated =
      cached(cache ? &cache->seated : nullptr, seat_key, [&] { return seat(*spaced, recipe, placement, guide); });
  if (!seated)
    return seated.error();

  Evaluation out{*seated, nullptr};
  if (options.depth == Depth::Finish) {
    const auto finished = cached(cache ? &cache->finished : nullptr, EvaluateCache::FinishKey{*seated, recipe.finish},
                                 [&] { return finish(letter_outlines(**seated), recipe.finish, options.stop); });
    if (!finished)
      return finished.error();
    out.finished = *finished;
  }
  return out;
}

} // namespace frelm
