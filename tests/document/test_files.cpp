// Job files, the disk and recovery.
#include "document/job_file.h"
#include "document/outline_edits.h"
#include "document/recovery.h"
#include "document/release.h"
#include "document/validity.h"
#include "geom/nodes.h"
#include "support/fixtures.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <filesystem>
#include <sys/stat.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace frelm;
using namespace frelm::test;

namespace {

// Everything a job can hold: live letters, a guide, a release by letter, a private guide, made-from-pieces.
Document rich_job() {
  CircleJob job = circle_job("Marigold\nö 本 fi");
  Document d = job.document;
  d.unit = Unit::Inch;
  d = add_piece(d, *d.find(job.lettering)).document;
  auto released = release(d, job.lettering, evaluator(), ReleaseAs::ByLetter, GuideAfter::Gone);
  d = released->document;
  d = remove_pieces(d, {job.guide}).document;
  Piece sum;
  sum.content = Lettering{Recipe{PiecesSource{{released->pieces[0]}}, {}, {}, {}}, {{1, 2}, 3}};
  sum.destination = Destination::Pen;
  sum.locked = true;
  d = add_piece(d, sum).document;
  sum.content = Lettering{
      Recipe{OutlineSource{std::make_shared<const Outline>(Outline{{circle_contour({5, 5}, 3)}})}, {}, {}, {}}, {}};
  sum.visible = false;
  return add_piece(d, sum).document;
}

class FailingStorage final : public Storage {
public:
  Result<std::string> read(const std::string& path) override {
    return Error{ErrorCode::Unreadable, as_it_is("lost"), as_it_is(path)};
  }
  Result<Done> write(const std::string& path, const std::string&) override {
    return Error{ErrorCode::Unwritable, as_it_is("full"), as_it_is(path)};
  }
  Result<Done> remove(const std::string& path) override {
    return Error{ErrorCode::Unwritable, as_it_is("stuck"), as_it_is(path)};
  }
};

} // namespace

class TestFiles : public QObject {
  Q_OBJECT

private slots:
  void a_job_reads_back_to_the_same_job() {
    const Document d = rich_job();
    const std::string bytes = write_job(d, bundled_faces());
    const Result<Document> back = read_job(bytes);
    QVERIFY2(back.ok(), back.ok() ? "" : back.error().text().c_str());
    QCOMPARE(write_job(*back, bundled_faces()), bytes);
    QVERIFY(*back == d);
    // The pieces of one release share one origin again.
    QVERIFY(back->pieces[0]->outline()->origin == back->pieces[1]->outline()->origin);
  }

  void every_truncation_is_refused_in_plain_words() {
    const std::string bytes = write_job(circle_job("Ma").document, bundled_faces());
    for (std::size_t n = 0; n + 2 < bytes.size(); n += bytes.size() > 4000 && n > 2000 ? 37 : 1) {
      const Result<Document> r = read_job(bytes.substr(0, n));
      QVERIFY(!r.ok());
      QVERIFY(!r.error().message().empty());
    }
  }

  void broken_values_are_refused_with_their_place_data() {
    QTest::addColumn<QString>("from");
    QTest::addColumn<QString>("to");
    QTest::addColumn<QString>("says");
    QTest::newRow("other-json") << "frelm-job"
                                << "something"
                                << "not a Frelm job";
    QTest::newRow("future-version") << "\"version\": 16"
                                    << "\"version\": 99"
                                    << "newer Frelm";
    QTest::newRow("negative-size") << "\"size\": 30.0"
                                   << "\"size\": -30.0"
                                   << "letters/size";
    QTest::newRow("zero-radius") << "\"radius\": 120.0"
                                 << "\"radius\": 0"
                                 << "guide/radius";
    QTest::newRow("unknown-bend") << "\"kind\": \"guide\""
                                  << "\"kind\": \"knot\""
                                  << "'knot'";
    QTest::newRow("text-for-number") << "\"offset\": 0.0"
                                     << "\"offset\": \"far\""
                                     << "must be a number";
    QTest::newRow("missing-field") << "\"unit\": \"mm\""
                                   << "\"u\": 1"
                                   << "'unit' is missing";
    QTest::newRow("twice-the-same-id") << "\"id\": 10"
                                       << "\"id\": 1"
                                       << "id";
    QTest::newRow("huge") << "\"offset\": 0.0"
                          << "\"offset\": 1e300"
                          << "out of range";
  }
  void broken_values_are_refused_with_their_place() {
    QFETCH(QString, from);
    QFETCH(QString, to);
    QFETCH(QString, says);
    QString text = QString::fromStdString(write_job(circle_job("Marigold").document, bundled_faces()));
    QVERIFY2(text.contains(from), qPrintable(text.left(1500)));
    text.replace(text.indexOf(from), from.size(), to);
    const Result<Document> r = read_job(text.toStdString());
    QVERIFY(!r.ok());
    QVERIFY2(QString::fromStdString(r.error().text()).contains(says), r.error().text().c_str());
  }

  void unknown_fields_are_ignored() {
    QString text = QString::fromStdString(write_job(circle_job("Marigold").document, bundled_faces()));
    text.replace("\"unit\": \"mm\"", "\"unit\": \"mm\", \"later\": {\"a\": [1, 2]}");
    QVERIFY(read_job(text.toStdString()).ok());
  }

  // Any bytes, and figures in the place of figures, which most often leave a job that can be read: what opens is valid
  // and reads back the same.
  void what_opens_after_random_damage_is_sound() {
    const std::string bytes = write_job(rich_job(), bundled_faces());
    std::vector<std::size_t> figures;
    for (std::size_t i = 0; i < bytes.size(); ++i)
      if (std::isdigit(static_cast<unsigned char>(bytes[i])) != 0)
        figures.push_back(i);
    auto random = random_source(99);
    int opened = 0;
    for (int i = 0; i < 400; ++i) {
      std::string damaged = bytes;
      for (int k = 0; k < 4; ++k)
        if (i % 2 == 0)
          damaged[random() % damaged.size()] = static_cast<char>(random() % 256);
        else
          damaged[figures[random() % figures.size()]] = static_cast<char>('0' + random() % 10);
      const Result<Document> r = read_job(damaged);
      if (!r)
        continue;
      ++opened;
      QVERIFY(faults(*r).empty());
      const Result<Document> again = read_job(write_job(*r, bundled_faces()));
      QVERIFY2(again.ok(), again.ok() ? "" : again.error().text().c_str());
      QVERIFY(*again == *r);
    }
    QVERIFY2(opened > 100, qPrintable(QString::number(opened)));
  }

  void a_missing_face_still_sets_and_cuts_exactly() {
    CircleJob job = circle_job("Marigold");
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    });
    const Document back = *read_job(write_job(job.document, bundled_faces()));
    FaceLibrary bare("", false);
    const DocumentEvaluator here(bundled_faces()), there(bare);
    QCOMPARE(there.piece(back, job.lettering, Depth::Seat).error().code, ErrorCode::NotFound);
    bare.set_carried(*back.carried);
    const auto a = here.piece(job.document, job.lettering, Depth::Finish),
               b = there.piece(back, job.lettering, Depth::Finish);
    QVERIFY(b.ok());
    QVERIFY(*a->outline == *b->outline);
    QVERIFY(b->seated->spaced->set->carried_face);
    // Saved again on that machine, nothing is lost.
    QCOMPARE(write_job(back, bare), write_job(job.document, bundled_faces()));
  }

  void letters_of_a_missing_face_that_are_not_used_now_can_be_typed_again() {
    CircleJob job = circle_job("ABC");
    const Document back = *read_job(write_job(job.document, bundled_faces()));
    FaceLibrary bare("", false);
    bare.set_carried(*back.carried);
    const auto retyped_as = [&](Document d, const char32_t* text) {
      std::uint64_t next = d.next_id;
      d = edit_piece(std::move(d), job.lettering, [&](Piece& p) {
        Letters& l = *p.lettering()->recipe.letters();
        l.text = retyped(l.text, text, next);
      });
      d.next_id = next;
      return d;
    };
    const Document two = *read_job(write_job(retyped_as(back, U"AB"), bare));
    bare.set_carried(*two.carried);
    const auto seated = DocumentEvaluator(bare).piece(retyped_as(two, U"ABC"), job.lettering, Depth::Seat);
    QVERIFY(seated.ok() && seated->seated->spaced->set->missing.empty());
  }

  void a_ring_broken_at_a_node_stays_open() {
    Document d = add_piece({}, new_guide(PathGuide{circle_contour({100, 100}, 60).reversed()})).document;
    d = edit_nodes(d, 1, [](Outline o) { return break_at(std::move(o), {0, 2}); });
    const Document back = *read_job(write_job(d, bundled_faces()));
    QVERIFY(back == d && !std::get<PathGuide>(back.find(1)->guide()->shape).contour.closed);
  }

  void what_can_be_read_is_read_and_the_rest_is_named() {
    CircleJob job = circle_job("Marigold");
    job.document = add_piece(job.document, new_guide(MidwayGuide{job.guide, job.guide, 2})).document;
    std::string bytes = write_job(add_piece(job.document, new_circle({9, 9}, 77)).document, bundled_faces());
    bytes.replace(bytes.find("120.0"), 5, "-12.0"); // the circle's radius
    const Result<ReadJob> read = read_what_can_be_read(bytes);
    QVERIFY(read.ok());
    QVERIFY(!read_job(bytes).ok());
    // The circle, what lies midway, and the words' guide; the words and the other circle are there.
    QCOMPARE(read->lost.size(), std::size_t{3});
    QCOMPARE(read->document.pieces.size(), std::size_t{2});
    QVERIFY(read->lost[0].error.where().find("guide/radius") != std::string::npos);
    QCOMPARE(read->document.find(job.lettering)->lettering()->recipe.bend.guide.guide, PieceId{0});
    QVERIFY(faults(read->document).empty());
  }

  // ---- the disk
  void links_pipes_and_devices_are_written_to_and_never_replaced() {
    QTemporaryDir dir;
    DiskStorage disk;
    const auto path = [&](const char* name) { return dir.filePath(name).toStdString(); };
    QVERIFY(disk.write(path("target"), "old").ok());
    QVERIFY(QFile::link("target", dir.filePath("link")));
    QVERIFY(disk.write(path("link"), "new").ok());
    QVERIFY(QFileInfo(dir.filePath("link")).isSymLink());
    QCOMPARE(*disk.read(path("target")), std::string("new"));
    QVERIFY(QFile::link("not there yet", dir.filePath("ahead")));
    QVERIFY(disk.write(path("ahead"), "made").ok());
    QCOMPARE(*disk.read(path("not there yet")), std::string("made"));
    QVERIFY(QFile::link("round", dir.filePath("round")));
    QVERIFY(!disk.write(path("round"), "x").ok());
    QCOMPARE(::mkfifo(path("pipe").c_str(), 0600), 0);
    std::string got;
    std::jthread reader([&] { got = *disk.read(path("pipe")); });
    QVERIFY(disk.write(path("pipe"), "through").ok());
    reader.join();
    QCOMPARE(got, std::string("through"));
    struct stat is {};
    QVERIFY(::stat(path("pipe").c_str(), &is) == 0 && S_ISFIFO(is.st_mode));
    QVERIFY(disk.write("/dev/null", "x").ok());
    QVERIFY(::stat("/dev/null", &is) == 0 && S_ISCHR(is.st_mode));
  }
  void odd_names_are_names() {
    QTemporaryDir dir;
    DiskStorage disk;
    for (const std::string& name : {std::string(250, 'n'), std::string("n\xff\xfe"), std::string("a\nb")}) {
      const std::string path = dir.path().toStdString() + "/" + name;
      QVERIFY(disk.write(path, "x").ok() && disk.write(path, "y").ok());
      QCOMPARE(*disk.read(path), std::string("y"));
    }
    const std::filesystem::directory_iterator files(dir.path().toStdString());
    QCOMPARE(std::distance(begin(files), end(files)), 3); // and no part of a file
  }
  void a_folder_that_may_not_be_written_still_takes_a_file_that_may() {
    if (::geteuid() == 0)
      return; // nothing is forbidden
    QTemporaryDir dir;
    DiskStorage disk;
    const std::string path = dir.filePath("job").toStdString();
    QVERIFY(disk.write(path, "old").ok());
    QVERIFY(::chmod(dir.path().toStdString().c_str(), 0500) == 0);
    QVERIFY(disk.write(path, "new").ok());
    QVERIFY(::chmod(dir.path().toStdString().c_str(), 0700) == 0);
    QCOMPARE(*disk.read(path), std::string("new"));
  }
  void writing_is_all_or_nothing() {
    QTemporaryDir dir;
    DiskStorage disk;
    const std::string path = dir.filePath("a.frelm").toStdString();
    QVERIFY(disk.write(path, "one").ok());
    QCOMPARE(*disk.read(path), std::string("one"));
    QVERIFY(disk.write(path, "two").ok());
    QCOMPARE(*disk.read(path), std::string("two"));
    QCOMPARE(QDir(dir.path()).entryList(QDir::Files).size(), 1);
    QVERIFY(disk.remove(path).ok());
    QVERIFY(disk.remove(path).ok());
    QCOMPARE(disk.read(path).error().code, ErrorCode::Unreadable);
  }

  // A writer killed between naming its part file and renaming it: only what is old and whose process is gone goes.
  void whole_part_files_of_killed_writers_are_cleared_by_the_next_write() {
    QTemporaryDir dir;
    const auto part = [&](pid_t writer, const char* number, int age) {
      QFile file(dir.filePath(QString(".frelm-part-%1-%2").arg(writer).arg(number)));
      return file.open(QIODevice::WriteOnly) && file.write("whole") == 5 && file.flush() &&
             file.setFileTime(QDateTime::currentDateTime().addSecs(-age), QFileDevice::FileModificationTime);
    };
    const pid_t gone = fork();
    if (gone == 0)
      _exit(0);
    QCOMPARE(waitpid(gone, nullptr, 0), gone);
    QVERIFY(part(gone, "1", 300) && part(gone, "2", 5) && part(getpid(), "3", 300));
    QFile odd(dir.filePath(".frelm-part-x"));
    QVERIFY(odd.open(QIODevice::WriteOnly));
    DiskStorage disk;
    QVERIFY(disk.write(dir.filePath("job").toStdString(), "1").ok());
    QStringList left = QDir(dir.path()).entryList(QDir::Files | QDir::Hidden);
    QStringList wanted{QString(".frelm-part-%1-2").arg(gone), QString(".frelm-part-%1-3").arg(getpid()),
                       ".frelm-part-x", "job"};
    left.sort();
    wanted.sort();
    QCOMPARE(left, wanted);
  }

  void folders_that_cannot_be_written_say_so() {
    DiskStorage disk;
    const auto missing = disk.write("/nowhere/at/all.frelm", "x");
    QCOMPARE(missing.error().code, ErrorCode::Unwritable);
    QVERIFY(missing.error().text().find("/nowhere") != std::string::npos);
    // A full disk: /dev/full takes no byte, and is written into.
    QTemporaryDir dir;
    QVERIFY(QFile::link("/dev/full", dir.filePath("full")));
    const auto full = disk.write(dir.filePath("full").toStdString(), std::string(100000, 'x'));
    QVERIFY(!full.ok());
    QVERIFY(full.error().message().find("free some space") != std::string::npos);
  }

  // ---- recovery
  void work_of_a_dead_program_is_offered_and_of_a_living_one_is_not() {
    QTemporaryDir dir;
    DiskStorage disk;
    const std::string folder = dir.filePath("recovery").toStdString();
    {
      Recovery dead(folder, disk);
      QVERIFY(!dead.problem());
      QVERIFY(dead.keep("/jobs/a.frelm", "bytes").ok());
    }
    Recovery alive(folder, disk);
    QVERIFY(alive.keep("", "mine").ok());
    Recovery other(folder, disk);
    const auto left = other.left_behind();
    QCOMPARE(left.size(), std::size_t{1});
    QCOMPARE(left[0].job_path, std::string("/jobs/a.frelm"));
    QCOMPARE(left[0].bytes, std::string("bytes"));
    other.forget(left[0]);
    QVERIFY(other.left_behind().empty());
    alive.discard();
  }
  void paths_with_line_breaks_and_files_of_version_1_are_read() {
    QTemporaryDir dir;
    DiskStorage disk;
    const std::string folder = dir.path().toStdString();
    {
      Recovery dead(folder, disk);
      QVERIFY(dead.keep("/jobs/a\nb.frelm", "bytes\nmore").ok());
    }
    QVERIFY(disk.write(folder + "/7.frelm", "frelm-recovery /jobs/old.frelm\nold bytes").ok());
    QVERIFY(disk.write(folder + "/8.frelm", "frelm-recovery 2 99\nshort").ok()); // damaged
    Recovery next(folder, disk), too(folder, disk);
    const auto left = next.left_behind();
    QCOMPARE(left.size(), std::size_t{2});
    for (const RecoveredJob& job : left)
      QVERIFY(job.job_path == "/jobs/old.frelm" ? job.bytes == "old bytes"
                                                : job.job_path == "/jobs/a\nb.frelm" && job.bytes == "bytes\nmore");
    QVERIFY(too.left_behind().empty()); // another program at the same time
  }
  void a_folder_that_cannot_be_made_is_a_problem_not_a_crash() {
    DiskStorage disk;
    Recovery r("/proc/nothing/here", disk);
    QVERIFY(r.problem().has_value());
    QVERIFY(!r.keep("", "x").ok());
    QVERIFY(r.left_behind().empty());
    QTemporaryDir dir;
    FailingStorage failing;
    Recovery full(dir.path().toStdString(), failing);
    QVERIFY(!full.keep("", "x").ok());
  }
};

QTEST_APPLESS_MAIN(TestFiles)
#include "test_files.moc"
