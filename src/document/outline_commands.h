// Commands that make outlines from the pieces chosen: welded together, cut out of each other, taken apart, rounded.
//
// In: pieces with something drawn (letterings finished, with all their layers as one area; outlines; guides as what
// they draw). Out: another document, as one step. What is made takes name, colour, destination and place from the
// piece it is made of, of several from the rearmost. Live letterings among them become outlines, and Reopen brings
// back all that went into the step; guides that letters rode on stay, and no longer cut. Bounds: geom/boolean,
// geom/offset, geom/shade, geom/thin, geom/round_corners.
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class OutlineCommand {
  WeldTogether,   // all become one outline
  CutAway,        // the frontmost out of what lies behind it, and goes
  CutAwayBehind,  // what lies behind out of the frontmost, and goes
  KeepShared,     // what all of them cover
  DropShared,     // what an odd number of them cover
  Combine,        // one piece; no line changes
  BreakApart,     // each connected part with its holes a piece of its own
  OffsetAsPiece,  // a piece more, behind them
  ShadeAsPiece,   // likewise
  FewerNodes,     // of each
  RoundedCorners, // of each
  CloseLines,     // of each, with straight lines
  ReverseLines    // of each
};
inline constexpr int outline_command_count = static_cast<int>(OutlineCommand::ReverseLines) + 1;

// What the last ones ask for.
struct OutlineMeasures {
  double offset = 2.5; // mm, less than 0: inwards
  double shade_angle = 45, shade_depth = 8;
  double tolerance = 0.05;
  double radius = 1;
  bool operator==(const OutlineMeasures&) const = default;
};

struct OutlinesMade {
  Document document;
  std::vector<PieceId> pieces;                // made or changed, to be chosen now
  std::shared_ptr<const Outline> stays, goes; // areas that are there afterwards, and those that no longer are
  std::vector<std::string> released;          // names of letterings that were live
  std::vector<std::string> forgotten;         // outlines of an earlier release that can't be reopened any more
};

// Why the command can't work on these pieces; empty: it can. Cheap; what only the outlines can tell (nothing shared,
// one part only) is an error of make_outlines.
Said why_no_outlines(const Document& document, const std::vector<PieceId>& ids, OutlineCommand command);

// `pictured`: stays and goes are worked out too. Errors: why_no_outlines, an outcome with nothing in it or nothing
// changed, those of evaluate and of the operations, Cancelled.
Result<OutlinesMade> make_outlines(const Document& document, const std::vector<PieceId>& ids, OutlineCommand command,
                                   const OutlineMeasures& measures, const DocumentEvaluator& evaluator,
                                   bool pictured = false, std::stop_token stop = {});

} // namespace frelm
