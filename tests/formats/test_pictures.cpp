// Photos and scans as backings: written and looked at by Qt's own readers (QImage, QImageReader), sizes as the
// standards have them (formats/picture_read.h), the eight ways a camera can be held, what is too large or damaged; in
// the job file.
#include "document/job_file.h"
#include "document/known_length.h"
#include "document/validity.h"
#include "formats/picture_read.h"
#include "support/fixtures.h"

#include <QBuffer>
#include <QImage>
#include <QImageReader>
#include <QPainter>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

// A red square on the upper left, a blue one on the lower right.
QImage marked(int width, int height, QImage::Format format = QImage::Format_RGB32) {
  QImage image(width, height, format);
  image.fill(format == QImage::Format_ARGB32 ? Qt::transparent : Qt::white);
  QPainter painter(&image);
  painter.fillRect(0, 0, width / 4, height / 4, Qt::red);
  painter.fillRect(3 * width / 4, 3 * height / 4, width, height, Qt::blue);
  return image;
}

QByteArray saved(const QImage& image, const char* format, int quality = 95) {
  QByteArray out;
  QBuffer to(&out);
  image.save(&to, format, quality);
  return out;
}

QImage seen(const PictureFile& file) {
  return QImage::fromData(reinterpret_cast<const uchar*>(file.bytes.data()), static_cast<int>(file.bytes.size()));
}

bool alike(const QImage& a, const QImage& b) { // but for what JPEG loses
  if (a.size() != b.size())
    return false;
  double sum = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x)
      for (int shift = 0; shift < 24; shift += 8)
        sum += std::abs(int(a.pixel(x, y) >> shift & 255) - int(b.pixel(x, y) >> shift & 255));
  return sum / (3.0 * a.width() * a.height()) < 6;
}

// An EXIF segment that says how the camera was held (CIPA DC-008-2012, 4.5: TIFF header, one entry, tag 0x0112).
QByteArray held(const QByteArray& jpeg, char orientation) {
  QByteArray exif = QByteArray::fromHex("ffe1002245786966000049492a00080000000100120103000100000000000000000000000000");
  exif[28] = orientation;
  return jpeg.left(2) + exif.left(36) + jpeg.mid(2);
}

Result<PictureRead> read(const QByteArray& bytes) {
  return read_picture(bytes.toStdString());
}

Backing on_sheet(int width, int height, Point centre = {300, 200}) {
  return backing_of("photo",
                    std::make_shared<const PictureFile>(
                        PictureFile{saved(marked(width, height), "PNG").toStdString(), width, height}),
                    1, centre, 600, 400);
}

} // namespace

class TestPictures : public QObject {
  Q_OBJECT

private slots:
  void what_needs_no_change_is_kept_byte_for_byte() {
    for (const char* format : {"PNG", "JPG"}) {
      const QByteArray bytes = saved(marked(80, 60), format);
      const auto r = read(bytes);
      QVERIFY2(r.ok(), r.ok() ? "" : r.error().text().c_str());
      QVERIFY(r->file.bytes == bytes.toStdString());
      QVERIFY(r->file.width == 80 && r->file.height == 60 && !r->smaller());
    }
  }

  void sizes_are_taken_where_the_file_says_data() {
    QTest::addColumn<QByteArray>("format");
    QTest::addColumn<int>("dots_per_metre");
    for (const char* format : {"PNG", "JPG"})
      for (const int dots : {2835, 3937, 11811})
        QTest::addRow("%s %d", format, dots) << QByteArray(format) << dots;
  }
  void sizes_are_taken_where_the_file_says() {
    QFETCH(QByteArray, format);
    QFETCH(int, dots_per_metre);
    QImage image = marked(80, 60);
    image.setDotsPerMeterX(dots_per_metre), image.setDotsPerMeterY(dots_per_metre);
    const auto r = read(saved(image, format));
    QVERIFY(r.ok());
    const double whole_dots_an_inch = 0.5 / 25.4; // what JFIF keeps
    QVERIFY2(std::abs(r->px_per_mm - dots_per_metre / 1000.0) <= whole_dots_an_inch,
             qPrintable(QString::number(r->px_per_mm)));
  }

  void upright_however_the_camera_was_held() {
    const QByteArray jpeg = saved(marked(96, 64), "JPG");
    for (char orientation = 1; orientation <= 8; ++orientation) {
      QByteArray bytes = held(jpeg, orientation);
      QBuffer buffer(&bytes);
      QImageReader reader(&buffer, "JPG");
      reader.setAutoTransform(true);
      const QImage truth = reader.read();
      QCOMPARE(truth.width(), orientation >= 5 ? 64 : 96); // it was understood
      const auto r = read(bytes);
      QVERIFY(r.ok());
      QVERIFY2(alike(seen(r->file), truth), qPrintable(QString::number(orientation)));
      QVERIFY(r->file.width == truth.width() && r->file.height == truth.height() && !r->smaller());
    }
  }

  void large_ones_are_made_smaller_and_keep_their_size() {
    QImage image = marked(9000, 3000);
    image.setDotsPerMeterX(10000), image.setDotsPerMeterY(10000);
    for (const char* format : {"PNG", "JPG"}) {
      const auto r = read(saved(image, format));
      QVERIFY2(r.ok(), r.ok() ? "" : r.error().text().c_str());
      QVERIFY(r->smaller() && r->width == 9000 && r->height == 3000);
      QCOMPARE(r->file.width, longest_kept_side);
      QVERIFY(std::abs(r->file.height - longest_kept_side / 3) <= 1);
      QVERIFY(std::abs(r->file.width / r->px_per_mm - 900) < 2.0); // mm
      const QImage now = seen(r->file);
      QVERIFY(qRed(now.pixel(100, 100)) > 200 && qGreen(now.pixel(100, 100)) < 60);
      QVERIFY(qBlue(now.pixel(3900, 1300)) > 200 && qRed(now.pixel(3900, 1300)) < 60);
    }
    const auto clear = read(saved(marked(5000, 100, QImage::Format_ARGB32), "PNG"));
    QVERIFY(clear.ok() && qAlpha(seen(clear->file).pixel(2000, 40)) == 0); // what can be seen through stays so
  }

  void damaged_and_hostile_ones_end_in_a_message() {
    auto random = random_source(51);
    const QByteArray png = saved(marked(80, 60), "PNG"), jpeg = held(saved(marked(80, 60), "JPG"), 6);
    for (int i = 0; i < 2000; ++i) {
      QByteArray bytes = i % 2 == 0 ? png : jpeg;
      if (i % 3 == 0)
        bytes.truncate(static_cast<qsizetype>(random() % static_cast<std::uint64_t>(bytes.size())));
      else
        for (int k = 0; k < 3; ++k)
          bytes[static_cast<qsizetype>(random() % static_cast<std::uint64_t>(bytes.size()))] =
              static_cast<char>(random() % 256);
      const auto r = read(bytes);
      QVERIFY(r.ok() || !r.error().text().empty());
      if (r.ok())
        QVERIFY(r->file.width > 0 && r->file.height > 0 && r->file.bytes.size() > 0);
    }
    QVERIFY(!read(png.left(200)).ok() && !read(jpeg.left(300)).ok() && !read("GIF89a").ok() && !read("").ok());
    QByteArray huge = png; // 4 billion px on paper
    huge.replace(16, 8, QByteArray::fromHex("0000ffff0000ffff"));
    QVERIFY(!read(huge).ok());
  }

  void a_job_keeps_its_backings() {
    Document d;
    d = with_backing(d, on_sheet(80, 60));
    Backing second = turned(scaled(on_sheet(30, 30, {100, 100}), {100, 100}, 2.5), {100, 100}, 33);
    second.visible = false, second.strength = 0.25, second.name = "Zweite Ansicht";
    d = with_backing(d, second);
    QVERIFY(faults(d).empty());
    const auto back = read_job(write_job(d, bundled_faces()));
    QVERIFY2(back.ok(), back.ok() ? "" : back.error().text().c_str());
    QVERIFY(*back == d);
    // One that is none is told, and the others are there.
    std::string text = write_job(d, bundled_faces());
    const std::size_t at = text.find("\"strength\": 0.25");
    text.replace(at, 16, "\"strength\": 7.25");
    const auto partly = read_what_can_be_read(text);
    QVERIFY(partly.ok() && partly->document.backings.size() == 1 && partly->lost.size() == 1);
    QCOMPARE(partly->lost[0].name, std::string("Zweite Ansicht"));
  }

  void what_makes_no_sense_is_no_document() {
    const auto with = [](const std::function<void(Backing&)>& change) {
      Backing b = on_sheet(80, 60);
      change(b);
      Document d;
      d.backings.push_back(b);
      return !faults(d).empty();
    };
    QVERIFY(!with([](Backing&) {}));
    QVERIFY(with([](Backing& b) { b.picture = nullptr; }));
    QVERIFY(with([](Backing& b) { b.strength = -0.1; }));
    QVERIFY(with([](Backing& b) { b.place.a = std::nan(""); }));
    QVERIFY(with([](Backing& b) { b.place = {}, b.place.c = 0.5; })); // leaning
    QVERIFY(with([](Backing& b) { b.place = Affine::scaling(1e-9, 1e-9); }));
    QVERIFY(with([](Backing& b) { b.picture = std::make_shared<PictureFile>(PictureFile{"no picture", 5, 5}); }));
    Document many;
    for (std::size_t i = 0; i < 2 * most_backings; ++i)
      many = with_backing(many, on_sheet(4, 4));
    QCOMPARE(many.backings.size(), most_backings);
  }

  void places_and_sizes() {
    Backing b = on_sheet(80, 60);
    QVERIFY(std::abs(backing_width(b) - 80) < 1e-9 && std::abs(backing_height(b) - 60) < 1e-9);
    QVERIFY(distance(backing_centre(b), {300, 200}) < 1e-9);
    b = turned(b, backing_centre(b), 90);
    QVERIFY(std::abs(backing_turn(b) - 90) < 1e-9 && std::abs(bounds_of(b).width() - 60) < 1e-9);
    QVERIFY(covers(b, {300, 239}) && !covers(b, {339, 200}));
    Document d;
    d = with_backing(with_backing(d, on_sheet(80, 60)), on_sheet(20, 20));
    QCOMPARE(backing_at(d, {300, 200}), std::size_t{1});
    QCOMPARE(backing_at(d, {270, 200}), std::size_t{0});
    d.backings[1].visible = false;
    QCOMPARE(backing_at(d, {300, 200}), std::size_t{0});
    QCOMPARE(backing_at(d, {0, 0}), std::size_t{2});
    // Without a size of its own: four fifths of the sheet.
    const Backing fitted = backing_of("x", d.backings[0].picture, 0, {300, 200}, 600, 400);
    QVERIFY(std::abs(backing_height(fitted) - 320) < 1e-9);
  }

  void a_known_length_scales_what_it_should() {
    CircleJob job = circle_job("Salt", 100);
    Document d = with_backing(job.document, on_sheet(80, 60, {50, 50}));
    const MeasuredLine on_picture{{20, 50}, {60, 50}};
    QVERIFY(scaled_by(d, {}, on_picture) == Scales::Backing);
    const auto picture = with_known_length(d, {}, on_picture, 100);
    QVERIFY(picture.ok());
    QVERIFY(std::abs(backing_width(picture->backings[0]) - 200) < 1e-9);
    const Vec from_start = Point{20, 50} - d.backings[0].place({0, 0}); // the line's beginning stays
    QVERIFY(distance(picture->backings[0].place({from_start.x, from_start.y}), {20, 50}) < 1e-9);
    QVERIFY(picture->pieces == d.pieces);
    const MeasuredLine line{{500, 300}, {550, 300}};
    QVERIFY(scaled_by(d, {job.lettering}, line) == Scales::Selection && scaled_by(d, {}, line) == Scales::All);
    for (const auto& ids : {std::vector<PieceId>{}, {job.lettering}, {job.lettering, job.guide}}) {
      const auto all = with_known_length(d, ids, line, 25);
      QVERIFY(all.ok());
      // The guide once, however many name it; its letters with it.
      QVERIFY(std::abs(circle_under(*all, *all->find(job.lettering)->lettering()).radius - 50) < 1e-9);
      QVERIFY(std::abs(all->find(job.lettering)->lettering()->recipe.letters()->size -
                       d.find(job.lettering)->lettering()->recipe.letters()->size / 2) < 1e-9);
      QVERIFY(std::abs(backing_width(all->backings[0]) - (ids.empty() ? 40 : 80)) < 1e-9);
    }
    QVERIFY(!with_known_length(d, {}, {{5, 5}, {5, 5}}, 10).ok() && !with_known_length(d, {}, line, 0).ok());
  }
};

QTEST_GUILESS_MAIN(TestPictures)
#include "test_pictures.moc"
