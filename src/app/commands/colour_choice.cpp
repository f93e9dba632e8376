#include "app/commands/colour_choice.h"

#include "app/style/scheme.h"

#include <QColorDialog>
#include <QCoreApplication>
#include <QPainter>
#include <QPointer>

namespace frelm {
namespace {

QString tr(const char* words) {
  return QCoreApplication::translate("colour", words);
}

} // namespace

QPixmap swatch(const Colour& c, int size) {
  QPixmap pixmap(size * 2, size * 2);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(scheme().dark ? scheme().muted : scheme().lines, 1.2)); // ink is dark too
  painter.setBrush(QColor(c.r, c.g, c.b));
  painter.drawRoundedRect(QRectF(1, 1, size - 2, size - 2), 3, 3);
  return pixmap;
}

void choose_colour(QWidget* parent, QPoint at, Session& session, const std::function<void(Colour)>& chosen) {
  constexpr std::size_t most_unnamed = 12;
  auto* menu = new QMenu(parent);
  menu->setAttribute(Qt::WA_DeleteOnClose);
  const auto offer = [&](const QString& words, Colour colour) {
    QObject::connect(menu->addAction(QIcon(swatch(colour, 16)), words), &QAction::triggered, parent,
                     [chosen, colour] { chosen(colour); });
  };
  const std::vector<Material>& list = session.document().materials;
  for (const Material& m : list)
    offer(m.name.empty() ? QString::fromStdString(to_hex(m.colour)) : QString::fromStdString(m.name).replace("&", "&&"),
          m.colour);
  std::size_t unnamed = 0;
  for (const MaterialUse& use : session.materials_used())
    if (material_of(list, use.colour) == nullptr && ++unnamed <= most_unnamed) {
      if (unnamed == 1 && !list.empty())
        menu->addSeparator();
      offer(QString::fromStdString(to_hex(use.colour)), use.colour);
    }
  menu->addSeparator();
  const QPointer<QWidget> asker(parent); // it may have gone when the colour comes
  QObject::connect(menu->addAction(tr(QT_TRANSLATE_NOOP("colour", "As another piece…"))), &QAction::triggered, parent,
                   [&session, asker, chosen] {
                     session.pick_colour([asker, chosen](Colour c) {
                       if (asker)
                         chosen(c);
                     });
                   });
  QObject::connect(menu->addAction(tr(QT_TRANSLATE_NOOP("colour", "Another colour…"))), &QAction::triggered, parent,
                   [parent, chosen] {
                     auto* dialog = new QColorDialog(parent->window());
                     dialog->setOption(QColorDialog::DontUseNativeDialog);
                     dialog->setAttribute(Qt::WA_DeleteOnClose);
                     QObject::connect(dialog, &QColorDialog::colorSelected, parent, [chosen](const QColor& c) {
                       chosen({static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                               static_cast<std::uint8_t>(c.blue())});
                     });
                     dialog->open();
                   });
  menu->popup(at);
}

} // namespace frelm
