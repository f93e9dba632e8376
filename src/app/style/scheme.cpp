#include "app/style/scheme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyle>
#include <QStyleFactory>
#include <QStyleHints>
#include <QSvgRenderer>

namespace frelm {
namespace {

Scheme light() {
  return {"#1f2a33", "#5f6b70", "#a8a497", "#efece4", "#fbfaf6", "#d8d3c7", "#cfc9bb", "#ffffff", "#0f6e73", "#d8e6e4",
          "#e8a317", "#6c3f7a", "#b5452c", "#fbfaf6", "#1f2a33", "#e6e2d8", "#1f2a33", "#f4f1ea", false};
}
Scheme dark() {
  return {"#e9e4d8", "#a3a79f", "#6b757b", "#22282d", "#2b3238", "#171b1f", "#3a434a", "#20262b", "#3aa7a9", "#1f4447",
          "#f0b43c", "#b58ac6", "#e0775f", "#fbfaf6", "#1f2a33", "#e6e2d8", "#11161a", "#e9e4d8", true};
}

Scheme current = light();

QString sheet_of(const Scheme& s) {
  QString css = R"(
    QToolTip { background: @bar; color: @bar_text; border: none; padding: 4px 6px; }
    QWidget#panel, QWidget#topRow, QScrollArea#panel, QScrollArea#panel > QWidget > QWidget { background: @panel; }
    QMenuBar { background: @panel; padding: 2px 6px; }
    QMenuBar::item { padding: 4px 8px; border-radius: 4px; background: transparent; }
    QMenuBar::item:selected { background: @teal_soft; }
    QFrame#card { background: @card; border: 1px solid @lines; border-radius: 6px; }
    QFrame#card[open="true"] { border: 1px solid @teal; }
    QLabel { background: transparent; }
    QLabel#muted { color: @muted; }
    QLabel#heading { font-weight: 600; }
    QLabel#badge { background: @teal_soft; color: @teal; border-radius: 8px; font-weight: 600; }
    QLabel#badge[open="true"] { background: @teal; color: @card; }
    QLineEdit, QPlainTextEdit, QComboBox { background: @field; color: @text; border: 1px solid @lines; border-radius: 4px;
      padding: 3px 6px; selection-background-color: @teal; selection-color: white; }
    QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus { border: 1px solid @teal; }
    QLineEdit[fault="true"] { border: 1px solid @brick; }
    QComboBox { padding: 3px 3px 3px 6px; }
    QCheckBox::indicator { width: 1em; height: 1em; border: 1px solid @muted; border-radius: 3px; background: @field; }
    QCheckBox::indicator:hover, QCheckBox:focus::indicator { border-color: @teal; }
    QCheckBox::indicator:checked { background: @check; border-color: @check; image: url(:/icons/check-white.svg); }
    QCheckBox::indicator:indeterminate { background: @teal_soft; border-color: @teal; }
    QCheckBox::indicator:disabled { border-color: @lines; }
    QCheckBox::indicator:checked:disabled { background: @faint; border-color: @faint; }
    QSlider::groove:horizontal { height: 4px; background: @lines; border-radius: 2px; }
    QSlider::sub-page:horizontal { background: @teal; border-radius: 2px; }
    QSlider::handle:horizontal { width: 12px; margin: -5px 0; border-radius: 6px; background: @field;
      border: 1px solid @teal; }
    QSlider::handle:horizontal:hover, QSlider::handle:horizontal:focus { background: @teal; }
    QComboBox::drop-down { border: none; width: 16px; }
    QComboBox::down-arrow { image: url(:/icons/@arrow.svg); width: 12px; height: 12px; }
    QToolButton, QPushButton { background: @field; color: @text; border: 1px solid @lines; border-radius: 4px; padding: 4px 8px; }
    QToolButton:hover, QPushButton:hover { border-color: @teal; }
    QToolButton:focus, QPushButton:focus { border: 1px solid @teal; }
    QToolButton:checked, QPushButton:checked { background: @teal_soft; border-color: @teal; color: @teal_text; font-weight: 600; }
    QToolButton:disabled, QPushButton:disabled { color: @faint; }
    QToolButton#choice { padding: 4px 4px; }
    QToolButton#pill { border-radius: 9px; padding: 0px 8px; }
    QToolButton#tool { background: transparent; border: 1px solid transparent; padding: 5px 7px; }
    QToolButton#tool:hover { border-color: @lines; }
    QToolButton#tool:focus { border-color: @teal; }
    QToolButton#tool:checked { background: @tool_bg; color: @tool_fg; }
    QToolButton#flat, QPushButton#flat { background: transparent; border: 1px solid transparent; padding: 2px 4px; }
    QToolButton#flat::menu-indicator, QPushButton::menu-indicator { image: none; }
    QFrame#finishStep { border: 1px solid @lines; border-radius: 5px; }
    QToolButton#small { background: transparent; border: 1px solid transparent; padding: 0px; }
    QToolButton#small:hover { border-color: @lines; }
    QToolButton#small:focus { border-color: @teal; }
    QToolButton#flat:hover, QPushButton#flat:hover { border-color: @lines; }
    QToolButton#flat:focus, QPushButton#flat:focus { border-color: @teal; }
    QPushButton#strong { background: @strong_bg; color: @strong_fg; border: 1px solid @strong_bg; padding: 8px; border-radius: 5px; font-weight: 600; }
    QPushButton#strong:hover, QPushButton#strong:focus { border-color: @amber; }
    QPushButton#strong:disabled { background: @lines; color: @muted; border-color: @lines; }
    QPushButton#cure { color: @teal_text; padding: 2px 8px; }
    QFrame#bar { background: @bar; border-radius: 6px; }
    QFrame#bar QLabel { color: @bar_text; }
    QFrame#bar QPushButton { background: transparent; color: @bar_text; border: 1px solid @muted; padding: 3px 10px; }
    QFrame#bar QPushButton:hover, QFrame#bar QPushButton:focus { border-color: @amber; }
    QWidget#status { background: @bar; }
    QWidget#status QLabel { color: @bar_text; }
    QWidget#strip { background: @card; }
    QListView, QTreeView { background: @card; border: 1px solid @lines; border-radius: 6px; outline: none; }
    QListView#plain, QTextBrowser#plain { background: transparent; border: none; }
    QListView::item { border-radius: 4px; }
    QListView::item:selected, QTreeWidget::item:selected { background: @teal_soft; color: @text; }
    QTreeWidget::item { padding: 4px 2px; border: none; }
    QFrame#divider { background: @lines; border: none; }
    QSplitter::handle { background: @lines; }
    QSplitter::handle:hover { background: @teal; }
    QScrollBar:vertical { background: transparent; width: 8px; margin: 0; }
    QScrollBar::handle:vertical { background: @lines; border-radius: 4px; min-height: 24px; }
    QScrollBar:horizontal { background: transparent; height: 8px; margin: 0; }
    QScrollBar::handle:horizontal { background: @lines; border-radius: 4px; min-width: 24px; }
    QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
    QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
    QMenu { background: @card; border: 1px solid @lines; padding: 4px; }
    QMenu::item { padding: 4px 24px 4px 12px; border-radius: 4px; }
    QMenu::item:selected { background: @teal_soft; color: @text; }
    QMenu::item:disabled { color: @muted; }
    QMenu::separator { height: 1px; background: @lines; margin: 4px 8px; }
  )";
  const QColor teal_text = s.dark ? QColor("#8fd3d4") : QColor("#0b565a");
  const QList<std::pair<QString, QColor>> names{{"@teal_soft", s.teal_soft},
                                                {"@teal_text", teal_text},
                                                {"@teal", s.teal},
                                                {"@check", s.dark ? s.teal.darker(140) : s.teal},
                                                {"@bar_text", s.bar_text},
                                                {"@bar", s.bar},
                                                {"@tool_bg", s.dark ? s.text : s.bar},
                                                {"@tool_fg", s.dark ? s.panel : s.bar_text},
                                                {"@strong_bg", s.dark ? s.teal : s.bar},
                                                {"@strong_fg", s.dark ? s.bench : s.bar_text},
                                                {"@text", s.text},
                                                {"@muted", s.muted},
                                                {"@faint", s.faint},
                                                {"@panel", s.panel},
                                                {"@card", s.card},
                                                {"@lines", s.lines},
                                                {"@field", s.field},
                                                {"@amber", s.amber},
                                                {"@brick", s.brick}};
  css.replace("@arrow", s.dark ? "arrow-dark" : "arrow-light");
  for (const auto& [key, colour] : names)
    css.replace(key, colour.name());
  return css;
}

QPalette palette_of(const Scheme& s) {
  QPalette p;
  p.setColor(QPalette::Window, s.panel);
  p.setColor(QPalette::WindowText, s.text);
  p.setColor(QPalette::Base, s.field);
  p.setColor(QPalette::AlternateBase, s.card);
  p.setColor(QPalette::Text, s.text);
  p.setColor(QPalette::Button, s.card);
  p.setColor(QPalette::ButtonText, s.text);
  p.setColor(QPalette::Highlight, s.teal);
  p.setColor(QPalette::HighlightedText, Qt::white);
  p.setColor(QPalette::PlaceholderText, s.muted);
  p.setColor(QPalette::ToolTipBase, s.bar);
  p.setColor(QPalette::ToolTipText, s.bar_text);
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    p.setColor(QPalette::Disabled, role, s.muted);
  return p;
}

bool desktop_is_dark() {
  return QApplication::style()->standardPalette().color(QPalette::Window).lightness() < 110;
}

void load_interface_face(QApplication& app) {
  static bool loaded = false;
  if (loaded)
    return;
  loaded = true;
  for (const char* style : {"Regular", "Medium", "SemiBold", "Bold"})
    QFontDatabase::addApplicationFont(QString(":/interface/Cabin-%1.otf").arg(style));
  QFont font("Cabin");
  const double points = app.font().pointSizeF();
  font.setPointSizeF(points > 0 ? points + 0.5 : 10);
  app.setFont(font);
}

} // namespace

const Scheme& scheme() {
  return current;
}

void apply_appearance(QApplication& app, Appearance appearance) {
  static const bool desktop_dark = desktop_is_dark();
  const bool is_dark = appearance == Appearance::Dark || (appearance == Appearance::Desktop && desktop_dark);
  static bool before = false;
  if (before && current.dark == is_dark)
    return;
  current = is_dark ? dark() : light();
  load_interface_face(app);
  if (!std::exchange(before, true))
    app.setStyle(QStyleFactory::create("Fusion"));
  // Qt goes through every widget for each of these; from one style sheet to the next takes it five times as long as to
  // none and from none.
  app.setStyleSheet({});
  app.setPalette(palette_of(current));
  app.setStyleSheet(sheet_of(current));
}

void apply_text_size(QApplication& app, double percent) {
  static double now = 100;
  if (percent == now)
    return;
  QFont font = app.font();
  font.setPointSizeF(font.pointSizeF() * percent / now);
  now = percent;
  app.setFont(font);
}

QIcon icon(const QString& name) {
  QFile file(":/icons/" + name + ".svg");
  if (!file.open(QIODevice::ReadOnly))
    return {};
  const QByteArray source = file.readAll();
  const auto draw = [&](const QColor& colour) {
    QSvgRenderer svg(QByteArray(source).replace("currentColor", colour.name().toUtf8()));
    QPixmap pixmap(72, 72);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    svg.render(&painter);
    return pixmap;
  };
  const Scheme& s = scheme();
  QIcon out;
  out.addPixmap(draw(s.text), QIcon::Normal, QIcon::Off);
  out.addPixmap(draw(s.faint), QIcon::Disabled, QIcon::Off);
  const bool tool = name.startsWith("tool-");
  out.addPixmap(draw(tool ? (s.dark ? s.panel : s.bar_text) : s.text), QIcon::Normal, QIcon::On);
  return out;
}

} // namespace frelm
