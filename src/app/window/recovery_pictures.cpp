#include "app/window/recovery_pictures.h"

#include "app/session/priority.h"
#include "document/job_file.h"
#include "formats/png.h"

namespace frelm {

RecoveryPictures::RecoveryPictures(std::vector<RecoveredJob> jobs, const FaceLibrary& faces)
    : painter_([this, &faces, jobs = std::move(jobs)](const std::stop_token& stop) {
        give_way(5);
        make(stop, faces, jobs);
      }) {}

QImage RecoveryPictures::of(const std::string& file) const {
  const auto found = made_.find(file);
  return found != made_.end() ? found->second : QImage();
}

void RecoveryPictures::make(const std::stop_token& stop, const FaceLibrary& faces,
                            const std::vector<RecoveredJob>& jobs) {
  for (std::size_t i = 0; i < jobs.size() && !stop.stop_requested(); ++i) {
    const Result<ReadJob> read = read_what_can_be_read(jobs[i].bytes);
    if (!read)
      continue;
    const CutSheet sheet = seen_sheet(read->document, DocumentEvaluator(faces), stop);
    const Result<std::string> png = write_png(sheet, width, ExportInk::Areas);
    if (!png)
      continue;
    QImage image;
    image.loadFromData(QByteArray::fromStdString(*png));
    mailbox_.post([this, file = jobs[i].file, image] {
      made_[file] = image;
      emit made(QString::fromStdString(file), image);
    });
  }
}

} // namespace frelm
