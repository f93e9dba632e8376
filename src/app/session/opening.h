// What opening a file brings: a job, as much of it as can be read, or a drawing as a new job; and what dropped and
// pasted drawings add to a job. Read away from the interface thread.
#pragma once

#include "document/clean_up.h"
#include "document/job_file.h"
#include "document/storage.h"
#include "formats/import.h"

#include <QStringList>
#include <optional>
#include <stop_token>

namespace frelm {

struct DrawingSource {
  QString name; // as it is told
  QString path; // empty: bytes are given
  std::string bytes = {};
};
// How a drawing is taken, of what can be chosen afterwards.
struct TakeAs {
  double widest_line = usual_widest_line; // mm: wider strokes are areas
  int page = 1;                           // of a file with pages
};
// What came with one drawing, for the list that is shown of it, and to take it again otherwise.
struct Arrival {
  DrawingSource source;
  std::vector<PieceId> pieces;
  Placing placing;
  bool made_the_job = false; // its page is the sheet
  Vec extent;                // mm, of its shapes as the file has them, size 1
  // Its largest piece tells at what size and where it stands, wherever others were moved: what that covers in the file,
  // mm from its page's upper left corner.
  PieceId largest = 0;
  Box largest_in_file;
  std::vector<SizeChoice> sizes; // none: the file says its size
  bool strokes = false;          // there are strokes, lines up to as.widest_line
  int pages = 1;                 // of the file
  TakeAs as;
  std::vector<LeftOut> left_out;
  LineFaults faults; // as it came
  bool worth_telling() const {
    return !sizes.empty() || strokes || pages > 1 || faults != LineFaults{} || !left_out.empty();
  }
};

struct Opened {
  Document document;
  Versions versions = {};
  std::vector<JobLoss> lost;      // pieces that could not be read
  std::optional<Arrival> arrival; // it was a drawing
  bool changed_elsewhere = false; // a job in an SVG whose drawing is not what was saved
  QString told;                   // of a picture
};

// A picture is a backing on a new job's sheet, as large as it says. An SVG with a job in it is that job, unless its
// drawing is asked for. Errors: those of the disk, of read_what_can_be_read, read_drawing and job_from_drawing.
enum class OpenAs { Job, Drawing };
bool is_drawing_file(const QString& path); // by its suffix
bool is_picture_file(const QString& path);
struct ReadWatch {
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // 0 to 1
};
Result<Opened> read_to_open(Storage& storage, const QString& path, OpenAs as = OpenAs::Job,
                            const ReadWatch& watch = {});

struct DrawingsAdded {
  Document document;
  std::vector<Arrival> arrivals;
  QStringList refused; // which drawing, and why
  std::size_t backings = 0;
  QStringList told; // of pictures
  std::vector<PieceId> pieces() const;
};
// One after another: beside each other about the point, or where their pages say; pictures as backings. One that can't
// be read is told, and the others are added; when none can, that is the error. Stopped: Cancelled.
Result<DrawingsAdded> add_drawings(Storage& storage, Document document, const std::vector<DrawingSource>& drawings,
                                   std::optional<Point> centre, const ReadWatch& watch);

// The same drawing once more, taken otherwise: in the place of what came of it before.
Result<DrawingsAdded> take_again(Storage& storage, Document document, const Arrival& arrival, const TakeAs& as,
                                 const ReadWatch& watch);
// Times what the file has, of what stands there now; 0: its largest piece is gone.
double size_now(const Document& document, const Arrival& arrival);
// Does its page's corner stand on the sheet's? What came, moved so.
bool stands_as_in_file(const Document& document, const Arrival& arrival);
Document placed_as_in_file(Document document, const Arrival& arrival);
// What came, at another size: about its own middle, or with the sheet that it made. Its largest piece gone: as it is.
Document resized(Document document, const Arrival& arrival, double size);

// "Kite, piece 3 and 2 more" and why the first was not read.
QString describe_losses(const std::vector<JobLoss>& lost);

} // namespace frelm
