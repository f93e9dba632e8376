// A length that is known: what is drawn, or the picture under it, made as large as that says.
#pragma once

#include "document/document.h"

namespace frelm {

// From place to place on the sheet, mm.
struct MeasuredLine {
  Point from, to;
  bool operator==(const MeasuredLine&) const = default;
};

// What a known length scales: pieces that are selected; else the backing on which the line begins and ends; else all
// that is drawn and every backing.
enum class Scales { Selection, Backing, All };
Scales scaled_by(const Document& document, const std::vector<PieceId>& selection, const MeasuredLine& line);
// About the line's beginning, which stays. Locked pieces stay as they are. Errors: a line without length, a length that
// is not more than 0.
Result<Document> with_known_length(Document document, const std::vector<PieceId>& selection, const MeasuredLine& line,
                                   double length);

} // namespace frelm
