#include "app/session/preferences.h"

#include "document/edits.h"

#include <QSettings>

namespace frelm {
namespace {

// Each value with its name in the file and what it may be.
struct NumberKey {
  const char* key;
  double Preferences::*value;
  PreferenceRange range;
};
constexpr NumberKey numbers[] = {{"look/text", &Preferences::text, {80, 250}},
                                 {"new/capitals", &Preferences::letters, {0.1, 5000}},
                                 {"keys/stepMM", &Preferences::step_mm, {0.001, 1000}},
                                 {"keys/stepInInchJobsMM", &Preferences::step_inch, {0.001, 1000}},
                                 {"hand/catch", &Preferences::catch_px, {0, 30}},
                                 {"keep/after", &Preferences::keep_after, {0.5, 600}},
                                 {"memory/cacheMB", &Preferences::cache_mb, {16, 8192}},
                                 {"memory/historyMB", &Preferences::history_mb, {16, 8192}}};
const char* const unit_key = "new/unit";
const char* const family_key = "new/family";
const char* const style_key = "new/style";

} // namespace

PreferenceRange range_of(double Preferences::*value) {
  return std::find_if(std::begin(numbers), std::end(numbers), [&](const NumberKey& n) { return n.value == value; })
      ->range;
}

Preferences read_preferences(const QSettings& settings) {
  Preferences out;
  for (const NumberKey& n : numbers) {
    bool good = false;
    const double kept = settings.value(n.key).toDouble(&good);
    if (good && std::isfinite(kept))
      out.*n.value = std::clamp(kept, n.range.low, n.range.high);
  }
  if (settings.value(unit_key).toString() == "in")
    out.unit = Unit::Inch;
  if (const QString family = settings.value(family_key).toString(); !family.isEmpty())
    out.face = {family.toStdString(), settings.value(style_key).toString().toStdString()};
  return out;
}

void write_preferences(QSettings& settings, const Preferences& preferences) {
  const Preferences usual;
  const auto keep = [&](const char* key, bool as_usual, const QVariant& value) {
    if (as_usual)
      settings.remove(key);
    else
      settings.setValue(key, value);
  };
  for (const NumberKey& n : numbers)
    keep(n.key, preferences.*n.value == usual.*n.value, preferences.*n.value);
  keep(unit_key, preferences.unit == usual.unit, "in");
  const bool face = preferences.face == usual.face;
  keep(family_key, face, QString::fromStdString(preferences.face.family));
  keep(style_key, face, QString::fromStdString(preferences.face.style));
}

Piece new_lettering(const Preferences& preferences, Document& document, const std::u32string& text, Point at) {
  Piece out = new_lettering(document, text, at);
  Letters& letters = *out.lettering()->recipe.letters();
  letters.face = preferences.face;
  letters.size = preferences.letters;
  return out;
}

} // namespace frelm
