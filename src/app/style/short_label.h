// A line of words that takes what room there is: longer ones are shortened with dots, and are whole in its tip.
#pragma once

#include <QLabel>

namespace frelm {

class ShortLabel : public QLabel {
  Q_OBJECT

public:
  explicit ShortLabel(QWidget* parent = nullptr) : QLabel(parent) {
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  }
  void set_words(const QString& words) {
    words_ = words;
    setToolTip(words);
    shorten();
  }
  QString words() const { return words_; }

protected:
  void resizeEvent(QResizeEvent* event) override {
    QLabel::resizeEvent(event);
    shorten();
  }

private:
  void shorten() { setText(fontMetrics().elidedText(words_, Qt::ElideRight, width())); }

  QString words_;
};

} // namespace frelm
