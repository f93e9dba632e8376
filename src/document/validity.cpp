// The rules of each piece by itself, then of the names between them. Pieces that a known good document holds as the
// same object are looked at only for their names.
#include "document/validity.h"
#include "document/piece_name.h"

#include "document/edits.h"
#include "document/guides.h"
#include "lettering/shape_edit.h"

#include <map>
#include <set>
#include <unordered_map>

namespace frelm {
namespace {

bool is_utf8(const std::string& text) {
  return to_utf8(from_utf8(text)) == text;
}

bool is_unicode(char32_t c) {
  return c <= 0x10ffff && !(c >= 0xd800 && c <= 0xdfff);
}

using PieceIndex = std::unordered_map<PieceId, const Piece*>; // thousands of pieces are asked for by their ids

// The rules of one piece, and of what it names in its document.
class PieceRules {
public:
  PieceRules(const Document& document, const PieceIndex& index, PieceId id, std::vector<Fault>& out)
      : document_(document), index_(index), id_(id), out_(out) {}

  void values(const Piece& p, const std::string& at = {}) {
    if (!is_utf8(p.name))
      fault(at + "name", FRELM_WORDS("core", "is not UTF-8"));
    if (p.link)
      link(*p.link, p.outline() != nullptr, at + "link");
    if (const Lettering* l = p.lettering())
      lettering(*l, at);
    if (const Guide* g = p.guide()) {
      shape(g->shape, at + "guide");
      finish(g->finish, at + "guide/finish");
    }
    if (const OutlinePiece* o = p.outline())
      drawn(*o, at);
  }

  // along: pieces that are to be had besides the document's.
  void names(const Piece& p, const std::string& at = {}, const std::vector<Piece>& along = {}) {
    const auto there = [&](PieceId id) -> const Piece* {
      for (const Piece& other : along)
        if (other.id == id)
          return &other;
      const auto found = index_.find(id);
      return found != index_.end() ? found->second : nullptr;
    };
    if (const Lettering* l = p.lettering()) {
      for (const GuideRef* ref : l->recipe.bend.remembered()) {
        const Piece* guide = there(ref->guide);
        if (ref->guide != 0 && !ref->own && (guide == nullptr || guide->lettering() != nullptr))
          fault(at + "bend", FRELM_WORDS("core", "follows a guide that is not there"));
      }
      if (const auto* made_from = std::get_if<PiecesSource>(&l->recipe.source)) {
        if (made_from->pieces.empty())
          fault(at + "pieces", FRELM_WORDS("core", "is made from nothing"));
        for (const PieceId source : made_from->pieces)
          if (there(source) == nullptr)
            fault(at + "pieces", FRELM_WORDS("core", "is made from a piece that is not there"));
      }
    }
    const Guide* g = p.guide();
    const auto* edge = g != nullptr ? std::get_if<OutlineGuide>(&g->shape) : nullptr;
    const auto* between = g != nullptr ? std::get_if<MidwayGuide>(&g->shape) : nullptr;
    if (edge != nullptr && along.empty() && !follow_outline(document_, *edge))
      fault(at + "guide", FRELM_WORDS("core", "follows a line that is not there"));
    if (between != nullptr)
      for (const PieceId circle : {between->first, between->second})
        if (const Piece* c = there(circle); c == nullptr || !circle_of(*c))
          fault(at + "guide", FRELM_WORDS("core", "lies between circles that are not there"));
    if (const OutlinePiece* o = p.outline(); o != nullptr && o->origin != nullptr && along.empty()) {
      names(o->origin->lettering, "origin/lettering/", o->origin->along);
      for (const Piece& gone : o->origin->along)
        names(gone, "origin/guides/", o->origin->along);
    }
  }

private:
  void fault(std::string place, Said reason) { out_.push_back({id_, std::move(place), std::move(reason)}); }

  bool number(const std::string& at, double v) {
    const bool good = std::isfinite(v) && std::abs(v) <= largest_number;
    if (!good)
      fault(at, FRELM_WORDS("core", "is out of range"));
    return good;
  }
  bool positive(const std::string& at, double v) {
    if (!number(at, v))
      return false;
    if (!(v > 0))
      fault(at, FRELM_WORDS("core", "must be more than 0"));
    return v > 0;
  }
  bool point(const std::string& at, Point p) { return number(at, p.x) && number(at, p.y); }

  void link(const Link& link, bool turned_over, const std::string& at) {
    for (const std::uint64_t id : {link.of, link.copy})
      if (id == 0 || id >= document_.next_id)
        fault(at, FRELM_WORDS("core", "has an id that can't be"));
    const Affine& m = link.pose;
    bool good = true;
    for (const double v : {m.a, m.b, m.c, m.d, m.e, m.f})
      good = good && number(at + "/pose", v);
    if (!good)
      return;
    // Turned and sized alike both ways: the columns are at right angles and as long.
    const double size = std::hypot(m.a, m.b), off = 1e-6 * size;
    const bool over = m.determinant() < 0;
    const double sense = over ? -1 : 1;
    if (!(size > 1e-9) || std::abs(m.c + sense * m.b) > off || std::abs(m.d - sense * m.a) > off ||
        (over && !turned_over))
      fault(at + "/pose", FRELM_WORDS("core", "must turn and size alike"));
  }

  bool outline(const Outline& o, const std::string& at) {
    for (const Contour& c : o.contours)
      if (!contour(c, at))
        return false;
    return true;
  }
  bool contour(const Contour& c, const std::string& at) {
    if (c.segments.empty()) {
      fault(at, FRELM_WORDS("core", "has a line without nodes"));
      return false;
    }
    double reach = 0;
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Segment& s = c.segments[i];
      for (const Point p : {s.p0, s.p1, s.p2, s.p3}) {
        if (!point(at, p))
          return false;
        reach = std::max(reach, distance(p, c.segments.front().p0));
      }
      if (i > 0 && s.p0 != c.segments[i - 1].p3) {
        fault(at, FRELM_WORDS("core", "has a line that is broken"));
        return false;
      }
    }
    if (c.closed && c.segments.back().p3 != c.segments.front().p0) {
      fault(at, FRELM_WORDS("core", "has a closed line whose ends don't meet"));
      return false;
    }
    if (!(reach > 0))
      fault(at, FRELM_WORDS("core", "has a line without length"));
    return reach > 0;
  }

  void letters(const Letters& l, const std::string& at) {
    std::set<std::uint64_t> ids;
    for (const TypedChar& c : l.text) {
      if (!is_unicode(c.c))
        fault(at + "text", FRELM_WORDS("core", "has a character that is not Unicode"));
      if (c.id >= document_.next_id || (c.id != 0 && !ids.insert(c.id).second))
        fault(at + "ids", FRELM_WORDS("core", "has an id that can't be"));
    }
    if (!is_utf8(l.face.family) || !is_utf8(l.face.style))
      fault(at + "face", FRELM_WORDS("core", "is not UTF-8"));
    for (std::size_t i = 0; i < l.face.axes.size(); ++i) {
      const AxisValue& a = l.face.axes[i];
      number(at + "face/axes", a.value);
      if (a.tag.size() != 4 || !is_utf8(a.tag))
        fault(at + "face/axes", FRELM_WORDS("core", "must be an axis's tag of four letters"));
      if (i > 0 && a.tag <= l.face.axes[i - 1].tag)
        fault(at + "face/axes", FRELM_WORDS("core", "must be sorted by tag, each once"));
    }
    positive(at + "size", l.size);
    positive(at + "width", l.width);
    number(at + "line_pitch", l.line_pitch);
    const auto tag = [&](const FeatureSetting& f, const char* where) {
      if (f.tag.size() != 4 || !is_utf8(f.tag))
        fault(at + where, FRELM_WORDS("core", "must be a feature's tag of four letters"));
    };
    for (const FeatureSetting& f : l.features)
      tag(f, "features");
    for (const LetterAlternate& a : l.alternates)
      tag(a.by, "alternates");
  }

  void followed(const GuideRef& ref, const std::string& at) {
    if (ref.own)
      shape(*ref.own, at + "/own");
  }

  void rails(const RailsBend& r, const std::string& at) {
    for (const auto& [edge, name] : {std::pair{&r.top, "top"}, std::pair{&r.bottom, "bottom"}}) {
      const std::string here = at + "/" + name;
      followed(*edge, here);
      for (const RailProfile* p : {&edge->first, &edge->plus}) {
        number(here + "/depth", p->depth);
        positive(here + "/periods", p->periods);
        number(here + "/phase", p->phase);
      }
    }
    number(at + "/taper_along", r.taper_along);
    number(at + "/taper_across", r.taper_across);
    followed(r.fill, at + "/fill");
    number(at + "/fill/margin", r.fill.margin);
    for (const double end : r.fill.upright.ends)
      number(at + "/fill/ends", end);
    number(at + "/fill/proportion", r.fill.upright.proportion);
    if (r.fill.corners)
      for (const double corner : *r.fill.corners)
        number(at + "/fill/corners", corner);
  }

  void net(const NetBend& n, const std::string& at) {
    if (n.base == BendKind::Net)
      fault(at + "/base", FRELM_WORDS("core", "can't be a net"));
    for (const auto& [shares, name] : {std::pair{&n.net.columns, "/columns"}, std::pair{&n.net.rows, "/rows"}}) {
      bool good = shares->size() >= 2 && shares->size() <= 200 && shares->front() == 0 && shares->back() == 1;
      for (std::size_t i = 1; good && i < shares->size(); ++i)
        good = (*shares)[i] - (*shares)[i - 1] >= least_share;
      if (!good)
        fault(at + name, FRELM_WORDS("core", "must go from 0 to 1, upwards"));
    }
    if (n.net.pegs.size() != n.net.columns.size() * n.net.rows.size())
      fault(at + "/pegs", FRELM_WORDS("core", "do not fit the net's columns and rows"));
    for (const NetPeg& p : n.net.pegs)
      for (const Vec v : {p.at, p.along, p.down, p.twist})
        if (!point(at + "/pegs", v))
          return;
  }

  void lettering(const Lettering& l, const std::string& at) {
    const Recipe& r = l.recipe;
    if (const Letters* text = r.letters())
      letters(*text, at + "letters/");
    if (const auto* o = std::get_if<OutlineSource>(&r.source); o != nullptr && o->outline != nullptr)
      outline(*o->outline, at + "outline");
    const Bend& b = r.bend;
    positive(at + "bend/arc/value", b.arc.value);
    followed(b.guide, at + "bend/on_guide");
    number(at + "bend/on_guide/angle", b.guide.angle);
    number(at + "bend/on_guide/distance", b.guide.distance);
    number(at + "bend/on_guide/percent", b.guide.percent);
    number(at + "bend/offset", b.offset);
    number(at + "bend/least_stroke", b.least_stroke);
    rails(b.rails, at + "bend/rails");
    net(b.net, at + "bend/net");
    const Spacing& s = r.spacing;
    for (const auto& [value, name] :
         {std::pair{s.letter, "letter"}, std::pair{s.word, "word"}, std::pair{s.gap, "gap"},
          std::pair{s.least_gap, "least_gap"}, std::pair{s.length, "length"}, std::pair{s.angle, "angle"}})
      number(at + "spacing/" + name, value);
    for (const char32_t c : s.separator)
      if (!is_unicode(c))
        fault(at + "spacing/separator", FRELM_WORDS("core", "has a character that is not Unicode"));
    finish(r.finish, at + "finish");
    for (const LetterTweak& t : r.tweaks) {
      for (const double v : {t.turn, t.raise, t.nudge})
        number(at + "by_hand", v);
      positive(at + "by_hand/size", t.size);
    }
    for (const PairTweak& t : r.pairs)
      number(at + "gaps_by_hand", t.gap);
    point(at + "at", l.placement.at);
    number(at + "angle", l.placement.angle);
  }

  void shape(const GuideShape& shape, const std::string& at) {
    if (const auto* path = std::get_if<PathGuide>(&shape); path != nullptr && !contour(path->contour, at + "/path"))
      return;
    if (const auto* strip = std::get_if<RibbonGuide>(&shape)) {
      this->shape(ribbon_line(*strip), at + "/along");
      within(at + "/notch", strip->cut.notch, 0, largest_number);
      within(at + "/gap", strip->cut.gap, 0, largest_number);
      number(at + "/drop", strip->cut.drop);
    }
    if (const auto* drawn = std::get_if<FreehandGuide>(&shape))
      for (const Point p : drawn->points)
        if (!point(at + "/points", p))
          return;
    for (const ShapeMeasure& m : shape_measures(shape))
      if (!number(at + "/" + std::string(m.name.text), m.value))
        return;
    if (std::holds_alternative<OutlineGuide>(shape) || std::holds_alternative<MidwayGuide>(shape))
      return; // by name
    if (!point(at + "/centre", shape_centre(shape)))
      return;
    if (const auto line = guide_line(shape); !line)
      fault(at, say(FRELM_WORDS("core", "can't be laid: %1"), line.error().what));
  }

  void within(const std::string& at, double v, double least, double most) {
    if (!(v >= least && v <= most))
      fault(at, FRELM_WORDS("core", "is out of range"));
  }

  void finish(const Finish& f, const std::string& at) {
    if (f.steps.size() > most_finish_steps)
      fault(at, FRELM_WORDS("core", "has too many steps"));
    for (const FinishStep& step : f.steps) {
      if (const auto* t = std::get_if<ThinStep>(&step.what)) {
        within(at + "/tolerance", t->tolerance, least_tolerance, most_tolerance);
        within(at + "/per_100", t->per_100, 0, most_per_100);
        within(at + "/apart", t->apart, 0, most_distance);
        within(at + "/most_off", t->most_off, least_tolerance, most_tolerance);
      }
      if (const auto* r = std::get_if<RoundStep>(&step.what)) {
        within(at + "/radius", r->radius, least_rounding, most_distance);
        within(at + "/sharper_than", r->sharper_than, least_opening, 180);
      }
      if (const auto* b = std::get_if<BorderStep>(&step.what)) {
        if (b->rings.empty() || b->rings.size() > most_rings_of_border)
          fault(at + "/rings", FRELM_WORDS("core", "has no ring, or too many"));
        for (const BorderRing& r : b->rings)
          within(at + "/rings/distance", r.distance, least_ring, most_distance);
        within(at + "/mitre_limit", b->mitre_limit, 1, most_mitre_limit);
        within(at + "/hole_size", b->hole_size, 0, most_distance);
        within(at + "/overlap", b->overlap, 0, most_distance);
      }
      if (const auto* t = std::get_if<TabStep>(&step.what)) {
        within(at + "/outer", t->outer, least_tab, most_distance);
        within(at + "/inner", t->inner, 0, most_distance);
        within(at + "/depth", t->depth, least_tab_depth, most_distance);
        within(at + "/across", t->across, -farthest_share, farthest_share);
        within(at + "/down", t->down, -farthest_share, farthest_share);
      }
      if (const auto* t = std::get_if<TieStep>(&step.what)) {
        within(at + "/width", t->form.width, least_tie, most_tie);
        within(at + "/each", t->bridges.each, 1, 2);
        number(at + "/angle", t->bridges.angle);
        if (t->by_hand.size() > most_hand_ties)
          fault(at + "/by_hand", FRELM_WORDS("core", "has too many"));
        for (const HandTie& h : t->by_hand)
          for (const double share : {h.from.x, h.from.y, h.to.x, h.to.y})
            within(at + "/by_hand", share, -farthest_share, farthest_share);
      }
      if (const auto* s = std::get_if<ShadeStep>(&step.what)) {
        number(at + "/angle", s->angle);
        within(at + "/depth", s->depth, 0, most_distance);
        within(at + "/gap", s->gap, 0, most_distance);
      }
    }
  }

  void drawn(const OutlinePiece& o, const std::string& at) {
    if (o.outline == nullptr) {
      fault(at + "outline", FRELM_WORDS("core", "is missing"));
      return;
    }
    outline(*o.outline, at + "outline/path");
    finish(o.finish, at + "outline/finish");
    for (const double v : {o.moved.a, o.moved.b, o.moved.c, o.moved.d, o.moved.e, o.moved.f})
      if (!number(at + "outline/moved", v))
        break;
    if (o.origin == nullptr) {
      if (o.moved != Affine{} || o.reshaped)
        fault(at + "outline/moved", FRELM_WORDS("core", "says what happened since a release that never was"));
      return;
    }
    if (o.origin->lettering.lettering() == nullptr)
      fault(at + "origin", FRELM_WORDS("core", "must be a lettering"));
    if (o.origin->beside > o.origin->along.size() || o.origin->in_front > o.origin->beside)
      fault(at + "origin/beside", FRELM_WORDS("core", "is out of range"));
    values(o.origin->lettering, at + "origin/lettering/");
    for (const Piece& gone : o.origin->along)
      values(gone, at + "origin/guides/");
  }

  const Document& document_;
  const PieceIndex& index_;
  PieceId id_;
  std::vector<Fault>& out_;
};

bool made_from_itself(const Document& document, PieceId id) {
  std::set<PieceId> seen;
  std::vector<PieceId> look = sources_of(document, id);
  while (!look.empty()) {
    const PieceId source = look.back();
    look.pop_back();
    if (source == id)
      return true;
    if (seen.insert(source).second)
      for (const PieceId deeper : sources_of(document, source))
        look.push_back(deeper);
  }
  return false;
}

void backing_faults(const Document& document, std::vector<Fault>& out) {
  const auto wrong = [&](Said why) { out.push_back({0, "backings", std::move(why)}); };
  if (document.backings.size() > most_backings)
    wrong(FRELM_WORDS("core", "has too many"));
  for (const Backing& b : document.backings) {
    const PictureFile* file = b.picture.get();
    if (file == nullptr || !(file->bytes.starts_with("\x89PNG") || file->bytes.starts_with("\xff\xd8")) ||
        file->bytes.size() > most_picture_bytes || file->width < 1 || file->height < 1 ||
        file->width > most_picture_side || file->height > most_picture_side) {
      wrong(FRELM_WORDS("core", "holds no PNG or JPEG picture, or one that is too large"));
      continue;
    }
    if (!is_utf8(b.name))
      wrong(FRELM_WORDS("core", "has a name that can't be"));
    const Affine& m = b.place;
    const double w = std::hypot(m.a, m.b), h = std::hypot(m.c, m.d);
    constexpr double least = 1e-6, most = 1e6, square = 1e-6; // mm a px; the cosine of the angle of its sides
    const bool placed = w >= least && w <= most && h >= least && h <= most && std::abs(m.e) <= largest_number &&
                        std::abs(m.f) <= largest_number && std::abs(m.a * m.c + m.b * m.d) <= square * w * h;
    if (!placed || !(b.strength >= 0 && b.strength <= 1))
      wrong(FRELM_WORDS("core", "is out of range"));
  }
}

// Ruler lines and marks.
void bench_faults(const Document& document, std::vector<Fault>& out) {
  const auto good = [](double v) { return std::isfinite(v) && std::abs(v) <= largest_number; };
  const auto place = [&](Point p) { return good(p.x) && good(p.y); };
  for (const RulerLine& l : document.ruler_lines)
    if (!place(l.at) || !good(l.angle))
      out.push_back({0, "ruler_lines", FRELM_WORDS("core", "is out of range")});
  for (const DimensionMark& m : document.marks)
    if (!place(m.from.at) || !place(m.to.at) || !good(m.beside))
      out.push_back({0, "marks", FRELM_WORDS("core", "is out of range")});
}

void name_faults(const NameList& list, std::vector<Fault>& out) {
  const auto wrong = [&](Said why) { out.push_back({0, "names", std::move(why)}); };
  if (list.rows.size() > most_name_rows || list.columns.size() > most_name_columns ||
      list.by_hand.size() > most_names_by_hand)
    wrong(FRELM_WORDS("core", "has too many"));
  const auto good = [](const std::string& text) { return is_utf8(text) && text.size() <= longest_name_cell; };
  bool sound = good(list.source) && std::all_of(list.columns.begin(), list.columns.end(), good);
  for (const auto& row : list.rows)
    sound = sound && row.size() == list.columns.size() && std::all_of(row.begin(), row.end(), good);
  std::set<PieceId> ruled;
  for (const NameRule& r : list.rules)
    sound = sound && ruled.insert(r.piece).second && r.room >= 0 && r.room <= largest_number && r.least_caps >= 0 &&
            r.least_caps <= largest_number;
  if (!sound)
    wrong(FRELM_WORDS("core", "has a row or a rule that can't be"));
}

} // namespace

std::vector<Fault> faults(const Document& document, const Document* known_good) {
  std::vector<Fault> out;
  const auto size = [&](double v, const char* name) {
    if (!std::isfinite(v) || !(v > 0) || v > largest_number)
      out.push_back({0, name, FRELM_WORDS("core", "must be more than 0 and not too large")});
  };
  size(document.sheet.width, "sheet/width");
  size(document.sheet.height, "sheet/height");
  const auto sane = [](double v) { return v >= 0 && v <= largest_number; };
  if (!sane(document.ordered.width) || !sane(document.ordered.height) || document.ordered.parts < 0 ||
      document.ordered.parts > most_ordered_parts)
    out.push_back({0, "ordered", FRELM_WORDS("core", "is out of range")});
  if (document.set_aside.size() > most_set_aside)
    out.push_back({0, "set_aside", FRELM_WORDS("core", "has too many")});
  for (const SetAside& s : document.set_aside)
    if (s.finding.empty() || !is_utf8(s.finding) || !is_utf8(s.reason) || s.reason.size() > longest_reason)
      out.push_back({0, "set_aside", FRELM_WORDS("core", "has a name that can't be")});
  if (document.order_by_hand.size() > most_by_hand)
    out.push_back({0, "order_by_hand", FRELM_WORDS("core", "has too many")});
  for (const CutTurn& t : document.order_by_hand)
    if (!is_utf8(t.layer) || t.layer.size() > longest_turn_layer) {
      out.push_back({0, "order_by_hand", FRELM_WORDS("core", "has a name that can't be")});
      break;
    }
  if (document.names != nullptr)
    name_faults(*document.names, out);
  const auto materials = [&](Said why) { out.push_back({0, "materials", std::move(why)}); };
  if (document.materials.size() > most_materials)
    materials(FRELM_WORDS("core", "has too many"));
  std::set<Colour> colours;
  for (const Material& m : document.materials) {
    if (!is_utf8(m.name) || m.name.size() > 4 * longest_material_name)
      materials(FRELM_WORDS("core", "has a name that can't be"));
    if (!colours.insert(m.colour).second)
      materials(FRELM_WORDS("core", "has two of one colour"));
    for (const double v : {m.width, m.length, m.least_stroke, m.least_gap, m.nodes_per_100, m.nodes_apart})
      if (!(v >= 0 && v <= largest_number))
        materials(FRELM_WORDS("core", "is out of range"));
    const CutTool& t = m.tool;
    const auto within = [](double v, double most) { return v >= 0 && v <= most; };
    if (!(within(t.tip, most_tip) && within(t.swivel, 180) && within(t.overcut, most_overcut) &&
          within(t.kerf, most_kerf) && within(t.lead_length, most_lead) && t.passes >= 1 && t.passes <= most_passes &&
          within(t.speed, largest_number) && within(t.acceleration, largest_number)))
      materials(FRELM_WORDS("core", "has a tool that is out of range"));
    if (!within(m.panel_overlap, most_panel_overlap))
      materials(FRELM_WORDS("core", "is out of range"));
  }
  backing_faults(document, out);
  bench_faults(document, out);
  for (Fault& f : group_faults(document))
    out.push_back(std::move(f));
  std::set<GroupId> groups;
  for (const PieceGroup& g : document.groups)
    groups.insert(g.id);
  std::set<const Piece*> good;
  if (known_good != nullptr)
    for (const auto& p : known_good->pieces)
      good.insert(p.get());
  PieceIndex index;
  for (const auto& p : document.pieces)
    index.emplace(p->id, p.get());
  std::map<std::uint64_t, std::shared_ptr<const Origin>> origins;
  for (const auto& p : document.pieces) {
    if (p->id == 0 || p->id >= document.next_id || index[p->id] != p.get())
      out.push_back({p->id, "id", FRELM_WORDS("core", "has an id that can't be")});
    if (p->group != 0 && !groups.contains(p->group))
      out.push_back({p->id, "group", FRELM_WORDS("core", "stands in a group that is not there")});
    PieceRules rules(document, index, p->id, out);
    if (!good.contains(p.get()))
      rules.values(*p);
    rules.names(*p);
    const Lettering* l = p->lettering();
    if (l != nullptr && std::holds_alternative<PiecesSource>(l->recipe.source) && made_from_itself(document, p->id))
      out.push_back({p->id, "pieces", FRELM_WORDS("core", "is made from itself")});
    if (const OutlinePiece* o = p->outline(); o != nullptr && o->origin != nullptr) {
      const auto& first = origins.try_emplace(o->origin->release, o->origin).first->second;
      if (o->origin->release == 0 || o->origin->release >= document.next_id || !same_value(first, o->origin))
        out.push_back({p->id, "release", FRELM_WORDS("core", "is not its own")});
    }
  }
  return out;
}

std::vector<Fault> group_faults(const Document& document) {
  std::vector<Fault> out;
  std::map<GroupId, GroupId> inside;
  for (const PieceGroup& g : document.groups) {
    const auto fault = [&](Said what) { out.push_back({0, "groups", std::move(what)}); };
    if (g.id == 0 || g.id >= document.next_id || !inside.emplace(g.id, g.inside).second)
      fault(FRELM_WORDS("core", "has an id that can't be"));
    if (!is_utf8(g.name))
      fault(FRELM_WORDS("core", "is not UTF-8"));
  }
  for (const PieceGroup& g : document.groups) {
    std::size_t steps = 0;
    for (auto it = inside.find(g.id); it != inside.end() && steps <= inside.size(); it = inside.find(it->second))
      ++steps;
    if (steps > inside.size()) {
      out.push_back({0, "groups", FRELM_WORDS("core", "stands in itself")});
      break;
    }
  }
  return out;
}

std::string describe(const Document& document, const std::vector<Fault>& faults) {
  if (faults.empty())
    return {};
  const Piece* piece = document.find(faults.front().piece);
  return (piece != nullptr ? display_name(document, *piece) + ": " : "") + faults.front().text();
}

} // namespace frelm
