#include "app/session/parts_finder.h"

#include "app/session/task.h"
#include "document/word_in_frame.h"

namespace frelm {

PartsFinder::PartsFinder(Session& session, QObject* parent)
    : QObject(parent), session_(session), answer_(6), contacts_answer_(6) {
  connect(&session_, &Session::history_changed, this, [this] {
    current_ = false;
    if (wanted_)
      ask(), ask_contacts();
  });
  connect(&session_, &Session::selection_changed, this, &PartsFinder::ask_contacts);
}

void PartsFinder::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (!wanted) {
    answer_.forget(), contacts_answer_.forget();
    contacts_.reset();
    return;
  }
  if (!current_)
    ask();
  ask_contacts();
}

void PartsFinder::end() {
  wanted_ = false;
  answer_.end(), contacts_answer_.end();
}

void PartsFinder::ask_contacts() {
  const std::vector<PieceId>& ids = session_.selection();
  if (std::exchange(contacts_, std::nullopt))
    emit changed();
  if (!wanted_ || ids.size() != 2) {
    contacts_answer_.forget();
    return;
  }
  contacts_answer_.ask(
      [this, ids, document = session_.document()](const std::stop_token& stop) -> std::optional<std::vector<Contact>> {
        const auto found = Task::kept_in<std::vector<Contact>>(
            [&](std::stop_token end) { return contacts_between(document, ids[0], ids[1], session_.evaluator(), end); },
            stop);
        return found ? std::optional(*found) : std::nullopt; // a guide has none
      },
      [this](std::vector<Contact> found) {
        contacts_ = std::move(found);
        emit changed();
      });
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
