#include "app/commands/copied_pieces.h"

#include "document/job_file.h"

#include <QDataStream>
#include <QIODevice>

namespace frelm {
namespace {

constexpr const char* pieces_mime = "application/x-frelm-job";
constexpr const char* chosen_mime = "application/x-frelm-chosen"; // the job's number, then ids

} // namespace

CopiedPieces::CopiedPieces(Document part, std::vector<PieceId> chosen, std::uint64_t job, const FaceLibrary& faces)
    : pieces_{std::move(part), std::move(chosen), job}, faces_(faces) {
  QStringList texts;
  for (const PieceId id : pieces_.chosen)
    if (const Piece* p = pieces_.part.find(id); p != nullptr && p->lettering() != nullptr)
      if (const Letters* letters = p->lettering()->recipe.letters())
        texts << QString::fromStdString(to_utf8(plain_text(letters->text)));
  texts_ = texts.join("\n");
}

QStringList CopiedPieces::formats() const {
  QStringList out{pieces_mime, chosen_mime};
  if (!texts_.isEmpty())
    out << "text/plain";
  return out;
}

QMimeData* CopiedPieces::written() const {
  auto* out = new QMimeData;
  for (const QString& format : formats())
    out->setData(format, retrieveData(format, {}).toByteArray());
  return out;
}

QVariant CopiedPieces::retrieveData(const QString& format, QMetaType) const {
  if (format == pieces_mime)
    return QByteArray::fromStdString(write_job(pieces_.part, faces_));
  if (format == chosen_mime) {
    QByteArray bytes;
    QDataStream stream(&bytes, QIODevice::WriteOnly);
    stream << quint64(pieces_.job);
    for (const PieceId id : pieces_.chosen)
      stream << quint64(id);
    return bytes;
  }
  return format == "text/plain" && !texts_.isEmpty() ? QVariant(texts_) : QVariant();
}

std::optional<Result<Pasted>> pasted_pieces(const QMimeData& mime) {
  if (const auto* own = qobject_cast<const CopiedPieces*>(&mime))
    return own->pieces();
  if (!mime.hasFormat(pieces_mime))
    return std::nullopt;
  Result<Document> part = read_job(mime.data(pieces_mime).toStdString());
  if (!part)
    return part.error();
  Pasted out;
  out.part = std::move(*part);
  QDataStream stream(mime.data(chosen_mime));
  quint64 value = 0;
  stream >> value;
  out.job = value;
  while (!stream.atEnd()) {
    stream >> value;
    out.chosen.push_back(value);
  }
  return out;
}

} // namespace frelm
