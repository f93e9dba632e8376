// Backings on the screen. Each picture is decoded once and kept at halves of its size, so that one that is shown small
// is neither slow nor rough.
#pragma once

#include "document/backing.h"

#include <QImage>
#include <QPainter>
#include <QTransform>
#include <map>

namespace frelm {

class BackingPictures {
public:
  void paint(QPainter& painter, const std::vector<Backing>& backings, const QTransform& to_screen);

private:
  struct Entry {
    std::weak_ptr<const PictureFile> alive;
    std::vector<QImage> halves; // the first as it is
  };
  const QImage& picture(const std::shared_ptr<const PictureFile>& file, double px_per_px);
  std::map<const PictureFile*, Entry> entries_;
};

} // namespace frelm
