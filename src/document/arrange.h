// Moving and scaling pieces: functions Document → Document. Locked pieces stay as they are.
#pragma once

#include "document/document.h"

#include <optional>
#include <set>

namespace frelm {

// The piece by itself; what it follows stays.
void move_piece(Piece& piece, Vec by);
// The piece by itself under a similarity, with all that is its own; of what rides on a guide the place that is said by
// an angle turns along. Only outlines can be turned over.
void pose_piece(Piece& piece, const Affine& by);
// What moves when a piece is moved: itself, or what it rides on. Nothing: it is locked.
std::set<PieceId> moving_with(const Document& document, PieceId id);
// All that stands elsewhere when these are moved: they, what they ride on, and what else rides on that.
std::set<PieceId> carried_along(const Document& document, const std::vector<PieceId>& ids);
// Moves. A lettering on a guide takes its guide along (the guide once, however many of its riders are named).
Document move_pieces(Document document, const std::vector<PieceId>& ids, Vec by);
// The drawing order, which these keep among themselves: before or behind all others, by one of the others, or in front
// of a certain one (0: behind all).
enum class Stacking { Front, Forward, Backward, Back };
Document stacked(Document document, const std::vector<PieceId>& ids, Stacking where);
Document stacked_on(Document document, const std::vector<PieceId>& ids, PieceId on);
// Turns, degrees clockwise, about a point; as moving does with guides. Letters stay as they are set.
Document turn_pieces(Document document, const std::vector<PieceId>& ids, Point about, double degrees);
// Outlines left for right, or upside down, about a point; other pieces stay as they are (letterings have a finish for
// it).
enum class MirrorWay { Across, Down };
Document mirror_outlines(Document document, const std::vector<PieceId>& ids, Point about, MirrorWay way);
// Outlines leant to the right by degrees (to the left: less than 0) up to most_lean either way; the height of `about`
// stays. Letterings are not distorted.
inline constexpr double most_lean = 80;
Document lean_outlines(Document document, const std::vector<PieceId>& ids, Point about, double degrees);
// Scales a piece about a point by k > 0. Letterings: size, spacing, offset and placement; with scale_guide also the
// guide, the arc and distances along it. The measures of its finish grow where the document says so, but for those of
// linked copies, which are one thing in several sizes.
enum class GuideScaling { Kept, Along };
Document scale_piece(Document document, PieceId id, Point about, double k, GuideScaling guide);
// What a hand did to pieces, to be done again to the same or to others: moved by, turned by (degrees clockwise), scaled
// by and leant by (degrees to the right, outlines only), about a place that is a share of what their ink covers; or
// outlines turned over about its middle.
struct Change {
  Vec by;
  double turn = 0, scale = 1;
  Point about{0.5, 0.5};
  std::optional<MirrorWay> mirror = {};
  double lean = 0;
  bool operator==(const Change&) const = default;
};
Document changed(Document document, const std::vector<PieceId>& ids, const Change& change, const Box& ink);
// The place in a box that is this share of it, and the other way about.
Point at_share(const Box& box, Point share);
Point share_of(const Box& box, Point place);
// Several as one: each once, with the guides that they ride on.
Document scale_pieces(Document document, const std::vector<PieceId>& ids, Point about, double k);

} // namespace frelm
