#include "app/start.h"
#include "app/window/safe_application.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QProcess>
#include <csignal>

int main(int argc, char** argv) {
  std::signal(SIGXFSZ, SIG_IGN); // a file that may not grow is told, like a full disk
  frelm::SafeApplication app(argc, argv);
  frelm::prepare_application();
  QCommandLineParser parser;
  parser.setApplicationDescription("Bent and spaced lettering for blade, laser and torch.");
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument("job", "a job to open", "[job]");
  parser.process(app);
  frelm::FaceLibrary faces(frelm::data_folder("faces").toStdString(), true);
  frelm::WindowOptions options;
  options.recovery_folder = frelm::default_recovery_folder();
  options.examples_folder = frelm::data_folder("demo");
  options.new_window = [] { return QProcess::startDetached(QApplication::applicationFilePath(), {}); };
  frelm::MainWindow window(faces, options);
  if (!parser.positionalArguments().isEmpty())
    window.open_file(parser.positionalArguments().front());
  QObject::connect(&app, &frelm::SafeApplication::thrown, &window, &frelm::MainWindow::went_wrong);
  window.show();
  window.offer_recovery();
  window.offer_walk();
  return QApplication::exec();
}
