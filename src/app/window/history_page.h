// The steps of the job, the newest first: a click or Return goes to one, and forth again. Beside them a picture of the
// sheet as it was at the chosen step, made beside the window; and the versions that were given a name, which stay in
// the job's file.
#pragma once

#include "app/session/session.h"
#include "app/window/page.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace frelm {

class HistoryPage : public Page {
  Q_OBJECT

public:
  HistoryPage(Session& session, QWidget* over);
  QListWidget* list() { return list_; }
  bool picture_shown() const { return shown_ == asked_; }

signals:
  void told(const QString& words);

protected:
  QSize wanted() const override;

private:
  void fill();
  void go_there();
  void ask_for_picture();
  void keep_version();
  void fill_versions();
  const Version* chosen_version() const;
  void show_picture(const Document& document);
  std::size_t step_of(int row) const;

  Session& session_;
  QListWidget* list_;
  QLabel *picture_, *kept_;
  QLineEdit* name_;
  QListWidget* versions_;
  QPushButton *back_to_it_, *forget_;
  Document wanted_;                     // the picture asked for last
  std::uint64_t asked_ = 0, shown_ = 0; // numbers of pictures
  Mailbox mailbox_;
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
