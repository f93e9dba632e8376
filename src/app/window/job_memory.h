// What is remembered for each job in the user's settings: by the job's path, the last hundred of each kind. A job
// without a path has a place of its own that lasts as long as the window.
#pragma once

#include <QMap>
#include <QSettings>

namespace frelm {

class JobMemory {
public:
  explicit JobMemory(QSettings& settings) : settings_(settings) {}

  QString read(const QString& kind, const QString& job_path) const; // empty: nothing
  void write(const QString& kind, const QString& job_path, const QString& text);
  void forget_nameless() { nameless_.clear(); } // another job has no path now
  void named(const QString& job_path);          // the job without one has been given this one

private:
  QSettings& settings_;
  QMap<QString, QString> nameless_; // by kind
};

} // namespace frelm
