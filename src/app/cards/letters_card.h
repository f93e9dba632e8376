#pragma once

#include "app/cards/axes_part.h"
#include "app/cards/face_choice.h"
#include "app/cards/lettering_card.h"

#include <QComboBox>
#include <QPlainTextEdit>

namespace frelm {

// Card 1: the text, its face, its size and setting.
class LettersCard : public LetteringCard {
  Q_OBJECT

public:
  LettersCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return text_; }
  QPlainTextEdit* text_edit() const { return text_; }
  FaceChoice& faces() { return *family_; }

signals:
  void problem(const QString& text);
  void width_asked(double mm); // of the ink, by the face's width

private:
  void add_text();
  void add_face();
  void add_size();
  void add_setting();
  void add_finished();
  const Letters* letters() const; // of the lettering selected
  void edit_letters(const QString& name, bool stepped, const std::function<void(Letters&)>& change);
  void change_measure(SizeBy by);
  void fill_styles(const QString& family);
  void fill_features();
  void set_ink(InkSide side, double mm);
  void show_face(const Letters& letters);
  void show_size(const Piece& piece, const Letters& letters);
  void show_features(const Letters& letters);
  bool eventFilter(QObject* object, QEvent* event) override;

  QPlainTextEdit* text_;
  FaceChoice* family_;
  QToolButton* favourite_;
  QComboBox* style_;
  AxesPart* axes_;
  MeasureField* size_;
  QComboBox* size_by_;
  QLabel* cap_source_;
  MeasureField *ink_width_, *ink_height_;
  ChoiceRow *reached_by_, *guide_scaling_; // the finished width: by size or the face's width; with the guide or without
  QToolButton* features_;                  // opens the list of the face's features
  bool showing_ = false;
};

} // namespace frelm
