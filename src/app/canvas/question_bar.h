// Questions and plain messages at the canvas's edge. Nothing stops the hand: the bar goes by itself when it is
// answered, closed, or no longer matters.
#pragma once

#include <QFrame>
#include <QLabel>
#include <functional>

class QHBoxLayout;

namespace frelm {

struct Answer {
  QString text;
  std::function<void()> act; // the bar is gone when it runs
};

class QuestionBar : public QFrame {
  Q_OBJECT

public:
  explicit QuestionBar(QWidget* parent);
  // Takes the place of what stood there.
  void ask(const QString& question, std::vector<Answer> answers);
  void tell(const QString& message) { ask(message, {}); }
  void dismiss();
  // The document has been changed: what was asked about it no longer matters.
  void document_edited();
  QString text() const { return text_->text(); }

protected:
  bool eventFilter(QObject* object, QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

private:
  void place();
  QLabel* text_;
  QHBoxLayout *row_, *answers_;
};

} // namespace frelm
