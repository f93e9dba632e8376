#include "document/backing.h"

#include "document/document.h"
#include "geom/shared_value.h"

namespace frelm {

bool Backing::operator==(const Backing& o) const {
  return name == o.name && place == o.place && strength == o.strength && visible == o.visible &&
         same_value(picture, o.picture);
}

double backing_width(const Backing& b) {
  return b.picture->width * std::hypot(b.place.a, b.place.b);
}
double backing_height(const Backing& b) {
  return b.picture->height * std::hypot(b.place.c, b.place.d);
}
double backing_turn(const Backing& b) {
  return degrees(std::atan2(b.place.b, b.place.a));
}
Point backing_centre(const Backing& b) {
  return b.place({b.picture->width / 2.0, b.picture->height / 2.0});
}

std::vector<Point> backing_corners(const Backing& b) {
  const double w = b.picture->width, h = b.picture->height;
  return {b.place({0, 0}), b.place({w, 0}), b.place({w, h}), b.place({0, h})};
}

Box bounds_of(const Backing& b) {
  Box box;
  for (const Point corner : backing_corners(b))
    box.add(corner);
  return box;
}

bool covers(const Backing& b, Point at) {
  const Vec from = at - b.place({0, 0});
  const double det = b.place.determinant();
  const double x = (b.place.d * from.x - b.place.c * from.y) / det, y = (b.place.a * from.y - b.place.b * from.x) / det;
  return x >= 0 && y >= 0 && x <= b.picture->width && y <= b.picture->height;
}

std::size_t backing_at(const Document& document, Point at) {
  for (std::size_t i = document.backings.size(); i-- > 0;)
    if (document.backings[i].visible && covers(document.backings[i], at))
      return i;
  return document.backings.size();
}

Backing backing_of(std::string name, std::shared_ptr<const PictureFile> picture, double px_per_mm, Point centre,
                   double sheet_width, double sheet_height) {
  constexpr double share = 0.8; // of the sheet
  double mm =
      px_per_mm > 0 ? 1 / px_per_mm : share * std::min(sheet_width / picture->width, sheet_height / picture->height);
  constexpr double least = 1e-4, most = 1e3; // mm a px
  mm = std::clamp(mm, least, most);
  Backing out;
  out.name = std::move(name);
  out.place = {mm, 0, 0, mm, centre.x - mm * picture->width / 2, centre.y - mm * picture->height / 2};
  out.picture = std::move(picture);
  return out;
}

Backing moved(Backing b, Vec by) {
  b.place = Affine::translation(by) * b.place;
  return b;
}
Backing scaled(Backing b, Point about, double k) {
  b.place = Affine::scaling_about(about, k, k) * b.place;
  return b;
}
Backing turned(Backing b, Point about, double by) {
  b.place = Affine::translation(about - Point{}) * Affine::rotation(radians(by)) *
            Affine::translation(Point{} - about) * b.place;
  return b;
}

Document with_backing(Document document, Backing backing) {
  if (document.backings.size() < most_backings)
    document.backings.push_back(std::move(backing));
  return document;
}
Document without_backing(Document document, std::size_t at) {
  if (at < document.backings.size())
    document.backings.erase(document.backings.begin() + static_cast<std::ptrdiff_t>(at));
  return document;
}
Document with_backing_changed(Document document, std::size_t at, Backing backing) {
  if (at < document.backings.size())
    document.backings[at] = std::move(backing);
  return document;
}

} // namespace frelm
