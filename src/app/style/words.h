// What the core says, in the language of the screen.
#pragma once

#include "document/edits.h"
#include "document/measure.h"
#include "document/piece_name.h"
#include "geom/result.h"

#include <QCoreApplication>

namespace frelm {

inline QString core_words(std::string_view words) {
  return QCoreApplication::translate("core", std::string(words).c_str());
}

struct OnScreen {
  QString operator()(std::string_view words) const { return core_words(words); }
  static QString own(const std::string& text) { return QString::fromStdString(text); }
  static int digit(QChar c) { return c.digitValue(); }
};
inline QString words_of(const Said& said) {
  return spoken(said, OnScreen{});
}
inline QString words_of(const Error& error) {
  return words_of(error.said());
}
inline QString piece_words(const Document& document, const Piece& piece) {
  return words_of(piece_name(document, piece));
}

inline QString length_text(double mm, Unit unit, int decimals = -1) {
  if (decimals < 0)
    return QString::fromStdString(format_length(mm, unit));
  return QString::number(unit == Unit::Inch ? mm / mm_per_inch : mm, 'f', unit == Unit::Inch ? decimals + 2 : decimals);
}

// many: with %1 for the number.
inline QString counted_words(std::size_t n, const QString& one, const QString& many) {
  return n == 1 ? one : many.arg(n);
}

inline QString destination_word(Destination destination) {
  switch (destination) {
  case Destination::Knife:
    return QCoreApplication::translate("Destination", "Knife");
  case Destination::Pen:
    return QCoreApplication::translate("Destination", "Pen");
  case Destination::Guide:
    return QCoreApplication::translate("Destination", "Guide");
  case Destination::Off:
    break;
  }
  return QCoreApplication::translate("Destination", "Off");
}

inline QString listed(const std::vector<std::string>& names) {
  QStringList out;
  for (const std::string& name : names)
    out << QString::fromStdString(name);
  return out.join(", ");
}

} // namespace frelm
