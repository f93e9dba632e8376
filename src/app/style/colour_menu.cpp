#include "app/style/colour_menu.h"

#include "app/style/scheme.h"

#include <QCoreApplication>
#include <QPainter>

namespace frelm {
namespace {

// Names for people who can't see them.
struct Swatch {
  const char* name;
  Colour colour;
};
constexpr Swatch swatches[]{{QT_TRANSLATE_NOOP("colour", "Ink"), {0x1f, 0x2a, 0x33}},
                            {QT_TRANSLATE_NOOP("colour", "Madder"), {0x9b, 0x2f, 0x45}},
                            {QT_TRANSLATE_NOOP("colour", "Tan"), {0x7a, 0x4a, 0x14}},
                            {QT_TRANSLATE_NOOP("colour", "Ochre"), {0xc9, 0x8a, 0x12}},
                            {QT_TRANSLATE_NOOP("colour", "Moss"), {0x4f, 0x6b, 0x2c}},
                            {QT_TRANSLATE_NOOP("colour", "Sea"), {0x0f, 0x6e, 0x73}},
                            {QT_TRANSLATE_NOOP("colour", "Harbour"), {0x22, 0x4f, 0x8c}},
                            {QT_TRANSLATE_NOOP("colour", "Heather"), {0x6c, 0x3f, 0x7a}},
                            {QT_TRANSLATE_NOOP("colour", "Slate"), {0x6d, 0x76, 0x7c}},
                            {QT_TRANSLATE_NOOP("colour", "White"), {0xf4, 0xf1, 0xea}}};

} // namespace

QPixmap swatch(const Colour& c, int size) {
  QPixmap pixmap(size * 2, size * 2);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(scheme().lines, 1.2));
  painter.setBrush(QColor(c.r, c.g, c.b));
  painter.drawRoundedRect(QRectF(1, 1, size - 2, size - 2), 3, 3);
  return pixmap;
}

void choose_colour(QWidget* parent, QPoint at, const std::function<void(Colour)>& chosen) {
  auto* menu = new QMenu(parent);
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const Swatch& s : swatches)
    QObject::connect(menu->addAction(QIcon(swatch(s.colour, 16)), QCoreApplication::translate("colour", s.name)),
                     &QAction::triggered, parent, [chosen, colour = s.colour] { chosen(colour); });
  menu->popup(at);
}

} // namespace frelm
