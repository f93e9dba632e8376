// evaluate: a recipe → placed letters → outline, stage by stage, each stage kept.
//
// Pure: the result depends only on the recipe, the placement, the guide and the face; it is equal with and without
// the cache (a test). Canvas, Gap strip, Cut check, command line and every export use this one function.
#pragma once

#include "geom/weld.h"
#include "lettering/memo.h"
#include "lettering/seat.h"
#include "type/face_library.h"

namespace frelm {

struct Finished {
  Outline outline; // what is cut
  WeldReport report;
  std::size_t bytes() const { return sizeof *this + outline.node_count() * sizeof(Segment); }
};

struct Evaluation {
  std::shared_ptr<const SeatedText> seated;
  std::shared_ptr<const Finished> finished; // only when asked for
};

class EvaluateCache {
public:
  explicit EvaluateCache(std::size_t bytes = std::size_t{64} << 20)
      : set(bytes / 4), straight(bytes / 16), spaced(bytes / 4), seated(bytes / 4), finished(bytes / 4),
        fills(std::size_t{4} << 20) {}

  struct SetKey {
    std::shared_ptr<const Face> face;
    Letters letters;
    Ligatures ligatures;
    bool operator==(const SetKey&) const = default;
  };
  struct SpaceKey {
    std::shared_ptr<const SetText> set;
    Spacing spacing;
    Alignment alignment;
    std::vector<HandGap> by_hand;
    std::optional<double> equal_gap; // between lines made equally wide
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
    bool operator==(const SeatKey&) const = default;
  };
  struct FinishKey {
    std::shared_ptr<const SeatedText> seated;
    Finish finish;
    bool operator==(const FinishKey&) const = default;
  };
  Memo<SetKey, SetText> set;
  Memo<std::shared_ptr<const SetText>, StraightPairs> straight;
  Memo<SpaceKey, SpacedText> spaced;
  Memo<SeatKey, SeatedText> seated;
  Memo<FinishKey, Finished> finished;
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

// The finish steps on outlines, one for each letter or part; contours stay as they are where no step is on.
Result<std::shared_ptr<const Finished>> finish(const std::vector<Outline>& parts, const Finish& steps,
                                               std::stop_token stop);

// Each inked letter's outline on the sheet, in reading order.
std::vector<Outline> letter_outlines(const SeatedText& text);

} // namespace frelm
