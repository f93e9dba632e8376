// What a drawing of another program holds, whichever file it came in: shapes at true size, and by what one can see the
// things that could not be taken.
#pragma once

#include "document/piece.h"
#include "geom/outline.h"
#include "geom/result.h"

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace frelm {

struct DrawnShape {
  Outline outline; // mm
  std::string id;
  Colour colour;
  // mm. 0: an area as it is seen. Else a line to cut along, drawn this wide; closed contours are lines too.
  double line_width = 0;
};

// In the order they are told: what one misses most comes first.
enum class Lost {
  Text,
  Picture,
  OtherContent, // pages inside a drawing
  Dimension,    // dimension lines and leaders
  Endless,      // construction lines without an end
  CutShort,     // the file ends in the middle
  Damaged,      // mended as well as could be
  BrokenPath,   // taken up to its error
  Missing,      // a copy of what isn't there
  OtherFile,    // a copy of what is in another file
  TooMuch,      // copies of copies beyond all bounds
  Beyond,       // no place of a sheet
  OffPage,      // wholly outside of the drawing's page
  Unclipped,    // a clip or mask that can't be applied; what it hides was taken
  Marker,       // arrowheads
  Pattern,      // taken as an area
  Effect,       // blurs and shadows; the shape was taken
  Fading,       // shades that end in nothing; all of their area was taken
  Gradient,     // taken as one colour
  Tangled,      // strokes and areas of lines that cross thousands of times, taken as they are written
  Unread,       // a transform, length or style that can't be read
  OtherStyles,  // a style sheet in another file
  OtherFace,    // letters of a face that the file names but does not hold
  Double,       // lines that stand there twice
  Tiny,         // flat, or smaller than `tiny_shape`
};
inline constexpr double tiny_shape = 0.002; // mm
struct LeftOut {
  Lost what = Lost::Text;
  std::size_t count = 0;
  std::vector<Box> places; // mm, of the first ones where that is known
  std::string detail;      // of the first: a name, what can't be read and where
};
Words words_of(Lost what);       // "text"
Said words_of(const LeftOut& l); // "text (12)", "path taken up to its error (hull: character 40)"
std::string in_one_line(const std::vector<LeftOut>& list);

// Where a drawing's size comes from: units of length in the file; pixels, taken for 1/96 in; neither.
enum class SizeFrom { Lengths, Pixels, Nothing };

// What one unit of a drawing may be that does not say so: times the size that it was taken with.
struct SizeChoice {
  std::string_view name; // px, pt, mm, cm, in
  Words unit;            // "1/96 in"
  double factor = 1;
};

struct Drawing {
  Box frame; // mm
  SizeFrom size = SizeFrom::Lengths;
  std::vector<SizeChoice> sizes; // the first is the one it was taken with; none where the file says it
  std::vector<DrawnShape> shapes;
  int pages = 1, page = 1;       // of the file, and which this is
  bool strokes = false;          // some are strokes without a fill, as lines or as areas
  std::vector<LeftOut> left_out; // one for each kind, in the order of Lost
};

// An error where nothing was taken, with what there was instead.
Result<Done> shows_something(const Drawing& drawing);

// Strokes without a fill up to this are lines to cut along, unless told otherwise.
inline constexpr double usual_widest_line = 0.35; // mm
// Of formats that hold nothing but lines: cleaned (formats/line_drawing), or each contour as it stands.
enum class Clean { Yes, AsWritten };
struct DrawingReadOptions {
  // mm: strokes without a fill up to this width are lines to cut along, wider ones the areas that they paint.
  double widest_line = usual_widest_line;
  std::string language = "en"; // for what a drawing shows by language
  int page = 1;                // of formats with pages
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // 0 to 1, of formats that can take long
  Clean clean = Clean::Yes;
};

// Keeps count while a drawing is read.
class LeftOutList {
public:
  void add(Lost what, const Box& place = {}, const std::string& detail = {}, std::size_t count = 1);
  void add(const LeftOut& more);
  std::vector<LeftOut> list() const;

private:
  std::vector<LeftOut> list_;
};

} // namespace frelm
