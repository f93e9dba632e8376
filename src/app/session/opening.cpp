#include "app/session/opening.h"

#include "app/style/words.h"
#include "formats/import.h"
#include "formats/job_svg.h"

#include <QCoreApplication>

namespace frelm {

Result<Opened> read_to_open(Storage& storage, const QString& path, OpenAs as) {
  const Result<std::string> bytes = storage.read(path.toStdString());
  if (!bytes)
    return bytes.error();
  Opened out;
  const std::optional<JobInSvg> inside = as == OpenAs::Job ? job_in_svg(*bytes) : std::nullopt;
  if (!inside && (path.endsWith(".svg", Qt::CaseInsensitive) || looks_like_svg(*bytes))) {
    Result<Imported> job = job_from_svg(*bytes);
    if (!job)
      return job.error();
    out.document = std::move(job->document);
    out.left_out = std::move(job->left_out);
    out.drawing = true;
    return out;
  }
  Result<ReadJob> job = read_what_can_be_read(inside ? inside->job : *bytes);
  if (!job)
    return job.error();
  out.document = std::move(job->document);
  out.lost = std::move(job->lost);
  out.changed_elsewhere = inside && inside->drawing_changed;
  return out;
}

Result<DrawingsAdded> add_drawings(Storage& storage, Document document, const std::vector<DrawingSource>& drawings,
                                   std::optional<Point> centre, const std::stop_token& stop) {
  DrawingsAdded out{std::move(document), {}, {}};
  for (const DrawingSource& drawing : drawings) {
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    const Result<std::string> bytes =
        drawing.path.isEmpty() ? Result<std::string>(drawing.bytes) : storage.read(drawing.path.toStdString());
    Result<Imported> added =
        bytes.ok() ? add_svg(out.document, *bytes, centre) : Result<Imported>(Error(bytes.error()));
    if (!added) {
      out.told << drawing.name + ": " + words_of(added.error());
      continue;
    }
    out.document = std::move(added->document);
    out.pieces.insert(out.pieces.end(), added->pieces.begin(), added->pieces.end());
    if (const QString told = describe_left_out(drawing.name, added->left_out); !told.isEmpty())
      out.told << told;
  }
  if (out.pieces.empty())
    return bad_input(as_it_is(out.told.join("; ").toStdString()));
  return out;
}

QString describe_left_out(const QString& name, const std::vector<LeftOut>& list) {
  if (list.empty())
    return {};
  QStringList words;
  for (const LeftOut& l : list)
    words << words_of(words_of(l));
  return QCoreApplication::translate("Opening", "%1: not taken: %2").arg(name, words.join(", "));
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
