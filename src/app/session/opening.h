// What opening a file brings: a job, as much of it as can be read, or a drawing as a new job; and what dropped and
// pasted drawings add to a job. Read away from the interface thread.
#pragma once

#include "document/job_file.h"
#include "document/storage.h"
#include "formats/drawing.h"

#include <QStringList>
#include <optional>
#include <stop_token>

namespace frelm {

struct Opened {
  Document document;
  std::vector<JobLoss> lost;     // pieces that could not be read
  std::vector<LeftOut> left_out; // of a drawing
  bool drawing = false;
  bool changed_elsewhere = false; // a job in an SVG whose drawing is not what was saved
};

// An SVG with a job in it is that job, unless its drawing is asked for. Errors: those of the disk, of
// read_what_can_be_read and job_from_svg.
enum class OpenAs { Job, Drawing };
Result<Opened> read_to_open(Storage& storage, const QString& path, OpenAs as = OpenAs::Job);

struct DrawingSource {
  QString name; // as it is told
  QString path; // empty: bytes are given
  std::string bytes = {};
};
struct DrawingsAdded {
  Document document;
  std::vector<PieceId> pieces;
  QStringList told; // what was not taken of which, a line each
};
// One after another, each as add_svg does it. One that can't be read is told, and the others are added; when none can,
// that is the error. Stopped: Cancelled.
Result<DrawingsAdded> add_drawings(Storage& storage, Document document, const std::vector<DrawingSource>& drawings,
                                   std::optional<Point> centre, const std::stop_token& stop);

// "hull.svg: not taken: text (3), picture"; empty when nothing was left out.
QString describe_left_out(const QString& name, const std::vector<LeftOut>& list);

// "Kite, piece 3 and 2 more" and why the first was not read.
QString describe_losses(const std::vector<JobLoss>& lost);

} // namespace frelm
