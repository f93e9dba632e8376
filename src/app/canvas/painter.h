// Stateless painters of a document on any QPainter.
#pragma once

#include "app/canvas/handles.h"

#include <QPainter>
#include <QPainterPath>
#include <QTransform>
#include <unordered_map>

namespace frelm {

enum class View { Ink, Lines, Knife, Names };

// Outlines as painter paths, kept while the outline lives.
class PathCache {
public:
  const QPainterPath& of(const std::shared_ptr<const Outline>& outline);

private:
  struct Entry {
    std::weak_ptr<const Outline> alive;
    QPainterPath path;
  };
  static constexpr std::size_t fewest_paths = 4096;
  std::unordered_map<const Outline*, Entry> entries_;
  std::size_t room_ = fewest_paths; // kept; then those of dead outlines go
};

QPainterPath to_path(const Outline& outline);

// The smallest of 1, 2, 5 x 10^n units that is at least `least` px long.
double ruler_step(double px_per_unit, double least);

// What a picture of the pieces is made from: shared, immutable values, so that any thread can paint it.
struct PaintedPiece {
  std::shared_ptr<const Piece> piece;
  std::shared_ptr<const SeatedText> seated;
  std::shared_ptr<const Outline> outline;               // finished, drawn, or a guide's line
  std::shared_ptr<const Finished> finished;             // its layers, where there are more than the letters
  std::shared_ptr<const Finished> grouped;              // parts with looks of their own, in place of the outline
  bool current = false;                                 // the layers are of what is shown, not of a moment ago
  std::shared_ptr<const GuideLine> line;                // of a guide, or under a selected lettering
  bool chosen = false;                                  // selected alone
  bool operator==(const PaintedPiece&) const = default; // the very same values: it looks the same
};
struct Picture {
  std::vector<PaintedPiece> pieces;
  QTransform to_screen; // mm → px
  double px_per_mm = 1;
  View view = View::Ink;
  // In the Knife view: the one material that is shown firm, and those that are cut mirrored.
  struct Materials {
    std::optional<Colour> only;
    std::vector<Material> list;
    double sheet_width = 0;
    bool operator==(const Materials&) const = default;
  };
  Materials materials;
  QFont font;
  std::size_t nodes = 0; // a measure of the work
};
Picture picture_of(const Session& session, const QTransform& to_screen, double px_per_mm, View view);
void paint_piece(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& piece);
void paint_pieces(QPainter& painter, const Picture& picture, PathCache& paths); // all

// What lies over and under the pieces, always painted at once.
struct Scene {
  const Session& session;
  QTransform to_screen;
  double px_per_mm = 1;
};
void paint_sheet(QPainter& painter, const Scene& scene);
// In the Knife view: what is not cut, by its name and why.
void paint_uncut_names(QPainter& painter, const Scene& scene);
void paint_selection(QPainter& painter, const Scene& scene);
void paint_overlay(QPainter& painter, const Scene& scene, const ToolOverlay& overlay);
// The backing that is worked on, with its corners as handles; from place to place.
void paint_backing_frame(QPainter& painter, const Scene& scene);
// Ruler lines and dimension marks; seen: mm.
void paint_bench(QPainter& painter, const Scene& scene, const Box& seen);
void paint_measured(QPainter& painter, const Scene& scene, const MeasuredLine& line);
// What a command would make: `stays` firm, `goes` faded and struck through, `lines` with their nodes and nothing
// between them, so that what lies under them is seen; each may be null.
struct MadePicture {
  std::shared_ptr<const Outline> stays, goes;
  std::vector<Point> numbered = {}; // places, from 1
  std::shared_ptr<const Outline> lines = nullptr;
  std::vector<Point> frame = {}; // the corners of the part that is looked at
};
void paint_made(QPainter& painter, const Scene& scene, const MadePicture& made, PathCache& paths, const QRectF& seen);
// The chosen nodes' piece with all its nodes and the handles of the chosen ones.
void paint_nodes_of(QPainter& painter, const Scene& scene, const Outline& outline);

} // namespace frelm
