// The file that something goes to: its name to type or to choose, and a word where it would replace another.
#pragma once

#include <QDir>
#include <QWidget>

class QLabel;
class QLineEdit;

namespace frelm {

class FileRow : public QWidget {
  Q_OBJECT

public:
  // path: absolute; a name typed without a folder goes beside it. filters: as file dialogs have them ("SVG (*.svg)"),
  // the first is the usual one.
  FileRow(const QString& path, const QStringList& filters, QWidget* parent = nullptr);
  QString path() const; // absolute; empty where nothing is typed
  void set_path(const QString& path);
  void set_usual(int filter) { usual_ = filter; }
  // What is written has names of its own.
  void set_replaces(bool replaces);

signals:
  void changed();
  void entered(); // Return

private:
  void choose();
  void show_replaced();
  QDir folder_;
  QStringList filters_;
  int usual_ = 0;
  bool replaces_ = true;
  QLineEdit* field_;
  QLabel* note_;
};

} // namespace frelm
