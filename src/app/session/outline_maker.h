// What an outline command would make of the selection, shown while the pointer or the focus rests on it, and the
// measures that the commands take. Worked out beside the window; only the newest question counts, and every change of
// the document or the selection takes the picture away.
#pragma once

#include "app/session/newest_answer.h"
#include "app/session/session.h"
#include "document/outline_commands.h"

namespace frelm {

class OutlineMaker : public QObject {
  Q_OBJECT

public:
  struct Picture {
    std::shared_ptr<const Outline> stays, goes; // null where the command can't do it
    std::size_t pieces = 0;
    std::vector<std::string> released;
    Said why_not; // of a command that can't
  };

  explicit OutlineMaker(Session& session, QObject* parent = nullptr);

  const OutlineMeasures& measures() const { return measures_; }
  void set_measures(const OutlineMeasures& measures); // a picture that is shown follows
  void show(OutlineCommand command);
  void hide();
  const std::optional<Picture>& picture() const { return picture_; }

signals:
  void changed(); // the picture
  void measures_changed();

private:
  Session& session_;
  OutlineMeasures measures_;
  std::optional<OutlineCommand> asked_;
  std::optional<Picture> picture_;
  NewestAnswer<Picture> answer_; // the last member: its thread ends before what it uses
};

} // namespace frelm
