// Materials: what the colours of a job stand for. Pieces and layers carry a colour; the job's list says which sheet or
// roll that is, how large it is, how fine it can be cut, and whether it is cut from behind.
//
// mm; 0 stands for "not said" where that is possible.
#pragma once

#include "document/cut_tool.h"
#include "lettering/finish.h"
#include "lettering/guide_shape.h"

#include <string>
#include <vector>

namespace frelm {

struct Document;
struct CutSheet;

inline constexpr std::size_t most_materials = 64, longest_material_name = 60;
inline constexpr double most_panel_overlap = 500; // mm

// What cuts it. A knife is drawn through the sheet; the others step from node to node, and drive arcs.
enum class Machine { Blade, Laser, Torch, Router };
bool drives_arcs(Machine machine);
// What is begun with. Made up: what a small machine of the kind needs.
CutTool usual_tool(Machine machine);

struct Material {
  std::string name;
  Colour colour;
  double width = 0, length = 0;           // of the sheet; length 0: a roll; width 0: not said
  double least_stroke = 0, least_gap = 0; // what can be cut; 0: not said
  Machine machine = Machine::Blade;
  double nodes_per_100 = 0, nodes_apart = 0; // nodes of 100 mm of line at most; mm from node to node; 0: not said
  bool mirrored = false;                     // left and right change places where it is cut
  CutTool tool = {};
  double panel_overlap = 0; // of the panels that work larger than its sheet is cut in; 0: in none
  bool operator==(const Material&) const = default;
};

// Cut by another one: a tool that is as usual becomes the usual one of that; where the seam lies stays.
Material with_machine(Material material, Machine machine);
// Is any piece, ring or shade cut by a machine that drives arcs?
bool wants_arcs(const Document& document);
// Fewer nodes for the machine of this colour's material, or within a tolerance where that asks for nothing.
ThinStep thin_step_for(const std::vector<Material>& materials, Colour colour);

// What a new job begins with until the user keeps a list of their own. Invented.
std::vector<Material> shipped_materials();

// Null: the list has none of this colour.
const Material* material_of(const std::vector<Material>& materials, Colour colour);

// The job with one more material, of a colour that none has and none is like, if there is room for it.
Document with_new_material(Document document, const std::string& name);
// How many colours of pieces no material has, and the job with a material for each, as many as there is room for:
// called after the first piece of its colour, or `name` and a number.
std::size_t colours_without_material(const Document& document, const std::vector<PieceId>& ids);
Document with_materials_for(Document document, const std::vector<PieceId>& ids, const std::string& name);
// Changed at its place; another colour goes to all pieces, rings, shades and lines that have the old one. Errors: no
// such place, a colour that another one has.
Result<Document> with_material(Document document, std::size_t at, const Material& material);
// What has its colour keeps that.
Document without_material(Document document, std::size_t at);
// All that has one colour gets another.
Document recoloured(Document document, Colour from, Colour to);

// Fits on its sheet as it is or turned by 90°. What is not said fits.
bool fits(const Material& material, double width, double height);

// What each colour of a sheet takes, in the order of the list, then as they come.
struct MaterialUse {
  Colour colour;
  Box box;               // mm, of all of it as it is cut
  std::size_t lines = 0; // contours
  std::size_t drawn = 0; // of these by the pen
};
std::vector<MaterialUse> used_materials(const CutSheet& sheet, const std::vector<Material>& materials);

// Pieces of mirrored materials turned about the middle of the sheet.
void turn_mirrored(CutSheet& sheet, const std::vector<Material>& materials);
// From the sheet to the cut; the identity for others.
Affine mirrored_place(const std::vector<Material>& materials, Colour colour, double sheet_width);

} // namespace frelm
