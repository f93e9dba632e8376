#include "app/style/spoken_button.h"

#include <QAbstractButton>
#include <QAccessibleWidget>
#include <QButtonGroup>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>

namespace frelm {
namespace {

QString without_mnemonic(const QString& text) {
  QString out;
  for (qsizetype i = 0; i < text.size(); ++i) {
    if (text[i] == '&' && i + 1 < text.size())
      ++i; // && is the sign itself
    out += text[i];
  }
  return out;
}

class SpokenButton final : public QAccessibleWidget {
public:
  explicit SpokenButton(QAbstractButton* button) : QAccessibleWidget(button) {}

  QAbstractButton* button() const { return static_cast<QAbstractButton*>(object()); }
  bool one_of_several() const {
    return button()->isCheckable() &&
           (button()->autoExclusive() || (button()->group() != nullptr && button()->group()->exclusive()));
  }
  QMenu* menu() const {
    if (auto* push = qobject_cast<QPushButton*>(object()))
      return push->menu();
    auto* tool = qobject_cast<QToolButton*>(object());
    return tool != nullptr ? tool->menu() : nullptr;
  }
  QString own_action() const {
    return menu() != nullptr                              ? showMenuAction()
           : button()->isCheckable() && !one_of_several() ? toggleAction()
                                                          : pressAction();
  }

  QAccessible::Role role() const override {
    return menu() != nullptr         ? QAccessible::ButtonMenu
           : one_of_several()        ? QAccessible::RadioButton
           : button()->isCheckable() ? QAccessible::CheckBox
                                     : QAccessible::Button;
  }
  QAccessible::State state() const override {
    QAccessible::State out = QAccessibleWidget::state();
    out.checkable = button()->isCheckable();
    out.checked = button()->isChecked();
    out.hasPopup = menu() != nullptr;
    out.pressed = button()->isDown();
    return out;
  }
  QString text(QAccessible::Text what) const override {
    const QString said = QAccessibleWidget::text(what);
    return said.isEmpty() && what == QAccessible::Name ? without_mnemonic(button()->text()) : said;
  }
  // Its menu: popups are no windows of their own to a reader.
  int childCount() const override { return menu() != nullptr ? 1 : 0; }
  QAccessibleInterface* child(int index) const override {
    return index == 0 && menu() != nullptr ? QAccessible::queryAccessibleInterface(menu()) : nullptr;
  }
  int indexOfChild(const QAccessibleInterface* child) const override {
    return child != nullptr && menu() != nullptr && child->object() == menu() ? 0 : -1;
  }
  QStringList actionNames() const override {
    QStringList out = QAccessibleWidget::actionNames();
    if (button()->isEnabled())
      out.prepend(own_action());
    return out;
  }
  // Later: what it does may take its time, and the reader waits for an answer.
  void doAction(const QString& name) override {
    if (name != own_action())
      QAccessibleWidget::doAction(name);
    else if (auto* tool = qobject_cast<QToolButton*>(object()); tool != nullptr && tool->menu() != nullptr)
      QMetaObject::invokeMethod(tool, &QToolButton::showMenu, Qt::QueuedConnection); // a click alone shows none
    else
      QMetaObject::invokeMethod(button(), &QAbstractButton::click, Qt::QueuedConnection);
  }
};

} // namespace

QAccessibleInterface* spoken_button(const QString&, QObject* object) {
  auto* button = qobject_cast<QAbstractButton*>(object);
  return button != nullptr ? new SpokenButton(button) : nullptr;
}

} // namespace frelm
