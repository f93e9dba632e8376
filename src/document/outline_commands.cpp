// Sources are the chosen pieces with their outlines, from the back; an outcome is an outline and the source it takes
// its looks from. Sources that are used up go; a drawn outline with one outcome stays the piece it was, so that what
// follows it goes on following.
#include "document/outline_commands.h"

#include "document/edits.h"
#include "document/following.h"
#include "document/piece_name.h"
#include "geom/boolean.h"
#include "geom/components.h"
#include "geom/nodes.h"
#include "geom/offset.h"
#include "geom/round_corners.h"
#include "geom/shade.h"
#include "geom/thin.h"

#include <algorithm>
#include <set>

namespace frelm {
namespace {

struct Given {
  std::shared_ptr<const Piece> piece;
  Outline outline;
};
struct Outcome {
  std::size_t of = 0; // the source
  Outline outline;
  std::size_t number = 0; // among several of one source; 0: it has its name
};
struct Outcomes {
  std::vector<Outcome> made;
  std::set<std::size_t> used; // sources that are no longer what they were
};

bool takes_several(OutlineCommand command) {
  return command <= OutlineCommand::Combine;
}
bool is_added(OutlineCommand command) {
  return command == OutlineCommand::OffsetAsPiece || command == OutlineCommand::ShadeAsPiece;
}

// Everything of the piece that is cut, as one area where it has several layers.
Result<Outline> outline_of(const Document& document, const Piece& piece, const DocumentEvaluator& evaluator,
                           const std::stop_token& stop) {
  const Result<PieceResult> result = evaluator.piece(document, piece.id, Depth::Finish, stop);
  if (!result)
    return result.error();
  if (result->outline == nullptr || result->outline->empty())
    return bad_input(FRELM_WORDS("core", "there is nothing drawn"), as_it_is(display_name(piece, document.unit)));
  std::vector<Outline> layers;
  for (const PieceLayer& l : layers_of(piece, *result))
    if (!l.outline->empty())
      layers.push_back(*l.outline);
  if (layers.empty())
    return bad_input(FRELM_WORDS("core", "there is nothing drawn"), as_it_is(display_name(piece, document.unit)));
  Outline all = layers.front();
  if (layers.size() > 1) {
    WeldOptions options;
    options.stop = stop;
    Result<WeldResult> united = combine(BooleanOp::Union, layers, {}, options);
    if (!united)
      return united.error();
    all = std::move(united->outline);
  }
  return result->finished != nullptr ? result->finished->as_cut_of(all) : all;
}

class Maker {
public:
  Maker(const std::vector<Given>& sources, const OutlineMeasures& measures, std::stop_token stop)
      : sources_(sources), measures_(measures), stop_(std::move(stop)) {
    weld_.stop = stop_;
  }

  Result<Outcomes> make(OutlineCommand command) {
    switch (command) {
    case OutlineCommand::WeldTogether:
      return one(combined(BooleanOp::Union, all(), {}));
    case OutlineCommand::CutAway:
      return cut_away();
    case OutlineCommand::CutAwayBehind: {
      const std::size_t front = sources_.size() - 1;
      std::vector<Outline> behind = all();
      behind.pop_back();
      return one(combined(BooleanOp::Difference, {sources_[front].outline}, behind), front);
    }
    case OutlineCommand::KeepShared:
      return one(folded(BooleanOp::Intersection));
    case OutlineCommand::DropShared:
      return one(folded(BooleanOp::ExclusiveOr));
    case OutlineCommand::Combine: {
      Outline sum;
      for (const Given& s : sources_)
        sum.append(s.outline);
      return one(std::move(sum));
    }
    case OutlineCommand::BreakApart:
      return broken_apart();
    case OutlineCommand::OffsetAsPiece:
    case OutlineCommand::ShadeAsPiece:
      return added(command);
    case OutlineCommand::FewerNodes:
      return each([&](const Outline& o) -> Result<Outline> {
        Result<ThinResult> r = thin(o, {.tolerance = measures_.tolerance, .stop = stop_});
        if (!r)
          return r.error();
        return std::move(r->outline);
      });
    case OutlineCommand::RoundedCorners:
      return each([&](const Outline& o) -> Result<Outline> {
        Result<RoundResult> r = round_corners(o, {.radius = measures_.radius, .stop = stop_});
        if (!r)
          return r.error();
        return std::move(r->outline);
      });
    case OutlineCommand::CloseLines:
      return each([](Outline o) -> Result<Outline> {
        for (std::size_t c = 0; c < o.contours.size(); ++c)
          o = close_contour(std::move(o), c);
        return o;
      });
    case OutlineCommand::ReverseLines:
      return each([](Outline o) -> Result<Outline> {
        for (Contour& c : o.contours)
          c = c.reversed();
        return o;
      });
    }
    return Outcomes{};
  }

private:
  std::vector<Outline> all() const {
    std::vector<Outline> out;
    for (const Given& s : sources_)
      out.push_back(s.outline);
    return out;
  }
  Result<Outline> combined(BooleanOp op, const std::vector<Outline>& a, const std::vector<Outline>& b) const {
    Result<WeldResult> r = combine(op, a, b, weld_);
    if (!r)
      return r.error();
    return std::move(r->outline);
  }
  Result<Outline> folded(BooleanOp op) const {
    Outline sum;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      Result<Outline> next =
          i == 0 ? combined(BooleanOp::Union, {sources_[i].outline}, {}) : combined(op, {sum}, {sources_[i].outline});
      if (!next)
        return next.error();
      sum = std::move(*next);
    }
    return sum;
  }

  // All sources become this one.
  Result<Outcomes> one(Result<Outline> outline, std::size_t of = 0) const {
    if (!outline)
      return outline.error();
    Outcomes out;
    out.made.push_back({of, std::move(*outline)});
    for (std::size_t i = 0; i < sources_.size(); ++i)
      out.used.insert(i);
    return out;
  }

  Result<Outcomes> cut_away() const {
    Outcomes out;
    const std::size_t front = sources_.size() - 1;
    out.used.insert(front);
    for (std::size_t i = 0; i < front; ++i) {
      if (!sources_[i].outline.bounds().overlaps(sources_[front].outline.bounds()))
        continue; // stays as it is, live letters live
      Result<Outline> rest = combined(BooleanOp::Difference, {sources_[i].outline}, {sources_[front].outline});
      if (!rest)
        return rest.error();
      out.used.insert(i);
      if (!rest->empty())
        out.made.push_back({i, std::move(*rest)});
    }
    if (out.used.size() == 1)
      return bad_input(FRELM_WORDS("core", "nothing behind the front piece touches it"));
    return out;
  }

  Result<Outcomes> broken_apart() const {
    Outcomes out;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      Outline whole = sources_[i].outline;
      whole.make_area_positive();
      std::vector<Outline> parts = components(whole);
      if (parts.size() < 2)
        continue;
      out.used.insert(i);
      for (std::size_t k = 0; k < parts.size(); ++k)
        out.made.push_back({i, std::move(parts[k]), k + 1});
    }
    if (out.used.empty())
      return bad_input(FRELM_WORDS("core", "it is one part already"));
    return out;
  }

  Result<Outcomes> added(OutlineCommand command) const {
    Result<Outline> united = combined(BooleanOp::Union, all(), {});
    if (!united)
      return united.error();
    Outcomes out;
    out.made.push_back({});
    if (command == OutlineCommand::OffsetAsPiece) {
      OffsetOptions options;
      options.stop = stop_;
      Result<OffsetResult> ring = offset(*united, measures_.offset, options);
      if (!ring)
        return ring.error();
      out.made[0].outline = std::move(ring->rings.front());
      if (out.made[0].outline.empty())
        return bad_input(FRELM_WORDS("core", "nothing is left that far inside"));
      return out;
    }
    ShadeOptions options;
    options.weld = weld_;
    Result<WeldResult> shade =
        block_shade(*united, direction(radians(measures_.shade_angle)) * measures_.shade_depth, options);
    if (!shade)
      return shade.error();
    out.made[0].outline = std::move(shade->outline);
    return out;
  }

  Result<Outcomes> each(const std::function<Result<Outline>(const Outline&)>& change) const {
    Outcomes out;
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      Result<Outline> changed = change(sources_[i].outline);
      if (!changed)
        return changed.error();
      if (*changed == sources_[i].outline)
        continue;
      out.used.insert(i);
      out.made.push_back({i, std::move(*changed)});
    }
    if (out.used.empty())
      return bad_input(FRELM_WORDS("core", "there is nothing to change"));
    return out;
  }

  const std::vector<Given>& sources_;
  const OutlineMeasures& measures_;
  std::stop_token stop_;
  WeldOptions weld_;
};

// What is put aside so that Reopen brings it back: the frontmost live lettering and all that goes with it, from the
// back.
std::shared_ptr<const Origin> put_aside(const Document& before, Document& after, const std::vector<Given>& sources,
                                        const std::set<std::size_t>& used, OutlinesMade& made) {
  std::size_t lettering = sources.size();
  std::vector<PieceId> letterings;
  for (const std::size_t i : used)
    if (sources[i].piece->lettering() != nullptr) {
      lettering = i, letterings.push_back(sources[i].piece->id);
      made.released.push_back(display_name(*sources[i].piece, before.unit));
    }
  if (letterings.empty())
    return nullptr;
  auto origin = std::make_shared<Origin>();
  origin->lettering = *sources[lettering].piece;
  origin->release = after.next_id++;
  const auto is_used = [&](PieceId id) {
    return std::any_of(used.begin(), used.end(), [&](std::size_t i) { return sources[i].piece->id == id; });
  };
  for (const PieceId id : sources_only_of(before, letterings)) {
    if (is_used(id))
      continue;
    origin->along.push_back(*before.find(id));
    std::erase_if(after.pieces, [id](const auto& p) { return p->id == id; });
  }
  for (const std::size_t i : used) {
    if (i == lettering)
      continue;
    Piece piece = *sources[i].piece;
    if (OutlinePiece* o = piece.outline()) // releases don't nest
      o->origin = nullptr, o->moved = {}, o->reshaped = false;
    origin->along.push_back(std::move(piece));
    ++origin->beside;
    origin->in_front += i > lettering ? 1 : 0;
  }
  return origin;
}

Piece new_outline(const Piece& like, const std::string& name, Outline outline, std::shared_ptr<const Origin> origin) {
  Piece piece = like;
  piece.name = name;
  OutlinePiece drawn{std::make_shared<const Outline>(std::move(outline)), Finish{{}}, std::move(origin), {}};
  piece.content = std::move(drawn);
  return piece;
}

// The document with the outcomes in the sources' places.
void put_in_place(const Document& before, const std::vector<Given>& sources, Outcomes& outcomes, OutlinesMade& out) {
  out.document = before;
  const std::shared_ptr<const Origin> origin = put_aside(before, out.document, sources, outcomes.used, out);
  auto& pieces = out.document.pieces;
  std::vector<std::size_t> counts(sources.size(), 0);
  for (const Outcome& o : outcomes.made)
    ++counts[o.of];
  std::vector<char> kept(sources.size(), 0); // as pieces
  for (Outcome& o : outcomes.made) {
    const Piece& like = *sources[o.of].piece;
    const OutlinePiece* was = like.outline();
    std::string name = like.lettering() != nullptr || o.number > 0 ? display_name(like, before.unit) : like.name;
    if (o.number > 0)
      name.append(" ").append(std::to_string(o.number));
    Piece made = new_outline(like, name, std::move(o.outline), origin);
    made.locked = false, made.visible = true;
    if (outcomes.used.contains(o.of) && was != nullptr && counts[o.of] == 1) {
      if (origin == nullptr && was->origin != nullptr)
        made.outline()->origin = was->origin, made.outline()->moved = was->moved, made.outline()->reshaped = true;
      kept[o.of] = 1;
      *(pieces.begin() + static_cast<std::ptrdiff_t>(out.document.index_of(like.id))) =
          std::make_shared<const Piece>(std::move(made));
      out.pieces.push_back(like.id);
      continue;
    }
    made.id = out.document.next_id++;
    out.pieces.push_back(made.id);
    const auto at = pieces.begin() + static_cast<std::ptrdiff_t>(out.document.index_of(like.id));
    pieces.insert(at, std::make_shared<const Piece>(std::move(made)));
  }
  for (const std::size_t i : outcomes.used) {
    const Piece& piece = *sources[i].piece;
    if (const OutlinePiece* o = piece.outline(); o != nullptr && o->origin != nullptr && (kept[i] == 0 || origin))
      out.forgotten.push_back(display_name(piece, before.unit));
    if (kept[i] == 0)
      std::erase_if(pieces, [&](const auto& p) { return p->id == piece.id; });
    if (const Lettering* l = piece.lettering())
      for (const GuideRef* ref : l->recipe.bend.followed())
        if (const Piece* guide = out.document.find(ref->guide); guide != nullptr && guide->guide() != nullptr)
          out.document =
              edit_piece(std::move(out.document), ref->guide, [](Piece& p) { p.destination = Destination::Guide; });
  }
  out.document = detached(before, std::move(out.document));
}

} // namespace

Said why_no_outlines(const Document& document, const std::vector<PieceId>& ids, OutlineCommand command) {
  std::size_t drawn = 0;
  for (const PieceId id : ids) {
    const Piece* piece = document.find(id);
    if (piece == nullptr)
      continue;
    if (piece->locked && !is_added(command))
      return say(FRELM_WORDS("core", "%1 is locked; unlock it first"), display_name(*piece, document.unit));
    ++drawn;
  }
  if (drawn == 0)
    return FRELM_WORDS("core", "Select what it should work on");
  if (takes_several(command) && drawn < 2)
    return FRELM_WORDS("core", "Select two pieces or more");
  return {};
}

Result<OutlinesMade> make_outlines(const Document& document, const std::vector<PieceId>& ids, OutlineCommand command,
                                   const OutlineMeasures& measures, const DocumentEvaluator& evaluator, bool pictured,
                                   std::stop_token stop) {
  if (Said why = why_no_outlines(document, ids, command); !why.empty())
    return bad_input(std::move(why));
  std::vector<Given> sources;
  for (const auto& piece : document.pieces) {
    if (std::find(ids.begin(), ids.end(), piece->id) == ids.end())
      continue;
    Result<Outline> outline = outline_of(document, *piece, evaluator, stop);
    if (!outline)
      return outline.error();
    sources.push_back({piece, std::move(*outline)});
  }
  Result<Outcomes> outcomes = Maker(sources, measures, stop).make(command);
  if (!outcomes)
    return outcomes.error();
  std::vector<Outline> now, was;
  for (const Outcome& o : outcomes->made)
    now.push_back(o.outline);
  const bool nothing = std::all_of(now.begin(), now.end(), [](const Outline& o) { return o.empty(); });
  if (nothing)
    return bad_input(command == OutlineCommand::KeepShared ? FRELM_WORDS("core", "they share nothing")
                                                           : FRELM_WORDS("core", "nothing would be left"));
  for (const std::size_t i : outcomes->used)
    was.push_back(sources[i].outline);
  OutlinesMade out;
  if (pictured) {
    Outline stays;
    for (const Outline& o : now)
      stays.append(o);
    out.stays = std::make_shared<const Outline>(std::move(stays));
    WeldOptions options;
    options.stop = stop;
    Result<WeldResult> goes = combine(BooleanOp::Difference, was, now, options);
    if (!goes)
      return goes.error();
    std::erase_if(goes->outline.contours, [](const Contour& c) { return !c.closed; });
    out.goes = std::make_shared<const Outline>(std::move(goes->outline));
  }
  put_in_place(document, sources, *outcomes, out);
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  return out;
}

} // namespace frelm
