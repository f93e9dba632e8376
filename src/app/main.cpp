#include "app/start.h"

#include <QApplication>
#include <QCommandLineParser>

int main(int argc, char** argv) {
  QApplication app(argc, argv);
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
  frelm::MainWindow window(faces, options);
  if (!parser.positionalArguments().isEmpty())
    window.open_file(parser.positionalArguments().front());
  window.show();
  window.offer_recovery();
  return QApplication::exec();
}
