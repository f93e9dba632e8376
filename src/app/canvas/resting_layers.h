// Pieces that rest are painted once and kept as two pictures, those under what changes and those over it: a frame of a
// drag paints only the pieces between. Whatever is between the lowest and the highest piece that changes is painted
// anew each time. The first frame of a view (place, zoom, size, colours) paints everything, the second makes the
// pictures.
#pragma once

#include "app/canvas/painter.h"

#include <QPixmap>

namespace frelm {

class RestingLayers {
public:
  // Paints backdrop and pieces. surroundings: tells when anything but the pieces has changed since the last frame.
  void paint(QPainter& painter, const QPixmap& backdrop, const Picture& picture, PathCache& paths, const QRectF& clip,
             bool surroundings_changed);
  void forget();

private:
  struct Range { // [first, last)
    std::size_t first = 0, last = 0;
    bool empty() const { return first >= last; }
    bool holds(const Range& o) const { return o.empty() || (o.first >= first && o.last <= last); }
    void add(const Range& o) {
      if (!o.empty())
        *this = empty() ? o : Range{std::min(first, o.first), std::max(last, o.last)};
    }
    void add(std::size_t i) { add(Range{i, i + 1}); }
    bool operator==(const Range&) const = default;
  };
  void make(const QPixmap& backdrop, const Picture& picture, PathCache& paths, const QRectF& clip);

  std::vector<PaintedPiece> before_; // of the last frame
  View view_ = View::Ink;
  Picture::Materials materials_;
  bool made_ = false;
  Range between_, lately_; // painted each time; changed in the last few frames
  int frames_ = 0;
  QPixmap under_, over_; // over_ is null where nothing lies over
};

} // namespace frelm
