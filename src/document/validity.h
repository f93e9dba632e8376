// What a valid document is: every rule in one place. What is valid can be written to a job file and reads back equal;
// the reader, the writer, paste, import and the session refuse what is not.
//
// Ids: every piece has one of its own, 1 to next_id - 1, and so have the letters of a lettering among themselves. The
// pieces of one release share one origin. Names: what a piece follows or is made from is there and can be followed, or
// the piece holds its own copy; nothing is made from itself. Numbers: finite, at most `largest_number` in size, and
// more than 0 where a size is meant. Lines: a contour's segments join, a closed one ends where it begins, and none is
// without length; guides of their own can be laid. Texts are Unicode.
//
// Not a fault, but a state that a hand can mend: a lettering that has no guide yet, circles of a midway that lie apart,
// a face that is not on this machine, letters that do not fit.
#pragma once

#include "document/document.h"

namespace frelm {

inline constexpr double largest_number = 1e7; // mm or degrees
inline constexpr double least_share = 1e-6;   // of a net's width between two of its lines

struct Fault {
  PieceId piece = 0; // 0: the document itself
  std::string place; // "bend/arc/value"
  Said reason;       // "must be more than 0"
  bool operator==(const Fault&) const = default;
  std::string text() const { return place + " " + english(reason); }
};

// All faults, in document order. Pieces that `known_good` holds as well (the same object) are looked at only for what
// they name, so that the check of an edit costs what the edit changed.
std::vector<Fault> faults(const Document& document, const Document* known_good = nullptr);

// Those of its groups: ids of their own, names in UTF-8, none inside itself. Part of `faults`.
std::vector<Fault> group_faults(const Document& document);

// "Name: bend/arc/value must be more than 0" for the first fault.
std::string describe(const Document& document, const std::vector<Fault>& faults);

} // namespace frelm
