// What programs that were not closed properly left behind: a page over the sheet with each job's name, when it was kept
// and a small picture of it.
#pragma once

#include "app/window/page.h"
#include "app/window/recovery_pictures.h"

class QVBoxLayout;

namespace frelm {

// How it is called; one that was never saved has no name.
QString name_of(const RecoveredJob& job);
QString kept_words(const RecoveredJob& job); // when

class RecoveryList : public Page {
  Q_OBJECT

public:
  // The pictures as they are made.
  RecoveryList(const std::vector<RecoveredJob>& jobs, const RecoveryPictures& pictures, QWidget* over);
  // The row goes; the page with the last one.
  void remove(const RecoveredJob& job);
  std::size_t count() const { return rows_.size(); }

signals:
  void bring_back(const RecoveredJob& job);
  void throw_away(const RecoveredJob& job);

protected:
  QSize wanted() const override;

private:
  QWidget* row_for(const RecoveredJob& job);
  void show_picture(const std::string& file, const QImage& picture);

  QVBoxLayout* list_;
  std::vector<std::pair<std::string, QWidget*>> rows_; // by the recovery file
};

} // namespace frelm
