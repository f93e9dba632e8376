#include "document/clean_up.h"

#include "document/edits.h"
#include "geom/clean_lines.h"

#include <algorithm>
#include <map>

namespace frelm {
namespace {

const OutlinePiece* lines_in(const Document& document, PieceId id) {
  const Piece* p = document.find(id);
  const OutlinePiece* o = p == nullptr || p->locked || !p->visible ? nullptr : p->outline();
  return o == nullptr || o->origin != nullptr ? nullptr : o;
}

std::map<Colour, std::vector<PieceId>> by_colour(const Document& document, const std::vector<PieceId>& ids) {
  std::map<Colour, std::vector<PieceId>> out;
  for (const PieceId id : ids)
    if (lines_in(document, id) != nullptr)
      out[document.find(id)->colour].push_back(id);
  return out;
}

bool has_open(const Outline& outline) {
  return std::any_of(outline.contours.begin(), outline.contours.end(), [](const Contour& c) { return !c.closed; });
}

std::vector<Contour> contours_of(const Document& document, const std::vector<PieceId>& ids) {
  std::vector<Contour> out;
  for (const PieceId id : ids)
    for (const Contour& c : lines_in(document, id)->outline->contours)
      out.push_back(c);
  return out;
}

bool is_frame(const Outline& outline) {
  constexpr std::size_t sides = 4;
  if (outline.contours.size() != 1 || !outline.contours[0].closed || outline.contours[0].segments.size() != sides)
    return false;
  return std::all_of(outline.contours[0].segments.begin(), outline.contours[0].segments.end(), [](const Segment& s) {
    return s.is_line() && (std::abs(s.p0.x - s.p3.x) <= doubled || std::abs(s.p0.y - s.p3.y) <= doubled);
  });
}

struct Mark { // perhaps
  Box box;
  std::vector<PieceId> pieces;
};

// Small pieces, those that touch as one.
std::vector<Mark> small_groups(const std::vector<std::pair<PieceId, Box>>& boxes) {
  constexpr std::size_t most = 64; // more are a pattern
  std::vector<Mark> out;
  for (const auto& [id, box] : boxes) {
    if (box.width() > largest_mark || box.height() > largest_mark)
      continue;
    Mark mark{box, {id}};
    for (std::size_t i = 0; i < out.size();)
      if (out[i].box.grown(ends_meet).overlaps(mark.box)) {
        mark.box.add(out[i].box);
        mark.pieces.insert(mark.pieces.end(), out[i].pieces.begin(), out[i].pieces.end());
        out.erase(out.begin() + static_cast<std::ptrdiff_t>(i));
        i = 0;
      } else {
        ++i;
      }
    out.push_back(std::move(mark));
    if (out.size() > most)
      return {};
  }
  return out;
}

std::size_t corners_held(const Box& all, const std::vector<Mark>& marks) {
  std::size_t held = 0;
  for (const Point corner :
       {Point{all.x0, all.y0}, Point{all.x1, all.y0}, Point{all.x1, all.y1}, Point{all.x0, all.y1}})
    held +=
        std::any_of(marks.begin(), marks.end(), [&](const Mark& m) { return m.box.grown(doubled).contains(corner); });
  return held;
}

std::vector<PieceId> marks_among(const std::vector<std::pair<PieceId, Box>>& boxes) {
  constexpr double alike = 0.05; // mm
  const std::vector<Mark> small = small_groups(boxes);
  for (const Mark& first : small) {
    std::vector<Mark> same;
    std::copy_if(small.begin(), small.end(), std::back_inserter(same), [&](const Mark& m) {
      return std::abs(m.box.width() - first.box.width()) < alike &&
             std::abs(m.box.height() - first.box.height()) < alike && m.pieces.size() == first.pieces.size();
    });
    constexpr std::size_t fewest = 3, most = 6;
    if (same.size() < fewest || same.size() > most)
      continue;
    Box all, others;
    std::vector<PieceId> ids;
    for (const Mark& m : same) {
      all.add(m.box);
      ids.insert(ids.end(), m.pieces.begin(), m.pieces.end());
    }
    for (const auto& [id, box] : boxes)
      if (std::find(ids.begin(), ids.end(), id) == ids.end())
        others.add(box);
    if (!others.empty() && all.grown(doubled).contains(others) && corners_held(all, same) >= fewest) {
      std::sort(ids.begin(), ids.end());
      return ids;
    }
  }
  return {};
}

void put(Document& document, PieceId id, Outline outline) {
  document = edit_piece(std::move(document), id,
                        [&](Piece& p) { p.outline()->outline = std::make_shared<const Outline>(std::move(outline)); });
}

} // namespace

LineFaults line_faults(const Document& document, const std::vector<PieceId>& ids) {
  LineFaults out;
  std::vector<std::pair<PieceId, Box>> boxes;
  for (const auto& [colour, pieces] : by_colour(document, ids)) {
    LinesCleaned once = without_doubles(contours_of(document, pieces), doubled);
    out.doubles += once.doubles;
    out.meeting += joined(std::move(once.contours), ends_meet).joined;
    for (const PieceId id : pieces)
      boxes.emplace_back(id, lines_in(document, id)->outline->bounds());
  }
  Box all;
  for (const auto& [id, box] : boxes)
    all.add(box);
  for (const auto& [id, box] : boxes)
    if (boxes.size() > 1 && box.grown(doubled).contains(all) && is_frame(*lines_in(document, id)->outline))
      out.frames.push_back(id);
  if (out.frames.size() == boxes.size())
    out.frames.clear(); // there is nothing that they frame
  std::erase_if(boxes, [&](const auto& b) {
    return std::find(out.frames.begin(), out.frames.end(), b.first) != out.frames.end();
  });
  out.marks = marks_among(boxes);
  return out;
}

Document ends_joined(Document document, const std::vector<PieceId>& ids) {
  for (const auto& [colour, pieces] : by_colour(document, ids)) {
    std::vector<PieceId> open; // pieces without open lines stay
    std::copy_if(pieces.begin(), pieces.end(), std::back_inserter(open),
                 [&](PieceId id) { return has_open(*lines_in(document, id)->outline); });
    LinesCleaned chains = joined(contours_of(document, open), ends_meet);
    if (chains.joined == 0)
      continue;
    // A piece for each of them; where one piece had held several lines there may be more: the last takes the rest.
    std::vector<Outline> shapes = nested(std::move(chains.contours));
    while (shapes.size() > open.size()) {
      shapes[shapes.size() - 2].append(shapes.back());
      shapes.pop_back();
    }
    for (std::size_t i = 0; i < shapes.size(); ++i)
      put(document, open[i], std::move(shapes[i]));
    const std::size_t used = shapes.size();
    document =
        remove_pieces(std::move(document), {open.begin() + static_cast<std::ptrdiff_t>(used), open.end()}).document;
  }
  return document;
}

Document doubles_dropped(Document document, const std::vector<PieceId>& ids) {
  for (const auto& [colour, pieces] : by_colour(document, ids)) {
    std::vector<PieceId> owner; // of each contour
    for (const PieceId id : pieces)
      owner.insert(owner.end(), lines_in(document, id)->outline->contours.size(), id);
    LinesCleaned cleaned = without_doubles(contours_of(document, pieces), doubled);
    if (cleaned.doubles == 0)
      continue;
    std::map<PieceId, Outline> left;
    for (std::size_t i = 0; i < cleaned.contours.size(); ++i)
      left[owner[cleaned.from[i]]].contours.push_back(std::move(cleaned.contours[i]));
    std::vector<PieceId> gone;
    for (const PieceId id : pieces)
      if (const auto now = left.find(id); now == left.end())
        gone.push_back(id);
      else if (now->second != *lines_in(document, id)->outline)
        put(document, id, std::move(now->second));
    document = remove_pieces(std::move(document), gone).document;
  }
  return document;
}

} // namespace frelm
