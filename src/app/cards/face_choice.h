// The choice of a face: every family with the user's own words set in it, found by typing a part of its name. Those
// marked as favourites come first, then Frelm's, then the machine's; last, and not to be chosen, those without
// outlines.
#pragma once

#include "app/style/choice_box.h"
#include "type/face_library.h"

#include <QStringList>

namespace frelm {

class FaceChoice : public ChoiceBox {
  Q_OBJECT

public:
  explicit FaceChoice(const FaceLibrary& faces, QWidget* parent = nullptr);
  void show_face(const QString& family);
  void set_sample(const QString& words); // empty: the family's own name
  QString sample() const { return sample_; }
  const QStringList& favourites() const { return favourites_; }
  void set_favourites(const QStringList& families); // those not here are kept for when they are
  void toggle_favourite();                          // of the family shown

signals:
  void chosen(const QString& family);
  void favourites_changed();
  void refused(const QString& why); // one that has no outlines was typed

private:
  void fill();
  void take(const QString& family);
  QString why_not(int index) const; // empty: it can be chosen

  std::vector<FaceWithoutOutlines> without_outlines_;

  QStringList ours_, machines_, favourites_;
  QString sample_, shown_;
};

} // namespace frelm
