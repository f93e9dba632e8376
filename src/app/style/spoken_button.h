// Buttons for screen readers: what these do with one is what a click does. Qt's own lets a reader switch a button that
// can be on or off without clicking it, and everything here listens to clicks. One of several that exclude each other
// is a radio button.
#pragma once

#include <QAccessible>

namespace frelm {

// For QAccessible::installFactory.
QAccessibleInterface* spoken_button(const QString& class_name, QObject* object);

} // namespace frelm
