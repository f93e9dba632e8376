// Each pair is read in the frame of its own place on the bend: the facing sides within a band of heights for the
// optical gap (lettering/optical), the outlines for the closest distance (geom/distance), the straight setting for its
// target.
#include "lettering/gaps.h"

#include "geom/weld.h"

#include <map>

namespace frelm {
namespace {

constexpr std::size_t most_collisions = 400; // overlapping pairs looked at

constexpr double seam_reach = 1.5; // cap heights: a seam wider than that is no gap

Gap measure(const SeatedText& text, std::size_t left, std::size_t right) {
  const PlacedLetter &a = text.letters[left], &b = text.letters[right];
  Gap g;
  g.left = left, g.right = right;
  g.closest = closest(a.shape->transformed(a.placement()), b.shape->transformed(b.placement()));
  return g;
}

// Letters as they stand on their line, before any warp of the block. Rigid ones are moved and turned as a whole,
// flowing ones are mapped point by point; a warp of the block takes both letters of a gap along, so a gap is read
// before it and is as much wider as the block is widened there.
class Standing {
public:
  explicit Standing(const SeatedText& text) : text_(text) {}

  bool flows() const { return text_.stance == Stance::Flow; }
  struct Placed {
    std::shared_ptr<const FlatLetter> flat;
    std::vector<Point> points; // on the sheet, but for the warp
  };
  Placed placed(const PlacedLetter& l) const {
    Placed out;
    const std::shared_ptr<const Outline>& flowed = text_.bent != nullptr ? l.flowed : l.shape;
    if (flows() && flowed != nullptr && flowed != l.plain) {
      out.flat = std::make_shared<const FlatLetter>(
          flat_letter(*flowed, flat_letter_tolerance(text_.spaced->set->cap_height)));
      out.points = out.flat->points;
      return out;
    }
    out.flat = text_.straight->flat(l.plain);
    out.points.resize(out.flat->points.size());
    std::transform(out.flat->points.begin(), out.flat->points.end(), out.points.begin(), frame(l));
    return out;
  }
  // A place of the letter's own coordinates.
  Point spot(const PlacedLetter& l, Point own, const SeatedRun& run) const {
    if (!flows())
      return frame(l)(own);
    const CurvePlace p = run.along->at(l.s + (own.x - l.advance / 2) * l.stretch).on_curve;
    return p.point + up_of(p.tangent) * (l.h - own.y);
  }
  // How much wider the block's warp makes what lies in the band of the frame.
  double widened(const PairFrame& pair, const Band& band) const {
    if (text_.bent == nullptr)
      return 1;
    const Point middle = pair.base + up_of(pair.along) * ((band.low + band.high) / 2);
    return length(text_.bent->made.map.at(middle).linear(pair.along));
  }

private:
  const Affine& frame(const PlacedLetter& l) const { return text_.bent != nullptr ? l.unbent : l.place; }
  const SeatedText& text_;
};

Topology together(const PlacedLetter& a, const PlacedLetter& b) {
  const Result<WeldResult> both = weld({a.shape->transformed(a.place), b.shape->transformed(b.place)});
  if (!both)
    return Topology{};
  return topology(both->outline);
}

// The optical gap and the join of a pair on its line. target: what it was evened to, if it was.
void read_gap(const SeatedText& text, Gap& g, std::optional<double> target) {
  const Standing standing(text);
  const PlacedLetter &a = text.letters[g.left], &b = text.letters[g.right];
  const SeatedRun& run = text.runs[a.run];
  const auto cluster = [&](const PlacedLetter& l) -> const SetCluster& {
    return text.spaced->set->lines[l.line][l.cluster];
  };
  const SetCluster &left = cluster(a), &right = cluster(b);
  const double around = g.seam ? run.along->length() : 0;
  const double apart = b.plain_s - a.plain_s + (g.seam ? run.plain_length + text.spaced->letter : 0);
  const PairFrame frame = pair_frame(*run.along, a.s, b.s + around, run.height);
  const Standing::Placed pa = standing.placed(a), pb = standing.placed(b);
  const Band band = bent_band(shared_band(left, right, *text.spaced->set), text.stance, frame, pa.points, pb.points);
  const double widened = standing.widened(frame, band);
  g.optical = (mean_edge(*pb.flat, pb.points, frame, band, Facing::Left) -
               mean_edge(*pa.flat, pa.points, frame, band, Facing::Right)) *
              widened;
  g.target = target.value_or(text.straight->gap(left, right, apart)) * widened;
  g.measured = true;
  const std::shared_ptr<const Join> join = text.straight->join(left, right, apart);
  if (join == nullptr) {
    g.look = g.joined() ? GapLook::Crashed : GapLook::Even;
    return;
  }
  const auto edge = [&](const PlacedLetter& l, const FlatLetter& lines) {
    std::vector<Point> points;
    for (const Point p : lines.points)
      points.push_back(standing.spot(l, p, run));
    return points;
  };
  g.depth = reach_of(*join, frame, standing.spot(a, join->left, run), standing.spot(b, join->right, run),
                     edge(a, join->left_edge), edge(b, join->right_edge)) *
            widened;
  g.target_depth = join->depth * widened;
  g.look = GapLook::Lost;
  if (!g.joined())
    return;
  const Topology now = together(a, b), then = text.straight->pair_topology(left, right, apart);
  g.look = now.pieces > then.pieces ? GapLook::Lost : now == then ? GapLook::Joined : GapLook::Crashed;
}

// Wide and tight, against the middle target of all pairs of one word.
void tell_uneven(std::vector<Gap>& gaps) {
  std::vector<double> targets;
  for (const Gap& g : gaps)
    if (g.measured && !g.word_space)
      targets.push_back(std::abs(g.target));
  if (targets.empty())
    for (const Gap& g : gaps)
      targets.push_back(std::abs(g.target));
  if (targets.empty())
    return;
  const auto middle = targets.begin() + static_cast<std::ptrdiff_t>(targets.size() / 2);
  std::nth_element(targets.begin(), middle, targets.end());
  for (Gap& g : gaps)
    if (g.measured && g.look == GapLook::Even && std::abs(g.optical - g.target) > noticeable_share * *middle)
      g.look = g.optical > g.target ? GapLook::Wide : GapLook::Tight;
}

} // namespace

std::vector<Gap> measure_gaps(const SeatedText& text, std::stop_token stop) {
  std::vector<Gap> gaps;
  std::map<std::pair<std::size_t, std::size_t>, double>
      evened; // to something else than their own straight gap, perhaps
  for (const EvenPair& p : text.spacing.pairs)
    if (!p.joined)
      evened[{p.left, p.right}] = p.target;
  const auto take = [&](std::size_t left, std::size_t right, bool word_space, bool seam) {
    Gap g = measure(text, left, right);
    g.word_space = word_space, g.seam = seam;
    if (!text.runs.empty()) { // set downwards they have no reading but the closest distance
      const auto known = evened.find({left, right});
      read_gap(text, g, known != evened.end() ? std::optional(known->second) : std::nullopt);
    }
    gaps.push_back(g);
  };
  const bool filled = std::any_of(text.spacing.pairs.begin(), text.spacing.pairs.end(),
                                  [](const EvenPair& p) { return p.right < p.left; }); // the seam was evened as well
  constexpr std::size_t none = static_cast<std::size_t>(-1);
  std::size_t first = none, last = none; // inked letters of the run
  const auto end_run = [&] {
    if (first == none || first == last || text.runs.empty())
      return;
    const PlacedLetter &a = text.letters[last], &b = text.letters[first];
    const SeatedRun& run = text.runs[a.run];
    const double free = b.s - b.advance / 2 + run.along->length() - a.s - a.advance / 2;
    if (run.along->closed() && !a.meets_start && (filled || free < seam_reach * text.spaced->set->cap_height))
      take(last, first, a.cluster + 1 < text.spaced->set->lines[a.line].size(), true);
  };
  for (std::size_t i = 0; i < text.letters.size() && !stop.stop_requested(); ++i) {
    const PlacedLetter& l = text.letters[i];
    if (l.blank())
      continue;
    const bool same =
        last != none && (text.runs.empty() ? text.letters[last].line == l.line : text.letters[last].run == l.run);
    if (same) {
      take(last, i, last + 1 != i || text.letters[last].line != l.line, false);
    } else {
      end_run();
      first = i;
    }
    last = i;
  }
  if (!stop.stop_requested())
    end_run();
  tell_uneven(gaps);
  return gaps;
}

std::vector<Gap> find_tight(const SeatedText& text, double least_gap, std::stop_token stop, std::size_t most) {
  std::vector<Gap> out;
  if (!(least_gap > 0))
    return out;
  std::vector<Box> boxes;
  std::vector<std::size_t> order; // of inked letters, each with the one before it
  std::size_t number = 0;
  for (const PlacedLetter& l : text.letters) {
    boxes.push_back(l.blank() || l.meets_start ? Box{}
                                               : l.shape->transformed(l.placement()).bounds().grown(least_gap / 2));
    order.push_back(l.blank() ? number : number++);
  }
  for (const std::vector<std::size_t>& group : touching_groups(boxes))
    for (std::size_t i = 0; i < group.size() && !stop.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < group.size() && out.size() < most; ++j) {
        const std::size_t a = std::min(group[i], group[j]), b = std::max(group[i], group[j]);
        const bool neighbours = text.letters[a].run == text.letters[b].run && order[b] - order[a] <= 1;
        if (neighbours || !boxes[a].overlaps(boxes[b]))
          continue;
        if (const Gap g = measure(text, a, b); !g.joined() && g.closest.distance < least_gap - least_gap_slack)
          out.push_back(g);
      }
  std::sort(out.begin(), out.end(), [](const Gap& x, const Gap& y) { return x.closest.distance < y.closest.distance; });
  return out;
}

std::vector<Gap> find_overlaps(const SeatedText& text, const OverlapOptions& options) {
  std::vector<Box> boxes;
  for (const PlacedLetter& l : text.letters)
    boxes.push_back(
        l.meets_start && options.past_start == PastStart::Left ? Box{} : l.shape->transformed(l.placement()).bounds());
  std::vector<Gap> out;
  for (const std::vector<std::size_t>& group : touching_groups(boxes))
    for (std::size_t i = 0; i < group.size() && !options.stop.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < group.size() && out.size() < options.most; ++j)
        if (boxes[group[i]].overlaps(boxes[group[j]]))
          if (const Gap g = measure(text, group[i], group[j]); g.joined())
            out.push_back(g);
  return out;
}

std::vector<Gap> find_collisions(const SeatedText& text, std::stop_token stop) {
  std::vector<Gap> out = find_overlaps(text, {PastStart::Left, most_collisions, stop});
  std::erase_if(out, [&](const Gap& g) {
    const PlacedLetter &a = text.letters[g.left], &b = text.letters[g.right];
    if (a.line != b.line)
      return false;
    // As they stand unrolled, side by side on their line.
    const double apart = b.s - b.advance / 2 - (a.s - a.advance / 2);
    return std::abs(apart) < a.advance + b.advance + text.spaced->set->cap_height &&
           closest(*a.plain, b.plain->transformed(Affine::translation({apart, a.h - b.h}))).overlapping;
  });
  return out;
}

} // namespace frelm
