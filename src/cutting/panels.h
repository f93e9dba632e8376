// Work that is larger than its sheet or roll, cut into panels that overlap, with marks to lay them on one another by.
//
// mm. As few panels as the material's width (and length) allow, standing on it as it is or turned by 90°; each seam
// where it cuts through the least: between letters where there is such a place within reach, else near the middle of
// what it may be. Half the overlap lies on either side of a seam. What a panel's edge goes through is cut along that
// edge: areas by geom/boolean (the united area of each piece), lines by geom/clip_line; what lies whole in a panel
// stays as it is, to the bit. At both ends of a seam, outside of the work, both panels carry a cross at the same place
// of it. Panels lie behind one another along the roll, those of sheets in a row.
#pragma once

#include "document/evaluate.h"

namespace frelm {

inline constexpr double usual_panel_overlap = 10;                   // mm
inline constexpr double seam_mark_size = 8, seam_mark_distance = 4; // mm; from the work to the cross
inline constexpr double panel_distance = 10;                        // mm between panels on the cutter
inline constexpr std::size_t most_panels = 200;

struct Panel {
  Box part;                 // of the work, the overlaps with it
  std::vector<Point> marks; // in the work: the middles of its crosses
  Vec moved;                // from there to where it is cut with the others
  Vec alone;                // to where it is cut by itself: where the first one lies
};
// None: it fits, is not to be cut in panels, or can't be (too narrow for overlap and marks).
std::vector<Panel> panels_of(const std::vector<const CutPiece*>& work, const Material& material);
// How many of them a box takes; 0 for none.
std::size_t panel_count(const Box& work, const Material& material);
// Would it be cut in several, with the usual overlap?
bool panels_help(const Box& work, Material material);

// Pieces of materials that want it parted and moved; the frame grows to hold them. only: nothing but this panel, from 1
// on, where the first one would lie; what is not cut in panels goes. Errors: those of combine.
Result<Done> part_in_panels(CutSheet& sheet, const std::vector<Material>& materials, std::size_t only = 0,
                            const std::stop_token& stop = {});

} // namespace frelm
