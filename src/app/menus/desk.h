// What the commands work with. Each menu is one file here, with its commands and what they do; what others call too
// (buttons of cards, the drop of a file) stands in the menu's header.
#pragma once

#include "app/canvas/canvas.h"
#include "app/canvas/question_bar.h"
#include "app/cards/bend_card.h"
#include "app/cards/letters_card.h"
#include "app/cards/small_cards.h"
#include "app/check/check_panel.h"
#include "app/commands/command_table.h"
#include "app/session/opening.h"
#include "app/session/outline_maker.h"
#include "app/session/task.h"
#include "app/strip/gap_strip.h"
#include "app/style/scheme.h"
#include "document/storage.h"

#include <QCoreApplication>

namespace frelm {

struct Desk {
  Q_DECLARE_TR_FUNCTIONS(frelm::Desk)

public:
  Session& session;
  FaceLibrary& faces;
  Storage& storage;
  Task& task;
  Canvas& canvas;
  QuestionBar& bar;
  OutlineMaker& maker;
  LettersCard& letters;
  BendCard& bend;
  SpacingCard& spacing;
  FinishCard& finish;
  ReleaseBox& release;
  GapStrip& strip;
  CheckPanel& check;
  // The window's part.
  std::function<void(Card&)> open_card; // the others fold
  std::function<void()> keep_now;       // a recovery copy of the job
  std::function<void(bool folded)> fold_strip;
  std::function<void()> show_check; // where it is behind a tab
  std::function<void()> show_settings, show_materials, show_copies, show_tie_in, show_trace, show_steps;
  std::function<void(std::vector<Arrival>)> show_arrivals; // what came in
  std::function<void()> show_came_in;                      // that once more
  std::function<bool()> came_in;                           // is there any?
  std::function<Appearance()> appearance;
  std::function<void(Appearance)> set_appearance;

  const Lettering* lettering() const; // the selected one
  Point sheet_centre() const;
  void type_words(); // the Letters card with all its words chosen
  void report(const Error& error);

  // Why not, for what works on the selection, or on one lettering (which may have a reason of its own).
  std::function<QString()> needs_selection() const;
  std::function<QString()> needs_lettering(std::function<QString(const Lettering&)> why_not = {}) const;

  // A piece of long work, one at a time. `stale` is told instead when the job was changed meanwhile; empty: that is no
  // matter.
  template <class T>
  void start_task(const QString& name, std::function<Result<T>(std::stop_token)> work,
                  std::function<void(Result<T>)> done, const QString& stale = {}) {
    const auto finished = [this, done, stale, step = session.history().current().id](Result<T> result) {
      if (!stale.isEmpty() && result && step != session.history().current().id)
        bar.tell(stale);
      else
        done(std::move(result));
    };
    if (!task.start<T>(name, std::move(work), finished))
      bar.tell(tr("%1 is still going on; wait or cancel it").arg(task.name()));
  }
  // The same for one that ends in another document, as one step.
  void start_step(const QString& working, const QString& step, std::function<Result<Document>(std::stop_token)> work,
                  const QString& stale);
};

std::u32string u32(const QString& text);

} // namespace frelm
