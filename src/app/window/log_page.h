// What was cut, when, and how it ended; the newest first.
#pragma once

#include "app/window/page.h"
#include "document/document.h"
#include "send/cut_log.h"

namespace frelm {

class LogPage : public Page {
  Q_OBJECT

public:
  LogPage(Storage& storage, const QString& file, Unit unit, QWidget* over);
};

} // namespace frelm
