#include "app/session/parts_finder.h"

#include "app/session/task.h"

namespace frelm {

PartsFinder::PartsFinder(Session& session, QObject* parent) : QObject(parent), session_(session), answer_(6) {
  connect(&session_, &Session::history_changed, this, [this] {
    current_ = false;
    if (wanted_)
      ask();
  });
}

void PartsFinder::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (!wanted)
    answer_.forget();
  else if (!current_)
    ask();
}

void PartsFinder::ask() {
  answer_.ask(
      [this, document = session_.document()](const std::stop_token& stop) -> std::optional<Found> {
        const auto made = Task::kept_in<std::vector<SheetParts>>(
            [&](std::stop_token end) { return sheet_parts(document, session_.evaluator(), Links::LookedFor, end); },
            stop);
        if (made)
          return Found{std::make_shared<const std::vector<SheetParts>>(*made), {}};
        if (made.error().code == ErrorCode::Cancelled)
          return std::nullopt;
        return Found{nullptr, made.error().said()};
      },
      [this](Found found) {
        found_ = std::move(found), current_ = true;
        emit changed();
      });
}

} // namespace frelm
