// Level: the baseline feet of a run's first and last letter brought to the same height.
#pragma once

#include "document/edits.h"
#include "document/evaluate.h"

namespace frelm {

// Height of the last foot below the first one on the sheet, mm; feet are the letters' outer ink edges at the baseline.
// Nothing for fewer than two inked letters in the first line.
std::optional<double> tilt_of(const SeatedText& text);

// Arcs turn: an arched run about its middle, an arc guide about its centre. On other guides the run is shifted along,
// to the nearest place where it is level. Within 0.001 mm. Errors: not on a bend, too few letters, no such place.
Result<Document> leveled(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator,
                         std::stop_token stop = {});

} // namespace frelm
