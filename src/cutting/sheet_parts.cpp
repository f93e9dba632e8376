#include "cutting/sheet_parts.h"

#include "document/material.h"
#include "geom/boolean.h"
#include "geom/distance.h"
#include "geom/groups.h"

namespace frelm {

Result<Outline> cut_area(const std::vector<Outline>& shapes, std::stop_token stop) {
  WeldOptions options;
  options.stop = stop;
  std::vector<Box> boxes;
  for (const Outline& o : shapes)
    boxes.push_back(o.bounds());
  Outline all;
  for (const std::vector<std::size_t>& near : touching_groups(boxes)) {
    std::vector<std::optional<Boundary>> lines(near.size());
    const auto line_of = [&](std::size_t i) -> Boundary& {
      return lines[i] ? *lines[i] : lines[i].emplace(shapes[near[i]]);
    };
    Groups meeting(near.size());
    for (std::size_t i = 0; i < near.size() && !stop.stop_requested(); ++i)
      for (std::size_t k = i + 1; k < near.size(); ++k)
        if (boxes[near[i]].overlaps(boxes[near[k]]) && meeting.first_of(i) != meeting.first_of(k) &&
            line_of(i).meets(line_of(k)))
          meeting.join(i, k);
    const auto groups = meeting.all();
    Outline heap;
    for (const std::vector<std::size_t>& group : groups) {
      std::vector<Outline> one;
      for (const std::size_t i : group)
        one.push_back(shapes[near[i]]);
      Result<WeldResult> united = weld(one, options);
      if (!united)
        return united.error();
      heap.append(united->outline);
    }
    if (groups.size() > 1) {
      Result<WeldResult> nested = self_union(heap, FillRule::EvenOdd, options);
      if (!nested)
        return nested.error();
      heap = std::move(nested->outline);
    }
    all.append(heap);
  }
  return all;
}

namespace {

void find_links(SheetParts& sheet, const std::stop_token& stop) {
  std::size_t left = most_nodes_looked_at;
  for (const CutPart& p : sheet.parts) {
    if (stop.stop_requested())
      return;
    const std::size_t nodes = p.outline.node_count();
    if (nodes > std::min(left, most_link_nodes)) {
      sheet.links_left_out = true;
      continue;
    }
    left -= nodes;
    if (const auto link = weakest_link(p.outline); link && (!sheet.weakest || link->width < sheet.weakest->width))
      sheet.weakest = link;
  }
}

} // namespace

Result<std::vector<SheetParts>> sheet_parts(const Document& document, const DocumentEvaluator& evaluator, Links links,
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
    const Result<Outline> area = cut_area(shapes[i], stop);
    if (!area)
      return area.error();
    SheetParts& s = out[i];
    s.parts = cut_parts(*area), s.counters = loose_stock(*area);
    if (links == Links::LookedFor)
      find_links(s, stop);
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "parts")};
  }
  return out;
}

} // namespace frelm
