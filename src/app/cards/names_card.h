// The list of names: where it comes from, its rows to correct, how texts are made to fit, and all of it out to files.
#pragma once

#include "app/cards/card.h"
#include "app/session/name_rows.h"
#include "formats/name_export.h"

#include <QTableWidget>

namespace frelm {

class NamesCard : public Card {
  Q_OBJECT

public:
  NamesCard(Session& session, NameRows& rows, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return open_; }
  QTableWidget* table() const { return table_; }
  QString format() const; // a suffix
  // Of what size they are, where all rows go onto sheets together.
  std::optional<NameSheets> sheets() const;
  void select_row(int row);

signals:
  void open_wanted();
  void paste_wanted();
  void export_wanted();
  void by_hand_wanted(int row);
  void row_chosen(int row);

private:
  void fill();

  NameRows& rows_;
  QLabel *about_, *asks_;
  QPushButton *open_, *paste_, *none_, *out_, *hand_;
  QTableWidget* table_;
  ChoiceRow* fit_;
  MeasureField *room_, *least_, *wide_, *long_;
  ChoiceBox* format_;
  std::shared_ptr<const NameList> filled_;
  int chosen_ = 0; // row
};

} // namespace frelm
