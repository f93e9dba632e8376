// The session: the open document, its history and selection, and what is known of it.
//
// The one place where widgets get values from and put edits to. Seating is computed here at once (bounded work, kept);
// welding, gaps and the Cut check come from the background with the revision they belong to.
#pragma once

#include "app/session/background.h"
#include "app/session/mailbox.h"
#include "app/session/preferences.h"
#include "document/bead.h"
#include "document/edits.h"
#include "document/gap_edits.h"
#include "document/history.h"
#include "document/known_length.h"
#include "document/line_work.h"
#include "document/links.h"
#include "document/marks.h"
#include "document/place.h"
#include "document/release.h"
#include "document/resize.h"
#include "document/versions.h"
#include "geom/nodes.h"
#include "geom/smooth_brush.h"

#include <QObject>
#include <map>
#include <optional>

namespace frelm {

class Session : public QObject {
  Q_OBJECT

public:
  explicit Session(FaceLibrary& faces, QObject* parent = nullptr);
  ~Session() override;

  // The newest step: what edits start from, what is saved.
  const Document& document() const { return history_.current().document; }
  // The document as it shows now: the preview of a drag, else the newest step.
  const Document& shown() const { return preview_ ? *preview_ : document(); }
  const std::vector<PieceId>& selection() const { return selection_; }
  // What the selected pieces cover, mm; empty where nothing of them can be set.
  Box selection_ink() const;
  Box drawn_box(PieceId id) const; // with its borders and shades
  // The selected piece when exactly one is selected, else nothing.
  const Piece* selected() const;
  const History& history() const { return history_; }
  const FaceLibrary& faces() const { return faces_; }
  const Preferences& preferences() const { return preferences_; }
  void set_preferences(const Preferences& preferences); // the budgets of memory hold at once
  const DocumentEvaluator& evaluator() const { return evaluator_; }
  std::uint64_t revision() const { return revision_; }
  bool dragging() const { return preview_.has_value(); }

  // A drag belongs to the session. From begin_drag to end_drag only its own replies (OwnReply) change what is shown;
  // whatever else changes the document, the selection or the history first abandons it: the preview goes, and the tool
  // is told by drag_abandoned to let go of what it holds. Edits start from document(), so nothing of a preview is ever
  // kept or saved by them.
  void begin_drag() { held_ = true; }
  void end_drag() { held_ = false; }
  void abandon_drag();
  class OwnReply {
  public:
    explicit OwnReply(Session& session) : session_(session), before_(session.replying_) { session.replying_ = true; }
    ~OwnReply() { session_.replying_ = before_; }
    OwnReply(const OwnReply&) = delete;
    OwnReply& operator=(const OwnReply&) = delete;

  private:
    Session& session_;
    bool before_;
  };

  // Another number for every document that was opened or begun, also in other programs.
  std::uint64_t job() const { return job_; }
  // A fresh document: history starts over. Carried shapes go to the face library.
  void reset(Document document, Versions versions = {});
  // The job as it was at moments with a name. Keeping and removing one is a change that wants to be saved, but no step
  // that is undone: the job itself stays as it is.
  const Versions& versions() const { return versions_; }
  void set_versions(Versions versions);
  std::uint64_t versions_number() const { return versions_number_; } // another one after each change
  // Is all of it on the disk?
  bool saved() const { return history_.is_saved() && versions_saved_ == versions_number_; }
  // A document that is not valid is refused: nothing changes, and `refused` says why.
  void apply(const QString& name, Document document, std::optional<std::vector<PieceId>> selection = {},
             const std::string& merge_key = {});
  // Changes the selected or named piece in one step.
  void edit(const QString& name, PieceId id, const std::function<void(Piece&)>& change,
            const std::string& merge_key = {});
  void preview(Document document);
  void commit_preview(const QString& name);
  void cancel_preview();
  void select(std::vector<PieceId> ids);
  // A part of the selected piece: one letter of a lettering (the id of its first character, 0: none), or nodes.
  std::uint64_t letter() const { return letter_; }
  const std::vector<NodeAt>& nodes_chosen() const { return nodes_; }
  // Gaps of the selected lettering; the last one is the one looked at.
  const std::vector<PairId>& gaps_chosen() const { return gaps_; }
  void choose_gaps(std::vector<PairId> gaps); // their right letters' last one is chosen as well
  void choose_letter(std::uint64_t id);
  void choose_nodes(std::vector<NodeAt> nodes);
  void undo();
  void redo();
  void go_to_step(std::size_t at); // of the history
  // What a hand or a command last did to the place of pieces; nothing: nothing yet.
  // The place by which what is selected is sized and placed by numbers, as a share of what its ink covers.
  Point held_by() const { return held_by_; }
  void set_held_by(Point share) { held_by_ = share; }
  const std::optional<Change>& last_change() const { return last_change_; }
  void set_last_change(const Change& change);
  void mark_saved(std::uint64_t step, std::uint64_t versions_number); // of the history
  void set_memory(std::size_t cache_bytes, std::size_t history_bytes);

  // Seated letters, curve or drawn outline of a piece; an error when it can't be set.
  const Result<PieceResult>& seated(PieceId id) const;
  double ink_along(PieceId id) const; // mm, of its longest line as set; 0: no letters
  // The finished outline, if it is known for just what is shown now; else null.
  std::shared_ptr<const Outline> finished(PieceId id) const;
  // What the piece's finish was last worked out to be, and whether that is what it is now; null where it does
  // nothing.
  struct LayersShown {
    std::shared_ptr<const Finished> finished;
    bool current = false;
  };
  LayersShown layers(PieceId id) const;
  // Gaps of a lettering as it is shown now, or null while they are being measured.
  std::shared_ptr<const std::vector<Gap>> gaps(PieceId id) const;
  // Where the bead of a lettering makes it level, once that has been found; the first call begins to look for it.
  std::optional<BeadCatch> level_catch(PieceId id) const;
  // The lines of the newest step, once they have been looked at; the first call begins to. bridged: the widest opening
  // between them that counts as closed, mm.
  std::shared_ptr<const LineWork> line_work() const;
  double bridged() const { return bridged_; }
  void set_bridged(double mm);
  // What the Sand tool works with.
  const BrushOptions& brush() const { return brush_; }
  void set_brush(const BrushOptions& brush);
  // What pieces are placed by, and what stays.
  const PlaceChoice& place_choice() const { return place_choice_; }
  void set_place_choice(const PlaceChoice& choice);
  // What the Measure tool last drew.
  const std::optional<MeasuredLine>& measured() const { return measured_; }
  void set_measured(std::optional<MeasuredLine> line);
  // The backing that is worked on, by its place among them; the last one where that is gone.
  std::size_t backing() const;
  void choose_backing(std::size_t at);
  // What the Guide tool draws.
  GuideUse drawn_use() const { return drawn_use_; }
  void set_drawn_use(GuideUse use) { drawn_use_ = use; }
  const CheckReport& check() const { return results_.check; }
  // What each colour takes, as it was last worked out.
  const std::vector<MaterialUse>& materials_used() const { return results_.materials; }
  // The one material that the Knife view shows; none: all.
  std::optional<Colour> only_material() const;
  void show_only(std::optional<Colour> colour);
  // The next click on the canvas tells the colour of what lies there.
  using Picked = std::function<void(Colour)>;
  void pick_colour(Picked picked);
  bool picking_colour() const { return picked_ != nullptr; }
  void colour_picked(std::optional<Colour> colour); // nothing: given up
  std::size_t nodes(PieceId id) const;
  bool busy() const { return results_.revision != revision_ && stopped_ != revision_ && !dragging(); }
  // Runs that wait to be evened: being worked on (and how far that is), or stopped.
  bool waiting() const;
  bool evening() const { return busy() && waiting(); }
  double progress() const { return progress_; }
  // The background's work was ended before it had answered for what is shown.
  bool stopped() const { return stopped_ == revision_ && results_.revision != revision_; }
  // Ends the background's work; the next edit begins it again.
  void stop_work();

signals:
  void drag_abandoned();
  void refused(const QString& why);
  void document_changed(); // another value, preview or not
  void selection_changed();
  void part_changed();    // another letter or other nodes of the selected piece
  void results_changed(); // outlines and the Cut check, from the background
  void gaps_changed();    // gaps, also during a drag
  void lines_found();     // line_work
  void brush_changed();
  void measured_changed();
  void place_choice_changed();
  void backing_chosen();
  void only_changed();    // only_material
  void picking_changed(); // picking_colour
  void work_changed();    // how far the background is
  void history_changed();

private:
  void changed();
  void receive(WorkResults results);
  void show_evened();
  void give_back();
  void travelled(std::vector<PieceId> selection);

  FaceLibrary& faces_;
  DocumentEvaluator evaluator_;
  History history_;
  Versions versions_;
  std::uint64_t versions_number_ = 0, versions_saved_ = 0;
  std::optional<Document> preview_;
  bool held_ = false, replying_ = false, give_back_ = false;
  std::vector<PieceId> selection_;
  std::uint64_t letter_ = 0;
  std::uint64_t job_ = 0;
  Preferences preferences_;
  std::size_t history_bytes_ = usual_history_bytes;
  std::vector<NodeAt> nodes_;
  std::vector<PairId> gaps_;
  std::uint64_t revision_ = 0;
  struct Seated {
    std::shared_ptr<const Piece> piece; // that it is of
    Result<PieceResult> result;
  };
  mutable std::map<PieceId, Seated> seated_;
  struct InkKnown {
    std::uint64_t revision = std::numeric_limits<std::uint64_t>::max();
    std::vector<PieceId> of;
    Box ink;
  };
  mutable InkKnown ink_known_; // of the selection
  WorkResults results_;
  std::uint64_t stopped_ = std::numeric_limits<std::uint64_t>::max(); // the revision whose work was ended
  double progress_ = 0;
  struct LevelFound {
    PieceId piece = 0;
    std::uint64_t step = 0; // of the history
    std::optional<BeadCatch> at;
  };
  mutable LevelFound level_;
  struct LinesFound {
    std::uint64_t job = 0, step = 0;
    double bridged = 0;
    std::shared_ptr<const LineWork> work;
    bool is(std::uint64_t j, std::uint64_t s, double b) const { return job == j && step == s && bridged == b; }
  };
  mutable LinesFound lines_;
  double bridged_ = 0;
  BrushOptions brush_;
  GuideUse drawn_use_ = GuideUse::Guide;
  std::optional<MeasuredLine> measured_;
  PlaceChoice place_choice_;
  Point held_by_;
  std::optional<Change> last_change_;
  std::size_t backing_ = 0;
  std::optional<Colour> only_;
  Picked picked_;
  mutable Mailbox mailbox_;
  Background background_;
  mutable NewestWorker finder_, line_finder_; // the last members: their threads end before what they use
};

} // namespace frelm
