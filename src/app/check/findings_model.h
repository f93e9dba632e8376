// The Cut check's findings as rows: those of one kind are one row with their number, which unfolds. Rows are values;
// thousands cost nothing until they are looked at.
#pragma once

#include "cutting/check.h"

#include <QAbstractListModel>
#include <set>

namespace frelm {

class FindingsModel : public QAbstractListModel {
  Q_OBJECT

public:
  enum Role { TitleRole = Qt::UserRole, DetailRole, CountRole, InsideRole, OpenRole, WeightRole };
  enum class Empty { NothingYet, Fine };

  using QAbstractListModel::QAbstractListModel;
  // Unfolded kinds stay so.
  void show(std::vector<Finding> findings, Empty when_empty);
  const std::vector<Finding>& findings() const { return findings_; }

  int rowCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;

  // The findings that a row stands for: all of a kind, or one. Empty for the row that says there are none.
  std::vector<const Finding*> at(int row) const;
  bool folds(int row) const; // stands for several
  void toggle(int row);
  // Unfolds what is needed to show the n-th finding of the kind that `row` belongs to; its row. n wraps around.
  int row_of(int row, int n);
  // Which of its kind's findings a row is: 0 for a folded row.
  int place_in_kind(int row) const;
  int kind_size(int row) const;

private:
  struct Row {
    std::size_t kind = 0;
    int inside = -1; // -1: the whole kind
  };
  void lay_rows();
  void relay();
  QString text(int row) const;

  std::vector<Finding> findings_;
  std::vector<std::vector<std::size_t>> kinds_; // by weight and title, in the order of the first of each
  std::set<FindingKind> open_;                  // titles
  std::vector<Row> rows_;
  Empty when_empty_ = Empty::NothingYet;
};

QString weight_word(Weight weight);

} // namespace frelm
