#include "app/session/preferences.h"

#include "document/edits.h"
#include "document/history.h"
#include "lettering/evaluate.h"

#include <QSettings>

namespace frelm {
namespace {

constexpr double mb = double(std::size_t{1} << 20);

// Each value with its name in the file and what it may be.
struct NumberKey {
  const char* key;
  double Preferences::*value;
  double low, high;
};
constexpr NumberKey numbers[] = {{"look/text", &Preferences::text, least_text, most_text},
                                 {"new/capitals", &Preferences::letters, 0.1, 5000},
                                 {"keys/stepMM", &Preferences::step_mm, 0.001, 1000},
                                 {"keys/stepInInchJobsMM", &Preferences::step_inch, 0.001, 1000},
                                 {"hand/catch", &Preferences::catch_px, 0, most_catch_px},
                                 {"keep/after", &Preferences::keep_after, 0.5, 600},
                                 {"memory/cacheMB", &Preferences::cache_mb, least_mb, most_mb},
                                 {"memory/historyMB", &Preferences::history_mb, least_mb, most_mb}};
const char* const unit_key = "new/unit";
const char* const family_key = "new/family";
const char* const style_key = "new/style";

} // namespace

Preferences usual_preferences() {
  Preferences out;
  out.cache_mb = double(usual_cache_bytes) / mb, out.history_mb = double(usual_history_bytes) / mb;
  return out;
}

Preferences read_preferences(const QSettings& settings) {
  Preferences out = usual_preferences();
  for (const NumberKey& n : numbers) {
    bool good = false;
    const double kept = settings.value(n.key).toDouble(&good);
    if (good && std::isfinite(kept))
      out.*n.value = std::clamp(kept, n.low, n.high);
  }
  if (settings.value(unit_key).toString() == "in")
    out.unit = Unit::Inch;
  if (const QString family = settings.value(family_key).toString(); !family.isEmpty())
    out.face = {family.toStdString(), settings.value(style_key).toString().toStdString()};
  return out;
}

void write_preferences(QSettings& settings, const Preferences& preferences) {
  const Preferences usual = usual_preferences();
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
