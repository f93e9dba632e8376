// The pictures under the drawing: which one, how large it is, where and how firmly it shows; by hand with its tool.
#pragma once

#include "app/cards/card.h"

#include <QCheckBox>
#include <QComboBox>

namespace frelm {

class BackingCard : public Card {
  Q_OBJECT

public:
  explicit BackingCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void show_by_hand(bool on);
  void show_tracing(bool on); // its card is there
  static bool has_something(const Session& session) { return !session.document().backings.empty(); }

signals:
  void by_hand(bool on); // the tool
  void known_length();   // the Measure tool
  void trace_wanted();

private:
  using Change = std::function<Backing(const Backing&)>;
  void change(const QString& step, bool stepped, const Change& change);
  MeasureField* field(MeasureKind kind, const QString& name, const QString& step, double low, double high,
                      const std::function<Backing(const Backing&, double)>& set);

  QComboBox* which_;
  QStringList names_; // in it
  MeasureField *width_, *height_, *x_, *y_, *turn_, *strength_;
  QCheckBox* shown_;
  QPushButton *by_hand_, *trace_;
};

} // namespace frelm
