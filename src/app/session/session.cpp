#include "app/session/session.h"

#include "document/validity.h"

#include <QRandomGenerator>
#include <QTimer>
#ifdef __GLIBC__
#include <malloc.h>
#endif

namespace frelm {
namespace {

constexpr std::size_t most_letters_evened = 120; // on the interface thread: about 10 ms
constexpr int give_back_again = 1500;            // ms

} // namespace

Session::Session(FaceLibrary& faces, QObject* parent)
    : QObject(parent), faces_(faces), evaluator_(faces, most_letters_evened, DocumentEvaluator::Warps::Sketched),
      background_(
          evaluator_,
          [this](WorkResults results) {
            mailbox_.post([this, results = std::move(results)]() mutable { receive(std::move(results)); });
          },
          [this](std::uint64_t revision, double share) {
            mailbox_.post([this, revision, share] {
              if (revision == revision_ && stopped_ != revision_) {
                progress_ = share;
                emit work_changed();
              }
            });
          }),
      finder_(5), line_finder_(5) {}

std::optional<BeadCatch> Session::level_catch(PieceId id) const {
  const std::uint64_t step = history_.current().id;
  if (level_.piece == id && level_.step == step)
    return level_.at;
  level_ = {id, step, {}};
  finder_.request([this, id, step, document = document()](const std::stop_token& stop) {
    const Result<BeadCatch> found = frelm::level_catch(document, id, evaluator_, stop);
    if (!found)
      return;
    mailbox_.post([this, id, step, at = *found] {
      if (level_.piece == id && level_.step == step)
        level_.at = at;
    });
  });
  return std::nullopt;
}

std::shared_ptr<const LineWork> Session::line_work() const {
  const std::uint64_t step = history_.current().id;
  if (lines_.is(job_, step, bridged_))
    return lines_.work;
  lines_ = {job_, step, bridged_, nullptr};
  line_finder_.request([this, key = lines_, document = document()](const std::stop_token& stop) {
    Result<LineWork> found = frelm::line_work(document, evaluator_, key.bridged, stop);
    if (!found)
      return;
    mailbox_.post([this, key, work = std::make_shared<const LineWork>(std::move(*found))] {
      if (!lines_.is(key.job, key.step, key.bridged))
        return;
      lines_.work = work;
      emit const_cast<Session*>(this)->lines_found();
    });
  });
  return nullptr;
}

void Session::set_bridged(double mm) {
  bridged_ = mm;
  (void)line_work();
}

void Session::set_place_choice(const PlaceChoice& choice) {
  if (choice == place_choice_)
    return;
  place_choice_ = choice;
  emit place_choice_changed();
}

void Session::set_measured(std::optional<MeasuredLine> line) {
  if (line == measured_)
    return;
  measured_ = line;
  emit measured_changed();
}

std::size_t Session::backing() const {
  const std::size_t n = shown().backings.size();
  return backing_ < n ? backing_ : n == 0 ? 0 : n - 1;
}

void Session::choose_backing(std::size_t at) {
  const std::size_t n = document().backings.size();
  at = n == 0 ? 0 : std::min(at, n - 1);
  if (at == backing_)
    return;
  backing_ = at;
  emit backing_chosen();
}

void Session::set_brush(const BrushOptions& brush) {
  brush_ = brush;
  emit brush_changed();
}

void Session::receive(WorkResults results) {
  if (results.revision != revision_)
    return;
  if (results.depth == WorkDepth::GapsOnly) {
    for (auto& [id, work] : results.pieces)
      results_.pieces[id].seated = work.seated, results_.pieces[id].gaps = work.gaps,
      results_.pieces[id].outline = nullptr;
    show_evened();
    emit gaps_changed();
    return;
  }
  results_ = std::move(results);
  show_evened();
  emit gaps_changed();
  emit results_changed();
  give_back();
}

// Runs that waited have been evened by the background: they are kept now, and shown.
void Session::show_evened() {
  const auto waits = [](const auto& known) {
    const Result<PieceResult>& now = known.second.result;
    return now && now->provisional();
  };
  if (std::erase_if(seated_, waits) == 0)
    return;
  ink_known_ = {};
  emit document_changed();
}

bool Session::waiting() const { // ribbons are there in a moment
  return std::any_of(seated_.begin(), seated_.end(), [](const auto& known) {
    const Result<PieceResult>& now = known.second.result;
    return now && now->provisional() && !now->sketched;
  });
}

void Session::stop_work() {
  background_.stop();
  stopped_ = revision_;
  progress_ = 0;
  emit work_changed();
}

Session::~Session() {
  finder_.stop();
  line_finder_.stop();
  background_.stop();
}

Box Session::drawn_box(PieceId id) const {
  const Result<PieceResult>& now = seated(id);
  const Piece* piece = shown().find(id);
  if (!now || piece == nullptr)
    return {};
  return piece->finish() != nullptr ? piece->finish()->around(now->ink) : now->ink;
}

Box Session::selection_ink() const {
  if (ink_known_.revision == revision_ && ink_known_.of == selection_)
    return ink_known_.ink;
  Box ink;
  for (const PieceId id : selection_)
    if (const Result<PieceResult>& now = seated(id); now)
      ink.add(now->ink);
  ink_known_ = {revision_, selection_, ink};
  return ink;
}

const Piece* Session::selected() const {
  return selection_.size() == 1 ? shown().find(selection_.front()) : nullptr;
}

void Session::changed() {
  ++revision_;
  if (!lines_.is(job_, history_.current().id, bridged_))
    lines_ = {};
  progress_ = 0;
  // Drawn outlines follow nothing: those that are the same still stand where they stood.
  std::erase_if(seated_, [&](const auto& known) {
    const Seated& was = known.second;
    return was.piece == nullptr || was.piece->outline() == nullptr || shown().find(known.first) != was.piece.get();
  });
  std::erase_if(selection_, [&](PieceId id) { return shown().find(id) == nullptr; });
  const Piece* piece = selected();
  const PieceId gaps_of = piece != nullptr && piece->lettering() != nullptr ? piece->id : 0;
  background_.request(shown(), revision_, dragging() ? WorkDepth::GapsOnly : WorkDepth::Everything, gaps_of);
  emit document_changed();
}

void Session::abandon_drag() {
  if (replying_ || (!held_ && !preview_))
    return;
  held_ = false;
  cancel_preview();
  emit drag_abandoned();
}

void Session::reset(Document document, Versions versions) {
  abandon_drag();
  only_.reset();
  colour_picked({});
  faces_.set_carried(document.carried ? *document.carried : std::vector<CarriedShapes>{});
  history_ = History(std::move(document), history_bytes_);
  versions_ = std::move(versions);
  versions_saved_ = versions_number_;
  job_ = QRandomGenerator::global()->generate64();
  preview_.reset();
  selection_.clear();
  letter_ = 0;
  gaps_.clear();
  nodes_.clear();
  results_ = {};
  level_ = {};
  measured_.reset();
  backing_ = 0;
  evaluator_.memory().clear(); // of another job, nothing of it will be asked for
  changed();
  emit selection_changed();
  emit history_changed();
  give_back_ = true;
}

// What the job before held goes back to the system, once the background has let go of it as well; and once more when
// pictures and autosave have.
void Session::give_back() {
#ifdef __GLIBC__
  if (!std::exchange(give_back_, false))
    return;
  malloc_trim(0);
  QTimer::singleShot(give_back_again, this, [] { malloc_trim(0); });
#endif
}

void Session::apply(const QString& name, Document document, std::optional<std::vector<PieceId>> selection,
                    const std::string& merge_key) {
  abandon_drag();
  document = followed_links(this->document(), std::move(document));
  if (const std::vector<Fault> bad = faults(document, &this->document()); !bad.empty()) {
    cancel_preview();
    emit refused(
        tr("%1 can't be done: %2; nothing was changed").arg(name, QString::fromStdString(describe(document, bad))));
    return;
  }
  preview_.reset();
  const bool selects = selection && *selection != selection_;
  if (selects)
    letter_ = 0, gaps_.clear(), nodes_.clear();
  if (selection)
    selection_ = std::move(*selection);
  history_.push(name.toStdString(), std::move(document), selection_, merge_key);
  changed();
  if (selects)
    emit selection_changed();
  emit history_changed();
}

void Session::edit(const QString& name, PieceId id, const std::function<void(Piece&)>& change,
                   const std::string& merge_key) {
  apply(name, edit_piece(document(), id, change), {}, merge_key);
}

void Session::preview(Document document) {
  preview_ = followed_links(this->document(), std::move(document));
  changed();
}

void Session::commit_preview(const QString& name) {
  if (!preview_)
    return;
  Document document = std::move(*preview_);
  preview_.reset();
  apply(name, std::move(document));
}

void Session::cancel_preview() {
  if (!preview_)
    return;
  preview_.reset();
  changed();
}

void Session::choose_letter(std::uint64_t id) {
  if (id == letter_)
    return;
  abandon_drag();
  letter_ = id;
  std::erase_if(gaps_, [&](const PairId& p) { return p.left != id && p.right != id; });
  emit part_changed();
}

void Session::choose_gaps(std::vector<PairId> gaps) {
  const std::uint64_t letter = gaps.empty() ? 0 : gaps.back().right;
  if (gaps == gaps_ && letter == letter_)
    return;
  abandon_drag();
  gaps_ = std::move(gaps);
  letter_ = letter;
  emit part_changed();
}

void Session::choose_nodes(std::vector<NodeAt> nodes) {
  std::sort(nodes.begin(), nodes.end());
  if (nodes == nodes_)
    return;
  abandon_drag();
  nodes_ = std::move(nodes);
  emit part_changed();
}

void Session::select(std::vector<PieceId> ids) {
  std::erase_if(ids, [&](PieceId id) { return shown().find(id) == nullptr; });
  if (ids == selection_)
    return;
  abandon_drag();
  selection_ = std::move(ids);
  letter_ = 0;
  gaps_.clear();
  nodes_.clear();
  history_.stop_merging();
  stopped_ = std::numeric_limits<std::uint64_t>::max();
  const Piece* piece = selected();
  background_.request(shown(), revision_, WorkDepth::Everything,
                      piece != nullptr && piece->lettering() != nullptr ? piece->id : 0);
  emit selection_changed();
}

void Session::undo() {
  abandon_drag();
  if (!history_.can_undo())
    return;
  // What the step was about stays in hand, where it was there before.
  std::vector<PieceId> about = history_.current().selection;
  const HistoryStep& step = history_.undo();
  std::erase_if(about, [&](PieceId id) { return step.document.find(id) == nullptr; });
  travelled(about.empty() ? step.selection : about);
}

void Session::redo() {
  abandon_drag();
  if (history_.can_redo())
    travelled(history_.redo().selection);
}

void Session::go_to_step(std::size_t at) {
  abandon_drag();
  if (at != history_.at() && at <= history_.steps())
    travelled(history_.go_to(at).selection);
}

void Session::set_last_change(const Change& change) {
  last_change_ = change;
  emit history_changed(); // it can be done again now
}

// After a step through history: its document and selection are shown.
void Session::travelled(std::vector<PieceId> selection) {
  const std::vector<PieceId> was = selection_;
  selection_ = std::move(selection);
  if (selection_ != was)
    letter_ = 0, gaps_.clear();
  nodes_.clear();
  changed();
  if (selection_ != was)
    emit selection_changed();
  emit history_changed();
}

void Session::set_preferences(const Preferences& preferences) {
  preferences_ = preferences;
  constexpr double mb = double(std::size_t{1} << 20);
  set_memory(static_cast<std::size_t>(preferences.cache_mb * mb),
             static_cast<std::size_t>(preferences.history_mb * mb));
}

void Session::set_memory(std::size_t cache_bytes, std::size_t history_bytes) {
  evaluator_.memory().set_limit(cache_bytes);
  history_bytes_ = history_bytes;
  history_.set_most_bytes(history_bytes);
}

void Session::set_versions(Versions versions) {
  versions_ = std::move(versions);
  ++versions_number_;
  emit history_changed();
}

void Session::mark_saved(std::uint64_t step, std::uint64_t versions_number) {
  history_.mark_saved(step);
  versions_saved_ = versions_number;
  emit history_changed();
}

double Session::ink_along(PieceId id) const {
  const Result<PieceResult>& now = seated(id);
  return now && now->seated != nullptr ? frelm::ink_along(*now->seated->spaced) : 0;
}

const Result<PieceResult>& Session::seated(PieceId id) const {
  auto it = seated_.find(id);
  if (it == seated_.end()) {
    const std::size_t at = shown().index_of(id);
    it = seated_
             .emplace(id, Seated{at < shown().pieces.size() ? shown().pieces[at] : nullptr,
                                 evaluator_.seat_now(shown(), id)})
             .first;
  }
  return it->second.result;
}

std::shared_ptr<const Outline> Session::finished(PieceId id) const {
  const auto it = results_.pieces.find(id);
  const Piece* piece = shown().find(id);
  if (it == results_.pieces.end() || piece == nullptr)
    return nullptr;
  const Lettering* lettering = piece->lettering();
  if (lettering == nullptr)
    return results_.revision == revision_ ? it->second.outline : nullptr;
  const Result<PieceResult>& now = seated(id);
  if (!now || it->second.seated != now->seated || it->second.finish != lettering->recipe.finish ||
      (now->seated == nullptr && results_.revision != revision_))
    return nullptr;
  return it->second.outline;
}

Session::LayersShown Session::layers(PieceId id) const {
  const auto it = results_.pieces.find(id);
  const Piece* piece = shown().find(id);
  const Finish* finish = piece != nullptr ? piece->finish() : nullptr;
  if (it == results_.pieces.end() || finish == nullptr || !finish->does_anything())
    return {};
  return {it->second.finished, finished(id) != nullptr};
}

std::shared_ptr<const std::vector<Gap>> Session::gaps(PieceId id) const {
  const auto it = results_.pieces.find(id);
  if (it == results_.pieces.end())
    return nullptr;
  const Result<PieceResult>& now = seated(id);
  return now && it->second.seated == now->seated ? it->second.gaps : nullptr;
}

std::optional<Colour> Session::only_material() const {
  const auto& used = results_.materials; // what is not cut any more can't be the only one
  const bool there =
      only_ && std::any_of(used.begin(), used.end(), [&](const MaterialUse& u) { return u.colour == *only_; });
  return there ? only_ : std::nullopt;
}

void Session::show_only(std::optional<Colour> colour) {
  only_ = colour;
  emit only_changed();
}

void Session::pick_colour(Picked picked) {
  picked_ = std::move(picked);
  emit picking_changed();
}

void Session::colour_picked(std::optional<Colour> colour) {
  const Picked picked = std::exchange(picked_, nullptr);
  emit picking_changed();
  if (picked && colour)
    picked(*colour);
}

std::size_t Session::nodes(PieceId id) const {
  if (const auto outline = finished(id)) {
    const LayersShown all = layers(id);
    return all.finished != nullptr && all.current ? all.finished->node_count() : outline->node_count();
  }
  const Result<PieceResult>& now = seated(id);
  if (!now)
    return 0;
  if (now->seated == nullptr)
    return now->outline != nullptr ? now->outline->node_count() : 0;
  std::size_t n = 0;
  for (const PlacedLetter& l : now->seated->letters)
    n += l.shape->node_count();
  return n;
}

} // namespace frelm
