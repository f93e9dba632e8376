// Stateless painters of a document on any QPainter.
#pragma once

#include "app/canvas/handles.h"

#include <QPainter>
#include <QPainterPath>
#include <QTransform>
#include <unordered_map>

namespace frelm {

enum class View { Ink, Lines, Knife };

// Outlines as painter paths, kept while the outline lives.
class PathCache {
public:
  const QPainterPath& of(const std::shared_ptr<const Outline>& outline);

private:
  struct Entry {
    std::weak_ptr<const Outline> alive;
    QPainterPath path;
  };
  std::unordered_map<const Outline*, Entry> entries_;
};

QPainterPath to_path(const Outline& outline);

// The smallest of 1, 2, 5 x 10^n units that is at least `least` px long.
double ruler_step(double px_per_unit, double least);

struct Scene {
  const Session& session;
  PathCache& paths;
  QTransform to_screen; // mm → px
  double px_per_mm = 1;
  View view = View::Ink;
};

void paint_sheet(QPainter& painter, const Scene& scene);
void paint_pieces(QPainter& painter, const Scene& scene);
void paint_selection(QPainter& painter, const Scene& scene);
void paint_overlay(QPainter& painter, const Scene& scene, const ToolOverlay& overlay);

} // namespace frelm
