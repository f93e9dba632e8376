// The palette, light and dark, and the one style sheet made from it. Colours never carry a meaning alone: a shape or a
// word always goes with them.
#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

class QApplication;

namespace frelm {

struct Scheme {
  QColor text, muted, faint, panel, card, bench, lines, field;
  QColor teal, teal_soft, amber, plum, brick;
  QColor sheet, sheet_ink, sheet_lines; // the sheet is material: the same in both schemes
  QColor bar, bar_text;                 // status row and strong buttons
  bool dark = false;
};

enum class Appearance { Desktop, Light, Dark };

const Scheme& scheme();
// Palette, style sheet and interface face for the whole program; loads the bundled Cabin on first use.
void apply_text_size(QApplication& app, double percent); // of what the text would be
void apply_appearance(QApplication& app, Appearance appearance);

// A line icon from the bundled set, in the scheme's text colour (white where it is checked on a dark button).
QIcon icon(const QString& name);

} // namespace frelm
