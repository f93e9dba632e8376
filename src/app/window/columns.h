// The columns of the window: cards, canvas over the Gap strip, pieces over the Cut check. Where the canvas would get
// too little of a small screen or of large text, pieces and check go behind tabs over the cards. The strip folds while
// no lettering is selected; the sheet keeps its place on the screen then.
#pragma once

#include "app/canvas/canvas.h"
#include "app/cards/card.h"
#include "app/check/check_panel.h"
#include "app/pieces/pieces_panel.h"
#include "app/strip/gap_strip.h"
#include "app/strip/time_strip.h"

#include <QSplitter>
#include <QStackedWidget>

class QSettings;

namespace frelm {

class Columns : public QWidget {
  Q_OBJECT

public:
  struct Parts {
    QWidget* cards;
    Canvas* canvas;
    GapStrip* strip;
    TimeStrip* time; // in the strip's place in the Knife view
    PiecesPanel* pieces;
    CheckPanel* check;
  };
  Columns(Session& session, const Parts& parts, QWidget* parent = nullptr);

  bool tabbed() const { return tabbed_; }
  enum class Tab { Cards, Pieces, Check };
  void show_tab(Tab tab); // no matter where there are no tabs
  // As the user wants it while a lettering is selected.
  void set_strip_folded(bool folded);
  bool strip_wanted_folded() const { return strip_wanted_folded_; }
  void set_time_shown(bool shown);
  // The strip as the selection wants it; not while the hand is down.
  void fit_strip();
  void remember(QSettings& settings) const;
  void recall(const QSettings& settings);
  QSize minimumSizeHint() const override; // with tabs

protected:
  void resizeEvent(QResizeEvent* event) override;
  bool event(QEvent* event) override;

private:
  QWidget* panel(QWidget* first);
  void set_tabbed(bool tabbed);
  void arrange();
  void share_out();
  bool lettering_selected() const;

  Session& session_;
  Parts parts_;
  QSplitter *across_, *down_, *right_;
  QWidget *left_, *right_panel_;
  QWidget* tab_row_;
  ChoiceRow* tabs_;
  QStackedWidget* pages_;
  QByteArray three_; // how the splitter stood with three columns
  bool moved_ = false, tabbed_ = false, strip_wanted_folded_ = false;
  int strip_height_ = 130; // px, when it is open
  int time_height_ = 116;  // px
};

} // namespace frelm
