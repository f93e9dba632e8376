// Writes the demo jobs of Saltmarsh Boatworks, a yard that does not exist. usage: make-demo-jobs FACES FOLDER
#include "document/blocks.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/outline_commands.h"
#include "document/starters.h"
#include "document/storage.h"
#include "document/word_in_frame.h"
#include "geom/boolean.h"
#include "geom/offset.h"
#include "geom/path_data.h"
#include "geom/round_corners.h"

#include <iostream>

using namespace frelm;

namespace {

constexpr Colour ink{0x1f, 0x2a, 0x33}, tan{0x7a, 0x4a, 0x14}, madder{0x9b, 0x2f, 0x45}, cream{0xf0, 0xe8, 0xd0};

PieceId add(Document& document, const std::u32string& text, Point at, Colour colour,
            const std::function<void(Recipe&)>& change) {
  Piece piece = new_lettering(document, text, at);
  piece.colour = colour;
  change(piece.lettering()->recipe);
  Added added = add_piece(std::move(document), std::move(piece));
  document = std::move(added.document);
  return added.id;
}

PieceId add_outline(Document& d, const char* path, const std::string& name, Colour colour) {
  Piece piece;
  piece.name = name;
  piece.colour = colour;
  piece.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path)), Finish{{}}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(piece));
  d = std::move(added.document);
  return added.id;
}

// The yard's round badge: both texts fill the band between r 120 and r 154 mm.
Document badge() {
  Document d;
  const Point centre{300, 200};
  Added circle = add_piece(std::move(d), new_circle(centre, 120));
  d = std::move(circle.document);
  const auto ride = [&](Recipe& r, Tops tops, SitBy sit, double angle, double spacing) {
    Letters& l = *r.letters();
    l.face = {"Bebas Neue", "Book"};
    l.size = 34;
    r.bend.kind = BendKind::Guide;
    r.bend.guide.guide = circle.id;
    r.bend.guide.tops = tops;
    r.bend.guide.angle = angle;
    r.bend.sit_by = sit;
    r.spacing.letter = spacing;
  };
  add(d, U"Marigold", {300, 225}, madder, [](Recipe& r) {
    r.letters()->face = {"Dancing Script", "Bold"};
    r.letters()->size = 42;
  });
  add(d, U"Upper Creek", centre, tan, [&](Recipe& r) {
    ride(r, Tops::Inward, SitBy::Caps, 180, 2.4);
    r.letters()->capitals = Capitals::Capitals;
  });
  add(d, U"Saltmarsh Boatworks", centre, ink, [&](Recipe& r) {
    ride(r, Tops::Outward, SitBy::Base, 0, 1.2);
    r.letters()->capitals = Capitals::Capitals;
  });
  return d;
}

// A transom: the name in a joined script with a border and a block shade, over the home port.
Document transom() {
  Document d;
  d.sheet = {900, 300};
  add(d, U"Marigold", {445, 160}, cream, [](Recipe& r) {
    r.letters()->face = {"Dancing Script", "Bold"};
    r.letters()->size = 110;
    r.finish.steps.push_back(
        {BorderStep{.rings = {{.distance = 4}}, .holes = HoleRule::DropSmall, .hole_size = 12}, true});
    r.finish.steps.push_back({ShadeStep{.depth = 12}, true});
  });
  add(d, U"Upper Creek", {450, 258}, tan, [](Recipe& r) {
    r.letters()->face = {"Lato", "Bold"};
    r.letters()->size = 26;
    r.letters()->capitals = Capitals::Capitals;
    r.spacing.letter = 4;
  });
  return d;
}

// A decal in three layers of vinyl, laid over one another.
Document tide_decal() {
  Document d;
  d.sheet = {400, 200};
  add(d, U"Low Tide", {200, 118}, cream, [](Recipe& r) {
    r.letters()->face = {"Lobster Two", "Bold"};
    r.letters()->size = 60;
    r.bend.kind = BendKind::Arc;
    r.bend.arc = {ArcBy::Rise, 18, ArcSide::Over};
    r.finish.steps.push_back({BorderStep{.rings = {{.distance = 3, .colour = madder}, {.distance = 7, .colour = ink}},
                                         .holes = HoleRule::Drop},
                              true});
  });
  return d;
}

PieceId add_guide(Document& document, GuideShape shape) {
  Added added = add_piece(std::move(document), new_guide(std::move(shape)));
  document = std::move(added.document);
  return added.id;
}

// Rides on a guide that is already there; `change` has the last word.
PieceId ride(Document& document, PieceId guide, const std::u32string& text, Colour colour,
             const std::function<void(Recipe&)>& change) {
  Piece piece = new_lettering(document, text, {300, 200});
  piece.colour = colour;
  ride_on(*piece.lettering(), guide, **resolve_guide(document, guide));
  change(piece.lettering()->recipe);
  Added added = add_piece(std::move(document), std::move(piece));
  document = std::move(added.document);
  return added.id;
}

// A stroke drawn from right to left with an unsteady hand; the words read upright along it and flow like a brush.
Document freehand_wake() {
  Document d;
  d.sheet = {600, 300};
  FreehandGuide stroke;
  for (int i = 0; i <= 120; ++i) {
    const double t = 1 - i / 120.0, tremor = 1.2 * std::sin(i * 1.9) + 0.8 * std::sin(i * 3.1);
    stroke.points.push_back({60 + 480 * t, 160 + 45 * std::sin(5.4 * t) - 30 * t + tremor});
  }
  stroke.smoothing = 14;
  const PieceId guide = add_guide(d, stroke);
  ride(d, guide, U"slow wake, full moon", ink, [](Recipe& r) {
    r.letters()->face = {"Kaushan Script", "Regular"};
    r.letters()->size = 34;
    r.bend.stance = Stance::Flow;
    r.bend.stretch = true;
    r.bend.offset = 4;
  });
  return d;
}

constexpr const char32_t* tide_rhyme =
    U"The tide goes out, the tide comes in,\nthe mud is thick, the eels are thin;\nso tie her long and tie her "
    U"well,\nand listen for the landing bell.\nWho moors her short on Upper Creek\nwill bail her dry for half a week.";

// The rhyme for the café window, as many windings as it needs.
Document tide_spiral(const FaceLibrary& faces) {
  Document d;
  d.sheet = {400, 400};
  SpiralOptions o;
  o.text = tide_rhyme;
  o.centre = {200, 205};
  o.inner = 34;
  o.pitch = 25;
  o.face = {"Lobster Two", "Bold"};
  Starter rhyme = *add_spiral(std::move(d), o, faces);
  for (const PieceId id : rhyme.pieces)
    rhyme.document = edit_piece(std::move(rhyme.document), id, [](Piece& p) {
      if (p.lettering() != nullptr)
        p.lettering()->recipe.spacing.mode = SpacingMode::KeepJoined;
    });
  return rhyme.document;
}

// Letters on the lower edge of a ribbon that is cut as well.
Document slow_ribbon() {
  Document d;
  d.sheet = {600, 260};
  const PieceId ribbon = add_outline(d,
                                     "M50 96C150 46 240 60 300 92C360 124 450 138 550 84L550 164C450 218 360 204 300 "
                                     "172C240 140 150 126 50 176Z",
                                     "Ribbon", madder);
  // Its corners from the start on: top left, top right, bottom right, bottom left; the lower edge is the third.
  const PieceId guide = add_guide(d, OutlineGuide{ribbon, 0, 2});
  ride(d, guide, U"Slow wake past the pontoons", ink, [](Recipe& r) {
    r.letters()->face = {"League Spartan", "Bold"};
    r.letters()->size = 22;
    r.bend.offset = 28;
    r.bend.stance = Stance::Lean;
  });
  return d;
}

// A text repeated round a frame, side by side of its corners.
Document pontoon_frame() {
  Document d;
  d.sheet = {500, 340};
  const PieceId guide = add_guide(d, FrameGuide{{250, 170}, 420, 260, 0, 0});
  ride(d, guide, U"Keep clear", tan, [](Recipe& r) {
    r.letters()->face = {"Lato", "Bold"};
    r.letters()->size = 13;
    r.letters()->capitals = Capitals::Capitals;
    r.bend.sit_by = SitBy::Middle;
    r.spacing.mode = SpacingMode::Repeat;
    r.spacing.letter = 1;
  });
  add(d, U"Pontoon 3", {250, 192}, ink, [](Recipe& r) {
    r.letters()->face = {"Bebas Neue", "Book"};
    r.letters()->size = 62;
  });
  return d;
}

Document badge_starter() {
  Document d;
  d.sheet = {400, 400};
  BadgeOptions o;
  o.centre = {200, 200};
  o.inner = 112, o.outer = 160;
  o.upper = U"Saltmarsh Boatworks", o.lower = U"Upper Creek";
  o.face = {"League Spartan", "Bold"};
  Starter badge = *add_badge(std::move(d), o);
  d = std::move(badge.document);
  for (const PieceId id : badge.pieces) // a long text: set closer than the starter does, its letters are narrow
    d = edit_piece(std::move(d), id, [](Piece& p) {
      if (Lettering* l = p.lettering())
        l->recipe.spacing.letter = 1.2;
    });
  add(d, U"since the\nbig tide", {200, 190}, madder, [](Recipe& r) {
    r.letters()->face = {"Dancing Script", "Bold"};
    r.letters()->size = 26;
  });
  return d;
}

// A pen curve with one node pulled up; the letters follow.
Document pulled_node() {
  Document d;
  d.sheet = {500, 260};
  const PieceId guide =
      add_guide(d, PathGuide{parse_outline("M50 190C110 190 150 70 250 70C350 70 390 190 450 190")->contours.front()});
  ride(d, guide, U"Low bridge ahead", ink, [](Recipe& r) {
    r.letters()->face = {"Roboto Slab", "Bold"};
    r.letters()->size = 24;
    r.bend.offset = 6;
  });
  return d;
}

// A plaque for the creek: capitals inside a circle with even gaps, a joined name tight around a small one.
Document creek_plaque() {
  Document d;
  d.sheet = {300, 300};
  const PieceId outer = add_guide(d, CircleGuide{{150, 150}, 110}), inner = add_guide(d, CircleGuide{{150, 165}, 58});
  ride(d, outer, U"LOW TIDE CREEK", ink, [](Recipe& r) {
    r.letters()->face = {"Cabin", "Bold"};
    r.letters()->size = 22;
    r.bend.guide.tops = Tops::Inward;
    r.bend.guide.angle = 180;
    r.spacing.mode = SpacingMode::EvenGaps;
  });
  ride(d, inner, U"Tidewater", madder, [](Recipe& r) {
    r.letters()->face = {"Dancing Script", "Bold"};
    r.letters()->size = 18;
    r.bend.offset = 3;
    r.spacing.mode = SpacingMode::KeepJoined;
  });
  return d;
}

// A warning pressed between the two edges of a ribbon.
Document slow_wake() {
  Document d;
  d.sheet = {500, 280};
  add_outline(d, "M40 92C150 30 300 160 460 76V186C300 270 150 140 40 202Z", "Ribbon", tan);
  const PieceId top = add_guide(d, PathGuide{parse_outline("M54 104C152 52 300 174 446 101")->contours.front()}),
                bottom = add_guide(d, PathGuide{parse_outline("M54 175C152 125 300 247 446 174")->contours.front()});
  d = edit_piece(std::move(d), top, [](Piece& p) { p.name = "Upper edge"; });
  d = edit_piece(std::move(d), bottom, [](Piece& p) { p.name = "Lower edge"; });
  add(d, U"Slow wake", {250, 160}, ink, [&](Recipe& r) {
    r.letters()->face = {"Cabin", "Bold"};
    r.letters()->size = 60;
    r.letters()->capitals = Capitals::Capitals;
    r.bend.kind = BendKind::Rails;
    RailsBend& rails = r.bend.rails;
    rails.link = EdgeLink::Free;
    rails.verticals = Verticals::Follow;
    rails.top.first.kind = rails.bottom.first.kind = ProfileKind::Guide;
    rails.top.guide = top, rails.bottom.guide = bottom;
  });
  return d;
}

// A hanging tag: a word that fills the body of a fish.
Document herring_tag() {
  Document d;
  d.sheet = {500, 300};
  add_outline(
      d,
      "M46 150C100 62 250 40 345 112C370 130 388 138 402 138L456 84C444 130 444 170 456 216L402 162C388 162 370 "
      "170 345 188C250 260 100 238 46 150Z",
      "Herring tag", tan);
  const PieceId body =
      add_guide(d, PathGuide{parse_outline("M84 150C126 84 248 66 332 124C348 140 348 160 332 176C248 234 126 216 84 "
                                           "150Z")
                                 ->contours.front()});
  d = edit_piece(std::move(d), body, [](Piece& p) { p.name = "Body"; });
  add(d, U"Herring", {220, 170}, ink, [&](Recipe& r) {
    r.letters()->face = {"League Spartan", "Bold"};
    r.letters()->size = 60;
    r.letters()->capitals = Capitals::Capitals;
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    r.bend.rails.fill.guide = body;
    r.bend.rails.fill.style = FillStyle::Upright;
  });
  return d;
}

// Three lines of one width, warped as one block; each gets its colour on release.
Document yard_stack() {
  Document d;
  d.sheet = {400, 360};
  const PieceId id = add(d, U"Saltmarsh\nBoat\nWorks", {200, 100}, ink, [](Recipe& r) {
    Letters& l = *r.letters();
    l.face = {"Bebas Neue", "Regular"};
    l.size = 44;
    l.capitals = Capitals::Capitals;
    l.equal_width = true;
    l.line_pitch = 1.12;
    r.bend.kind = BendKind::Rails;
    RailsBend& rails = r.bend.rails;
    rails.link = EdgeLink::Free;
    rails.top.first = {ProfileKind::Arch, 16, 1, 0};
    rails.bottom.first = {ProfileKind::Dip, 10, 1, 0};
  });
  return edit_piece(std::move(d), id, [](Piece& p) { p.lettering()->line_colours = {ink, madder, tan}; });
}

Outline with_corners(const Outline& o, double radius) {
  return round_corners(o, {.radius = radius}).value_or({}).outline;
}

// A brass plate with screw holes; the words, of letters without counters, are cut out of it and can be reopened.
Document mussel_plate(const FaceLibrary& faces) {
  Document d;
  d.sheet = {300, 160};
  constexpr Colour brass{0xb4, 0x87, 0x2c};
  Outline plate = with_corners(*parse_outline("M20 25H280V135H20Z"), 14);
  for (const double x : {34.0, 266.0})
    plate.contours.push_back(circle_contour({x, 80}, 3).reversed());
  const PieceId body = add_outline(d, "M0 0H1V1H0Z", "Plate", brass);
  d = edit_piece(std::move(d), body,
                 [&](Piece& p) { p.outline()->outline = std::make_shared<const Outline>(std::move(plate)); });
  const PieceId words = add(d, U"Fine\nMussels", {150, 73}, ink, [](Recipe& r) {
    Letters& l = *r.letters();
    l.face = {"Bebas Neue", "Book"};
    l.size = 38;
    l.alignment = Alignment::Centre;
    l.line_pitch = 1.3;
    l.capitals = Capitals::Capitals;
    r.spacing.letter = 2.2;
  });
  const DocumentEvaluator evaluator(faces);
  const Result<OutlinesMade> cut = make_outlines(d, {body, words}, OutlineCommand::CutAway, {}, evaluator);
  return cut ? cut->document : d;
}

// A tag that hangs by a ring: word, star and ring with one border around all of them.
Document pier_tag() {
  Document d;
  d.sheet = {240, 160};
  const PieceId word = add(d, U"Pier 7", {115, 100}, cream, [](Recipe& r) {
    r.letters()->face = {"Lobster Two", "Bold"};
    r.letters()->size = 38;
  });
  const PieceId star = add_guide(d, StarGuide{{192, 84}, 17, 7.5, 5, 0});
  d = edit_piece(std::move(d), star, [](Piece& p) { p.destination = Destination::Knife, p.colour = cream; });
  Result<Together> together = finish_together(d, {word, star});
  if (!together)
    return d;
  return edit_piece(std::move(together->document), together->id, [](Piece& p) {
    p.name = "Tag";
    p.colour = ink;
    p.finish()->steps.emplace_back().what = BorderStep{.rings = {{.distance = 5, .colour = ink}}};
    p.finish()->steps.emplace_back().what =
        TabStep{.outer = 20, .inner = 9, .depth = 4.5, .across = 0.02, .down = -0.1};
    p.finish()->steps.emplace_back().what = ShadeStep{.angle = 50, .depth = 6, .colour = madder};
  });
}

// Words on a folded ribbon, which is their guide too.
Document launch_ribbon() {
  Document d;
  d.sheet = {420, 180};
  const PieceId ribbon =
      add_guide(d, RibbonGuide{ArcGuide{{210, 372}, 280, -30, 60},
                               {.width = 46, .notch = 16, .folds = true, .tail = 30, .drop = 14, .gap = 1.5}});
  d = edit_piece(std::move(d), ribbon, [](Piece& p) { p.destination = Destination::Knife, p.colour = madder; });
  ride(d, ribbon, U"Launch day", cream, [](Recipe& r) {
    r.letters()->face = {"Lobster Two", "Bold"};
    r.letters()->size = 24;
    r.bend.sit_by = SitBy::Middle;
  });
  return d;
}

// A plate to paint through: the letters leave, their counters stay with it.
Document stencil_plate(const DocumentEvaluator& evaluator) {
  Document d;
  d.sheet = {420, 180};
  const PieceId plate = add_outline(
      d,
      "M52 30H368C374 30 380 36 380 42V138C380 144 374 150 368 150H52C46 150 40 144 40 138V42C40 36 46 30 52 30Z"
      "M56 42A4 4 0 0 0 56 50A4 4 0 0 0 56 42ZM364 42A4 4 0 0 0 364 50A4 4 0 0 0 364 42Z"
      "M56 130A4 4 0 0 0 56 138A4 4 0 0 0 56 130ZM364 130A4 4 0 0 0 364 138A4 4 0 0 0 364 130Z",
      "Plate", ink);
  const PieceId letters = add(d, U"BERTH 86", {210, 110}, ink, [](Recipe& r) {
    r.letters()->face = {"League Spartan", "Bold"};
    r.letters()->size = 46;
    TieStep bridges;
    bridges.kind = TieKind::Stencil, bridges.form.width = 3;
    r.finish.steps.push_back({bridges, true});
  });
  Result<OutlinesMade> made = make_outlines(d, {plate, letters}, OutlineCommand::CutAway, {}, evaluator);
  if (made)
    d = std::move(made->document);
  d.ordered = {340, 120, 1};
  return d;
}

// A fish to hang up: its name tied into it, in one piece with a ring.
Document herring_ornament(const DocumentEvaluator& evaluator) {
  Document d;
  d.sheet = {460, 260};
  const Outline fish =
      *parse_outline("M40 130C90 40 230 14 320 96C344 118 362 124 376 124L424 66C412 112 412 148 424 194"
                     "L376 136C362 136 344 142 320 164C230 246 90 220 40 130Z");
  const Outline ring = combine(BooleanOp::Difference, {fish}, {offset(fish, -9)->rings.front()})->outline;
  Piece piece;
  piece.name = "Herring", piece.colour = tan;
  piece.content = OutlinePiece{std::make_shared<const Outline>(ring), Finish{{}}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(piece));
  d = std::move(added.document);
  const PieceId frame = added.id, word = add(d, U"Herring", {190, 145}, tan, [](Recipe&r) {
                                    r.letters()->face = {"Dancing Script", "Bold"};
                                    r.letters()->size = 90;
                                  });
  const TieInWish wish{.contacts = 4, .least = 4, .turn = 6, .smallest = 0.7, .largest = 1.8};
  const auto found = find_tie_in(d, {word, frame}, wish, evaluator);
  if (found && !found->found.best.empty())
    d = tied_in(d, word, found->found.best.front()).value_or(d);
  OnePiece one = made_one(d, {word, frame}, wish.least, evaluator).value_or({d, frame, 0});
  d = edit_piece(std::move(one.document), one.piece, [](Piece& p) {
    p.name = "Herring ornament";
    p.finish()->steps.push_back({TabStep{.outer = 18, .inner = 8, .depth = 4, .across = 0.45, .down = 0}, true});
  });
  d.ordered.parts = 1;
  return d;
}

} // namespace

int main(int argc, char** argv) {
  if (argc != 3)
    return 2;
  const FaceLibrary faces(argv[1], false);
  const DocumentEvaluator evaluator(faces);
  DiskStorage storage;
  for (const auto& [name, document] :
       {std::pair{"saltmarsh-badge", badge()}, std::pair{"marigold-transom", transom()},
        std::pair{"freehand-wake", freehand_wake()}, std::pair{"tide-spiral", tide_spiral(faces)},
        std::pair{"slow-ribbon", slow_ribbon()}, std::pair{"pontoon-frame", pontoon_frame()},
        std::pair{"badge-starter", badge_starter()}, std::pair{"pulled-node", pulled_node()},
        std::pair{"creek-plaque", creek_plaque()}, std::pair{"slow-wake", slow_wake()},
        std::pair{"herring-tag", herring_tag()}, std::pair{"yard-stack", yard_stack()},
        std::pair{"tide-decal", tide_decal()}, std::pair{"mussel-plate", mussel_plate(faces)},
        std::pair{"pier-tag", pier_tag()}, std::pair{"launch-ribbon", launch_ribbon()},
        std::pair{"stencil-plate", stencil_plate(evaluator)},
        std::pair{"herring-ornament", herring_ornament(evaluator)}}) {
    Document job = document;
    job.materials = shipped_materials();
    const Result<Done> done = storage.write(std::string(argv[2]) + "/" + name + ".frelm", write_job(job, faces));
    if (!done) {
      std::cerr << done.error().text() << "\n";
      return 1;
    }
  }
}
