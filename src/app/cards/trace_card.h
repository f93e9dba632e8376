// The backing made into outlines: which ink, how fine, which part of it; what would come of it is shown over the
// picture all the while. The size is the backing's own, on its card above.
#pragma once

#include "app/cards/card.h"
#include "app/session/picture_tracer.h"

#include <QCheckBox>

namespace frelm {

class TraceCard : public Card {
  Q_OBJECT

public:
  TraceCard(Session& session, PictureTracer& tracer, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return ink_->button(0); }
  void show_drawing_part(bool on); // is the hand at it?
  // What a hand has drawn on the sheet is the part to be traced.
  void take_part(const frelm::Box& on_sheet);

signals:
  void wanted(bool keep_backing);
  void draw_part(bool on);
  void closed();

private:
  MeasureField* field(MeasureKind kind, const QString& name, double low, double high,
                      const std::function<void(TraceWish&, double)>& set);
  void change(const std::function<void(TraceWish&)>& change);
  QString told() const;

  PictureTracer& tracer_;
  ChoiceRow* ink_;
  MeasureField *threshold_, *colours_, *specks_, *corners_, *straight_, *tolerance_;
  QCheckBox *paper_, *keep_;
  QPushButton *part_, *whole_, *make_;
  QLabel* told_;
};

} // namespace frelm
