// Pieces on the clipboard: as they are for this program, as a job file for another window, which is written when that
// asks for it; as a drawing (SVG, in mm) and a picture (PNG) for other programs, made beside the window from the moment
// they are copied on.
#pragma once

#include "document/copying.h"
#include "type/face_library.h"

#include <QMimeData>
#include <future>
#include <optional>
#include <thread>

namespace frelm {

struct Pasted {
  Document part;
  std::vector<PieceId> chosen; // the others only came along
  std::uint64_t job = 0;       // where they were copied (Session::job)
};

class CopiedPieces : public QMimeData {
  Q_OBJECT

public:
  CopiedPieces(Document part, std::vector<PieceId> chosen, std::uint64_t job, const FaceLibrary& faces);
  ~CopiedPieces() override;
  const Pasted& pieces() const { return pieces_; }
  QStringList formats() const override;
  // The same without this program: for when it ends.
  QMimeData* written() const;

protected:
  QVariant retrieveData(const QString& format, QMetaType type) const override;

private:
  Pasted pieces_;
  QString texts_;
  const FaceLibrary& faces_;
  struct Seen {
    QByteArray svg, png; // empty: there is nothing to see
  };
  std::shared_future<Seen> seen_;
  std::jthread maker_; // the last member: it ends before what it uses
};

// Nothing: there are no pieces on the clipboard. Error: they can't be read.
std::optional<Result<Pasted>> pasted_pieces(const QMimeData& mime);

} // namespace frelm
