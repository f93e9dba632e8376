// Finish steps in the job file.
#include "document/job_json.h"
#include "geom/cases.h"

namespace frelm::job_json {

FRELM_NAMES(BorderSide, {BorderSide::Outside, "outside"}, {BorderSide::Inside, "inside"}, {BorderSide::Both, "both"});
FRELM_NAMES(BorderOf, {BorderOf::Letters, "letters"}, {BorderOf::AllSoFar, "all-so-far"});
FRELM_NAMES(JoinStyle, {JoinStyle::Round, "round"}, {JoinStyle::Mitre, "mitre"}, {JoinStyle::Bevel, "bevel"});
FRELM_NAMES(HoleRule, {HoleRule::Keep, "kept"}, {HoleRule::Drop, "dropped"}, {HoleRule::DropSmall, "dropped-under"});
FRELM_NAMES(WhichCorners, {WhichCorners::All, "all"}, {WhichCorners::Outer, "outer"}, {WhichCorners::Inner, "inner"});
FRELM_NAMES(NodeAim, {NodeAim::Tolerance, "tolerance"}, {NodeAim::Machine, "machine"});
FRELM_NAMES(TieKind, {TieKind::Parts, "parts"}, {TieKind::Stencil, "stencil"});
FRELM_NAMES(TieEnds, {TieEnds::Square, "square"}, {TieEnds::Round, "round"});
FRELM_NAMES(ShadeKind, {ShadeKind::Block, "block"}, {ShadeKind::Drop, "drop"});
FRELM_NAMES(ShadeOf, {ShadeOf::LastRing, "last-ring"}, {ShadeOf::Letters, "letters"});

namespace {

Colour colour(const At& at) {
  const Result<Colour> c = colour_from_hex(at.text());
  if (!c)
    at.refuse(c.error().what);
  return *c;
}

Json border(const BorderStep& b) {
  Json rings = Json::array();
  for (const BorderRing& r : b.rings)
    rings.push_back({{"distance", r.distance}, {"colour", to_hex(r.colour)}, {"destination", name_of(r.destination)}});
  return {{"rings", rings},
          {"side", name_of(b.side)},
          {"of", name_of(b.of)},
          {"corners", name_of(b.join)},
          {"mitre_limit", b.mitre_limit},
          {"holes", name_of(b.holes)},
          {"hole_size", b.hole_size},
          {"taken_out", b.taken_out},
          {"overlap", b.overlap}};
}
BorderStep border(const At& at) {
  BorderStep b;
  b.rings.clear();
  const At rings = at["rings"];
  for (std::size_t i = 0; i < rings.size(); ++i) {
    const At r = rings.item(i);
    b.rings.push_back({r["distance"].number(), colour(r["colour"]), r["destination"].choice<Destination>()});
  }
  b.side = at["side"].choice<BorderSide>();
  b.of = at["of"].choice<BorderOf>();
  b.join = at["corners"].choice<JoinStyle>();
  b.mitre_limit = at["mitre_limit"].number();
  b.holes = at["holes"].choice<HoleRule>();
  b.hole_size = at["hole_size"].number();
  b.taken_out = at["taken_out"].flag();
  b.overlap = at["overlap"].number();
  return b;
}

ThinStep thin(const At& at) {
  ThinStep out{at["tolerance"].number()};
  if (at.has("aim")) { // since version 14
    out.aim = at["aim"].choice<NodeAim>();
    out.per_100 = at["per_100"].number(), out.apart = at["apart"].number(), out.most_off = at["most_off"].number();
  }
  return out;
}

Json shade(const ShadeStep& s) {
  return {{"kind", name_of(s.kind)},  {"angle", s.angle},           {"depth", s.depth},
          {"of", name_of(s.of)},      {"apart", s.apart},           {"gap", s.gap},
          {"with_ring", s.with_ring}, {"colour", to_hex(s.colour)}, {"destination", name_of(s.destination)}};
}
ShadeStep shade(const At& at) {
  ShadeStep s;
  s.kind = at["kind"].choice<ShadeKind>();
  s.angle = at["angle"].number();
  s.depth = at["depth"].number();
  s.of = at["of"].choice<ShadeOf>();
  s.apart = at["apart"].flag();
  s.gap = at["gap"].number();
  s.with_ring = at["with_ring"].flag();
  s.colour = colour(at["colour"]);
  s.destination = at["destination"].choice<Destination>();
  return s;
}

Json ties(const TieStep& t) {
  Json by_hand = Json::array();
  for (const HandTie& h : t.by_hand)
    by_hand.push_back(Json::array({point(h.from), point(h.to)}));
  return {{"kind", name_of(t.kind)},  {"width", t.form.width}, {"ends", name_of(t.form.ends)}, {"each", t.bridges.each},
          {"angle", t.bridges.angle}, {"all", t.all},          {"by_hand", std::move(by_hand)}};
}
TieStep ties(const At& at) {
  TieStep t;
  t.kind = at["kind"].choice<TieKind>();
  t.form = {at["width"].number(), at["ends"].choice<TieEnds>()};
  t.bridges = {static_cast<int>(std::min<std::uint64_t>(at["each"].whole(), 9)), at["angle"].number()};
  t.all = at["all"].flag();
  const At by_hand = at["by_hand"];
  for (std::size_t i = 0; i < by_hand.size(); ++i)
    t.by_hand.push_back({point(by_hand.item(i).item(0)), point(by_hand.item(i).item(1))});
  return t;
}

} // namespace

Json finish(const Finish& f) {
  Json out = Json::array();
  for (const FinishStep& s : f.steps) {
    Json step{{"step", ""}, {"on", s.on}};
    const auto with = [&](const char* name, const Json& measures) {
      step["step"] = name;
      step.update(measures);
    };
    std::visit(
        Cases{
            [&](const WeldStep&) { with("weld", Json::object()); },
            [&](const ThinStep& t) {
              with("thin", {{"tolerance", t.tolerance},
                            {"aim", name_of(t.aim)},
                            {"per_100", t.per_100},
                            {"apart", t.apart},
                            {"most_off", t.most_off}});
            },
            [&](const RoundStep& r) {
              with("round", {{"radius", r.radius}, {"corners", name_of(r.which)}, {"sharper_than", r.sharper_than}});
            },
            [&](const BorderStep& b) { with("border", border(b)); },
            [&](const ShadeStep& t) { with("shade", shade(t)); },
            [&](const TabStep& t) {
              with(
                  "tab",
                  {{"outer", t.outer}, {"inner", t.inner}, {"depth", t.depth}, {"across", t.across}, {"down", t.down}});
            },
            [&](const TieStep& t) { with("ties", ties(t)); },
            [&](const MirrorStep&) { with("mirror", Json::object()); },
        },
        s.what);
    out.push_back(std::move(step));
  }
  return out;
}

Finish finish(const At& at) {
  Finish f{{}};
  for (std::size_t i = 0; i < at.size(); ++i) {
    const At step = at.item(i);
    const std::string name = step["step"].text();
    FinishStep s;
    if (name == "thin")
      s.what = thin(step);
    else if (name == "round")
      s.what =
          RoundStep{step["radius"].number(), step["corners"].choice<WhichCorners>(), step["sharper_than"].number()};
    else if (name == "border")
      s.what = border(step);
    else if (name == "shade")
      s.what = shade(step);
    else if (name == "tab")
      s.what = TabStep{step["outer"].number(), step["inner"].number(), step["depth"].number(), step["across"].number(),
                       step["down"].number()};
    else if (name == "ties")
      s.what = ties(step);
    else if (name == "mirror")
      s.what = MirrorStep{};
    else if (name != "weld")
      step["step"].refuse(say(FRELM_WORDS("core", "'%1' is not known"), name));
    s.on = step["on"].flag();
    f.steps.push_back(std::move(s));
  }
  return f;
}

} // namespace frelm::job_json
