// Things many tests need: the bundled faces, recipes in one line, letters as outlines, a random source with its seed.
#pragma once

#include "document/edits.h"
#include "document/evaluate.h"
#include "lettering/evaluate.h"
#include "type/font_face.h"

#include <random>

namespace frelm::test {

// Built with the address sanitizer, which makes everything some ten times slower: tests that measure much then take a
// part of their rows, because there it is crashes and not figures that are looked for.
#ifdef FRELM_SANITIZED
inline constexpr bool sanitized = true;
#else
inline constexpr bool sanitized = false;
#endif

std::string faces_directory();
std::string face_file(const std::string& name); // "dancing-script/DancingScript-Bold.otf"
const FaceLibrary& bundled_faces();
const DocumentEvaluator& evaluator(); // on the bundled faces

Letters letters_of(const std::string& text, FaceName face = {"Dancing Script", "Bold"}, double size = 40,
                   SizeBy by = SizeBy::Em);
// Placed letters on a circle about the origin, centred by advances at the top.
SeatedText on_circle(const Letters& letters, double radius, const Spacing& spacing = {});

// The letters of a text side by side on a straight line, not united.
std::vector<Outline> straight_letters(const std::string& text, const FaceName& face, double size);
// The same united.
Outline straight_word(const std::string& text, const FaceName& face, double size);

// A guide's line; the shape must be a good one.
std::shared_ptr<const GuideLine> line_of(const GuideShape& shape);
// The circle that a lettering rides on: its guide's, or its own copy.
CircleGuide circle_under(const Document& document, const Lettering& lettering);

// A document with a circle of this radius in the sheet's middle and a lettering on it; ids in that order.
struct CircleJob {
  Document document;
  PieceId guide = 0, lettering = 0;
};
CircleJob circle_job(const std::string& text, double radius = 120);

// Deterministic: the seed is printed by the test that uses it.
inline std::mt19937_64 random_source(std::uint64_t seed) {
  return std::mt19937_64(seed);
}
double uniform(std::mt19937_64& random, double low, double high);
// Any step of a finish, its measures moderate.
FinishStep random_step(std::mt19937_64& random);
// A closed blob of `n` cubics around a centre, smooth or with corners.
Outline random_blob(std::mt19937_64& random, Point centre, double radius, int n);

} // namespace frelm::test
