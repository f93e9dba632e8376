// From a job to what is sent: driven as its materials say, and as a program for the cutter.
#pragma once

#include "cutting/cut_time.h"
#include "cutting/driven.h"
#include "send/sender.h"

namespace frelm {

struct SendChoice {
  PlanChoice what = {};
  HpglOptions hpgl = {};
};
struct ToSend {
  DrivenPlan drive;
  CutTime time;
  HpglProgram program;
  double cut = 0; // mm of all its paths
};
// Errors: those of cut_sheet, driven and hpgl_program, nothing that is cut, Cancelled.
Result<ToSend> to_send(const Document& document, const DocumentEvaluator& evaluator, const SendChoice& choice,
                       const std::stop_token& stop = {});

} // namespace frelm
