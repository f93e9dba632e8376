// A job of many pieces in the real window: how long opening takes, one frame of dragging all or one of them, choosing
// them, and what memory that holds.
// usage: many_pieces [PIECES]
#include "app/start.h"
#include "document/copies.h"
#include "document/job_file.h"
#include "document/links.h"
#include "support/cases.h"
#include "support/fixtures.h"

#include "geom/nodes.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <fstream>

using namespace frelm;
using namespace frelm::test;

namespace {

Document many(std::size_t n) {
  const std::vector<Outline> letters = case_letters(14);
  Document out;
  out.sheet = {3000, 2000};
  auto random = random_source(5);
  for (std::size_t i = 0; i < n; ++i) {
    Piece p;
    p.id = out.next_id++;
    const Outline& letter = letters[i % letters.size()];
    const Box box = letter.bounds();
    const Point to{uniform(random, 10, 2950), uniform(random, 10, 1950)};
    p.content = OutlinePiece{
        std::make_shared<const Outline>(letter.transformed(Affine::translation(to - Point{box.x0, box.y0}))),
        Finish{{}},
        nullptr,
        {}};
    out.pieces.push_back(std::make_shared<const Piece>(std::move(p)));
  }
  return out;
}

double memory_mb(const char* what) {
  std::ifstream status("/proc/self/status");
  for (std::string line; std::getline(status, line);)
    if (line.starts_with(what))
      return std::stod(line.substr(line.find(':') + 1)) / 1024;
  return 0;
}

class Clock {
public:
  Clock() { clock_.start(); }
  double ms() const { return double(clock_.nsecsElapsed()) * 1e-6; }

private:
  QElapsedTimer clock_;
};

void drag(MainWindow& window, const char* what) {
  Canvas& canvas = window.canvas();
  const Box box = window.session().drawn_box(window.session().selection().front());
  const auto send = [&](QEvent::Type type, Point at, Qt::MouseButtons buttons) {
    const QPointF p = canvas.to_screen(at);
    QMouseEvent event(type, p, canvas.mapToGlobal(p), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                      buttons, {});
    QApplication::sendEvent(&canvas, &event);
  };
  const Point from =
      nearest_on(*window.session().seated(window.session().selection().front())->outline, box.centre())->point;
  std::vector<double> frames;
  send(QEvent::MouseButtonPress, from, Qt::LeftButton);
  for (int i = 1; i <= 40; ++i) {
    const Clock frame;
    send(QEvent::MouseMove, from + Vec{4.0 * i, 1.5 * i}, Qt::LeftButton);
    QApplication::processEvents();
    frames.push_back(frame.ms());
  }
  const double first = frames.front();
  std::sort(frames.begin(), frames.end());
  const Clock end;
  send(QEvent::MouseButtonRelease, from + Vec{160, 60}, {});
  QApplication::processEvents();
  std::printf("%s: first frame %.1f ms, median %.1f (%.0f a second), longest %.1f; letting go %.1f ms\n", what, first,
              frames[frames.size() / 2], 1000 / frames[frames.size() / 2], frames.back(), end.ms());
}

// One letter in so many linked copies; a node of one is moved, and all follow.
void linked_copies(std::size_t n) {
  const Document one = many(1);
  const auto made = copied(one, {one.pieces[0]->id}, StepCopies{n - 1, {0.4, 0.3}, 0}, evaluator(), CopyAs::Linked);
  if (!made)
    return;
  const Document moved = edit_piece(made->document, made->ids[n / 2], [](Piece& p) {
    p.outline()->outline = std::make_shared<const Outline>(move_nodes(*p.outline()->outline, {{0, 0}}, {1, 1}));
  });
  const Clock following;
  const Document all = followed_links(made->document, moved);
  std::printf("%zu linked copies: all follow one in %.1f ms\n", n, following.ms());
  if (all.pieces[0]->outline()->outline == made->document.pieces[0]->outline()->outline)
    std::printf("they did not follow\n");
}

} // namespace

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  prepare_application();
  const std::size_t n = argc > 1 ? std::stoul(argv[1]) : 5000;
  QTemporaryDir dir;
  const QString path = dir.filePath("many.frelm");
  std::ofstream(path.toStdString(), std::ios::binary) << write_job(many(n), bundled_faces());
  FaceLibrary faces(data_folder("faces").toStdString(), false);
  MainWindow window(faces, {dir.filePath("recovery"), {}, dir.filePath("settings.ini"), data_folder("demo")});
  window.resize(1280, 800);
  window.show();
  QApplication::processEvents();
  const Clock opening;
  (void)window.open_file(path);
  QApplication::processEvents();
  std::printf("%zu pieces: open in %.0f ms", n, opening.ms());
  while (window.canvas().painting())
    QTest::qWait(1);
  std::printf(", painted after %.0f", opening.ms());
  while (window.session().busy())
    QTest::qWait(1);
  std::printf(", looked through after %.0f\n", opening.ms());
  const Clock choosing;
  window.commands().action("edit.select-all")->trigger();
  QApplication::processEvents();
  std::printf("all chosen in %.1f ms\n", choosing.ms());
  drag(window, "all dragged");
  window.session().select({window.session().document().pieces[n / 2]->id});
  QApplication::processEvents();
  drag(window, "one dragged");
  window.commands().action("edit.select-all")->trigger();
  const Clock grouping;
  window.commands().action("arrange.group")->trigger();
  QApplication::processEvents();
  std::printf("all grouped in %.1f ms\n", grouping.ms());
  drag(window, "the group dragged");
  const Clock undoing;
  window.session().undo();
  QApplication::processEvents();
  std::printf("undone in %.1f ms; memory %.0f MB, at most %.0f\n", undoing.ms(), memory_mb("VmRSS"),
              memory_mb("VmHWM"));
  window.session().stop_work();
  linked_copies(n);
  return 0;
}
