// A lettering's variable face: where it stands on its axes, and its width axis used to give the run a length, so that
// strokes keep their weight.
#pragma once

#include "document/edits.h"
#include "document/evaluate.h"

namespace frelm {

inline constexpr const char* width_axis = "wdth"; // OpenType 1.9, registered axes: % of normal width
inline constexpr const char* weight_axis = "wght";

// Of the style that the letters are set in; nothing where the face has none or is not on this machine.
std::vector<FaceAxis> axes_of(const Letters& letters, const FaceLibrary& faces);
std::optional<FaceAxis> axis_of(const Letters& letters, const FaceLibrary& faces, const std::string& tag);
double axis_value(const Letters& letters, const FaceAxis& axis);
// Within the axis's ends; the style's own value is not kept.
void set_axis(Letters& letters, const FaceAxis& axis, double value);

// What makes up for what the axis could not give: its steps, of less than one font unit a letter, or what lies beyond
// its end.
enum class RestBy { Nothing, Spacing, Size };
struct WidthFit {
  Document document;
  double width = 0; // on the axis
  bool at_end = false;
  RestBy rest = RestBy::Nothing;
  double rest_mm = 0; // of the length; negative: the run was too long still
};
// The run's length along its guide or arc, or the ink's width of a straight lettering, made `length` mm within 0.01 mm
// by the face's width axis; the rest by letter spacing where that is under 0.08 cap heights a gap, else by size.
// Errors: no such axis, a length not more than 0, letters that fill a shape or are spread out, a length that can't be
// reached; Cancelled.
Result<WidthFit> fit_by_width(const Document& document, PieceId id, double length, const DocumentEvaluator& evaluator,
                              std::stop_token stop = {});

} // namespace frelm
