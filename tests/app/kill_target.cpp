// The program that test_kill starts and kills: the real window at its usual autosave times, worked by a script of
// bursts of edits, rests, saves and exports that never ends. What a killed one left behind is brought back first.
// Prints "edit N T" with each edit (T: ms of the steady clock) and "held N" when a write of the job or of its recovery
// file has returned, so that the test knows what must not be lost.
// usage: kill_target JOB RECOVERY_FOLDER SEED
#include "app/menus/lettering_menu.h"
#include "app/start.h"
#include "document/job_file.h"

#include <QApplication>
#include <QPushButton>
#include <chrono>
#include <cstdio>
#include <random>

using namespace frelm;

namespace {

// The sheet's width counts the edits, so that the test can tell versions apart.
int version_of(const std::string& bytes) {
  const Result<Document> read = read_job(bytes.substr(bytes.find('{'))); // behind the head of a recovery file
  return read.ok() ? static_cast<int>(read->sheet.width) : 0;
}

class TellingStorage final : public Storage {
public:
  Result<std::string> read(const std::string& path) override { return disk_.read(path); }
  Result<Done> remove(const std::string& path) override { return disk_.remove(path); }
  Result<Done> write(const std::string& path, const std::string& bytes) override {
    const Result<Done> done = disk_.write(path, bytes);
    if (done.ok() && path.ends_with(".frelm")) {
      std::printf("held %d\n", version_of(bytes));
      std::fflush(stdout);
    }
    return done;
  }

private:
  DiskStorage disk_;
};

} // namespace

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
  WindowOptions options{argv[2], {}, QString(argv[2]) + "/settings.ini", data_folder("demo")};
  options.storage = std::make_shared<TellingStorage>();
  MainWindow window(faces, options);
  window.show();
  window.open_file(job);
  Session& session = window.session();
  int n = static_cast<int>(session.document().sheet.width);
  std::printf("started\n");
  std::fflush(stdout);
  window.offer_recovery();
  while (RecoveryList* list = window.recovery_list()) { // all of them, the newest last
    QPushButton* back = nullptr;
    for (QPushButton* button : list->findChildren<QPushButton*>())
      if (button->isVisibleTo(list) && button->text() == QObject::tr("Bring back"))
        back = button;
    if (back == nullptr)
      break;
    back->click();
    n = std::max(n, static_cast<int>(session.document().sheet.width));
    QApplication::processEvents();
    if (!session.history().is_saved() && list->count() > 0)
      list->close(); // the bar asks now what becomes of this one: that is for another run
    QApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  }
  int burst = 0;
  QTimer step;
  step.setSingleShot(true);
  QObject::connect(&step, &QTimer::timeout, [&] {
    if (burst == 0)
      burst = 1 + static_cast<int>(random() % 40);
    const PieceId id = session.document().pieces.front()->id;
    session.select({id});
    Document d = session.document();
    d.sheet.width = ++n;
    std::printf("edit %d %lld\n", n,
                static_cast<long long>(std::chrono::duration_cast<std::chrono::milliseconds>(
                                           std::chrono::steady_clock::now().time_since_epoch())
                                           .count()));
    std::fflush(stdout);
    session.apply("count", std::move(d));
    switch (random() % 12) {
    case 0:
      window.save_to(job);
      break;
    case 1:
      window.export_to(QString(job).replace("job.frelm", "out.svg"));
      break;
    case 2:
      release_selected(window.desk(), ReleaseAs::ByLetter, GuideAfter::Gone);
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
    --burst;
    const unsigned sort = random() % 4; // of rest
    step.start(static_cast<int>(burst > 0   ? 3 + random() % 20
                                : sort == 0 ? random() % 500
                                : sort == 1 ? random() % 3000
                                            : 2000 + random() % 6000));
  });
  step.start(3);
  return QApplication::exec();
}
