// A lettering that stands on a guide is moved by moving what carries the guide, each carrier once. Scaling takes every
// length of a recipe along; sources of a block are scaled in the block's own frame.
#include "document/arrange.h"

#include "document/edits.h"
#include "document/outline_edits.h"

#include <set>

namespace frelm {
namespace {

void scale_recipe(Recipe& recipe, double k, GuideScaling guide) {
  if (auto* drawn = std::get_if<OutlineSource>(&recipe.source); drawn != nullptr && drawn->outline != nullptr)
    drawn->outline = std::make_shared<const Outline>(drawn->outline->transformed(Affine::scaling(k, k)));
  if (Letters* l = recipe.letters())
    l->size *= k;
  recipe.spacing.letter *= k;
  recipe.spacing.word *= k;
  recipe.spacing.gap *= k;
  recipe.spacing.least_gap *= k;
  recipe.bend.offset *= k;
  recipe.spacing.length *= k;
  if (recipe.bend.rails.depth_in == DepthIn::Millimetre)
    for (RailEdge* edge : {&recipe.bend.rails.top, &recipe.bend.rails.bottom})
      edge->first.depth *= k, edge->plus.depth *= k;
  recipe.bend.rails.fill.margin *= k;
  for (NetPeg& peg : recipe.bend.net.net.pegs)
    peg.at = peg.at * k, peg.along = peg.along * k, peg.down = peg.down * k, peg.twist = peg.twist * k;
  if (guide == GuideScaling::Kept)
    return;
  recipe.bend.guide.distance *= k;
  if (recipe.bend.arc.by != ArcBy::Sweep)
    recipe.bend.arc.value *= k;
}

// The pieces that a lettering's bend follows.
std::vector<PieceId> guides_under(const Document& document, const Piece& piece) {
  std::vector<PieceId> out;
  if (const Lettering* l = piece.lettering())
    for (const GuideRef* ref : l->recipe.bend.followed())
      if (const Piece* guide = guide_piece(document, *ref))
        out.push_back(guide->id);
  return out;
}
} // namespace

namespace {

// A place that is said by its angle is seen from the guide's centre, however that is turned.
void turn_on_guide(Lettering& l, double angle) {
  l.recipe.bend.guide.angle = wrap_degrees(l.recipe.bend.guide.angle + angle);
}

// By a move, a turn and a scaling; a link's pose keeps in step.
void carry(Piece& piece, const Similarity& by) {
  const Affine m = by.affine();
  if (piece.link)
    piece.link->pose = m * piece.link->pose;
  if (Lettering* l = piece.lettering()) {
    if (by.scale != 1)
      scale_recipe(l->recipe, by.scale, GuideScaling::Along);
    l->placement.at = m(l->placement.at);
    if (by.angle != 0)
      l->placement.angle = wrap_degrees(l->placement.angle + by.angle);
    if (by.angle != 0 && l->recipe.bend.guide.own)
      turn_on_guide(*l, by.angle);
    for (GuideRef* ref : l->recipe.bend.remembered())
      if (ref->own)
        ref->own = transformed(*ref->own, by);
  } else if (Guide* g = piece.guide()) {
    g->shape = transformed(g->shape, by);
  } else if (OutlinePiece* o = piece.outline()) {
    o->outline = std::make_shared<const Outline>(o->outline->transformed(m));
    if (o->origin != nullptr)
      o->moved = m * o->moved;
  }
}

void turn_over(Piece& piece, const Affine& by) {
  OutlinePiece& o = *piece.outline();
  o.outline = std::make_shared<const Outline>(turned_over(*o.outline, by));
  if (o.origin != nullptr)
    o.moved = by * o.moved;
  if (piece.link)
    piece.link->pose = by * piece.link->pose;
}

Similarity similarity_of(const Affine& m) {
  constexpr double rounding = 1e-12;
  Similarity out{std::sqrt(std::abs(m.determinant())), degrees(std::atan2(m.b, m.a)), {m.e, m.f}};
  if (std::abs(out.scale - 1) < rounding)
    out.scale = 1;
  if (std::abs(out.angle) < rounding)
    out.angle = 0;
  return out;
}

Document carry_all(Document document, const std::vector<PieceId>& ids, const Similarity& by) {
  std::set<PieceId> moving;
  for (const PieceId id : ids)
    moving.merge(moving_with(document, id));
  for (const PieceId id : moving)
    if (const Piece* piece = document.find(id); piece != nullptr && !piece->locked)
      document = edit_piece(std::move(document), id, [&](Piece& p) { carry(p, by); });
  std::vector<PieceId> riders;
  for (const auto& p : document.pieces)
    if (const Lettering* l = p->lettering();
        l != nullptr && (by.angle != 0 || p->link) && moving.contains(l->recipe.bend.guide.guide))
      if (const Piece* guide = guide_piece(document, l->recipe.bend.guide); guide != nullptr && !guide->locked)
        riders.push_back(p->id);
  for (const PieceId id : riders)
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (p.link && p.lettering()->recipe.bend.rides() && !moving.contains(p.id))
        carry(p, by); // its pose goes with its guide
      if (by.angle != 0)
        turn_on_guide(*p.lettering(), by.angle);
    });
  return document;
}

} // namespace

void move_piece(Piece& piece, Vec by) {
  carry(piece, Similarity::move(by));
}

void pose_piece(Piece& piece, const Affine& by) {
  if (OutlinePiece* o = piece.outline(); o != nullptr && by.determinant() < 0) {
    turn_over(piece, by);
    return;
  }
  const Similarity similarity = similarity_of(by);
  carry(piece, similarity);
  if (Lettering* l = piece.lettering(); l != nullptr && !l->recipe.bend.guide.own)
    turn_on_guide(*l, similarity.angle);
}

std::set<PieceId> moving_with(const Document& document, PieceId id) {
  std::set<PieceId> moving;
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked)
    return moving;
  const std::vector<PieceId> guides = guides_under(document, *piece);
  for (const PieceId guide : guides.empty() ? std::vector<PieceId>{id} : guides)
    for (const PieceId carrier : carriers_of(document, guide))
      moving.insert(carrier);
  if (piece->lettering() != nullptr && !piece->lettering()->recipe.bend.placed_by_guides())
    moving.insert(id);
  return moving;
}

std::set<PieceId> carried_along(const Document& document, const std::vector<PieceId>& ids) {
  std::set<PieceId> out(ids.begin(), ids.end());
  for (const PieceId id : ids)
    out.merge(moving_with(document, id));
  for (const auto& p : document.pieces)
    if (const Lettering* l = p->lettering())
      for (const GuideRef* ref : l->recipe.bend.followed())
        if (out.contains(ref->guide))
          out.insert(p->id);
  return out;
}

Document move_pieces(Document document, const std::vector<PieceId>& ids, Vec by) {
  return carry_all(std::move(document), ids, Similarity::move(by));
}

Document stacked_on(Document document, const std::vector<PieceId>& ids, PieceId on) {
  const std::set<PieceId> moves(ids.begin(), ids.end());
  std::vector<std::shared_ptr<const Piece>> taken, rest;
  std::size_t at = 0;
  bool behind = on == 0; // all that comes now
  for (const auto& p : document.pieces) {
    (moves.contains(p->id) ? taken : rest).push_back(p);
    if (!behind) {
      at = rest.size();
      behind = p->id == on;
    }
  }
  rest.insert(rest.begin() + static_cast<std::ptrdiff_t>(at), taken.begin(), taken.end());
  document.pieces = std::move(rest);
  return document;
}

Document stacked(Document document, const std::vector<PieceId>& ids, Stacking where) {
  const std::set<PieceId> moves(ids.begin(), ids.end());
  std::size_t lowest = document.pieces.size(), highest = 0; // of those that move
  std::vector<PieceId> rest;
  std::vector<std::size_t> places; // of the rest
  for (std::size_t i = 0; i < document.pieces.size(); ++i) {
    const PieceId id = document.pieces[i]->id;
    if (moves.contains(id))
      lowest = std::min(lowest, i), highest = i;
    else
      rest.push_back(id), places.push_back(i);
  }
  if (rest.empty() || lowest == document.pieces.size())
    return document;
  const auto above = [&](std::size_t place) { // how many of the rest stand below it
    return static_cast<std::size_t>(std::lower_bound(places.begin(), places.end(), place) - places.begin());
  };
  std::size_t below = 0; // so many of the rest shall stand below
  switch (where) {
  case Stacking::Front:
    below = rest.size();
    break;
  case Stacking::Forward:
    below = std::min(above(highest) + 1, rest.size());
    break;
  case Stacking::Backward:
    below = above(lowest) - std::min<std::size_t>(above(lowest), 1);
    break;
  case Stacking::Back:
    break;
  }
  return stacked_on(std::move(document), ids, below == 0 ? 0 : rest[below - 1]);
}

Document turn_pieces(Document document, const std::vector<PieceId>& ids, Point about, double by) {
  return carry_all(std::move(document), ids, Similarity::turning_about(about, by));
}

Document mirror_outlines(Document document, const std::vector<PieceId>& ids, Point about, MirrorWay way) {
  const Affine m = Affine::scaling_about(about, way == MirrorWay::Across ? -1 : 1, way == MirrorWay::Across ? 1 : -1);
  for (const PieceId id : ids)
    if (const Piece* piece = document.find(id); piece != nullptr && !piece->locked && piece->outline() != nullptr)
      document = edit_piece(std::move(document), id, [&](Piece& p) { turn_over(p, m); });
  return document;
}

Document lean_outlines(Document document, const std::vector<PieceId>& ids, Point about, double degrees) {
  if (!(std::abs(degrees) <= most_lean))
    return document;
  const double k = std::tan(radians(degrees)); // to the right above `about`
  const Affine m{1, 0, -k, 1, k * about.y, 0};
  for (const PieceId id : ids)
    if (const Piece* piece = document.find(id); piece != nullptr && piece->outline() != nullptr)
      document = edit_nodes(std::move(document), id, [&](const Outline& o) { return o.transformed(m); });
  return document;
}

namespace {

// With the pieces that a block is made of, without what it rides on.
Document scale_alone(Document document, PieceId id, Point about, double k, GuideScaling scaling) {
  for (const PieceId source : sources_of(document, id)) // they stand in the block's own frame
    document = scale_piece(std::move(document), source, {}, k, GuideScaling::Along);
  const bool grows = document.finish_grows;
  return edit_piece(std::move(document), id, [&](Piece& p) {
    if (Lettering* l = p.lettering(); l != nullptr && scaling == GuideScaling::Kept)
      scale_recipe(l->recipe, k, scaling);
    else
      carry(p, Similarity::scaling_about(about, k));
    if (Finish* finish = p.finish(); grows && finish != nullptr && !p.link)
      scale_finish(*finish, k);
  });
}

} // namespace

Document scale_piece(Document document, PieceId id, Point about, double k, GuideScaling scaling) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked || !(k > 0) || !std::isfinite(k))
    return document;
  if (scaling == GuideScaling::Along)
    for (const PieceId guide : guides_under(document, *piece))
      for (const PieceId carrier : carriers_of(document, guide))
        if (const Piece* c = document.find(carrier); c != nullptr && !c->locked)
          document = scale_piece(std::move(document), carrier, about, k, GuideScaling::Along);
  return scale_alone(std::move(document), id, about, k, scaling);
}

Point at_share(const Box& box, Point share) {
  return {box.x0 + share.x * box.width(), box.y0 + share.y * box.height()};
}

Point share_of(const Box& box, Point place) {
  const auto share = [](double at, double low, double high) { return high > low ? (at - low) / (high - low) : 0.5; };
  return {share(place.x, box.x0, box.x1), share(place.y, box.y0, box.y1)};
}

Document changed(Document document, const std::vector<PieceId>& ids, const Change& change, const Box& ink) {
  const Point about = at_share(ink, change.about);
  if (change.mirror)
    document = mirror_outlines(std::move(document), ids, about, *change.mirror);
  if (change.scale != 1)
    document = scale_pieces(std::move(document), ids, about, change.scale);
  if (change.lean != 0)
    document = lean_outlines(std::move(document), ids, about, change.lean);
  if (change.turn != 0)
    document = turn_pieces(std::move(document), ids, about, change.turn);
  return change.by == Vec{} ? document : move_pieces(std::move(document), ids, change.by);
}

Document scale_pieces(Document document, const std::vector<PieceId>& ids, Point about, double k) {
  if (!(k > 0) || !std::isfinite(k))
    return document;
  std::set<PieceId> all;
  std::vector<PieceId> look = ids;
  while (!look.empty()) {
    const PieceId id = look.back();
    look.pop_back();
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->locked || !all.insert(id).second)
      continue;
    for (const PieceId guide : guides_under(document, *piece))
      for (const PieceId carrier : carriers_of(document, guide))
        look.push_back(carrier);
  }
  for (const PieceId id : all)
    document = scale_alone(std::move(document), id, about, k, GuideScaling::Along);
  return document;
}

} // namespace frelm
