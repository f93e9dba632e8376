// What the window can do, each thing told once: its words, keys, when it can be done and why not, what it does. Menus,
// their keys, the page of keys, the context menus and the field that finds commands are made from it.
#pragma once

#include <QAction>
#include <QList>
#include <QMenu>
#include <deque>
#include <functional>

namespace frelm {

struct Command {
  QString id;    // "edit.copy": never shown, never changed
  QString words; // with the & of its menu
  QList<QKeySequence> keys = {};
  QString tip = {}; // what the words don't say; may be empty
  std::function<void()> run = {};
  std::function<QString()> why_not = {}; // empty, or giving nothing: it can be done now
  std::function<bool()> on = {};         // of one that is switched
  std::function<QString()> words_now = {};
  QString short_words = {}; // on a button beside others of its kind
};

class CommandTable : public QObject {
  Q_OBJECT

public:
  struct Entry {
    Command command;
    QAction* action;
    QString menu; // "Lettering", "Add › Guide"

    QString words() const; // as they are now, without &
    QString key() const;   // as this desktop writes it; empty: none
    QString why_not() const { return command.why_not ? command.why_not() : QString(); }
  };

  using QObject::QObject;
  // Ids are given once.
  void add(QMenu* menu, Command command);
  // What is on, what can't be done and why, as the job is now. Menus and screen readers tell it.
  void refresh();
  const std::deque<Entry>& all() const { return entries_; }
  const Entry* find(const QString& id) const;
  QAction* action(const QString& id) const;
  // Those with all of these words in their own, their menu's or their tip, by how early they have them.
  std::vector<const Entry*> matching(const QString& typed) const;

private:
  std::deque<Entry> entries_;
};

} // namespace frelm
