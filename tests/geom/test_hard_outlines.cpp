// Faces as shops have them: drawn by hand, converted badly. Words of the installed faces and outlines with every such
// fault made on purpose, through every operation, judged from outside (reference/outline_trials).
//
// FRELM_FACES=FOLDER [FRELM_FACE_RUNS=5000] [FRELM_FACE_FIRST=n] tries all faces below the folder.
#include "geom/boolean.h"
#include "geom/offset.h"
#include "geom/path_data.h"
#include "geom/rails.h"
#include "geom/shade.h"
#include "geom/thin.h"
#include "reference/outline_trials.h"
#include "support/fixtures.h"
#include "type/font_face.h"

#include <QDirIterator>
#include <QTest>
#include <fmt/format.h>
#include <set>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double distances[] = {0.1, 0.3, 1, 2.5, 8, -0.1, -0.3, -0.4, -1};
constexpr double tolerances[] = {0.02, 0.05, 0.2};

// One operation on letters that stand as they stand; "" or the fault. The operation and its numbers by `which`.
std::string trial(const std::vector<Outline>& letters, std::uint64_t which) {
  auto random = random_source(which);
  const auto pick = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
  const auto welded = weld(letters);
  if (!welded)
    return "weld: " + welded.error().message;
  const Outline& source = welded->outline;
  const std::size_t kind = pick(8);
  if (kind <= 1) {
    const std::string fault = weld_fault(letters, source);
    return fault.empty() ? "" : "weld: " + fault;
  }
  if (kind <= 4) {
    const double d = distances[pick(std::size(distances))];
    const auto got = offset(source, d);
    const std::string fault = got ? offset_fault(source, d, got->rings.front()) : got.error().message;
    return fault.empty() ? "" : fmt::format("offset {}: {}", d, fault);
  }
  if (kind == 5) {
    const double angle = 30.0 * static_cast<double>(pick(12)) + uniform(random, -1, 1) * static_cast<double>(pick(2));
    const Vec way = direction(radians(angle)) * (pick(2) == 0 ? 3 : 8);
    const auto got = block_shade(source, way);
    const std::string fault = got ? shade_fault(source, way, got->outline) : got.error().message;
    return fault.empty() ? "" : fmt::format("shade {} {}: {}", way.x, way.y, fault);
  }
  if (kind == 6) {
    ThinOptions options;
    options.tolerance = tolerances[pick(std::size(tolerances))];
    const auto got = thin(source, options);
    const std::string fault = got ? thin_fault(source, options.tolerance, got->outline) : got.error().message;
    return fault.empty() ? "" : fmt::format("thin {}: {}", options.tolerance, fault);
  }
  if (pick(2) == 0) {
    const Box box = source.bounds();
    const Curve top({Segment::quadratic({box.x0, box.y0}, {box.centre().x, box.y0 - box.height()}, {box.x1, box.y0})});
    const auto map = rails_map(box, {top, Curve::line({box.x0, box.y1}, {box.x1, box.y1})});
    if (!map)
      return "";
    const auto got = warp(source, *map);
    const std::string fault = got ? warp_fault(source, *map, got->outline) : got.error().message;
    return fault.empty() ? "" : "warp: " + fault;
  }
  const double small[] = {0, 1e-5, 1e-3, 0.01, 0.5};
  const Affine move = Affine::translation({small[pick(5)], small[pick(5)]}) * Affine::rotation(small[pick(5)]);
  const Outline other = source.transformed(move);
  const auto op = static_cast<BooleanOp>(pick(4));
  const auto got = combine(op, {source}, {other});
  const std::string fault =
      got ? boolean_fault("udix"[static_cast<int>(op)], source, other, got -> outline) : got.error().message;
  return fault.empty()
             ? ""
             : fmt::format("boolean {} moved {} {} turned {}: {}", static_cast<int>(op), move.e, move.f, move.b, fault);
}

// The letters of a line as the face has them, `size` mm em, set closer by `closer` of the em.
std::vector<Outline> line_of(const Face& face, const std::string& text, double size, double closer) {
  std::vector<Outline> out;
  const double scale = size / face.metrics().units_per_em;
  double pen = 0;
  for (const ShapedCluster& c : face.shape(from_utf8(text), Ligatures::On)) {
    if (c.missing)
      return {};
    Outline letter;
    for (const ShapedGlyph& g : c.glyphs)
      letter.append(face.outline(g.glyph)->transformed({scale, 0, 0, scale, (pen + g.x) * scale, g.y * scale}));
    if (!letter.empty())
      out.push_back(std::move(letter));
    pen += c.advance - closer * face.metrics().units_per_em;
  }
  return out;
}

} // namespace

class TestHardOutlines : public QObject {
  Q_OBJECT

private slots:
  void installed_faces() {
    const QString folder = qEnvironmentVariable("FRELM_FACES");
    if (folder.isEmpty())
      QSKIP("FRELM_FACES=FOLDER tries the faces in it");
    std::vector<std::string> files;
    for (QDirIterator it(folder, {"*.ttf", "*.otf"}, QDir::Files, QDirIterator::Subdirectories); it.hasNext();)
      files.push_back(it.next().toStdString());
    std::sort(files.begin(), files.end());
    const char* texts[] = {"Saltmarsh", "HELLO",     "Queen & Bee", "No. 42 %", "Ñandú",  "Gypsy's",
                           "dgjy",      "אבגד שלום", "محمد",        "بسم الله", "Привет", "Αθήνα"};
    const int runs = std::max(1, qEnvironmentVariable("FRELM_FACE_RUNS").toInt());
    const int first = qEnvironmentVariable("FRELM_FACE_FIRST").toInt();
    int tried = 0, wrong = 0;
    std::set<std::string> faces;
    for (int i = first; tried < runs; ++i) {
      auto random = random_source(static_cast<std::uint64_t>(i) + 900'000);
      const std::string& file = files[random() % files.size()];
      const std::string text = texts[random() % std::size(texts)];
      const double sizes[] = {3, 12, 20, 40, 100};
      const double size = sizes[random() % 5];
      const double closer = random() % 3 == 0 ? 0.1 : 0;
      const auto face = open_font(file);
      if (!face)
        continue;
      const std::vector<Outline> letters = line_of(**face, text, size, closer);
      if (letters.empty())
        continue;
      ++tried;
      faces.insert(file);
      std::vector<Outline> turned;
      const Affine turn = Affine::rotation(uniform(random, 0, 6));
      for (const Outline& o : letters)
        turned.push_back(o.transformed(turn));
      const std::string fault = trial(turned, static_cast<std::uint64_t>(i));
      if (fault.empty())
        continue;
      ++wrong;
      std::printf("%d %s \"%s\" %g mm %s: %s\n", i, file.substr(file.rfind('/') + 1).c_str(), text.c_str(), size,
                  closer > 0 ? "tight" : "", fault.c_str());
      std::fflush(stdout);
      if (runs == 1) // to be looked into
        for (const Outline& o : turned)
          std::printf("%s\n", path_data(o, 9).c_str());
    }
    std::printf("%d operations, %zu faces, %d wrong\n", tried, faces.size(), wrong);
    QCOMPARE(wrong, 0);
  }
};

QTEST_APPLESS_MAIN(TestHardOutlines)
#include "test_hard_outlines.moc"
