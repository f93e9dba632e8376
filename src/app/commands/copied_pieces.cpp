#include "app/commands/copied_pieces.h"

#include "document/evaluate.h"
#include "document/job_file.h"
#include "formats/png.h"
#include "formats/svg.h"

#include <QDataStream>
#include <QIODevice>

namespace frelm {
namespace {

constexpr const char* pieces_mime = "application/x-frelm-job";
constexpr const char* svg_mime = "image/svg+xml";
constexpr const char* png_mime = "image/png";
constexpr int picture_side = 1600;                                // px of the longer side
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
  std::promise<Seen> promise;
  seen_ = promise.get_future().share();
  maker_ =
      std::jthread([promise = std::move(promise), part = pieces_.part, &faces](const std::stop_token& stop) mutable {
        Seen out;
        CutSheet sheet = seen_sheet(part, DocumentEvaluator(faces), stop);
        Box ink;
        for (const CutPiece& p : sheet.pieces)
          ink.add(p.outline.bounds());
        if (!stop.stop_requested() && !ink.empty() && ink.width() > 0 && ink.height() > 0) {
          for (CutPiece& p : sheet.pieces)
            p.outline = p.outline.transformed(Affine::translation(Point{} - Point{ink.x0, ink.y0}));
          sheet.frame = {0, 0, ink.width(), ink.height()};
          out.svg = QByteArray::fromStdString(write_svg_as_drawn(sheet, {}));
          const double longer = std::max(ink.width(), ink.height());
          const int wide = std::max(1, static_cast<int>(picture_side * ink.width() / longer));
          if (const Result<std::string> png = write_png(sheet, wide, ExportInk::Areas, std::nullopt))
            out.png = QByteArray::fromStdString(*png);
        }
        promise.set_value(std::move(out));
      });
}

CopiedPieces::~CopiedPieces() = default;

QStringList CopiedPieces::formats() const {
  QStringList out{pieces_mime, chosen_mime};
  if (!texts_.isEmpty())
    out << "text/plain";
  out << svg_mime << png_mime;
  return out;
}

QMimeData* CopiedPieces::written() const {
  auto* out = new QMimeData;
  constexpr std::chrono::seconds most_waiting{2}; // the program is ending
  const bool seen = seen_.wait_for(most_waiting) == std::future_status::ready;
  for (const QString& format : formats())
    if (seen || (format != svg_mime && format != png_mime))
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
  if (format == svg_mime || format == png_mime) // waits for what is not ready yet
    return format == svg_mime ? seen_.get().svg : seen_.get().png;
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
