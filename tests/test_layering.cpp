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
        {"formats", {"geom", "type", "lettering", "document", "formats"}},
        {"cli", {"geom", "type", "lettering", "document", "cutting", "formats", "cli"}},
        {"app", {"geom", "type", "lettering", "document", "cutting", "formats", "app"}},
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
