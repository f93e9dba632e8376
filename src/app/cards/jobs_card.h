// Jobs to go on with, and examples, each as a small picture: on the start card's side while nothing is drawn yet.
#pragma once

#include "app/cards/card.h"

namespace frelm {

struct JobTile {
  QString path, name;
  QImage picture; // null: a plain sheet
};

class JobsCard : public Card {
  Q_OBJECT

public:
  explicit JobsCard(Session& session, QWidget* parent = nullptr);
  void refresh() override {}
  void show_lately(const std::vector<JobTile>& jobs); // none: only the examples
  void show_examples(const std::vector<JobTile>& jobs);
  QListWidget* lately() { return lately_; }
  QListWidget* examples() { return examples_; }

signals:
  void open(const QString& path);
  void open_example(const QString& path);

private:
  QListWidget* add_list(const QString& name);
  QLabel *lately_words_, *examples_words_;
  QListWidget *lately_, *examples_;
};

} // namespace frelm
