// What the steps of a finish make of letters or outlines: layers, back to front.
//
// Shades lie at the back, then rings around the letters (outermost first), the letters, and rings inside them; a border
// or shade of all that stands so far lies behind that. Every layer's contours don't cross, but for letters that were
// never welded. Rings are each made from the letters, so that they do not drift; bounds: geom/offset.h, geom/shade.h.
// Each step's work is kept by what it worked on, so that a change makes anew only what comes after it.
#pragma once

#include "geom/result.h"
#include "lettering/finish.h"
#include "lettering/memo.h"

#include <array>
#include <functional>
#include <optional>
#include <stop_token>

namespace frelm {

enum class LayerRole { Shade, Ring, Letters };
std::string layer_id(LayerRole role, int number); // "letters", "letters-2", "ring-1", "shade", "shade-2"
struct Layer {
  LayerRole role = LayerRole::Letters;
  int number = 1; // among those of its role, in the order of the steps
  std::shared_ptr<const Outline> outline;
  std::optional<Colour> colour;           // none: the piece's
  std::optional<Destination> destination; // none: the piece's
};

// What a step did: nodes of what it worked on and of what it made.
struct StepReport {
  std::size_t nodes_in = 0, nodes_out = 0;
  double worst = 0;          // mm, Fewer nodes: the largest distance from what was
  bool reached = true;       // Fewer nodes for a machine: as few as were asked for
  std::size_t vanished = 0;  // parts that were thinner than an inside ring needs
  std::size_t holes_out = 0; // holes dropped or grown shut
  // Round corners: arcs, those of them with less than the radius, and corners that took none.
  std::size_t rounded = 0, smaller = 0, left = 0;
  std::vector<Tie> ties;   // those by hand first
  std::size_t parts = 0;   // of ties: what the letters fall into with them; of a stencil: counters that are loose yet
  std::optional<Point> at; // the rim of a hanging tab; of Fewer nodes where it is farthest from what was
};

struct Finished {
  std::vector<Layer> layers; // back to front; one of them the letters, or several of them in a row (in_parts)
  Layer whole;               // of several: all of them as one outline
  bool letters_apart = true; // no step made one of them, or took from them
  std::vector<StepReport> steps;
  WeldReport report; // of all steps together
  Affine as_cut;     // from the sheet to the cut: turned about the middle of all layers where a mirror is on
  const Layer& letters() const;
  Outline as_cut_of(const Outline& layer) const; // with outer contours of positive area still
  std::size_t node_count() const;
  Box bounds() const;
  std::size_t bytes() const;
};

enum class FinishOp { Append, Weld, Unite, Thin, Round, Offset, Take, Join, BlockShade, DropShade, Tab, Ties };
struct FinishOpKey {
  FinishOp op = FinishOp::Weld;
  std::shared_ptr<const void> of, and_of; // what it works on: the same object
  std::array<double, 6> numbers{};
  std::vector<HandTie> ties = {};
  std::size_t hash() const { return hash_of(static_cast<int>(op), of, and_of, numbers[0], numbers[1], numbers[2]); }
  bool operator==(const FinishOpKey&) const = default;
};
struct FinishMade {
  Outline outline;
  StepReport step;
  WeldReport weld;
  std::size_t bytes() const { return sizeof *this + bytes_of(outline) + step.ties.size() * sizeof(Tie); }
};
using FinishMemo = Memo<FinishOpKey, FinishMade>;

struct FinishEffort {
  FinishMemo* memo = nullptr;
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // share of the steps done
};

// parts: one outline for each letter or part, asked for only where they are needed. identity: what they come from, the
// same object for the same parts; null: nothing is kept. Errors: those of the operations, with the step's name as the
// place; Cancelled.
Result<std::shared_ptr<const Finished>> finish(const std::function<std::vector<Outline>()>& parts,
                                               std::shared_ptr<const void> identity, const Finish& finish,
                                               const FinishEffort& effort = {});

// The letters' layer replaced by the parts they consist of, each with its own looks, back to front; steps that draw the
// letters anew (fewer nodes, round corners) do so with each. As it was where a step has made one of them. Errors: those
// of the steps, Cancelled.
Result<Finished> in_parts(Finished finished, std::vector<Layer> parts, const Finish& steps,
                          const FinishEffort& effort = {});

} // namespace frelm
