#pragma once

#include "app/cards/axes_part.h"
#include "app/cards/face_choice.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPlainTextEdit>

namespace frelm {

// Card 1: the text, its face, its size and setting.
class LettersCard : public Card {
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
  void edit_letters(const QString& name, bool stepped, const std::function<void(Letters&)>& change);
  void fill_styles(const QString& family);
  void fill_features();
  void set_ink(InkSide side, double mm);
  bool eventFilter(QObject* object, QEvent* event) override;

  QPlainTextEdit* text_;
  FaceChoice* family_;
  QToolButton* favourite_;
  QComboBox* style_;
  AxesPart* axes_;
  MeasureField* size_;
  QComboBox* size_by_;
  QLabel* cap_source_;
  MeasureField* width_;
  ChoiceRow* capitals_;
  ChoiceRow* alignment_;
  MeasureField* pitch_;
  MeasureField* ink_width_;
  MeasureField* ink_height_;
  ChoiceRow* reached_by_; // the finished width: by size, by the face's width
  ChoiceRow* guide_scaling_;
  QCheckBox *downwards_, *equal_width_;
  QToolButton* features_; // opens the list of the face's features
  bool showing_ = false;
};

} // namespace frelm
