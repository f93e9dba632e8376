#include "document/copies.h"

#include "document/copying.h"
#include "document/edits.h"
#include "document/links.h"

namespace frelm {
namespace {

struct Place { // of one copy
  Vec by;
  double turn = 0; // degrees
};

// How pieces are measured: exactly, or in bounded time for the screen.
enum class Measured { Exactly, Now };

Result<Box> ink_of(const Document& document, const std::vector<PieceId>& ids, const DocumentEvaluator& evaluator,
                   Measured how) {
  Box box;
  for (const PieceId id : ids) {
    const Result<PieceResult> r =
        how == Measured::Now ? evaluator.seat_now(document, id) : evaluator.piece(document, id, Depth::Seat);
    if (!r)
      return r.error();
    box.add(r->ink);
  }
  if (box.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing to measure yet; type some letters first"));
  return box;
}

struct Where {                 // copies go from and to
  Box box;                     // that is copied
  Point about;                 // RingCopies
  const Curve* line = nullptr; // AlongCopies
};
std::vector<Place> places_of(const StepCopies& order, const Where&) {
  std::vector<Place> out;
  for (std::size_t i = 1; i <= order.count; ++i)
    out.push_back({order.step * double(i), order.turn * double(i)});
  return out;
}
std::vector<Place> places_of(const GridCopies& order, const Where& where) {
  std::vector<Place> out;
  const Vec step{where.box.width() + order.gap.x, where.box.height() + order.gap.y};
  for (std::size_t row = 0; row < order.rows; ++row)
    for (std::size_t column = 0; column < order.columns; ++column)
      if (row + column > 0)
        out.push_back({{double(column) * step.x, double(row) * step.y}, 0});
  return out;
}
std::vector<Place> places_of(const RingCopies& order, const Where& where) {
  std::vector<Place> out;
  constexpr double all_around = 360;
  const bool closed = std::abs(order.sweep) >= all_around;
  const double step = order.count < 2 ? 0 : order.sweep / double(closed ? order.count : order.count - 1);
  const Vec from = where.box.centre() - where.about;
  for (std::size_t i = 1; i < order.count; ++i) {
    const double angle = step * double(i);
    const Vec to = Affine::rotation(radians(angle)).linear(from);
    out.push_back({to - from, order.upright ? 0 : angle});
  }
  return out;
}
std::vector<Place> places_of(const AlongCopies& order, const Where& where) {
  std::vector<Place> out;
  const Curve& line = *where.line;
  const double apart = order.count < 2 ? 0 : line.length() / double(line.closed() ? order.count : order.count - 1);
  for (std::size_t i = 0; i < order.count; ++i) {
    const CurvePlace at = line.at(std::min(apart * double(i), line.length()));
    out.push_back({at.point - where.box.centre(), order.upright ? 0 : degrees(std::atan2(at.tangent.y, at.tangent.x))});
  }
  return out;
}

std::vector<Place> places_of(const NestedCopies&, const Where&) {
  return {}; // nested() finds them
}

// Never more than one too many.
std::size_t copies_of(const StepCopies& order) {
  return std::min(order.count, most_copies + 1);
}
std::size_t copies_of(const GridCopies& order) {
  return std::min(order.columns, most_copies + 1) * std::min(order.rows, most_copies + 1);
}
std::size_t copies_of(const RingCopies& order) {
  return std::min(order.count, most_copies + 1);
}
std::size_t copies_of(const AlongCopies& order) {
  return std::min(order.count, most_copies + 1);
}
std::size_t copies_of(const NestedCopies& order) {
  return std::min(order.count, most_copies + 1);
}

// What is copied, what it covers, and where to.
struct Planned {
  std::vector<PieceId> source;
  Box box;
  std::vector<Place> places;
};
Result<Planned> planned(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                        const DocumentEvaluator& evaluator, Measured how) {
  const auto* ring = std::get_if<RingCopies>(&order);
  Planned out{ids, {}, {}};
  const auto* along = std::get_if<AlongCopies>(&order);
  const bool about_last = ring != nullptr && ring->about_last && ids.size() > 1;
  if ((about_last || along != nullptr) && !out.source.empty())
    out.source.pop_back();
  if (out.source.empty())
    return along != nullptr ? bad_input(FRELM_WORDS("core", "select a piece, and last the line to follow"))
                            : bad_input(FRELM_WORDS("core", "select a piece to copy first"));
  const Result<Box> box = ink_of(document, out.source, evaluator, how);
  if (!box)
    return box.error();
  out.box = *box;
  Point about{document.sheet.width / 2, document.sheet.height / 2};
  if (about_last) {
    const Result<Box> last = ink_of(document, {ids.back()}, evaluator, how);
    if (!last)
      return last.error();
    about = last->centre();
  }
  const std::size_t copies = std::visit([](const auto& o) { return copies_of(o); }, order);
  if (copies > most_copies || out.source.size() * copies > most_copies)
    return bad_input(
        say(FRELM_WORDS("core", "that would be more than %1 pieces; copy fewer"), std::to_string(most_copies)));
  Where where{out.box, about};
  std::shared_ptr<const GuideLine> line;
  if (along != nullptr) {
    const auto found = evaluator.guide(document, ids.back());
    if (!found)
      return bad_input(FRELM_WORDS("core", "pick the line last that the copies are to follow: a guide or an outline"));
    line = *found;
    where.line = line->curve.get();
  }
  out.places = std::visit([&](const auto& o) { return places_of(o, where); }, order);
  return out;
}

// What comes along in a copy, and which of it was asked for.
struct Copying {
  Document part;
  std::vector<std::size_t> wanted; // among the part's pieces
  CopyLinks links = CopyLinks::Freed;
};
Copying copying_of(const Document& document, const std::vector<PieceId>& ids, CopyAs as = CopyAs::Free) {
  Copying out{
      sub_document(document, ids, CopyGuides::Along), {}, as == CopyAs::Linked ? CopyLinks::Kept : CopyLinks::Freed};
  for (std::size_t i = 0; i < out.part.pieces.size(); ++i)
    if (std::find(ids.begin(), ids.end(), out.part.pieces[i]->id) != ids.end())
      out.wanted.push_back(i);
  return out;
}
// With what comes along: all of it is linked.
Document linked_first(const Document& document, const std::vector<PieceId>& ids) {
  std::vector<PieceId> all;
  for (const auto& p : sub_document(document, ids, CopyGuides::Along).pieces)
    all.push_back(p->id);
  return with_links(document, all);
}
std::vector<PieceId> put_copy(Document& document, const Copying& copying, Vec by) {
  Inserted copy = insert_part(std::move(document), copying.part, CopyInto::SameJob, by, copying.links);
  document = std::move(copy.document);
  std::vector<PieceId> out;
  for (const std::size_t i : copying.wanted)
    out.push_back(copy.ids[i]);
  return out;
}

// The first of them is where what is there goes.
Result<std::vector<Place>> nested(const Document& document, const Planned& plan, const NestedCopies& order,
                                  const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  CutSheet cut;
  for (const PieceId id : plan.source) {
    const Result<PieceResult> r = evaluator.piece(document, id, Depth::Finish, Effort(stop));
    if (!r)
      return r.error();
    add_cut_layers(cut, *document.find(id), *r, SheetSide::Seen);
  }
  Outline shape;
  for (const CutPiece& p : cut.pieces)
    shape.append(p.outline);
  if (shape.empty())
    return bad_input(FRELM_WORDS("core", "nothing of it is cut, so there is nothing to place"));
  const PlacingWish wish{document.sheet.width, document.sheet.height, order.apart, order.margin, order.turn, stop, {}};
  const Result<PlacedShapes> placed = place_shapes({shape}, {order.count}, wish);
  if (!placed)
    return placed.error();
  std::vector<Place> out;
  for (const PlacedCopy& c : placed->copies)
    if (c.sheet == 0)
      out.push_back({c.place(plan.box.centre()) - plan.box.centre(), degrees(std::atan2(c.place.b, c.place.a))});
  if (placed->sheets > 1)
    return bad_input(say(FRELM_WORDS("core", "the sheet has room for %1 of them; make it larger, or fewer"),
                         std::to_string(out.size())));
  return out;
}

} // namespace

Result<Copied> copied(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                      const DocumentEvaluator& evaluator, CopyAs as, const std::stop_token& stop) {
  const Result<Planned> plan = planned(document, ids, order, evaluator, Measured::Exactly);
  if (!plan)
    return plan.error();
  const auto& [source, box, places] = *plan;
  const Document from = as == CopyAs::Linked ? linked_first(document, source) : document;
  const Copying copying = copying_of(from, source, as);
  Copied out{from, source};
  std::vector<Place> to = places;
  if (const auto* nest = std::get_if<NestedCopies>(&order)) {
    const Result<std::vector<Place>> found = nested(document, *plan, *nest, evaluator, stop);
    if (!found)
      return found.error();
    to = *found;
    const Place own = to.front(); // of what is there, which the copies are made from
    to.erase(to.begin());
    out.document = move_pieces(std::move(out.document), source, own.by);
    if (own.turn != 0)
      out.document = turn_pieces(std::move(out.document), source, box.centre() + own.by, own.turn);
  }
  for (const Place& place : to) {
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    const std::vector<PieceId> mine = put_copy(out.document, copying, place.by);
    if (place.turn != 0)
      out.document = turn_pieces(std::move(out.document), mine, box.centre() + place.by, place.turn);
    out.ids.insert(out.ids.end(), mine.begin(), mine.end());
  }
  return out;
}

Copied copied_and_changed(const Document& document, const std::vector<PieceId>& ids, const Change& change,
                          const Box& ink) {
  Document with = document;
  std::vector<PieceId> copies = put_copy(with, copying_of(document, ids), {});
  Document made = changed(with, copies, change, ink);
  return made == with ? Copied{document, {}} : Copied{std::move(made), std::move(copies)};
}

Result<Outline> copies_shown(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                             const DocumentEvaluator& evaluator) {
  const Result<Planned> plan = planned(document, ids, order, evaluator, Measured::Now);
  if (!plan)
    return plan.error();
  Outline one;
  for (const PieceId id : plan->source)
    if (const Result<PieceResult> r = evaluator.seat_now(document, id))
      one.append(seated_outline(*r));
  constexpr std::size_t most_nodes = 100'000;
  Outline out;
  for (const Place& place : plan->places) {
    if (out.node_count() + one.node_count() > most_nodes)
      break;
    const Affine turn = Similarity::turning_about(plan->box.centre(), place.turn).affine();
    out.append(one.transformed(Affine::translation(place.by) * turn));
  }
  return out;
}

Result<Copied> parked(const Document& document, const std::vector<PieceId>& ids, const DocumentEvaluator& evaluator) {
  if (ids.empty())
    return bad_input(FRELM_WORDS("core", "select a piece to put aside first"));
  const Result<Box> box = ink_of(document, ids, evaluator, Measured::Now);
  if (!box)
    return box.error();
  constexpr double beside = 20, under = 10; // mm
  const double left = document.sheet.width + beside;
  double top = 0;
  for (const auto& p : document.pieces)
    if (const Result<PieceResult> r = evaluator.seat_now(document, p->id); r && !r->ink.empty() && r->ink.x1 > left)
      top = std::max(top, r->ink.y1 + under);
  Copying copying = copying_of(document, ids);
  for (std::shared_ptr<const Piece>& p : copying.part.pieces)
    if (p->destination == Destination::Knife || p->destination == Destination::Pen) {
      Piece aside = *p;
      aside.destination = Destination::Off;
      p = std::make_shared<const Piece>(std::move(aside));
    }
  Copied out{document, {}};
  out.ids = put_copy(out.document, copying, Vec{left - box->x0, top - box->y0});
  return out;
}

} // namespace frelm
