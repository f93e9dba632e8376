// Outlines from path data, and simple ones by their measures; mm.
#pragma once

#include "geom/path_data.h"
#include "geom/weld.h"

#include <QString>
#include <QStringList>

namespace frelm::test {

inline Outline drawn(const QString& path) {
  return *parse_outline(path.toStdString());
}
// Paths parted by '|', united.
inline Outline welded(const QString& paths) {
  std::vector<Outline> all;
  for (const QString& path : paths.split('|'))
    all.push_back(drawn(path));
  return weld(all)->outline;
}
// Holes run the other way.
inline QString disc(double x, double y, double r, bool hole = false) {
  return QString("M%1 %2A%3 %3 0 0 %4 %5 %2A%3 %3 0 0 %4 %1 %2Z").arg(x + r).arg(y).arg(r).arg(hole ? 0 : 1).arg(x - r);
}
inline QString box(double x, double y, double w, double h) {
  return QString("M%1 %2h%3v%4h-%3z").arg(x).arg(y).arg(w).arg(h);
}
inline QString box_hole(double x, double y, double w, double h) {
  return QString("M%1 %2v%4h%3v-%4z").arg(x).arg(y).arg(w).arg(h);
}

} // namespace frelm::test
