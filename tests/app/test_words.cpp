// Every sentence on the screen comes through the list of words that can be translated: in a made-up language, whose
// words stand in brackets and are a third longer, nothing on the screen stands without brackets, nothing is clipped,
// and every word that was asked for is one that lupdate finds in the sources.
#include "app/menus/add_menu.h"
#include "app/menus/edit_menu.h"
#include "app/menus/lettering_menu.h"
#include "app/style/words.h"
#include "app/window/page.h"
#include "document/job_file.h"
#include "document/measure.h"
#include "document/piece_name.h"
#include "geom/path_data.h"
#include "room.h"
#include "window_fixture.h"

#include <QComboBox>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QMenuBar>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTranslator>
#include <QXmlStreamReader>

using namespace frelm;
using namespace frelm::test;

namespace {

class MadeUp : public QTranslator {
public:
  QString translate(const char* context, const char* source, const char*, int) const override {
    const QString text = QString::fromUtf8(source);
    if (QByteArray(context).startsWith('Q') && QByteArray(context) != "QObject")
      return {}; // Qt's own
    asked.insert({QString::fromUtf8(context), text});
    return "⟦" + text + QString(std::max<qsizetype>(1, text.size() / 3), QChar(u'·')) + "⟧";
  }
  bool isEmpty() const override { return false; }
  mutable std::set<std::pair<QString, QString>> asked;
};

// What is not ours to translate: what the user typed, faces, numbers and units.
bool plain(QString text, const QStringList& own) {
  for (const QString& word : own)
    text.remove(word, Qt::CaseInsensitive);
  static const QRegularExpression innermost("⟦[^⟦⟧]*⟧");
  while (text.contains(innermost))
    text.remove(innermost);
  text.remove(QRegularExpression("<[^>]*>"));
  text.remove(QRegularExpression(
      "\\b(mm|in|x|y|ADA|Frelm|frelm|cm|m|ft|pt|Ctrl|Shift|Alt|Del|Return|PgUp|PgDown|F\\d+|[A-Z0-9])\\b"));
  return !text.contains(QRegularExpression("\\p{L}{2}"));
}

void collect(const QWidget& window, const QStringList& own, QStringList& out) {
  const auto see = [&](const QString& where, const QString& text) {
    if (!plain(text, own))
      out << where + ": " + text;
  };
  for (const QWidget* w : window.findChildren<QWidget*>()) {
    if (!w->isVisible())
      continue;
    const QString kind = w->metaObject()->className();
    if (const auto* shortened = qobject_cast<const ShortLabel*>(w))
      see(kind, shortened->words());
    else if (const auto* label = qobject_cast<const QLabel*>(w))
      see(kind, label->text());
    if (const auto* button = qobject_cast<const QAbstractButton*>(w))
      see(kind, button->text());
    if (const auto* field = qobject_cast<const QLineEdit*>(w))
      see(kind + " placeholder", field->placeholderText());
    if (const auto* box = qobject_cast<const QComboBox*>(w); box != nullptr && !box->isEditable())
      for (int i = 0; i < box->count(); ++i)
        see(kind + " " + box->accessibleName(), box->itemText(i));
    if (const auto* list = qobject_cast<const QAbstractItemView*>(w); list != nullptr && list->model() != nullptr)
      for (int i = 0; i < list->model()->rowCount(); ++i)
        see(kind, list->model()->index(i, 0).data(Qt::AccessibleTextRole).toString());
    if (!w->inherits("QComboBoxPrivateContainer") && qobject_cast<const QMenuBar*>(w) == nullptr) {
      see(kind + " name", w->accessibleName());
      see(kind + " description", w->accessibleDescription());
      see(kind + " tip", w->toolTip());
    }
  }
}

void collect(const CommandTable& commands, const QStringList& own, QStringList& out) {
  for (const CommandTable::Entry& e : commands.all())
    for (const QString& text : {e.words(), e.command.tip, e.why_not(), e.menu, e.action->toolTip()})
      if (!plain(text, own))
        out << e.command.id + ": " + text;
}

} // namespace

class TestWords : public QObject {
  Q_OBJECT

  MadeUp language_;

private slots:
  void initTestCase() { QCoreApplication::installTranslator(&language_); }
  void cleanupTestCase() { QCoreApplication::removeTranslator(&language_); }

  void everything_on_the_screen_can_be_translated() {
    WindowFixture f;
    QStringList own{"SemiBold",       "Saltmarsh",      "Boatworks", "Upper Creek", "Marigold", "Bebas Neue",
                    "Dancing Script", "Regular",        "Bold",      "Herring",     "Body",     "tag",
                    "Cabin",          "League Spartan", "SemiBold",  "703"};
    for (const FaceEntry& e : f.faces.entries())
      own << QString::fromStdString(e.name.family) << QString::fromStdString(e.name.style);
    QStringList bare, clipped;
    const auto look = [&] {
      QVERIFY(f.settle());
      collect(f.window, own, bare);
      QList<const QWidget*> over{&f.window.bar()};
      for (const Page* page : f.window.findChildren<Page*>())
        over << page;
      QStringList found;
      (void)QTest::qWaitFor([&] { return (found = what_does_not_fit(f.window, over)).isEmpty(); }, 700);
      clipped << found;
    };
    look();
    for (const char* job : {"saltmarsh-badge", "herring-tag", "creek-plaque"}) {
      QVERIFY(f.window.open_file(data_folder("demo") + "/" + job + ".frelm"));
      for (const auto& p : f.document().pieces)
        if (job == std::string("creek-plaque") && p->lettering() != nullptr)
          own << QString::fromStdString(display_name(*p, Unit::Millimetre));
      std::vector<PieceId> ids;
      for (const auto& p : f.document().pieces)
        ids.push_back(p->id);
      for (const PieceId id : ids) {
        f.session().select({id});
        look();
        collect(f.window.commands(), own, bare);
        for (const char* card : {"1", "3", "4", "2"})
          if (QAction* a = f.window.commands().action(QString("lettering.card.") + card); a->isEnabled()) {
            a->trigger();
            look();
          }
      }
    }
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    const PieceId first = f.document().pieces.front()->id;
    f.window.commands().action("edit.select-all")->trigger(), look();
    f.session().select({first});
    for (const ToolKind tool : {ToolKind::Nodes, ToolKind::Guide, ToolKind::Letters, ToolKind::Select})
      f.window.canvas().set_tool(tool), look();
    for (const char* page : {"edit.settings", "arrange.materials", "help.keys", "help.find"}) {
      f.window.commands().action(page)->trigger(), look();
      f.window.close_page();
    }
    for (const auto& p : f.document().pieces)
      if (p->lettering() != nullptr) {
        f.session().select({p->id});
        break;
      }
    for (const BendKind kind : {BendKind::Straight, BendKind::Arc, BendKind::Rails, BendKind::Net})
      f.window.bend_card().choose(kind), f.window.open_card(&f.window.bend_card()), look();
    delete_selected(f.window.desk()), look();
    // What the core refuses, with its place and what it takes.
    for (const Error& error : {parse_measure("3 x", MeasureKind::Length, Unit::Millimetre).error(),
                               parse_outline("M 0 0 L 3", EndsMeet::StaysOpen).error(),
                               f.faces.face({"Saltmarsh", "Bold"}).error(), read_job("{").error()})
      if (!plain(words_of(error), own))
        bare << words_of(error);
    bare.removeDuplicates(), clipped.removeDuplicates();
    QVERIFY2(bare.isEmpty(), qPrintable("\n" + bare.join("\n")));
    QVERIFY2(clipped.isEmpty(), qPrintable("\n" + clipped.join("\n")));
  }

  // The list is what Qt's own tool finds: contexts and words.
  void every_word_asked_for_is_in_the_list() {
    QTemporaryDir dir;
    QProcess list;
    const QString tool = QStandardPaths::findExecutable("lupdate", {"/usr/lib/qt6/bin"});
    QVERIFY2(!tool.isEmpty(), "lupdate is missing; install qt6-l10n-tools");
    list.start(tool, {"-silent", "-tr-function-alias", "QT_TRANSLATE_NOOP+=FRELM_WORDS", "-extensions", "cpp,h", "-I",
                      FRELM_SOURCE_DIR "/src", FRELM_SOURCE_DIR "/src", "-ts", dir.filePath("words.ts")});
    QVERIFY(list.waitForFinished(60'000) && list.exitCode() == 0);
    QFile file(dir.filePath("words.ts"));
    QVERIFY(file.open(QIODevice::ReadOnly));
    std::set<std::pair<QString, QString>> known;
    QXmlStreamReader xml(&file);
    QString context;
    while (!xml.atEnd()) {
      if (xml.readNext() != QXmlStreamReader::StartElement)
        continue;
      if (xml.name() == QStringView(u"name"))
        context = xml.readElementText();
      else if (xml.name() == QStringView(u"source"))
        known.insert({context, xml.readElementText()});
    }
    QVERIFY(known.size() > 900);
    QStringList lost;
    for (const auto& asked : language_.asked)
      if (!known.contains(asked))
        lost << asked.first + ": " + asked.second;
    QVERIFY(language_.asked.size() > 500);
    QVERIFY2(lost.isEmpty(), qPrintable("\n" + lost.join("\n")));
  }

  // Parts stand where the other language wants them, whatever they hold.
  void parts_of_what_the_core_says() {
    QCOMPARE(english(say(Words("%2 before %1"), std::string("one"), std::string("100 %2"))),
             std::string("100 %2 before one"));
    QCOMPARE(english(say(Words("%1 under %2"), say(Words("%1 and %2"), say(Words("Arch")), say(Words("Wave"))),
                         say(Words("Dip")))),
             std::string("Arch and Wave under Dip"));
    QCOMPARE(english(say(Words("no part %3"), std::string("a"))), std::string("no part "));
  }
};

QTEST_MAIN(TestWords)
#include "test_words.moc"
