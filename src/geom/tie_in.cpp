// Fields of signed distances on a grid, of the frame's material and of the space, tell of any place whether the word
// may reach there. Where the word's edge runs into the material and out of it, it crosses the edge of the space; from
// where it runs in, that edge lies in the word up to the next crossing. Stretches and such pieces that hang together
// are one contact, about as wide as the widest of these pieces. A pose is worth what its best contacts are wide, up to
// what is wanted, with a prize for lying all round.
#include "geom/tie_in.h"

#include "geom/along.h"
#include "geom/boolean.h"
#include "geom/cut_parts.h"
#include "geom/distance.h"
#include "geom/side_by_side.h"

#include <algorithm>
#include <array>
#include <mutex>
#include <numeric>

namespace frelm {
namespace {

constexpr int field_cells = 220; // along the longer side
constexpr std::size_t samples_of_word = 960;
constexpr double off_edge = 0.05; // mm that the word stays within the frame's outer edge: the grid is not exact

// Signed distance to the edge of an area, more than 0 in it; between the places of a grid in proportion.
class Field {
public:
  Field(const Outline& area, const Box& over) {
    cell_ = std::max(over.width(), over.height()) / field_cells;
    from_ = {over.x0 - 2 * cell_, over.y0 - 2 * cell_};
    columns_ = static_cast<int>(over.width() / cell_) + 6, rows_ = static_cast<int>(over.height() / cell_) + 6;
    std::vector<std::pair<Point, Point>> chords;
    for (const Contour& c : area.contours) {
      if (!c.closed)
        continue;
      const std::vector<Point> p = flatten(c, cell_ / 50);
      for (std::size_t i = 0; i < p.size(); ++i)
        chords.emplace_back(p[i], p[(i + 1) % p.size()]);
    }
    values_.resize(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_));
    for (int y = 0; y < rows_; ++y) {
      // Which side: how often the row is crossed to the left of a place.
      const double at_y = from_.y + y * cell_;
      std::vector<std::pair<double, int>> crossed;
      for (const auto& [a, b] : chords)
        if ((a.y <= at_y) != (b.y <= at_y))
          crossed.emplace_back(a.x + (b.x - a.x) * (at_y - a.y) / (b.y - a.y), a.y < b.y ? 1 : -1);
      std::sort(crossed.begin(), crossed.end());
      int winding = 0;
      std::size_t next = 0;
      for (int x = 0; x < columns_; ++x) {
        const Point p{from_.x + x * cell_, at_y};
        for (; next < crossed.size() && crossed[next].first <= p.x; ++next)
          winding += crossed[next].second;
        double nearest = std::numeric_limits<double>::infinity();
        for (const auto& [a, b] : chords)
          nearest = std::min(nearest, distance_to_chord(a, b, p));
        value(x, y) = winding != 0 ? nearest : -nearest;
      }
    }
  }

  double at(Point p) const {
    const double u = (p.x - from_.x) / cell_, v = (p.y - from_.y) / cell_;
    const int x = static_cast<int>(u), y = static_cast<int>(v);
    if (!(u >= 0 && v >= 0) || x + 1 >= columns_ || y + 1 >= rows_)
      return -std::numeric_limits<double>::max();
    const double s = u - x, t = v - y;
    return (1 - t) * ((1 - s) * value(x, y) + s * value(x + 1, y)) +
           t * ((1 - s) * value(x, y + 1) + s * value(x + 1, y + 1));
  }

private:
  std::size_t place(int x, int y) const {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(columns_) + static_cast<std::size_t>(x);
  }
  double& value(int x, int y) { return values_[place(x, y)]; }
  double value(int x, int y) const { return values_[place(x, y)]; }

  Point from_;
  double cell_ = 1;
  int columns_ = 0, rows_ = 0;
  std::vector<double> values_;
};

Error stopped() {
  return {ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "tie in")};
}

// Without its holes.
Outline outer_of(const Outline& frame) {
  Outline out;
  for (const Contour& c : frame.contours)
    if (c.closed && c.area() > 0)
      out.contours.push_back(c);
  return out;
}

struct Pose {
  Point at;
  double scale = 1, turn = 0; // turn: degrees
};

// Radians from the last to the first of directions, the widest; all round with none or one.
double widest_gap(std::vector<double>& angles) {
  if (angles.size() < 2)
    return 2 * pi;
  std::sort(angles.begin(), angles.end());
  double gap = angles.front() + 2 * pi - angles.back();
  for (std::size_t i = 1; i < angles.size(); ++i)
    gap = std::max(gap, angles[i] - angles[i - 1]);
  return gap;
}
// Contacts so many, with such a gap between two: they lie on one side.
bool lie_on_one_side(std::size_t contacts, double gap) {
  constexpr double of_three = pi, of_two = 4 * pi / 3; // radians without any
  return contacts >= 2 && gap > (contacts >= 3 ? of_three : of_two) + 1e-9;
}

// The edge of the space, clockwise as it is seen.
class SpaceEdge {
public:
  explicit SpaceEdge(const Outline& space) {
    for (const Contour& c : space.contours)
      if (c.closed && c.area() > 0 && c.length() > length_)
        points_ = flatten(c, 0.05), length_ = c.length();
  }
  // Of the nearest place on it, by points: only the order along it counts.
  double along(Point p) const {
    std::size_t best = 0;
    double nearest = std::numeric_limits<double>::infinity(), share = 0;
    for (std::size_t i = 0; i < points_.size(); ++i) {
      const Point a = points_[i], b = points_[(i + 1) % points_.size()];
      const Vec v = b - a;
      const double vv = dot(v, v), t = vv > 0 ? std::clamp(dot(p - a, v) / vv, 0.0, 1.0) : 0;
      const Vec off = p - (a + v * t);
      if (const double d = dot(off, off); d < nearest)
        nearest = d, best = i, share = t;
    }
    return static_cast<double>(best) + share;
  }

private:
  std::vector<Point> points_;
  double length_ = 0;
};

// Of the frame, of the space, and of the frame with all its holes filled.
struct Fields {
  std::optional<Field> material, open, whole;
  SpaceEdge edge;
  Fields(const Outline& frame, const Outline& space) : edge(space) {
    const Outline filled = outer_of(frame);
    const std::pair<std::optional<Field>*, const Outline*> all[]{
        {&material, &frame}, {&open, &space}, {&whole, &filled}};
    side_by_side(std::size(all), true, [&](std::size_t i) { all[i].first->emplace(*all[i].second, frame.bounds()); });
  }
};

// Copies can be asked side by side.
class Search {
public:
  Search(const Outline& word, const Fields& fields, const TieInWish& wish)
      : wish_(wish), material_(*fields.material), open_(*fields.open), whole_(*fields.whole), edge_(fields.edge) {
    const Point middle = word.bounds().centre();
    double length = 0;
    for (const Contour& c : word.contours)
      if (c.closed && c.area() > 0)
        length += c.length();
    for (const Contour& c : word.contours) { // counters can't touch the frame before what is around them does
      if (!c.closed || !(c.area() > 0))
        continue;
      const auto n = std::max<std::size_t>(
          12, static_cast<std::size_t>(static_cast<double>(samples_of_word) * c.length() / length));
      rings_.push_back({points_.size(), n});
      for (const Point p : spaced_evenly(flatten(c, length / 5000), n, true))
        points_.push_back(p - middle);
      rings_.back().count = points_.size() - rings_.back().first;
    }
    // A few of them far apart tell most poses that can't be.
    for (std::size_t i = 0; i < points_.size(); i += std::max<std::size_t>(1, points_.size() / 16))
      scouts_.push_back(i);
    inside_.resize(points_.size());
    placed_.resize(points_.size());
  }

  // More for more and wider contacts, all round; less than 0: the word would lie where it may not.
  double worth(const Pose& pose) {
    const Vec x = direction(radians(pose.turn)) * pose.scale;
    const auto put = [&](Point p) { return pose.at + Vec{x.x * p.x - x.y * p.y, x.y * p.x + x.x * p.y}; };
    for (const std::size_t i : scouts_)
      if (!may_be(put(points_[i])))
        return -1;
    for (std::size_t i = 0; i < points_.size(); ++i) {
      placed_[i] = put(points_[i]);
      inside_[i] = material_.at(placed_[i]);
      if (inside_[i] < 0 ? open_.at(placed_[i]) < 0 : whole_.at(placed_[i]) < off_edge)
        return -1;
    }
    stretches_.clear();
    for (const Ring& r : rings_)
      add_stretches(r);
    find_contacts();
    std::sort(contacts_.begin(), contacts_.end(), [](const Near& a, const Near& b) { return a.width > b.width; });
    double out = 0;
    const double least = wish_.least * 1.01 + 0.01; // the grid is not exact
    angles_.clear();
    for (std::size_t i = 0; i < contacts_.size() && i < 2 * static_cast<std::size_t>(wish_.contacts); ++i) {
      const double share = std::min(1.0, contacts_[i].width / least);
      if (i < static_cast<std::size_t>(wish_.contacts))
        out += share * share * share;
      if (share >= 1) {
        const Vec v = contacts_[i].at - pose.at;
        angles_.push_back(std::atan2(v.y, v.x));
      }
    }
    // All round is worth half a contact; how far the word is buried counts against it a little.
    const double even = 2 * pi / std::max(wish_.contacts, 2);
    const double gap = widest_gap(angles_);
    out += 0.5 * std::clamp((2 * pi - gap) / (2 * pi - even), 0.0, 1.0);
    if (lie_on_one_side(angles_.size(), gap)) // as if the last were missing
      out = std::min(out, wish_.contacts - 0.5 * gap / pi);
    double buried = 0;
    for (const double d : inside_)
      buried += d > wish_.least ? 1 : 0;
    out -= 0.3 * buried / static_cast<double>(inside_.size());
    return out;
  }

private:
  struct Ring {
    std::size_t first, count;
  };
  struct Near {
    double width;
    Point at;
  };
  struct Stretch { // of the word's edge in the material
    Point in, out, middle;
  };
  struct Crossed { // the space's edge
    double along;
    std::size_t stretch;
    bool in;
  };
  bool may_be(Point p) const { return material_.at(p) >= 0 || open_.at(p) >= 0; }

  void add_stretches(const Ring& r) {
    const auto in = [&](std::size_t i) { return inside_[r.first + i % r.count] > 0; };
    std::size_t begin = 0;
    while (begin < r.count && in(begin)) // from the open
      ++begin;
    if (begin == r.count)
      return; // all of it lies in the material
    for (std::size_t n = 0; n < r.count; ++n) {
      const std::size_t i = begin + n;
      if (in(i) || !in(i + 1))
        continue;
      std::size_t end = i + 1;
      while (in(end + 1))
        ++end;
      stretches_.push_back(
          {edge(r, i, i + 1), edge(r, end + 1, end), placed_[r.first + (i + 1 + (end - i - 1) / 2) % r.count]});
    }
  }
  static Point middle_of(const Stretch& s) { return lerp(lerp(s.in, s.out, 0.5), s.middle, 0.5); }
  void find_contacts() {
    contacts_.clear();
    if (stretches_.size() < 2) {
      for (const Stretch& s : stretches_)
        contacts_.push_back({distance(s.in, s.out), middle_of(s)});
      return;
    }
    crossed_.clear(), one_.resize(stretches_.size()), widest_.assign(stretches_.size(), Near{-1, {}});
    for (std::size_t k = 0; k < stretches_.size(); ++k) {
      crossed_.push_back({edge_.along(stretches_[k].in), k, true});
      crossed_.push_back({edge_.along(stretches_[k].out), k, false});
      one_[k] = k;
    }
    std::sort(crossed_.begin(), crossed_.end(), [](const Crossed& a, const Crossed& b) { return a.along < b.along; });
    const auto first_of = [&](std::size_t k) {
      while (one_[k] != k)
        k = one_[k];
      return k;
    };
    const auto next = [&](std::size_t i) -> const Crossed& { return crossed_[(i + 1) % crossed_.size()]; };
    for (std::size_t i = 0; i < crossed_.size(); ++i)
      if (crossed_[i].in && !next(i).in)
        one_[first_of(crossed_[i].stretch)] = first_of(next(i).stretch);
    for (std::size_t i = 0; i < crossed_.size(); ++i)
      if (crossed_[i].in && !next(i).in) {
        const Stretch &from = stretches_[crossed_[i].stretch], &to = stretches_[next(i).stretch];
        if (Near& n = widest_[first_of(crossed_[i].stretch)]; distance(from.in, to.out) > n.width)
          n = {distance(from.in, to.out), lerp(middle_of(from), middle_of(to), 0.5)};
      }
    for (const Near& n : widest_)
      if (n.width >= 0)
        contacts_.push_back(n);
  }
  // Between a place outside and the next one inside.
  Point edge(const Ring& r, std::size_t outside, std::size_t inside) const {
    const std::size_t a = r.first + outside % r.count, b = r.first + inside % r.count;
    return lerp(placed_[a], placed_[b], inside_[a] / (inside_[a] - inside_[b]));
  }

  const TieInWish& wish_;
  const Field &material_, &open_, &whole_;
  const SpaceEdge& edge_;
  std::vector<Point> points_; // about the middle of the word
  std::vector<Ring> rings_;
  std::vector<std::size_t> scouts_;
  std::vector<double> inside_;
  std::vector<Point> placed_;
  std::vector<Stretch> stretches_;
  std::vector<Crossed> crossed_;
  std::vector<std::size_t> one_; // of each stretch another one of the same contact
  std::vector<Near> widest_;
  std::vector<Near> contacts_;
  std::vector<double> angles_;
};

struct Tried {
  Pose pose;
  double worth = -1;
};
bool better(const Tried& a, const Tried& b) {
  return a.worth != b.worth             ? a.worth > b.worth
         : a.pose.scale != b.pose.scale ? a.pose.scale < b.pose.scale
         : a.pose.at.x != b.pose.at.x   ? a.pose.at.x < b.pose.at.x
         : a.pose.at.y != b.pose.at.y   ? a.pose.at.y < b.pose.at.y
                                        : a.pose.turn < b.pose.turn;
}

// Up the worth, by steps that halve.
Tried climbed(Search& search, Tried t, const TieInWish& wish, Vec step, double scale_step, double turn_step) {
  constexpr int halvings = 7;
  for (int h = 0; h < halvings; ++h) {
    for (bool up = true; up;) {
      up = false;
      const std::array<Pose, 8> around{{{t.pose.at + Vec{step.x, 0}, t.pose.scale, t.pose.turn},
                                        {t.pose.at - Vec{step.x, 0}, t.pose.scale, t.pose.turn},
                                        {t.pose.at + Vec{0, step.y}, t.pose.scale, t.pose.turn},
                                        {t.pose.at - Vec{0, step.y}, t.pose.scale, t.pose.turn},
                                        {t.pose.at, t.pose.scale * (1 + scale_step), t.pose.turn},
                                        {t.pose.at, t.pose.scale / (1 + scale_step), t.pose.turn},
                                        {t.pose.at, t.pose.scale, t.pose.turn + turn_step},
                                        {t.pose.at, t.pose.scale, t.pose.turn - turn_step}}};
      for (const Pose& p : around) {
        if (p.scale < wish.smallest || p.scale > wish.largest || std::abs(p.turn) > wish.turn)
          continue;
        if (const Tried next{p, search.worth(p)}; next.worth > t.worth + 1e-9)
          t = next, up = true;
      }
    }
    step = step * 0.5, scale_step /= 2, turn_step /= 2;
  }
  return t;
}

struct Measured {
  TiedIn answer;
  std::vector<Contact> narrow; // contacts too narrow
  bool holds = false, one_sided = false;
};

class Judge {
public:
  Judge(const Outline& word, const Outline& frame, const std::vector<CutPart>& features, const TieInWish& wish)
      : word_(word), frame_(frame), features_(features), wish_(wish) {}

  Result<Measured> measured(const Pose& pose, const std::stop_token& stop) const {
    Measured out;
    out.answer = {word_.bounds().centre(), pose.at, pose.scale, pose.turn, {}, 360};
    const Outline placed = word_.transformed(out.answer.place());
    Result<std::vector<Contact>> found = contacts(placed, frame_, stop);
    if (!found)
      return found.error();
    std::vector<double> angles;
    for (const Contact& c : *found) {
      const bool wide = c.width >= wish_.least;
      (wide ? out.answer.contacts : out.narrow).push_back(c);
      const Vec v = c.at - pose.at;
      if (wide)
        angles.push_back(std::atan2(v.y, v.x));
    }
    const double gap = widest_gap(angles);
    out.answer.widest_gap = degrees(gap);
    out.one_sided = lie_on_one_side(angles.size(), gap);
    out.holds = static_cast<int>(angles.size()) >= wish_.contacts && !out.one_sided && clear(placed);
    return out;
  }

private:
  // Within the frame's outer edge, and off its other holes.
  bool clear(const Outline& placed) const {
    const auto beyond = combine(BooleanOp::Difference, {placed}, {outer_of(frame_)});
    constexpr double speck = 1e-3; // mm²
    if (!beyond || std::abs(beyond->outline.area()) > speck)
      return false;
    return std::all_of(features_.begin(), features_.end(), [&](const CutPart& f) {
      const double apart = closest(placed, f.outline).distance;
      return apart > 0 && apart >= wish_.margin;
    });
  }

  const Outline& word_;
  const Outline& frame_;
  const std::vector<CutPart>& features_;
  const TieInWish& wish_;
};

} // namespace

Affine TiedIn::place() const {
  return Affine::translation(at) * Affine::rotation(radians(turn)) * Affine::scaling(scale, scale) *
         Affine::translation(-from);
}

namespace {

constexpr double scale_ratio = 1.045;
constexpr int most_turns = 7, places = 26;
constexpr double most_scales = 40;
constexpr std::size_t of_a_size = 12, kept = 200;
constexpr std::size_t most_measured = 24, most_answers = 3;

// From first to last in so many steps; between them where `shifted`.
std::vector<double> steps_of(double first, double last, int steps, bool shifted, bool by_ratio) {
  std::vector<double> out;
  for (int i = 0; i <= steps - (shifted ? 1 : 0); ++i) {
    const double share = steps == 0 ? 0 : (i + (shifted ? 0.5 : 0)) / steps;
    out.push_back(by_ratio ? first * std::pow(last / first, share) : first + (last - first) * share);
  }
  if (!shifted || steps == 0)
    out.back() = steps == 0 ? first : last;
  return out;
}

// Every size, turn and place on a grid at which the word is not much larger than the space; the best of them climb. The
// second grid lies between the places of the first.
class Climb {
public:
  Climb(const Search& search, const Box& room, const TieInWish& wish)
      : search_(search), room_(room), wish_(wish), step_{room.width() / places, room.height() / places} {
    const double ratio = wish.largest / wish.smallest;
    scale_steps_ = static_cast<int>(std::clamp(std::ceil(std::log(ratio) / std::log(scale_ratio)), 0.0, most_scales));
    turns_ = wish.turn > 0 ? std::min(most_turns, 1 + 2 * static_cast<int>(std::ceil(wish.turn / 4))) : 1;
  }

  Vec step() const { return step_; }
  // Best first; fewer where it was stopped.
  std::vector<Tried> run(bool between, const std::stop_token& stop, const std::function<void(double)>& progress) const {
    const std::vector<double> scales = steps_of(wish_.smallest, wish_.largest, scale_steps_, between, true);
    const std::vector<double> turns =
        turns_ == 1 ? std::vector{0.0} : steps_of(-wish_.turn, wish_.turn, turns_ - 1, between, false);
    const std::vector<double> xs = steps_of(room_.x0, room_.x1, places, between, false),
                              ys = steps_of(room_.y0, room_.y1, places, between, false);
    // Sizes, then climbs, side by side; how far it is is told by whoever is done.
    std::mutex telling;
    double share = 0;
    const auto tell = [&](double more) {
      const std::lock_guard lock(telling);
      progress(share += more);
    };
    std::vector<std::vector<Tried>> of_size(scales.size());
    side_by_side(scales.size(), true, [&](std::size_t s) {
      if (stop.stop_requested())
        return;
      Search search = search_;
      std::vector<Tried>& here = of_size[s];
      for (const double turn : turns)
        for (const double y : ys)
          for (const double x : xs)
            if (const double w = search.worth({{x, y}, scales[s], turn}); w >= 0)
              here.push_back({{{x, y}, scales[s], turn}, w});
      const std::size_t n = std::min(of_a_size, here.size());
      std::partial_sort(here.begin(), here.begin() + static_cast<std::ptrdiff_t>(n), here.end(), better);
      here.resize(n);
      tell(0.7 / static_cast<double>(scales.size()));
    });
    std::vector<Tried> tried;
    for (const std::vector<Tried>& here : of_size)
      tried.insert(tried.end(), here.begin(), here.end());
    std::sort(tried.begin(), tried.end(), better);
    tried.resize(std::min(tried.size(), kept));
    const double turn_step = turns_ == 1 ? 0 : wish_.turn / (turns_ - 1);
    side_by_side(tried.size(), true, [&](std::size_t i) {
      if (stop.stop_requested())
        return;
      Search search = search_;
      tried[i] = climbed(search, tried[i], wish_, step_ * 0.5, (scale_ratio - 1) / 2, turn_step / 2);
      tell(0.3 / static_cast<double>(tried.size()));
    });
    std::sort(tried.begin(), tried.end(), better);
    return tried;
  }

private:
  const Search& search_;
  const Box& room_;
  const TieInWish& wish_;
  Vec step_;
  int scale_steps_ = 0, turns_ = 1;
};

// The best of what was tried, measured.
class Answers {
public:
  Answers(const Judge& judge, const TieInWish& wish, Vec step) : judge_(judge), wish_(wish), step_(step) {
    found_.missing = wish.contacts, found_.short_by = wish.least;
  }

  std::optional<Error> look_at(const std::vector<Tried>& tried, const std::stop_token& stop) {
    std::size_t measured = 0;
    for (const Tried& t : tried) {
      if (stop.stop_requested())
        return stopped();
      if (measured == most_measured || found_.best.size() == most_answers)
        break;
      if (std::any_of(seen_.begin(), seen_.end(), [&](const Pose& p) { return alike(p, t.pose); }))
        continue;
      seen_.push_back(t.pose), ++measured;
      const Result<Measured> m = judge_.measured(t.pose, stop);
      if (!m)
        return m.error();
      if (m->holds)
        found_.best.push_back(m->answer);
      else
        keep_nearest(*m);
    }
    return std::nullopt;
  }
  bool any() const { return !found_.best.empty(); }
  TieInFound found() const {
    TieInFound out = found_;
    if (any())
      out.nearest.reset(), out.missing = 0, out.short_by = 0, out.one_sided = false;
    return out;
  }

private:
  // One much like another is no other answer.
  bool alike(const Pose& a, const Pose& b) const {
    return distance(a.at, b.at) < std::max(step_.x, step_.y) && std::abs(a.scale / b.scale - 1) < 0.05 &&
           std::abs(a.turn - b.turn) < 3;
  }
  void keep_nearest(const Measured& m) {
    const int lacking = wish_.contacts - static_cast<int>(m.answer.contacts.size()), missing = std::max(1, lacking);
    const double short_by = wish_.least - (lacking <= 0 || m.narrow.empty() ? 0 : m.narrow.front().width);
    if (!found_.nearest || missing < found_.missing || (missing == found_.missing && short_by < found_.short_by))
      found_.nearest = m.answer, found_.missing = missing, found_.short_by = short_by, found_.one_sided = m.one_sided;
  }

  const Judge& judge_;
  const TieInWish& wish_;
  Vec step_;
  std::vector<Pose> seen_;
  TieInFound found_;
};

} // namespace

Result<TieInFound> tie_in(const Outline& word, const Outline& frame, const TieInWish& wish, std::stop_token stop,
                          const std::function<void(double)>& progress) {
  if (cut_parts(word).empty())
    return bad_input(FRELM_WORDS("core", "there is no word to tie in; choose letters or an outline"));
  std::vector<CutPart> holes = loose_stock(frame);
  if (holes.empty())
    return bad_input(FRELM_WORDS("core", "the frame has no inside to tie a word into; choose one with a hole"));
  const bool sane = wish.contacts >= 1 && wish.least > 0 && wish.smallest > 0 && wish.largest >= wish.smallest &&
                    wish.turn >= 0 && wish.turn <= 180 && wish.margin >= 0;
  if (!sane || !std::isfinite(wish.least + wish.largest + wish.margin))
    return bad_input(FRELM_WORDS("core", "ask for a contact or more, a width, and sizes from small to large"));
  const Outline space = holes.front().outline;
  const Box room = holes.front().box;
  holes.erase(holes.begin());
  const Fields fields(frame, space);
  const Search search(word, fields, wish);
  const Climb climb(search, room, wish);
  const Judge judge(word, frame, holes, wish);
  Answers answers(judge, wish, climb.step());
  for (const bool between : {false, true}) {
    if (answers.any())
      break;
    const std::vector<Tried> tried = climb.run(between, stop, [&](double share) {
      if (progress)
        progress((share + (between ? 1 : 0)) / 2);
    });
    if (stop.stop_requested())
      return stopped();
    if (const std::optional<Error> e = answers.look_at(tried, stop))
      return *e;
  }
  if (progress)
    progress(1);
  return answers.found();
}

} // namespace frelm
