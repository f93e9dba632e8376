// Takes the pictures of docs/screenshots from the demo jobs. usage: screenshots FOLDER
#include "app/start.h"
#include "document/piece_name.h"
#include "settle.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QPainter>
#include <QSvgRenderer>
#include <QTemporaryDir>

using namespace frelm;

namespace {

void select_text(MainWindow& window, const std::string& text) {
  for (const auto& p : window.session().document().pieces)
    if (display_name(*p, Unit::Millimetre) == text)
      window.session().select({p->id});
}

} // namespace

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  prepare_application();
  if (argc != 2)
    return 2;
  const QString folder = argv[1];
  QTemporaryDir scratch;
  FaceLibrary faces(data_folder("faces").toStdString(), false);
  MainWindow window(faces, {scratch.path() + "/recovery", {}, scratch.path() + "/settings.ini", data_folder("demo")});
  window.resize(1280, 800);
  window.show();
  const auto take = [&](const QString& name) {
    settle(window);
    window.grab().save(folder + "/" + name + ".png");
  };
  take("start");
  for (const Appearance look : {Appearance::Light, Appearance::Dark}) {
    window.set_appearance(look);
    const QString suffix = look == Appearance::Dark ? "-dark" : "";
    window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm");
    window.bar().dismiss();
    select_text(window, "SALTMARSH BOATWORKS");
    take("badge" + suffix);
  }
  window.set_appearance(Appearance::Light);
  window.open_file(data_folder("demo") + "/marigold-transom.frelm");
  select_text(window, "Marigold");
  window.commands().action("lettering.card.4")->trigger();
  take("transom");
  // A drawing of somebody else's.
  window.open_file(data_folder("demo") + "/saltmarsh-sloop.svg");
  take("came-in");
  // The same as a picture, traced by its colours.
  QImage scan(3360, 2160, QImage::Format_RGB32); // 8 px a mm
  scan.fill(Qt::white);
  scan.setDotsPerMeterX(8000), scan.setDotsPerMeterY(8000);
  QPainter painter(&scan);
  QSvgRenderer(data_folder("demo") + "/saltmarsh-sloop.svg").render(&painter);
  painter.end();
  scan.save(scratch.filePath("sloop.png"));
  window.open_file(scratch.filePath("sloop.png"));
  window.commands().action("outline.trace")->trigger();
  for (auto* button : window.findChildren<QToolButton*>())
    if (button->text() == "Colours" && button->isVisible())
      button->click();
  take("tracing");
  window.open_file(data_folder("demo") + "/marigold-transom.frelm");
  // What leaves, and the customer's sheet; no path of this machine.
  const auto type = [&](const char* field, const QString& words) {
    for (QLineEdit* f : window.findChildren<QLineEdit*>())
      if (f->accessibleName() == field)
        f->setText(words);
  };
  window.commands().action("file.export")->trigger();
  type("File", "marigold-transom.svg");
  take("export");
  window.commands().action("file.proof")->trigger();
  type("Heading", "Marigold, transom name");
  type("For", "Saltmarsh Boatworks");
  type("Below the line to sign", "Agreed");
  type("File", "marigold-transom-proof.pdf");
  settle(window); // its picture too
  take("proof");
  window.close_page();
  window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm");
  window.canvas().set_view(View::Knife);
  const auto wait = [&](const std::function<bool()>& until) {
    QElapsedTimer timer;
    for (timer.start(); !until() && timer.elapsed() < 20'000;)
      QApplication::processEvents(QEventLoop::AllEvents, 20);
  };
  wait([&] { return window.knife().current(); });
  window.knife().set_time(0.55 * window.knife().plan()->times.seconds());
  take("badge-knife");
  window.open_file(data_folder("demo") + "/pontoon-names.frelm");
  window.canvas().set_view(View::Names);
  wait([&] { return window.names().known() == window.names().count(); });
  take("names");
  window.canvas().set_view(View::Ink);
  window.open_file(data_folder("demo") + "/tide-spiral.frelm");
  for (const auto& p : window.session().document().pieces)
    if (p->lettering() != nullptr && p->lettering()->recipe.bend.kind == BendKind::Guide)
      window.session().select({p->id});
  take("tide-spiral");
  // A folded ribbon, selected; the materials over the pieces by material.
  window.open_file(data_folder("demo") + "/launch-ribbon.frelm");
  for (const auto& p : window.session().document().pieces)
    if (p->guide() != nullptr)
      window.session().select({p->id});
  take("launch-ribbon");
  window.open_file(data_folder("demo") + "/marigold-transom.frelm");
  for (auto* button : window.findChildren<QToolButton*>())
    if (button->text() == "By material")
      button->click();
  window.commands().action("arrange.materials")->trigger();
  take("materials");
  window.close_page();
  for (auto* button : window.findChildren<QToolButton*>())
    if (button->text() == "By material")
      button->click();
  // Gaps evened inside a circle, one changed by hand.
  window.open_file(data_folder("demo") + "/creek-plaque.frelm");
  select_text(window, "LOW TIDE CREEK");
  window.open_card(&window.spacing_card());
  window.strip().view()->step(1, false);
  window.strip().view()->widen(12);
  take("even-gaps");
  // A word in a shape.
  window.open_file(data_folder("demo") + "/herring-tag.frelm");
  for (const auto& p : window.session().document().pieces)
    if (p->lettering() != nullptr)
      window.session().select({p->id});
  window.open_card(&window.bend_card());
  take("herring-tag");
  window.open_file(data_folder("demo") + "/pulled-node.frelm");
  // The Guide tool with its kinds.
  for (const auto& p : window.session().document().pieces)
    if (p->guide() != nullptr)
      window.session().select({p->id});
  window.session().select({});
  window.canvas().set_tool(ToolKind::Guide);
  take("guide-kinds");
  // What an offset would make; a space that a click would take.
  window.open_file(data_folder("demo") + "/pier-tag.frelm");
  window.canvas().set_tool(ToolKind::Select);
  window.session().select({window.session().document().pieces.back()->id});
  window.commands().action("lettering.apart")->trigger();
  settle(window);
  emit window.commands().action(outline_command_id(OutlineCommand::OffsetAsPiece))->hovered();
  take("outline-commands");
  window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm");
  window.canvas().set_tool(ToolKind::Space);
  for (int i = 0; i < 20 && window.session().line_work() == nullptr; ++i)
    settle(window);
  const QPointF at = window.canvas().to_screen({300, 280});
  QMouseEvent move(QEvent::MouseMove, at, window.canvas().mapToGlobal(at), Qt::NoButton, {}, {});
  QApplication::sendEvent(&window.canvas(), &move);
  take("take-space");
  // A name tied into a fish, with the parts it leaves in.
  window.canvas().set_tool(ToolKind::Select);
  window.open_file(data_folder("demo") + "/herring-ornament.frelm");
  for (auto* button : window.findChildren<QPushButton*>())
    if (button->text() == "Parts")
      button->click();
  take("one-piece");
}
