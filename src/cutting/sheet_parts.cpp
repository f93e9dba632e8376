#include "cutting/sheet_parts.h"

#include "document/material.h"
#include "geom/weld.h"

namespace frelm {

Result<std::vector<SheetParts>> sheet_parts(const Document& document, const DocumentEvaluator& evaluator,
                                            std::stop_token stop) {
  const Result<CutSheet> sheet = cut_sheet(document, evaluator, stop, SheetSide::Seen);
  if (!sheet)
    return sheet.error();
  std::vector<SheetParts> out;
  std::vector<std::vector<Outline>> shapes; // of each
  for (const CutPiece& p : sheet->pieces) {
    if (p.destination != Destination::Knife)
      continue;
    auto at = std::find_if(out.begin(), out.end(), [&](const SheetParts& s) { return s.colour == p.colour; });
    if (at == out.end()) {
      const Material* m = material_of(document.materials, p.colour);
      out.push_back({p.colour, m != nullptr ? m->name : std::string(), {}, {}, {}, false});
      shapes.emplace_back();
      at = out.end() - 1;
    }
    shapes[static_cast<std::size_t>(at - out.begin())].push_back(p.outline);
  }
  for (std::size_t i = 0; i < out.size(); ++i) {
    WeldOptions options;
    options.stop = stop;
    const Result<WeldResult> united = weld(shapes[i], options);
    if (!united)
      return united.error();
    SheetParts& s = out[i];
    s.parts = cut_parts(united->outline), s.counters = loose_stock(united->outline);
    std::size_t left = 10 * most_link_nodes;
    for (const CutPart& p : s.parts) {
      if (stop.stop_requested())
        return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "parts")};
      const std::size_t nodes = p.outline.node_count();
      if (nodes > std::min(left, most_link_nodes)) {
        s.links_left_out = true;
        continue;
      }
      left -= nodes;
      if (const auto link = weakest_link(p.outline); link && (!s.weakest || link->width < s.weakest->width))
        s.weakest = link;
    }
  }
  return out;
}

} // namespace frelm
