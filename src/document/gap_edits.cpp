// A typed gap is found in rounds: all pairs move at once, each by a secant of its own, since it changes its own gap and
// the others hardly; the best round is kept, the correction in cap heights.
#include "document/gap_edits.h"

#include "document/edits.h"

namespace frelm {
namespace {

constexpr int most_rounds = 12;
constexpr double good_enough = 0.001; // mm

std::uint64_t id_of(const Recipe& recipe, const PlacedLetter& letter) {
  const TypedText& text = recipe.letters()->text;
  return letter.first < text.size() ? text[letter.first].id : 0;
}

void add_to(Recipe& recipe, PairId pair, double cap_heights) {
  const auto it = std::find_if(recipe.pairs.begin(), recipe.pairs.end(),
                               [&](const PairTweak& t) { return t.left == pair.left && t.right == pair.right; });
  if (it == recipe.pairs.end())
    recipe.pairs.push_back({pair.left, pair.right, cap_heights});
  else
    it->gap += cap_heights;
  std::erase_if(recipe.pairs, [](const PairTweak& t) { return t.gap == 0; });
  std::sort(recipe.pairs.begin(), recipe.pairs.end(), [](const PairTweak& a, const PairTweak& b) {
    return std::pair(a.left, a.right) < std::pair(b.left, b.right);
  });
}

const Recipe* recipe_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  return l != nullptr && l->recipe.letters() != nullptr ? &l->recipe : nullptr;
}

// Neighbouring inked letters of each run, by index.
template <class Use> void each_pair(const SeatedText& text, const Use& use) {
  const PlacedLetter* last = nullptr;
  for (const PlacedLetter& l : text.letters) {
    if (l.blank())
      continue;
    if (last != nullptr && last->line == l.line)
      use(*last, l);
    last = &l;
  }
}

// Closest distances of the pairs, in their order; the first copy of a repeated text counts.
std::vector<double> distances(const Recipe& recipe, const SeatedText& text, const std::vector<PairId>& pairs) {
  std::vector<double> out(pairs.size(), -1);
  each_pair(text, [&](const PlacedLetter& a, const PlacedLetter& b) {
    const auto it = std::find(pairs.begin(), pairs.end(), PairId{id_of(recipe, a), id_of(recipe, b)});
    if (it == pairs.end())
      return;
    double& slot = out[static_cast<std::size_t>(it - pairs.begin())];
    if (slot < 0)
      slot = closest(a.shape->transformed(a.place), b.shape->transformed(b.place)).distance;
  });
  return out;
}

} // namespace

std::optional<PairId> pair_of(const Recipe& recipe, const SeatedText& text, const Gap& gap) {
  if (recipe.letters() == nullptr || gap.seam)
    return std::nullopt;
  const PlacedLetter &a = text.letters[gap.left], &b = text.letters[gap.right];
  const PairId id{id_of(recipe, a), id_of(recipe, b)};
  if (a.line != b.line || a.cluster > b.cluster || id.left == 0 || id.right == 0)
    return std::nullopt;
  return id;
}

std::vector<PairId> pairs_of(const Recipe& recipe, const SeatedText& text) {
  std::vector<PairId> out;
  if (recipe.letters() == nullptr)
    return out;
  each_pair(text, [&](const PlacedLetter& a, const PlacedLetter& b) {
    const PairId id{id_of(recipe, a), id_of(recipe, b)};
    if (id.left != 0 && id.right != 0 && a.cluster < b.cluster)
      out.push_back(id);
  });
  std::vector<PairId> once;
  for (const PairId& id : out)
    if (once.empty() || std::find(once.begin(), once.end(), id) == once.end())
      once.push_back(id);
  return once;
}

Document widened(const Document& document, PieceId id, const std::vector<PairId>& pairs, double by,
                 const DocumentEvaluator& evaluator) {
  const Result<PieceResult> now = evaluator.seat_now(document, id);
  if (!now || now->seated == nullptr || !std::isfinite(by))
    return document;
  const double cap = now->seated->spaced->set->cap_height;
  return edit_piece(document, id, [&](Piece& p) {
    for (const PairId& pair : pairs)
      add_to(p.lettering()->recipe, pair, by / cap);
  });
}

Result<Document> with_gaps(const Document& document, PieceId id, const std::vector<PairId>& pairs, double wanted,
                           const DocumentEvaluator& evaluator, const Effort& effort) {
  if (!(wanted >= 0) || !std::isfinite(wanted))
    return bad_input(FRELM_WORDS("core", "a gap must be 0 or more"), FRELM_WORDS("core", "Gap strip"));
  Document now = document, best = document;
  double best_miss = std::numeric_limits<double>::infinity();
  // All pairs at once: each changes its own gap by what it is moved along the frame, and the others hardly.
  std::vector<double> step(pairs.size(), 0), before(pairs.size(), 0);
  for (int round = 0; round < most_rounds; ++round) {
    const Recipe* recipe = recipe_of(now, id);
    if (recipe == nullptr)
      return bad_input(FRELM_WORDS("core", "is not a lettering"), FRELM_WORDS("core", "Gap strip"));
    const Result<PieceResult> seated = evaluator.piece(now, id, Depth::Seat, effort);
    if (!seated)
      return seated.error();
    const double cap = seated->seated->spaced->set->cap_height;
    const std::vector<double> is = distances(*recipe, *seated->seated, pairs);
    double miss = 0;
    for (const double d : is) {
      if (d < 0)
        return bad_input(FRELM_WORDS("core", "these letters don't stand side by side"),
                         FRELM_WORDS("core", "Gap strip"));
      miss = std::max(miss, std::abs(d - wanted));
    }
    if (miss < best_miss)
      best = now, best_miss = miss;
    if (miss < good_enough)
      break;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
      double slope = 1; // of the distance to what was added
      if (round > 0 && is[i] > 0 && before[i] > 0 && std::abs(step[i]) > 1e-9)
        slope = std::clamp((is[i] - before[i]) / step[i], 0.3, 2.0);
      // Letters that overlap are moved apart step by step until they stand clear.
      step[i] = is[i] > 0 || wanted == 0 ? (wanted - is[i]) / slope : std::max(wanted, 0.06 * cap);
      before[i] = is[i];
    }
    now = edit_piece(std::move(now), id, [&](Piece& p) {
      for (std::size_t i = 0; i < pairs.size(); ++i)
        add_to(p.lettering()->recipe, pairs[i], step[i] / cap);
    });
  }
  return best;
}

Document gaps_reset(const Document& document, PieceId id, const std::vector<PairId>& pairs) {
  return edit_piece(document, id, [&](Piece& p) {
    if (Lettering* l = p.lettering())
      std::erase_if(l->recipe.pairs, [&](const PairTweak& t) {
        return std::find(pairs.begin(), pairs.end(), PairId{t.left, t.right}) != pairs.end();
      });
  });
}

Document all_gaps_reset(const Document& document, PieceId id) {
  return edit_piece(document, id, [](Piece& p) {
    if (Lettering* l = p.lettering())
      l->recipe.pairs.clear();
  });
}

std::vector<HandCorrection> hand_corrections(const Recipe& recipe, const SeatedText& text) {
  std::vector<HandCorrection> out;
  if (recipe.letters() == nullptr)
    return out;
  const TypedText& typed = recipe.letters()->text;
  const std::vector<PairId> standing = pairs_of(recipe, text);
  for (const PairTweak& t : recipe.pairs) {
    HandCorrection c{{t.left, t.right}, {}, t.gap * text.spaced->set->cap_height, false};
    std::optional<std::size_t> left, right;
    for (std::size_t i = 0; i < typed.size(); ++i) {
      if (typed[i].id == t.left)
        left = i;
      if (typed[i].id == t.right)
        right = i;
    }
    if (!left || !right)
      continue; // one of them is gone
    c.in_force = std::find(standing.begin(), standing.end(), c.pair) != standing.end();
    c.letters += typed[*left].c;
    if (*right > *left + 1 && typed[*left + 1].c == U' ')
      c.letters += U' ';
    c.letters += typed[*right].c;
    out.push_back(std::move(c));
  }
  // In the order they stand.
  std::stable_sort(out.begin(), out.end(), [&](const HandCorrection& a, const HandCorrection& b) {
    return std::find(standing.begin(), standing.end(), a.pair) < std::find(standing.begin(), standing.end(), b.pair);
  });
  return out;
}

} // namespace frelm
