#include "cli/command.h"
#include "lettering/gaps.h"

#include <map>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

const char* word_for(GapLook look) {
  switch (look) {
  case GapLook::Wide:
    return "wide";
  case GapLook::Tight:
    return "tight";
  case GapLook::Joined:
    return "joined";
  case GapLook::Lost:
    return "join lost";
  case GapLook::Crashed:
    return "crashed";
  case GapLook::Even:
    break;
  }
  return "";
}

} // namespace

std::string letters_json(const SeatedText& text) {
  std::map<std::size_t, Gap> gaps;
  for (const Gap& g : measure_gaps(text))
    gaps[g.left] = g;
  nlohmann::ordered_json json;
  json["guide_length"] = text.guide_length;
  json["used_length"] = text.used_length;
  json["overflow"] = text.overflow;
  if (!text.spacing.pairs.empty()) {
    double off = 0, change = 0;
    nlohmann::ordered_json held = nlohmann::ordered_json::array();
    for (const EvenPair& p : text.spacing.pairs) {
      change = std::max(change, std::abs(p.moved));
      if (p.held)
        held.push_back(text.letters[p.left].first);
      else
        off = std::max(off, p.off);
    }
    json["spacing"] = {{"residual", off}, {"largest_change", change}, {"held_by_min_gap", held}};
  }
  json["letters"] = nlohmann::ordered_json::array();
  for (std::size_t i = 0; i < text.letters.size(); ++i) {
    const PlacedLetter& l = text.letters[i];
    nlohmann::ordered_json letter;
    letter["cluster"] = l.first;
    letter["x"] = l.origin.x;
    letter["y"] = l.origin.y;
    letter["angle_deg"] = wrap_degrees(degrees(l.angle));
    letter["advance"] = l.advance;
    // To the next letter: the closest distance within words; the optical gap and its target also over spaces.
    const auto g = gaps.find(i);
    letter["gap"] = g != gaps.end() && !g->second.word_space ? nlohmann::ordered_json(g->second.closest.distance)
                                                             : nlohmann::ordered_json();
    if (g != gaps.end() && g->second.measured) {
      letter["optical_gap"] = g->second.optical;
      letter["target_gap"] = g->second.target;
      if (g->second.depth) {
        letter["join_depth"] = *g->second.depth;
        letter["target_depth"] = *g->second.target_depth;
      }
      if (const char* word = word_for(g->second.look); *word != 0)
        letter["look"] = word;
    }
    letter["beyond"] = l.beyond;
    json["letters"].push_back(std::move(letter));
  }
  return json.dump();
}

} // namespace frelm
