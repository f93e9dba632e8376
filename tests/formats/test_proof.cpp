// The customer's sheet: nothing but what was typed and what was asked for, all of it on the paper whatever is typed, at
// the sizes it says; what is remembered of forms and exports.
#include "document/job_file.h"
#include "formats/export_json.h"
#include "formats/text_lines.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QFile>
#include <QImage>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

CutSheet work_of(const char* path, double scale = 1) {
  const Outline outline = parse_outline(path)->transformed(Affine::scaling(scale, scale));
  return {{0, 0, 1000, 1000}, {{1, "a", {10, 20, 30}, Destination::Knife, outline}}};
}

DrawnPage page_of(const CutSheet& work, const ProofForm& form, const std::vector<Material>& materials = {},
                  Unit unit = Unit::Millimetre) {
  return *proof_page(work, materials, unit, form, bundled_faces());
}

Box all_of(const DrawnPage& page, std::size_t from = 1) { // without the paper
  Box box;
  for (std::size_t i = from; i < page.items.size(); ++i)
    box.add(page.items[i].outline.bounds().grown(page.items[i].line / 2));
  return box;
}

// Is there an item that is these words, somewhere?
bool says(const DrawnPage& page, const std::string& words, double caps) {
  TextLines text(bundled_faces());
  const Outline wanted = text.line(words, caps);
  for (const PageItem& item : page.items)
    if (item.outline.contours.size() == wanted.contours.size() &&
        std::abs(item.outline.area() - wanted.area()) < 1e-6 * std::abs(wanted.area()) &&
        std::abs(item.outline.length() - wanted.length()) < 1e-6 * wanted.length())
      return true;
  return false;
}

constexpr const char* wide = "M0 0H300V100H0Z";
constexpr const char* tall = "M0 0H100V300H0Z";

} // namespace

class TestProof : public QObject {
  Q_OBJECT

private slots:
  // ISO 216; ANSI/ASME Y14.1.
  void papers_lie_as_the_work_does() {
    const std::pair<Paper, QSizeF> papers[]{{Paper::A4, {210, 297}}, {Paper::Letter, {8.5 * 25.4, 11 * 25.4}}};
    for (const auto& [paper, size] : papers) {
      ProofForm form;
      form.paper = paper;
      const Box upright = page_of(work_of(tall), form).frame, lying = page_of(work_of(wide), form).frame;
      QVERIFY(std::abs(upright.width() - size.width()) < 1e-9 && std::abs(upright.height() - size.height()) < 1e-9);
      QVERIFY(std::abs(lying.width() - size.height()) < 1e-9 && std::abs(lying.height() - size.width()) < 1e-9);
    }
  }

  void without_words_there_are_none() {
    ProofForm form;
    form.sizes = form.materials = false;
    const DrawnPage page = page_of(work_of(wide), form);
    QCOMPARE(page.items.size(), std::size_t{2}); // the paper and the work
    const Box box = page.items[1].outline.bounds();
    QVERIFY(std::abs(box.width() / box.height() - 3) < 1e-9);
  }

  void what_is_typed_stands_there() {
    ProofForm form;
    form.title = "Low Tide", form.addressee = "Saltmarsh Boatworks", form.date = "1 May";
    form.remarks = "Two of each.", form.sign = "Agreed";
    const DrawnPage page = page_of(work_of(wide), form, {{"Ink", {10, 20, 30}}});
    QVERIFY(says(page, "Low Tide", 5) && says(page, "Saltmarsh Boatworks", 2.6) && says(page, "1 May", 2.6));
    QVERIFY(says(page, "Two of each.", 2.6) && says(page, "Agreed", 2.2) && says(page, "Ink", 2.2));
    QVERIFY(says(page, "300 × 100 mm", 2.2));
    QVERIFY(!says(page, "Low Tides", 5));
  }

  void sizes_are_the_works_own_data() {
    QTest::addColumn<double>("scale");
    QTest::addColumn<bool>("inches");
    QTest::addColumn<QString>("across");
    QTest::addColumn<QString>("down");
    QTest::newRow("small") << 0.002 << false << "0.6 mm"
                           << "0.2 mm";
    QTest::newRow("as-it-is") << 1.0 << false << "300 mm"
                              << "100 mm";
    QTest::newRow("odd") << 1.23456 << false << "370.4 mm"
                         << "123.5 mm";
    QTest::newRow("nine-metres") << 30.0 << false << "9000 mm"
                                 << "3000 mm";
    QTest::newRow("inches") << 1.27 << true << "15 in"
                            << "5 in";
  }
  void sizes_are_the_works_own() {
    QFETCH(double, scale);
    QFETCH(bool, inches);
    QFETCH(QString, across);
    QFETCH(QString, down);
    ProofForm form;
    form.materials = false;
    const DrawnPage page = page_of(work_of(wide, scale), form, {}, inches ? Unit::Inch : Unit::Millimetre);
    QVERIFY(says(page, across.toStdString(), 2.2) && says(page, down.toStdString(), 2.2));
    // The lines reach from edge to edge of the work as it is drawn.
    const Box work = page.items[1].outline.bounds();
    const auto has_line = [&](double length, bool level) {
      for (const PageItem& item : page.items)
        if (item.line > 0) {
          const Box b = item.outline.bounds();
          if (std::abs((level ? b.width() : b.height()) - (length + 3)) < 1e-6) // 1.5 mm beyond each end
            return true;
        }
      return false;
    };
    QVERIFY(has_line(work.width(), true) && has_line(work.height(), false));
    QVERIFY(work.width() <= 2 * 300 * scale + 1e-9); // never more than twice its size
  }

  // The absurd stays on the paper, and off the work.
  void whatever_is_typed_stays_on_the_paper() {
    auto random = random_source(1);
    std::vector<Material> materials;
    CutSheet work = work_of(wide);
    for (int i = 0; i < 40; ++i) {
      const Colour c{static_cast<std::uint8_t>(i), 90, 90};
      materials.push_back({std::string(60, 'W'), c});
      work.pieces.push_back({1, "", c, Destination::Knife, *parse_outline("M1 1H2V2Z")});
    }
    const std::string words[]{
        "",
        "a",
        std::string(200, 'W'),
        "one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen "
        "sixteen seventeen eighteen nineteen twenty",
        std::string(2000, 'm'),
        std::string(500, '\n') + "x",
        "\xD9\x86\xD9\x88\xD8\xB1 \xE2\x82\xAC \xF0\x9F\x9A\xA4 \x01\x02 \xFF\xFE",
        std::string(300, ' ')};
    const auto any = [&] { return words[random() % std::size(words)]; };
    for (int i = 0; i < 60; ++i) {
      ProofForm form;
      form.title = any(), form.addressee = any(), form.date = any(), form.remarks = any(), form.sign = any();
      form.paper = random() % 2 == 0 ? Paper::A4 : Paper::Letter;
      form.sizes = random() % 2 == 0, form.materials = random() % 2 == 0;
      if (random() % 2 == 0)
        form.ground = Colour{1, 2, 3};
      CutSheet shown = work;
      if (random() % 2 == 0)
        shown.pieces.front() = work_of(tall).pieces.front();
      const DrawnPage page = page_of(shown, form, materials);
      const Box box = all_of(page);
      QVERIFY2(box.x0 >= 0 && box.y0 >= 0 && box.x1 <= page.frame.x1 && box.y1 <= page.frame.y1,
               qPrintable(QString("%1: %2 %3 %4 %5").arg(i).arg(box.x0).arg(box.y0).arg(box.x1).arg(box.y1)));
    }
  }

  void lines_are_broken_where_they_must_be() {
    TextLines text(bundled_faces());
    auto random = random_source(2);
    for (int i = 0; i < 100; ++i) {
      std::string words;
      for (auto k = 1 + random() % 40; k > 0; --k)
        words +=
            std::string(1 + random() % 12, static_cast<char>('a' + random() % 26)) + (random() % 9 == 0 ? "\n" : " ");
      words.pop_back();
      const double width = uniform(random, 8, 60);
      const std::vector<std::string> lines = text.wrapped(words, 2.6, width, 1000);
      std::string joined, plain = words;
      for (const std::string& line : lines) {
        QVERIFY2(text.width(line, 2.6) <= width + 1e-9, line.c_str());
        joined += line;
      }
      std::erase_if(joined, [](char c) { return c == ' '; });
      std::erase_if(plain, [](char c) { return c == ' ' || c == '\n'; });
      QCOMPARE(joined, plain);
      const std::vector<std::string> few = text.wrapped(words, 2.6, width, 2);
      QVERIFY(few.size() <= 2);
      if (lines.size() > 2)
        QVERIFY(few.back().ends_with("…"));
    }
    QVERIFY(text.wrapped("", 2.6, 10, 5).empty());
    QCOMPARE(text.fitted("short", 2.6, 100), std::string("short"));
    QVERIFY(text.line("   ", 5).empty());
  }

  void a_proof_is_a_file_of_its_own() {
    QFile file(FRELM_SOURCE_DIR "/assets/demo/tide-decal.frelm");
    QVERIFY(file.open(QIODevice::ReadOnly));
    const Document document = *read_job(file.readAll().toStdString());
    const DocumentEvaluator evaluator(bundled_faces());
    ProofForm form;
    form.title = "Low Tide";
    const auto pdf = write_proof(document, evaluator, form, "x.PDF"),
               png = write_proof(document, evaluator, form, "x.png", {}, 900);
    QVERIFY(pdf.ok() && pdf->starts_with("%PDF"));
    QImage image;
    QVERIFY(png.ok() && image.loadFromData(QByteArray::fromStdString(*png)));
    QCOMPARE(image.width(), 900);
    for (const char* name : {"x.svg", "x", "x.doc", ""})
      QVERIFY(!write_proof(document, evaluator, form, name).ok());
    QVERIFY(!write_proof({}, evaluator, form, "x.pdf").ok());
  }

  void choices_are_remembered_as_they_were() {
    auto random = random_source(3);
    const auto coin = [&] { return random() % 2 == 0; };
    for (int i = 0; i < 200; ++i) {
      ExportChoice c;
      c.paths = {"/a b/\xC3\xA6\"\\.svg"};
      c.split = coin(), c.what.knife = coin(), c.what.pen = coin();
      for (auto k = random() % 4; k > 0; --k)
        c.what.left_out.push_back({static_cast<std::uint8_t>(random()), 7, 9});
      const auto ink = [&] { return coin() ? ExportInk::Areas : ExportInk::Lines; };
      c.options.svg = {ink(), coin(), coin(), coin()};
      c.options.dxf = {coin() ? DxfVersion::R12 : DxfVersion::R2000, uniform(random, 0.001, 1),
                       coin() ? Unit::Inch : Unit::Millimetre, coin()};
      c.options.hpgl = {uniform(random, 0.001, 1), coin(), coin(), coin(), coin(), coin(), coin()};
      c.options.page = {ink(), coin(), coin() ? "Blade" : ""};
      c.options.picture = {static_cast<int>(1 + random() % 9000), ink(), std::nullopt};
      if (coin())
        c.options.picture.ground = Colour{1, 2, static_cast<std::uint8_t>(random())};
      const std::string text = write_choice(c);
      const ExportChoice back = read_choice(text);
      QCOMPARE(write_choice(back), text);
      QVERIFY(back.paths == c.paths && back.what.left_out == c.what.left_out && back.split == c.split);
      QVERIFY(back.options.hpgl.back_home == c.options.hpgl.back_home && back.options.page.spot == c.options.page.spot);
      QVERIFY(back.options.picture.ground == c.options.picture.ground);
      QVERIFY(back.options.dxf.unit == c.options.dxf.unit && back.options.svg.pixels == c.options.svg.pixels);
      ProofForm form{"a", "b", "c", "d\ne", "f", coin() ? Paper::A4 : Paper::Letter, coin(), coin(), std::nullopt};
      if (coin())
        form.ground = Colour{3, 2, 1};
      QVERIFY(read_proof_form(write_proof_form(form)) == form);
    }
  }

  void nonsense_is_the_usual() {
    for (const char* text :
         {"", "{", "[]", "7", "null", R"({"svg": 5, "paths": "x", "leftOut": [1, "#12"], "dxf": []})",
          R"({"svg": {"ink": 99}, "dxf": {"version": -4, "flatten": "a"}, "picture": {"width": 1e99}})"}) {
      const ExportChoice c = read_choice(text);
      QVERIFY(c.paths.empty() && c.what.left_out.empty());
      QVERIFY(c.options.svg.ink == ExportInk::Areas || c.options.svg.ink == ExportInk::Lines);
      QVERIFY(c.options.picture.width >= 1 && c.options.picture.width <= most_picture_width);
      QVERIFY(c.options.dxf.flatten > 0);
      QVERIFY(read_proof_form(text) == ProofForm{});
    }
  }
};

QTEST_APPLESS_MAIN(TestProof)
#include "test_proof.moc"
