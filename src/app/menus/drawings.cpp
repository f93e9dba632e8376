#include "app/menus/drawings.h"

#include <QFileDialog>
#include <QFileInfo>

namespace frelm {

QString drawing_patterns() {
  QStringList all;
  for (const std::string_view suffix : drawing_suffixes())
    all << "*." + QString::fromUtf8(suffix.data(), static_cast<qsizetype>(suffix.size()));
  all << "*.png"
      << "*.jpg"
      << "*.jpeg";
  return all.join(" ");
}

void add_drawings(Desk& desk, std::vector<DrawingSource> drawings, std::optional<Point> centre) {
  desk.start_task<DrawingsAdded>(
      Desk::tr("Reading"),
      [&desk, document = desk.session.document(), drawings = std::move(drawings), centre](const std::stop_token& stop) {
        return frelm::add_drawings(desk.storage, document, drawings, centre,
                                   {stop, [&desk](double share) { desk.task.tell_progress(share); }});
      },
      [&desk](Result<DrawingsAdded> added) {
        if (!added) {
          desk.report(added.error());
          return;
        }
        const bool pictures = added->arrivals.empty();
        desk.session.apply(pictures ? Desk::tr("Add backing") : Desk::tr("Add drawing"), std::move(added->document),
                           added->pieces());
        desk.session.choose_backing(desk.session.document().backings.size()); // the last
        if (!pictures)
          desk.show_arrivals(std::move(added->arrivals));
        if (const QStringList told = added->refused + added->told; !told.isEmpty())
          desk.bar.tell(told.join("; "));
      },
      Desk::tr("The job was changed meanwhile, so no drawing was added; try again"));
}

void choose_drawings(Desk& desk) {
  std::vector<DrawingSource> chosen;
  for (const QString& path :
       QFileDialog::getOpenFileNames(desk.canvas.window(), Desk::tr("Add drawings and pictures to the job"), {},
                                     Desk::tr("Drawings and pictures (%1)").arg(drawing_patterns())))
    chosen.push_back({QFileInfo(path).fileName(), path});
  if (!chosen.empty())
    add_drawings(desk, std::move(chosen), desk.sheet_centre());
}

void resize_drawing(Desk& desk, const Arrival& arrival, double size) {
  desk.session.apply(Desk::tr("Size of %1").arg(arrival.source.name), resized(desk.session.document(), arrival, size));
}

void take_drawing_again(Desk& desk, const Arrival& arrival, const TakeAs& as,
                        const std::function<void(std::optional<Arrival>)>& done) {
  desk.start_task<DrawingsAdded>(
      Desk::tr("Reading"),
      [&desk, document = desk.session.document(), arrival, as](const std::stop_token& stop) {
        return take_again(desk.storage, document, arrival, as,
                          {stop, [&desk](double share) { desk.task.tell_progress(share); }});
      },
      [&desk, name = arrival.source.name, other_page = as.page != arrival.as.page, done](Result<DrawingsAdded> added) {
        if (!added) {
          desk.report(added.error());
          done({});
          return;
        }
        desk.session.apply(other_page ? Desk::tr("Page of %1").arg(name) : Desk::tr("Lines of %1").arg(name),
                           std::move(added->document), added->pieces());
        done(std::move(added->arrivals.front()));
      },
      Desk::tr("The job was changed meanwhile, so the drawing stays as it was; try again"));
}

} // namespace frelm
