// evaluate for a whole document: finds each piece's guide and sources, refuses cycles, re-runs only what changed.
#pragma once

#include "document/guides.h"
#include "geom/narrow.h"
#include "lettering/evaluate.h"
#include "lettering/gaps.h"

namespace frelm {

struct PieceResult {
  std::shared_ptr<const SeatedText> seated; // letterings of letters only
  std::shared_ptr<const Outline> outline;   // the letters, finished; with Depth::Seat only of drawn ones, as drawn
  std::shared_ptr<const Finished> finished; // all layers, where a finish has run
  std::shared_ptr<const BentBlock> bent;    // what a warp did: to letters or to outlines
  WeldReport weld;
  std::shared_ptr<const GuideLine> line; // guides only
  bool sketched = false;                 // a ribbon that is only sketched yet
  Box ink;                               // exact extent on the sheet: letters, outline or guide
  // Not yet what it will be (SeatedText); the background brings the rest.
  bool provisional() const {
    return seated != nullptr ? seated->provisional() : sketched || (bent != nullptr && bent->sketch);
  }
};

// Its letters, or what is drawn, as they are seated: neither welded nor finished.
Outline seated_outline(const PieceResult& piece);

// What may be spent, who may end it, and who is told how far it is (share of a lettering's evening).
struct Effort {
  Effort() = default;
  Effort(std::stop_token until, std::function<void(double)> tell = {})
      : stop(std::move(until)), progress(std::move(tell)) {}
  std::stop_token stop;
  std::function<void(double)> progress;
  std::size_t most_letters_evened = std::numeric_limits<std::size_t>::max();
  bool sketch_warps = false;
};

class DocumentEvaluator {
public:
  // most_letters: longer runs are not evened by seat_now, and with Warps::Sketched no block is warped by it, unless
  // that has been done before: its results are provisional then.
  enum class Warps { Exact, Sketched };
  explicit DocumentEvaluator(const FaceLibrary& faces,
                             std::size_t most_letters = std::numeric_limits<std::size_t>::max(),
                             Warps warps = Warps::Exact, std::size_t cache_bytes = usual_cache_bytes)
      : faces_(faces), most_letters_(most_letters), warps_(warps), cache_(cache_bytes) {}

  // Thread-safe. Errors: no such piece, those of lettering/evaluate.h, a cycle of sources, Cancelled.
  Result<PieceResult> piece(const Document& document, PieceId id, Depth depth, const Effort& effort = {}) const;
  // Seated letters in bounded time, for the hand at the screen.
  Result<PieceResult> seat_now(const Document& document, PieceId id) const;
  // measure_gaps, kept for each seated text: strip and Cut check read the same ones. Stopped: what there is, not kept.
  std::shared_ptr<const std::vector<Gap>> gaps(const std::shared_ptr<const SeatedText>& text,
                                               std::stop_token stop = {}) const;
  // narrow_places of an outline, kept. One that may cross itself is united first. Stopped: nothing, not kept.
  enum class Contours { Sound, MayCross };
  std::shared_ptr<const std::vector<NarrowPlace>> narrow(const std::shared_ptr<const Outline>& outline,
                                                         Contours contours, double size, NarrowSide side,
                                                         std::stop_token stop = {}) const;
  // resolve_guide and guide_of, kept: the same line for the same shape, so that letters on it are kept as well.
  Result<std::shared_ptr<const GuideLine>> guide(const Document& document, PieceId id) const;
  Result<std::shared_ptr<const GuideLine>> guide(const Document& document, const GuideRef& ref) const;
  Result<std::shared_ptr<const GuideLine>> guide(const Document& document, const Lettering& lettering) const {
    return guide(document, lettering.recipe.bend.guide);
  }
  // All that a bend follows. Errors: those of guide, for one that it needs.
  Result<BendGuides> guides(const Document& document, const Bend& bend) const;
  const FaceLibrary& faces() const { return faces_; }
  // One budget for all that is kept.
  MemoryBudget& memory() const { return cache_.budget(); }

private:
  struct PartMade {
    std::shared_ptr<const Outline> outline;
    std::shared_ptr<const Finished> finished; // its layers, where there are any and they are known
  };
  // The way down from the piece that was asked for to what it is made from. Blocks of blocks of blocks can double with
  // each: a part is worked out once, and what a block holds is bounded.
  struct Descent {
    static constexpr std::size_t most_nodes = 1'000'000;
    std::vector<PieceId> path;
    std::map<PieceId, PartMade> parts; // worked out on the way
  };
  Result<PieceResult> evaluate_piece(const Document& document, PieceId id, Depth depth, const Effort& effort,
                                     Descent& descent) const;
  Result<PieceResult> evaluate_outlines(const std::function<std::vector<Outline>()>& parts,
                                        std::shared_ptr<const void> identity, const Finish& steps,
                                        const Effort& effort) const;
  // A part of a block, finished; null: nothing to cut. A sketch takes bounded time: finished where that is known
  // already, else as it stands.
  Result<PartMade> part(const Document& document, PieceId part, const Effort& effort, Descent& descent) const;
  Result<PartMade> sketched_part(const Document& document, PieceId part, const Effort& effort, Descent& descent) const;
  Result<PieceResult> evaluate_pieces(const Document& document, const Lettering& lettering, const PiecesSource& pieces,
                                      Depth depth, const Effort& effort, Descent& descent) const;
  // looks: of each part what it is as a layer, where parts keep that.
  Result<PieceResult> evaluate_block(const Document& document, const Lettering& lettering,
                                     std::vector<std::shared_ptr<const Outline>> parts, std::vector<Layer> looks,
                                     Depth depth, const Effort& effort) const;
  // A shape with all that it follows.
  struct LineKey {
    GuideShape shape;
    std::vector<std::shared_ptr<const Outline>> outlines;
    std::vector<std::optional<CircleGuide>> circles;
    std::size_t hash() const;
    std::size_t bytes() const { return bytes_of(shape) + outlines.size() * sizeof(outlines[0]); }
    bool operator==(const LineKey&) const = default;
  };
  // Outlines bent as a block.
  struct BlockKey {
    std::vector<std::shared_ptr<const Outline>> parts;
    Bend bend;
    Placement placement;
    BendGuides guides;
    bool sketch = false;
    std::size_t hash() const;
    std::size_t bytes() const { return parts.size() * sizeof(parts[0]) + bend.net.net.pegs.size() * sizeof(NetPeg); }
    bool operator==(const BlockKey&) const = default;
  };
  struct Bent {
    BentOutlines made;
    std::size_t bytes() const {
      std::size_t sum = sizeof *this;
      for (const Outline& o : made.outlines)
        sum += bytes_of(o);
      return sum;
    }
  };
  // Parts that keep their looks.
  struct GroupKey {
    std::shared_ptr<const Bent> made;
    std::vector<std::pair<Colour, Destination>> looks;
    std::size_t hash() const { return hash_of(made, looks.size()); }
    std::size_t bytes() const { return sizeof *this + looks.size() * sizeof(looks[0]); }
    bool operator==(const GroupKey&) const = default; // the same object
  };
  Result<std::shared_ptr<const Finished>> grouped(const std::shared_ptr<const Bent>& made, std::vector<Layer> looks,
                                                  const PieceResult& result, const Finish& steps,
                                                  const Effort& effort) const;
  // Drawn outlines with finish steps.
  struct DrawnKey {
    std::shared_ptr<const Outline> outline;
    Finish finish;
    std::size_t hash() const { return hash_of(outline, finish.hash()); }
    bool operator==(const DrawnKey&) const = default; // the same outline
  };
  // What is cut of a guide; the line is its shape's own.
  struct GuideKey {
    std::shared_ptr<const GuideLine> line;
    GuideShape shape;
    ShapeWork work = ShapeWork::Exact;
    std::size_t hash() const { return hash_of(line, shape.index(), static_cast<int>(work)); }
    std::size_t bytes() const { return sizeof *this + bytes_of(shape); }
    bool operator==(const GuideKey&) const = default;
  };
  struct DrawnGuide {
    Outline outline;
    Box ink;
    std::size_t bytes() const { return sizeof *this + bytes_of(outline); }
  };
  Result<PieceResult> evaluate_guide(const Document& document, const Piece& piece, Depth depth,
                                     const Effort& effort) const;
  // A drawn outline with its finish.
  Result<PieceResult> finished_drawn(const std::shared_ptr<const Outline>& drawn, const Finish& steps, Depth depth,
                                     const Effort& effort) const;
  struct MeasuredGaps {
    std::vector<Gap> list;
    std::size_t bytes() const { return sizeof *this + list.size() * sizeof(Gap); }
  };
  struct NarrowKey {
    std::shared_ptr<const Outline> outline;
    double size = 0;
    NarrowSide side = NarrowSide::Strokes;
    std::size_t hash() const { return hash_of(outline, size, static_cast<int>(side)); }
    bool operator==(const NarrowKey&) const = default; // the same outline
  };
  struct NarrowFound {
    std::vector<NarrowPlace> list;
    std::size_t bytes() const { return sizeof *this + list.size() * sizeof(NarrowPlace); }
  };
  const FaceLibrary& faces_;
  std::size_t most_letters_;
  Warps warps_;
  mutable EvaluateCache cache_;
  mutable Memo<std::shared_ptr<const SeatedText>, MeasuredGaps> gaps_{cache_.budget()};
  mutable Memo<NarrowKey, NarrowFound> narrow_{cache_.budget()};
  mutable Memo<DrawnKey, Finished> drawn_{cache_.budget()};
  mutable Memo<LineKey, GuideLine> lines_{cache_.budget()};
  mutable Memo<GuideKey, DrawnGuide> drawn_guides_{cache_.budget()};
  mutable Memo<BlockKey, Bent> blocks_{cache_.budget()};
  mutable Memo<GroupKey, Finished> grouped_{cache_.budget()};
};

// A piece's layers with the colours and destinations they have in it, back to front.
struct PieceLayer {
  LayerRole role = LayerRole::Letters;
  int number = 1;
  Colour colour;
  Destination destination = Destination::Knife;
  std::shared_ptr<const Outline> outline;
  std::string id() const { return layer_id(role, number); }
};
std::vector<PieceLayer> layers_of(const Piece& piece, const Finished& finished);
std::vector<PieceLayer> layers_of(const Piece& piece, const PieceResult& result);

// What goes to the knife and the pen, in document order: one entry a layer, mirrored where the finish says so.
struct CutPiece {
  PieceId id = 0;
  std::string name;
  Colour colour;
  Destination destination = Destination::Knife;
  Outline outline;
  std::string layer = {}; // "ring-1"; empty where the piece has one layer
  // Which part, from 1 on, of work that is cut in so many panels (cutting/panels).
  std::size_t panel = 0, panels = 0;
};
struct CutSheet {
  Box frame; // the sheet, mm
  std::vector<CutPiece> pieces;
  std::vector<CutTurn> order_by_hand = {}; // the job's
};

// As the knife cuts it, with mirrored finishes and materials turned, or as the sheet shows it, readable.
enum class SheetSide { Cut, Seen };
// The layers of one piece that are cut; mirrored about the middle of them all.
void add_cut_layers(CutSheet& sheet, const Piece& piece, const PieceResult& result, SheetSide side = SheetSide::Cut);
Result<CutSheet> cut_sheet(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop = {},
                           SheetSide side = SheetSide::Cut, const std::function<void(double)>& progress = {});
// To look at: as it is seen, without what can't be set.
CutSheet seen_sheet(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop = {});

} // namespace frelm
