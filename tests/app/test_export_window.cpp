// What leaves, from the real window: the export page with a choice of materials, each format, wrong names, a full disk,
// once more with one key, a job in an SVG, and the customer's sheet.
#include "app/window/export_page.h"
#include "app/window/proof_form_page.h"
#include "document/job_file.h"
#include "formats/export_json.h"
#include "formats/read_back.h"
#include "window_fixture.h"

#include <QCheckBox>
#include <QPlainTextEdit>

using namespace frelm;
using namespace frelm::test;

namespace {

// Writes go through until the disk is full.
class SmallDisk final : public Storage {
public:
  Result<std::string> read(const std::string& path) override { return disk_.read(path); }
  Result<Done> write(const std::string& path, const std::string& bytes) override {
    if (full)
      return Error{ErrorCode::Unwritable, as_it_is("no room"), as_it_is(path)};
    return disk_.write(path, bytes);
  }
  Result<Done> remove(const std::string& path) override { return disk_.remove(path); }
  std::atomic<bool> full = false;

private:
  DiskStorage disk_;
};

struct Bench : WindowFixture {
  explicit Bench(const QString& job = "tide-decal", std::shared_ptr<Storage> storage = std::make_shared<DiskStorage>())
      : WindowFixture(std::move(storage)) {
    QFile::copy(data_folder("demo") + "/" + job + ".frelm", dir.filePath(job + ".frelm"));
    window.open_file(dir.filePath(job + ".frelm"));
    settle();
  }
  ExportPage& page() {
    if (window.findChild<ExportPage*>() == nullptr) {
      window.commands().action("file.export")->trigger();
      QApplication::processEvents();
    }
    return *window.findChild<ExportPage*>();
  }
  bool gone() {
    settle();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return window.findChild<ExportPage*>() == nullptr;
  }
  QCheckBox* box(const QString& begins) {
    for (QCheckBox* b : window.findChildren<QCheckBox*>())
      if (b->isVisible() && b->text().startsWith(begins))
        return b;
    return nullptr;
  }
  void press(const QString& words) {
    QPushButton* b = button(words);
    QVERIFY2(b != nullptr, qPrintable(words));
    QTest::mouseClick(b, Qt::LeftButton);
  }
  std::string bytes(const QString& name) {
    QFile file(dir.filePath(name));
    return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
  }
};

} // namespace

class TestExportWindow : public QObject {
  Q_OBJECT

private slots:
  void materials_that_stay_are_not_in_the_file() {
    Bench f;
    ExportPage& page = f.page();
    QCheckBox* madder = f.box("Madder");
    QVERIFY(madder != nullptr && madder->isChecked() && f.box("Ink") != nullptr && f.box("Cream") != nullptr);
    QTest::mouseClick(madder, Qt::LeftButton, {}, QPoint(8, madder->height() / 2));
    QVERIFY(!madder->isChecked());
    QCOMPARE(QString::fromStdString(page.choice().paths.front()), f.dir.filePath("tide-decal.svg"));
    f.press("Export");
    QVERIFY(f.gone());
    QVERIFY2(f.window.bar().text().contains("read back and the same"), qPrintable(f.window.bar().text()));
    const auto drawing = read_svg(f.bytes("tide-decal.svg"));
    QVERIFY(drawing.ok());
    QCOMPARE(drawing->shapes.size(), std::size_t{2});
    for (const DrawnShape& s : drawing->shapes)
      QVERIFY(to_hex(s.colour) != "#9b2f45");
    QVERIFY(f.session().history().is_saved()); // nothing of the job has changed
  }

  void each_format_by_its_name_or_by_its_button_data() {
    QTest::addColumn<QString>("suffix");
    QTest::addColumn<QString>("word");
    QTest::addColumn<QString>("begins");
    QTest::newRow("svg") << "svg"
                         << "SVG"
                         << "<?xml";
    QTest::newRow("dxf") << "dxf"
                         << "DXF"
                         << "999";
    QTest::newRow("pdf") << "pdf"
                         << "PDF"
                         << "%PDF-1.5";
    QTest::newRow("eps") << "eps"
                         << "EPS"
                         << "%!PS-Adobe-3.0 EPSF-3.0";
    QTest::newRow("hpgl") << "plt"
                          << "HP-GL"
                          << "IN;";
    QTest::newRow("png") << "png"
                         << "PNG"
                         << "PNG"; // after a byte of 0x89
  }
  void each_format_by_its_name_or_by_its_button() {
    QFETCH(QString, suffix);
    QFETCH(QString, word);
    QFETCH(QString, begins);
    Bench f;
    f.page();
    f.choose("Format", word);
    if (suffix == "dxf") { // chords are for polylines only
      QVERIFY(!f.find<MeasureField>("Within")->isEnabled());
      f.choose("Lines", "Polylines (R12)");
      QVERIFY(f.find<MeasureField>("Within")->isEnabled());
      f.choose("Lines", "Curves (R2000)");
      QCheckBox* arcs = nullptr;
      for (QCheckBox* b : f.window.findChildren<QCheckBox*>())
        if (b->text() == "Curves as arcs" && b->isVisible())
          arcs = b;
      QVERIFY(arcs != nullptr && !arcs->isChecked()); // a blade's job
      arcs->click();
      QVERIFY(f.find<MeasureField>("Within")->isEnabled());
    }
    auto* field = f.find<QLineEdit>("File");
    QCOMPARE(field->text(), f.dir.filePath("tide-decal." + suffix));
    f.press("Export");
    QVERIFY(f.gone());
    QVERIFY2(f.bytes("tide-decal." + suffix).find(begins.toStdString()) <= 1,
             f.bytes("tide-decal." + suffix).substr(0, 40).c_str());
    // The name says it too, in any case; Return exports.
    f.page();
    field = f.find<QLineEdit>("File");
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, f.dir.filePath("other." + suffix.toUpper()));
    for (QToolButton* b : f.window.findChildren<QToolButton*>())
      if (b->accessibleName() == "Format: " + word)
        QVERIFY(b->isChecked());
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(f.gone());
    QCOMPARE(f.bytes("other." + suffix.toUpper()), f.bytes("tide-decal." + suffix));
  }

  void choices_reach_the_file_and_are_remembered() {
    Bench f;
    f.page();
    f.choose("Drawn as", "Lines to cut along");
    f.choose("Written for", "Only paths, in px");
    QTest::mouseClick(f.box("A file for each"), Qt::LeftButton, {}, QPoint(8, 8));
    f.press("Export");
    QVERIFY(f.gone());
    QVERIFY(f.window.bar().text().contains("3 files"));
    for (const char* name : {"tide-decal-Ink.svg", "tide-decal-Madder.svg", "tide-decal-Cream.svg"}) {
      const std::string svg = f.bytes(name);
      QVERIFY2(svg.find("<g") == std::string::npos && svg.find("viewBox") == std::string::npos &&
                   svg.find("fill=\"none\" stroke=") != std::string::npos,
               name);
    }
    // As it was left, also in a window of its own.
    const ExportChoice& again = f.page().choice();
    QVERIFY(again.split && again.options.svg.plain && again.options.svg.pixels);
    QVERIFY(again.options.svg.ink == ExportInk::Lines);
    f.window.close_page();
    QFile::remove(f.dir.filePath("tide-decal-Ink.svg"));
    QAction* once_more = f.window.commands().action("file.export-again");
    QVERIFY(once_more->isEnabled());
    QTest::keyClick(&f.window.canvas(), Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    f.settle();
    QVERIFY(!f.bytes("tide-decal-Ink.svg").empty());
    // Another job has its own.
    QFile::copy(data_folder("demo") + "/pier-tag.frelm", f.dir.filePath("pier-tag.frelm"));
    f.window.open_file(f.dir.filePath("pier-tag.frelm"));
    f.settle();
    QVERIFY(!once_more->isEnabled());
    QCOMPARE(f.page().choice().paths.front(), f.dir.filePath("pier-tag.svg").toStdString());
    QVERIFY(!f.page().choice().split);
  }

  void what_cannot_be_written_is_said_and_the_page_stays() {
    auto disk = std::make_shared<SmallDisk>();
    Bench f("tide-decal", disk);
    f.page();
    auto* field = f.find<QLineEdit>("File");
    const auto tried = [&](const QString& name) {
      field->setText(name);
      QTest::keyClick(field, Qt::Key_Return);
      f.settle();
      return f.window.bar().text();
    };
    QVERIFY(tried(f.dir.filePath("x.doc")).contains(".dxf"));
    QVERIFY(tried(f.dir.filePath("nameless")).contains(".dxf"));
    QVERIFY(tried("").contains(".dxf"));
    QVERIFY(!f.window.commands().action("file.export-again")->isEnabled());
    QVERIFY(tried("beside the job.svg").contains(f.dir.filePath("beside the job.svg")));
    QVERIFY(!f.bytes("beside the job.svg").empty());
    f.page();
    field = f.find<QLineEdit>("File");
    QVERIFY(tried(f.dir.filePath("none/such/x.svg")).contains("none/such/x.svg"));
    disk->full = true;
    QVERIFY(tried(f.dir.filePath("x.svg")).contains("no room"));
    QVERIFY(f.window.findChild<ExportPage*>() != nullptr);
    disk->full = false;
    QVERIFY(tried(f.dir.filePath("x.svg")).contains("Exported"));
    // A file that is there is told before.
    f.page();
    const auto notes = [&] {
      QStringList out;
      for (QLabel* l : f.page().findChildren<QLabel*>())
        if (l->isVisible())
          out << l->text();
      return out.join("\n");
    };
    QVERIFY(notes().contains("it will be replaced"));
    f.find<QLineEdit>("File")->setText(f.dir.filePath("y.svg"));
    QVERIFY(!notes().contains("it will be replaced"));
  }

  void nothing_chosen_goes_nowhere() {
    Bench f;
    f.page();
    for (const char* name : {"Ink", "Madder", "Cream"})
      f.box(name)->setChecked(false);
    QVERIFY(!f.button("Export")->isEnabled());
    f.box("Ink")->setChecked(true);
    QVERIFY(f.button("Export")->isEnabled());
    QVERIFY(!f.box("What the pen draws")->isEnabled()); // nothing goes to it
    f.box("What the knife cuts")->setChecked(false);
    QVERIFY(!f.button("Export")->isEnabled());
    f.box("What the knife cuts")->setChecked(true);
    QTest::keyClick(&f.page(), Qt::Key_Escape);
    QVERIFY(f.gone());
  }

  // The open findings come first.
  void findings_are_told_before_and_lead_to_the_check() {
    Bench f;
    Document small = f.document();
    small.sheet = {50, 50};
    f.session().apply("Small", small);
    f.settle();
    f.page();
    QVERIFY(f.button("Look at them") != nullptr);
    f.press("Look at them");
    QVERIFY(f.gone());
    QVERIFY(f.window.findChild<CheckPanel*>()->list()->hasFocus());
    f.session().undo();
    f.settle();
    f.page();
    QVERIFY(f.button("Look at them") == nullptr);
  }

  void a_job_in_an_svg_opens_live_again() {
    Bench f;
    const Document before = f.document();
    const QString path = f.dir.filePath("shared.svg");
    QVERIFY(f.save(path));
    f.window.open_file(f.dir.filePath("tide-decal.frelm"));
    f.window.open_file(path);
    f.settle();
    QVERIFY(f.document() == before);
    QCOMPARE(f.window.path(), path);
    // The cut file never takes its place.
    QVERIFY(f.page().choice().paths.front() != path.toStdString());
    f.find<QLineEdit>("File")->setText(path);
    f.press("Export");
    f.settle();
    QVERIFY(f.window.bar().text().contains("the job itself"));
    QVERIFY(f.bytes("shared.svg").find("<metadata>") != std::string::npos);
    f.window.close_page();
    // Changed by another program: told, and the drawing can be had.
    QByteArray changed = QByteArray::fromStdString(f.bytes("shared.svg"));
    changed.replace("</svg>", "<rect width='20' height='10'/></svg>");
    QFile file(path);
    QVERIFY(file.open(QIODevice::WriteOnly) && file.write(changed) == changed.size());
    file.close();
    f.window.open_file(path);
    f.settle();
    QVERIFY(f.window.bar().text().contains("changed by another program"));
    QVERIFY(f.document() == before);
    f.press("Take the drawing instead");
    f.settle();
    QCOMPARE(f.document().pieces.size(), std::size_t{4});
    QVERIFY(f.window.path().isEmpty());
  }

  void the_proof_follows_the_form_and_is_written() {
    Bench f;
    f.window.commands().action("file.proof")->trigger();
    auto* page = f.window.findChild<ProofFormPage*>();
    QVERIFY(page != nullptr);
    const auto picture = [&] { return page->picture()->pixmap().toImage(); };
    QVERIFY(QTest::qWaitFor([&] { return !picture().isNull(); }, 10'000));
    const QImage before = picture();
    f.find<QLineEdit>("Heading")->setText("Low Tide");
    QTest::keyClicks(f.find<QLineEdit>("Below the line to sign"), "Agreed");
    QTest::keyClicks(f.find<QPlainTextEdit>("Remarks"), "Two of each, please.");
    f.choose("Ground", "A colour");
    QVERIFY(QTest::qWaitFor([&] { return picture() != before; }, 10'000));
    f.find<QLineEdit>("File")->setText(f.dir.filePath("proof.doc"));
    f.press("Save the proof");
    f.settle();
    QVERIFY(f.window.bar().text().contains(".pdf, .png"));
    for (const char* name : {"proof.pdf", "proof.png"}) {
      if (f.window.findChild<ProofFormPage*>() == nullptr)
        f.window.commands().action("file.proof")->trigger();
      QApplication::processEvents();
      // What was typed is remembered.
      QCOMPARE(f.find<QLineEdit>("Heading")->text(), QString("Low Tide"));
      f.find<QLineEdit>("File")->setText(f.dir.filePath(name));
      f.press("Save the proof");
      QVERIFY(f.settle());
      QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
      QVERIFY2(!f.bytes(name).empty(), qPrintable(f.window.bar().text()));
    }
    QVERIFY(f.bytes("proof.pdf").starts_with("%PDF"));
    const QImage written(f.dir.filePath("proof.png"));
    QCOMPARE(written.width(), proof_picture_width);
  }

  void a_proof_of_nothing_says_so() {
    WindowFixture f;
    f.window.commands().action("file.proof")->trigger();
    auto* page = f.window.findChild<ProofFormPage*>();
    QVERIFY(QTest::qWaitFor([&] { return page->picture()->text().contains("nothing to show"); }, 10'000));
    f.window.commands().action("file.export")->trigger();
    QApplication::processEvents();
    QVERIFY(!f.button("Export")->isEnabled());
  }
};

QTEST_MAIN(TestExportWindow)
#include "test_export_window.moc"
