// The parts that each sheet of material falls into, the largest first; the pointer or the focus on a row lights it on
// the sheet. Above them how the two that are selected hold together, at places that are numbered on the sheet.
#pragma once

#include "app/session/parts_finder.h"

#include <QLabel>
#include <QListWidget>

namespace frelm {

class PartsList : public QWidget {
  Q_OBJECT

public:
  explicit PartsList(Session& session, QWidget* parent = nullptr);
  QListWidget* list() const { return list_; }
  void end_work() { finder_.end(); } // before the session goes

signals:
  void light(std::shared_ptr<const Outline> part, std::vector<frelm::Point> contacts); // null: none
  void look_at(const Box& where);

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;
  bool eventFilter(QObject* object, QEvent* event) override;

private:
  void show_parts();
  const CutPart* part_of(int row) const; // null: the row is none
  void light_row(int row);
  void show_contacts();
  std::vector<Point> contacts() const;

  Session& session_;
  PartsFinder finder_;
  QLabel *told_, *meet_;
  QListWidget* list_;
  std::shared_ptr<const std::vector<SheetParts>> shown_;
  struct Row {
    std::size_t sheet = 0;
    int part = -1; // -1: the sheet itself; from 0 its parts, then its counters
  };
  std::vector<Row> rows_;
  std::vector<Point> numbered_; // on the sheet
};

} // namespace frelm
