// The colours that tell sheets of vinyl apart, as a menu.
#pragma once

#include "document/piece.h"

#include <QIcon>
#include <QMenu>
#include <functional>

namespace frelm {

QPixmap swatch(const Colour& colour, int size);
// Opens a menu at a place of the screen; it deletes itself.
void choose_colour(QWidget* parent, QPoint at, const std::function<void(Colour)>& chosen);

} // namespace frelm
