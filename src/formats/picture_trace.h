// A backing traced: its picture's ink, or each of its colours, as outlines on the sheet where the picture lies.
//
// Lengths in mm on the sheet; geom/trace and geom/picture_levels say how well. What is outside `part` is paper.
#pragma once

#include "document/backing.h"
#include "document/document.h"
#include "geom/picture.h"
#include "geom/trace.h"

namespace frelm {

enum class TraceInk { Dark, Light, Colours };

struct TraceWish {
  TraceInk ink = TraceInk::Dark;
  std::optional<double> threshold; // as TraceOptions
  int colours = 4;                 // 2 to most_levels
  bool paper = false;              // the paper is a colour too
  double specks = 0.5;             // mm: what is smaller than a dot of this diameter goes, ink and holes
  double sharper_than = 30;        // degrees: turns that are corners
  // As fine as the picture is, if not said.
  std::optional<double> straight, tolerance;
  std::optional<Box> part; // px from the picture's upper left corner
  bool operator==(const TraceWish&) const = default;
};

struct TracedLevel {
  std::optional<Colour> colour; // none: ink
  std::shared_ptr<const Outline> outline;
};
struct TracedPicture {
  std::vector<TracedLevel> levels;                                   // without empty ones
  std::size_t points = 0, nodes = 0, contours = 0;                   // of the pixels' lines; of the outlines
  std::size_t put_back = 0;                                          // as Traced
  double px_per_mm = 0, threshold = 0, tolerance = 0, straight = 0;  // that were used
  double worst = 0;                                                  // mm between the pixels' lines and the outlines
  Outline all() const;                                               // of all levels
  double off_at_most() const { return 0.5 / px_per_mm + tolerance; } // mm from what was painted, as trace.h says
};
// mm: what `straight` and `tolerance` are if not said, for a picture with greys at its edges.
double usual_measure(const Affine& place);
// What of the backing's picture lies in a box on the sheet, px; of a turned one, the part around that.
Box picture_part(const Backing& backing, const Box& on_sheet);
// `place` as of a backing. Errors: those of trace, a part that holds no pixel, Cancelled.
Result<TracedPicture> trace_picture(const ColourPicture& picture, const Affine& place, const TraceWish& wish,
                                    std::stop_token stop = {});

// The corners of such a part, as they lie on the sheet.
std::vector<Point> corners_on_sheet(const Backing& backing, const Box& part);

// A piece for each level in front of all others, several as a group, with the backing's name; without `keep` the
// backing goes. Requires at least one level.
struct TracedIn {
  Document document;
  std::vector<PieceId> pieces;
};
TracedIn with_traced(Document document, std::size_t backing, const TracedPicture& traced, bool keep);

} // namespace frelm
