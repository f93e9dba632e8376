#include "app/session/opening.h"

#include "app/style/words.h"
#include "document/arrange.h"
#include "formats/job_svg.h"
#include "formats/picture_read.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QLocale>

#include <algorithm>

namespace frelm {
namespace {

Result<std::string> bytes_of(Storage& storage, const DrawingSource& source) {
  return source.path.isEmpty() ? Result<std::string>(source.bytes) : storage.read(source.path.toStdString());
}

// Drawings by the language of the screen, where they show different things.
DrawingReadOptions options_for(const ReadWatch& watch) {
  DrawingReadOptions options;
  options.language = QLocale().name().section('_', 0, 0).toStdString();
  options.stop = watch.stop, options.progress = watch.progress;
  return options;
}

// What is told of a drawing; its pieces come later.
Arrival arrival_of(const DrawingSource& source, const Drawing& drawing, const TakeAs& as) {
  Arrival out;
  out.source = source, out.sizes = drawing.sizes, out.strokes = drawing.strokes, out.as = as;
  out.pages = drawing.pages;
  Box box;
  for (const DrawnShape& s : drawing.shapes)
    box.add(s.outline.bounds());
  out.extent = {box.width(), box.height()};
  return out;
}

Box bounds_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  return piece == nullptr || piece->outline() == nullptr ? Box{} : piece->outline()->outline->bounds();
}

double longer_side(const Box& box) {
  return std::max(box.width(), box.height());
}

void come(Arrival& arrival, Imported& imported) {
  arrival.pieces = imported.pieces;
  arrival.left_out = std::move(imported.left_out);
  arrival.faults = line_faults(imported.document, imported.pieces);
  for (const PieceId id : arrival.pieces) {
    const Box box = bounds_of(imported.document, id);
    const Vec from = imported.corner - Point{};
    const double k = arrival.placing.size;
    const Box in_file{(box.x0 - from.x) / k, (box.y0 - from.y) / k, (box.x1 - from.x) / k, (box.y1 - from.y) / k};
    if (arrival.largest == 0 || longer_side(in_file) > longer_side(arrival.largest_in_file))
      arrival.largest = id, arrival.largest_in_file = in_file;
  }
}

// A backing more; what is told of it.
Result<QString> take_picture(Document& document, std::string_view bytes, const QString& name,
                             std::optional<Point> centre) {
  Result<PictureAdded> added = add_picture(document, bytes, QFileInfo(name).completeBaseName().toStdString(), centre);
  if (!added)
    return added.error();
  document = std::move(added->document);
  const PictureFile& kept = *document.backings.back().picture;
  return kept.width < added->width
             ? QCoreApplication::translate("Opening", "%1 was made smaller for the job: %2 × %3 px of %4 × %5")
                   .arg(name)
                   .arg(kept.width)
                   .arg(kept.height)
                   .arg(added->width)
                   .arg(added->height)
             : QString();
}

} // namespace

bool is_picture_file(const QString& path) {
  return QStringList{"png", "jpg", "jpeg"}.contains(QFileInfo(path).suffix().toLower());
}

bool is_drawing_file(const QString& path) {
  const std::string suffix = QFileInfo(path).suffix().toLower().toStdString();
  return std::ranges::count(drawing_suffixes(), suffix) > 0;
}

std::vector<PieceId> DrawingsAdded::pieces() const {
  std::vector<PieceId> out;
  for (const Arrival& a : arrivals)
    out.insert(out.end(), a.pieces.begin(), a.pieces.end());
  return out;
}

Result<Opened> read_to_open(Storage& storage, const QString& path, OpenAs as, const ReadWatch& watch) {
  const Result<std::string> bytes = storage.read(path.toStdString());
  if (!bytes)
    return bytes.error();
  Opened out;
  const std::optional<JobInSvg> inside = as == OpenAs::Job ? job_in_svg(*bytes) : std::nullopt;
  if (looks_like_picture(*bytes)) {
    const Result<QString> told = take_picture(out.document, *bytes, QFileInfo(path).fileName(), std::nullopt);
    if (!told)
      return told.error();
    out.told = *told;
    return out;
  }
  if (!inside && (looks_like_drawing(*bytes) || is_drawing_file(path))) {
    const DrawingReadOptions options = options_for(watch);
    const Result<Drawing> drawing = read_drawing(*bytes, options);
    if (!drawing)
      return drawing.error();
    Result<Imported> job = job_from_drawing(*drawing);
    if (!job)
      return job.error();
    out.arrival = arrival_of({QFileInfo(path).fileName(), path}, *drawing, {});
    out.arrival->made_the_job = true;
    come(*out.arrival, *job);
    out.document = std::move(job->document);
    return out;
  }
  Result<ReadJob> job = read_what_can_be_read(inside ? inside->job : *bytes);
  if (!job)
    return job.error();
  out.document = std::move(job->document);
  out.versions = std::move(job->versions);
  out.lost = std::move(job->lost);
  out.changed_elsewhere = inside && inside->drawing_changed;
  return out;
}

Result<DrawingsAdded> add_drawings(Storage& storage, Document document, const std::vector<DrawingSource>& drawings,
                                   std::optional<Point> centre, const ReadWatch& watch) {
  DrawingsAdded out{std::move(document), {}, {}, 0, {}};
  DrawingReadOptions options = options_for(watch);
  std::vector<std::pair<Drawing, Arrival>> read;
  std::size_t done = 0;
  if (watch.progress)
    options.progress = [&](double share) { watch.progress((double(done) + share) / double(drawings.size())); };
  double wide = 0;
  constexpr double apart = 10; // mm
  for (const DrawingSource& source : drawings) {
    if (options.progress && done > 0)
      options.progress(0);
    const Result<std::string> bytes = bytes_of(storage, source);
    if (bytes && looks_like_picture(*bytes)) {
      const Result<QString> told =
          take_picture(out.document, *bytes, source.name,
                       centre.value_or(Point{out.document.sheet.width / 2, out.document.sheet.height / 2}));
      if (!told)
        out.refused << source.name + ": " + words_of(told.error());
      else if (++out.backings; !told->isEmpty())
        out.told << *told;
      continue;
    }
    Result<Drawing> drawing = bytes ? read_drawing(*bytes, options) : Result<Drawing>(bytes.error());
    ++done;
    if (watch.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    if (!drawing) {
      out.refused << source.name + ": " + words_of(drawing.error());
      continue;
    }
    Arrival arrival = arrival_of(source, *drawing, {});
    wide += arrival.extent.x + (read.empty() ? 0 : apart);
    read.emplace_back(std::move(*drawing), std::move(arrival));
  }
  double at = centre ? centre->x - wide / 2 : 0; // several beside each other
  for (auto& [drawing, arrival] : read) {
    if (centre)
      arrival.placing.centre = Point{at + arrival.extent.x / 2, centre->y};
    Result<Imported> added = add_drawing(out.document, drawing, arrival.placing);
    if (!added) {
      out.refused << arrival.source.name + ": " + words_of(added.error());
      continue;
    }
    at += arrival.extent.x + apart;
    come(arrival, *added);
    out.document = std::move(added->document);
    out.arrivals.push_back(std::move(arrival));
  }
  if (out.arrivals.empty() && out.backings == 0)
    return bad_input(as_it_is(out.refused.join("; ").toStdString()));
  return out;
}

Result<DrawingsAdded> take_again(Storage& storage, Document document, const Arrival& arrival, const TakeAs& as,
                                 const ReadWatch& watch) {
  const Result<std::string> bytes = bytes_of(storage, arrival.source);
  if (!bytes)
    return bytes.error();
  Placing placing = arrival.placing;
  if (const double size = size_now(document, arrival); size > 0)
    placing.size = size;
  DrawingReadOptions options = options_for(watch);
  options.widest_line = as.widest_line / placing.size; // as it stands on the sheet
  options.page = as.page;
  const Result<Drawing> drawing = read_drawing(*bytes, options);
  if (!drawing)
    return drawing.error();
  document = remove_pieces(std::move(document), arrival.pieces).document;
  if (arrival.made_the_job && as.page != arrival.as.page)
    document.sheet = {drawing->frame.width() * placing.size, drawing->frame.height() * placing.size};
  Result<Imported> added = add_drawing(std::move(document), *drawing, placing);
  if (!added)
    return added.error();
  Arrival again = arrival_of(arrival.source, *drawing, as);
  again.placing = placing, again.made_the_job = arrival.made_the_job;
  come(again, *added);
  DrawingsAdded out;
  out.document = std::move(added->document);
  out.arrivals.push_back(std::move(again));
  return out;
}

double size_now(const Document& document, const Arrival& arrival) {
  const Box box = bounds_of(document, arrival.largest);
  const double drawn = longer_side(arrival.largest_in_file);
  return drawn > 0 && !box.empty() ? longer_side(box) / drawn : 0;
}

namespace {

Vec to_where_the_file_has_it(const Document& document, const Arrival& arrival) {
  const double size = size_now(document, arrival);
  const Box box = bounds_of(document, arrival.largest);
  return size > 0 ? Vec{arrival.largest_in_file.x0 * size - box.x0, arrival.largest_in_file.y0 * size - box.y0} : Vec{};
}

} // namespace

bool stands_as_in_file(const Document& document, const Arrival& arrival) {
  constexpr double same = 1e-6; // mm
  return length(to_where_the_file_has_it(document, arrival)) < same;
}

Document placed_as_in_file(Document document, const Arrival& arrival) {
  const Vec by = to_where_the_file_has_it(document, arrival);
  return move_pieces(std::move(document), arrival.pieces, by);
}

Document resized(Document document, const Arrival& arrival, double size) {
  const double k = size / size_now(document, arrival);
  if (!(k > 0) || !std::isfinite(k))
    return document;
  Point about; // the sheet's corner
  if (arrival.made_the_job) {
    document.sheet.width *= k, document.sheet.height *= k;
  } else {
    Box box;
    for (const PieceId id : arrival.pieces)
      box.add(bounds_of(document, id));
    about = box.centre();
  }
  for (const PieceId id : arrival.pieces)
    document = scale_piece(std::move(document), id, about, k, GuideScaling::Along);
  return document;
}

QString describe_losses(const std::vector<JobLoss>& lost) {
  constexpr std::size_t most_named = 4;
  QStringList names;
  for (std::size_t i = 0; i < lost.size() && i < most_named; ++i)
    names << QString::fromStdString(lost[i].name);
  if (lost.size() > most_named)
    names << QCoreApplication::translate("Opening", "%n more", nullptr, static_cast<int>(lost.size() - most_named));
  return names.join(", ") + " (" + words_of(lost.front().error) + ")";
}

} // namespace frelm
