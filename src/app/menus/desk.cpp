#include "app/menus/desk.h"

#include "app/style/words.h"

namespace frelm {

std::u32string u32(const QString& text) {
  const auto ucs4 = text.toUcs4();
  return {ucs4.begin(), ucs4.end()};
}

const Lettering* Desk::lettering() const {
  const Piece* piece = session.selected();
  return piece != nullptr ? piece->lettering() : nullptr;
}

Point Desk::sheet_centre() const {
  return {session.document().sheet.width / 2, session.document().sheet.height / 2};
}

void Desk::type_words() {
  open_card(letters);
  letters.text_edit()->setFocus();
  letters.text_edit()->selectAll();
}

void Desk::report(const Error& error) {
  if (error.code != ErrorCode::Cancelled)
    bar.tell(words_of(error));
}

std::function<QString()> Desk::needs_selection() const {
  return [this] { return session.selection().empty() ? tr("Nothing is selected") : QString(); };
}

std::function<QString()> Desk::needs_lettering(std::function<QString(const Lettering&)> why_not) const {
  return [this, why_not = std::move(why_not)] {
    const Lettering* l = lettering();
    return l == nullptr ? tr("Select a lettering first") : why_not ? why_not(*l) : QString();
  };
}

void Desk::start_step(const QString& working, const QString& step,
                      std::function<Result<Document>(std::stop_token)> work, const QString& stale) {
  start_task<Document>(
      working, std::move(work),
      [this, step](Result<Document> done) {
        if (done)
          session.apply(step, std::move(*done));
        else
          report(done.error());
      },
      stale);
}

} // namespace frelm
