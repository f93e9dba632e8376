#include "lettering/evaluate.h"

#include "lettering/bent_text.h"

namespace frelm {
namespace {

// Only what shaping reads: alignment and pitch changes must not shape again.
Letters shaping_part(const Letters& letters) {
  Letters l = letters;
  l.alignment = Alignment::Left;
  l.line_pitch = 0;
  l.downwards = false;
  l.equal_width = false;
  if (l.alternates.empty()) // shaping knows nothing of ids
    for (TypedChar& c : l.text)
      c.id = 0;
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

std::size_t hash_text(const Letters& letters) {
  std::size_t h = letters.text.size();
  for (const TypedChar& c : letters.text)
    h = mix(h, c.c);
  return h;
}

std::size_t EvaluateCache::SeatKey::hash() const {
  std::size_t h = hash_of(spaced, placement.at.x, placement.at.y, placement.angle, bend.kind, bend.offset,
                          bend.arc.value, bend.guide.angle, bend.guide.distance, bend.guide.percent, bend.guide.tops,
                          spacing.mode, guides.line, guides.top, guides.bottom, provisional);
  h = mix(h, hash_of(bend.rails.top.first.depth, bend.rails.bottom.first.depth, bend.rails.top.first.phase,
                     bend.rails.taper_along, bend.rails.taper_across));
  if (bend.kind == BendKind::Net)
    for (const NetPeg& p : bend.net.net.pegs)
      h = mix(h, hash_of(p.at.x, p.at.y));
  for (const LetterTweak& t : tweaks)
    h = mix(h, hash_of(t.id, t.turn, t.size, t.raise, t.nudge));
  return h;
}

std::size_t EvaluateCache::SeatKey::bytes() const {
  return letters.text.size() * sizeof(TypedChar) + tweaks.size() * sizeof(LetterTweak) +
         bend.net.net.pegs.size() * sizeof(NetPeg);
}

Result<Letters> letters_to_set(const Recipe& recipe, const GuideLine* guide) {
  Letters letters = *recipe.letters();
  if (recipe.bend.rides() && recipe.spacing.mode == SpacingMode::Repeat) {
    for (TypedChar& c : letters.text)
      if (c.c == U'\n')
        c.c = U' ';
    for (const char32_t c : recipe.spacing.separator)
      letters.text.push_back({c, 0});
  }
  if (recipe.bend.rides() && recipe.bend.guide.fit_height && guide != nullptr && guide->fit) {
    if (!(guide->fit->height > 0.01))
      return bad_input(FRELM_WORDS("core", "the band leaves no room for letters; make it wider or its margin less"),
                       FRELM_WORDS("core", "Bend"));
    letters.size = guide->fit->height;
    letters.size_by = guide->fit->by == FitBy::Capitals ? SizeBy::Capitals : SizeBy::Full;
  }
  return letters;
}

std::vector<Outline> letter_outlines(const SeatedText& text) {
  std::vector<Outline> out;
  for (const PlacedLetter& l : text.letters)
    if (!l.blank())
      out.push_back(l.place == Affine{} ? *l.shape : l.shape->transformed(l.place));
  return out;
}

Result<Evaluation> evaluate(const Recipe& recipe, const Placement& placement, const BendGuides& guides,
                            const FaceLibrary& faces, const EvaluateOptions& options) {
  if (recipe.letters() == nullptr)
    return bad_input(FRELM_WORDS("core", "this recipe has no letters"), FRELM_WORDS("core", "Letters"));
  const Result<Letters> fitted = letters_to_set(recipe, guides.line.get());
  if (!fitted)
    return fitted.error();
  const Letters* letters = &*fitted;
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

  const bool straight_lines = recipe.bend.laid_by() == BendKind::Straight || recipe.bend.laid_by() == BendKind::Rails;
  const Alignment alignment = straight_lines ? letters->alignment : Alignment::Centre;
  Spacing plain;
  plain.letter = recipe.spacing.letter, plain.word = recipe.spacing.word;
  const std::vector<HandGap> by_hand = hand_gaps(recipe, **set);
  std::optional<double> equal_gap; // mm of ink to ink
  if (letters->equal_width && !letters->downwards && (*set)->lines.size() > 1)
    equal_gap = (letters->line_pitch - 1) * (*set)->cap_height;
  const auto spaced =
      cached(cache ? &cache->spaced : nullptr, EvaluateCache::SpaceKey{*set, plain, alignment, by_hand, equal_gap},
             [&]() -> Result<std::shared_ptr<const SpacedText>> {
               if (equal_gap)
                 return space_equal_lines(**set, recipe.spacing, by_hand, *equal_gap);
               return space_text(*set, recipe.spacing, alignment, by_hand);
             });
  if (!spaced)
    return spaced.error();

  // What seat reads of the letters besides their shapes.
  Letters laid = *recipe.letters();
  if (recipe.tweaks.empty())
    for (TypedChar& c : laid.text)
      c.id = 0;
  EvaluateCache::SeatKey seat_key{*spaced,   recipe.bend, recipe.spacing, std::move(laid), recipe.tweaks,
                                  placement, {},          false};
  if (!recipe.bend.followed().empty())
    seat_key.guides = guides;
  const auto straight =
      cached(cache ? &cache->straight : nullptr, (*spaced)->set, [&]() -> Result<std::shared_ptr<const StraightPairs>> {
        return std::make_shared<const StraightPairs>((*spaced)->set);
      });
  if (!straight)
    return straight.error();
  const bool warps = recipe.bend.warps();
  const auto seat_now = [&](std::size_t most_letters, bool sketch) -> Result<std::shared_ptr<const SeatedText>> {
    const SeatEffort effort{most_letters, options.stop, options.progress};
    if (!warps)
      return seat(*spaced, recipe, placement, guides.line.get(), *straight, effort);
    Recipe under = recipe;
    under.bend.kind = straight_lines ? BendKind::Straight : recipe.bend.laid_by();
    const auto standing =
        seat(*spaced, under, recipe.bend.rides() ? placement : Placement{}, guides.line.get(), *straight, effort);
    if (!standing)
      return standing.error();
    Result<SeatedText> bent = bend_text(**standing, recipe.bend, placement, guides,
                                        {sketch, cache ? &cache->fills : nullptr, {}, options.stop}, options.progress);
    if (!bent)
      return bent.error();
    return std::make_shared<const SeatedText>(std::move(*bent));
  };
  // A run too long to be evened at once stands as set, and a block is only sketched, unless that has been done before.
  const bool evens = recipe.spacing.mode == SpacingMode::EvenGaps || recipe.spacing.mode == SpacingMode::KeepJoined;
  constexpr std::size_t any = std::numeric_limits<std::size_t>::max();
  // Pairs that are met for the first time take more than twice as long.
  const std::size_t most_evened = options.most_letters_evened == any || (*straight)->bytes() > sizeof(StraightPairs)
                                      ? options.most_letters_evened
                                      : options.most_letters_evened / 2;
  const bool waits = evens && (*set)->letter_count() > most_evened, sketches = warps && options.sketch_warps;
  const bool hurries = waits || sketches;
  std::shared_ptr<const SeatedText> known;
  if (hurries && cache != nullptr)
    known = cache->seated.find(seat_key);
  seat_key.provisional = hurries;
  const Result<std::shared_ptr<const SeatedText>> seated =
      known != nullptr ? Result<std::shared_ptr<const SeatedText>>(known)
                       : cached(cache ? &cache->seated : nullptr, std::move(seat_key),
                                [&] { return seat_now(waits ? 0 : any, sketches); });
  if (!seated)
    return seated.error();

  Evaluation out{*seated, nullptr};
  if (options.depth == Depth::Finish) {
    const auto finished =
        cached(cache ? &cache->finished : nullptr, EvaluateCache::FinishKey{*seated, recipe.finish}, [&] {
          return finish([&] { return letter_outlines(**seated); }, *seated, recipe.finish,
                        {cache ? &cache->steps : nullptr, options.stop, options.progress});
        });
    if (!finished)
      return finished.error();
    out.finished = *finished;
  }
  return out;
}

} // namespace frelm
