#include "formats/png_read.h"

#include "formats/cairo_path.h"

#include <cstring>
#include <memory>

namespace frelm {

Result<GreyPicture> read_png(std::string_view bytes) {
  std::string_view left = bytes;
  const std::unique_ptr<cairo_surface_t, decltype(&cairo_surface_destroy)> surface(
      cairo_image_surface_create_from_png_stream(take_bytes, &left), &cairo_surface_destroy);
  const cairo_format_t format = cairo_image_surface_get_format(surface.get());
  if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS ||
      (format != CAIRO_FORMAT_ARGB32 && format != CAIRO_FORMAT_RGB24))
    return Error{ErrorCode::Unreadable,
                 FRELM_WORDS("core", "this is not a PNG picture that can be read; save it again as an 8-bit PNG"),
                 {}};
  GreyPicture out;
  out.width = cairo_image_surface_get_width(surface.get());
  out.height = cairo_image_surface_get_height(surface.get());
  const unsigned char* data = cairo_image_surface_get_data(surface.get());
  const int stride = cairo_image_surface_get_stride(surface.get());
  out.grey.reserve(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x) {
      std::uint32_t pixel = 0;
      std::memcpy(&pixel, data + static_cast<std::ptrdiff_t>(y) * stride + static_cast<std::ptrdiff_t>(x) * 4, 4);
      const double alpha = format == CAIRO_FORMAT_ARGB32 ? pixel >> 24 : 255;
      const double r = pixel >> 16 & 255, g = pixel >> 8 & 255, b = pixel & 255; // already times alpha
      out.grey.push_back(static_cast<std::uint8_t>(0.2126 * r + 0.7152 * g + 0.0722 * b + (255 - alpha) + 0.5));
    }
  return out;
}

} // namespace frelm
