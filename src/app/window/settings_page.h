// Settings: every value that holds for all jobs, found by a word, each with a way back to the usual. Changes hold at
// once and are kept for the next start.
#pragma once

#include "app/cards/card.h"
#include "app/window/page.h"

class QGridLayout;
class QLineEdit;
class QToolButton;

namespace frelm {

class FaceChoice;

class SettingsPage : public Page {
  Q_OBJECT

public:
  SettingsPage(Session& session, int appearance, QWidget* over);
  QLineEdit* field() { return find_; }
  int rows_shown() const;

signals:
  void appearance_chosen(int appearance);
  void changed(const frelm::Preferences& preferences);
  void materials_wanted();

protected:
  QSize wanted() const override;

private:
  struct Row {
    QString words; // that it is found by
    std::vector<QWidget*> widgets;
    QToolButton* back = nullptr;
    std::function<bool()> usual;
    std::function<void()> show;
  };
  void add_heading(const QString& words);
  void add(const QString& label, const QString& found_by, QWidget* field, const QString& after, Row row,
           const std::function<void()>& put_back);
  void add_number(const QString& label, const QString& found_by, MeasureKind kind, double Preferences::*value,
                  double step, const QString& after);
  void add_looks(int appearance);
  void add_new_things();
  void add_hand();
  void add_memory();
  void set(const std::function<void(Preferences&)>& change);
  void refresh();
  void filter();

  Session& session_;
  QLineEdit* find_;
  QGridLayout* grid_;
  std::vector<Row> rows_;
  std::vector<QLabel*> headings_;
  int appearance_;
  QLabel* none_;
};

} // namespace frelm
