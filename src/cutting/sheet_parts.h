// What each sheet of material falls into when its cut lines are cut: the parts that leave it, what comes loose inside
// them, and the weakest link.
#pragma once

#include "document/evaluate.h"
#include "geom/cut_parts.h"
#include "geom/weak_link.h"

namespace frelm {

struct SheetParts {
  Colour colour;
  std::string name;                // of the material; empty: the list has none of that colour
  std::vector<CutPart> parts;      // the largest first, as they lie on the sheet, readable
  std::vector<CutPart> counters;   // stock inside them that falls out
  std::optional<WeakLink> weakest; // of all parts
  bool links_left_out = false;     // there were too many to look at all
};

// The area that shapes leave when all their lines are cut: those that cross or touch are united; one that lies whole in
// another, without meeting its lines, is cut out of it, and what lies in that is left again. Errors: weld's.
Result<Outline> cut_area(const std::vector<Outline>& shapes, std::stop_token stop = {});

// Of all that goes to the knife, put together for each colour, in the order in which colours come. Links are looked for
// in parts of up to `most_link_nodes` nodes, the largest first, in `most_nodes_looked_at` all together. Errors: those
// of cut_sheet and of weld, Cancelled.
inline constexpr std::size_t most_link_nodes = 4000, most_nodes_looked_at = 10'000;
enum class Links { LeftOut, LookedFor };
Result<std::vector<SheetParts>> sheet_parts(const Document& document, const DocumentEvaluator& evaluator,
                                            Links links = Links::LookedFor, std::stop_token stop = {});

} // namespace frelm
