#include "app/commands/command_table.h"

#include <algorithm>

namespace frelm {
namespace {

QString without_marks(QString words) {
  return words.remove('&');
}

QString path_of(const QMenu* menu) {
  const QString own = without_marks(menu->title());
  const auto* parent = qobject_cast<const QMenu*>(menu->parentWidget());
  return parent != nullptr ? path_of(parent) + " › " + own : own;
}

} // namespace

QString CommandTable::Entry::words() const {
  return without_marks(action->text());
}

QString CommandTable::Entry::key() const {
  return action->shortcut().toString(QKeySequence::NativeText);
}

void CommandTable::add(QMenu* menu, Command command) {
  Q_ASSERT(action(command.id) == nullptr);
  auto* action = new QAction(command.words, this);
  action->setShortcuts(command.keys);
  action->setCheckable(static_cast<bool>(command.on));
  connect(action, &QAction::triggered, this, [action, run = command.run, on = command.on] {
    run();
    if (on) // Qt has switched it by itself, the job has the say
      action->setChecked(on());
  });
  menu->addAction(action);
  menu->setToolTipsVisible(true);
  entries_.push_back({std::move(command), action, path_of(menu)});
}

void CommandTable::refresh() {
  for (Entry& e : entries_) {
    const QString reason = e.why_not();
    if (e.command.words_now)
      e.action->setText(e.command.words_now());
    e.action->setEnabled(reason.isEmpty());
    e.action->setToolTip(reason.isEmpty() ? e.command.tip : reason);
    e.action->setWhatsThis(e.action->toolTip()); // read out as its description
    if (e.command.on)
      e.action->setChecked(e.command.on());
  }
}

const CommandTable::Entry* CommandTable::find(const QString& id) const {
  const auto it = std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.command.id == id; });
  return it != entries_.end() ? &*it : nullptr;
}

QAction* CommandTable::action(const QString& id) const {
  const Entry* entry = find(id);
  return entry != nullptr ? entry->action : nullptr;
}

std::vector<const CommandTable::Entry*> CommandTable::matching(const QString& typed) const {
  const QStringList wanted = typed.simplified().split(' ', Qt::SkipEmptyParts);
  std::vector<std::pair<qsizetype, const Entry*>> found;
  for (const Entry& e : entries_) {
    const QString all = e.words() + " " + e.menu + " " + e.command.tip;
    qsizetype rank = 0;
    const bool has = std::all_of(wanted.begin(), wanted.end(), [&](const QString& w) {
      const qsizetype at = all.indexOf(w, 0, Qt::CaseInsensitive);
      rank += at;
      return at >= 0;
    });
    if (has)
      found.emplace_back(rank, &e);
  }
  std::stable_sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<const Entry*> out;
  for (const auto& [rank, entry] : found)
    out.push_back(entry);
  return out;
}

} // namespace frelm
