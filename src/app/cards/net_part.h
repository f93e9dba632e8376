// Rows of the Bend card for a Net: its lines and pegs.
#pragma once

#include "app/cards/warp_part.h"

#include <QCheckBox>
#include <QPushButton>

namespace frelm {

class NetPart : public WarpPart {
  Q_OBJECT

public:
  explicit NetPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;

private:
  void edit_net(const QString& name, const std::function<void(NetBend&)>& change, const std::string& key = {});
  void change_lines(NetLine line, bool more);
  void on_line(NetLine line, bool straight);
  void step_peg(int by);
  void move_peg(std::optional<double> x, std::optional<double> y, bool stepped);
  std::optional<Point> peg_place(std::size_t peg) const; // on the sheet

  QLabel *over_, *columns_, *rows_count_, *note_;
  std::vector<QToolButton*> steps_;
  QPushButton *straight_row_, *straight_column_, *even_row_, *even_column_, *reset_;
  QCheckBox* mirror_;
  QLabel* peg_;
  MeasureField *x_, *y_;
  QString removed_;              // what the last removal changed,
  std::uint64_t removed_at_ = 0; // told until the next change
};

} // namespace frelm
