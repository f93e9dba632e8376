// Heartbeat of the interface thread during a scripted session in the real window, painting included.
// A second thread posts a beat as soon as the last one has been answered (at most one a millisecond) and notes how long
// each waited. Prints the percentiles. usage: session_probe [LETTERS]
#include "app/menus/lettering_menu.h"
#include "app/start.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <array>
#include <atomic>
#include <cstdio>

using namespace frelm;

namespace {

// Letters of this many on a shape, evened.
Added letters_on(GuideShape shape, std::size_t count, double size) {
  std::u32string text;
  while (text.size() < count)
    text += U"slow comes the tide over mud and sand ";
  Letters letters;
  std::uint64_t next_id = 1000;
  letters.text = retyped({}, text.substr(0, count), next_id);
  letters.face = {"Lato", "Bold"};
  letters.size = size;
  Document document;
  document.next_id = next_id;
  Piece guide;
  guide.content = Guide{std::move(shape)};
  const Added on = add_piece(document, std::move(guide));
  Recipe recipe{letters, {}, {}, {}};
  recipe.bend.kind = BendKind::Guide;
  recipe.bend.guide.guide = on.id;
  recipe.spacing.mode = SpacingMode::EvenGaps;
  Piece words;
  words.content = Lettering{recipe, {}};
  return add_piece(on.document, std::move(words));
}

// Press on a handle, and the first three moves: ms of the interface thread, each with what it paints.
void print_first_moves(MainWindow& window, const char* what, const Added& job, HandleKind kind) {
  window.session().reset(job.document);
  window.session().select({job.id});
  (void)QTest::qWaitFor([&] { return !window.session().busy(); }, 20'000);
  QTest::qWait(300);
  const auto handles = handles_of(window.session(), 0.8);
  const auto handle = std::find_if(handles.begin(), handles.end(), [&](const Handle& h) { return h.kind == kind; });
  if (handle == handles.end()) {
    std::printf("%s: no handle\n", what);
    return;
  }
  Canvas& canvas = window.canvas();
  const Point begin = handle->at;
  std::printf("%s: press and moves", what);
  for (int i = 0; i < 4; ++i) {
    const QPointF p = canvas.to_screen(begin + Vec{1.0 * i, 0.5 * i});
    QMouseEvent event(i == 0 ? QEvent::MouseButtonPress : QEvent::MouseMove, p, canvas.mapToGlobal(p),
                      i == 0 ? Qt::LeftButton : Qt::NoButton, Qt::LeftButton, {});
    QElapsedTimer clock;
    clock.start();
    QApplication::sendEvent(&canvas, &event);
    QApplication::processEvents();
    std::printf(" %.1f", double(clock.nsecsElapsed()) * 1e-6);
  }
  std::printf(" ms\n");
  window.session().abandon_drag();
}

} // namespace

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  prepare_application();
  QTemporaryDir dir;
  FaceLibrary faces(data_folder("faces").toStdString(), true);
  MainWindow window(faces, {dir.filePath("recovery"), {1000, 5000}, dir.filePath("settings.ini"), data_folder("demo")});
  window.resize(1280, 800);
  window.show();
  const HeartGuide heart{{300, 200}, 230, 205, 0};
  const SpiralGuide spiral{{300, 200}, 30, 18, 6};
  print_first_moves(window, "bead, 78 evened letters on a heart", letters_on(heart, 78, 7), HandleKind::Bead);
  print_first_moves(window, "corner, 60 evened letters on a heart", letters_on(heart, 60, 7), HandleKind::Corner);
  print_first_moves(window, "corner, 120 evened letters on a heart", letters_on(heart, 120, 4), HandleKind::Corner);
  print_first_moves(window, "corner, 400 letters on a spiral", letters_on(spiral, 400, 6), HandleKind::Corner);
  window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm");
  Session& session = window.session();
  Canvas* canvas = &window.canvas();
  for (const auto& p : session.document().pieces)
    if (p->lettering() != nullptr && p->lettering()->recipe.bend.guide.tops == Tops::Outward &&
        p->lettering()->recipe.bend.kind == BendKind::Guide)
      session.select({p->id});
  if (argc > 1) {
    QString text;
    while (text.size() < QString(argv[1]).toInt())
      text += "slow comes the tide over mud and sand ";
    window.letters_card().text_edit()->setPlainText(text.left(QString(argv[1]).toInt()));
  }
  QTest::qWait(500);

  std::vector<double> waits;
  std::array<std::vector<double>, 13> by_phase;
  int step = 0;
  std::atomic<bool> end = false, answered = true;
  QObject receiver;
  std::jthread beat([&] {
    while (!end) {
      if (answered.exchange(false)) {
        const auto posted = std::chrono::steady_clock::now();
        QMetaObject::invokeMethod(
            &receiver,
            [&, posted] {
              waits.push_back(
                  std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - posted).count());
              by_phase[std::min<std::size_t>(12, static_cast<std::size_t>(step) / 60)].push_back(waits.back());
              answered = true;
            },
            Qt::QueuedConnection);
      }
      std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
  });

  // One step each 16 ms, as a hand and a screen would do it.
  QTimer script;
  const auto mouse = [&](QEvent::Type type, Point at, Qt::MouseButtons buttons) {
    const QPointF p = canvas->to_screen(at);
    QMouseEvent event(type, p, canvas->mapToGlobal(p), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                      buttons, {});
    QApplication::sendEvent(canvas, &event);
  };
  const auto handle = [&](HandleKind kind) {
    for (const Handle& h : handles_of(session, 0.8))
      if (h.kind == kind)
        return h.at;
    return Point{};
  };
  const auto block_handle = [&](BlockHandleKind kind) {
    for (const Handle& h : handles_of(session, 0.8))
      if (h.kind == HandleKind::Block && h.block.kind == kind)
        return h.at;
    return Point{};
  };
  Point hand;
  QObject::connect(&script, &QTimer::timeout, [&] {
    const int phase = step / 60, i = step % 60;
    ++step;
    switch (phase) {
    case 0: // the bead, all the way round
    case 1: {
      if (i == 0)
        hand = handle(HandleKind::Bead), mouse(QEvent::MouseButtonPress, hand, Qt::LeftButton);
      const Point at = Point{300, 200} + direction(radians(-90 + 5.0 * i)) * 120.0;
      mouse(QEvent::MouseMove, at, Qt::LeftButton);
      if (i == 59)
        mouse(QEvent::MouseButtonRelease, at, {});
      break;
    }
    case 2: // the stem
      if (i == 0)
        hand = handle(HandleKind::Stem), mouse(QEvent::MouseButtonPress, hand, Qt::LeftButton);
      mouse(QEvent::MouseMove, hand + Vec{0.2 * i, -0.3 * i}, Qt::LeftButton);
      if (i == 59)
        mouse(QEvent::MouseButtonRelease, hand + Vec{12, -18}, {});
      break;
    case 3: // typing
      if (i % 4 == 0)
        QTest::keyClick(window.letters_card().text_edit(), i % 8 == 0 ? Qt::Key_A : Qt::Key_Backspace);
      break;
    case 4: // spacing by the arrows
      if (auto* field = window.findChild<SpacingCard*>()->findChild<MeasureField*>())
        QTest::keyClick(field, i < 30 ? Qt::Key_Up : Qt::Key_Down);
      break;
    case 5: // zooming
      canvas->zoom_by(i < 30 ? 1.06 : 1 / 1.06, {400, 250});
      break;
    case 6: // views, undo, redo
      if (i % 6 == 0)
        canvas->set_view(static_cast<View>(i / 6 % 3));
      if (i % 5 == 0)
        session.undo();
      if (i % 5 == 2)
        session.redo();
      break;
    case 7:
      if (i == 0)
        canvas->set_view(View::Ink), release_selected(window.desk(), ReleaseAs::OnePiece, GuideAfter::Kept);
      if (i == 40)
        reopen_selected(window.desk());
      break;
    case 8: // an edge between rails
    case 9: // a peg of a net
      if (i == 0)
        window.bend_card().choose(phase == 8 ? BendKind::Rails : BendKind::Net);
      if (i == 5)
        hand = block_handle(phase == 8 ? BlockHandleKind::Depth : BlockHandleKind::Peg),
        mouse(QEvent::MouseButtonPress, hand, Qt::LeftButton);
      if (i > 5)
        mouse(QEvent::MouseMove, hand + Vec{0.1 * i, -0.3 * i}, Qt::LeftButton);
      if (i == 59)
        mouse(QEvent::MouseButtonRelease, hand + Vec{6, -18}, {});
      break;
    case 10: // another job: a name with a border and a shade
      if (i == 0)
        window.open_file(data_folder("demo") + "/marigold-transom.frelm"),
            session.select({session.document().pieces.front()->id});
      break;
    case 11: // its shade
      if (i == 5)
        hand = handle(HandleKind::Shade), mouse(QEvent::MouseButtonPress, hand, Qt::LeftButton);
      if (i > 5)
        mouse(QEvent::MouseMove, hand + Vec{0.4 * i, -0.3 * i}, Qt::LeftButton);
      if (i == 59)
        mouse(QEvent::MouseButtonRelease, hand + Vec{24, -18}, {});
      break;
    default:
      script.stop(), QApplication::exit(0);
    }
  });
  script.start(16);
  QApplication::exec();
  end = true;
  beat.join();
  const auto print = [](const char* name, std::vector<double>& w) {
    if (w.empty())
      return;
    std::sort(w.begin(), w.end());
    const auto at = [&](double share) {
      return w[std::min(w.size() - 1, static_cast<std::size_t>(share * static_cast<double>(w.size())))];
    };
    std::printf("%-20s %5zu beats: median %6.2f ms, 99 %% %6.2f ms, worst %6.2f ms\n", name, w.size(), at(0.5),
                at(0.99), w.back());
  };
  print("whole session", waits);
  const char* phases[]{
      "bead",  "bead again", "stem",    "typing", "spacing", "zoom", "views and undo", "release and reopen",
      "rails", "net",        "opening", "shade",  "end"};
  for (std::size_t i = 0; i < by_phase.size(); ++i)
    print(phases[i], by_phase[i]);
}
