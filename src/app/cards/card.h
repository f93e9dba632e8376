// Building blocks of the left column: a card that folds to one line, a row of choices, rows of labelled fields.
#pragma once

#include "app/session/session.h"
#include "app/style/choice_box.h"
#include "app/style/measure_field.h"
#include "app/style/short_label.h"
#include "app/style/take_words.h"

#include <QButtonGroup>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

namespace frelm {

// Exactly one of a few words, side by side or so many to a row.
class ChoiceRow : public QWidget {
  Q_OBJECT

public:
  ChoiceRow(const QString& name, const QStringList& words, int columns = 0, QWidget* parent = nullptr);
  void show_choice(int index);
  int choice() const { return group_.checkedId(); }
  QAbstractButton* button(int index) const { return group_.button(index); }
  void set_word(int index, const QString& word);
  // Icons above the words.
  void set_icons(const QStringList& icons);

signals:
  void chosen(int index);

private:
  QString name_;
  QButtonGroup group_;
};

// As high as its rows, up to five.
int list_height(const QListWidget& list);

// A muted text that wraps.
QLabel* note_label();

class Card : public QFrame {
  Q_OBJECT

public:
  // number 0: a card without a place in the order of work; it can't be folded.
  Card(int number, const QString& title, Session& session, QWidget* parent = nullptr);

  void set_open(bool open);
  bool is_open() const { return open_; }
  int least_width() const;    // px, with rows that are hidden now too
  virtual void refresh() = 0; // from the session
  virtual void restyle();     // the scheme has changed
  // The first field, for the keyboard.
  virtual QWidget* first_field() { return body_; }

signals:
  void opened();

protected:
  void set_summary(const QString& text);
  void set_heading(const QString& text) { heading_->setText(text); }
  // Without a frame and a heading, as part of another card.
  void embed();
  // A labelled row at the end of the body.
  QLabel* add_row(const QString& label, QWidget* field);
  QLabel* add_row(const QString& label, std::initializer_list<QWidget*> fields);
  void add_wide(QWidget* widget);
  // Fields side by side, each with its share of what room is left; for add_row, and shown or hidden by any of them.
  static QWidget* in_row(const std::vector<std::pair<QWidget*, int>>& fields);
  MeasureField* length_field(const QString& name, double low = -1e5, double high = 1e5);
  static void show_row(QWidget* field, bool visible);
  // Edit the selected piece; stepping merges.
  void edit(const QString& name, bool stepped, const std::function<void(Piece&)>& change);

  Session& session_;
  QWidget* body_;
  QGridLayout* rows_;

  bool eventFilter(QObject* object, QEvent* event) override;

private:
  QToolButton* fold_;
  QLabel *heading_, *badge_;
  ShortLabel* summary_;
  QWidget* header_;
  bool open_ = true, foldable_;
};

} // namespace frelm
