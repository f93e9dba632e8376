#include "document/place.h"

#include "document/arrange.h"
#include "document/piece_groups.h"
#include "document/resize.h"
#include "geom/area_centre.h"
#include "geom/even_margins.h"
#include "geom/free_circle.h"

#include <algorithm>

namespace frelm {
namespace {

// Pieces that can only move together, or one that can't move.
struct Movable {
  std::vector<PieceId> pieces;
  std::set<PieceId> moving;
  Box box;
  bool fixed() const { return moving.empty(); }
};

bool meet(const std::set<PieceId>& a, const std::set<PieceId>& b) {
  return std::any_of(a.begin(), a.end(), [&](PieceId id) { return b.contains(id); });
}

// Groups that are whole among them stay whole.
Result<std::vector<Movable>> movables_of(const Document& document, const std::vector<PieceId>& ids, PlaceBy by,
                                         const DocumentEvaluator& evaluator) {
  std::vector<Movable> out;
  for (const PieceUnit& part : parts_to_place(document, ids)) {
    Movable unit{part.pieces, {}, {}};
    for (const PieceId id : part.pieces) {
      const Result<Box> box = placing_box(document, id, by, evaluator);
      if (!box)
        return box.error();
      unit.box.add(*box);
      unit.moving.merge(moving_with(document, id));
    }
    for (std::size_t i = out.size(); i-- > 0;)
      if (meet(out[i].moving, unit.moving)) {
        unit.pieces.insert(unit.pieces.begin(), out[i].pieces.begin(), out[i].pieces.end());
        unit.moving.merge(out[i].moving);
        unit.box.add(out[i].box);
        out.erase(out.begin() + static_cast<std::ptrdiff_t>(i));
      }
    out.push_back(std::move(unit)); // the last picked stays last
  }
  return out;
}

Error too_few(PlaceTo to) {
  return to == PlaceTo::Sheet ? bad_input(FRELM_WORDS("core", "select a piece first"))
                              : bad_input(FRELM_WORDS("core", "select two pieces or more that can move by themselves"));
}

struct Placing {
  std::vector<Movable> units;
  Box stays;
  bool last_stays = false;
};
Result<Placing> placing_of(const Document& document, const std::vector<PieceId>& ids, const PlaceChoice& choice,
                           const DocumentEvaluator& evaluator) {
  Result<std::vector<Movable>> units = movables_of(document, ids, choice.by, evaluator);
  if (!units)
    return units.error();
  if (units->size() < (choice.to == PlaceTo::Sheet ? 1U : 2U))
    return too_few(choice.to);
  Placing out{std::move(*units), {}, choice.to == PlaceTo::Last};
  if (choice.to == PlaceTo::Sheet)
    out.stays = {0, 0, document.sheet.width, document.sheet.height};
  else if (choice.to == PlaceTo::Last)
    out.stays = out.units.back().box;
  else
    for (const Movable& u : out.units)
      out.stays.add(u.box);
  return out;
}

Document moved_by(Document document, const Movable& unit, Vec by) {
  return unit.fixed() || (by.x == 0 && by.y == 0) ? document : move_pieces(std::move(document), unit.pieces, by);
}

// Each unit by what `shift` says of its box and of what stays.
template <class Shift> Document placed(Document document, const Placing& placing, const Shift& shift) {
  const std::size_t n = placing.units.size() - (placing.last_stays ? 1 : 0);
  for (std::size_t i = 0; i < n; ++i)
    document = moved_by(std::move(document), placing.units[i], shift(placing.units[i].box, placing.stays));
  return document;
}

// From baseline to cap line, of straight and of bent runs alike.
Box with_capitals(Box ink, const SeatedText& text) {
  Box capitals;
  for (const PlacedLetter& l : text.letters)
    if (!l.blank()) {
      const double height = text.spaced->set->cap_height;
      const Affine upright = Affine::translation(l.origin - Point{}) * Affine::rotation(l.angle);
      capitals.add(upright({0, 0}));
      capitals.add(upright({0, -height}));
    }
  if (!capitals.empty())
    ink.y0 = capitals.y0, ink.y1 = capitals.y1;
  return ink;
}

} // namespace

Result<Box> placing_box(const Document& document, PieceId id, PlaceBy by, const DocumentEvaluator& evaluator) {
  const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat);
  if (!r)
    return r.error();
  if (r->ink.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing to measure yet; type some letters first"));
  if (by == PlaceBy::Capitals && r->seated != nullptr)
    return with_capitals(r->ink, *r->seated);
  if (by == PlaceBy::Area) {
    const Point at = area_centre(seated_outline(*r)).value_or(r->ink.centre());
    return Box{at.x, at.y, at.x, at.y};
  }
  if (by == PlaceBy::Room) {
    const auto room = r->seated == nullptr ? free_circle(seated_outline(*r)) : std::nullopt;
    const Point at = room ? room->centre : r->ink.centre();
    return Box{at.x, at.y, at.x, at.y};
  }
  return r->ink;
}

Result<Document> lined_up(const Document& document, const std::vector<PieceId>& ids, LineUp side,
                          const PlaceChoice& choice, const DocumentEvaluator& evaluator) {
  const Result<Placing> placing = placing_of(document, ids, choice, evaluator);
  if (!placing)
    return placing.error();
  return placed(document, *placing, [&](const Box& box, const Box& to) -> Vec {
    switch (side) {
    case LineUp::Left:
      return {to.x0 - box.x0, 0};
    case LineUp::Middle:
      return {to.centre().x - box.centre().x, 0};
    case LineUp::Right:
      return {to.x1 - box.x1, 0};
    case LineUp::Top:
      return {0, to.y0 - box.y0};
    case LineUp::Centre:
      return {0, to.centre().y - box.centre().y};
    case LineUp::Bottom:
      return {0, to.y1 - box.y1};
    }
    return {};
  });
}

Result<Document> centred(const Document& document, const std::vector<PieceId>& ids, const PlaceChoice& choice,
                         const DocumentEvaluator& evaluator) {
  const Result<Placing> placing = placing_of(document, ids, choice, evaluator);
  if (!placing)
    return placing.error();
  return placed(document, *placing, [](const Box& box, const Box& to) { return to.centre() - box.centre(); });
}

Result<Document> spread(const Document& document, const std::vector<PieceId>& ids, Spread way,
                        const PlaceChoice& choice, const DocumentEvaluator& evaluator) {
  Result<std::vector<Movable>> units = movables_of(document, ids, choice.by, evaluator);
  if (!units)
    return units.error();
  const bool sheet = choice.to == PlaceTo::Sheet;
  if (units->size() < (sheet ? 1U : 3U))
    return bad_input(FRELM_WORDS("core", "select three pieces or more that can move by themselves"));
  const bool across = way == Spread::Across;
  const auto low = [&](const Box& b) { return across ? b.x0 : b.y0; };
  const auto high = [&](const Box& b) { return across ? b.x1 : b.y1; };
  std::stable_sort(units->begin(), units->end(), [&](const Movable& a, const Movable& b) {
    return low(a.box) + high(a.box) < low(b.box) + high(b.box);
  });
  const std::size_t n = units->size();
  for (std::size_t i = sheet ? 0 : 1; i + (sheet ? 0 : 1) < n; ++i)
    if ((*units)[i].fixed())
      return bad_input(FRELM_WORDS("core", "one of the pieces is locked; unlock it to spread them"));
  double covered = 0;
  for (const Movable& u : *units)
    covered += high(u.box) - low(u.box);
  const double from = sheet ? 0 : low(units->front().box);
  const double to = sheet ? (across ? document.sheet.width : document.sheet.height) : high(units->back().box);
  const double gap = (to - from - covered) / static_cast<double>(sheet ? n + 1 : n - 1);
  Document out = document;
  double at = from + (sheet ? gap : 0);
  for (std::size_t i = 0; i < n; ++i) {
    const Box& box = (*units)[i].box;
    if (sheet || (i > 0 && i + 1 < n))
      out = moved_by(std::move(out), (*units)[i], across ? Vec{at - box.x0, 0} : Vec{0, at - box.y0});
    at += high(box) - low(box) + gap;
  }
  return out;
}

Result<Document> as_large(const Document& document, const std::vector<PieceId>& ids, AsLarge what,
                          const DocumentEvaluator& evaluator) {
  const std::vector<PieceUnit> parts = parts_to_place(document, ids);
  if (parts.size() < 2)
    return too_few(PlaceTo::Last);
  const auto seated = [&](const Document& d, PieceId id) { return evaluator.piece(d, id, Depth::Seat); };
  const auto capitals = [](const PieceResult& r) {
    return r.seated != nullptr ? r.seated->spaced->set->cap_height : 0;
  };
  const auto box_of = [&](const Document& d, const PieceUnit& part) -> Result<Box> {
    Box box;
    for (const PieceId id : part.pieces) {
      const Result<PieceResult> r = seated(d, id);
      if (!r)
        return r.error();
      box.add(r->ink);
    }
    return box;
  };
  const auto side_of = [&](const Box& box) { return what == AsLarge::Height ? box.height() : box.width(); };
  double target = 0;
  if (what == AsLarge::Capitals) {
    const Result<PieceResult> last = seated(document, parts.back().pieces.back());
    if (!last)
      return last.error();
    target = parts.back().group == 0 ? capitals(*last) : 0;
    if (!(target > 0))
      return bad_input(FRELM_WORDS("core", "the piece picked last has no letters"));
  } else {
    const Result<Box> last = box_of(document, parts.back());
    if (!last)
      return last.error();
    target = side_of(*last);
    if (!(target > 0))
      return bad_input(FRELM_WORDS("core", "the piece picked last has no such size"));
  }
  Document out = document;
  for (std::size_t i = 0; i + 1 < parts.size(); ++i) {
    const PieceId id = parts[i].pieces.back();
    const Piece* piece = out.find(id);
    const Result<Box> box = box_of(out, parts[i]);
    if (!box)
      return box.error();
    if (piece->locked)
      return bad_input(FRELM_WORDS("core", "the piece is locked; unlock it to change its size"));
    if (what == AsLarge::Capitals) {
      const Result<PieceResult> now = seated(out, id);
      if (!now)
        return now.error();
      if (parts[i].group != 0 || !(capitals(*now) > 0))
        return bad_input(FRELM_WORDS("core", "only letterings have capitals; select letterings"));
      out = scale_piece(std::move(out), id, box->centre(), target / capitals(*now), GuideScaling::Kept);
    } else if (what == AsLarge::Spread) {
      Result<Document> wide = with_spread_width(out, id, target, evaluator);
      if (!wide)
        return wide.error();
      out = std::move(*wide);
    } else if (!(side_of(*box) > 0)) {
      return bad_input(FRELM_WORDS("core", "one of the pieces has no such size"));
    } else if (parts[i].group != 0) {
      out = scale_pieces(std::move(out), parts[i].pieces, box->centre(), target / side_of(*box));
    } else if (piece->lettering() != nullptr) {
      Result<Document> sized = with_ink_size(out, id, what == AsLarge::Width ? InkSide::Width : InkSide::Height, target,
                                             GuideScaling::Kept, evaluator);
      if (!sized)
        return sized.error();
      out = std::move(*sized);
    } else {
      out = scale_piece(std::move(out), id, box->centre(), target / side_of(*box), GuideScaling::Along);
    }
  }
  return out;
}

namespace {

// What pieces draw, as they are seated; of a guide its line.
Result<Outline> drawn(const Document& document, const std::vector<PieceId>& ids, const DocumentEvaluator& evaluator) {
  constexpr double fine = 0.001; // mm, of arcs as cubics
  Outline out;
  for (const PieceId id : ids) {
    if (document.find(id)->guide() != nullptr) {
      const auto line = evaluator.guide(document, id);
      if (!line)
        return line.error();
      out.contours.push_back((*line)->curve->contour(fine));
      continue;
    }
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Seat);
    if (!r)
      return r.error();
    out.append(seated_outline(*r));
  }
  return out;
}

} // namespace

Result<Document> set_into(const Document& document, const std::vector<PieceId>& ids, IntoShape how,
                          const PlaceChoice& choice, const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  const Result<std::vector<Movable>> units = movables_of(document, ids, PlaceBy::Ink, evaluator);
  if (!units)
    return units.error();
  if (units->size() < 2)
    return too_few(PlaceTo::Last);
  const Result<Outline> shape = drawn(document, units->back().pieces, evaluator);
  if (!shape)
    return shape.error();
  if (parts_of(*shape).closed.empty())
    return bad_input(FRELM_WORDS("core", "the piece picked last has no inside; pick a closed shape last"));
  std::vector<PieceId> pieces;
  for (std::size_t i = 0; i + 1 < units->size(); ++i) {
    if ((*units)[i].fixed())
      return bad_input(FRELM_WORDS("core", "one of the pieces is locked; unlock it to set it into the shape"));
    pieces.insert(pieces.end(), (*units)[i].pieces.begin(), (*units)[i].pieces.end());
  }
  Document out = document;
  Result<Outline> item = drawn(out, pieces, evaluator);
  // What does not grow in proportion (rings, rounded corners) is measured and placed anew.
  constexpr int most_rounds = 6;
  constexpr double near_enough = 0.005; // mm
  for (int round = 0; round < most_rounds; ++round) {
    if (!item)
      return item.error();
    const std::optional<PlacedInside> placed =
        how == IntoShape::Largest ? largest_inside(*item, *shape, choice.margin, stop) : evenly_inside(*item, *shape);
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    if (!placed)
      return how == IntoShape::Largest
                 ? bad_input(FRELM_WORDS("core", "the shape has no room with that margin; make the margin smaller"))
                 : bad_input(FRELM_WORDS("core", "what is selected is too large for the shape; Largest inside makes it "
                                                 "smaller"));
    if (placed->scale != 1)
      out = scale_pieces(std::move(out), pieces, placed->about, placed->scale);
    out = move_pieces(std::move(out), pieces, placed->by);
    const Box wanted = item->transformed(placed->place()).bounds();
    item = drawn(out, pieces, evaluator);
    if (item && item->bounds().grown(near_enough).contains(wanted) &&
        wanted.grown(near_enough).contains(item->bounds()))
      break;
  }
  return out;
}

} // namespace frelm
