// Drawings of others against librsvg: what they cover (intersection over union at 400 px), how long they take, what was
// left out of them. Strokes are taken as the areas that they paint, whatever their width.
//   bench/fetch-drawings FOLDER
//   real_drawings FOLDER [ONE-IN-SO-MANY [pdf]] > table.tsv   pdf: each made a page first, by librsvg and cairo
//   real_drawings --show FILE OUT.png [PX]
// A row a file: overlap, seconds, what was left out or why it was refused, file. Totals and causes on stderr.
#include "formats/import.h"
#include "support/silhouette.h"

#include <algorithm>
#include <cairo/cairo.h>
#include <chrono>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <map>
#include <mutex>
#include <sstream>
#include <thread>
#include <unistd.h>

using namespace frelm;
namespace fs = std::filesystem;

namespace {

struct Row {
  std::string file, told;
  double overlap = 0, seconds = 0;
  bool read = false, painted = false, excused = false; // excused: holds pictures, text, patterns or effects
};

std::string bytes_of(const std::string& path) {
  std::ifstream in(path, std::ios::binary);
  std::stringstream bytes;
  bytes << in.rdbuf();
  return bytes.str();
}

// Empty: it can't be made one.
std::string as_page(const std::string& path) {
  std::string name = (fs::temp_directory_path() / "frelm-page-XXXXXX").string();
  const int file = mkstemp(name.data());
  if (file < 0)
    return {};
  close(file);
  const std::string command = "rsvg-convert -f pdf -o '" + name + "' '" + path + "' 2>/dev/null";
  const std::string bytes = std::system(command.c_str()) == 0 ? bytes_of(name) : std::string();
  fs::remove(name);
  return bytes;
}

Row row_of(const std::string& path, bool page) {
  Row row;
  row.file = path;
  const std::string text = page ? as_page(path) : bytes_of(path);
  if (text.empty())
    return row;
  const auto start = std::chrono::steady_clock::now();
  DrawingReadOptions options;
  options.widest_line = 0;
  const Result<Drawing> drawing = read_drawing(text, options);
  row.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  constexpr int size = 400;
  row.read = drawing.ok();
  // A page is as large as the drawing, rounded to a whole point.
  const Result<Drawing> whole = page ? read_drawing(bytes_of(path), options) : drawing;
  const double zoom = whole.ok() ? zoom_for(*whole, size) : 0;
  const auto truth = seen_by_librsvg(path, zoom);
  row.painted = truth.has_value();
  if (!drawing.ok()) {
    row.told = "refused: " + drawing.error().text();
    return row;
  }
  row.told = in_one_line(drawing->left_out);
  row.excused = std::any_of(drawing->left_out.begin(), drawing->left_out.end(), [](const LeftOut& l) {
    return l.what == Lost::Text || l.what == Lost::Picture || l.what == Lost::Pattern || l.what == Lost::Effect ||
           l.what == Lost::OtherContent;
  });
  if (truth)
    row.overlap = overlap(*truth, seen_in(*drawing, truth->width, truth->height, zoom));
  return row;
}

// Only librsvg's red, only ours blue, both grey.
int show(const std::string& from, const std::string& to, int size) {
  DrawingReadOptions options;
  options.widest_line = 0;
  const Result<Drawing> drawing = read_drawing(bytes_of(from), options);
  if (!drawing.ok())
    return 1;
  const double zoom = zoom_for(*drawing, size);
  const auto truth = seen_by_librsvg(from, zoom);
  if (!truth)
    return 1;
  const Silhouette ours = seen_in(*drawing, truth->width, truth->height, zoom);
  cairo_surface_t* picture = cairo_image_surface_create(CAIRO_FORMAT_RGB24, truth->width, truth->height);
  const int stride = cairo_image_surface_get_stride(picture);
  for (int y = 0; y < truth->height; ++y)
    for (int x = 0; x < truth->width; ++x) {
      const auto i = static_cast<std::size_t>(y) * static_cast<std::size_t>(truth->width) + static_cast<std::size_t>(x);
      const std::uint32_t colour =
          truth->covered[i] ? (ours.covered[i] ? 0x909090 : 0xff2020) : (ours.covered[i] ? 0x2020ff : 0xffffff);
      std::memcpy(cairo_image_surface_get_data(picture) + std::ptrdiff_t{y} * stride + std::ptrdiff_t{x} * 4, &colour,
                  4);
    }
  cairo_surface_mark_dirty(picture);
  cairo_surface_write_to_png(picture, to.c_str());
  cairo_surface_destroy(picture);
  std::cerr << overlap(*truth, ours) << ' ' << in_one_line(drawing->left_out) << '\n';
  return 0;
}

} // namespace

int main(int argc, char** argv) {
  if (argc < 2)
    return 2;
  if (argc >= 4 && std::string(argv[1]) == "--show")
    return show(argv[2], argv[3], argc > 4 ? std::stoi(argv[4]) : 400);
  const std::size_t each = argc > 2 ? std::stoul(argv[2]) : 1; // one file in so many
  const bool page = argc > 3 && std::string(argv[3]) == "pdf";
  std::vector<std::string> files;
  for (const fs::directory_entry& e : fs::recursive_directory_iterator(argv[1]))
    if (e.is_regular_file() && !e.is_symlink() && (e.path().extension() == ".svg" || e.path().extension() == ".svgz"))
      files.push_back(e.path());
  std::sort(files.begin(), files.end());
  std::vector<Row> rows;
  std::mutex guard;
  std::size_t next = 0;
  const auto work = [&] {
    for (;;) {
      std::size_t mine = 0;
      {
        const std::lock_guard lock(guard);
        mine = next, next += each;
      }
      if (mine >= files.size())
        return;
      Row row = row_of(files[mine], page);
      const std::lock_guard lock(guard);
      rows.push_back(std::move(row));
    }
  };
  std::vector<std::thread> hands;
  for (unsigned i = 0; i < std::max(1u, std::thread::hardware_concurrency()); ++i)
    hands.emplace_back(work);
  for (std::thread& t : hands)
    t.join();
  std::sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) { return a.overlap < b.overlap; });
  std::size_t read = 0, painted = 0, plain = 0, plain_good = 0, told = 0, slow = 0, refused = 0;
  constexpr double good = 0.98, longest = 5;
  double worst = 0;
  for (const Row& r : rows) {
    std::cout << r.overlap << '\t' << r.seconds << '\t' << r.told << '\t' << r.file << '\n';
    read += r.read, painted += r.painted, refused += r.painted && !r.read, slow += r.seconds > longest;
    worst = std::max(worst, r.seconds);
    if (!r.painted || !r.read || r.excused)
      continue;
    ++plain, plain_good += r.overlap >= good, told += r.overlap < good && !r.told.empty();
  }
  std::cerr << rows.size() << " files; painted by librsvg " << painted << ", of these refused here " << refused
            << "\nwithout pictures, text, patterns, effects: " << plain << ", overlap >= " << good << ": " << plain_good
            << " (" << 100.0 * double(plain_good) / double(std::max<std::size_t>(plain, 1))
            << " %), of the others told: " << told << "\nlongest " << worst << " s, over " << longest << " s: " << slow
            << "\n";
}
