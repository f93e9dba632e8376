// The outside reference for shaping: the program hb-shape, in font units.
#pragma once

#include <QByteArray>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QString>
#include <vector>

namespace frelm::test {

struct ReferenceGlyph {
  int glyph = 0;
  int cluster = 0;
  double advance = 0, dx = 0, dy = 0;
};

inline std::vector<ReferenceGlyph> hb_shape(const QString& font, const QString& text, const QStringList& options = {}) {
  QProcess process;
  process.start("hb-shape",
                QStringList{"--output-format=json", "--no-glyph-names", "--font-size=upem", "--language=en"} + options +
                    QStringList{font, "--text=" + text});
  process.waitForFinished(20000);
  std::vector<ReferenceGlyph> out;
  for (const QJsonValue& v : QJsonDocument::fromJson(process.readAllStandardOutput()).array()) {
    const QJsonObject o = v.toObject();
    out.push_back({o["g"].toInt(), o["cl"].toInt(), o["ax"].toDouble(), o["dx"].toDouble(), o["dy"].toDouble()});
  }
  return out;
}

struct ReferenceExtents {
  double width = 0, height = 0; // font units
};
inline ReferenceExtents hb_extents(const QString& font, const QString& letter) {
  QProcess process;
  process.start("hb-shape", {"--output-format=json", "--show-extents", "--font-size=upem", font, "--text=" + letter});
  process.waitForFinished(20000);
  const QJsonArray glyphs = QJsonDocument::fromJson(process.readAllStandardOutput()).array();
  const QJsonObject o = glyphs.isEmpty() ? QJsonObject() : glyphs.first().toObject();
  return {o["w"].toDouble(), std::abs(o["h"].toDouble())};
}

} // namespace frelm::test
