#include "formats/picture_trace.h"

#include "document/edits.h"
#include "document/piece_groups.h"
#include "geom/picture_levels.h"

#include <cmath>

namespace frelm {
namespace {

struct Part {
  int x = 0, y = 0, width = 0, height = 0; // px
};
Part part_of(const ColourPicture& p, const std::optional<Box>& box) {
  if (!box)
    return {0, 0, p.width, p.height};
  const auto within = [](double v, int most) {
    return static_cast<int>(std::lround(std::clamp(v, 0.0, double(most))));
  };
  const int x0 = within(box->x0, p.width), y0 = within(box->y0, p.height);
  return {x0, y0, within(box->x1, p.width) - x0, within(box->y1, p.height) - y0};
}
ColourPicture cut_out(const ColourPicture& p, const Part& part) {
  if (part.width == p.width && part.height == p.height)
    return p;
  ColourPicture out{part.width, part.height, {}};
  out.px.reserve(static_cast<std::size_t>(part.width) * static_cast<std::size_t>(part.height));
  for (int y = 0; y < part.height; ++y) {
    const auto row = p.px.begin() + std::ptrdiff_t{part.y + y} * p.width + part.x;
    out.px.insert(out.px.end(), row, row + part.width);
  }
  return out;
}

} // namespace

Outline TracedPicture::all() const {
  Outline out;
  for (const TracedLevel& l : levels)
    out.append(*l.outline);
  return out;
}

Result<TracedPicture> trace_picture(const ColourPicture& picture, const Affine& place, const TraceWish& wish,
                                    std::stop_token stop) {
  const Part part = part_of(picture, wish.part);
  if (part.width < 1 || part.height < 1)
    return bad_input(
        FRELM_WORDS("core", "the part of the picture that is to be traced holds none of it; draw it anew"));
  const double mm_per_px = std::hypot(place.a, place.b);
  TracedPicture out;
  out.px_per_mm = 1 / mm_per_px;
  TraceOptions options; // in px
  options.width = part.width;
  options.speckle = pi / 4 * wish.specks * wish.specks / (mm_per_px * mm_per_px);
  options.sharper_than = wish.sharper_than;
  if (wish.straight)
    options.straight = *wish.straight / mm_per_px;
  if (wish.tolerance)
    options.tolerance = *wish.tolerance / mm_per_px;
  options.stop = stop;
  const Affine to_sheet = place * Affine::translation({double(part.x), double(part.y)});
  const auto add = [&](const GreyPicture& grey, std::optional<Colour> colour) -> Result<bool> {
    Result<Traced> traced = trace(grey, options);
    if (!traced)
      return traced.error();
    out.worst = std::max(out.worst, traced->worst * mm_per_px);
    out.tolerance = traced->tolerance * mm_per_px, out.straight = traced->straight * mm_per_px;
    out.points += traced->points, out.put_back += traced->put_back;
    if (traced->outline.contours.empty())
      return true;
    out.nodes += traced->outline.node_count(), out.contours += traced->outline.contours.size();
    out.levels.push_back({colour, std::make_shared<const Outline>(traced->outline.transformed(to_sheet))});
    return true;
  };
  const ColourPicture seen = cut_out(picture, part);
  if (wish.ink != TraceInk::Colours) {
    const GreyPicture grey = grey_of(seen);
    out.threshold = wish.threshold ? *wish.threshold : ink_threshold(grey);
    options.threshold = out.threshold;
    options.light_ink = wish.ink == TraceInk::Light;
    const Result<bool> done = add(grey, {});
    return done ? Result<TracedPicture>(std::move(out)) : done.error();
  }
  options.threshold = 0.5; // half covered
  for (const PictureLevel& level : picture_levels(seen, wish.colours, stop)) {
    if (level.at_edge && !wish.paper)
      continue;
    if (const Result<bool> done = add(level.cover, Colour{level.colour.r, level.colour.g, level.colour.b}); !done)
      return done.error();
  }
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  return out;
}

double usual_measure(const Affine& place) {
  return usual_trace_px * std::hypot(place.a, place.b);
}

Box picture_part(const Backing& backing, const Box& on_sheet) {
  const Affine to_px = backing.place.inverse();
  Box out;
  for (const Point p : {Point{on_sheet.x0, on_sheet.y0},
                        {on_sheet.x1, on_sheet.y0},
                        {on_sheet.x1, on_sheet.y1},
                        {on_sheet.x0, on_sheet.y1}})
    out.add(to_px(p));
  return out;
}

std::vector<Point> corners_on_sheet(const Backing& backing, const Box& part) {
  return {backing.place({part.x0, part.y0}), backing.place({part.x1, part.y0}), backing.place({part.x1, part.y1}),
          backing.place({part.x0, part.y1})};
}

TracedIn with_traced(Document document, std::size_t backing, const TracedPicture& traced, bool keep) {
  TracedIn out;
  const std::string name = backing < document.backings.size() ? document.backings[backing].name : std::string();
  for (const TracedLevel& level : traced.levels) {
    Piece piece;
    piece.name = name;
    if (level.colour)
      piece.colour = *level.colour;
    piece.content = OutlinePiece{level.outline, Finish{{}}, nullptr, {}};
    Added added = add_piece(std::move(document), std::move(piece));
    document = std::move(added.document);
    out.pieces.push_back(added.id);
  }
  if (out.pieces.size() > 1)
    if (Result<Grouped> together = grouped(document, out.pieces); together)
      document = with_group_name(std::move(together->document), together->group, name);
  if (!keep)
    document = without_backing(std::move(document), backing);
  out.document = std::move(document);
  return out;
}

} // namespace frelm
