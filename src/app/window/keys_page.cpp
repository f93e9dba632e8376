#include "app/window/keys_page.h"

#include <QTextBrowser>
#include <QVBoxLayout>

namespace frelm {

KeysPage::KeysPage(const CommandTable& commands, QWidget* over)
    : Page(tr("Keys and handles"), tr("Back to the sheet"), over) {
  QString html = tr(
      "<h3>On the canvas</h3><p>The <b>amber bead</b> slides the run along its guide and catches at quarters, corners, "
      "nodes, the middle and where the run is level. The <b>white diamond</b> pulls the letters off the guide, or "
      "pulls "
      "an arc. Guides have a <b>centre</b> (ring), <b>sizes</b> (squares), <b>pulls</b> (diamonds) and a <b>turn</b> "
      "(teal dot). Between <b>rails</b> large diamonds pull an edge (and slide a wave or a peak), small ones what is "
      "added "
      "to it, triangles taper; a filled shape has amber diamonds for its <b>corners</b>; a net has rings for its "
      "<b>pegs</b>: a click chooses one and shows its handles, Shift adds more, arrows move them. While you draw or "
      "drag, nodes, corners, centres and edges catch the hand; Ctrl lets go. A second "
      "click on a run chooses a <b>letter</b>: drag it, turn it by its amber dot, size it by its amber square. With "
      "the "
      "<b>Nodes</b> tool squares are corners, rings smooth nodes, double rings even ones, triangles ends. <b>Snip</b> "
      "takes out the stretch that lights up, <b>Space</b> makes the space that lights up a piece (Shift adds to the "
      "last "
      "one), <b>Sand</b> evens out what its ring passes. "
      "What is <b>grouped</b> is picked as one; a second click goes inside, Esc out again. <b>Ruler lines</b> are "
      "dragged out of the rulers, and go when they are dragged back. A <b>number typed</b> while the hand drags is the "
      "way it goes (two with a semicolon: across and down), the width or the angle; Return takes it. "
      "Corner squares change the size. Wheel zooms, Shift+wheel scrolls, space or the middle button moves the sheet. "
      "Arrows nudge by 1 mm (1/16 in), with Shift by ten. Esc gives up a drag, then the selection. Return goes on to "
      "the text.</p>"
      "<h3>In the Gap strip</h3><p>Drag a letter and all that follow come along, with Shift it goes alone; drag a "
      "bracket to change its gap, with Ctrl choose several. F6 goes there: Left and Right step through the gaps, Shift "
      "with them changes the gap, Up and Down too; a number typed is the closest distance wanted; Delete takes back "
      "what "
      "the hand did; Ctrl+A chooses all, Ctrl+Shift with an arrow one more. Wheel zooms, a double click shows the "
      "whole "
      "run.</p>"
      "<h3>In number fields</h3><p>Units and sums: <code>12mm+3</code>, <code>1/2 in</code>, <code>3 1/8\"</code>. Up "
      "and Down step, with Shift by ten.</p><h3>Keys</h3><table cellpadding='3'>");
  for (const CommandTable::Entry& e : commands.all())
    if (!e.key().isEmpty())
      html += QString("<tr><td>%1</td><td>%2</td><td>%3</td></tr>")
                  .arg(e.key().toHtmlEscaped(), e.words().toHtmlEscaped(), e.menu.toHtmlEscaped());
  auto* text = new QTextBrowser;
  text->setAccessibleName(tr("Keys and handles"));
  text->setHtml(html + "</table>");
  body()->addWidget(text, 1);
  appear();
  text->setFocus();
}

QSize KeysPage::wanted() const {
  return {72 * fontMetrics().averageCharWidth(), 4000}; // as high as there is room
}

} // namespace frelm
