// A word tied into a frame: what is wanted, the places that were found, and both made one piece. The word stays live
// until then.
#pragma once

#include "app/cards/card.h"
#include "document/word_in_frame.h"

namespace frelm {

class TieInCard : public Card {
  Q_OBJECT

public:
  explicit TieInCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return contacts_; }
  bool has_answers() const { return !found_.empty(); }
  // What was found for the two in this document.
  void show_found(const Document& in, const Result<FoundInFrame>& result);

signals:
  void find_wanted(const frelm::TieInWish& wish);
  void one_wanted(const frelm::WordInFrame& pair, double width);
  void numbered(const std::vector<frelm::Point>& contacts); // on the sheet; empty: none
  void problem(const QString& text);
  void closed();

protected:
  void hideEvent(QHideEvent* event) override;

private:
  void choose(int answer);
  void forget();

  TieInWish wish_{.contacts = 3, .largest = 2};
  MeasureField *contacts_, *least_, *turn_, *smallest_, *largest_, *margin_;
  QPushButton *find_, *one_;
  ChoiceRow* answers_;
  QLabel* told_;
  Document in_;
  WordInFrame pair_;
  std::vector<TiedIn> found_;
  std::uint64_t step_ = 0; // of the history, while the answers hold
};

} // namespace frelm
