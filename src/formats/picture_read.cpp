#include "formats/picture_read.h"

#include "formats/cairo_path.h"

#include <csetjmp>
#include <cstdio> // before jpeglib
#include <cstring>
#include <jpeglib.h>
#include <libexif/exif-data.h>

namespace frelm {
namespace {

constexpr double mm_per_inch_of_pictures = 25.4;

// Rows of 4 bytes a px, as cairo has them: blue, green, red, alpha, times alpha.
struct Pixels {
  int width = 0, height = 0;
  bool clear = false; // some of it can be seen through
  std::vector<std::uint32_t> px;
  std::uint32_t& at(int x, int y) {
    return px[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
  }
  std::uint32_t at(int x, int y) const { return const_cast<Pixels*>(this)->at(x, y); }
};
Pixels blank(int width, int height) {
  return {width, height, false,
          std::vector<std::uint32_t>(static_cast<std::size_t>(width) * static_cast<std::size_t>(height))};
}

Error damaged() {
  return {ErrorCode::Unreadable,
          FRELM_WORDS("core", "is a picture that can't be read; it may be damaged or end too soon. Save it anew"),
          {}};
}
Error too_large() {
  return bad_input(FRELM_WORDS("core", "is a picture with more px than can be taken; save it smaller first"));
}

Error not_a_picture() {
  return {ErrorCode::Unsupported, FRELM_WORDS("core", "is no PNG or JPEG picture"), {}};
}

bool is_png(std::string_view bytes) {
  return bytes.starts_with("\x89PNG\r\n\x1a\n");
}
bool is_jpeg(std::string_view bytes) {
  return bytes.starts_with("\xff\xd8\xff");
}

std::uint32_t big_endian(std::string_view bytes, std::size_t at) {
  std::uint32_t out = 0;
  for (std::size_t i = 0; i < 4; ++i)
    out = out << 8 | static_cast<unsigned char>(bytes[at + i]);
  return out;
}

// Chunk after chunk: length, name, data, check sum.
double png_px_per_mm(std::string_view bytes) {
  constexpr std::size_t signature = 8, around = 12;
  for (std::size_t at = signature; at + around <= bytes.size();) {
    const std::size_t length = big_endian(bytes, at);
    const std::string_view name = bytes.substr(at + 4, 4);
    if (name == "pHYs" && length == 9 && at + around + length <= bytes.size())
      return bytes[at + 16] == 1 ? big_endian(bytes, at + 8) / 1000.0 : 0; // px a metre
    if (name == "IDAT" || length > bytes.size())
      break;
    at += length + around;
  }
  return 0;
}

Pixels pixels_of(cairo_surface_t* surface) {
  cairo_surface_flush(surface);
  Pixels out = blank(cairo_image_surface_get_width(surface), cairo_image_surface_get_height(surface));
  const unsigned char* data = cairo_image_surface_get_data(surface);
  const int stride = cairo_image_surface_get_stride(surface);
  const bool alpha = cairo_image_surface_get_format(surface) == CAIRO_FORMAT_ARGB32;
  for (int y = 0; y < out.height; ++y)
    std::memcpy(&out.at(0, y), data + std::ptrdiff_t{y} * stride, static_cast<std::size_t>(out.width) * 4);
  for (std::uint32_t& p : out.px) {
    if (!alpha)
      p |= 0xff000000U;
    out.clear = out.clear || p >> 24 != 255;
  }
  return out;
}

std::string as_png(Pixels& pixels) {
  const CairoSurface surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, pixels.width, pixels.height),
                             cairo_surface_destroy);
  if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS)
    return {};
  unsigned char* data = cairo_image_surface_get_data(surface.get());
  for (int y = 0; y < pixels.height; ++y)
    std::memcpy(data + std::ptrdiff_t{y} * cairo_image_surface_get_stride(surface.get()), &pixels.at(0, y),
                static_cast<std::size_t>(pixels.width) * 4);
  cairo_surface_mark_dirty(surface.get());
  std::string out;
  cairo_surface_write_to_png_stream(surface.get(), append_bytes, &out);
  return out;
}

// libjpeg ends by a jump; nothing that has a destructor is made between it and where it lands.
struct Jump {
  jpeg_error_mgr manager;
  std::jmp_buf back;
};
[[noreturn]] void jump_back(j_common_ptr cinfo) {
  std::longjmp(reinterpret_cast<Jump*>(cinfo->err)->back, 1);
}
void stay_silent(j_common_ptr) {}
jpeg_error_mgr* silent(Jump& jump) {
  jpeg_error_mgr* out = jpeg_std_error(&jump.manager);
  out->error_exit = jump_back;
  out->output_message = stay_silent;
  return out;
}

struct JpegHead {
  int width = 0, height = 0, parts = 0;
  double px_per_mm = 0;
  int turn = 1; // EXIF orientation, 1 to 8
};

int orientation_in(const unsigned char* data, unsigned length) {
  ExifData* exif = exif_data_new_from_data(data, length);
  int out = 1;
  if (exif == nullptr)
    return out;
  if (ExifEntry* entry = exif_content_get_entry(exif->ifd[EXIF_IFD_0], EXIF_TAG_ORIENTATION);
      entry != nullptr && entry->size >= 2)
    out = exif_get_short(entry->data, exif_data_get_byte_order(exif));
  exif_data_unref(exif);
  return out >= 1 && out <= 8 ? out : 1;
}

// Reads the head, then, with `into`, all of it at 1/shrink.
bool read_jpeg(std::string_view bytes, JpegHead& head, unsigned shrink, Pixels* into, std::vector<unsigned char>& row) {
  jpeg_decompress_struct cinfo;
  Jump jump;
  cinfo.err = silent(jump);
  if (setjmp(jump.back) != 0) {
    jpeg_destroy_decompress(&cinfo);
    return false;
  }
  jpeg_create_decompress(&cinfo);
  cinfo.mem->max_memory_to_use = 100L << 20; // progressive ones hold all of it
  jpeg_mem_src(&cinfo, reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
  constexpr unsigned most_marker = 0xffff;
  jpeg_save_markers(&cinfo, JPEG_APP0 + 1, most_marker);
  jpeg_read_header(&cinfo, TRUE);
  head.width = static_cast<int>(cinfo.image_width), head.height = static_cast<int>(cinfo.image_height);
  head.parts = cinfo.num_components;
  head.px_per_mm = cinfo.saw_JFIF_marker == FALSE || cinfo.X_density == 0 ? 0
                   : cinfo.density_unit == 1                              ? cinfo.X_density / mm_per_inch_of_pictures
                   : cinfo.density_unit == 2                              ? cinfo.X_density / 10.0
                                                                          : 0;
  for (jpeg_saved_marker_ptr m = cinfo.marker_list; m != nullptr; m = m->next)
    if (m->marker == JPEG_APP0 + 1 && m->data_length > 6 && std::memcmp(m->data, "Exif", 4) == 0)
      head.turn = orientation_in(m->data, m->data_length);
  if (into == nullptr) {
    jpeg_destroy_decompress(&cinfo);
    return true;
  }
  const bool inks = cinfo.num_components == 4;
  cinfo.out_color_space = inks ? JCS_CMYK : JCS_RGB;
  cinfo.scale_num = 1, cinfo.scale_denom = shrink;
  jpeg_start_decompress(&cinfo);
  const std::size_t width = cinfo.output_width, parts = inks ? 4 : 3;
  row.resize(width * parts); // none of these throws over a jump: what they hold is the caller's
  into->width = static_cast<int>(width), into->height = static_cast<int>(cinfo.output_height);
  into->px.resize(width * cinfo.output_height);
  while (cinfo.output_scanline < cinfo.output_height) {
    const int y = static_cast<int>(cinfo.output_scanline);
    unsigned char* rows[]{row.data()};
    jpeg_read_scanlines(&cinfo, rows, 1);
    for (std::size_t x = 0; x < width; ++x) {
      const unsigned char* p = &row[x * parts];
      std::uint32_t r = p[0], g = p[1], b = p[2];
      if (inks) { // Adobe's are turned round: 255 is no ink
        const std::uint32_t k = p[3];
        r = r * k / 255, g = g * k / 255, b = b * k / 255;
      }
      into->at(static_cast<int>(x), y) = 0xff000000U | r << 16 | g << 8 | b;
    }
  }
  jpeg_finish_decompress(&cinfo);
  const bool whole = cinfo.err->num_warnings == 0;
  jpeg_destroy_decompress(&cinfo);
  return whole;
}

struct JpegBytes { // libjpeg's own room for what it writes
  unsigned char* data = nullptr;
  unsigned long size = 0;
};
bool write_jpeg(const Pixels& pixels, JpegBytes& out, std::vector<unsigned char>& row) {
  jpeg_compress_struct cinfo;
  Jump jump;
  cinfo.err = silent(jump);
  if (setjmp(jump.back) != 0) {
    jpeg_destroy_compress(&cinfo);
    return false;
  }
  jpeg_create_compress(&cinfo);
  jpeg_mem_dest(&cinfo, &out.data, &out.size);
  cinfo.image_width = static_cast<unsigned>(pixels.width), cinfo.image_height = static_cast<unsigned>(pixels.height);
  cinfo.input_components = 3, cinfo.in_color_space = JCS_RGB;
  jpeg_set_defaults(&cinfo);
  constexpr int quality = 88;
  jpeg_set_quality(&cinfo, quality, TRUE);
  jpeg_start_compress(&cinfo, TRUE);
  for (int y = 0; y < pixels.height; ++y) {
    for (int x = 0; x < pixels.width; ++x) {
      const std::uint32_t p = pixels.at(x, y);
      unsigned char* to = &row[static_cast<std::size_t>(x) * 3];
      to[0] = p >> 16 & 255, to[1] = p >> 8 & 255, to[2] = p & 255;
    }
    unsigned char* rows[]{row.data()};
    jpeg_write_scanlines(&cinfo, rows, 1);
  }
  jpeg_finish_compress(&cinfo);
  jpeg_destroy_compress(&cinfo);
  return true;
}

std::string as_jpeg(const Pixels& pixels) {
  std::vector<unsigned char> row(static_cast<std::size_t>(pixels.width) * 3);
  JpegBytes bytes;
  std::string out;
  if (write_jpeg(pixels, bytes, row))
    out.assign(reinterpret_cast<const char*>(bytes.data), bytes.size);
  std::free(bytes.data);
  return out;
}

// EXIF 2.3 (CIPA DC-008-2012), 4.6.4 A: where the first row and column of what is stored stand.
Pixels upright(Pixels in, int turn) {
  if (turn == 1)
    return in;
  const bool sideways = turn >= 5;
  Pixels out = blank(sideways ? in.height : in.width, sideways ? in.width : in.height);
  out.clear = in.clear;
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x) {
      int u = sideways ? y : x, v = sideways ? x : y; // in what is stored
      if (turn == 2 || turn == 3 || turn == 7 || turn == 8)
        u = in.width - 1 - u;
      if (turn == 3 || turn == 4 || turn == 6 || turn == 7)
        v = in.height - 1 - v;
      out.at(x, y) = in.at(u, v);
    }
  return out;
}

// Each px the mean of those that it covers.
Pixels shrunk(const Pixels& in, int width, int height) {
  Pixels out = blank(width, height);
  out.clear = in.clear;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const auto from = [](int i, int n, int of) { return static_cast<int>(static_cast<long long>(i) * of / n); };
      const int x0 = from(x, width, in.width), x1 = std::max(x0 + 1, from(x + 1, width, in.width));
      const int y0 = from(y, height, in.height), y1 = std::max(y0 + 1, from(y + 1, height, in.height));
      std::uint64_t sum[4]{};
      for (int v = y0; v < y1; ++v)
        for (int u = x0; u < x1; ++u)
          for (int part = 0; part < 4; ++part)
            sum[part] += in.at(u, v) >> (8 * part) & 255;
      const auto n = static_cast<std::uint64_t>(x1 - x0) * static_cast<std::uint64_t>(y1 - y0);
      for (int part = 0; part < 4; ++part)
        out.at(x, y) |= static_cast<std::uint32_t>((sum[part] + n / 2) / n) << (8 * part);
    }
  return out;
}

// As large as is kept.
Pixels fitted(Pixels in) {
  const int longest = std::max(in.width, in.height);
  if (longest <= longest_kept_side)
    return in;
  const auto side = [&](int v) {
    return std::max(1, static_cast<int>(std::lround(double(v) * longest_kept_side / longest)));
  };
  return shrunk(in, side(in.width), side(in.height));
}

Result<PictureRead> finished(PictureRead out, Pixels pixels, int came_width, double px_per_mm) {
  out.file.bytes = pixels.clear ? as_png(pixels) : as_jpeg(pixels);
  out.file.width = pixels.width, out.file.height = pixels.height;
  out.px_per_mm = px_per_mm * pixels.width / came_width;
  if (out.file.bytes.empty() || out.file.bytes.size() > most_picture_bytes)
    return too_large();
  return out;
}

Result<CairoSurface> png_surface(std::string_view bytes) {
  constexpr std::size_t head = 33;
  constexpr double most_px = 64e6;
  if (bytes.size() < head || bytes.substr(12, 4) != "IHDR")
    return damaged();
  const double width = big_endian(bytes, 16), height = big_endian(bytes, 20);
  if (!(width > 0 && height > 0))
    return damaged();
  if (width * height > most_px)
    return too_large();
  std::string_view left = bytes;
  CairoSurface surface(cairo_image_surface_create_from_png_stream(take_bytes, &left), cairo_surface_destroy);
  if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS)
    return damaged();
  return surface;
}

Result<PictureRead> png_picture(std::string_view bytes) {
  const Result<CairoSurface> read = png_surface(bytes);
  if (!read)
    return read.error();
  const CairoSurface& surface = *read;
  PictureRead out;
  out.width = cairo_image_surface_get_width(surface.get()), out.height = cairo_image_surface_get_height(surface.get());
  out.px_per_mm = png_px_per_mm(bytes);
  if (std::max(out.width, out.height) <= longest_kept_side && bytes.size() <= most_picture_bytes) {
    out.file = {std::string(bytes), out.width, out.height};
    return out;
  }
  const int came = out.width;
  const double said = out.px_per_mm;
  return finished(out, fitted(pixels_of(surface.get())), came, said);
}

Result<JpegHead> jpeg_head(std::string_view bytes, std::vector<unsigned char>& row) {
  JpegHead head;
  if (!read_jpeg(bytes, head, 1, nullptr, row) || head.width < 1 || head.height < 1)
    return damaged();
  constexpr int most_side = 64'000;
  if (std::max(head.width, head.height) > most_side)
    return too_large();
  return head;
}

Result<PictureRead> jpeg_picture(std::string_view bytes) {
  std::vector<unsigned char> row;
  Result<JpegHead> read = jpeg_head(bytes, row);
  if (!read)
    return read.error();
  JpegHead head = *read;
  unsigned shrink = 1;
  while (shrink < 8 && std::max(head.width, head.height) / static_cast<int>(2 * shrink) >= longest_kept_side)
    shrink *= 2;
  Pixels pixels;
  if (!read_jpeg(bytes, head, shrink, &pixels, row))
    return damaged();
  PictureRead out;
  const bool sideways = head.turn >= 5;
  out.width = sideways ? head.height : head.width, out.height = sideways ? head.width : head.height;
  out.px_per_mm = head.px_per_mm;
  const bool as_it_is = head.turn == 1 && head.parts != 4 && std::max(head.width, head.height) <= longest_kept_side &&
                        bytes.size() <= most_picture_bytes;
  if (as_it_is) {
    out.file = {std::string(bytes), out.width, out.height};
    return out;
  }
  const int came = out.width;
  const double said = out.px_per_mm;
  return finished(out, fitted(upright(std::move(pixels), head.turn)), came, said);
}

} // namespace

bool looks_like_picture(std::string_view bytes) {
  return is_png(bytes) || is_jpeg(bytes);
}

Result<PictureRead> read_picture(std::string_view bytes) {
  if (is_png(bytes))
    return png_picture(bytes);
  if (is_jpeg(bytes))
    return jpeg_picture(bytes);
  return not_a_picture();
}

Result<ColourPicture> read_pixels(std::string_view bytes) {
  Pixels pixels;
  if (is_png(bytes)) {
    const Result<CairoSurface> surface = png_surface(bytes);
    if (!surface)
      return surface.error();
    pixels = pixels_of(surface->get());
  } else if (is_jpeg(bytes)) {
    std::vector<unsigned char> row;
    Result<JpegHead> read = jpeg_head(bytes, row);
    if (!read)
      return read.error();
    JpegHead head = *read;
    constexpr double most_px = 64e6;
    if (double(head.width) * head.height > most_px)
      return too_large();
    if (!read_jpeg(bytes, head, 1, &pixels, row))
      return damaged();
    pixels = upright(std::move(pixels), head.turn);
  } else {
    return not_a_picture();
  }
  ColourPicture out{pixels.width, pixels.height, {}};
  out.px.reserve(pixels.px.size());
  for (const std::uint32_t p : pixels.px) { // times alpha already
    const std::uint32_t paper = 255 - (p >> 24);
    const auto part = [&](int bits) {
      return static_cast<std::uint8_t>(std::min<std::uint32_t>(255, (p >> bits & 255) + paper));
    };
    out.px.push_back({part(16), part(8), part(0)});
  }
  return out;
}

Result<PictureAdded> add_picture(Document document, std::string_view bytes, const std::string& name,
                                 std::optional<Point> centre) {
  Result<PictureRead> read = read_picture(bytes);
  if (!read)
    return read.error();
  if (document.backings.size() >= most_backings)
    return bad_input(FRELM_WORDS("core", "the job has as many backings as it can hold; remove one first"));
  if (!centre && read->px_per_mm > 0)
    document.sheet = {read->file.width / read->px_per_mm, read->file.height / read->px_per_mm};
  const Sheet sheet = document.sheet;
  PictureAdded out{{}, read->width, read->height};
  const double px_per_mm = read->px_per_mm;
  out.document =
      with_backing(std::move(document),
                   backing_of(name, std::make_shared<const PictureFile>(std::move(read->file)), px_per_mm,
                              centre.value_or(Point{sheet.width / 2, sheet.height / 2}), sheet.width, sheet.height));
  return out;
}

} // namespace frelm
