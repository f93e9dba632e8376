// One run after another: laid out unrolled (run_layout), then every letter placed by the stance. The only part that
// knows how a place on a guide becomes a letter's transform is Placer.
#include "lettering/seat.h"

#include "geom/bisect.h"

namespace frelm {
namespace {

constexpr double steepest_lean = 80 * pi / 180; // leaning letters keep at least 17 % of their width
constexpr double flow_tolerance = 0.005;        // mm
constexpr double follow_on_gap = 0.8;           // cap heights between lines that follow one another
constexpr double most_tightening = 0.08;        // cap heights a gap, when a spread run is too long for its room
constexpr double corner_reach = 0.6;            // cap heights that flowing letters take to go round a corner
constexpr double foot_band = 0.03;              // cap heights about the baseline

double share_of(Alignment a) {
  return a == Alignment::Left || a == Alignment::Justified ? 0 : a == Alignment::Centre ? 0.5 : 1;
}

// The hand's changes of one letter about the middle of its base, in its own coordinates.
Affine own_change(const LetterTweak& t, double advance) {
  const Vec middle{advance / 2, 0};
  return Affine::translation(middle) * Affine::rotation(radians(t.turn)) * Affine::scaling(t.size, t.size) *
         Affine::translation(-middle);
}

class Placer {
public:
  Placer(const SpacedText& spaced, const RunStyle& style, const RunPlace& place)
      : spaced_(spaced), style_(style), place_(place), cap_(spaced.set->cap_height) {}

  // at: σ of the middle of the advance on the line's parallel; stretched: run mm → guide mm.
  Result<PlacedLetter> letter(const Parallel& line, const RunCell& cell, double at, double height, double stretched,
                              SeatedText& out) const {
    const SetCluster& c = spaced_.set->lines[cell.line][cell.cluster];
    PlacedLetter l = blank_letter(cell, c);
    l.advance = c.advance, l.stretch = stretched;
    l.plain_s = cell.plain + cell.advance / 2;
    const LetterTweak* tweak = tweak_of(c);
    const Affine own = tweak != nullptr ? own_change(*tweak, c.advance) : Affine{};
    if (tweak != nullptr)
      at += tweak->nudge * cap_, height += tweak->raise * cap_;
    l.s = at, l.h = height, l.by_hand = tweak != nullptr && !tweak->idle();
    const CurvePlace p = line.at(at).on_curve;
    l.beyond = p.beyond;
    pose(l, p, height, own);
    if (style_.stance == Stance::Flow && !l.blank())
      if (const Result<Done> done = flow(l, line, at, height, stretched, own, out); !done)
        return done.error();
    return l;
  }

  // Set downwards: the middle of the letter's cell at the place, its own down along the guide.
  PlacedLetter stacked(const Parallel& line, const RunCell& cell, double at, double aside, double cell_middle) const {
    const SetCluster& c = spaced_.set->lines[cell.line][cell.cluster];
    PlacedLetter l = blank_letter(cell, c);
    l.advance = cell.advance;
    const LetterTweak* tweak = tweak_of(c);
    if (tweak != nullptr)
      at += tweak->nudge * cap_, aside += tweak->raise * cap_;
    l.s = at, l.h = aside, l.by_hand = tweak != nullptr && !tweak->idle();
    const CurvePlace p = line.at(at).on_curve;
    l.beyond = p.beyond;
    l.angle = style_.stance == Stance::Stand ? 0 : std::atan2(p.tangent.y, p.tangent.x) - pi / 2;
    const Affine own = tweak != nullptr ? own_change(*tweak, c.advance) : Affine{};
    const double across = c.ink.empty() ? c.advance / 2 : (c.ink.x0 + c.ink.x1) / 2;
    const Vec aside_of = up_of(p.tangent); // to the right of a line that goes down
    l.origin = p.point + aside_of * aside - Affine::rotation(l.angle).linear({across, cell_middle});
    l.place = Affine::translation(l.origin) * Affine::rotation(l.angle) * own;
    return l;
  }

  // The letter's flat outline with the middle of its advance at σ = at, not nudged: as `letter` would place it.
  void outline_points(const Parallel& line, const RunCell& cell, const FlatLetter& flat, double at, double height,
                      std::vector<Point>& out) const {
    const SetCluster& c = spaced_.set->lines[cell.line][cell.cluster];
    const LetterTweak* tweak = tweak_of(c);
    const Affine own = tweak != nullptr ? own_change(*tweak, c.advance) : Affine{};
    if (tweak != nullptr)
      height += tweak->raise * cap_;
    out.resize(flat.points.size());
    if (style_.stance == Stance::Flow) {
      for (std::size_t i = 0; i < out.size(); ++i) {
        const Point q = own(flat.points[i]);
        const CurvePlace p = line.at(at + q.x - c.advance / 2).on_curve;
        out[i] = p.point + up_of(p.tangent) * (height - q.y);
      }
      return;
    }
    PlacedLetter l;
    l.advance = c.advance;
    pose(l, line.at(at).on_curve, height, own);
    std::transform(flat.points.begin(), flat.points.end(), out.begin(), l.place);
  }

private:
  static PlacedLetter blank_letter(const RunCell& cell, const SetCluster& c) {
    PlacedLetter l;
    l.line = cell.line, l.cluster = cell.cluster, l.first = c.first, l.count = c.count;
    l.space = c.space, l.missing = c.missing, l.straddles = cell.straddles;
    l.shape = l.plain = c.shape;
    return l;
  }

  // Origin, angle and place of a letter by the stance; flowing ones are bent besides.
  void pose(PlacedLetter& l, const CurvePlace& p, double height, const Affine& own) const {
    const Vec up = up_of(p.tangent);
    switch (style_.stance) {
    case Stance::Stand:
      l.angle = 0;
      l.origin = p.point + up * (height - place_.sit) - Vec{l.advance / 2, place_.sit};
      l.place = Affine::translation(l.origin) * own;
      break;
    case Stance::Lean:
      lean(l, p, height, own);
      break;
    case Stance::Turn:
    case Stance::Flow:
      l.origin = p.point + up * height - p.tangent * (l.advance / 2);
      l.angle = std::atan2(p.tangent.y, p.tangent.x);
      l.place = Affine::translation(l.origin) * Affine::rotation(l.angle) * own;
      break;
    }
  }

  const LetterTweak* tweak_of(const SetCluster& c) const {
    if (style_.recipe == nullptr || style_.recipe->tweaks.empty() || style_.recipe->letters() == nullptr)
      return nullptr;
    const TypedText& text = style_.recipe->letters()->text;
    return c.first < text.size() ? style_.recipe->tweak(text[c.first].id) : nullptr;
  }

  // Verticals stay vertical, the base lies along the tangent; where the guide runs backwards the letter hangs, so that
  // it is never mirrored.
  void lean(PlacedLetter& l, const CurvePlace& p, double height, const Affine& own) const {
    const double sense = p.tangent.x < 0 ? -1 : 1;
    Vec along = p.tangent;
    if (std::abs(along.x) < std::cos(steepest_lean))
      along = {sense * std::cos(steepest_lean), (along.y < 0 ? -1 : 1) * std::sin(steepest_lean)};
    const Vec down{0, sense};
    l.angle = std::atan2(along.y, along.x);
    l.origin = p.point - down * height - along * (l.advance / 2);
    l.place = Affine{along.x, along.y, down.x, down.y, l.origin.x, l.origin.y} * own;
  }

  Result<Done> flow(PlacedLetter& l, const Parallel& line, double at, double height, double stretched,
                    const Affine& own, SeatedText& out) const {
    WarpMap map;
    const double middle = l.advance / 2;
    map.at = [&line, at, height, stretched, middle](Point q) {
      const Parallel::Place on = line.at(at + (q.x - middle) * stretched);
      const CurvePlace& p = on.on_curve;
      const Vec up = up_of(p.tangent);
      const double h = height - q.y;
      return WarpPlace{p.point + up * h, p.tangent * ((1 + p.curvature * h) * on.rate * stretched), -up};
    };
    const double from = at - (l.advance + cap_) * stretched, to = at + (l.advance + cap_) * stretched;
    const double around = line.curve().length();
    for (const double joint : line.curve().joints())
      for (const double turn : {-around, 0.0, around}) {
        const double sigma = line.from_curve(joint + (line.closed() ? turn : 0));
        if (sigma > from && sigma < to)
          map.breaks.push_back((sigma - at) / stretched + middle);
        if (!line.closed())
          break;
      }
    std::sort(map.breaks.begin(), map.breaks.end());
    const Result<WarpResult> bent = warp(own == Affine{} ? *l.plain : l.plain->transformed(own), map, {flow_tolerance});
    if (!bent)
      return Error{bent.error().code, bent.error().what, FRELM_WORDS("core", "Bend")};
    out.flow_worst = std::max(out.flow_worst, bent->report.worst);
    out.folds += bent->report.folds;
    l.shape = std::make_shared<const Outline>(bent->outline);
    l.place = {};
    return Done{};
  }

  const SpacedText& spaced_;
  const RunStyle& style_;
  const RunPlace& place_;
  double cap_;
};

// Ink above and below the baselines of a run, mm.
struct Reach {
  double above = 0, below = 0;
};
Reach reach_of(const Run& run, const SetText& set) {
  Reach r;
  for (const RunCell& c : run.cells)
    if (const Box& ink = set.lines[c.line][c.cluster].ink; !ink.empty())
      r.above = std::max(r.above, -ink.y0), r.below = std::max(r.below, ink.y1);
  return r;
}

// How far a line's baseline stands below the first one's.
double drop_of(const SpacedText& spaced, std::size_t line, double pitch) {
  return spaced.drops.empty() ? static_cast<double>(line) * pitch : spaced.drops[line];
}

void begin(SeatedText& out, const SpacedText& spaced, const RunStyle& style) {
  out.stance = style.stance;
  out.straight = style.straight != nullptr ? style.straight : std::make_shared<const StraightPairs>(spaced.set);
}

// Even gaps and Keep joined, where the style asks for them; the run's letters come next in `out`.
Result<Done> even(Run& run, SeatedText& out, const Placer& placer, EvenRun on, const RunStyle& style) {
  const Spacing& s = style.spacing;
  if (s.mode != SpacingMode::EvenGaps && s.mode != SpacingMode::KeepJoined)
    return Done{};
  if (run.cells.size() > style.effort.most_letters) {
    out.spacing.waiting = true;
    return Done{};
  }
  on.points = [&](const RunCell& cell, const FlatLetter& flat, double at, std::vector<Point>& points) {
    placer.outline_points(on.line, cell, flat, at, on.height, points);
  };
  Result<EvenResult> evened =
      even_out(run, on, {s.mode, s.aim, s.gap, s.least_gap, style.effort.stop, style.effort.progress}, *out.straight);
  if (!evened)
    return evened.error();
  for (EvenPair& p : evened->pairs) {
    p.left += out.letters.size(), p.right += out.letters.size();
    out.spacing.pairs.push_back(p);
  }
  out.spacing.extra = evened->extra;
  run.length = 0;
  for (const RunCell& c : run.cells)
    run.length = std::max(run.length, c.at + c.advance);
  return Done{};
}

// Straight setting: each line along its own baseline, aligned at the placement; spread ones all as long as asked for.
Result<SeatedText> seat_straight(std::shared_ptr<const SpacedText> spaced, const Recipe& recipe,
                                 const Placement& placement, const RunStyle& asked) {
  const Letters letters = recipe.letters() != nullptr ? *recipe.letters() : Letters{};
  SeatedText out;
  const double turn = radians(placement.angle), cap = spaced->set->cap_height, pitch = letters.line_pitch * cap;
  std::vector<Run> runs;
  double longest = spaced->longest;
  for (std::size_t l = 0; l < spaced->lines.size(); ++l)
    runs.push_back(run_of_line(*spaced, l));
  const Run* widest = nullptr; // of spread lines: stays where it is by its advances, the others are flush by ink
  if (spread_straight(recipe)) {
    for (Run& run : runs) {
      const double beside_ink = run.length - (run.ink_end - run.ink_start);
      spread(run, recipe.spacing.length + beside_ink, SpreadEnds::Open, most_tightening * cap);
      if (widest == nullptr || run.length > widest->length)
        widest = &run;
    }
    longest = widest != nullptr ? widest->length : 0;
  }
  out.guide_length = out.used_length = longest;
  const double share = share_of(letters.alignment);
  const Vec along = direction(turn);
  const Point start = placement.at - along * (share * longest);
  out.guide = std::make_shared<const Curve>(Curve::line(start, start + along * std::max(longest, 1e-3)));
  RunStyle style = asked;
  style.stance = Stance::Turn;
  begin(out, *spaced, style);
  const RunPlace place;
  const Placer placer(*spaced, style, place);
  const auto line = std::make_shared<const Parallel>(sure(Parallel::make(out.guide, 0), "a line has parallels"));
  for (std::size_t l = 0; l < runs.size(); ++l) {
    Run& run = runs[l];
    // Lines made equally wide stand flush by their ink, others by their advances.
    const double ink = run.ink_end - run.ink_start;
    const double from = widest != nullptr
                            ? widest->ink_start + share * (widest->ink_end - widest->ink_start - ink) - run.ink_start
                        : spaced->drops.empty() ? share * (longest - run.length)
                                                : share * (longest - ink) - run.ink_start;
    const double h = -drop_of(*spaced, l, pitch);
    out.runs.push_back({line, h, run.plain_length});
    if (const Result<Done> evened =
            even(run, out, placer, {*spaced, *line, h, Stance::Turn, from, share, {}, {}}, style);
        !evened)
      return evened.error();
    for (const RunCell& c : run.cells) {
      Result<PlacedLetter> placed = placer.letter(*line, c, from + c.at + c.advance / 2, h, 1, out);
      if (!placed)
        return placed.error();
      placed->beyond = false;
      placed->run = out.runs.size() - 1;
      out.letters.push_back(std::move(*placed));
    }
  }
  out.spaced = std::move(spaced);
  return out;
}

// Cells of a line set downwards: each letter as high as its capitals or ink, a fifth of a cap height apart. Logical
// order: right-to-left text also starts at the top.
struct DownCells {
  Run run;
  std::vector<double> middles; // of each cell, y in the letter's own coordinates
};
DownCells cells_down(const SpacedText& spaced, std::size_t line, double letter_spacing) {
  constexpr double gap = 0.22, blank_height = 0.6; // cap heights
  const double cap = spaced.set->cap_height;
  DownCells out;
  std::vector<std::size_t> order(spaced.set->lines[line].size());
  for (std::size_t i = 0; i < order.size(); ++i)
    order[i] = i;
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return spaced.set->lines[line][a].first < spaced.set->lines[line][b].first;
  });
  double pen = 0;
  for (const std::size_t i : order) {
    const SetCluster& c = spaced.set->lines[line][i];
    const double top = c.blank() ? blank_height * cap : std::max(cap, -c.ink.y0),
                 bottom = c.blank() ? 0 : std::max(0.0, c.ink.y1);
    if (!out.run.cells.empty())
      pen += c.blank() ? 0 : gap * cap + letter_spacing;
    out.run.cells.push_back({line, i, pen, pen, top + bottom, c.blank(), false});
    out.middles.push_back((bottom - top) / 2);
    pen += top + bottom;
  }
  out.run.length = out.run.ink_end = pen;
  return out;
}

void measure_ink(SeatedText& text) {
  for (const PlacedLetter& l : text.letters)
    if (!l.blank())
      text.ink.add(l.shape->transformed(l.placement()).bounds());
}

Result<SeatedText> seat_down(std::shared_ptr<const SpacedText> spaced, std::shared_ptr<const Curve> guide,
                             const RunPlace& place, const RunStyle& style, bool straight) {
  SeatedText out;
  out.guide = guide;
  const Placer placer(*spaced, style, place);
  const Result<Parallel> line = Parallel::make(guide, 0);
  if (!line)
    return line.error();
  double widest = 0;
  for (const auto& clusters : spaced->set->lines)
    for (const SetCluster& c : clusters)
      widest = std::max(widest, c.ink.width());
  const double pitch = place.line_pitch > 0 ? std::max(place.line_pitch, 1.1 * widest) : 1.2 * widest;
  const auto lines = static_cast<double>(spaced->lines.size());
  for (std::size_t l = 0; l < spaced->lines.size(); ++l) {
    DownCells cells = cells_down(*spaced, l, style.spacing.letter);
    if (!straight && style.spacing.mode == SpacingMode::Spread)
      spread(cells.run, style.spread_room > 0 ? style.spread_room : guide->length(), SpreadEnds::Open, 0);
    const double share = place.anchor == RunAnchor::Start ? 0 : place.anchor == RunAnchor::Middle ? 0.5 : 1;
    const double start = place.s - share * cells.run.length;
    const double aside = place.height + (static_cast<double>(l) - (straight ? 0 : (lines - 1) / 2)) * pitch;
    for (std::size_t i = 0; i < cells.run.cells.size(); ++i) {
      const RunCell& c = cells.run.cells[i];
      out.letters.push_back(placer.stacked(*line, c, start + c.at + c.advance / 2, aside, cells.middles[i]));
      if (straight)
        out.letters.back().beyond = false;
    }
    out.used_length = std::max(out.used_length, cells.run.length);
    if (!straight)
      out.overflow = std::max({out.overflow, 0.0, -start, start + cells.run.length - guide->length()});
  }
  out.guide_length = straight ? out.used_length : guide->length();
  out.spaced = std::move(spaced);
  measure_ink(out);
  return out;
}

Result<RunPlace> place_on_guide(const GuideBend& bend, const GuideLine& line, const OrientedGuide& guide) {
  const double whole = guide.curve->length();
  RunPlace place;
  place.centring = Centring::Ink;
  place.anchor = bend.anchor == Anchor::CentredAt  ? RunAnchor::Middle
                 : bend.anchor == Anchor::StartsAt ? RunAnchor::Start
                                                   : RunAnchor::End;
  if (!std::isfinite(bend.angle) || !std::isfinite(bend.distance) || !std::isfinite(bend.percent))
    return bad_input(FRELM_WORDS("core", "the place along the guide is not a number"), FRELM_WORDS("core", "Bend"));
  const double along = bend.by == AlongBy::Distance ? bend.distance : whole * bend.percent / 100;
  if (bend.by != AlongBy::Angle)
    place.s = bend.anchor == Anchor::EndsAt ? whole - along : along;
  else if (line.sense == GuideSense::Round && guide.curve->closed())
    place.s = length_at_angle(line, guide, bend.angle);
  else // an angle says nothing on an open guide
    place.s = whole * (bend.anchor == Anchor::CentredAt ? 0.5 : bend.anchor == Anchor::StartsAt ? 0 : 1);
  return place;
}

} // namespace

std::size_t SeatedText::bytes() const {
  std::size_t sum = sizeof *this + letters.capacity() * sizeof(PlacedLetter) + runs.size() * sizeof(SeatedRun) +
                    spacing.pairs.capacity() * sizeof(EvenPair);
  for (const PlacedLetter& l : letters)
    if (l.shape != l.plain && l.shape != nullptr)
      sum += bytes_of(*l.shape);
  if (guide != nullptr)
    sum += guide->bytes();
  return sum;
}

Curve arc_curve(ArcSide side, double radius, const Placement& placement) {
  const bool over = side == ArcSide::Over;
  const Curve circle = Curve::circle({0, over ? radius : -radius}, radius, over ? pi : 0);
  return (over ? circle : circle.reversed()).transformed_rigidly(radians(placement.angle), placement.at);
}

double sit_height(SitBy sit_by, double cap_height) {
  return sit_by == SitBy::Base ? 0 : sit_by == SitBy::Middle ? -cap_height / 2 : -cap_height;
}

Result<SeatedText> seat_on_curve(std::shared_ptr<const SpacedText> spaced, std::shared_ptr<const Curve> guide,
                                 const RunPlace& place, const RunStyle& style) {
  if (style.downwards)
    return seat_down(std::move(spaced), std::move(guide), place, style, false);
  SeatedText out;
  const double cap = spaced->set->cap_height;
  if (style.stance == Stance::Flow && (style.corners == Corners::Over || style.stretch))
    guide = std::make_shared<const Curve>(guide->rounded(corner_reach * cap));
  out.guide = guide;
  out.guide_length = guide->length();
  const bool follow_on = style.lines == LinesGo::FollowOn || style.spacing.mode == SpacingMode::Repeat;
  const std::size_t runs = follow_on ? 1 : spaced->lines.size();
  begin(out, *spaced, style);
  const Placer placer(*spaced, style, place);
  for (std::size_t r = 0; r < runs; ++r) {
    const double drop = drop_of(*spaced, r, place.line_pitch),
                 aside = follow_on                       ? 0
                         : style.lines == LinesGo::Above ? drop_of(*spaced, runs - 1, place.line_pitch) - drop
                                                         : -drop;
    const double height = place.height + aside;
    Run run = follow_on ? run_of_all_lines(*spaced, follow_on_gap * cap) : run_of_line(*spaced, r);
    if (run.cells.empty())
      continue;
    Result<Parallel> parallel = Parallel::make(guide, aside);
    if (!parallel)
      return parallel.error();
    const auto line = std::make_shared<const Parallel>(std::move(*parallel));
    out.runs.push_back({line, height, run.plain_length});
    const double whole = line->length();
    const bool closed = line->closed();
    double anchor_at = line->from_curve(place.s), share = place.anchor == RunAnchor::Start    ? 0
                                                          : place.anchor == RunAnchor::Middle ? 0.5
                                                                                              : 1;
    double held = share * run.length; // the place of the run that is held at the anchor
    if (place.anchor == RunAnchor::Middle && place.centring == Centring::Ink)
      held = (run.ink_start + run.ink_end) / 2;
    const bool fills_guide = style.spacing.over == SpreadOver::Guide;
    const Reach reach = reach_of(run, *spaced->set);
    const std::vector<CornerStop> stops = style.corners == Corners::SideBySide
                                              ? corner_stops(*line, height - reach.below, height + reach.above)
                                              : std::vector<CornerStop>{};
    bool laid = false;  // already kept from the corners
    double closing = 0; // what the gap between end and start lost
    Run by_sides;
    if (style.spacing.mode == SpacingMode::Repeat && style.spacing.copies == 0 && !stops.empty())
      by_sides = repeated_by_sides(run, *spaced->set, style.text_length, stops, whole, closed);
    if (!by_sides.cells.empty()) {
      run = std::move(by_sides);
      anchor_at = held = share = 0;
      laid = out.fills_guide = true;
    } else if (style.spacing.mode == SpacingMode::Repeat) {
      run = repeated(run, *spaced->set, style.text_length, style.spacing.copies, whole, closed);
      if (!closed) {
        anchor_at = 0, held = 0, share = 0;
        out.fills_guide = true;
      }
    } else if (style.spacing.mode == SpacingMode::Spread) {
      const double room = fills_guide ? whole : style.spread_room;
      const SpreadEnds ends = fills_guide && closed ? SpreadEnds::Meeting : SpreadEnds::Open;
      const double gained = spread(run, room, ends, most_tightening * cap);
      closing = ends == SpreadEnds::Meeting ? std::min(gained, 0.0) : 0;
      held = share * run.length;
      if (fills_guide && !closed) {
        anchor_at = whole / 2, held = run.length / 2, share = 0.5;
        out.fills_guide = true;
      }
    }
    double stretched = 1;
    if (style.stretch && style.stance == Stance::Flow && run.ink_end > run.ink_start) {
      stretched = whole / (run.ink_end - run.ink_start);
      out.fills_guide = true;
      anchor_at = 0, held = run.ink_start * stretched, share = 0;
      for (RunCell& c : run.cells) // stretched about their middles by the flow itself
        c.at = (c.at + c.advance / 2) * stretched - c.advance / 2;
      run.length *= stretched;
    }
    double start = anchor_at - held;
    if (stretched == 1 && !laid)
      start = lay_by_sides(run, start, share, stops, whole, closed);
    if (stretched == 1)
      if (const Result<Done> evened =
              even(run, out, placer, {*spaced, *line, height, style.stance, start, share, stops, {}}, style);
          !evened)
        return evened.error();
    double first = 0; // of the run's letters, which evening may have moved to the left
    for (const RunCell& c : run.cells)
      first = std::min(first, c.at);
    const double over = laid             ? 0
                        : closed         ? run.length - first + closing - whole
                        : stretched != 1 ? 0
                                         : std::max(0.0, -start - first) + std::max(0.0, start + run.length - whole);
    out.overflow = std::max(out.overflow, over < 1e-7 ? 0 : over);
    out.used_length = std::max(out.used_length, run.length - first);
    for (const RunCell& c : run.cells) {
      Result<PlacedLetter> placed = placer.letter(*line, c, start + c.at + c.advance / 2, height, stretched, out);
      if (!placed)
        return placed.error();
      placed->run = out.runs.size() - 1;
      placed->meets_start = closed && !laid && !placed->blank() && c.at - first + c.advance + closing > whole + 1e-6;
      out.letters.push_back(std::move(*placed));
    }
  }
  out.spaced = std::move(spaced);
  measure_ink(out);
  return out;
}

double arc_rise(double radius, double run_length) {
  return radius * (1 - std::cos(run_length / (2 * radius)));
}
double arc_sweep(double radius, double run_length) {
  return degrees(run_length / radius);
}

Result<double> arc_radius(const ArcBend& arc, double run_length) {
  const double v = arc.value;
  if (!(v > 0) || !std::isfinite(v))
    return bad_input(FRELM_WORDS("core", "the arc's measure must be more than 0"), FRELM_WORDS("core", "Bend"));
  if (arc.by == ArcBy::Radius)
    return v;
  if (!(run_length > 0))
    return 1000.0; // nothing to bend yet
  if (arc.by == ArcBy::Sweep) {
    if (v > 360)
      return bad_input(FRELM_WORDS("core", "the sweep can be at most 360°; make it smaller"),
                       FRELM_WORDS("core", "Bend"));
    return run_length / radians(v);
  }
  // Half angle a with run/(2a)·(1 − cos a) = rise: the left side grows from 0 to run/π at a = π, and a little further
  // to its largest value near 2.33 rad (0.7246 run / 2); the arc is wanted up to there.
  constexpr double largest_half_angle = 2.3311223704144224; // root of a sin a = 1 − cos a
  const auto rise = [&](double a) { return run_length / (2 * a) * (1 - std::cos(a)); };
  if (v > rise(largest_half_angle))
    return bad_input(FRELM_WORDS("core", "the rise is more than this run can reach; type a smaller rise or more text"),
                     FRELM_WORDS("core", "Bend"));
  constexpr int halvings = 200; // a small rise is far from the upper end
  const Bracket half = bisect(
      {0, largest_half_angle}, [&](double a) { return rise(a) >= v; }, halvings);
  return run_length / (half.low + half.high);
}

Result<std::shared_ptr<const SeatedText>> seat(std::shared_ptr<const SpacedText> spaced, const Recipe& recipe,
                                               const Placement& placement, const GuideLine* line,
                                               std::shared_ptr<const StraightPairs> straight,
                                               const SeatEffort& effort) {
  const Bend& bend = recipe.bend;
  const Letters letters = recipe.letters() != nullptr ? *recipe.letters() : Letters{};
  const double cap = spaced->set->cap_height;
  if (!std::isfinite(bend.offset))
    return bad_input(FRELM_WORDS("core", "the base offset is not a number"), FRELM_WORDS("core", "Bend"));
  const auto done = [](SeatedText text) { return std::make_shared<const SeatedText>(std::move(text)); };
  RunStyle style{
      bend.stance,         bend.stretch, bend.corners,        bend.lines, letters.downwards, recipe.spacing, 0,
      letters.text.size(), &recipe,      std::move(straight), effort};
  if (bend.kind == BendKind::Straight) {
    if (letters.downwards) {
      const Vec down = direction(radians(placement.angle + 90));
      RunPlace place;
      place.line_pitch = letters.line_pitch * cap;
      style.stance = Stance::Turn;
      Result<SeatedText> stacked =
          seat_down(spaced, std::make_shared<const Curve>(Curve::line(placement.at, placement.at + down * 100)), place,
                    style, true);
      if (!stacked)
        return stacked.error();
      return done(std::move(*stacked));
    }
    Result<SeatedText> out = seat_straight(std::move(spaced), recipe, placement, style);
    if (!out)
      return out.error();
    measure_ink(*out);
    return done(std::move(*out));
  }
  RunPlace place;
  std::shared_ptr<const Curve> curve;
  double arc_run = 0, radius = 0;
  if (bend.kind == BendKind::Arc) {
    arc_run = spaced->longest;
    const Result<double> r = arc_radius(bend.arc, arc_run);
    if (!r)
      return r.error();
    radius = *r;
    curve = std::make_shared<const Curve>(arc_curve(bend.arc.side, radius, placement));
    place.s = pi * radius;
    place.anchor = RunAnchor::Middle;
    place.centring = Centring::Ink;
    style.downwards = false;
    style.stretch = false;
    const SpacingMode mode = style.spacing.mode; // an arc ends with its run: there is no guide to fill
    if (mode == SpacingMode::Repeat || (mode == SpacingMode::Spread && style.spacing.over == SpreadOver::Guide))
      style.spacing.mode = SpacingMode::AsSet;
    if (style.spacing.aim == GapAim::Fill)
      style.spacing.aim = GapAim::Own;
    style.spread_room =
        style.spacing.over == SpreadOver::Angle ? radius * radians(style.spacing.angle) : style.spacing.length;
  } else {
    if (line == nullptr)
      return bad_input(FRELM_WORDS("core", "choose a guide for the letters to ride on"), FRELM_WORDS("core", "Bend"));
    const OrientedGuide guide = letters.downwards ? oriented_down(*line) : oriented(*line, bend.guide.tops);
    const Result<RunPlace> on_guide = place_on_guide(bend.guide, *line, guide);
    if (!on_guide)
      return on_guide.error();
    place = *on_guide;
    curve = guide.curve;
    if (style.spacing.mode == SpacingMode::Spread && style.spacing.over != SpreadOver::Guide) {
      style.spread_room = style.spacing.length;
      if (style.spacing.over == SpreadOver::Angle) {
        const double share = style.spacing.angle / 360;
        style.spread_room = line->circle ? 2 * pi * line->circle->radius * share : curve->length() * share;
      }
      if (!(style.spread_room > 0))
        return bad_input(FRELM_WORDS("core", "the length to spread over must be more than 0"),
                         FRELM_WORDS("core", "Spacing"));
    }
  }
  place.sit = letters.downwards ? 0 : sit_height(bend.sit_by, cap);
  place.height = bend.offset + place.sit;
  place.line_pitch = letters.line_pitch * cap;
  Result<SeatedText> out = seat_on_curve(std::move(spaced), std::move(curve), place, style);
  if (!out)
    return out.error();
  if (bend.kind == BendKind::Arc) {
    out->arc_radius = radius;
    out->arc_rise = arc_rise(radius, arc_run);
    out->arc_sweep = arc_sweep(radius, arc_run);
  }
  return done(std::move(*out));
}

bool spread_straight(const Recipe& recipe) {
  const BendKind laid = recipe.bend.laid_by();
  return (laid == BendKind::Straight || laid == BendKind::Rails) && recipe.letters() != nullptr &&
         !recipe.letters()->downwards && recipe.spacing.mode == SpacingMode::Spread &&
         recipe.spacing.over == SpreadOver::Length;
}

void choose_spacing(Recipe& recipe, SpacingMode mode, double length) {
  Spacing& s = recipe.spacing;
  const bool begins = mode == SpacingMode::Spread && s.mode != mode;
  s.mode = mode;
  if (!begins)
    return;
  if (recipe.bend.rides()) {
    s.over = SpreadOver::Guide;
  } else if (s.over != SpreadOver::Angle || recipe.bend.laid_by() != BendKind::Arc) {
    s.over = SpreadOver::Length;
    if (length > 0)
      s.length = length;
  }
}

double ink_along(const SpacedText& text) {
  double out = 0;
  for (const SpacedLine& line : text.lines)
    out = std::max(out, line.ink_end - line.ink_start);
  return out;
}

bool can_be_evened(const Recipe& recipe) {
  if (recipe.letters() != nullptr && recipe.letters()->downwards)
    return false;
  return recipe.bend.kind == BendKind::Straight || recipe.bend.stance != Stance::Flow || !recipe.bend.stretch;
}

double baseline_foot(const Outline& letter, double cap_height, LetterSide side) {
  const double band = foot_band * cap_height;
  Box near;
  for (const Contour& c : letter.contours) {
    const std::vector<Point> points = flatten(c, 0.002);
    for (std::size_t i = 0; i < points.size(); ++i) {
      Point a = points[i], b = points[(i + 1) % points.size()];
      if (a.y > b.y)
        std::swap(a, b);
      if (b.y < -band || a.y > band)
        continue;
      const auto at = [&](double y) {
        return b.y > a.y ? lerp(a, b, std::clamp((y - a.y) / (b.y - a.y), 0.0, 1.0)) : a;
      };
      near.add(at(-band)), near.add(at(band));
      if (a.y == b.y)
        near.add(b);
    }
  }
  if (near.empty())
    near = letter.bounds();
  return side == LetterSide::Left ? near.x0 : near.x1;
}

} // namespace frelm
