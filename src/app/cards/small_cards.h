// The cards with few fields: Spacing, Finish, Release; and what other selections show.
#pragma once

#include "app/cards/finish_part.h"
#include "app/cards/lettering_card.h"
#include "app/cards/outline_part.h"
#include "app/cards/place_part.h"
#include "app/cards/pose_part.h"
#include "app/commands/command_table.h"

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace frelm {

class SpacingCard : public LetteringCard {
  Q_OBJECT
public:
  explicit SpacingCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return letter_; }

private:
  void add_modes();
  void choose_mode(SpacingMode mode);
  void add_gap_rows();
  void add_spread_rows();
  void add_repeat_rows();
  void build_corrections();
  void show_result(const Recipe& recipe, const SeatedText& text);
  void show_corrections(const Recipe& recipe, const SeatedText& text);

  MeasureField* letter_;
  QLabel* result_;
  QWidget* by_hand_; // the list of corrections and its buttons
  QListWidget* corrections_;
  QPushButton *reset_, *reset_all_;
};

class FinishCard : public Card {
  Q_OBJECT
public:
  explicit FinishCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;
  QWidget* first_field() override { return steps_->first_field(); }
  FinishPart& steps() { return *steps_; }

private:
  FinishPart* steps_;
};

class ReleaseBox : public QWidget {
  Q_OBJECT
public:
  explicit ReleaseBox(Session& session, QWidget* parent = nullptr);
  void refresh();
  ReleaseAs as() const { return static_cast<ReleaseAs>(as_->currentIndex()); }
  GuideAfter guide() const { return guide_->currentIndex() == 0 ? GuideAfter::Gone : GuideAfter::Kept; }
signals:
  void release();
  void pick_colour(std::size_t line);

private:
  void show_colours();

  Session& session_;
  QComboBox *as_, *guide_;
  QPushButton* button_;
  QWidget* colours_; // one button a line
  std::vector<QToolButton*> colour_buttons_;
};

class OutlineCard : public Card {
  Q_OBJECT
public:
  explicit OutlineCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;
  FinishPart& steps() { return *steps_; }
  void put_in(OutlinePart* commands); // once
signals:
  void reopen();
  void problem(const QString& text);

private:
  PosePart* pose_;
  QLabel* nodes_;
  FinishPart* steps_;
  OutlinePart* commands_ = nullptr;
  QLabel* came_from_;
  QPushButton* reopen_;
};

class ManyCard : public Card {
  Q_OBJECT
public:
  explicit ManyCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  // Commands on several pieces: those that can be done now have a button.
  void offer(const CommandTable& commands, const QStringList& ids);
  void put_in(PlacePart* place, OutlinePart* commands); // once
signals:
  void problem(const QString& text);

private:
  QLabel* text_;
  PosePart* pose_;
  PlacePart* place_ = nullptr;
  OutlinePart* commands_ = nullptr;
  std::vector<std::pair<QPushButton*, const CommandTable::Entry*>> offers_;
};

// Nothing selected: how to begin, and the sheet.
class StartCard : public Card {
  Q_OBJECT
public:
  explicit StartCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return words_; }
signals:
  void letter_it(const QString& words);
  void open();
  void badge();
  void show_examples(QPoint global);

private:
  QLineEdit* words_;
};
class SheetCard : public Card {
  Q_OBJECT
public:
  explicit SheetCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;

private:
  MeasureField *width_, *height_, *ordered_width_, *ordered_height_, *ordered_parts_;
};

} // namespace frelm
