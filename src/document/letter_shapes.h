// The shapes a face has for its letters besides the usual ones: alternates of one letter, features of a whole text.
#pragma once

#include "document/document.h"
#include "lettering/seat.h"

namespace frelm {

// One shape to choose from, the usual one first.
struct LetterShape {
  std::optional<FeatureSetting> by;       // nothing: the usual shape
  std::string name;                       // of the feature
  std::shared_ptr<const Outline> outline; // font units
  bool chosen = false;
};
// Of the letter that begins with the character of this id, as it is cased; just the usual one where the face has no
// other, nothing for no such letter.
std::vector<LetterShape> shapes_of_letter(const Letters& letters, std::uint64_t id, const Face& face);
Document with_shape(const Document& document, PieceId lettering, std::uint64_t letter,
                    const std::optional<FeatureSetting>& by);

// A feature as the text has it.
struct TextFeature {
  FaceFeature feature;
  bool on = false;
};
std::vector<TextFeature> features_of_text(const Letters& letters, const Face& face);
Document with_feature(const Document& document, PieceId lettering, const FaceFeature& feature, bool on);

} // namespace frelm
