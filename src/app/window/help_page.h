// Help: Frelm's own pages, shipped as one Markdown file each (assets/help), found by a word. "how-" pages tell how a
// whole job is done, the others what a tool, a card or a panel is for; a link leads from one to another.
#pragma once

#include "app/window/page.h"

#include <QTextBrowser>

class QLineEdit;
class QListWidget;

namespace frelm {

struct HelpText {
  QString id;                 // "card-letters": the file's name
  QString title, words, text; // words: what else it is found by; text: Markdown without the title
};
// Jobs first, then tools, cards and the rest, each by title. Empty: the folder isn't there.
std::vector<HelpText> help_texts();
// The page about what has the keyboard: its card or panel, else the page named.
QString help_about(const QWidget* focus, const QString& otherwise);

class HelpPage : public Page {
  Q_OBJECT

public:
  HelpPage(const QString& id, QWidget* over);
  void show_text(const QString& id);
  QString shown() const { return shown_; }
  QLineEdit* field() { return field_; }
  QListWidget* list() { return list_; }
  QTextBrowser* text() { return text_; }

protected:
  QSize wanted() const override;
  bool eventFilter(QObject* object, QEvent* event) override; // the list's keys work from the field

private:
  void fill();

  std::vector<HelpText> texts_;
  QLineEdit* field_;
  QListWidget* list_;
  QTextBrowser* text_;
  QString shown_;
};

} // namespace frelm
