#include "document/material.h"

#include "document/edits.h"
#include "document/evaluate.h"
#include "lettering/finish_edit.h"

#include <algorithm>
#include <set>

namespace frelm {
namespace {

// change(colour) of all rings and shades.
template <class Steps, class Change> void for_each_colour(Steps& steps, const Change& change) {
  for (auto& s : steps) {
    if (auto* border = std::get_if<BorderStep>(&s.what))
      for (auto& ring : border->rings)
        change(ring.colour);
    if (auto* shade = std::get_if<ShadeStep>(&s.what))
      change(shade->colour);
  }
}
void recolour(Finish& finish, Colour from, Colour to) {
  for_each_colour(finish.steps, [&](Colour& c) { c = c == from ? to : c; });
}

} // namespace

bool wants_arcs(const Document& document) {
  bool out = false;
  const auto look = [&](Colour c) {
    const Material* m = material_of(document.materials, c);
    out = out || (m != nullptr && drives_arcs(m->machine));
  };
  for (const auto& p : document.pieces) {
    look(p->colour);
    if (const Finish* finish = p->finish())
      for_each_colour(finish->steps, look);
  }
  return out;
}

bool drives_arcs(Machine machine) {
  return machine != Machine::Blade;
}

CutTool usual_tool(Machine machine) {
  switch (machine) {
  case Machine::Blade:
    break;
  case Machine::Laser:
    return {.kerf = 0.15};
  case Machine::Torch:
    return {.kerf = 1.5, .lead = Lead::Arc, .lead_length = 5, .side = PartSide::Right};
  case Machine::Router:
    return {.kerf = 3, .lead = Lead::Arc, .lead_length = 3, .passes = 2, .side = PartSide::Right};
  }
  return {.tip = 0.25, .overcut = 0.5};
}

Material with_machine(Material material, Machine machine) {
  CutTool usual = usual_tool(material.machine);
  usual.seam = material.tool.seam;
  if (material.tool == usual || material.tool.follows_line()) {
    const Seam seam = material.tool.seam;
    material.tool = usual_tool(machine);
    material.tool.seam = seam;
  }
  material.machine = machine;
  return material;
}

ThinStep thin_step_for(const std::vector<Material>& materials, Colour colour) {
  ThinStep out;
  const Material* m = material_of(materials, colour);
  if (m != nullptr && (m->nodes_per_100 > 0 || m->nodes_apart > 0))
    out.aim = NodeAim::Machine, out.per_100 = m->nodes_per_100, out.apart = m->nodes_apart;
  return out;
}

std::vector<Material> shipped_materials() {
  const auto vinyl = [](const char* name, Colour colour) {
    Material out{name, colour, 610, 0, 0.4, 0.2};
    out.tool = usual_tool(out.machine);
    return out;
  };
  return {
      vinyl("Ink", {0x1f, 0x2a, 0x33}),     vinyl("Madder", {0x9b, 0x2f, 0x45}),  vinyl("Tan", {0x7a, 0x4a, 0x14}),
      vinyl("Ochre", {0xc9, 0x8a, 0x12}),   vinyl("Moss", {0x4f, 0x6b, 0x2c}),    vinyl("Sea", {0x0f, 0x6e, 0x73}),
      vinyl("Harbour", {0x22, 0x4f, 0x8c}), vinyl("Heather", {0x6c, 0x3f, 0x7a}), vinyl("Slate", {0x6d, 0x76, 0x7c}),
      vinyl("White", {0xf4, 0xf1, 0xea}),   vinyl("Cream", {0xf0, 0xe8, 0xd0})};
}

const Material* material_of(const std::vector<Material>& materials, Colour colour) {
  const auto it =
      std::find_if(materials.begin(), materials.end(), [&](const Material& m) { return m.colour == colour; });
  return it != materials.end() ? &*it : nullptr;
}

Document with_new_material(Document document, const std::string& name) {
  if (document.materials.size() >= most_materials)
    return document;
  std::vector<Colour> used, offered;
  for (const Material& m : document.materials)
    used.push_back(m.colour);
  // Around the colours that a screen has, in steps that the eye can tell apart.
  constexpr std::uint8_t levels[]{0xd0, 0x70, 0x40, 0xa0, 0xf0, 0x10};
  for (const std::uint8_t r : levels)
    for (const std::uint8_t g : levels)
      for (const std::uint8_t b : levels)
        offered.push_back({r, g, b});
  if (const std::optional<Colour> free = unlike(used, offered))
    document.materials.push_back({name, *free});
  return document;
}

namespace {

// The first piece of each colour that no material has, in drawing order.
std::vector<const Piece*> first_without_material(const Document& document, const std::vector<PieceId>& ids) {
  const std::set<PieceId> looked_at(ids.begin(), ids.end());
  std::set<Colour> seen;
  for (const Material& m : document.materials)
    seen.insert(m.colour);
  std::vector<const Piece*> out;
  for (const auto& p : document.pieces)
    if (looked_at.contains(p->id) && seen.insert(p->colour).second)
      out.push_back(p.get());
  return out;
}

} // namespace

std::size_t colours_without_material(const Document& document, const std::vector<PieceId>& ids) {
  return first_without_material(document, ids).size();
}

Document with_materials_for(Document document, const std::vector<PieceId>& ids, const std::string& name) {
  std::size_t number = 0;
  for (const Piece* first : first_without_material(document, ids)) {
    if (document.materials.size() >= most_materials)
      break;
    ++number;
    const bool named = !first->name.empty() && first->name.size() <= longest_material_name;
    document.materials.push_back({named ? first->name : name + " " + std::to_string(number), first->colour});
  }
  return document;
}

Result<Document> with_material(Document document, std::size_t at, const Material& material) {
  if (at >= document.materials.size())
    return bad_input(FRELM_WORDS("core", "the material is no longer there"), FRELM_WORDS("core", "Materials"));
  const Colour was = document.materials[at].colour;
  for (std::size_t i = 0; i < document.materials.size(); ++i)
    if (i != at && document.materials[i].colour == material.colour)
      return bad_input(
          say(FRELM_WORDS("core", "%1 has this colour; give it one of its own"), document.materials[i].name),
          FRELM_WORDS("core", "Materials"));
  document.materials[at] = material;
  return was == material.colour ? document : recoloured(std::move(document), was, material.colour);
}

Document without_material(Document document, std::size_t at) {
  if (at < document.materials.size())
    document.materials.erase(document.materials.begin() + static_cast<std::ptrdiff_t>(at));
  return document;
}

Document recoloured(Document document, Colour from, Colour to) {
  for (auto& shared : document.pieces) {
    Piece p = *shared;
    if (p.colour == from)
      p.colour = to;
    if (Guide* g = p.guide())
      recolour(g->finish, from, to);
    if (OutlinePiece* o = p.outline())
      recolour(o->finish, from, to);
    if (Lettering* l = p.lettering()) {
      recolour(l->recipe.finish, from, to);
      std::replace(l->line_colours.begin(), l->line_colours.end(), from, to);
    }
    if (p != *shared)
      shared = std::make_shared<const Piece>(std::move(p));
  }
  return document;
}

bool fits(const Material& m, double width, double height) {
  constexpr double slack = 1e-6;
  const auto on = [&](double w, double h) { return w <= m.width + slack && (m.length == 0 || h <= m.length + slack); };
  return m.width == 0 || on(width, height) || on(height, width);
}

std::vector<MaterialUse> used_materials(const CutSheet& sheet, const std::vector<Material>& materials) {
  std::vector<MaterialUse> out;
  for (const Material& m : materials)
    out.push_back({m.colour, {}});
  for (const CutPiece& p : sheet.pieces) {
    auto it = std::find_if(out.begin(), out.end(), [&](const MaterialUse& u) { return u.colour == p.colour; });
    if (it == out.end())
      it = out.insert(out.end(), {p.colour, {}});
    it->box.add(p.outline.bounds());
    it->lines += p.outline.contours.size();
    if (p.destination == Destination::Pen)
      it->drawn += p.outline.contours.size();
  }
  std::erase_if(out, [](const MaterialUse& u) { return u.lines == 0; });
  return out;
}

Affine mirrored_place(const std::vector<Material>& materials, Colour colour, double sheet_width) {
  const Material* m = material_of(materials, colour);
  return m != nullptr && m->mirrored ? Affine{-1, 0, 0, 1, sheet_width, 0} : Affine{};
}

void turn_mirrored(CutSheet& sheet, const std::vector<Material>& materials) {
  for (CutPiece& p : sheet.pieces) {
    const Affine place = mirrored_place(materials, p.colour, sheet.frame.x0 + sheet.frame.x1);
    if (place != Affine{})
      p.outline = turned_over(p.outline, place);
  }
}

} // namespace frelm
