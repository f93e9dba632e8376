#include "app/session/picture_tracer.h"

#include "app/session/task.h"
#include "formats/picture_read.h"

namespace frelm {

PictureTracer::PictureTracer(Session& session, QObject* parent) : QObject(parent), session_(session), answer_(5) {
  connect(&session_, &Session::history_changed, this, &PictureTracer::look);
  connect(&session_, &Session::backing_chosen, this, &PictureTracer::look);
}

void PictureTracer::set_wish(const TraceWish& wish) {
  if (wish == wish_)
    return;
  wish_ = wish;
  if (wanted_)
    ask();
}

void PictureTracer::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (wanted) {
    ask();
  } else {
    answer_.forget();
    found_ = {}, file_ = nullptr, current_ = false; // its pixels are large
    emit changed();
  }
}

// Another picture, or another place or size of it.
void PictureTracer::look() {
  const std::vector<Backing>& list = session_.document().backings;
  const std::size_t at = session_.backing();
  if (!wanted_ || (at < list.size() && list[at].picture == file_ && list[at].place == place_))
    return;
  ask();
}

void PictureTracer::ask() {
  const std::vector<Backing>& list = session_.document().backings;
  const std::size_t at = session_.backing();
  current_ = false;
  if (at >= list.size()) {
    answer_.forget();
    found_ = {}, file_ = nullptr;
    emit changed();
    return;
  }
  if (list[at].picture != file_)
    found_ = {}, wish_.part.reset();
  file_ = list[at].picture, place_ = list[at].place;
  emit changed();
  answer_.ask(
      [file = file_, place = place_, wish = wish_,
       pixels = found_.pixels](const std::stop_token& stop) -> std::optional<Found> {
        Found found;
        found.pixels = pixels;
        const auto made = Task::kept_in<TracedPicture>(
            [&](std::stop_token end) -> Result<TracedPicture> {
              if (found.pixels == nullptr) {
                Result<ColourPicture> read = read_pixels(file->bytes);
                if (!read)
                  return read.error();
                found.pixels = std::make_shared<const ColourPicture>(std::move(*read));
              }
              return trace_picture(*found.pixels, place, wish, end);
            },
            stop);
        if (made)
          found.traced = std::make_shared<const TracedPicture>(*made),
          found.lines = std::make_shared<const Outline>(made->all());
        else if (made.error().code == ErrorCode::Cancelled)
          return std::nullopt;
        else
          found.why_not = made.error().said();
        return found;
      },
      [this](Found found) {
        found_ = std::move(found), current_ = true;
        emit changed();
      });
}

} // namespace frelm
