// The one place that calls nlohmann-json for jobs; what it throws becomes an Error here.
#include "document/job_file.h"

#include "document/backing_json.h"
#include "document/edits.h"
#include "document/job_json.h"
#include "document/marks.h"
#include "document/piece_groups.h"
#include "document/piece_name.h"
#include "document/validity.h"
#include "lettering/evaluate.h"

#include <cassert>
#include <map>
#include <set>

namespace frelm {
namespace job_json {

FRELM_NAMES(SizeBy, {SizeBy::Capitals, "caps"}, {SizeBy::XHeight, "x"}, {SizeBy::Full, "full"}, {SizeBy::Em, "em"});
FRELM_NAMES(Capitals, {Capitals::AsTyped, "as-typed"}, {Capitals::Capitals, "capitals"}, {Capitals::Lower, "lower"},
            {Capitals::Title, "title"});
FRELM_NAMES(Alignment, {Alignment::Left, "left"}, {Alignment::Centre, "centre"}, {Alignment::Right, "right"},
            {Alignment::Justified, "justified"});
FRELM_NAMES(BendKind, {BendKind::Straight, "straight"}, {BendKind::Arc, "arc"}, {BendKind::Guide, "guide"},
            {BendKind::Rails, "rails"}, {BendKind::Net, "net"});
FRELM_NAMES(ArcBy, {ArcBy::Radius, "radius"}, {ArcBy::Rise, "rise"}, {ArcBy::Sweep, "sweep"});
FRELM_NAMES(ArcSide, {ArcSide::Over, "over"}, {ArcSide::Under, "under"});
FRELM_NAMES(Tops, {Tops::Outward, "outward"}, {Tops::Inward, "inward"});
FRELM_NAMES(SitBy, {SitBy::Base, "base"}, {SitBy::Middle, "middle"}, {SitBy::Caps, "caps"});
FRELM_NAMES(Anchor, {Anchor::CentredAt, "centred"}, {Anchor::StartsAt, "starts"}, {Anchor::EndsAt, "ends"});
FRELM_NAMES(Unit, {Unit::Millimetre, "mm"}, {Unit::Inch, "in"});
FRELM_NAMES(AlongBy, {AlongBy::Angle, "angle"}, {AlongBy::Distance, "distance"}, {AlongBy::Percent, "percent"});
FRELM_NAMES(Stance, {Stance::Turn, "turn"}, {Stance::Stand, "stand"}, {Stance::Lean, "lean"}, {Stance::Flow, "flow"});
FRELM_NAMES(Corners, {Corners::SideBySide, "side-by-side"}, {Corners::Over, "over"});
FRELM_NAMES(LinesGo, {LinesGo::Below, "below"}, {LinesGo::Above, "above"}, {LinesGo::FollowOn, "follow-on"});
FRELM_NAMES(SpacingMode, {SpacingMode::AsSet, "as-set"}, {SpacingMode::EvenGaps, "even-gaps"},
            {SpacingMode::KeepJoined, "keep-joined"}, {SpacingMode::Spread, "spread"}, {SpacingMode::Repeat, "repeat"});
FRELM_NAMES(GapAim, {GapAim::Own, "own"}, {GapAim::Typed, "typed"}, {GapAim::Fill, "fill"});
FRELM_NAMES(SpreadOver, {SpreadOver::Guide, "guide"}, {SpreadOver::Length, "length"}, {SpreadOver::Angle, "angle"});

} // namespace job_json

namespace {

using namespace job_json;

// Ids as [first, how many] where they follow one another.
Json text_ids(const TypedText& text) {
  Json out = Json::array();
  for (const TypedChar& t : text) {
    if (!out.empty() && out.back()[0].get<std::uint64_t>() + out.back()[1].get<std::uint64_t>() == t.id)
      out.back()[1] = out.back()[1].get<std::uint64_t>() + 1;
    else
      out.push_back(Json::array({t.id, std::uint64_t{1}}));
  }
  return out;
}
TypedText typed_text(const At& at) {
  TypedText text;
  for (const char32_t c : from_utf8(at["text"].text()))
    text.push_back({c, 0});
  std::size_t i = 0;
  const At ids = at["ids"];
  for (std::size_t r = 0; r < ids.size(); ++r) {
    const std::uint64_t first = ids.item(r).item(0).whole(), count = ids.item(r).item(1).whole();
    if (count > text.size() - i)
      ids.refuse(FRELM_WORDS("core", "has more ids than letters"));
    for (std::uint64_t k = 0; k < count; ++k)
      text[i++].id = first + k;
  }
  if (i != text.size())
    ids.refuse(FRELM_WORDS("core", "has fewer ids than letters"));
  return text;
}

Json letters(const Letters& l) {
  Json features = Json::array(), alternates = Json::array();
  for (const FeatureSetting& f : l.features)
    features.push_back(Json::array({f.tag, f.value}));
  for (const LetterAlternate& a : l.alternates)
    alternates.push_back(Json::array({a.id, a.by.tag, a.by.value}));
  return {{"text", to_utf8(plain_text(l.text))},
          {"ids", text_ids(l.text)},
          {"face", face_name(l.face)},
          {"size", l.size},
          {"size_by", name_of(l.size_by)},
          {"width", l.width},
          {"capitals", name_of(l.capitals)},
          {"alignment", name_of(l.alignment)},
          {"line_pitch", l.line_pitch},
          {"downwards", l.downwards},
          {"equal_width", l.equal_width},
          {"features", features},
          {"alternates", alternates}};
}
Letters letters(const At& at) {
  Letters l;
  l.text = typed_text(at);
  l.face = face_name(at["face"]);
  l.size = at["size"].positive();
  l.size_by = at["size_by"].choice<SizeBy>();
  l.width = at["width"].positive();
  l.capitals = at["capitals"].choice<Capitals>();
  l.alignment = at["alignment"].choice<Alignment>();
  l.line_pitch = at["line_pitch"].number();
  l.downwards = at.has("downwards") && at["downwards"].flag();
  l.equal_width = at.has("equal_width") && at["equal_width"].flag();
  const auto setting = [](const At& tag, const At& value) {
    if (tag.text().size() != 4)
      tag.refuse(FRELM_WORDS("core", "must be a feature's tag of four letters"));
    return FeatureSetting{tag.text(), static_cast<std::uint32_t>(value.whole())};
  };
  if (at.has("features"))
    for (std::size_t i = 0; i < at["features"].size(); ++i)
      l.features.push_back(setting(at["features"].item(i).item(0), at["features"].item(i).item(1)));
  if (at.has("alternates"))
    for (std::size_t i = 0; i < at["alternates"].size(); ++i) {
      const At a = at["alternates"].item(i);
      l.alternates.push_back({a.item(0).whole(), setting(a.item(1), a.item(2))});
    }
  return l;
}

Json recipe(const Recipe& r) {
  Json out;
  if (const Letters* l = r.letters())
    out["letters"] = letters(*l);
  if (const auto* o = std::get_if<OutlineSource>(&r.source))
    out["outline"] = o->outline != nullptr ? outline(*o->outline) : Json("");
  if (const auto* p = std::get_if<PiecesSource>(&r.source))
    out["pieces"] = p->pieces;
  const Bend& b = r.bend;
  Json guide = {{"guide", b.guide.guide},     {"tops", name_of(b.guide.tops)},   {"anchor", name_of(b.guide.anchor)},
                {"angle", b.guide.angle},     {"distance", b.guide.distance},    {"by", name_of(b.guide.by)},
                {"percent", b.guide.percent}, {"fit_height", b.guide.fit_height}};
  if (b.guide.own)
    guide["own"] = guide_shape(*b.guide.own);
  out["bend"] = {{"kind", name_of(b.kind)},
                 {"arc", {{"by", name_of(b.arc.by)}, {"value", b.arc.value}, {"side", name_of(b.arc.side)}}},
                 {"on_guide", guide},
                 {"sit_by", name_of(b.sit_by)},
                 {"offset", b.offset},
                 {"stance", name_of(b.stance)},
                 {"stretch", b.stretch},
                 {"corners", name_of(b.corners)},
                 {"lines", name_of(b.lines)},
                 {"rails", rails(b.rails)},
                 {"net", net(b.net, name_of(b.net.base))},
                 {"least_stroke", b.least_stroke}};
  out["spacing"] = {{"letter", r.spacing.letter},
                    {"word", r.spacing.word},
                    {"mode", name_of(r.spacing.mode)},
                    {"aim", name_of(r.spacing.aim)},
                    {"gap", r.spacing.gap},
                    {"least_gap", r.spacing.least_gap},
                    {"over", name_of(r.spacing.over)},
                    {"length", r.spacing.length},
                    {"angle", r.spacing.angle},
                    {"separator", to_utf8(r.spacing.separator)},
                    {"copies", r.spacing.copies}};
  out["by_hand"] = Json::array();
  for (const LetterTweak& t : r.tweaks)
    out["by_hand"].push_back(
        {{"id", t.id}, {"turn", t.turn}, {"size", t.size}, {"raise", t.raise}, {"nudge", t.nudge}});
  out["gaps_by_hand"] = Json::array();
  for (const PairTweak& t : r.pairs)
    out["gaps_by_hand"].push_back({{"left", t.left}, {"right", t.right}, {"gap", t.gap}});
  out["finish"] = finish(r.finish);
  return out;
}
Spacing spacing(const At& at) {
  Spacing s;
  s.letter = at["letter"].number(), s.word = at["word"].number();
  if (!at.has("mode"))
    return s; // version 1
  s.mode = at["mode"].choice<SpacingMode>();
  if (at.has("aim")) { // since version 3
    s.aim = at["aim"].choice<GapAim>();
    s.gap = at["gap"].number(), s.least_gap = at["least_gap"].number();
  }
  s.over = at["over"].choice<SpreadOver>();
  s.length = at["length"].number(), s.angle = at["angle"].number();
  s.separator = from_utf8(at["separator"].text());
  s.copies = at["copies"].whole();
  return s;
}
Recipe recipe(const At& at) {
  Recipe r;
  if (at.has("letters")) {
    r.source = letters(at["letters"]);
  } else if (at.has("outline")) {
    r.source = OutlineSource{std::make_shared<const Outline>(outline(at["outline"]))};
  } else {
    PiecesSource p;
    const At ids = at["pieces"];
    for (std::size_t i = 0; i < ids.size(); ++i)
      p.pieces.push_back(ids.item(i).whole());
    r.source = p;
  }
  const At b = at["bend"], arc = b["arc"], guide = b["on_guide"];
  r.bend.kind = b["kind"].choice<BendKind>();
  r.bend.arc = {arc["by"].choice<ArcBy>(), arc["value"].positive(), arc["side"].choice<ArcSide>()};
  r.bend.guide.guide = guide["guide"].whole();
  r.bend.guide.tops = guide["tops"].choice<Tops>();
  r.bend.guide.anchor = guide["anchor"].choice<Anchor>();
  r.bend.guide.angle = guide["angle"].number();
  r.bend.guide.distance = guide["distance"].number();
  if (guide.has("own"))
    r.bend.guide.own = guide_shape(guide["own"]);
  // Version 1 placed centred runs by angle and others by distance.
  r.bend.guide.by = guide.has("by")                            ? guide["by"].choice<AlongBy>()
                    : r.bend.guide.anchor == Anchor::CentredAt ? AlongBy::Angle
                                                               : AlongBy::Distance;
  if (guide.has("percent"))
    r.bend.guide.percent = guide["percent"].number();
  r.bend.guide.fit_height = guide.has("fit_height") && guide["fit_height"].flag();
  r.bend.sit_by = b["sit_by"].choice<SitBy>();
  r.bend.offset = b["offset"].number();
  if (b.has("stance"))
    r.bend.stance = b["stance"].choice<Stance>();
  r.bend.stretch = b.has("stretch") && b["stretch"].flag();
  if (b.has("corners"))
    r.bend.corners = b["corners"].choice<Corners>();
  if (b.has("lines"))
    r.bend.lines = b["lines"].choice<LinesGo>();
  if (b.has("rails")) { // since version 4
    r.bend.rails = rails(b["rails"]);
    r.bend.net = net(b["net"], b["net"]["base"].choice<BendKind>());
    r.bend.least_stroke = b["least_stroke"].number();
  }
  r.spacing = spacing(at["spacing"]);
  if (at.has("by_hand"))
    for (std::size_t i = 0; i < at["by_hand"].size(); ++i) {
      const At t = at["by_hand"].item(i);
      r.tweaks.push_back(
          {t["id"].whole(), t["turn"].number(), t["size"].positive(), t["raise"].number(), t["nudge"].number()});
    }
  if (at.has("gaps_by_hand"))
    for (std::size_t i = 0; i < at["gaps_by_hand"].size(); ++i) {
      const At t = at["gaps_by_hand"].item(i);
      r.pairs.push_back({t["left"].whole(), t["right"].whole(), t["gap"].number()});
    }
  r.finish = finish(at["finish"]);
  return r;
}

Json affine(const Affine& m) {
  return Json::array({m.a, m.b, m.c, m.d, m.e, m.f});
}
Affine affine(const At& at) {
  if (at.size() != 6)
    at.refuse(FRELM_WORDS("core", "must be six numbers"));
  return {at.item(0).number(), at.item(1).number(), at.item(2).number(),
          at.item(3).number(), at.item(4).number(), at.item(5).number()};
}

// Origins are shared between the pieces of a release: written once, at the first of them, and pointed to by release.
struct Origins {
  std::map<std::uint64_t, std::shared_ptr<const Origin>> known;
};

Json piece(const Piece& p, Origins& origins) {
  Json out = {
      {"id", p.id},         {"name", p.name},      {"colour", to_hex(p.colour)}, {"goes_to", name_of(p.destination)},
      {"locked", p.locked}, {"visible", p.visible}};
  if (p.group != 0)
    out["group"] = p.group;
  if (p.link)
    out["link"] = {{"of", p.link->of}, {"copy", p.link->copy}, {"pose", affine(p.link->pose)}};
  if (const Lettering* l = p.lettering()) {
    out["lettering"] = {{"recipe", recipe(l->recipe)}, {"at", point(l->placement.at)}, {"angle", l->placement.angle}};
    if (!l->line_colours.empty()) {
      out["lettering"]["line_colours"] = Json::array();
      for (const Colour& c : l->line_colours)
        out["lettering"]["line_colours"].push_back(to_hex(c));
    }
  }
  if (const Guide* g = p.guide()) {
    out["guide"] = guide_shape(g->shape);
    if (!g->finish.steps.empty())
      out["finish"] = finish(g->finish);
  }
  if (const OutlinePiece* o = p.outline()) {
    Json drawn = {{"path", outline(*o->outline)}, {"finish", finish(o->finish)}};
    if (o->origin) {
      drawn["release"] = o->origin->release;
      drawn["moved"] = affine(o->moved);
      drawn["reshaped"] = o->reshaped;
      if (origins.known.emplace(o->origin->release, o->origin).second) {
        drawn["origin"] = {{"lettering", piece(o->origin->lettering, origins)}};
        for (const Piece& guide : o->origin->along)
          drawn["origin"]["guides"].push_back(piece(guide, origins));
        drawn["origin"]["beside"] = o->origin->beside, drawn["origin"]["in_front"] = o->origin->in_front;
      }
    }
    out["outline"] = drawn;
  }
  return out;
}

Piece piece(const At& at, Origins& origins, int depth = 0) {
  if (depth > 8)
    at.refuse(FRELM_WORDS("core", "is nested too deeply"));
  Piece p;
  p.id = at["id"].whole();
  p.name = at["name"].text();
  const auto colour = [](const At& text) {
    const Result<Colour> c = colour_from_hex(text.text());
    if (!c)
      text.refuse(c.error().what);
    return *c;
  };
  p.colour = colour(at["colour"]);
  p.destination = at["goes_to"].choice<Destination>();
  p.locked = at["locked"].flag();
  p.visible = at["visible"].flag();
  if (at.has("group")) // since version 11
    p.group = at["group"].whole();
  if (at.has("link")) // since version 12
    p.link = Link{at["link"]["of"].whole(), at["link"]["copy"].whole(), affine(at["link"]["pose"])};
  if (at.has("lettering")) {
    const At l = at["lettering"];
    Lettering lettering{recipe(l["recipe"]), {point(l["at"]), l["angle"].number()}, {}};
    if (l.has("line_colours"))
      for (std::size_t i = 0; i < l["line_colours"].size(); ++i)
        lettering.line_colours.push_back(colour(l["line_colours"].item(i)));
    p.content = std::move(lettering);
  } else if (at.has("guide") || at.has("circle")) { // version 1 had circles only
    p.content = Guide{guide_shape(at[at.has("guide") ? "guide" : "circle"]),
                      at.has("finish") ? finish(at["finish"]) : Finish{{}}}; // since version 9
  } else {
    const At drawn = at["outline"];
    OutlinePiece o{std::make_shared<const Outline>(outline(drawn["path"])), finish(drawn["finish"]), nullptr, {}};
    if (drawn.has("release")) {
      const std::uint64_t release = drawn["release"].whole();
      if (drawn.has("origin")) {
        auto origin = std::make_shared<Origin>();
        origin->release = release;
        origin->lettering = piece(drawn["origin"]["lettering"], origins, depth + 1);
        if (origin->lettering.lettering() == nullptr)
          drawn["origin"].refuse(FRELM_WORDS("core", "must be a lettering"));
        if (drawn["origin"].has("guide"))
          origin->along.push_back(piece(drawn["origin"]["guide"], origins, depth + 1)); // up to version 3
        if (drawn["origin"].has("guides"))
          for (std::size_t i = 0; i < drawn["origin"]["guides"].size(); ++i)
            origin->along.push_back(piece(drawn["origin"]["guides"].item(i), origins, depth + 1));
        if (drawn["origin"].has("beside")) { // since version 8
          origin->beside = drawn["origin"]["beside"].whole();
          origin->in_front = drawn["origin"]["in_front"].whole();
        }
        origins.known[release] = std::move(origin);
      }
      if (!origins.known.contains(release))
        drawn["release"].refuse(FRELM_WORDS("core", "names a release that is not in the file"));
      o.origin = origins.known[release];
      o.moved = affine(drawn["moved"]);
      o.reshaped = drawn.has("reshaped") && drawn["reshaped"].flag(); // since version 5
    }
    p.content = std::move(o);
  }
  return p;
}

// The letterings of the document, and those put aside by releases.
void for_each_lettering(const Document& document, const std::function<void(const Recipe&)>& visit) {
  std::set<std::uint64_t> seen;
  for (const auto& p : document.pieces) {
    if (const Lettering* l = p->lettering())
      visit(l->recipe);
    if (const OutlinePiece* o = p->outline(); o != nullptr && o->origin && seen.insert(o->origin->release).second) {
      visit(o->origin->lettering.lettering()->recipe);
      for (const Piece& along : o->origin->along)
        if (const Lettering* l = along.lettering())
          visit(l->recipe);
    }
  }
}

void add_shapes_used(const Document& document, const FaceLibrary& faces, std::map<FaceName, CarriedShapes>& out) {
  for_each_lettering(document, [&](const Recipe& r) {
    const Letters* l = r.letters();
    if (l == nullptr)
      return;
    const Result<std::shared_ptr<const Face>> face = faces.face(l->face);
    if (!face) {
      if (document.carried)
        for (const CarriedShapes& s : *document.carried)
          if (s.name == l->face)
            out.emplace(l->face, s);
      return;
    }
    CarriedShapes& shapes = out[l->face];
    if (faces.find(l->face) == nullptr && document.carried != nullptr) // letters not used now may be typed again
      for (const CarriedShapes& s : *document.carried)
        if (s.name == l->face && shapes.glyphs.empty())
          shapes = s;
    const Letters set = letters_to_set(r, nullptr).value_or(*l);
    std::size_t start = 0;
    for (const std::u32string& line : split_lines(cased(plain_text(set.text), l->capitals))) {
      carry(shapes, **face, line, shape_style(set, ligatures_for(r.spacing), start, line.size()));
      start += line.size() + 1;
    }
    shapes.name = l->face;
  });
}

std::string name_of_lost(const Json& piece, std::size_t index) {
  const bool named = piece.is_object() && piece.contains("name") && piece["name"].is_string() && piece["name"] != "";
  return named ? piece["name"].get<std::string>() : fmt::format("piece {}", index + 1);
}

// Guides that a bend only remembers and that are gone: up to version 4 they stayed named.
void forget_stale_guides(Document& d, std::uint64_t version) {
  if (version > 4)
    return;
  const auto forget = [&](Piece& p, const std::vector<Piece>& along) {
    Lettering* l = p.lettering();
    if (l == nullptr)
      return;
    for (GuideRef* ref : l->recipe.bend.remembered()) {
      const bool there = std::any_of(along.begin(), along.end(), [&](const Piece& g) { return g.id == ref->guide; });
      if (!there && !ref->own && guide_piece(d, *ref) == nullptr)
        ref->guide = 0;
    }
  };
  std::map<const Origin*, std::shared_ptr<const Origin>> renewed;
  for (auto& shared : d.pieces) {
    Piece p = *shared;
    forget(p, {});
    if (OutlinePiece* o = p.outline(); o != nullptr && o->origin != nullptr) {
      auto& origin = renewed[o->origin.get()];
      if (origin == nullptr) {
        Origin changed = *o->origin;
        forget(changed.lettering, changed.along);
        origin = std::make_shared<const Origin>(std::move(changed));
      }
      o->origin = origin;
    }
    if (p != *shared)
      shared = std::make_shared<const Piece>(std::move(p));
  }
}

// Pieces with faults go, one after another, until what is left is valid; a bend whose guide is lost only loses that.
void drop_faulty(ReadJob& job, const std::map<PieceId, std::size_t>& places) {
  Document& d = job.document;
  for (std::vector<Fault> found = faults(d); !found.empty(); found = faults(d)) {
    const Fault& fault = found.front();
    const std::size_t at = d.index_of(fault.piece);
    if (at == d.pieces.size())
      throw Refused{fault.reason, "/" + fault.place};
    const std::string where = fmt::format("/pieces/{}/{}", places.at(fault.piece), fault.place);
    job.lost.push_back({display_name(d, *d.pieces[at]), {ErrorCode::Unreadable, fault.reason, as_it_is(where)}});
    Piece p = *d.pieces[at];
    bool kept = false;
    if (Lettering* l = p.lettering(); l != nullptr && fault.place == "bend")
      for (GuideRef* ref : l->recipe.bend.remembered())
        if (!ref->own && guide_piece(d, *ref) == nullptr)
          ref->guide = 0, kept = true;
    if (kept)
      d.pieces[at] = std::make_shared<const Piece>(std::move(p));
    else
      d.pieces.erase(d.pieces.begin() + static_cast<std::ptrdiff_t>(at));
  }
}

// Materials and backings that are none are told and left out.
template <class T>
void read_list(const At& list, ReadJob& job, std::vector<T> Document::*member, T (*read)(const At&)) {
  for (std::size_t i = 0; i < list.size(); ++i)
    try {
      Document with = {};
      with.*member = job.document.*member;
      (with.*member).push_back(read(list.item(i)));
      if (const std::vector<Fault> found = faults(with); !found.empty())
        list.item(i).refuse(found.front().reason);
      job.document.*member = std::move(with.*member);
    } catch (const Refused& r) {
      job.lost.push_back({name_of_lost(list.item(i).json(), i), {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
    }
}

RulerLine ruler_line(const At& at) {
  return {point(at["at"]), at["angle"].number(), at["locked"].flag()};
}

SetAside set_aside(const At& at) {
  return {at["finding"].text(), at["piece"].whole(), at["reason"].text()};
}

void read_order(const At& at, ReadJob& job) {
  try {
    std::vector<CutTurn> order;
    for (std::size_t i = 0; i < std::min(at.size(), most_by_hand); ++i)
      order.push_back({at.item(i).item(0).whole(), at.item(i).item(1).text(), at.item(i).item(2).whole()});
    Document with = {};
    with.order_by_hand = std::move(order);
    if (const std::vector<Fault> found = faults(with); !found.empty())
      at.refuse(found.front().reason);
    job.document.order_by_hand = std::move(with.order_by_hand);
  } catch (const Refused& r) {
    job.lost.push_back({"the order by hand", {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
  }
}

void read_names(const At& at, ReadJob& job) {
  try {
    Document with = {};
    with.names = std::make_shared<const NameList>(name_list(at));
    if (const std::vector<Fault> found = faults(with); !found.empty())
      at.refuse(found.front().reason);
    job.document.names = std::move(with.names);
  } catch (const Refused& r) {
    job.lost.push_back({"the list of names", {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
  }
}

void read_ordered(const At& at, ReadJob& job) {
  try {
    Document with = {};
    with.ordered = {at["width"].number(), at["height"].number(),
                    static_cast<int>(std::min<std::uint64_t>(at["parts"].whole(), most_ordered_parts + 1))};
    if (const std::vector<Fault> found = faults(with); !found.empty())
      at.refuse(found.front().reason);
    job.document.ordered = with.ordered;
  } catch (const Refused& r) {
    job.lost.push_back({"what was ordered", {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
  }
}

DimensionMark mark(const At& at) {
  const auto end = [](const At& e) { return MarkEnd{e["piece"].whole(), point(e["at"])}; };
  return {end(at["from"]), end(at["to"]), at["beside"].number()};
}

// Pieces are what counts: of groups that can't be, what stands in them is in none.
void read_groups(const At& list, ReadJob& job) {
  Document& d = job.document;
  for (std::size_t i = 0; i < list.size(); ++i)
    try {
      const At at = list.item(i);
      const PieceGroup group{at["id"].whole(), at["name"].text(), at["inside"].whole()};
      d.groups.push_back(group);
      if (const std::vector<Fault> found = group_faults(d); !found.empty()) {
        d.groups.pop_back();
        at.refuse(found.front().reason);
      }
    } catch (const Refused& r) {
      job.lost.push_back({name_of_lost(list.item(i).json(), i), {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
    }
}

// A sheet with all that is on it: the job itself, or one of its versions.
ReadJob read_sheet(const At& root, std::uint64_t version) {
  ReadJob out;
  Document& d = out.document;
  d.sheet = {root["sheet"]["width"].positive(), root["sheet"]["height"].positive()};
  d.unit = root["unit"].choice<Unit>();
  d.next_id = root["next_id"].whole();
  if (root.has("materials")) // since version 9
    read_list(root["materials"], out, &Document::materials, &material);
  if (root.has("backings")) // since version 10
    read_list(root["backings"], out, &Document::backings, &backing);
  if (root.has("ruler_lines")) // since version 11
    read_list(root["ruler_lines"], out, &Document::ruler_lines, &ruler_line);
  if (root.has("ordered")) // since version 13
    read_ordered(root["ordered"], out);
  if (root.has("set_aside")) // since version 13
    read_list(root["set_aside"], out, &Document::set_aside, &set_aside);
  if (root.has("order_by_hand")) // since version 15
    read_order(root["order_by_hand"], out);
  if (root.has("names")) // since version 15
    read_names(root["names"], out);
  d.finish_grows = root.has("finish_grows") && root["finish_grows"].flag();
  if (root.has("groups")) // since version 11
    read_groups(root["groups"], out);
  Origins origins;
  std::map<PieceId, std::size_t> places; // in the file
  const At pieces = root["pieces"];
  for (std::size_t i = 0; i < pieces.size(); ++i)
    try {
      auto p = std::make_shared<const Piece>(piece(pieces.item(i), origins));
      if (p->id == 0 || p->id >= d.next_id || !places.emplace(p->id, i).second)
        pieces.item(i).refuse(FRELM_WORDS("core", "has an id that can't be"));
      d.pieces.push_back(std::move(p));
    } catch (const Refused& r) {
      out.lost.push_back({name_of_lost(pieces.item(i).json(), i), {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
    }
  for_each_lettering(d, [&](const Recipe& r) {
    if (const Letters* l = r.letters())
      for (const TypedChar& t : l->text)
        d.next_id = std::max(d.next_id, t.id + 1);
  });
  forget_stale_guides(d, version);
  d = without_idle_groups(std::move(d));
  drop_faulty(out, places);
  d = without_idle_groups(std::move(d));
  if (root.has("marks")) // since version 11; of pieces that could not be read they go with these
    read_list(root["marks"], out, &Document::marks, &mark);
  d = without_lost_marks(std::move(d));
  return out;
}

ReadJob read_document(const Json& json) {
  const At root(json, "");
  if (!json.is_object() || !root.has("format") || !json["format"].is_string() || json["format"] != "frelm-job")
    root.refuse(FRELM_WORDS("core", "this is not a Frelm job file; choose a .frelm file"));
  const std::uint64_t version = root["version"].whole();
  if (version > job_file_version)
    root["version"].refuse(
        say(FRELM_WORDS("core",
                        "the job was made by a newer Frelm (job version %1, this one reads up to %2); open it there"),
            std::to_string(version), std::to_string(job_file_version)));
  ReadJob out = read_sheet(root, version);
  Document& d = out.document;
  if (root.has("versions")) // since version 11
    for (std::size_t i = 0; i < root["versions"].size(); ++i)
      try {
        const At at = root["versions"].item(i);
        if (i >= most_versions)
          at.refuse(say(FRELM_WORDS("core", "a job keeps at most %1 versions"), std::to_string(most_versions)));
        ReadJob job = read_sheet(at["job"], version);
        for (JobLoss& loss : job.lost)
          out.lost.push_back(std::move(loss));
        out.versions.push_back({at["name"].text(), at["when"].text(), std::move(job.document)});
      } catch (const Refused& r) {
        out.lost.push_back(
            {name_of_lost(root["versions"].item(i).json(), i), {ErrorCode::Unreadable, r.what, as_it_is(r.where)}});
      }
  auto shapes = std::make_shared<std::vector<CarriedShapes>>();
  const At faces = root["faces"];
  for (std::size_t i = 0; i < faces.size(); ++i)
    shapes->push_back(carried(faces.item(i)));
  if (!shapes->empty())
    d.carried = std::move(shapes);
  return out;
}

} // namespace

namespace {

// A sheet with all that is on it.
void write_sheet(Json& json, const Document& document) {
  json["sheet"] = {{"width", document.sheet.width}, {"height", document.sheet.height}};
  json["unit"] = name_of(document.unit);
  json["next_id"] = document.next_id;
  json["materials"] = materials(document.materials);
  if (!document.backings.empty())
    json["backings"] = backings(document.backings);
  for (const RulerLine& l : document.ruler_lines)
    json["ruler_lines"].push_back({{"at", point(l.at)}, {"angle", l.angle}, {"locked", l.locked}});
  const auto end = [](const MarkEnd& e) { return Json{{"piece", e.piece}, {"at", point(e.at)}}; };
  for (const DimensionMark& m : document.marks)
    json["marks"].push_back({{"from", end(m.from)}, {"to", end(m.to)}, {"beside", m.beside}});
  for (const PieceGroup& g : document.groups)
    json["groups"].push_back({{"id", g.id}, {"name", g.name}, {"inside", g.inside}});
  if (document.ordered != Ordered{})
    json["ordered"] = {
        {"width", document.ordered.width}, {"height", document.ordered.height}, {"parts", document.ordered.parts}};
  for (const SetAside& s : document.set_aside)
    json["set_aside"].push_back({{"finding", s.finding}, {"piece", s.piece}, {"reason", s.reason}});
  for (const CutTurn& t : document.order_by_hand)
    json["order_by_hand"].push_back({t.piece, t.layer, t.contour});
  if (document.names != nullptr)
    json["names"] = name_list(*document.names);
  if (document.finish_grows)
    json["finish_grows"] = true;
  json["pieces"] = Json::array();
  Origins origins;
  for (const auto& p : document.pieces)
    json["pieces"].push_back(piece(*p, origins));
}

} // namespace

std::string write_job(const Document& document, const FaceLibrary& faces, const Versions& versions) {
  assert(faults(document).empty());
  Json json = {{"format", "frelm-job"}, {"version", job_file_version}};
  write_sheet(json, document);
  std::map<FaceName, CarriedShapes> shapes;
  add_shapes_used(document, faces, shapes);
  for (const Version& v : versions) {
    json["versions"].push_back({{"name", v.name}, {"when", v.when}, {"job", Json::object()}});
    write_sheet(json["versions"].back()["job"], v.document);
    add_shapes_used(v.document, faces, shapes);
  }
  json["faces"] = Json::array();
  for (const auto& [name, used] : shapes)
    json["faces"].push_back(carried(used));
  return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Document> read_job(std::string_view bytes) {
  Result<ReadJob> job = read_what_can_be_read(bytes);
  if (!job)
    return job.error();
  if (!job->lost.empty())
    return job->lost.front().error;
  return std::move(job->document);
}

Result<ReadJob> read_what_can_be_read(std::string_view bytes) {
  try {
    return read_document(Json::parse(bytes));
  } catch (const Refused& r) {
    return Error{ErrorCode::Unreadable, r.what, as_it_is(r.where)};
  } catch (const nlohmann::json::parse_error& e) {
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "the job file is damaged or cut short; open an older copy"),
                 say(FRELM_WORDS("core", "byte %1"), std::to_string(e.byte))};
  } catch (const std::exception& e) {
    return Error{ErrorCode::Unreadable,
                 say(FRELM_WORDS("core", "the job file is damaged (%1); open an older copy"), std::string(e.what())),
                 {}};
  }
}

} // namespace frelm
