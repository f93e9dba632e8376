// The architecture as a test: no Qt outside src/app, and each folder includes only folders above it.
#include <QDirIterator>
#include <QFile>
#include <QMap>
#include <QRegularExpression>
#include <QTest>

class TestLayering : public QObject {
  Q_OBJECT

private slots:
  void folders_include_only_what_is_above_them() {
    const QMap<QString, QStringList> allowed{
        {"geom", {"geom"}},
        {"type", {"geom", "type"}},
        {"lettering", {"geom", "type", "lettering"}},
        {"document", {"geom", "type", "lettering", "document"}},
        {"cutting", {"geom", "type", "lettering", "document", "cutting"}},
        {"pages", {"pages"}},
        {"formats", {"geom", "type", "lettering", "document", "cutting", "pages", "formats"}},
        {"send", {"geom", "type", "lettering", "document", "cutting", "formats", "send"}},
        {"cutter", {"cutter"}},
        {"cli", {"geom", "type", "lettering", "document", "cutting", "formats", "send", "cli"}},
        {"app", {"geom", "type", "lettering", "document", "cutting", "formats", "send", "app"}},
    };
    const QRegularExpression include("^#include ([<\"])([^>\"]+)");
    int files = 0;
    QDirIterator it(FRELM_SOURCE_DIR "/src", {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    while (it.hasNext()) {
      QFile file(it.next());
      QVERIFY(file.open(QIODevice::ReadOnly));
      ++files;
      const QString folder = QString(file.fileName()).mid(QString(FRELM_SOURCE_DIR "/src/").size()).section('/', 0, 0);
      QVERIFY2(allowed.contains(folder), qPrintable(file.fileName()));
      for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
        const auto match = include.match(line);
        if (!match.hasMatch())
          continue;
        const QString what = match.captured(2);
        const QString where = file.fileName() + ": " + line;
        if (match.captured(1) == "<")
          QVERIFY2(folder == "app" || !what.startsWith('Q'), qPrintable(where));
        else
          QVERIFY2(allowed[folder].contains(what.section('/', 0, 0)), qPrintable(where));
      }
    }
    QVERIFY(files > 60);
  }

  // The same inside the window.
  void folders_of_the_window_too() {
    const QMap<QString, QStringList> allowed{
        {"style", {}},
        {"commands", {"style", "session"}},
        {"session", {"style"}},
        {"canvas", {"style", "session"}},
        {"pieces", {"style", "session", "commands"}},
        {"check", {"style", "session"}},
        {"cards", {"style", "commands", "session", "canvas"}},
        {"strip", {"style", "session", "canvas"}},
        {"menus", {"style", "commands", "session", "canvas", "cards", "strip", "check"}},
        {"window", {"style", "commands", "session", "canvas", "pieces", "cards", "strip", "check", "menus"}},
    };
    const QRegularExpression include("#include \"app/(\\w+)/");
    int seen = 0;
    for (auto folder = allowed.begin(); folder != allowed.end(); ++folder) {
      QDirIterator it(FRELM_SOURCE_DIR "/src/app/" + folder.key(), {"*.h", "*.cpp"}, QDir::Files);
      while (it.hasNext()) {
        QFile file(it.next());
        QVERIFY(file.open(QIODevice::ReadOnly));
        for (auto found = include.globalMatch(file.readAll()); found.hasNext(); ++seen) {
          const QString of = found.next().captured(1);
          QVERIFY2(of == folder.key() || folder.value().contains(of), qPrintable(file.fileName() + ": " + of));
        }
      }
    }
    QVERIFY(seen > 100);
    QCOMPARE(QDir(FRELM_SOURCE_DIR "/src/app").entryList(QDir::Dirs | QDir::NoDotAndDotDot).size(), allowed.size());
  }

  // Two types of one name in one program: the linker takes the members that the compiler made for either of them, and
  // what is released is the wrong thing.
  void a_name_is_one_type() {
    const QRegularExpression type("^(?:struct|class|union|enum(?: class| struct)?) ([\\w:]+)\\b[^;()=]*\\{");
    QMap<QString, QString> places;
    QDirIterator it(FRELM_SOURCE_DIR "/src", {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    while (it.hasNext()) {
      QFile file(it.next());
      QVERIFY(file.open(QIODevice::ReadOnly));
      bool of_this_file_only = false;
      QString space;
      for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
        if (line == "namespace {")
          of_this_file_only = true;
        else if (line == "} // namespace")
          of_this_file_only = false;
        else if (line.startsWith("namespace "))
          space = line.section(' ', 1, 1);
        const auto match = type.match(line);
        if (of_this_file_only || !match.hasMatch())
          continue;
        const QString name = space + "::" + match.captured(1);
        QVERIFY2(!places.contains(name), qPrintable(name + ": " + places.value(name) + " and " + file.fileName()));
        places[name] = file.fileName();
      }
    }
    QVERIFY(places.size() > 200);
  }

  void no_path_of_a_machine_is_in_the_sources() {
    for (const char* folder : {"/src", "/tests", "/tools", "/docs", "/bench"}) {
      QDirIterator it(QString(FRELM_SOURCE_DIR) + folder, {"*.h", "*.cpp", "*.md", "*.txt"}, QDir::Files,
                      QDirIterator::Subdirectories);
      while (it.hasNext()) {
        QFile file(it.next());
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray text = file.readAll();
        for (const char* root : {"/ho"
                                 "me/",
                                 "/wo"
                                 "rk/",
                                 "/ro"
                                 "ot/"})
          QVERIFY2(!text.contains(root), qPrintable(file.fileName()));
      }
    }
  }
};

QTEST_APPLESS_MAIN(TestLayering)
#include "test_layering.moc"
