// The finished outline (or the letters, or the lines) takes the lettering's place in the drawing order; the lettering
// with what it follows goes into the first outline's origin. Reopening moves it by what the outlines were moved since.
#include "document/release.h"
#include "document/arrange.h"
#include "document/piece_name.h"

#include "document/edits.h"
#include "document/following.h"
#include "document/references.h"

#include <map>
#include <set>

namespace frelm {
namespace {

struct Part {
  std::string name;
  Outline outline;
  std::optional<Colour> colour = {};
  std::optional<Destination> destination = {};
  std::size_t layer = 0; // from the back
};

// Each layer becomes a part, as it is cut with the whole.
void add_layers(std::vector<Part>& parts, const std::string& name, const Finished& finished, const Finished& whole) {
  for (std::size_t i = 0; i < finished.layers.size(); ++i) {
    const Layer& l = finished.layers[i];
    Part part{name, whole.as_cut_of(*l.outline), l.colour, l.destination, i};
    if (l.role != LayerRole::Letters)
      part.name += " · " + layer_id(l.role, l.number);
    if (!part.outline.empty())
      parts.push_back(std::move(part));
  }
}

std::u32string characters(const Letters& letters, std::size_t first, std::size_t count) {
  return cased(plain_text(letters.text), letters.capitals).substr(first, count);
}

Result<std::vector<Part>> parts_of(const Piece& piece, const PieceResult& result, ReleaseAs as, Unit unit,
                                   const std::stop_token& stop) {
  const Lettering& lettering = *piece.lettering();
  const Letters* letters = lettering.recipe.letters();
  std::vector<Part> parts;
  if (as == ReleaseAs::OnePiece || letters == nullptr || result.seated == nullptr) {
    if (result.finished != nullptr)
      add_layers(parts, display_name(piece, unit), *result.finished, *result.finished);
    else
      parts.push_back({display_name(piece, unit), *result.outline});
    return parts;
  }
  const SeatedText& text = *result.seated;
  std::vector<std::vector<const PlacedLetter*>> groups;
  std::vector<std::string> names;
  const std::vector<std::u32string> lines = split_lines(cased(plain_text(letters->text), letters->capitals));
  std::size_t last_line = static_cast<std::size_t>(-1);
  for (const PlacedLetter& l : text.letters) {
    if (l.blank())
      continue;
    if (as == ReleaseAs::ByLetter || l.line != last_line) {
      groups.emplace_back();
      names.push_back(to_utf8(as == ReleaseAs::ByLetter ? characters(*letters, l.first, l.count) : lines[l.line]));
    }
    last_line = l.line;
    groups.back().push_back(&l);
  }
  for (std::size_t i = 0; i < groups.size(); ++i) {
    std::vector<Outline> outlines;
    for (const PlacedLetter* l : groups[i])
      outlines.push_back(l->shape->transformed(l->placement()));
    const auto finished = finish([&] { return outlines; }, nullptr, lettering.recipe.finish, {.stop = stop});
    if (!finished)
      return finished.error();
    const std::size_t first = parts.size(), line = groups[i].front()->line;
    add_layers(parts, names[i], **finished, result.finished != nullptr ? *result.finished : **finished);
    for (std::size_t k = first; k < parts.size(); ++k)
      if (as == ReleaseAs::ByLine && line < lettering.line_colours.size() && !parts[k].colour)
        parts[k].colour = lettering.line_colours[line];
  }
  // No letter's border over its neighbour.
  std::stable_sort(parts.begin(), parts.end(), [](const Part& a, const Part& b) { return a.layer < b.layer; });
  return parts;
}

// The pieces that stand by themselves or on guides among `back` moved and scaled by `by`; what rides on a guide that
// stayed in the document is where it belongs.
Document moved_back(const Document& before, Document document, const std::vector<PieceId>& back,
                    std::vector<PieceId> moving, const Affine& by) {
  const auto stayed = [&](const GuideRef* ref) {
    return !ref->own && std::find(back.begin(), back.end(), ref->guide) == back.end() &&
           before.find(ref->guide) != nullptr;
  };
  std::set<PieceId> carried; // guides that letterings take along
  std::erase_if(moving, [&](PieceId id) {
    const Lettering* l = document.find(id)->lettering();
    if (l == nullptr)
      return false;
    const std::vector<const GuideRef*> followed = l->recipe.bend.followed();
    if (l->recipe.bend.placed_by_guides() && std::all_of(followed.begin(), followed.end(), stayed))
      return true;
    for (const GuideRef* ref : followed)
      carried.insert(ref->own ? 0 : ref->guide);
    return false;
  });
  std::erase_if(moving, [&](PieceId id) { return carried.contains(id); });
  std::vector<PieceId> locked;
  const auto lock = [&](PieceId id, bool on) {
    document = edit_piece(std::move(document), id, [&](Piece& p) { p.locked = on; });
  };
  for (const PieceId id : moving)
    if (document.find(id)->locked)
      locked.push_back(id), lock(id, false);
  const double k = std::sqrt(std::abs(by.determinant()));
  for (const PieceId id : moving)
    document = scale_piece(std::move(document), id, {}, k, GuideScaling::Along);
  document = move_pieces(std::move(document), moving, {by.e, by.f});
  for (const PieceId id : locked)
    lock(id, true);
  return document;
}

} // namespace

Result<Released> release(const Document& document, PieceId id, const DocumentEvaluator& evaluator, ReleaseAs as,
                         GuideAfter guide_after, std::stop_token stop) {
  const Piece* piece = document.find(id);
  if (piece == nullptr || piece->lettering() == nullptr)
    return bad_input(FRELM_WORDS("core", "only a lettering can be released"));
  const Result<PieceResult> result = evaluator.piece(document, id, Depth::Finish, stop);
  if (!result)
    return result.error();
  const std::string name = display_name(*piece, document.unit);
  if (result->outline == nullptr || result->outline->empty())
    return bad_input(FRELM_WORDS("core", "there are no letters to release; type some first"), as_it_is(name));
  const Result<std::vector<Part>> parts = parts_of(*piece, *result, as, document.unit, stop);
  if (!parts)
    return parts.error();

  Released out;
  out.document = document;
  auto origin = std::make_shared<Origin>();
  origin->lettering = *piece;
  origin->release = out.document.next_id++;
  for (const GuideRef* ref : piece->lettering()->recipe.bend.followed()) {
    const PieceId guide_id = ref->guide;
    const Piece* guide = out.document.find(guide_id);
    if (guide == nullptr || guide->guide() == nullptr)
      continue;
    if (guide_after == GuideAfter::Gone && riders_of(document, guide_id).size() == 1) {
      origin->along.push_back(*guide);
      std::erase_if(out.document.pieces, [&](const auto& p) { return p->id == guide_id; });
      out.guide_removed = true;
    } else {
      out.document =
          edit_piece(std::move(out.document), guide_id, [](Piece& p) { p.destination = Destination::Guide; });
    }
  }
  for (const PieceId source : sources_only_of(document, {id})) {
    origin->along.push_back(*document.find(source));
    std::erase_if(out.document.pieces, [&](const auto& p) { return p->id == source; });
  }
  const std::size_t at = out.document.index_of(id);
  std::vector<std::shared_ptr<const Piece>> made;
  for (const Part& part : *parts) {
    auto outline = std::make_shared<Piece>(*piece);
    outline->id = out.document.next_id++;
    outline->name = part.name;
    outline->colour = part.colour.value_or(piece->colour);
    outline->destination = part.destination.value_or(piece->destination);
    outline->content = OutlinePiece{std::make_shared<const Outline>(part.outline), Finish{{}}, origin, {}};
    out.pieces.push_back(outline->id);
    made.push_back(std::move(outline));
  }
  auto& pieces = out.document.pieces;
  pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(at));
  pieces.insert(pieces.begin() + static_cast<std::ptrdiff_t>(at), made.begin(), made.end());
  out.document = detached(document, std::move(out.document));
  return out;
}

bool reshaped_since_release(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const OutlinePiece* outline = piece != nullptr ? piece->outline() : nullptr;
  return outline != nullptr && outline->origin != nullptr &&
         std::any_of(document.pieces.begin(), document.pieces.end(), [&](const auto& p) {
           const OutlinePiece* o = p->outline();
           return o != nullptr && o->reshaped && o->origin && o->origin->release == outline->origin->release;
         });
}

Result<Reopened> reopen(const Document& document, PieceId id) {
  const Piece* piece = document.find(id);
  const OutlinePiece* outline = piece != nullptr ? piece->outline() : nullptr;
  if (outline == nullptr || outline->origin == nullptr)
    return bad_input(FRELM_WORDS("core", "only outlines released from a lettering can be reopened"));
  const std::shared_ptr<const Origin> origin = outline->origin;
  const Affine moved = outline->moved;
  Reopened out{document, origin->lettering.id};
  auto& pieces = out.document.pieces;
  const std::size_t at = out.document.index_of(id);
  // Where the lettering goes: the place of the piece, less its siblings that stood before it.
  std::size_t before = 0;
  for (std::size_t i = 0; i < at; ++i)
    if (const OutlinePiece* o = pieces[i]->outline();
        o != nullptr && o->origin && o->origin->release == origin->release)
      ++before;
  std::erase_if(pieces, [&](const auto& p) {
    const OutlinePiece* o = p->outline();
    return o != nullptr && o->origin && o->origin->release == origin->release;
  });
  auto lettering = std::make_shared<Piece>(origin->lettering);
  lettering->group = piece->group;
  if (!lettering->finish()->makes_layers() && origin->beside == 0) { // else the piece may have the looks of another
    lettering->destination = piece->destination;
    lettering->colour = piece->colour;
  }
  if (document.find(lettering->id) != nullptr)
    lettering->id = out.lettering = out.document.next_id++;
  // What went with it comes back under its old ids, or under new ones where these have been taken since: guides and
  // sources behind all, what stood beside it in its order.
  std::map<PieceId, PieceId> renamed;
  std::vector<PieceId> back, moving{out.lettering};
  const std::size_t beside = origin->along.size() - origin->beside;
  const auto returned = [&](Piece p) {
    if (out.document.find(p.id) != nullptr)
      p.id = renamed[p.id] = out.document.next_id++;
    back.push_back(p.id);
    return std::make_shared<const Piece>(std::move(p));
  };
  auto place = pieces.begin() + static_cast<std::ptrdiff_t>(at - before);
  for (std::size_t i = beside; i < origin->along.size(); ++i) {
    if (origin->along.size() - i == origin->in_front)
      place = pieces.insert(place, lettering) + 1;
    place = pieces.insert(place, returned(origin->along[i])) + 1;
    moving.push_back(back.back());
  }
  if (origin->in_front == 0)
    pieces.insert(place, lettering);
  for (std::size_t i = 0; i < beside; ++i)
    pieces.insert(pieces.begin(), returned(origin->along[i]));
  back.push_back(out.lettering);
  for (const PieceId p : back)
    out.document = edit_piece(std::move(out.document), p, [&](Piece& returning) {
      for_each_reference(returning.content, [&](PieceId& named) {
        if (const auto it = renamed.find(named); it != renamed.end())
          named = it->second;
      });
    });
  out.document = detached(document, std::move(out.document));
  if (moved != Affine{})
    out.document = moved_back(document, std::move(out.document), back, std::move(moving), moved);
  return out;
}

} // namespace frelm
