// Writes the demo jobs of Saltmarsh Boatworks, a yard that does not exist. usage: make-demo-jobs FACES FOLDER
#include "document/edits.h"
#include "document/job_file.h"
#include "document/storage.h"

#include <iostream>

using namespace frelm;

namespace {

constexpr Colour ink{0x1f, 0x2a, 0x33}, tan{0x7a, 0x4a, 0x14}, madder{0x9b, 0x2f, 0x45};

PieceId add(Document& document, const std::u32string& text, Point at, Colour colour,
            const std::function<void(Recipe&)>& change) {
  Piece piece = new_lettering(document, text, at);
  piece.colour = colour;
  change(piece.lettering()->recipe);
  Added added = add_piece(std::move(document), std::move(piece));
  document = std::move(added.document);
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

// A transom: the name in a joined script, welded, over the home port.
Document transom() {
  Document d;
  d.sheet = {900, 300};
  add(d, U"Marigold", {450, 165}, ink, [](Recipe& r) {
    r.letters()->face = {"Dancing Script", "Bold"};
    r.letters()->size = 110;
  });
  add(d, U"Upper Creek", {450, 258}, tan, [](Recipe& r) {
    r.letters()->face = {"Lato", "Bold"};
    r.letters()->size = 26;
    r.letters()->capitals = Capitals::Capitals;
    r.spacing.letter = 4;
  });
  return d;
}

} // namespace

int main(int argc, char** argv) {
  if (argc != 3)
    return 2;
  const FaceLibrary faces(argv[1], false);
  DiskStorage storage;
  for (const auto& [name, document] :
       {std::pair{"saltmarsh-badge", badge()}, std::pair{"marigold-transom", transom()}}) {
    const Result<Done> done = storage.write(std::string(argv[2]) + "/" + name + ".frelm", write_job(document, faces));
    if (!done) {
      std::cerr << done.error().text() << "\n";
      return 1;
    }
  }
}
