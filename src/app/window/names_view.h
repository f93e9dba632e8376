// Many names: a card with its picture for each row of the list, in the canvas's place. A row with something to look at
// says what, and has an amber edge; Return or a double click corrects its first cell.
#pragma once

#include "app/session/name_rows.h"

#include <QAbstractListModel>
#include <QListView>

namespace frelm {

class NamesModel : public QAbstractListModel {
  Q_OBJECT

public:
  NamesModel(Session& session, NameRows& rows, QObject* parent = nullptr);
  int rowCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  QString told(std::size_t row) const; // "fits", or what is to be looked at
  const NameRows& rows() const { return rows_; }
  Session& session() const { return session_; }

private:
  Session& session_;
  NameRows& rows_;
};

class NamesView : public QListView {
  Q_OBJECT

public:
  NamesView(Session& session, NameRows& rows, QWidget* over);
  void restyle();

protected:
  bool eventFilter(QObject* object, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void updateGeometries() override;

private:
  void size_cards();
  void tell_seen();

  NameRows& rows_;
  QWidget* over_;
};

} // namespace frelm
