// Release: outlines replace the lettering; and the way back.
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class ReleaseAs { OnePiece, ByLine, ByLetter };
enum class GuideAfter { Gone, Kept };

struct Released {
  Document document;
  std::vector<PieceId> pieces; // what took the lettering's place
  bool guide_removed = false;  // false too when other letters still ride on it
};

// Errors: not a lettering, nothing to release, those of evaluate.
Result<Released> release(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator, ReleaseAs as,
                         GuideAfter guide, std::stop_token stop = {});

// Have nodes of this piece, or of others of its release, been changed since?
bool reshaped_since_release(const Document& document, PieceId piece);

// The lettering back in place of all pieces of its release, with the guide that went with it, moved and scaled as the
// piece has been since. Errors: the piece was not released from a lettering.
struct Reopened {
  Document document;
  PieceId lettering = 0;
};
Result<Reopened> reopen(const Document& document, PieceId piece);

} // namespace frelm
