// A small gallery of bends between rails, drawn with the word in hand: a click bends it so.
#pragma once

#include "app/session/session.h"

#include <QFrame>
#include <QToolButton>

namespace frelm {

class Gallery : public QFrame {
  Q_OBJECT

public:
  explicit Gallery(Session& session, QWidget* parent = nullptr);
  // Opens beside a widget, with the selected piece's word.
  void open_at(QWidget* beside);
  QToolButton* tile(int index) const { return tiles_[static_cast<std::size_t>(index)]; }
  int tiles() const { return static_cast<int>(tiles_.size()); }
  const std::vector<RailsBend>& bends() const { return bends_; } // as they were offered

signals:
  void chosen(int index); // of bends()

private:
  void build();
  void draw_next();

  Session& session_;
  std::vector<QToolButton*> tiles_;
  std::vector<RailsBend> bends_;
  std::size_t drawn_ = 0;
};

// The selected piece bent so, as a picture: at most its first word.
QPixmap rails_picture(const Session& session, const RailsBend& rails, QSize size, double ratio);

} // namespace frelm
