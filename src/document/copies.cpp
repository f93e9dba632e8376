#include "document/copies.h"

#include "document/arrange.h"
#include "document/copying.h"
#include "document/edits.h"

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

std::vector<Place> places_of(const StepCopies& order, const Box&, Point) {
  std::vector<Place> out;
  for (std::size_t i = 1; i <= order.count; ++i)
    out.push_back({order.step * double(i), order.turn * double(i)});
  return out;
}
std::vector<Place> places_of(const GridCopies& order, const Box& box, Point) {
  std::vector<Place> out;
  for (std::size_t row = 0; row < order.rows; ++row)
    for (std::size_t column = 0; column < order.columns; ++column)
      if (row + column > 0)
        out.push_back({{double(column) * (box.width() + order.gap.x), double(row) * (box.height() + order.gap.y)}, 0});
  return out;
}
std::vector<Place> places_of(const RingCopies& order, const Box& box, Point about) {
  std::vector<Place> out;
  constexpr double all_around = 360;
  const bool closed = std::abs(order.sweep) >= all_around;
  const double step = order.count < 2 ? 0 : order.sweep / double(closed ? order.count : order.count - 1);
  const Vec from = box.centre() - about;
  for (std::size_t i = 1; i < order.count; ++i) {
    const double angle = step * double(i);
    const Vec to = Affine::rotation(radians(angle)).linear(from);
    out.push_back({to - from, order.upright ? 0 : angle});
  }
  return out;
}

std::vector<Place> places_along(const AlongCopies& order, const Box& box, const Curve& line) {
  std::vector<Place> out;
  const double apart = order.count < 2 ? 0 : line.length() / double(line.closed() ? order.count : order.count - 1);
  for (std::size_t i = 0; i < order.count; ++i) {
    const CurvePlace at = line.at(std::min(apart * double(i), line.length()));
    out.push_back({at.point - box.centre(), order.upright ? 0 : degrees(std::atan2(at.tangent.y, at.tangent.x))});
  }
  return out;
}

std::size_t copies_of(const CopyOrder& order) {
  if (const auto* along = std::get_if<AlongCopies>(&order))
    return along->count;
  if (const auto* step = std::get_if<StepCopies>(&order))
    return step->count;
  if (const auto* grid = std::get_if<GridCopies>(&order))
    return grid->columns > most_copies || grid->rows > most_copies ? most_copies + 1 : grid->columns * grid->rows;
  return std::get<RingCopies>(order).count;
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
  const std::size_t copies = copies_of(order);
  if (copies > most_copies || out.source.size() * copies > most_copies)
    return bad_input(
        say(FRELM_WORDS("core", "that would be more than %1 pieces; copy fewer"), std::to_string(most_copies)));
  if (along != nullptr) {
    const auto line = evaluator.guide(document, ids.back());
    if (!line)
      return bad_input(FRELM_WORDS("core", "pick the line last that the copies are to follow: a guide or an outline"));
    out.places = places_along(*along, out.box, *(*line)->curve);
    return out;
  }
  out.places = std::visit(
      [&](const auto& o) {
        if constexpr (std::is_same_v<std::decay_t<decltype(o)>, AlongCopies>)
          return std::vector<Place>{};
        else
          return places_of(o, out.box, about);
      },
      order);
  return out;
}

} // namespace

Result<Copied> copied(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                      const DocumentEvaluator& evaluator, const std::stop_token& stop) {
  const Result<Planned> plan = planned(document, ids, order, evaluator, Measured::Exactly);
  if (!plan)
    return plan.error();
  const auto& [source, box, places] = *plan;
  const Document part = sub_document(document, source, CopyGuides::Along);
  std::vector<std::size_t> wanted; // of the part's pieces
  for (std::size_t i = 0; i < part.pieces.size(); ++i)
    if (std::find(source.begin(), source.end(), part.pieces[i]->id) != source.end())
      wanted.push_back(i);
  Copied out{document, source};
  for (const Place& place : places) {
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    Inserted copy = insert_part(out.document, part, CopyInto::SameJob, place.by);
    out.document = std::move(copy.document);
    std::vector<PieceId> mine;
    for (const std::size_t i : wanted)
      mine.push_back(copy.ids[i]);
    if (place.turn != 0)
      out.document = turn_pieces(std::move(out.document), mine, box.centre() + place.by, place.turn);
    out.ids.insert(out.ids.end(), mine.begin(), mine.end());
  }
  return out;
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
  const Document part = sub_document(document, ids, CopyGuides::Along);
  Inserted copy = insert_part(document, part, CopyInto::SameJob, Vec{left - box->x0, top - box->y0});
  Copied out{std::move(copy.document), {}};
  for (std::size_t i = 0; i < part.pieces.size(); ++i) {
    const Piece& p = *part.pieces[i];
    if (p.destination == Destination::Knife || p.destination == Destination::Pen)
      out.document =
          edit_piece(std::move(out.document), copy.ids[i], [](Piece& q) { q.destination = Destination::Off; });
    if (std::find(ids.begin(), ids.end(), p.id) != ids.end())
      out.ids.push_back(copy.ids[i]);
  }
  return out;
}

} // namespace frelm
