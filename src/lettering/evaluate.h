// evaluate: a recipe → placed letters → outline, stage by stage, each stage kept.
//
// Pure: the result depends only on the recipe, the placement, the guide and the face; it is equal with and without
// the cache (a test). Canvas, Gap strip, Cut check, command line and every export use this one function.
#pragma once

#include "lettering/finish_layers.h"
#include "lettering/memo.h"
#include "lettering/seat.h"
#include "type/face_library.h"

namespace frelm {

struct Evaluation {
  std::shared_ptr<const SeatedText> seated;
  std::shared_ptr<const Finished> finished; // only when asked for
};

inline constexpr std::size_t usual_cache_bytes = std::size_t{256} << 20;

// What a recipe's text hashes by.
std::size_t hash_text(const Letters& letters);

class EvaluateCache {
  MemoryBudget budget_; // the first member: the memories leave it before it goes

public:
  explicit EvaluateCache(std::size_t bytes = usual_cache_bytes)
      : budget_(bytes), set(budget_), straight(budget_, straight_share), spaced(budget_), seated(budget_),
        finished(budget_), steps(budget_), fills(budget_) {}
  MemoryBudget& budget() { return budget_; }
  static constexpr double straight_share = 1.0 / 16; // pairs of other sizes are seldom asked for again

  struct SetKey {
    std::shared_ptr<const Face> face;
    Letters letters;
    Ligatures ligatures;
    std::size_t hash() const { return hash_of(face, hash_text(letters), letters.size, letters.width, letters.size_by); }
    std::size_t bytes() const { return letters.text.size() * sizeof(TypedChar) + face->bytes(); }
    bool operator==(const SetKey&) const = default;
  };
  struct SpaceKey {
    std::shared_ptr<const SetText> set;
    Spacing spacing;
    Alignment alignment;
    std::vector<HandGap> by_hand;
    std::optional<double> equal_gap; // between lines made equally wide
    std::size_t hash() const { return hash_of(set, spacing.letter, spacing.word, alignment, by_hand.size()); }
    std::size_t bytes() const { return by_hand.size() * sizeof(HandGap); }
    bool operator==(const SpaceKey&) const = default;
  };
  struct SeatKey {
    std::shared_ptr<const SpacedText> spaced;
    Bend bend;
    Spacing spacing;
    Letters letters; // with its ids only where letters are moved by hand
    std::vector<LetterTweak> tweaks;
    Placement placement;
    BendGuides guides;
    bool provisional = false; // not evened yet, or only sketched
    std::size_t hash() const;
    std::size_t bytes() const;
    bool operator==(const SeatKey&) const = default;
  };
  struct FinishKey {
    std::shared_ptr<const SeatedText> seated;
    Finish finish;
    std::size_t hash() const { return hash_of(seated, finish.hash()); }
    bool operator==(const FinishKey&) const = default;
  };
  Memo<SetKey, SetText> set;
  Memo<std::shared_ptr<const SetText>, StraightPairs> straight;
  Memo<SpaceKey, SpacedText> spaced;
  Memo<SeatKey, SeatedText> seated;
  Memo<FinishKey, Finished> finished;
  FinishMemo steps;
  FillMemo fills;
};

enum class Depth { Seat, Finish };

struct EvaluateOptions {
  Depth depth = Depth::Finish;
  EvaluateCache* cache = nullptr;
  std::stop_token stop = {};
  std::size_t most_letters_evened = std::numeric_limits<std::size_t>::max(); // longer runs wait (SpacingReport)
  bool sketch_warps = false;                 // blocks are only sketched, unless they have been warped before
  std::function<void(double)> progress = {}; // share of evening or warping done
};

// The letters as they are shaped: a repeated text as one line with its separator, the size fitted to the guide's room.
// Errors: no room to fit them into.
Result<Letters> letters_to_set(const Recipe& recipe, const GuideLine* guide);

// For a recipe of Letters. Errors: those of the face, of set_text and of seat; Cancelled.
Result<Evaluation> evaluate(const Recipe& recipe, const Placement& placement, const BendGuides& guides,
                            const FaceLibrary& faces, const EvaluateOptions& options = {});

// Each inked letter's outline on the sheet, in reading order.
std::vector<Outline> letter_outlines(const SeatedText& text);

} // namespace frelm
