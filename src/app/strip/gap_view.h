// The run unrolled: the guide laid straight, the letters as they sit, a bracket under every gap. Here gaps are judged
// and changed: a letter or a bracket is dragged, arrows step through the gaps and change them, a number is typed.
//
// Mouse: a letter dragged takes all that follow along, with Shift it goes alone; a bracket dragged changes the chosen
// gaps; Ctrl adds a bracket to the choice; elsewhere the strip is scrolled. Keys: keyPressEvent. Everything goes
// through document/gap_edits; the view computes nothing.
#pragma once

#include "app/canvas/painter.h"
#include "document/gap_edits.h"

#include <QWidget>

namespace frelm {

class MeasureField;
inline constexpr double gap_small_print = 0.86; // of the window's text

class GapView : public QWidget {
  Q_OBJECT

public:
  explicit GapView(Session& session, QWidget* parent = nullptr);
  void set_line(std::size_t line);
  std::size_t line() const { return line_; }
  std::size_t line_count() const;
  bool hand_down() const { return drag_.hold != Hold::Nothing; }
  void fit();
  // Shows the letters that stand in this box of the sheet, until the strip is scrolled by hand.
  void follow(const Box& visible);
  QSize sizeHint() const override { return {600, 118}; }
  // The px of a place along the guide, and of a gap's bracket.
  double x_of(double s) const;
  QPointF bracket(const Gap& gap) const;
  // The gap that the next key changes, if it is known.
  const Gap* current() const;
  void step(int by, bool extend); // to another gap, whether it has been measured yet or not
  void widen(double steps);       // the chosen gaps
  void reset_chosen();
  void type_gap(QKeyEvent* begun = nullptr); // begun: the first key of the number

signals:
  void problem(const QString& text);
  // The chosen gaps are to have this closest distance, in a run so long that it takes a while.
  void long_typing(double mm);

protected:
  void paintEvent(QPaintEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  bool event(QEvent* event) override;
  bool eventFilter(QObject* object, QEvent* event) override;

private:
  struct Range {
    double from = 0, to = 1; // mm along the guide
  };
  enum class Hold { Nothing, Strip, Letter, Bracket };
  struct Drag {
    Hold hold = Hold::Nothing;
    QPointF from;
    bool moved = false, alone = false;
    Document start;
    std::vector<PairId> wider, tighter; // by the hand's way
    std::uint64_t letter = 0;           // stays under the hand
    double letter_px = 0;
  };

  std::shared_ptr<const SeatedText> text() const;
  const Recipe* recipe() const;
  // Of this line, left to right; as measured last while newer ones are being measured.
  std::vector<const Gap*> gaps() const;
  std::vector<PairId> pairs() const; // of this line, left to right
  std::optional<PairId> pair(const Gap& gap) const;
  const Gap* gap_at(QPointF px) const;
  const PlacedLetter* letter_at(QPointF px) const;
  std::uint64_t id_of(const PlacedLetter& letter) const;
  void choose(const Gap& gap, bool add);
  Range whole() const;
  double px_per_mm() const;
  double axis_px() const;    // above the band
  double numbers_px() const; // below it: brackets and numbers
  QRectF band() const;
  double step_mm() const;
  void move_range(double by_mm);
  void drag_to(QPointF px);
  void end_drag(bool keep);
  void paint_axis(QPainter& painter, const SeatedText& text, double baseline) const;
  void paint_letters(QPainter& painter, const SeatedText& text, double baseline);
  void paint_gaps(QPainter& painter) const;
  void tell_current();

  Session& session_;
  PathCache paths_;
  MeasureField* field_; // a gap being typed
  std::size_t line_ = 0;
  Range range_;
  bool fitted_ = true;   // shows the whole run
  bool by_hand_ = false; // scrolled by hand: the canvas is not followed
  Drag drag_;
  mutable std::shared_ptr<const std::vector<Gap>> measured_; // last
  mutable std::pair<PieceId, std::size_t> measured_of_{};    // and of what: the piece and how many letters it had
};

// "T–a: optical 2.1, wanted 2.4 mm · closest 1.3 mm · by hand +0.3 mm"
QString describe_gap(const Session& session, const Recipe& recipe, const SeatedText& text, const Gap& gap);

} // namespace frelm
