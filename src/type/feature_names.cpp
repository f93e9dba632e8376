#include "type/feature_names.h"

#include <array>
#include <cctype>

namespace frelm {
namespace {

struct Known {
  const char* tag;
  const char* name;
  bool normally_on;
  bool alternates; // another shape of a letter, not another kind of text
};
constexpr std::array known{Known{"liga", "Standard ligatures", true, false},
                           Known{"dlig", "Discretionary ligatures", false, false},
                           Known{"hlig", "Historical ligatures", false, false},
                           Known{"calt", "Contextual alternates", true, false},
                           Known{"kern", "Kerning", true, false},
                           Known{"swsh", "Swashes", false, true},
                           Known{"cswh", "Contextual swashes", false, true},
                           Known{"salt", "Stylistic alternates", false, true},
                           Known{"titl", "Titling letters", false, true},
                           Known{"hist", "Historical forms", false, true},
                           Known{"smcp", "Small capitals", false, false},
                           Known{"c2sc", "Small capitals from capitals", false, false},
                           Known{"case", "Forms for capitals", false, false},
                           Known{"onum", "Old-style figures", false, true},
                           Known{"lnum", "Lining figures", false, true},
                           Known{"pnum", "Proportional figures", false, false},
                           Known{"tnum", "Tabular figures", false, false},
                           Known{"zero", "Slashed zero", false, true},
                           Known{"frac", "Fractions", false, false},
                           Known{"ordn", "Ordinals", false, false},
                           Known{"sups", "Superscript", false, false},
                           Known{"ornm", "Ornaments", false, true}};

// ss01 to ss20, cv01 to cv99.
bool numbered(const std::string& tag, const char* prefix) {
  return tag.size() == 4 && tag.starts_with(prefix) && std::isdigit(static_cast<unsigned char>(tag[2])) != 0 &&
         std::isdigit(static_cast<unsigned char>(tag[3])) != 0;
}

} // namespace

std::optional<FaceFeature> switchable_feature(const std::string& tag) {
  for (const Known& k : known)
    if (tag == k.tag)
      return FaceFeature{tag, k.name, k.normally_on};
  if (numbered(tag, "ss"))
    return FaceFeature{tag, "Stylistic set " + std::to_string(std::stoi(tag.substr(2))), false};
  if (numbered(tag, "cv"))
    return FaceFeature{tag, "Character variant " + std::to_string(std::stoi(tag.substr(2))), false};
  return std::nullopt;
}

bool brings_alternates(const std::string& tag) {
  for (const Known& k : known)
    if (tag == k.tag)
      return k.alternates;
  return numbered(tag, "ss") || numbered(tag, "cv");
}

} // namespace frelm
