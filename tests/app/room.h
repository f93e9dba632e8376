// What doesn't fit in a window: widgets outside of it or of their scrolled column, clipped words, neighbours that
// overlap.
#pragma once

#include <QAbstractButton>
#include <QAbstractScrollArea>
#include <QApplication>
#include <QLabel>
#include <QStringList>

namespace frelm::test {

// Text so many % as large as usual, while it lives.
struct Text {
  explicit Text(double percent) : usual_(QApplication::font()) {
    QFont large = usual_;
    large.setPointSizeF(usual_.pointSizeF() * percent / 100);
    QApplication::setFont(large);
  }
  ~Text() { QApplication::setFont(usual_); }
  QFont usual_;
};

inline QString who(const QWidget* w) {
  const auto* button = qobject_cast<const QAbstractButton*>(w);
  const auto* label = qobject_cast<const QLabel*>(w);
  return QString("%1 \"%2\"")
      .arg(w->metaObject()->className(), button != nullptr                ? button->text()
                                         : label != nullptr               ? label->text()
                                         : !w->accessibleName().isEmpty() ? w->accessibleName()
                                                                          : w->objectName());
}

// The scroll area that a widget is scrolled in, or nothing.
inline const QAbstractScrollArea* scroller_of(const QWidget* w) {
  for (const QWidget* p = w->parentWidget(); p != nullptr; p = p->parentWidget())
    if (const auto* area = qobject_cast<const QAbstractScrollArea*>(p->parentWidget());
        area != nullptr && area->viewport() == p)
      return area;
  return nullptr;
}

inline bool words_fit(const QWidget* w) {
  if (const auto* label = qobject_cast<const QLabel*>(w))
    return label->wordWrap() || label->text().isEmpty() || label->text().contains('<') ||
           label->width() >= label->fontMetrics().horizontalAdvance(label->text());
  if (const auto* button = qobject_cast<const QAbstractButton*>(w))
    return button->width() >= button->minimumSizeHint().width() - 1 &&
           button->height() >= button->minimumSizeHint().height() - 1;
  return true;
}

// over: widgets that lie over others on purpose.
inline QStringList what_does_not_fit(const QWidget& window, const QList<const QWidget*>& over) {
  QStringList out;
  for (const QWidget* w : window.findChildren<QWidget*>()) {
    if (!w->isVisible() || w->isWindow() || w->size().isEmpty())
      continue;
    const QRect rect(w->mapTo(&window, QPoint()), w->size());
    if (const QAbstractScrollArea* area = scroller_of(w)) {
      const QRect port(area->viewport()->mapTo(&window, QPoint()), area->viewport()->size());
      if (rect.left() < port.left() || rect.right() > port.right())
        out << who(w) + QString(" is cut off at the side by %1 px")
                            .arg(std::max(port.left() - rect.left(), rect.right() - port.right()));
    } else if (!window.rect().contains(rect)) {
      out << who(w) + QString(" reaches to %1, %2 in %3 x %4")
                          .arg(rect.right())
                          .arg(rect.bottom())
                          .arg(window.width())
                          .arg(window.height());
    }
    if (!words_fit(w))
      out << who(w) + QString(" has %1 x %2 px of %3 x %4")
                          .arg(w->width())
                          .arg(w->height())
                          .arg(w->minimumSizeHint().width())
                          .arg(w->minimumSizeHint().height());
    for (const QObject* other : w->parentWidget()->children()) {
      const auto* o = qobject_cast<const QWidget*>(other);
      if (o != nullptr && o > w && o->isVisible() && !o->isWindow() && !over.contains(o) && !over.contains(w) &&
          qobject_cast<const QAbstractScrollArea*>(w->parentWidget()) == nullptr && !o->inherits("QSplitterHandle") &&
          !w->inherits("QSplitterHandle") && o->geometry().intersects(w->geometry()))
        out << who(w) + " overlaps " + who(o);
    }
  }
  return out;
}

} // namespace frelm::test
