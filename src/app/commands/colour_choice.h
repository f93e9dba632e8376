// The job's materials as a menu of colours, with a way to pick up the colour of another piece.
#pragma once

#include "app/session/session.h"

#include <QMenu>

namespace frelm {

QPixmap swatch(const Colour& colour, int size);
// Opens a menu at a place of the screen; it deletes itself. The job's list, then colours that are in use and not in it,
// then any other, then one from the canvas.
void choose_colour(QWidget* parent, QPoint at, Session& session, const std::function<void(Colour)>& chosen);

} // namespace frelm
