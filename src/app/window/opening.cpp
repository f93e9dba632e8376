#include "app/window/opening.h"

#include "formats/svg_import.h"

#include <QCoreApplication>
#include <QStringList>

namespace frelm {

Result<Opened> read_to_open(Storage& storage, const QString& path) {
  const Result<std::string> bytes = storage.read(path.toStdString());
  if (!bytes)
    return bytes.error();
  Opened out;
  if (path.endsWith(".svg", Qt::CaseInsensitive) || looks_like_svg(*bytes)) {
    Result<Imported> job = job_from_svg(*bytes);
    if (!job)
      return job.error();
    out.document = std::move(job->document);
    out.skipped = std::move(job->skipped);
    out.drawing = true;
    return out;
  }
  Result<ReadJob> job = read_what_can_be_read(*bytes);
  if (!job)
    return job.error();
  out.document = std::move(job->document);
  out.lost = std::move(job->lost);
  return out;
}

QString describe_losses(const std::vector<JobLoss>& lost) {
  constexpr std::size_t most_named = 4;
  QStringList names;
  for (std::size_t i = 0; i < lost.size() && i < most_named; ++i)
    names << QString::fromStdString(lost[i].name);
  if (lost.size() > most_named)
    names << QCoreApplication::translate("Opening", "%n more", nullptr, static_cast<int>(lost.size() - most_named));
  return names.join(", ") + " (" + QString::fromStdString(lost.front().error.text()) + ")";
}

} // namespace frelm
