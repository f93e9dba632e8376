#include "cutter/drawing.h"

#include <algorithm>
#include <cairo.h>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <nlohmann/json.hpp>

namespace frelm::cutter {
namespace {

constexpr double margin = 5;         // mm around what was cut
constexpr double px_per_mm = 4;      // of pictures, at most
constexpr double most_pixels = 4000; // a side

struct Extent {
  double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
  double width() const { return x1 - x0; }
  double height() const { return y1 - y0; }
};
Extent extent_of(const Plotter& plotter) {
  Extent out;
  for (const Stroke& s : plotter.strokes())
    for (const Place p : s.places)
      out = {std::min(out.x0, p.x), std::min(out.y0, p.y), std::max(out.x1, p.x), std::max(out.y1, p.y)};
  return {out.x0 - margin, out.y0 - margin, out.x1 + margin, out.y1 + margin};
}
bool is_line(const Stroke& s) {
  return s.places.size() >= 2;
}

std::string write_png(const Plotter& plotter, const std::string& path) {
  const Extent e = extent_of(plotter);
  const double scale = std::min(px_per_mm, most_pixels / std::max(e.width(), e.height()));
  cairo_surface_t* surface =
      cairo_image_surface_create(CAIRO_FORMAT_RGB24, static_cast<int>(std::ceil(e.width() * scale)),
                                 static_cast<int>(std::ceil(e.height() * scale)));
  cairo_t* c = cairo_create(surface);
  cairo_set_source_rgb(c, 1, 1, 1);
  cairo_paint(c);
  cairo_scale(c, scale, -scale);
  cairo_translate(c, -e.x0, -e.y1);
  cairo_set_source_rgb(c, 0.12, 0.16, 0.2);
  cairo_set_line_width(c, 1.2 / scale);
  for (const Stroke& s : plotter.strokes()) {
    if (!is_line(s))
      continue;
    cairo_move_to(c, s.places.front().x, s.places.front().y);
    for (const Place p : s.places)
      cairo_line_to(c, p.x, p.y);
    cairo_stroke(c);
  }
  const cairo_status_t done = cairo_surface_write_to_png(surface, path.c_str());
  cairo_destroy(c);
  cairo_surface_destroy(surface);
  return done == CAIRO_STATUS_SUCCESS ? "" : path + ": " + cairo_status_to_string(done);
}

} // namespace

std::string drawn_json(const Plotter& plotter) {
  nlohmann::ordered_json out;
  out["strokes"] = nlohmann::ordered_json::array();
  for (const Stroke& s : plotter.strokes()) {
    if (!is_line(s))
      continue;
    nlohmann::ordered_json places = nlohmann::ordered_json::array();
    for (const Place p : s.places)
      places.push_back({p.x, p.y});
    out["strokes"].push_back({{"pen", s.pen}, {"from", s.from}, {"to", s.to}, {"points", std::move(places)}});
  }
  out["seconds"] = plotter.busy();
  out["cut_mm"] = plotter.cut(), out["travel_mm"] = plotter.travelled();
  out["troubles"] = plotter.troubles();
  out["lost_bytes"] = plotter.lost_bytes(), out["most_in_buffer"] = plotter.most_in_buffer();
  return out.dump(1) + "\n";
}

std::string drawn_svg(const Plotter& plotter) {
  const Extent e = extent_of(plotter);
  std::string out = fmt::format("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" "
                                "viewBox=\"{2:.3f} {3:.3f} {0:.3f} {1:.3f}\">\n"
                                "<g fill=\"none\" stroke=\"#1f2a33\" stroke-width=\"0.2\">\n",
                                e.width(), e.height(), e.x0, -e.y1);
  for (const Stroke& s : plotter.strokes()) {
    if (!is_line(s))
      continue;
    out += "<polyline points=\"";
    for (const Place p : s.places)
      out += fmt::format("{:.3f},{:.3f} ", p.x, -p.y);
    out.back() = '"';
    out += "/>\n";
  }
  return out + "</g>\n</svg>\n";
}

std::string write_drawing(const Plotter& plotter, const std::string& path) {
  if (path.ends_with(".png"))
    return write_png(plotter, path);
  if (!path.ends_with(".svg") && !path.ends_with(".json"))
    return path + ": choose a name that ends in .json, .svg or .png";
  std::ofstream file(path, std::ios::binary);
  file << (path.ends_with(".svg") ? drawn_svg(plotter) : drawn_json(plotter));
  file.close();
  return file ? "" : path + ": can't be written";
}

} // namespace frelm::cutter
