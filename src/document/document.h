// A document: an immutable value with shared structure. Every edit is a function Document → Document (edits.h).
#pragma once

#include "document/backing.h"
#include "document/material.h"
#include "document/piece.h"
#include "type/carried_face.h"

namespace frelm {

enum class Unit { Millimetre, Inch };

struct Sheet {
  double width = 600, height = 400; // mm, more than 0
  bool operator==(const Sheet&) const = default;
};

struct Document {
  Sheet sheet;
  Unit unit = Unit::Millimetre;
  std::vector<Material> materials;                  // no two of one colour
  std::vector<Backing> backings;                    // under all pieces; the last is in front
  std::vector<std::shared_ptr<const Piece>> pieces; // drawn in this order: the last is in front
  std::uint64_t next_id = 1;                        // for pieces, characters and releases
  // Shapes that came with the job file, for faces this machine may lack; kept so that saving again keeps them. They are
  // luggage, not part of the value.
  std::shared_ptr<const std::vector<CarriedShapes>> carried;

  const Piece* find(PieceId id) const;
  std::size_t index_of(PieceId id) const;       // pieces.size() if there is none
  bool operator==(const Document& other) const; // by value, without what is carried
};

} // namespace frelm
