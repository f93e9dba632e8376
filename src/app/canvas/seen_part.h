// What of an outline can be seen: Qt's painting of smooth edges takes time with the square of how large a path is, also
// where it lies out of sight, so that a letter at six times its size costs as much as a page.
#pragma once

#include "geom/outline.h"

#include <QPainterPath>
#include <QTransform>

namespace frelm {

// The outline in px, which fills `seen` (px) just as the whole would. path: the outline's own. Contours across the edge
// of `seen` become polygons, within 0.05 px of their curves, that run along it; others stay as they are or go. Outlines
// with an open contour across the edge are given back whole.
QPainterPath seen_part(const Outline& outline, const QPainterPath& path, const QTransform& to_px, const QRectF& seen);

} // namespace frelm
