// The program that test_any_hand runs: a real window worked by a hand that does anything, and looked at after every
// step. Step i depends on the seed and on i only, so that any part of a list of steps can be tried by itself.
// usage: hand_target EXAMPLE SEED STEPS [i,j,k…]    EXAMPLE: the name of a demo job, or "-" for an empty sheet
// Prints "step I: WHAT" before each and "fault: WHAT" where something is wrong; ends with 0 when all is well.
#include "app/menus/add_menu.h"
#include "app/start.h"
#include "app/window/safe_application.h"
#include "document/validity.h"

#include <QAbstractItemView>
#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QFile>
#include <QMenu>
#include <QMenuBar>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QTemporaryDir>
#include <QTest>
#include <QWheelEvent>
#include <array>
#include <atomic>
#include <csignal>
#include <cstdio>
#include <ctime>
#include <execinfo.h>
#include <pthread.h>
#include <random>
#include <thread>
#include <unistd.h>

using namespace frelm;

namespace {

#if defined(FRELM_SANITIZED) || defined(__SANITIZE_THREAD__)
constexpr double slower = 20;
#else
constexpr double slower = 1;
#endif

// Seconds of this thread on a processor: what else the machine does is not counted.
double busy_seconds() {
  timespec t{};
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
  return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
}

double resident_mb() {
  QFile status("/proc/self/statm");
  (void)status.open(QIODevice::ReadOnly);
  return status.readAll().split(' ').value(1).toDouble() * 4096 / 1e6;
}

// While a step takes longer than it may, says once where the program is: addresses for addr2line.
class Watch {
public:
  explicit Watch(double stall)
      : thread_([this, stall, window = pthread_self()](const std::stop_token& stop) {
          while (!stop.stop_requested()) {
            std::this_thread::sleep_for(std::chrono::milliseconds(100));
            clockid_t clock{};
            timespec t{};
            if (pthread_getcpuclockid(window, &clock) != 0 || clock_gettime(clock, &t) != 0)
              continue;
            const double busy = static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
            if (const double begun = begun_; begun > 0 && busy - begun > stall && begun != told_) {
              told_ = begun;
              pthread_kill(window, SIGUSR1);
            }
          }
        }) {
    std::signal(SIGUSR1, [](int) {
      std::array<void*, 60> places{};
      backtrace_symbols_fd(places.data(), backtrace(places.data(), static_cast<int>(places.size())), STDOUT_FILENO);
    });
  }
  void step_begins(double busy) { begun_ = busy; }

private:
  std::atomic<double> begun_ = 0;
  double told_ = 0;
  std::jthread thread_; // after what it reads
};

// Questions and menus that open are closed again, so that nothing waits for ever.
class Closer : public QObject {
public:
  Closer() {
    timer_.callOnTimeout(this, [] {
      if (QWidget* popup = QApplication::activePopupWidget())
        popup->close();
      else if (QWidget* modal = QApplication::activeModalWidget())
        modal->close();
    });
    timer_.start(5);
  }

private:
  QTimer timer_;
};

class Hand {
public:
  Hand(MainWindow& window, std::uint64_t seed) : window_(window), seed_(seed) {}

  void step(std::uint64_t i) {
    random_.seed(seed_ * 1'000'003 + i);
    switch (pick(20)) {
    case 0:
    case 1:
    case 2:
      say("click");
      QTest::mouseClick(&window_.canvas(), Qt::LeftButton, modifiers(), place());
      break;
    case 3:
      say("double click");
      QTest::mouseDClick(&window_.canvas(), Qt::LeftButton, modifiers(), place());
      break;
    case 4:
    case 5:
    case 6:
      drag(&window_.canvas());
      break;
    case 7:
      drag(window_.strip().view());
      break;
    case 8:
      wheel();
      break;
    case 9:
    case 10:
      key();
      break;
    case 11:
    case 12:
      trigger();
      break;
    case 13:
      number();
      break;
    case 14:
    case 15:
      press_button();
      break;
    case 16:
      choose();
      break;
    case 17:
      type();
      break;
    case 18:
      paste();
      break;
    default:
      if (pick(2) == 0) {
        say("undo");
        window_.session().undo();
      } else {
        say("wait");
        (void)QTest::qWaitFor([this] { return !window_.session().busy() && !window_.task().running(); }, 200);
      }
    }
  }

private:
  std::size_t pick(std::size_t n) { return n == 0 ? 0 : static_cast<std::size_t>(random_() % n); }
  void say(const QString& what) {
    std::printf("  %s\n", qPrintable(what.left(120)));
    std::fflush(stdout);
  }
  // Mostly somewhere on the pieces, so that something is met.
  QPoint place(QWidget* on = nullptr) {
    const Document& d = window_.session().document();
    if (on == nullptr && !d.pieces.empty() && pick(4) != 0) {
      const Result<PieceResult>& r = window_.session().seated(d.pieces[pick(d.pieces.size())]->id);
      if (r && !r->ink.empty()) {
        const Point at = lerp({r->ink.x0, r->ink.y0}, {r->ink.x1, r->ink.y1}, 0.01 * static_cast<double>(pick(101)));
        const QPoint px = window_.canvas().to_screen(at).toPoint();
        if (window_.canvas().rect().contains(px))
          return px;
      }
    }
    const QWidget* w = on != nullptr ? on : &window_.canvas();
    return {static_cast<int>(pick(static_cast<std::size_t>(std::max(1, w->width())))),
            static_cast<int>(pick(static_cast<std::size_t>(std::max(1, w->height()))))};
  }
  Qt::KeyboardModifiers modifiers() {
    const Qt::KeyboardModifiers all[]{Qt::NoModifier, Qt::NoModifier, Qt::NoModifier, Qt::ShiftModifier,
                                      Qt::ControlModifier};
    return all[pick(5)];
  }

  // Press, move, and either let go or have something come in between.
  void drag(QWidget* on) {
    QPoint at = place(on == &window_.canvas() ? nullptr : on);
    const Qt::KeyboardModifiers held = modifiers();
    const std::size_t between = pick(10);
    say(QString("drag, %1 in between").arg(between));
    QTest::mousePress(on, Qt::LeftButton, held, at);
    for (std::size_t i = 0; i < 2 + pick(5); ++i) {
      at += QPoint(static_cast<int>(pick(81)) - 40, static_cast<int>(pick(81)) - 40);
      QMouseEvent move(QEvent::MouseMove, at, on->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, held);
      QApplication::sendEvent(on, &move);
      if (i != 1)
        continue;
      switch (between) {
      case 0:
        QTest::keyClick(on, Qt::Key_Escape);
        break;
      case 1:
        window_.session().undo();
        break;
      case 2:
        QTest::keyClick(&window_, Qt::Key_Delete);
        break;
      case 3:
        trigger();
        break;
      case 4:
        key();
        break;
      case 5:
        QApplication::processEvents();
        break;
      default:
        break;
      }
    }
    QTest::mouseRelease(on, Qt::LeftButton, held, at);
  }

  void wheel() {
    say("wheel");
    QWidget* on = &window_.canvas();
    if (pick(2) == 0) {
      const auto fields = shown<MeasureField>();
      if (!fields.empty()) {
        on = fields[pick(fields.size())];
        on->setFocus();
      }
    }
    const QPoint at = place(on);
    QWheelEvent event(at, on->mapToGlobal(at), {}, {0, static_cast<int>(pick(2001)) - 1000}, Qt::NoButton, modifiers(),
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(on, &event);
  }

  void key() {
    const int keys[]{Qt::Key_Left,   Qt::Key_Right, Qt::Key_Up,     Qt::Key_Down, Qt::Key_Delete, Qt::Key_Backspace,
                     Qt::Key_Escape, Qt::Key_Tab,   Qt::Key_Return, Qt::Key_Home, Qt::Key_End,    Qt::Key_Space,
                     Qt::Key_F6,     Qt::Key_F7,    Qt::Key_F8,     Qt::Key_F9,   Qt::Key_1,      Qt::Key_2,
                     Qt::Key_3,      Qt::Key_4,     Qt::Key_A,      Qt::Key_W,    Qt::Key_Minus,  Qt::Key_Plus};
    const int k = keys[pick(std::size(keys))];
    const Qt::KeyboardModifiers held[]{Qt::NoModifier,      Qt::NoModifier,  Qt::ShiftModifier,
                                       Qt::ControlModifier, Qt::AltModifier, Qt::ControlModifier | Qt::ShiftModifier};
    const Qt::KeyboardModifiers with = held[pick(6)];
    QWidget* on =
        pick(2) == 0 && QApplication::focusWidget() != nullptr ? QApplication::focusWidget() : &window_.canvas();
    say(QString("key %1 with %2").arg(k, 0, 16).arg(int(with), 0, 16));
    QTest::keyClick(on, static_cast<Qt::Key>(k), with);
  }

  void trigger() {
    std::vector<QAction*> actions;
    for (QAction* a : window_.findChildren<QAction*>())
      if (a->menu() == nullptr && !a->isSeparator() && a->isEnabled() && !a->text().contains("Quit") &&
          !a->text().isEmpty())
        actions.push_back(a);
    if (actions.empty())
      return;
    QAction* a = actions[pick(actions.size())];
    say("command " + a->text());
    a->trigger();
  }

  template <class W> std::vector<W*> shown() {
    std::vector<W*> out;
    for (W* w : window_.findChildren<W*>())
      if (w->isVisibleTo(&window_) && w->isEnabled())
        out.push_back(w);
    return out;
  }

  void number() {
    const auto fields = shown<MeasureField>();
    if (fields.empty())
      return;
    const char* texts[]{"0",   "-1",  "1e300", "nan", "",     "abc",     "1/0",    "99999999", "12mm+3", "0.0000001",
                        "0.5", "359", "45",    "3",   "1000", "3 1/8\"", "-45.25", "inf",      "7",      "120"};
    MeasureField* f = fields[pick(fields.size())];
    const char* text = texts[pick(std::size(texts))];
    say(f->accessibleName() + " := " + text);
    f->setFocus();
    f->selectAll();
    QTest::keyClicks(f, text);
    if (pick(3) != 0)
      QTest::keyClick(f, Qt::Key_Return);
  }

  void press_button() {
    const auto buttons = shown<QAbstractButton>();
    if (buttons.empty())
      return;
    QAbstractButton* b = buttons[pick(buttons.size())];
    say("button " + b->text() + " / " + b->accessibleName());
    QTest::mouseClick(b, Qt::LeftButton);
  }

  void choose() {
    const auto boxes = shown<QComboBox>();
    const auto lists = shown<QAbstractItemView>();
    if (!boxes.empty() && pick(2) == 0) {
      QComboBox* b = boxes[pick(boxes.size())];
      say("choose in " + b->accessibleName());
      QTest::keyClick(b, pick(2) == 0 ? Qt::Key_Down : Qt::Key_Up);
    } else if (!lists.empty()) {
      QAbstractItemView* v = lists[pick(lists.size())];
      say("row in " + v->accessibleName());
      QTest::mouseClick(v->viewport(), Qt::LeftButton, modifiers(), place(v->viewport()));
    }
  }

  void type() {
    const char32_t* words[]{U"Marigold", U"A",     U"",     U"Wake\nslow", U"12345678901234567890",
                            U"ÅßЖ漢",    U"مرحبا", U" \n ", U"fffi Te",    U"\U0001F600"};
    const QString text = QString::fromUcs4(words[pick(10)]);
    say("type " + text);
    if (auto* edit = window_.letters_card().text_edit(); edit->isVisibleTo(&window_) && pick(3) != 0)
      edit->setPlainText(text);
    else
      letter_it(window_.desk(), text);
  }

  void paste() {
    auto* mime = new QMimeData;
    switch (pick(6)) {
    case 0:
      mime->setText("<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='50mm' viewBox='0 0 90 50'>"
                    "<path d='M5 5H60V40H5Z M20 12H40V30H20Z'/><circle cx='70' cy='20' r='9'/></svg>");
      break;
    case 1:
      mime->setText("<svg xmlns='http://www.w3.org/2000/svg'><polygon points='0,0 inf,5 3,3'/></svg>");
      break;
    case 2:
      mime->setData("application/x-frelm-job", "{\"format\": \"frelm-job\"");
      break;
    case 3:
      delete mime;
      mime = nullptr; // what was copied last
      break;
    default:
      mime->setText("Saltmarsh\nBoatworks");
    }
    say("paste");
    if (mime != nullptr)
      QApplication::clipboard()->setMimeData(mime);
    QTest::keyClick(&window_.canvas(), Qt::Key_V, Qt::ControlModifier);
  }

  MainWindow& window_;
  std::uint64_t seed_;
  std::mt19937_64 random_;
};

// What is wrong with the window's job, or nothing.
QString fault_of(MainWindow& window, const FaceLibrary& faces) {
  Session& session = window.session();
  const Document& d = session.document();
  if (const std::vector<Fault> bad = faults(d); !bad.empty())
    return "not valid: " + QString::fromStdString(describe(d, bad));
  const Result<Document> back = read_job(write_job(d, faces));
  if (!back)
    return "can't be opened again: " + QString::fromStdString(back.error().text());
  if (!(*back == d))
    return "opens unequal";
  if (session.dragging() && !(window.canvas().hand_down() || window.strip().view()->hand_down()))
    return "a preview that no hand holds";
  for (const PieceId id : session.selection())
    if (d.find(id) == nullptr)
      return "a selected piece that is not there";
  return {};
}

} // namespace

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  SafeApplication app(argc, argv);
  prepare_application();
  if (argc < 4)
    return 2;
  const QString example = argv[1];
  const auto seed = std::strtoull(argv[2], nullptr, 10), steps = std::strtoull(argv[3], nullptr, 10);
  std::vector<std::uint64_t> list;
  if (argc > 4)
    for (const QString& i : QString(argv[4]).split(','))
      list.push_back(i.toULongLong());
  else
    for (std::uint64_t i = 0; i < steps; ++i)
      list.push_back(i);
  QTemporaryDir dir;
  FaceLibrary faces(data_folder("faces").toStdString(), false);
  // The hand saves as well: what it works on are copies.
  const QString demo = dir.filePath("demo");
  QDir().mkpath(demo);
  for (const QString& name : QDir(data_folder("demo")).entryList(QDir::Files))
    QFile::copy(data_folder("demo") + "/" + name, demo + "/" + name);
  MainWindow window(faces, {dir.filePath("recovery"), {}, dir.filePath("settings.ini"), demo});
  QString thrown;
  QObject::connect(&app, &SafeApplication::thrown, [&](const QString& what) { thrown = what; });
  window.show();
  const Closer closer;
  if (example != "-" && !window.open_file(demo + "/" + example + ".frelm"))
    return 2;
  Hand hand(window, seed);
  const auto wrong = [](const QString& what) {
    std::printf("fault: %s\n", qPrintable(what));
    std::fflush(stdout);
    return 1;
  };
  double longest = 0, most = 100;
  const double asked = qEnvironmentVariable("FRELM_HAND_STALL").toDouble(), stall = asked > 0 ? asked : 1.0;
  Watch watch(stall * slower);
  for (const std::uint64_t i : list) {
    std::printf("step %llu:\n", static_cast<unsigned long long>(i));
    const double begun = busy_seconds();
    watch.step_begins(begun);
    hand.step(i);
    QApplication::processEvents();
    const double took = busy_seconds() - begun;
    longest = std::max(longest, took);
    if (took > 0.2)
      std::printf("  took %.2f s\n", took);
    const double now = resident_mb();
    if (now > most + 20)
      std::printf("  %.0f MB\n", most = now);
    // The hand may allow more memory itself, in the settings.
    const auto allowed = [](std::size_t bytes, std::size_t usual) {
      return bytes > usual ? static_cast<double>(bytes - usual) / (1 << 20) : 0.0;
    };
    const double more = allowed(window.session().evaluator().memory().limit(), usual_cache_bytes) +
                        allowed(window.session().history().most_bytes(), usual_history_bytes);
    if (now > 350 + more && slower == 1)
      return wrong(QString("%1 MB").arg(now));
    if (took > stall * slower)
      return wrong(QString("a stall of %1 s").arg(took));
    if (!thrown.isEmpty())
      return wrong("thrown: " + thrown);
    if (const QString fault = fault_of(window, faces); !fault.isEmpty())
      return wrong(fault);
  }
  const double mb = resident_mb();
  Session& session = window.session();
  session.abandon_drag();
  while (session.history().can_redo())
    session.redo();
  const Document last = session.document();
  std::size_t undone = 0;
  for (; session.history().can_undo(); ++undone)
    session.undo();
  const Document first = session.document();
  for (std::size_t i = 0; i < undone; ++i)
    session.redo();
  if (!(session.document() == last))
    return wrong("redo all is not what was");
  while (session.history().can_undo())
    session.undo();
  if (!(session.document() == first))
    return wrong("undo all is not what was");
  session.reset({});
  (void)QTest::qWaitFor([&] { return !session.busy(); }, 60'000);
  (void)QTest::qWaitFor([] { return resident_mb() < 100; }, 3'000); // the background lets go in its own time
  const double after = resident_mb();
  std::printf("well: %zu steps, %zu to undo, longest %.2f s, %.0f MB, %.0f after a new job\n", list.size(), undone,
              longest, mb, after);
  if (after > 120 && slower == 1 && stall <= 1) // long runs by hand
    return wrong(QString("%1 MB after a new job").arg(after));
  std::fflush(stdout);
  std::_Exit(0); // the window is not closed: that is looked at elsewhere
}
