// What was not closed properly, jobs to go on with, and examples, each as a small picture: on the start card's side
// while nothing is drawn yet.
#pragma once

#include "app/cards/card.h"

namespace frelm {

struct JobTile {
  QString path, name;
  QImage picture;   // null: a plain sheet
  QString tip = {}; // empty: the path
};

class JobsCard : public Card {
  Q_OBJECT

public:
  explicit JobsCard(Session& session, QWidget* parent = nullptr);
  void refresh() override {}
  void show_left_behind(const std::vector<JobTile>& jobs); // path: the recovery file
  void show_lately(const std::vector<JobTile>& jobs);      // none: only the examples
  void show_examples(const std::vector<JobTile>& jobs);
  QListWidget* left_behind() { return left_behind_; }
  QListWidget* lately() { return lately_; }
  QListWidget* examples() { return examples_; }

signals:
  void bring_back(const QString& path);
  void open(const QString& path);
  void open_example(const QString& path);

private:
  QListWidget* add_list(const QString& name);
  static void show_jobs(QListWidget* list, QLabel* words, const std::vector<JobTile>& jobs);

  QLabel *left_words_, *lately_words_, *examples_words_;
  QListWidget *left_behind_, *lately_, *examples_;
};

} // namespace frelm
