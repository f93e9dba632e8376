// The canvas: maps coordinates, paints, and routes events to the tool in use. It decides nothing itself.
#pragma once

#include "app/canvas/backing_pictures.h"
#include "app/canvas/carried_layers.h"
#include "app/canvas/knife_layer.h"
#include "app/canvas/picture_maker.h"
#include "app/canvas/resting_layers.h"
#include "app/canvas/tool_table.h"
#include "app/session/mailbox.h"

#include <QWidget>

namespace frelm {

class Canvas : public QWidget {
  Q_OBJECT

public:
  explicit Canvas(Session& session, QWidget* parent = nullptr);

  void set_tool(ToolKind kind);
  ToolKind tool() const { return kind_; }
  bool hand_down() const { return pressed_; }
  // What the Guide tool draws: an index of GuideShape.
  void set_guide_kind(std::size_t kind);
  std::size_t guide_kind() const { return guide_kind_; }
  // Is a picture being painted that will replace the one shown?
  bool painting() const { return asked_ != got_; }
  void set_view(View view);
  View view() const { return view_; }

  void zoom_to_sheet();
  void zoom_to_drawing(); // all visible pieces; the sheet, where there are none
  // px at the lower edge that fitting leaves free: something comes to stand there.
  void set_kept_free(int px) { kept_free_ = px; }
  void zoom_to(const Box& box); // mm; with some room around it
  void zoom_by(double factor, QPointF about);
  Session& session() { return session_; }
  double px_per_mm() const { return px_per_mm_; }
  double zoom() const; // 1 = life size on this screen
  QPointF to_screen(Point mm) const;
  Point to_sheet(QPointF px) const;
  Box visible() const; // mm: what of the sheet's plane shows
  // What a command would make, over the pieces; empty: nothing.
  void show_made(const MadePicture& made);
  // Scrolls by as little as brings the box into sight; not while the whole sheet is shown.
  void reveal(const Box& box);
  // What the Knife view shows over the pieces.
  void set_knife(KnifePlan& knife);

signals:
  void view_moved(); // scrolled or zoomed
  void tool_changed(ToolKind kind);
  void view_changed(View view);
  void zoom_changed();
  void hovered(Point mm);
  void left();
  void type_text(); // go on typing in the Letters card
  void context_menu(QPoint global);
  void files_dropped(const QStringList& paths, Point at);
  void guide_kind_changed();
  void refused(const QString& why);
  void hand_lifted();
  void part_drawn(const frelm::Box& on_sheet);

protected:
  bool event(QEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void keyReleaseEvent(QKeyEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  ToolEvent tool_event(const QMouseEvent& event, bool twice = false) const;
  void carry_out(ToolReply reply);
  bool on_ruler(QPointF px) const;
  Tool& hand() { return ruler_hand_ != nullptr ? *ruler_hand_ : *tool_; }
  bool type_number(const QKeyEvent& event); // false: it is no part of one
  void begin_hand();
  void lift_hand(const ToolEvent& event);
  void let_go();
  void say_selected();
  void hover_again(); // what a tool lights up has been found
  void paint_rulers(QPainter& painter) const;
  bool renew_backdrop(const Scene& scene); // false: it is as it was
  bool paint_carried(QPainter& painter);
  void paint_pieces_now_or_later(QPainter& painter, bool surroundings_changed);
  void receive(PaintedPicture picture);
  QRectF sheet_area() const; // inside the rulers
  void fit(const Box& box);
  QTransform transform() const;
  Vec nudge_by(int key, bool far) const;

  struct BackdropKey {
    QTransform transform;
    QSize size;
    double ratio = 0;
    Sheet sheet;
    Unit unit = Unit::Millimetre;
    bool dark = false;
    QFont font;
    std::vector<Backing> backings;
    bool operator==(const BackdropKey&) const = default;
  };

  Session& session_;
  KnifePlan* knife_ = nullptr;
  std::unique_ptr<KnifeLayer> knife_layer_;
  PathCache paths_;
  BackingPictures backings_;
  QPixmap backdrop_;
  BackdropKey backdrop_key_;
  RestingLayers layers_;
  // The pieces as painted last, when there are too many to paint at once; asked_ and got_ number the requests.
  PaintedPicture picture_;
  std::unique_ptr<CarriedLayers> carried_; // from the first time on that so many are carried
  std::uint64_t asked_ = 0, got_ = 0;
  QByteArray asked_for_;
  ToolKind kind_ = ToolKind::Select;
  std::size_t guide_kind_ = 0;
  std::unique_ptr<Tool> tool_;
  std::unique_ptr<Tool> ruler_hand_; // while a line is drawn out of a ruler
  ToolOverlay overlay_;
  MadePicture made_;
  View view_ = View::Ink;
  double px_per_mm_ = 1.2;
  QPointF origin_;                                              // px of the sheet's top left corner
  enum class Fit { None, Sheet, Drawing } fitted_ = Fit::Sheet; // follows the window's size
  int kept_free_ = 0;
  QTransform shown_; // as painted last
  bool pressed_ = false, panning_ = false, space_ = false;
  QPointF pan_from_;
  Point pointer_;
  ToolEvent hand_at_; // where it last was in this drag
  QString typed_;     // a number for it
  Mailbox mailbox_;
  PictureMaker maker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
