#include "cli/command.h"
#include "lettering/gaps.h"

#include <map>
#include <nlohmann/json.hpp>

namespace frelm {

std::string letters_json(const SeatedText& text) {
  std::map<std::size_t, double> gaps;
  for (const Gap& g : measure_gaps(text))
    gaps[g.left] = g.closest.distance;
  nlohmann::ordered_json json;
  json["guide_length"] = text.guide_length;
  json["used_length"] = text.used_length;
  json["overflow"] = text.overflow;
  json["letters"] = nlohmann::ordered_json::array();
  for (std::size_t i = 0; i < text.letters.size(); ++i) {
    const PlacedLetter& l = text.letters[i];
    nlohmann::ordered_json letter;
    letter["cluster"] = l.first;
    letter["x"] = l.origin.x;
    letter["y"] = l.origin.y;
    letter["angle_deg"] = wrap_degrees(degrees(l.angle));
    letter["advance"] = l.advance;
    letter["gap"] = gaps.contains(i) ? nlohmann::ordered_json(gaps[i]) : nlohmann::ordered_json();
    letter["beyond"] = l.beyond;
    json["letters"].push_back(std::move(letter));
  }
  return json.dump();
}

} // namespace frelm
