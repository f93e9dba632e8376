// What was asked for, against what would be cut: the size, the parts that each sheet falls into; and what is cut twice,
// or of no material in the list.
#pragma once

#include "cutting/material_check.h"
#include "geom/nodes.h"

namespace frelm {

inline constexpr double ordered_slack = 0.05; // mm that a size may be off

std::vector<Finding> check_order(const Document& document, const DocumentEvaluator& evaluator,
                                 const std::vector<CutLayer>& layers, const std::stop_token& stop);
// Of a drawn outline: contours that run the same way as what is around them, so that they are filled; nodes nearer to
// the next than `least_between_nodes`; nodes at which the line turns back by more than `spike_turn`, or two that do so
// together at the end of a hair of `hair` width; where curves begin that are `tiny_run` or more lines in a row, each
// shorter than `tiny_line`, with turns of less than `tiny_turn`.
inline constexpr double least_between_nodes = 0.01; // mm
inline constexpr double spike_turn = 177;           // degrees
inline constexpr double hair = 0.05;                // mm
inline constexpr double tiny_line = 0.3;            // mm
inline constexpr double tiny_turn = 30;             // degrees
inline constexpr std::size_t tiny_run = 10;
struct DrawnFaults {
  std::vector<std::size_t> filled;
  std::vector<NodeAt> close, spikes, tiny;
};
DrawnFaults drawn_faults(const Outline& outline);
// With close nodes made one and spikes taken off, in rounds; as it was where that would leave less than an area.
Outline tidied(Outline outline);
std::vector<Finding> check_drawn(const Document& document, const Piece& piece, const Outline& outline,
                                 const std::string& name);

} // namespace frelm
