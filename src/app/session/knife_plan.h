// What the knife will do: the planned cut of the newest document, driven as its materials say, with its line of time.
// Worked out beside the window while somebody looks at it; and the place in time that is shown, played or dragged.
#pragma once

#include "app/session/newest_answer.h"
#include "app/session/session.h"
#include "cutting/cut_time.h"
#include "cutting/driven.h"

#include <QElapsedTimer>
#include <QTimer>

namespace frelm {

struct PlannedCut {
  CutPlan lines;              // as it is drawn
  std::vector<CutTurn> turns; // what its paths are called in an order by hand
  DrivenPlan drive;           // as the machines move
  CutTimeline times;          // of the drive
  std::vector<double> tips;   // mm that the blade trails, of each path
  std::vector<Box> panels;    // what each takes of all materials; empty for one that is not shown
};

class KnifePlan : public QObject {
  Q_OBJECT

public:
  explicit KnifePlan(Session& session, QObject* parent = nullptr);

  void set_wanted(bool wanted);
  // One of the panels of work that is cut in panels, 0: all.
  std::size_t panel() const { return panel_; }
  void show_panel(std::size_t panel);
  void end(); // before the session goes
  // As last worked out; null: nothing yet.
  const std::shared_ptr<const PlannedCut>& plan() const { return plan_; }
  bool current() const { return current_; } // of the document as it is now
  const Said& why_not() const { return why_not_; }

  double time() const { return time_; } // s; the end of all while nobody has moved it
  CutMoment now() const;
  void set_time(double seconds);
  bool playing() const { return clock_.isActive(); }
  void play(bool on); // from the beginning where it stands at the end
  double speed() const { return speed_; }
  void set_speed(double times); // as fast as the machine
  // The path that is pointed at, in the list or on the sheet.
  std::optional<std::size_t> lit() const { return lit_; }
  void light(std::optional<std::size_t> path);

signals:
  void changed();
  void time_changed();
  void lit_changed();

private:
  struct Found {
    std::shared_ptr<const PlannedCut> plan;
    Said why_not;
  };
  void ask();
  void tick();

  Session& session_;
  bool wanted_ = false, current_ = false, at_end_ = true;
  std::size_t panel_ = 0;
  std::shared_ptr<const PlannedCut> plan_;
  Said why_not_;
  double time_ = 0, speed_ = 8;
  std::optional<std::size_t> lit_;
  QTimer clock_;
  QElapsedTimer since_;
  NewestAnswer<Found> answer_; // the last member: its thread ends before what it uses
};

} // namespace frelm
