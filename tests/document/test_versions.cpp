// Versions: kept beside the job in its file and in a job's SVG, read back equal, with the shapes of all letters used in
// any of them; gone back to without losing an id or a backing; one that is damaged loses only what is.
#include "document/arrange.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/validity.h"
#include "formats/job_svg.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

class TestVersions : public QObject {
  Q_OBJECT

private slots:
  void written_and_read_beside_the_job() {
    const CircleJob job = circle_job("TIDE");
    Document later = move_pieces(job.document, {job.guide}, {10, 20});
    later = edit_piece(std::move(later), job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Cabin", "Bold"};
    });
    Versions versions = *with_version({}, "Zuerst \u2702", "2026-01-02T03:04:05Z", job.document);
    versions = *with_version(versions, "second", "2026-01-03T03:04:05Z", later);
    const std::string bytes = write_job(later, bundled_faces(), versions);
    const ReadJob read = *read_what_can_be_read(bytes);
    QVERIFY(read.lost.empty() && read.document == later && read.versions == versions);
    // Both faces are carried.
    QVERIFY(read.document.carried != nullptr);
    QCOMPARE(read.document.carried->size(), std::size_t{2});
    QVERIFY(*read_job(bytes) == later);
    const std::optional<JobInSvg> inside = job_in_svg(write_job_svg(later, evaluator(), versions));
    QVERIFY(inside && read_what_can_be_read(inside->job)->versions == versions);
    // Without any the file says nothing of them.
    QVERIFY(write_job(later, bundled_faces()).find("versions") == std::string::npos);
  }

  void gone_back_without_naming_anything_twice() {
    const CircleJob job = circle_job("TIDE");
    const Versions versions = *with_version({}, "first", "", job.document);
    Document now = add_piece(job.document, new_circle({1, 2}, 3)).document;
    now.backings.resize(1);
    const Document back = gone_back(now, versions[0]);
    QCOMPARE(back.pieces.size(), job.document.pieces.size());
    QCOMPARE(back.next_id, now.next_id);
    QCOMPARE(back.backings.size(), std::size_t{1});
    QVERIFY(add_piece(back, new_circle({1, 2}, 3)).id != now.pieces.back()->id);
  }

  void what_can_not_be() {
    QVERIFY(!with_version({}, "", "", {}).ok());
    QVERIFY(!with_version({}, "\xff", "", {}).ok());
    Versions many;
    for (std::size_t i = 0; i < most_versions; ++i)
      many = *with_version(std::move(many), "v", "", {});
    QVERIFY(!with_version(many, "one more", "", {}).ok());
    QCOMPARE(read_what_can_be_read(write_job({}, bundled_faces(), many))->versions.size(), most_versions);
  }

  void a_damaged_one_loses_only_what_is() {
    const CircleJob job = circle_job("TIDE");
    const Versions versions = *with_version({}, "first", "2026", job.document);
    std::string bytes = write_job(job.document, bundled_faces(), versions);
    const std::size_t at = bytes.find("\"versions\""), radius = bytes.find("\"radius\": 120", at);
    QVERIFY(at != std::string::npos && radius != std::string::npos);
    bytes.replace(radius, 13, "\"radius\": -12");
    const ReadJob read = *read_what_can_be_read(bytes);
    QVERIFY(!read.lost.empty() && read.document == job.document);
    QCOMPARE(read.versions.size(), std::size_t{1});
    QVERIFY(faults(read.versions[0].document).empty());
    QVERIFY(read.versions[0].document.pieces.size() < job.document.pieces.size());
  }
};

QTEST_APPLESS_MAIN(TestVersions)
#include "test_versions.moc"
