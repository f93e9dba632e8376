#include "app/canvas/tool.h"
#include "document/measure.h"

namespace frelm {
namespace {

bool hits(const Session& session, const Piece& piece, Point at, double within) {
  if (const Guide* guide = piece.guide())
    return std::abs(distance(at, guide->circle.centre) - guide->circle.radius) <= within;
  const Result<PieceResult>& now = session.seated(piece.id);
  if (!now || !now->ink.grown(within).contains(at))
    return false;
  if (now->seated != nullptr) {
    for (const PlacedLetter& l : now->seated->letters) {
      if (l.blank())
        continue;
      const Vec d = at - l.origin;
      const Point local = Affine::rotation(-l.angle).linear(d);
      if (l.shape->bounds().grown(within).contains(local))
        return true;
    }
    return false;
  }
  if (now->outline == nullptr)
    return false;
  Outline probe;
  Contour point;
  point.closed = false;
  point.segments.push_back(Segment::line(at, at));
  probe.contours.push_back(point);
  return winding_number(*now->outline, at, 0.05) != 0 || closest_boundaries(*now->outline, probe).distance <= within;
}

} // namespace

PieceId piece_at(const Session& session, Point at, double within_mm) {
  const auto& pieces = session.document().pieces;
  for (auto it = pieces.rbegin(); it != pieces.rend(); ++it)
    if ((*it)->visible && !(*it)->locked && hits(session, **it, at, within_mm))
      return (*it)->id;
  return 0;
}

QString length_text(double mm, Unit unit, int decimals) {
  if (decimals < 0)
    return QString::fromStdString(format_length(mm, unit));
  return QString::number(unit == Unit::Inch ? mm / mm_per_inch : mm, 'f', unit == Unit::Inch ? decimals + 2 : decimals);
}

} // namespace frelm
