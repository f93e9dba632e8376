// One picture of the window as it would be on a screen of some size with some size of text, to look at while working
// on it. Prints the canvas's share of the window.
// usage: look [--size WxH] [--text PERCENT] [--scale FACTOR] [--dark] [--select NAME] [--tool 1…8] [--card 1…4]
//             [--machine] [--command ID]… [--rest ID] [--hover X,Y] [--drag X0,Y0,X1,Y1 [--held]]
//             [--popup NAME] [--click WORDS] EXAMPLE|FILE|- OUT.png
#include "app/start.h"
#include "document/piece_name.h"
#include "settle.h"

#include <CLI/CLI.hpp>
#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QTemporaryDir>

using namespace frelm;

int main(int argc, char** argv) {
  CLI::App cli;
  std::string size = "1280x800", job, out;
  std::vector<std::string> select, commands;
  double text = 100;
  std::string scale = "1";
  bool dark = false, machine = false;
  int tool = 1, card = 0;
  cli.add_option("--size", size);
  cli.add_option("--text", text);
  cli.add_option("--scale", scale);
  cli.add_flag("--dark", dark);
  cli.add_flag("--machine", machine, "with the faces of this machine");
  cli.add_option("--select", select);
  cli.add_option("--tool", tool)->check(CLI::Range(1, 8));
  cli.add_option("--card", card)->check(CLI::Range(0, 4));
  cli.add_option("--command", commands);
  std::string popup, rest, click;
  std::vector<double> hover, drag;
  bool held = false;
  cli.add_option("--rest", rest, "command that the pointer rests on");
  cli.add_option("--drag", drag, "X0,Y0,X1,Y1: the hand from place to place")->delimiter(',')->expected(4);
  cli.add_flag("--held", held, "it is not let go");
  cli.add_option("--hover", hover, "X,Y: the hand over this place of the sheet, mm")->delimiter(',')->expected(2);
  cli.add_option("--click", click, "words of a button to press");
  cli.add_option("--popup", popup, "accessible name of a choice to open");
  cli.add_option("JOB", job)->required();
  cli.add_option("OUT", out)->required();
  CLI11_PARSE(cli, argc, argv);
  qputenv("QT_SCALE_FACTOR", scale.c_str());
  QApplication app(argc, argv);
  prepare_application();
  QFont font = app.font();
  font.setPointSizeF(font.pointSizeF() * text / 100);
  app.setFont(font);
  QTemporaryDir scratch;
  FaceLibrary faces(data_folder("faces").toStdString(), machine);
  MainWindow window(faces, {scratch.path() + "/recovery", {}, scratch.path() + "/settings.ini", data_folder("demo")});
  window.set_appearance(dark ? Appearance::Dark : Appearance::Light);
  const QStringList sides = QString::fromStdString(size).split('x');
  window.resize(sides.value(0).toInt(), sides.value(1).toInt());
  window.show();
  settle(window);
  if (job != "-")
    window.open_file(QFile::exists(QString::fromStdString(job))
                         ? QString::fromStdString(job)
                         : data_folder("demo") + "/" + QString::fromStdString(job) + ".frelm");
  std::vector<PieceId> ids;
  for (const std::string& name : select)
    for (const auto& p : window.session().document().pieces)
      if (display_name(*p, Unit::Millimetre).find(name) != std::string::npos)
        ids.push_back(p->id);
  if (!ids.empty())
    window.session().select(ids);
  if (tool > 1)
    window.canvas().set_tool(static_cast<ToolKind>(tool - 1));
  if (card > 0)
    commands.insert(commands.begin(), "lettering.card." + std::to_string(card));
  for (const std::string& id : commands)
    window.commands().action(QString::fromStdString(id))->trigger();
  settle(window);
  if (!rest.empty()) {
    emit window.commands().action(QString::fromStdString(rest))->hovered();
    for (int i = 0; i < 200 && !window.maker().picture(); ++i)
      settle(window);
  }
  if (!drag.empty()) {
    const auto send = [&](QEvent::Type type, double share, Qt::MouseButtons buttons) {
      const Point mm = lerp(Point{drag[0], drag[1]}, Point{drag[2], drag[3]}, share);
      const QPointF at = window.canvas().to_screen(mm);
      QMouseEvent event(type, at, window.canvas().mapToGlobal(at),
                        type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, buttons, {});
      QApplication::sendEvent(&window.canvas(), &event);
    };
    send(QEvent::MouseButtonPress, 0, Qt::LeftButton);
    for (const double share : {0.3, 0.7, 1.0})
      send(QEvent::MouseMove, share, Qt::LeftButton);
    if (!held)
      send(QEvent::MouseButtonRelease, 1, {});
    settle(window);
  }
  for (auto* button : window.findChildren<QAbstractButton*>())
    if (!click.empty() && button->isVisible() && button->text().toStdString() == click)
      button->click();
  settle(window);
  if (!hover.empty()) {
    for (int i = 0; i < 200 && tool > 4 && window.session().line_work() == nullptr; ++i)
      settle(window);
    const QPointF at = window.canvas().to_screen({hover[0], hover[1]});
    QMouseEvent move(QEvent::MouseMove, at, window.canvas().mapToGlobal(at), Qt::NoButton, {}, {});
    QApplication::sendEvent(&window.canvas(), &move);
    settle(window);
  }
  QWidget* shown = &window;
  for (auto* box : window.findChildren<QComboBox*>())
    if (!popup.empty() && box->isVisible() && box->accessibleName().toStdString() == popup) {
      box->showPopup();
      settle(window);
      shown = box->view()->window();
    }
  const QWidget& canvas = window.canvas();
  std::printf("window %d x %d, canvas %d x %d, %.1f %%\n", window.width(), window.height(), canvas.width(),
              canvas.height(), 100.0 * canvas.width() * canvas.height() / (window.width() * window.height()));
  return shown->grab().save(QString::fromStdString(out)) ? 0 : 1;
}
