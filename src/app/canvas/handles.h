// The handles of the selected piece: where they are and what dragging one makes of the document. Objects beside the
// canvas; the select tool drags them, the painter draws them.
#pragma once

#include "app/canvas/tool.h"
#include "document/align_catch.h"
#include "lettering/block_edit.h"
#include "lettering/shape_edit.h"

namespace frelm {

enum class HandleKind {
  Bead,
  Stem,
  ArcPull,
  Shape,
  Corner,
  FaceWidth,
  FaceWeight,
  LetterTurn,
  LetterSize,
  Block,
  Shade,
  RingDistance,
  Tab,
  Tie,
  Turn, // of all that is selected
  Lean  // of all that is selected, where these are outlines
};

// Of corner squares off the ink; clear of a block's own handles.
inline constexpr double corner_gap_px = 4, block_corner_gap_px = 20;
inline constexpr double turn_gap_px = 22; // of turn handles off their shape

struct Handle {
  HandleKind kind = HandleKind::Bead;
  Point at;
  Point root;            // where its stalk begins; `at` if it has none
  std::size_t index = 0; // Corner: 0 to 3 clockwise from the top left; Shape: of shape_handles; of the finish: its step
  ShapeHandleKind shape = ShapeHandleKind::Move;
  BlockHandle block = {};
  bool chosen = false;                           // a peg that is
  std::size_t part = 0;                          // Tie: which of the step
  std::shared_ptr<const Finished> finished = {}; // Tie: the ties as they stood when the hand took it
};

std::vector<Handle> handles_of(const Session& session, double mm_per_px);

struct HandleDrag {
  Document document; // as it would be
  QString name;      // of the step
  QString measure;
  std::optional<Point> caught;
  bool refused = false; // only the measure says why; the preview stays
  std::optional<Change> change = {};
};
// start: the document when the drag began. others: what sizes may be made equal to (Corner). typed: a number that
// counts in place of the hand's way, mm across or degrees (Corner, Turn, Lean). Empty when nothing sensible comes of it
// (the preview stays).
std::optional<HandleDrag> drag_handle(const Session& session, const Document& start, const Handle& handle, Point from,
                                      const ToolEvent& to, const std::vector<PlacedBox>& others = {},
                                      std::optional<double> typed = {});
bool takes_number(const Handle& handle);

// The pegs of the selected piece's net that are chosen.
std::vector<std::size_t> chosen_pegs(const Session& session);

// The letter of the selected lettering under a place; nothing where there is none.
const PlacedLetter* letter_at(const Session& session, Point at);
// The letter that is chosen, as it stands.
const PlacedLetter* chosen_letter(const Session& session);
// The chosen letter moved by a drag: along its guide and off it.
std::optional<HandleDrag> drag_letter(const Session& session, const Document& start, Point from, const ToolEvent& to);

} // namespace frelm
