#include "app/session/task.h"
