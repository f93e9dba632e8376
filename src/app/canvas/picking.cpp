#include "app/canvas/tool.h"
#include "app/style/words.h"
#include "document/catching.h"
#include "document/measure.h"

namespace frelm {
namespace {

// A place in the letter's own coordinates, and its box there.
Point local_of(const PlacedLetter& l, Point at) {
  return Affine::rotation(-l.angle).linear(at - l.origin);
}
Box local_box(const PlacedLetter& l) {
  Affine turned_back = Affine::rotation(-l.angle) * Affine::translation(-l.origin) * l.place;
  return l.shape->transformed(turned_back).bounds();
}

bool hits(const Session& session, const Piece& piece, Point at, double within) {
  const Result<PieceResult>& now = session.seated(piece.id);
  if (piece.guide() != nullptr && !piece.is_shape()) {
    const auto near = now && now->ink.grown(within).contains(at) ? nearest_on(*now->outline, at) : std::nullopt;
    return near && near->distance <= within;
  }
  if (!now || !session.drawn_box(piece.id).grown(within).contains(at))
    return false;
  if (const Session::LayersShown layers = session.layers(piece.id); layers.finished != nullptr && layers.current)
    for (const Layer& l : layers.finished->layers)
      if (l.role != LayerRole::Letters && winding_number(*l.outline, at, 0.05) != 0)
        return true;
  if (now->seated != nullptr) {
    const double cap = now->seated->spaced->set->cap_height;
    for (const PlacedLetter& l : now->seated->letters) {
      if (l.blank() || distance(at, l.origin) > within + l.advance + 4 * cap)
        continue;
      if (l.shape->transformed(l.place).bounds().grown(within).contains(at) &&
          (l.shape != l.plain || local_box(l).grown(within).contains(local_of(l, at))))
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
  const auto& pieces = session.shown().pieces;
  for (auto it = pieces.rbegin(); it != pieces.rend(); ++it)
    if ((*it)->visible && !(*it)->locked && hits(session, **it, at, within_mm))
      return (*it)->id;
  return 0;
}

PieceId piece_below(const Session& session, Point at, double within_mm, PieceId above) {
  std::vector<PieceId> here; // from the front
  const auto& pieces = session.shown().pieces;
  for (auto it = pieces.rbegin(); it != pieces.rend(); ++it)
    if ((*it)->visible && !(*it)->locked && hits(session, **it, at, within_mm))
      here.push_back((*it)->id);
  if (here.empty())
    return 0;
  const auto it = std::find(here.begin(), here.end(), above);
  return it == here.end() || it + 1 == here.end() ? here.front() : *(it + 1);
}

bool touches(const Session& session, const Piece& piece, const Box& box) {
  const Result<PieceResult>& now = session.seated(piece.id);
  if (!now || !now->ink.overlaps(box))
    return false;
  if (box.contains(now->ink))
    return true;
  if (now->seated != nullptr)
    return std::any_of(now->seated->letters.begin(), now->seated->letters.end(), [&](const PlacedLetter& l) {
      return !l.blank() && l.shape->transformed(l.place).bounds().overlaps(box);
    });
  if (now->outline == nullptr)
    return false;
  for (const Contour& c : now->outline->contours)
    for (const Segment& s : c.segments) {
      constexpr int parts = 8; // of a long segment, each by its own box
      for (int i = 0; i < parts; ++i) {
        Box part;
        part.add(s.at(double(i) / parts)), part.add(s.at((i + 1.0) / parts));
        if (part.overlaps(box))
          return true;
      }
    }
  return (piece.guide() == nullptr || piece.is_shape()) && winding_number(*now->outline, box.centre(), 0.05) != 0;
}

std::optional<Colour> colour_at(const Session& session, Point at) {
  constexpr double flat = 0.05; // mm
  const auto& pieces = session.shown().pieces;
  for (auto it = pieces.rbegin(); it != pieces.rend(); ++it) {
    const Piece& piece = **it;
    const Result<PieceResult>& now = session.seated(piece.id);
    const bool shows = piece.visible && (piece.guide() == nullptr || piece.is_shape());
    if (!shows || !now || !session.drawn_box(piece.id).contains(at))
      continue;
    const Session::LayersShown shown = session.layers(piece.id); // else parts that keep their looks, if any
    if (const auto finished = shown.current ? shown.finished : now->finished; finished != nullptr) {
      const std::vector<PieceLayer> layers = layers_of(piece, *finished);
      for (auto l = layers.rbegin(); l != layers.rend(); ++l)
        if (winding_number(*l->outline, at, flat) != 0)
          return l->colour;
    } else if (now->seated != nullptr) {
      for (const PlacedLetter& l : now->seated->letters)
        if (!l.blank() && winding_number(l.shape->transformed(l.place), at, flat) != 0)
          return piece.colour;
    } else if (now->outline != nullptr && winding_number(*now->outline, at, flat) != 0) {
      return piece.colour;
    }
  }
  return std::nullopt;
}

HandPlace caught_place(const Session& session, const Document& document, const ToolEvent& event, const CatchHow& how) {
  HandPlace out{event.at, {}, {}};
  if (event.modifiers.testFlag(Qt::ControlModifier))
    return out;
  if (const auto c =
          catch_at(document, session.evaluator(), event.at, session.preferences().catch_px * event.mm_per_px, how)) {
    out.at = c->at;
    out.caught = c->at;
    const Piece* piece = document.find(c->piece);
    const QString kind = core_words(catch_name(c->kind));
    out.word = piece != nullptr ? QObject::tr(" · %1 of %2").arg(kind, piece_words(document, *piece))
                                : QObject::tr(" · %1").arg(kind);
  }
  return out;
}

} // namespace frelm
