#include "pages/page_svg.h"

#include <algorithm>
#include <cairo-svg.h>
#include <cmath>
#include <cstdio>
#include <memory>
#include <poppler.h>
#include <string_view>

namespace frelm::pages {
namespace {

constexpr double usually_enlarged = 32;

// Soft masks are pictures to the painter: they must have room.
double enlarged_by(const OnePage& page, double width, double height) {
  constexpr double most_px = 4e6;
  return page.soft_masks ? std::clamp(std::sqrt(most_px / (width * height)), 1.0, usually_enlarged) : usually_enlarged;
}

constexpr std::size_t most_svg = std::size_t{96} << 20; // bytes
constexpr double largest_page = 283465;                 // pt, 100 m

struct Unref {
  template <class T> void operator()(T* held) const { g_object_unref(held); }
};

cairo_status_t take(void* to, const unsigned char* bytes, unsigned length) {
  auto& svg = *static_cast<std::string*>(to);
  if (svg.size() + length > most_svg)
    return CAIRO_STATUS_WRITE_ERROR;
  svg.append(reinterpret_cast<const char*>(bytes), length);
  return CAIRO_STATUS_SUCCESS;
}

// The surface is as large as it is painted; the drawing is as large as the page.
void set_size(std::string& svg, double width, double height) {
  const std::size_t from = svg.find(" width=\""), to = svg.find(" viewBox=");
  char size[100];
  std::snprintf(size, sizeof size, " width=\"%.6fpt\" height=\"%.6fpt\"", width, height);
  if (from != std::string::npos && to != std::string::npos && from < to)
    svg.replace(from, to - from, size);
}

// The painter's outlines of letters stand in symbols of their own, nameless: each gets the id "letter".
std::string with_named_letters(const std::string& svg) {
  constexpr std::string_view letter = "<symbol overflow=\"visible\" id=\"glyph", path = "<path ";
  std::string out;
  std::size_t done = 0;
  for (std::size_t at = 0; (at = svg.find(letter, at)) != std::string::npos;) {
    at = svg.find(path, at);
    if (at == std::string::npos)
      break;
    at += path.size();
    out.append(svg, done, at - done).append("id=\"letter\" ");
    done = at;
  }
  return out.append(svg, done);
}

} // namespace

Answer svg_of_page(OnePage& page, std::string& svg) {
  GError* error = nullptr;
  GBytes* bytes = g_bytes_new_static(page.pdf.data(), page.pdf.size());
  const std::unique_ptr<PopplerDocument, Unref> document(poppler_document_new_from_bytes(bytes, nullptr, &error));
  g_bytes_unref(bytes);
  if (!document)
    return error != nullptr && error->code == POPPLER_ERROR_ENCRYPTED ? Answer::Locked : Answer::Unreadable;
  if (page.number > 1 || page.pages < 1)
    page.pages = poppler_document_get_n_pages(document.get());
  const std::unique_ptr<PopplerPage, Unref> shown(poppler_document_get_page(document.get(), page.number - 1));
  if (!shown)
    return page.pages > 0 ? Answer::NoSuchPage : Answer::Unreadable;
  double width = 0, height = 0;
  poppler_page_get_size(shown.get(), &width, &height);
  const double unit = page.unit > 0 && std::isfinite(page.unit) ? page.unit : 1;
  if (!(width > 0 && height > 0 && std::max(width, height) * unit <= largest_page))
    return Answer::TooMuch;

  const double enlarged = enlarged_by(page, width, height);
  cairo_surface_t* surface = cairo_svg_surface_create_for_stream(take, &svg, width * enlarged, height * enlarged);
  cairo_surface_set_fallback_resolution(surface, 72 / enlarged,
                                        72 / enlarged); // what can't be told in SVG is a picture
  cairo_t* painter = cairo_create(surface);
  cairo_scale(painter, enlarged, enlarged);
  poppler_page_render_for_printing(shown.get(), painter);
  const bool painted = cairo_status(painter) == CAIRO_STATUS_SUCCESS;
  cairo_destroy(painter);
  cairo_surface_finish(surface);
  const cairo_status_t written = cairo_surface_status(surface);
  cairo_surface_destroy(surface);
  if (written == CAIRO_STATUS_WRITE_ERROR)
    return Answer::TooMuch;
  if (!painted || written != CAIRO_STATUS_SUCCESS)
    return Answer::Unreadable;
  set_size(svg, width * unit, height * unit);
  svg = with_named_letters(svg);
  if (svg.find("id=\"letter\"") == std::string::npos)
    page.other_faces.clear(); // no text
  return Answer::Done;
}

} // namespace frelm::pages
