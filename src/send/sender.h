// A program sent to a cutter, path after path, never more than its buffer holds, and known to be cut.
//
// mm. Out of line the cutter is asked how much room it has (ESC . B), whether what came was garbled (ESC . E) and, when
// it stands still, why (ESC . O). After each path it says where it is, with the blade down or not, and whether it
// understood (OA, OE): only then the path counts as cut. Whatever ends it, the report says which path to go on from;
// the blade is lifted where the line still holds.
#pragma once

#include "formats/hpgl.h"
#include "send/wire.h"

#include <atomic>
#include <functional>
#include <optional>
#include <stop_token>

namespace frelm {

enum class SendDoing { Cutting, Pausing, Paused, PausedThere, NoMaterial };
struct SendState {
  SendDoing doing = SendDoing::Cutting;
  std::size_t path = 0; // that it is at
  double cut = 0;       // mm of all that is to be cut, from the first path of the program on
};

struct SendWatch {
  std::stop_token stop = {};
  const std::atomic<bool>* pause = nullptr; // after the path it is at; while it is set
  std::function<void(const SendState&)> progress = {};
  // How long a machine that was paused, or is out of material, is waited for.
  Milliseconds patience = std::chrono::hours(24);
};

struct SendReport {
  std::size_t next = 0; // the first path that is not known to be cut; the number of paths: none is left
  double cut = 0;       // mm of the paths before that, sent this time
  double seconds = 0;
  bool handed_over = false;     // to what does not tell what of it is cut
  std::optional<Error> stopped; // nothing: all is cut. Cancelled: it was asked to.
};
// From path `first` on. Answers that don't come within 2 s are an error.
SendReport send_program(const HpglProgram& program, std::size_t first, CutterWire& wire, const SendWatch& watch = {});

} // namespace frelm
