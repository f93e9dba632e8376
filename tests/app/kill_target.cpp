// The program that test_kill starts and kills: the real window, worked by a script of edits, saves and autosaves that
// never ends. Prints "saved N" after each save has returned, so that the test knows what must not be lost.
// usage: kill_target JOB RECOVERY_FOLDER SEED
#include "app/start.h"

#include <QApplication>
#include <cstdio>
#include <random>

using namespace frelm;

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication app(argc, argv);
  prepare_application();
  if (argc != 4)
    return 2;
  const QString job = argv[1];
  std::mt19937 random(static_cast<unsigned>(std::atoi(argv[3])));
  FaceLibrary faces(data_folder("faces").toStdString(), false);
  MainWindow window(faces, {argv[2], {20, 40}, QString(argv[2]) + "/settings.ini", data_folder("demo")});
  window.show();
  window.open_file(job);
  int n = 0;
  QTimer step;
  QObject::connect(&step, &QTimer::timeout, [&] {
    Session& session = window.session();
    const PieceId id = session.document().pieces.front()->id;
    session.select({id});
    // The sheet's width counts the edits, so that the test can tell versions apart.
    Document d = session.document();
    d.sheet.width = 1000 + ++n;
    session.apply("count", std::move(d));
    switch (random() % 5) {
    case 0:
    case 1:
      window.save_to(job, [n] {
        std::printf("saved %d\n", n);
        std::fflush(stdout);
      });
      break;
    case 2:
      window.release_selected(ReleaseAs::ByLetter, GuideAfter::Gone);
      break;
    case 3:
      session.undo(), session.redo();
      break;
    default:
      session.edit("move", id, [&](Piece& p) {
        if (p.lettering() != nullptr)
          p.lettering()->placement.at.x += 1;
      });
    }
  });
  step.start(3);
  return QApplication::exec();
}
