// Backings: pictures on the sheet to draw over, under all pieces and never cut. They stand in the job with the bytes
// of their files.
#pragma once

#include "geom/point.h"

#include <memory>
#include <string>
#include <vector>

namespace frelm {

struct Document;

struct PictureFile {
  std::string bytes;         // a PNG or a JPEG
  int width = 0, height = 0; // px, as it stands upright
  bool operator==(const PictureFile&) const = default;
};

struct Backing {
  std::string name;
  std::shared_ptr<const PictureFile> picture;
  Affine place;          // px from its upper left corner, y down → mm on the sheet; without shear
  double strength = 0.5; // how firmly it is shown, 0 to 1
  bool visible = true;
  bool operator==(const Backing& other) const; // by value
};
inline constexpr std::size_t most_backings = 16, most_picture_bytes = std::size_t{24} << 20;
inline constexpr int most_picture_side = 32'000; // px

double backing_width(const Backing& backing); // mm along its upper side
double backing_height(const Backing& backing);
double backing_turn(const Backing& backing); // degrees clockwise
Point backing_centre(const Backing& backing);
std::vector<Point> backing_corners(const Backing& backing); // clockwise from its upper left one
Box bounds_of(const Backing& backing);
bool covers(const Backing& backing, Point at);
// The one in front at a place, of those that show; the number of backings: none.
std::size_t backing_at(const Document& document, Point at);

// `px_per_mm` 0: as large as fits into the sheet's 80 %. About a point.
Backing backing_of(std::string name, std::shared_ptr<const PictureFile> picture, double px_per_mm, Point centre,
                   double sheet_width, double sheet_height);
Backing moved(Backing backing, Vec by);
Backing scaled(Backing backing, Point about, double k); // k > 0
Backing turned(Backing backing, Point about, double degrees);

// In front of the others, under all pieces; as many as there may be.
Document with_backing(Document document, Backing backing);
Document without_backing(Document document, std::size_t at);
Document with_backing_changed(Document document, std::size_t at, Backing backing);

} // namespace frelm
