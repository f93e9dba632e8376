// What two neighbouring letters are to each other in the straight setting: their optical gap, whether and where they
// join, and how many pieces and counters they make together. Even gaps, Keep joined and every reading of gaps compare
// the bend with these.
//
// mm; heights upwards from the baseline. Two letters join when their areas overlap in the straight setting, or meet
// within 0.004 mm: that is found from the outlines, whatever the face is called. Of several overlaps the largest in
// area is the join. Letters that only meet are held 0.01 mm deep.
#pragma once

#include "lettering/optical.h"

#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <tuple>

namespace frelm {

struct Join {
  Band band;         // of the overlap, and reach_margin x-heights more on both sides
  Point left, right; // the middle of the overlap in each letter's own coordinates
  // The lines of both letters about the band, finer than those that gaps are measured on: joins may be shallow.
  FlatLetter left_edge, right_edge;
  double depth = 0; // mm, deepest_reach over the band
};
// How deep two letters reach into each other where they join, as they stand: at the heights of the join's own middle,
// wherever both letters have turned it. The points: those of both edges.
double reach_of(const Join& join, const PairFrame& frame, Point left_middle, Point right_middle,
                std::span<const Point> left_edge, std::span<const Point> right_edge);
inline constexpr double reach_margin = 0.05; // the band may shift that little against the letters as they turn

// Closed lines of a union by the sign of their areas.
struct Topology {
  std::size_t pieces = 0, counters = 0;
  bool operator==(const Topology&) const = default;
};
Topology topology(const Outline& united);

// Worked out when first asked for, then kept until told to forget. Thread-safe; nothing is computed while the lock is
// held, and what was handed out stays.
class StraightPairs {
public:
  explicit StraightPairs(std::shared_ptr<const SetText> set);

  const SetText& set() const { return *set_; }
  std::size_t bytes() const; // as much as is kept just now
  void forget() const;       // what was worked out; it will be again when it is asked for
  std::shared_ptr<const FlatLetter> flat(const std::shared_ptr<const Outline>& shape) const;
  // apart: mm from the middle of one advance to the middle of the next, the left letter first.
  double gap(const SetCluster& left, const SetCluster& right, double apart) const;
  // Nothing: they stand clear of each other.
  std::shared_ptr<const Join> join(const SetCluster& left, const SetCluster& right, double apart) const;
  Topology pair_topology(const SetCluster& left, const SetCluster& right, double apart) const;
  // Closest distance of the flat letters, mm; 0 where they touch.
  double clearance(const SetCluster& left, const SetCluster& right, double apart) const;

private:
  using Key = std::tuple<const Outline*, const Outline*, double, double, long long>; // shapes, advances, apart
  template <class K, class V, class Make> V kept(std::map<K, V>& memory, const K& key, const Make& make) const;
  std::shared_ptr<const Join> find_join(const SetCluster& left, const SetCluster& right, double start) const;
  std::shared_ptr<const SetText> set_;
  double tolerance_;
  mutable std::mutex mutex_;
  mutable std::size_t held_ = 0; // bytes
  mutable std::map<const Outline*, std::shared_ptr<const FlatLetter>> flat_;
  mutable std::map<Key, double> gaps_, clearances_;
  mutable std::map<Key, std::shared_ptr<const Join>> joins_; // null: they stand clear of each other
  mutable std::map<Key, Topology> topologies_;
};

} // namespace frelm
