#include "app/session/knife_plan.h"

#include "app/session/task.h"

namespace frelm {
namespace {

constexpr int frame_ms = 16;

Result<PlannedCut> planned(const Document& document, const PlanChoice& choice, const DocumentEvaluator& evaluator,
                           const std::stop_token& stop) {
  Result<JobDriven> job = job_driven(document, evaluator, choice, stop);
  if (!job)
    return job.error();
  PlannedCut out;
  out.lines = std::move(job->lines), out.drive = std::move(job->drive);
  for (const CutPath& p : out.lines.order)
    out.turns.push_back(turn_of(out.lines.sheet, p));
  for (const PlanLayer& l : out.lines.layers)
    out.panels.resize(std::max(out.panels.size(), l.panels));
  for (const CutPiece& p : out.lines.sheet.pieces)
    if (p.panel > 0)
      out.panels[p.panel - 1].add(p.outline.bounds());
  out.times = CutTimeline(out.drive.plan, document.materials);
  for (const CutPath& p : out.drive.plan.order) {
    const Material* m = material_of(document.materials, p.colour);
    const bool pen = out.drive.plan.sheet.pieces[p.piece].destination == Destination::Pen;
    out.tips.push_back(m != nullptr && !pen ? m->tool.tip : 0);
  }
  return out;
}

} // namespace

KnifePlan::KnifePlan(Session& session, QObject* parent) : QObject(parent), session_(session), answer_(6) {
  clock_.setInterval(frame_ms);
  connect(&clock_, &QTimer::timeout, this, &KnifePlan::tick);
  connect(&session_, &Session::history_changed, this, [this] {
    current_ = false;
    if (wanted_)
      ask();
  });
  connect(&session_, &Session::only_changed, this, [this] {
    current_ = false;
    if (wanted_)
      ask();
  });
}

void KnifePlan::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (!wanted) {
    answer_.forget();
    play(false);
    plan_ = nullptr, current_ = false, at_end_ = true;
    light(std::nullopt);
    emit changed();
  } else
    ask();
}

void KnifePlan::show_panel(std::size_t panel) {
  if (panel == panel_)
    return;
  panel_ = panel, current_ = false;
  if (wanted_)
    ask();
}

void KnifePlan::end() {
  wanted_ = false;
  clock_.stop();
  answer_.end();
}

void KnifePlan::ask() {
  PlanChoice choice;
  choice.panel = panel_;
  choice.only = session_.only_material();
  answer_.ask(
      [this, choice, document = session_.document()](const std::stop_token& stop) -> std::optional<Found> {
        const auto made = Task::kept_in<PlannedCut>(
            [&](const std::stop_token& end) { return planned(document, choice, session_.evaluator(), end); }, stop);
        if (made)
          return Found{std::make_shared<const PlannedCut>(*made), {}};
        if (made.error().code == ErrorCode::Cancelled)
          return std::nullopt;
        return Found{nullptr, made.error().said()};
      },
      [this](Found found) {
        plan_ = std::move(found.plan), why_not_ = found.why_not, current_ = true;
        if (plan_ != nullptr && panel_ > plan_->panels.size()) // fewer of them than were: all are shown again
          return show_panel(0);
        const double whole = plan_ != nullptr ? plan_->times.seconds() : 0;
        time_ = at_end_ ? whole : std::min(time_, whole);
        if (plan_ == nullptr)
          play(false);
        if (lit_ && (plan_ == nullptr || *lit_ >= plan_->drive.plan.order.size()))
          light(std::nullopt);
        emit changed();
        emit time_changed();
      });
}

CutMoment KnifePlan::now() const {
  return plan_ != nullptr ? plan_->times.at(time_) : CutMoment{};
}

void KnifePlan::set_time(double seconds) {
  const double whole = plan_ != nullptr ? plan_->times.seconds() : 0;
  time_ = std::clamp(seconds, 0.0, whole);
  at_end_ = time_ >= whole;
  emit time_changed();
}

void KnifePlan::play(bool on) {
  if (on == playing() || (on && (plan_ == nullptr || plan_->times.seconds() == 0)))
    return;
  if (on) {
    if (at_end_)
      set_time(0);
    since_.start();
    clock_.start();
  } else
    clock_.stop();
  emit time_changed();
}

void KnifePlan::set_speed(double times) {
  speed_ = times;
  emit time_changed();
}

void KnifePlan::tick() {
  constexpr double ms = 1000;
  set_time(time_ + static_cast<double>(since_.restart()) / ms * speed_);
  if (at_end_)
    play(false);
}

void KnifePlan::light(std::optional<std::size_t> path) {
  if (path == lit_)
    return;
  lit_ = path;
  emit lit_changed();
}

} // namespace frelm
