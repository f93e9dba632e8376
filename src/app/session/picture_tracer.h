// The backing that is worked on, traced as wished, beside the window, while somebody looks at it; only the newest
// question counts. The picture's pixels are kept from one answer to the next.
#pragma once

#include "app/session/newest_answer.h"
#include "app/session/session.h"
#include "formats/picture_trace.h"

namespace frelm {

class PictureTracer : public QObject {
  Q_OBJECT

public:
  explicit PictureTracer(Session& session, QObject* parent = nullptr);

  const TraceWish& wish() const { return wish_; }
  void set_wish(const TraceWish& wish);
  void set_wanted(bool wanted);
  bool wanted() const { return wanted_; }
  // As last worked out; null: nothing yet, or nothing to trace.
  std::shared_ptr<const TracedPicture> traced() const { return found_.traced; }
  std::shared_ptr<const Outline> lines() const { return found_.lines; } // of all of that
  bool current() const { return current_; }                             // of the backing and the wish as they are now
  const Said& why_not() const { return found_.why_not; }

signals:
  void changed();

private:
  using Pixels = std::shared_ptr<const ColourPicture>;
  struct Found {
    std::shared_ptr<const TracedPicture> traced;
    std::shared_ptr<const Outline> lines;
    Said why_not;
    Pixels pixels;
  };
  void look();
  void ask();

  Session& session_;
  bool wanted_ = false, current_ = false;
  TraceWish wish_;
  std::shared_ptr<const PictureFile> file_; // that was asked about last
  Affine place_;
  Found found_;
  NewestAnswer<Found> answer_; // the last member: its thread ends before what it uses
};

} // namespace frelm
