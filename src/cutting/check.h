// The Cut check: what the knife would meet.
#pragma once

#include "document/evaluate.h"
#include "geom/said.h"

namespace frelm {

enum class Weight { MustFix, Look, Note };
enum class Cure {
  SwitchWeldOn,
  SendToGuide,
  MoveOntoSheet,
  NarrowFace,
  ShrinkLetters,
  Tighten,
  LengthenGuide,
  SpreadOver,
  KeepJoined,
  EvenGaps,
  ColourApart,
  TidyNodes,
  TurnHoles,
  DropDoubles,
  TieParts,
  FewerNodes,
  CutInPanels
};

enum class FindingKind {
  GuideCut,
  FaceMissing,
  CannotBeSet,
  OutsideSheet,
  PiecesCross,
  FaceNotHere,
  LettersLacking,
  NothingLettered,
  OverlapCut,
  FoldsOver,
  CircleTooSmall,
  BentTooFar,
  MeetsOwnStart,
  LongerThanGuide,
  StraddlesCorner,
  WindingsTouch,
  LettersCollide,
  JoinsApart,
  JoinsTogether,
  GapsNarrow,
  LinesClose,
  LeansFar,
  NotClosed,
  CrossesItself,
  CurvesBecameLines,
  EndsMoved,
  StrokesThin,
  GapsThin,
  TooLarge,
  CutTwice,
  SizeNotOrdered,
  PartsNotOrdered,
  ColourUnlisted,
  PictureOnly,
  HolesFilled,
  HolesClosed,
  NodesClose,
  Spikes,
  LinesTiny,
  NodesDense,
  LettersLive,
  CheckFailed
};
Words finding_title(FindingKind kind);    // "Overlap would be cut"
const char* finding_id(FindingKind kind); // "overlap-cut": the same in every version and language

struct Finding {
  Weight weight = Weight::Note;
  FindingKind kind = FindingKind::CheckFailed;
  Said detail;             // "Marigold: 6 joins not welded"
  PieceId piece = 0;       // 0: the whole document
  Box where;               // mm, the place to look at
  std::vector<Cure> cures; // those that help here, the likeliest first
  std::string aside = {};  // why it was set aside: a note then
  bool operator==(const Finding&) const = default;
};

// What the geometry engine had to give up where it could not keep curves and joins exactly, as a finding without a
// place; nothing where it kept all, and for joins moved by less than 0.001 mm. name: the piece's.
std::optional<Finding> fallbacks(const WeldReport& report, const std::string& name);

struct CheckReport {
  std::vector<Finding> findings;  // by weight, then in document order
  std::size_t to_look_at() const; // findings that are more than notes
};

// Stops early, with what it has, when asked to.
CheckReport check(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop = {});
// The document with the cure applied. Errors: it can't finish what it begins (letters too small before they fit, a
// guide that grows without end), and then nothing is changed; Cancelled.
// CutInPanels is of materials, whatever the piece.
Result<Document> cured(const Document& document, PieceId piece, Cure cure, const DocumentEvaluator& evaluator,
                       std::stop_token stop = {});
Words cure_name(Cure cure);
const char* cure_id(Cure cure); // "switch-weld-on"

// A finding looked at and left: every one of that kind and piece, for the reason. An empty reason takes it back.
Document with_set_aside(Document document, FindingKind kind, PieceId piece, const std::string& reason);

} // namespace frelm
