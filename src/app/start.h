// What main and the tests that start a whole program share.
#pragma once

#include "app/window/main_window.h"

namespace frelm {

// Names, version; before the first window.
void prepare_application();
// Bundled data beside an installed program, else in the source tree.
QString data_folder(const QString& name);
QString default_recovery_folder();

} // namespace frelm
