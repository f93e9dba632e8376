// Pieces: what a document is made of. Immutable values, shared between documents.
#pragma once

#include "lettering/recipe.h"

#include <string>
#include <utility>

namespace frelm {

std::string to_hex(Colour c); // "#1f2a33"
Result<Colour> colour_from_hex(const std::string& text);

struct Lettering {
  Recipe recipe;
  Placement placement;
  std::vector<Colour> line_colours = {}; // what its lines get on release by line; further ones keep the piece's
  bool operator==(const Lettering&) const = default;
};

struct Guide {
  GuideShape shape;
  Finish finish{{}}; // steps on its outline where it is a shape; else they rest
  const CircleGuide* circle() const { return std::get_if<CircleGuide>(&shape); }
  bool operator==(const Guide&) const = default;
};

struct Origin;

// Drawn or released outlines, mm on the sheet.
struct OutlinePiece {
  std::shared_ptr<const Outline> outline;
  Finish finish{{}};                                // steps on top of the drawn outline; none to begin with
  std::shared_ptr<const Origin> origin;             // the lettering it was released from, if any
  Affine moved;                                     // all moves and scalings since then; none without an origin
  bool reshaped = false;                            // nodes were changed since then: reopening gives that up
  bool operator==(const OutlinePiece& other) const; // by value
};

using GroupId = std::uint64_t;

// A linked copy (links.h).
struct Link {
  std::uint64_t of = 0;   // the thing that it is a copy of: the same number in all of them
  std::uint64_t copy = 0; // what was copied together has the same number
  Affine pose;            // a similarity: from the thing's own frame to the sheet
  bool operator==(const Link&) const = default;
};

struct Piece {
  PieceId id = 0;
  std::string name;
  Colour colour;
  Destination destination = Destination::Knife;
  bool locked = false;
  bool visible = true;
  GroupId group = 0; // that it stands in (piece_groups.h); 0: none
  std::optional<Link> link = {};
  std::variant<Lettering, Guide, OutlinePiece> content;
  bool operator==(const Piece&) const = default;

  const Lettering* lettering() const { return std::get_if<Lettering>(&content); }
  const Guide* guide() const { return std::get_if<Guide>(&content); }
  const OutlinePiece* outline() const { return std::get_if<OutlinePiece>(&content); }
  Lettering* lettering() { return std::get_if<Lettering>(&content); }
  Guide* guide() { return std::get_if<Guide>(&content); }
  OutlinePiece* outline() { return std::get_if<OutlinePiece>(&content); }
  const Finish* finish() const; // of letterings, outlines and shapes
  Finish* finish() { return const_cast<Finish*>(std::as_const(*this).finish()); }
  // Does anything of it reach the knife or the pen?
  bool is_cut() const { return visible && (destination == Destination::Knife || destination == Destination::Pen); }
  // A guide that is drawn to be cut.
  bool is_shape() const { return guide() != nullptr && destination != Destination::Guide; }
};

// What a release puts aside, so that the lettering can be reopened.
struct Origin {
  Piece lettering;
  std::vector<Piece> along;  // what went with it: guides, and hidden sources of a block; then
  std::size_t beside = 0;    // so many pieces that went into the same step (outline_commands), from the back
  std::size_t in_front = 0;  // so many of these lay in front of the lettering
  std::uint64_t release = 0; // its identity: the same for all pieces of one release, another one for copies of them
  bool operator==(const Origin&) const = default;
};

// What a shape or a piece holds in memory, bytes; shared outlines are counted in full.
std::size_t bytes_of(const GuideShape& shape);
std::size_t bytes_of(const Piece& piece);

} // namespace frelm
