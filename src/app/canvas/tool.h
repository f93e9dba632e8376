// Tools decode their own events. A tool reads the session, never changes it: it answers with what should happen, and
// the canvas carries that out. It sees neither dialogs nor history.
#pragma once

#include "app/session/session.h"
#include "app/style/words.h"
#include "document/catching.h"

#include <Qt>

namespace frelm {

struct ToolEvent {
  Point at; // mm on the sheet
  double mm_per_px = 1;
  Qt::KeyboardModifiers modifiers;
  bool twice = false;    // a double click
  bool on_ruler = false; // of the canvas's edge
};

// What a tool draws over the pieces.
struct ToolOverlay {
  std::optional<Box> rubber;                          // selection rectangle
  bool touching = false;                              // what it touches, else what it holds
  std::vector<std::pair<Point, Point>> caught_lines;  // along which something is lined up
  std::optional<Vec> carried;                         // so far the selection is, of more than are laid anew; mm
  std::vector<Box> equal_gaps;                        // between what is moved and its neighbours
  std::optional<GuideShape> ghost;                    // a guide being drawn
  std::vector<Point> stroke;                          // a freehand line under the hand
  std::shared_ptr<const Curve> edge;                  // an edge that a click would take
  std::shared_ptr<const Outline> lit_lines, lit_area; // what a click would take out, or make a piece
  std::vector<Point> loose_ends;                      // of lines
  std::vector<Bridge> bridges;                        // over openings
  std::optional<MeasuredLine> measuring;              // under the hand
  std::optional<CircleGuide> brush;                   // under the hand
  QString measure;                                    // live measure beside the hand
  Point measure_at;
  std::optional<Point> caught; // a place that the hand was caught by
};

struct ToolReply {
  std::optional<Document> preview; // show this meanwhile
  std::optional<Document> apply;   // make it a step, named `name`
  bool commit = false;             // make the preview a step
  bool cancel = false;             // drop the preview
  QString name;
  std::string merge_key = {}; // with `apply`: joins the step before of the same key
  QString refused = {};       // nothing was done; this is why
  std::optional<std::vector<PieceId>> select;
  std::optional<std::uint64_t> letter;      // choose this letter of the selected lettering
  std::optional<std::vector<NodeAt>> nodes; // choose these nodes of the selected piece
  std::optional<std::size_t> backing;       // work on this one
  std::optional<MeasuredLine> measured;     // keep this
  std::optional<Box> part;                  // of the sheet, that the backing is traced in
  std::optional<Change> change;             // what `commit` did, so that it can be done again
  bool type_text = false;                   // go on in the text field
  bool back_to_select = false;
  ToolOverlay overlay;
  std::optional<Qt::CursorShape> cursor; // none: the tool's own
};

class Tool {
public:
  virtual ~Tool() = default;
  virtual ToolReply press(const Session& session, const ToolEvent& event) = 0;
  virtual ToolReply move(const Session& session, const ToolEvent& event, bool pressed) = 0;
  virtual ToolReply release(const Session& session, const ToolEvent& event) = 0;
  virtual ToolReply cancel() = 0;
  // Return pressed: finish what takes several clicks. False: the tool had nothing to finish.
  virtual std::optional<ToolReply> finish(const Session&) { return std::nullopt; }
  // A number typed while the hand drags, as far as it goes: it counts in place of the hand's own way. False: the tool
  // takes none now.
  virtual bool takes_number(const QString&) { return false; }
  // Arrows: what is selected moves by so many mm.
  virtual ToolReply nudge(const Session& session, Vec by);
  // Escape with nothing going on; during a drag it is cancel().
  virtual ToolReply escape(const Session&) { return cancel(); }
  static ToolReply leave() { // back to the Select tool
    ToolReply reply;
    reply.back_to_select = true;
    return reply;
  }
  // Shows the nodes of the selected line or outline in place of the selection's frame.
  virtual bool shows_nodes() const { return false; }
  // Shows the frame of the backing that is worked on; what was measured.
  virtual bool shows_backing() const { return false; }
  virtual bool shows_measured() const { return false; }
};

// Which ruler line the hand moves; none: a new one, level out of the upper ruler, upright out of the left one.
struct RulerLineDrag {
  std::optional<std::size_t> at = {};
  bool upright = false;
};
std::unique_ptr<Tool> make_ruler_line_tool(const RulerLineDrag& drag);
QString ruler_line_words(const RulerLine& line, Unit unit); // "upright at 120 mm"

std::unique_ptr<Tool> make_select_tool();
std::unique_ptr<Tool> make_letters_tool();
// kind: an index of GuideShape.
std::unique_ptr<Tool> make_guide_tool(std::size_t kind);
std::unique_ptr<Tool> make_nodes_tool();
std::unique_ptr<Tool> make_snip_tool();
std::unique_ptr<Tool> make_space_tool();
std::unique_ptr<Tool> make_sand_tool();
std::unique_ptr<Tool> make_measure_tool();
std::unique_ptr<Tool> make_shape_tool();
std::unique_ptr<Tool> make_tie_tool();
std::unique_ptr<Tool> make_backing_tool();
std::unique_ptr<Tool> make_part_tool();

// px of the hand that make a press a drag, the same for every tool.
inline constexpr double drag_begins_px = 3;

// Picking distance in px, the same for every tool.
inline constexpr double pick_px = 7;

// The frontmost visible, unlocked piece at a place; 0 for none.
PieceId piece_at(const Session& session, Point at, double within_mm);
// The next one under `above` there, or the frontmost where that is the lowest.
PieceId piece_below(const Session& session, Point at, double within_mm, PieceId above);
// Does anything of a piece lie in the box?
bool touches(const Session& session, const Piece& piece, const Box& box);
// The colour of the layer in front at a place of the sheet.
std::optional<Colour> colour_at(const Session& session, Point at);
// A place on the sheet after catching: nodes, corners, centres and edges near it, unless Ctrl is held.
struct HandPlace {
  Point at;
  std::optional<Point> caught;
  QString word; // " · corner"
};
HandPlace caught_place(const Session& session, const Document& document, const ToolEvent& event,
                       const CatchHow& how = {});

} // namespace frelm
