#include "app/session/parts_finder.h"

#include "app/session/task.h"

namespace frelm {

PartsFinder::PartsFinder(Session& session, QObject* parent) : QObject(parent), session_(session), worker_(6) {
  connect(&session_, &Session::history_changed, this, [this] {
    current_ = false;
    if (wanted_)
      ask();
  });
}

PartsFinder::~PartsFinder() {
  worker_.stop();
}

void PartsFinder::set_wanted(bool wanted) {
  if (wanted == wanted_)
    return;
  wanted_ = wanted;
  if (!wanted) {
    ++request_;
    worker_.stop();
  } else if (!current_) {
    ask();
  }
}

void PartsFinder::ask() {
  worker_.request([this, id = ++request_, document = session_.document()](const std::stop_token& stop) {
    const auto found = Task::kept_in<std::vector<SheetParts>>(
        [&](std::stop_token end) { return sheet_parts(document, session_.evaluator(), end); }, stop);
    if (!found && found.error().code == ErrorCode::Cancelled)
      return;
    auto sheets = found ? std::make_shared<const std::vector<SheetParts>>(*found) : nullptr;
    mailbox_.post([this, id, sheets = std::move(sheets), why = found ? Said{} : found.error().said()] {
      if (id != request_)
        return;
      sheets_ = sheets, why_not_ = why, current_ = true;
      emit changed();
    });
  });
}

} // namespace frelm
