// What of a job is too fine or too large for the materials of its list: strokes and gaps narrower than can be cut, and
// what one colour takes of its sheet.
#pragma once

#include "cutting/check.h"

namespace frelm {

// A layer that is cut. letters: those that were never united; they are looked at one by one. sound: made by a finish,
// so that no lines cross.
struct CutLayer {
  const Piece* piece = nullptr;
  std::shared_ptr<const Outline> outline;
  Box ink;
  Colour colour;
  Destination destination = Destination::Knife;
  std::shared_ptr<const SeatedText> letters;
  bool sound = false;
};

std::vector<Finding> check_materials(const Document& document, const DocumentEvaluator& evaluator,
                                     const std::vector<CutLayer>& layers, const std::stop_token& stop);

} // namespace frelm
