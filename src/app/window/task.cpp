#include "app/window/task.h"
