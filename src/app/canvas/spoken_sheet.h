// What is told of the canvas to those who don't see it: pieces, the letters in them, the nodes of what is edited, the
// handles of what is selected, each with its name, its place on the screen and what it does when it is pressed. They
// are asked for one by one, so that thousands cost nothing until they are.
#pragma once

class QAccessibleInterface;
class QObject;
class QString;

namespace frelm {

// For QAccessible::installFactory.
QAccessibleInterface* spoken_sheet(const QString& class_name, QObject* object);

} // namespace frelm
