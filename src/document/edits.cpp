#include "document/edits.h"

#include "document/following.h"
#include "document/measure.h"
#include "geom/arc_cubics.h"
#include "lettering/seat.h"
#include "lettering/set_text.h"

#include <algorithm>
#include <map>
#include <set>

namespace frelm {
namespace {

constexpr double least_line = 1e-6; // mm; shorter lines are none

} // namespace

void move_piece(Piece& piece, Vec by) {
  if (Lettering* l = piece.lettering()) {
    l->placement.at += by;
    for (GuideRef* ref : l->recipe.bend.remembered())
      if (ref->own)
        ref->own = transformed(*ref->own, Similarity::move(by));
  } else if (Guide* g = piece.guide()) {
    g->shape = transformed(g->shape, Similarity::move(by));
  } else if (OutlinePiece* o = piece.outline()) {
    const Affine m = Affine::translation(by);
    o->outline = std::make_shared<const Outline>(o->outline->transformed(m));
    if (o->origin != nullptr)
      o->moved = m * o->moved;
  }
}

namespace {

void scale_recipe(Recipe& recipe, double k, GuideScaling guide) {
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

std::vector<PieceId> sources_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  const auto* pieces = l != nullptr ? std::get_if<PiecesSource>(&l->recipe.source) : nullptr;
  return pieces != nullptr ? pieces->pieces : std::vector<PieceId>{};
}

Added add_piece(Document document, Piece piece) {
  piece.id = document.next_id++;
  const PieceId id = piece.id;
  document.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
  return {std::move(document), id};
}

Document edit_piece(Document document, PieceId id, const std::function<void(Piece&)>& change) {
  const std::size_t i = document.index_of(id);
  if (i == document.pieces.size())
    return document;
  auto piece = std::make_shared<Piece>(*document.pieces[i]);
  change(*piece);
  piece->id = id;
  document.pieces[i] = std::move(piece);
  return document;
}

Removed remove_pieces(Document document, const std::vector<PieceId>& ids) {
  Removed out;
  std::set<PieceId> gone(ids.begin(), ids.end());
  for (const PieceId source : sources_only_of(document, ids))
    gone.insert(source);
  std::set<PieceId> riders;
  for (const PieceId id : gone) {
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->lettering() != nullptr)
      continue;
    std::vector<PieceId> riding = riders_of(document, id);
    std::erase_if(riding, [&](PieceId rider) { return gone.contains(rider); });
    if (!riding.empty() && own_shape(document, id).ok())
      out.guides.push_back(*piece);
    riders.insert(riding.begin(), riding.end());
  }
  out.riders.assign(riders.begin(), riders.end());
  Document left = document;
  std::erase_if(left.pieces, [&](const auto& p) { return gone.contains(p->id); });
  out.document = detached(document, std::move(left));
  return out;
}

Document bring_back_guide(Document document, const Piece& guide) {
  if (document.find(guide.id) == nullptr)
    document.pieces.insert(document.pieces.begin(), std::make_shared<const Piece>(guide));
  for (const PieceId rider : riders_of(document, guide.id))
    document = edit_piece(std::move(document), rider, [&](Piece& p) {
      for (GuideRef* ref : p.lettering()->recipe.bend.remembered())
        if (ref->guide == guide.id)
          ref->own.reset();
    });
  return document;
}

Document straighten(Document document, const std::vector<PieceId>& ids,
                    const std::function<Point(PieceId)>& ink_centre) {
  for (const PieceId id : ids) {
    const Point centre = ink_centre(id);
    document = edit_piece(std::move(document), id, [&](Piece& p) {
      if (Lettering* l = p.lettering()) {
        l->recipe.bend.kind = BendKind::Straight;
        const Letters* letters = l->recipe.letters();
        l->placement = {{centre.x, centre.y + (letters != nullptr ? letters->size / 2 : 0)}, 0};
      }
    });
  }
  return document;
}

Document move_pieces(Document document, const std::vector<PieceId>& ids, Vec by) {
  std::set<PieceId> moving;
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr || piece->locked)
      continue;
    const std::vector<PieceId> guides = guides_under(document, *piece);
    for (const PieceId guide : guides.empty() ? std::vector<PieceId>{id} : guides)
      for (const PieceId carrier : carriers_of(document, guide))
        moving.insert(carrier);
    if (piece->lettering() != nullptr && !piece->lettering()->recipe.bend.placed_by_guides())
      moving.insert(id);
  }
  for (const PieceId id : moving)
    if (const Piece* piece = document.find(id); piece != nullptr && !piece->locked)
      document = edit_piece(std::move(document), id, [&](Piece& p) { move_piece(p, by); });
  return document;
}

Document scale_piece(Document document, PieceId id, Point about, double k, GuideScaling scaling) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked || !(k > 0) || !std::isfinite(k))
    return document;
  const Affine m = Affine::scaling_about(about, k, k);
  const std::vector<PieceId> sources = sources_of(document, id);
  if (scaling == GuideScaling::Along)
    for (const PieceId guide : guides_under(document, *piece))
      for (const PieceId carrier : carriers_of(document, guide))
        if (const Piece* c = document.find(carrier); c != nullptr && !c->locked)
          document = scale_piece(std::move(document), carrier, about, k, GuideScaling::Along);
  for (const PieceId source : sources) // they stand in the block's own frame
    document = scale_piece(std::move(document), source, {}, k, GuideScaling::Along);
  return edit_piece(std::move(document), id, [&](Piece& p) {
    if (Lettering* l = p.lettering()) {
      if (auto* drawn = std::get_if<OutlineSource>(&l->recipe.source); drawn != nullptr && drawn->outline != nullptr)
        drawn->outline = std::make_shared<const Outline>(drawn->outline->transformed(Affine::scaling(k, k)));
      scale_recipe(l->recipe, k, scaling);
      if (scaling == GuideScaling::Along) {
        l->placement.at = m(l->placement.at);
        for (GuideRef* ref : l->recipe.bend.remembered())
          if (ref->own)
            ref->own = transformed(*ref->own, Similarity::scaling_about(about, k));
      }
    } else if (Guide* g = p.guide()) {
      g->shape = transformed(g->shape, Similarity::scaling_about(about, k));
    } else if (OutlinePiece* o = p.outline()) {
      o->outline = std::make_shared<const Outline>(o->outline->transformed(m));
      if (o->origin != nullptr)
        o->moved = m * o->moved;
    }
  });
}

Document reorder_piece(Document document, PieceId id, std::size_t index) {
  const std::size_t from = document.index_of(id);
  if (from == document.pieces.size())
    return document;
  auto piece = document.pieces[from];
  document.pieces.erase(document.pieces.begin() + static_cast<std::ptrdiff_t>(from));
  index = std::min(index, document.pieces.size());
  document.pieces.insert(document.pieces.begin() + static_cast<std::ptrdiff_t>(index), std::move(piece));
  return document;
}

Piece new_lettering(Document& document, const std::u32string& text, Point at) {
  Piece piece;
  Lettering lettering;
  Letters letters;
  letters.text = retyped({}, text, document.next_id);
  lettering.recipe.source = std::move(letters);
  lettering.placement.at = at;
  piece.content = std::move(lettering);
  return piece;
}

Piece new_guide(GuideShape shape) {
  Piece piece;
  piece.colour = {0x0f, 0x6e, 0x73};
  piece.destination = Destination::Guide;
  piece.content = Guide{std::move(shape)};
  return piece;
}

Piece new_circle(Point centre, double radius) {
  return new_guide(CircleGuide{centre, radius, 0});
}

void ride_on(Lettering& lettering, PieceId guide, const GuideLine& line) {
  Bend& bend = lettering.recipe.bend;
  bend.kind = BendKind::Guide;
  bend.guide.guide = guide;
  bend.guide.own.reset();
  const bool open = !line.curve->closed();
  if (open && bend.guide.by == AlongBy::Angle) {
    bend.guide.by = AlongBy::Percent;
    bend.guide.percent = 50;
  }
  if (line.sense == GuideSense::Round && open) { // a spiral is read from its first winding on
    bend.guide.anchor = Anchor::StartsAt;
    bend.guide.percent = 0;
  }
  if (!open && bend.guide.by == AlongBy::Percent)
    bend.guide.by = AlongBy::Angle;
}

void turn_tops(Lettering& lettering, Tops tops) {
  GuideBend& bend = lettering.recipe.bend.guide;
  if (bend.tops == tops)
    return;
  bend.tops = tops;
  bend.percent = bend.anchor == Anchor::CentredAt ? 100 - bend.percent : bend.percent;
}

namespace {

// Another number of lines, or one of them opened or closed.
bool torn(const Outline& before, const Outline& after) {
  return !std::equal(before.contours.begin(), before.contours.end(), after.contours.begin(), after.contours.end(),
                     [](const Contour& a, const Contour& b) { return a.closed == b.closed; });
}

// What follows a piece whose lines were torn or joined keeps the curve it had.
Document keep_curves(const Document& before, Document after, PieceId id) {
  const auto same = [](const Result<std::shared_ptr<const GuideLine>>& a,
                       const Result<std::shared_ptr<const GuideLine>>& b) {
    return a.ok() && b.ok() && (*a)->curve->closed() == (*b)->curve->closed() &&
           (*a)->curve->length() == (*b)->curve->length() && (*a)->curve->at(0).point == (*b)->curve->at(0).point;
  };
  for (const PieceId follower : followers_of(before, id))
    if (!same(resolve_guide(before, follower), resolve_guide(after, follower)))
      if (const Result<GuideShape> own = own_shape(before, follower); own)
        after = edit_piece(std::move(after), follower, [&](Piece& p) { p.guide()->shape = *own; });
  if (same(resolve_guide(before, id), resolve_guide(after, id)))
    return after;
  const Result<GuideShape> own = own_shape(before, id);
  for (const PieceId rider : own.ok() ? riders_of(before, id) : std::vector<PieceId>{})
    after = edit_piece(std::move(after), rider, [&](Piece& p) {
      for (GuideRef* ref : p.lettering()->recipe.bend.remembered())
        if (ref->guide == id)
          ref->guide = 0, ref->own = *own;
    });
  return after;
}

} // namespace

Document edit_nodes(Document document, PieceId id, const std::function<Outline(Outline)>& change) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->locked || piece->lettering() != nullptr)
    return document;
  const Result<Outline> before = nodes_of(document, id);
  if (!before)
    return document;
  Outline after = change(*before);
  std::erase_if(after.contours, [](const Contour& c) { return c.segments.empty() || !(c.length() > least_line); });
  if (after == *before || after.empty())
    return document;
  const bool tears = torn(*before, after);
  Document out = document;
  if (piece->outline() != nullptr) {
    out = edit_piece(std::move(out), id, [&](Piece& p) {
      p.outline()->outline = std::make_shared<const Outline>(std::move(after));
      p.outline()->reshaped = p.outline()->origin != nullptr;
    });
  } else {
    // A guide is one curve: what a break leaves over becomes a guide of its own.
    Piece rest = *piece;
    out = edit_piece(std::move(out), id,
                     [&](Piece& p) { p.guide()->shape = PathGuide{std::move(after.contours.front())}; });
    for (std::size_t i = 1; i < after.contours.size(); ++i) {
      rest.content = Guide{PathGuide{std::move(after.contours[i])}};
      out = add_piece(std::move(out), rest).document;
    }
  }
  if (tears)
    out = keep_curves(document, std::move(out), id);
  return detached(document, std::move(out));
}

Result<Outline> nodes_of(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->lettering() != nullptr)
    return bad_input("choose a guide or an outline; letters get nodes when they are released");
  if (const OutlinePiece* o = piece->outline())
    return *o->outline;
  if (const auto* path = std::get_if<PathGuide>(&piece->guide()->shape))
    return Outline{{path->contour}};
  const auto line = resolve_guide(document, id);
  if (!line)
    return line.error();
  return Outline{{(*line)->curve->contour(default_arc_tolerance)}};
}

Document set_tweak(Document document, PieceId id, const LetterTweak& tweak) {
  return edit_piece(std::move(document), id, [&](Piece& p) {
    if (Lettering* l = p.lettering()) {
      std::erase_if(l->recipe.tweaks, [&](const LetterTweak& t) { return t.id == tweak.id; });
      if (!tweak.idle())
        l->recipe.tweaks.push_back(tweak);
      std::sort(l->recipe.tweaks.begin(), l->recipe.tweaks.end(),
                [](const LetterTweak& a, const LetterTweak& b) { return a.id < b.id; });
    }
  });
}

Said piece_name(const Piece& piece, Unit unit) {
  const auto mm = [unit](double v) { return format_length(v, unit); };
  if (!piece.name.empty())
    return as_it_is(piece.name);
  if (const Guide* guide = piece.guide()) {
    if (const CircleGuide* circle = guide->circle())
      return say(FRELM_WORDS("core", "Circle r %1"), mm(circle->radius));
    if (const auto* band = std::get_if<BandGuide>(&guide->shape))
      return say(FRELM_WORDS("core", "Band %1 to %2"), mm(band->inner), mm(band->outer));
    if (const auto* spiral = std::get_if<SpiralGuide>(&guide->shape))
      return say(FRELM_WORDS("core", "Spiral, pitch %1"), mm(spiral->pitch));
    return say(shape_name(guide->shape));
  }
  if (const Lettering* l = piece.lettering()) {
    if (const Letters* letters = l->recipe.letters()) {
      std::u32string text = cased(plain_text(letters->text), letters->capitals);
      std::replace(text.begin(), text.end(), U'\n', U' ');
      std::string out = to_utf8(text);
      return out.find_first_not_of(' ') == std::string::npos ? say(FRELM_WORDS("core", "Empty lettering"))
                                                             : as_it_is(std::move(out));
    }
    return say(FRELM_WORDS("core", "Made from pieces"));
  }
  return say(FRELM_WORDS("core", "Outline"));
}

Said piece_name(const Document& document, const Piece& piece) {
  if (const Guide* g = piece.guide(); g != nullptr && piece.name.empty())
    if (const auto* edge = std::get_if<OutlineGuide>(&g->shape))
      if (const Piece* of = document.find(edge->of); of != nullptr && of->guide() == nullptr)
        return say(FRELM_WORDS("core", "Edge of %1"), piece_name(*of, document.unit));
  return piece_name(piece, document.unit);
}

std::string display_name(const Piece& piece, Unit unit) {
  return english(piece_name(piece, unit));
}

std::string display_name(const Document& document, const Piece& piece) {
  return english(piece_name(document, piece));
}

} // namespace frelm
