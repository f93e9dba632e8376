#include "app/session/outline_maker.h"

#include "app/session/task.h"

namespace frelm {

OutlineMaker::OutlineMaker(Session& session, QObject* parent) : QObject(parent), session_(session), answer_(5) {
  connect(&session_, &Session::document_changed, this, &OutlineMaker::hide);
  connect(&session_, &Session::selection_changed, this, &OutlineMaker::hide);
}

void OutlineMaker::set_measures(const OutlineMeasures& measures) {
  if (measures == measures_)
    return;
  measures_ = measures;
  emit measures_changed();
  if (asked_)
    show(*asked_);
}

void OutlineMaker::show(OutlineCommand command) {
  asked_ = command;
  answer_.ask(
      [this, command, document = session_.document(), ids = session_.selection(),
       measures = measures_](const std::stop_token& stop) -> std::optional<Picture> {
        const Result<OutlinesMade> made = Task::kept_in<OutlinesMade>(
            [&](std::stop_token end) {
              return make_outlines(document, ids, command, measures, session_.evaluator(), true, end);
            },
            stop);
        Picture picture;
        if (made) {
          picture.stays = made->stays, picture.goes = made->goes;
          picture.pieces = made->pieces.size(), picture.released = made->released;
        } else if (made.error().code == ErrorCode::Cancelled) {
          return std::nullopt;
        } else {
          picture.why_not = made.error().said();
        }
        return picture;
      },
      [this](Picture picture) {
        picture_ = std::move(picture);
        emit changed();
      });
}

void OutlineMaker::hide() {
  if (!asked_)
    return;
  asked_.reset();
  answer_.forget();
  if (std::exchange(picture_, std::nullopt))
    emit changed();
}

} // namespace frelm
