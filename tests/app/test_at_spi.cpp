// What a screen reader meets: the program itself under a virtual screen, walked and worked through the accessibility
// bus (AT-SPI 2, by its own client library; at_spi_client.py). The rules are those of WCAG 2.1, success criterion
// 4.1.2 (name, role, value), from memory: what can be reached has a name and a role that is told.
#include "document/job_file.h"
#include "support/fixtures.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

// The program with a reader beside it.
class Reader {
public:
  explicit Reader(const QStringList& arguments) {
    QProcessEnvironment env = QProcessEnvironment::systemEnvironment();
    env.insert("DISPLAY", ":" + display());
    env.insert("QT_QPA_PLATFORM", "xcb");
    env.insert("QT_LINUX_ACCESSIBILITY_ALWAYS_ON", "1");
    for (const char* folder : {"HOME", "XDG_RUNTIME_DIR", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"})
      env.insert(folder, home_.path());
    process_.setProcessEnvironment(env);
    process_.setStandardErrorFile(QProcess::nullDevice());
    process_.start("dbus-run-session", QStringList{"--", "/usr/bin/python3",
                                                   FRELM_SOURCE_DIR "/tests/app/at_spi_client.py", FRELM_PROGRAM} +
                                           arguments);
  }
  ~Reader() {
    process_.write("{\"do\": \"end\"}\n");
    process_.closeWriteChannel();
    if (!process_.waitForFinished(20'000))
      process_.kill();
    process_.waitForFinished();
    screen_.terminate();
    screen_.waitForFinished();
  }

  // What kept it from starting; nothing: it did.
  QString started() { return answer()["error"].toString(); }
  QJsonObject ask(const QJsonObject& what) {
    process_.write(QJsonDocument(what).toJson(QJsonDocument::Compact) + '\n');
    return answer();
  }
  QString act(const QString& role, const QString& name) {
    return ask({{"do", "act"}, {"role", role}, {"name", name}})["error"].toString();
  }
  QString write(const QString& role, const QString& name, const QString& text) {
    return ask({{"do", "write"}, {"role", role}, {"name", name}, {"text", text}})["error"].toString();
  }
  QJsonArray tree() { return ask({{"do", "tree"}})["tree"].toArray(); }

private:
  // Starts the virtual screen; it takes a number that is free and says so once it listens. It is told not to start anew
  // when its last client leaves: the bus looks in for a moment, and who comes just then finds no screen.
  QString display() {
    screen_.setStandardErrorFile(QProcess::nullDevice());
    screen_.start("Xvfb", {"-displayfd", "1", "-screen", "0", "1280x800x24", "-nolisten", "tcp", "-noreset"});
    while (!screen_.canReadLine() && screen_.waitForReadyRead())
      ;
    return screen_.readLine().trimmed();
  }
  QJsonObject answer() {
    constexpr int patience_ms = 60'000;
    QElapsedTimer waited;
    waited.start();
    while (waited.elapsed() < patience_ms) {
      while (process_.canReadLine())
        if (const QByteArray line = process_.readLine(); line.startsWith('{')) // services of the bus talk as well
          return QJsonDocument::fromJson(line).object();
      if (!process_.waitForReadyRead(patience_ms - static_cast<int>(waited.elapsed())))
        break;
    }
    return {{"error", "no answer"}};
  }

  QTemporaryDir home_;
  QProcess screen_;
  QProcess process_;
};

// What is wrong with what shows, a line each.
QStringList faults_of(const QJsonArray& tree) {
  QStringList out;
  QStringList above(100); // by depth, to say where
  for (const QJsonValue& value : tree) {
    const QJsonObject n = value.toObject();
    const QString role = n["role"].toString(), name = n["name"].toString();
    const qsizetype depth = std::min<qsizetype>(n["depth"].toInt(), above.size() - 1);
    above[depth] = name.isEmpty() ? role : name;
    if (role == "scroll bar")
      continue; // of what it scrolls
    const bool reached = n["focusable"].toBool() || !n["actions"].toArray().isEmpty();
    if (!reached)
      continue;
    const QString where = QStringList(above.mid(0, depth)).join(" › ") + ": " + role;
    if (name.trimmed().isEmpty())
      out << where + " without a name";
    if (role == "unknown" || role == "invalid" || role == "unspecified")
      out << where + " '" + name + "' without a role";
  }
  return out;
}
int count(const QJsonArray& tree, const QString& role) {
  return static_cast<int>(std::count_if(tree.begin(), tree.end(),
                                        [&](const QJsonValue& v) { return v.toObject()["role"].toString() == role; }));
}
bool shows(const QJsonArray& tree, const QString& role, const QString& name) {
  return std::any_of(tree.begin(), tree.end(), [&](const QJsonValue& v) {
    return v.toObject()["role"].toString() == role && v.toObject()["name"].toString() == name;
  });
}

} // namespace

class TestAtSpi : public QObject {
  Q_OBJECT

private slots:
  void each_view_has_names_and_roles_data() {
    QTest::addColumn<bool>("badge");        // a job is open
    QTest::addColumn<QStringList>("steps"); // role, name, role, name…
    QTest::addColumn<QString>("shown");     // role:name that the view has
    using S = QStringList;
    QTest::newRow("start") << false << S{} << "push button:Badge";
    QTest::newRow("job") << true << S{} << "image:Marigold";
    QTest::newRow("letters") << true << S{"image", "Marigold", "push button", "Letters"} << "text:Text";
    QTest::newRow("bend") << true << S{"image", "Marigold"} << "radio button:Bend: Arc";
    QTest::newRow("spacing") << true << S{"image", "Marigold", "push button", "Spacing"}
                             << "radio button:Spacing: Spread";
    QTest::newRow("finish") << true << S{"image", "Marigold", "push button", "Finish"} << "check box:Weld on";
    QTest::newRow("menu of a step") << true << S{"image",  "Marigold",    "push button",
                                                 "Finish", "push button", "Weld: move or remove"}
                                    << "menu item:Remove";
    QTest::newRow("guide") << true << S{"image", "Circle r 120"} << "text:Words to ride on this guide";
    QTest::newRow("nodes") << true << S{"image", "Circle r 120", "radio button", "Nodes"} << "canvas:Sheet";
    QTest::newRow("measure") << true << S{"radio button", "Measure"} << "label:Measure";
    QTest::newRow("knife") << true << S{"radio button", "View: Knife"} << "radio button:View: Knife";
    QTest::newRow("knife's cards") << true << S{"radio button", "View: Knife"} << "push button:Send all";
    QTest::newRow("log of cuts") << true << S{"radio button", "View: Knife", "push button", "Log of cuts"}
                                 << "push button:Back to the sheet";
    QTest::newRow("names") << true << S{"radio button", "View: Names"} << "push button:Paste";
    QTest::newRow("settings") << true << S{"menu item", "Edit", "menu item", "Settings"}
                              << "push button:Back to the sheet";
    QTest::newRow("keys") << true << S{"menu item", "Help", "menu item", "Keys and handles"}
                          << "push button:Back to the sheet";
    QTest::newRow("help") << true << S{"menu item", "Help", "menu item", "Help pages"}
                          << "push button:Back to the sheet";
    QTest::newRow("materials") << true << S{"menu item", "Arrange", "menu item", "Materials…"}
                               << "push button:Back to the sheet";
    QTest::newRow("steps") << true << S{"menu item", "Edit", "menu item", "Steps and versions…"}
                           << "push button:Back to the sheet";
    QTest::newRow("export") << true << S{"menu item", "File", "menu item", "Export…"}
                            << "push button:Back to the sheet";
    QTest::newRow("proof") << true << S{"menu item", "File", "menu item", "Proof for the customer…"}
                           << "push button:Back to the sheet";
    QTest::newRow("parts") << true << S{"check box", "Parts"} << "list:Parts";
    QTest::newRow("copies") << true << S{"image", "Marigold", "menu item", "Arrange", "menu item", "Copies…"}
                            << "push button:Make copies";
  }
  void each_view_has_names_and_roles() {
    QFETCH(bool, badge);
    QFETCH(QStringList, steps);
    QFETCH(QString, shown);
    Reader reader(badge ? QStringList{FRELM_SOURCE_DIR "/assets/demo/saltmarsh-badge.frelm"} : QStringList{});
    const QString missing = reader.started();
    QVERIFY2(missing.isEmpty(), qPrintable(missing));
    for (qsizetype i = 0; i + 1 < steps.size(); i += 2) {
      const QString error = reader.act(steps[i], steps[i + 1]);
      QVERIFY2(error.isEmpty(), qPrintable(error));
    }
    const QString role = shown.section(':', 0, 0), name = shown.section(':', 1);
    QJsonArray tree;
    QVERIFY2(QTest::qWaitFor([&] { return shows(tree = reader.tree(), role, name); }, 10'000), qPrintable(shown));
    const QStringList bad = faults_of(tree);
    QVERIFY2(bad.isEmpty(), qPrintable(bad.join('\n')));
    QVERIFY(count(tree, "menu item") >= 8);
    if (badge && shows(tree, "canvas", "Sheet")) { // three letterings with their letters, a circle
      QVERIFY(count(tree, "image") >= 4);
      QVERIFY(shows(tree, "label", "M"));
    }
  }

  // A badge from the start card to the saved job, by actions and texts alone.
  void the_badge_job() {
    const QTemporaryDir dir;
    const QString path = dir.filePath("badge.frelm");
    QFile file(path);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(write_job({}, bundled_faces())));
    file.close();
    Reader reader({path});
    const QString missing = reader.started();
    QVERIFY2(missing.isEmpty(), qPrintable(missing));
    const auto done = [](const QString& error) {
      if (!error.isEmpty())
        qWarning("%s", qPrintable(error));
      return error.isEmpty();
    };
    QVERIFY(done(reader.act("push button", "Badge")));
    QVERIFY(done(reader.act("image", "UPPER TEXT")));
    QVERIFY(done(reader.write("text", "Text", "Saltmarsh")));
    QVERIFY(done(reader.act("check box", "Keep joined")));
    QVERIFY(done(reader.act("image", "LOWER TEXT")));
    QVERIFY(done(reader.write("text", "Text", "Boatworks")));
    QVERIFY(done(reader.act("push button", "Release to outlines")));
    QVERIFY(done(reader.act("menu item", "File")));
    QVERIFY(done(reader.act("menu item", "Save")));
    Document saved;
    QVERIFY(QTest::qWaitFor(
        [&] {
          QFile now(path);
          (void)now.open(QIODevice::ReadOnly);
          if (const Result<Document> read = read_job(now.readAll().toStdString()))
            saved = *read;
          return !saved.pieces.empty();
        },
        20'000));
    int letterings = 0, outlines = 0;
    for (const auto& p : saved.pieces) {
      outlines += p->outline() != nullptr;
      if (const Lettering* l = p->lettering()) {
        ++letterings;
        QCOMPARE(plain_text(l->recipe.letters()->text), U"Saltmarsh");
        QCOMPARE(l->recipe.spacing.mode, SpacingMode::KeepJoined);
      }
    }
    QCOMPARE(letterings, 1);
    QVERIFY(outlines >= 1);
  }
};

QTEST_GUILESS_MAIN(TestAtSpi)
#include "test_at_spi.moc"
