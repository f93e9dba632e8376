#include "formats/dxf_read.h"

#include "document/clean_up.h"
#include "document/measure.h"
#include "formats/line_drawing.h"
#include "formats/nurbs.h"
#include "formats/svg_in/values.h"
#include "geom/arc_cubics.h"
#include "geom/curve.h"

#include <charconv>
#include <dxflib/dl_codes.h>
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <map>
#include <sstream>

namespace frelm {
namespace {

constexpr std::string_view binary_mark = "AutoCAD Binary DXF";

struct DxfLook {
  int colour = 256; // by layer; 0 by block
  int true_colour = -1;
  std::string layer;
};
struct DxfLine {
  Contour contour; // the file's units, y up
  DxfLook look;
};
struct DxfCopy {
  std::string block;
  Affine placed; // without the block's base
  int columns = 1, rows = 1;
  Vec column, row;
  DxfLook look;
};
struct DxfBlock {
  Point base;
  std::vector<DxfLine> lines;
  std::vector<DxfCopy> copies;
};
struct DxfLayer {
  int colour = 7, true_colour = -1;
  bool shown = true;
};
struct DxfStop {};
struct DxfTooMuch {};

// Takes what dxflib reads. What comes in parts (polylines, splines, hatches) is pending until something else begins.
class Taker : public DL_CreationAdapter {
public:
  explicit Taker(const std::stop_token& stop) : stop_(stop) {}

  DxfBlock model;
  std::map<std::string, DxfBlock> blocks;
  std::map<std::string, DxfLayer> layers;
  LeftOutList left_out;
  int units = 0, metric = -1;

  void finish() { end_pending(); }

private:
  static constexpr std::size_t most = 200'000, most_parts = 5'000'000;

  void processCodeValuePair(unsigned int, const std::string&) override {
    if (stop_.stop_requested())
      throw DxfStop{};
  }
  void setVariableInt(const std::string& key, int value, int) override {
    if (key == "$INSUNITS")
      units = value;
    if (key == "$MEASUREMENT")
      metric = value;
  }
  void addLayer(const DL_LayerData& data) override {
    constexpr int frozen = 1;
    layers[data.name] = {std::abs(attributes.getColor()), attributes.getColor24(),
                         !data.off && (data.flags & frozen) == 0 && attributes.getColor() >= 0};
  }
  void addBlock(const DL_BlockData& data) override {
    end_pending();
    const std::string name = lower_case(data.name);
    into_ = name == "*model_space" || name == "$model_space" ? &model : &blocks[name];
    into_->base = {data.bpx, data.bpy};
    if (into_ == &model)
      model.base = {};
  }
  void endBlock() override {
    end_pending();
    into_ = &model;
  }
  void endEntity() override {
    if (!polyline_) // whose vertices may be entities of their own
      end_pending();
  }
  void endSequence() override { end_pending(); }

  bool begins() { // an entity; false: not for us
    end_pending();
    if (++entities_ > most)
      throw DxfTooMuch{};
    return !attributes.isInPaperSpace();
  }
  DxfLook look() { return {attributes.getColor(), attributes.getColor24(), attributes.getLayer()}; }
  bool from_behind() {
    double n[3]{0, 0, 1};
    if (DL_Extrusion* e = getExtrusion())
      e->getDirection(n);
    return n[2] < 0;
  }
  // What lies in a plane seen from behind is turned over (the arbitrary axis of (0, 0, -1)).
  Affine plane() { return from_behind() ? Affine::scaling(-1, 1) : Affine{}; }
  void take(Contour c, const DxfLook& look) {
    if (!c.segments.empty() && std::all_of(c.segments.begin(), c.segments.end(), all_finite))
      into_->lines.push_back({std::move(c), look});
  }
  void take(const std::vector<CurvePiece>& pieces, bool closed, const Affine& m, const DxfLook& look) {
    constexpr double tolerance = default_arc_tolerance / 10; // in file units, which may be inches
    Contour c = Curve(pieces, closed).contour(tolerance);
    for (Segment& s : c.segments)
      s = s.transformed(m);
    take(std::move(c), look);
  }

  void addLine(const DL_LineData& d) override {
    if (begins())
      take(Contour{{Segment::line({d.x1, d.y1}, {d.x2, d.y2})}, false}, look());
  }
  static double sweep(double from, double to) { // counter-clockwise, radians; all the way round for the same angles
    constexpr double nearly = 1e-9;
    const double by = std::fmod(to - from, 2 * pi);
    return by > nearly ? by : by + 2 * pi;
  }
  // Half axes along a vector and across it, from one parameter to another; nothing where one of them has no length.
  static std::optional<ArcPiece> ellipse(Point centre, Vec major, double ratio, double from, double to) {
    const double rx = length(major), ry = rx * std::abs(ratio);
    if (!(rx > 0) || !(ry > 0))
      return std::nullopt;
    return ArcPiece{centre, rx, ry, std::atan2(major.y, major.x), from, sweep(from, to)};
  }
  void addArc(const DL_ArcData& d) override {
    if (begins() && d.radius > 0)
      take({ArcPiece{
               {d.cx, d.cy}, d.radius, d.radius, 0, radians(d.angle1), sweep(radians(d.angle1), radians(d.angle2))}},
           false, plane(), look());
  }
  void addCircle(const DL_CircleData& d) override {
    if (begins() && d.radius > 0)
      take({ArcPiece{{d.cx, d.cy}, d.radius, d.radius, 0, 0, 2 * pi}}, true, plane(), look());
  }
  void addEllipse(const DL_EllipseData& d) override {
    if (!begins())
      return;
    std::optional<ArcPiece> arc = ellipse({d.cx, d.cy}, {d.mx, d.my}, d.ratio, d.angle1, d.angle2);
    if (!arc)
      return;
    if (from_behind()) // the centre and axis are the world's, the way round is the plane's
      arc->from = -arc->from, arc->sweep = -arc->sweep;
    constexpr double nearly = 1e-9;
    take({*arc}, std::abs(arc->sweep) > 2 * pi - nearly, {}, look());
  }

  void addPolyline(const DL_PolylineData& d) override {
    constexpr int closed = 1, meshes = 16 | 64;
    if (!begins())
      return;
    if ((d.flags & meshes) != 0) {
      left_out.add(Lost::OtherContent);
      return;
    }
    polyline_ = true, closed_ = (d.flags & closed) != 0, plane_ = plane(), pending_ = look();
  }
  void addVertex(const DL_VertexData& d) override {
    if (!polyline_)
      return;
    counted();
    vertices_.push_back({{d.x, d.y}, d.bulge});
  }
  struct Vertex {
    Point at;
    double bulge = 0;
  };
  // The tangent of a quarter of the arc's angle, counter-clockwise positive.
  static CurvePiece side(const Vertex& a, Point to) {
    const Vec chord = to - a.at;
    constexpr double straight = 1e-12;
    if (std::abs(a.bulge) < straight || !(length(chord) > 0))
      return Segment::line(a.at, to);
    const double angle = 4 * std::atan(a.bulge), radius = length(chord) / 2 / std::sin(angle / 2);
    const Point centre = lerp(a.at, to, 0.5) + Vec{-chord.y, chord.x} / length(chord) * (radius * std::cos(angle / 2));
    const Vec first = a.at - centre;
    return ArcPiece{centre, std::abs(radius), std::abs(radius), 0, std::atan2(first.y, first.x), angle};
  }
  static std::vector<CurvePiece> sides(const std::vector<Vertex>& v, bool closed) {
    std::vector<CurvePiece> out;
    for (std::size_t i = 0; i + (closed ? 0 : 1) < v.size(); ++i)
      if (const Point to = v[(i + 1) % v.size()].at; distance(v[i].at, to) > 0)
        out.push_back(side(v[i], to));
    return out;
  }

  void addSpline(const DL_SplineData& d) override {
    constexpr int closed = 1, periodic = 2;
    if (!begins())
      return;
    spline_given_ = true, spline_ = {}, through_.clear();
    spline_.degree = static_cast<int>(std::min(d.degree, 100U));
    closed_ = (d.flags & (closed | periodic)) != 0;
    start_ = {d.tangentStartX, d.tangentStartY}, end_ = {d.tangentEndX, d.tangentEndY};
    pending_ = look();
  }
  void counted() {
    if (++parts_ > most_parts)
      throw DxfTooMuch{};
  }
  void addControlPoint(const DL_ControlPointData& d) override {
    counted();
    spline_.points.push_back({d.x, d.y});
    spline_.weights.push_back(d.w > 0 ? d.w : 1);
  }
  void addFitPoint(const DL_FitPointData& d) override {
    counted();
    through_.push_back({d.x, d.y});
  }
  void addKnot(const DL_KnotData& d) override {
    counted();
    spline_.knots.push_back(d.k);
  }
  static Contour contour_of(const BSpline& spline, const std::vector<Point>& through, Vec start, Vec end, bool closed) {
    constexpr double tolerance = 0.0005;
    Contour c{spline.points.empty() ? through_points(through, start, end, closed) : spline_cubics(spline, tolerance),
              false};
    std::erase_if(c.segments, [](const Segment& s) { return s.p0 == s.p1 && s.p1 == s.p2 && s.p2 == s.p3; });
    if (!c.segments.empty() && closed && distance(c.segments.front().p0, c.segments.back().p3) < ends_meet) {
      c.segments.back().p3 = c.segments.front().p0;
      c.closed = true;
    }
    return c;
  }

  void addSolid(const DL_SolidData& d) override {
    quadrangle(d.x[0], d.y[0], d.x[1], d.y[1], d.x[3], d.y[3], d.x[2], d.y[2]);
  }
  void addTrace(const DL_TraceData& d) override {
    quadrangle(d.x[0], d.y[0], d.x[1], d.y[1], d.x[3], d.y[3], d.x[2], d.y[2]);
  }
  void add3dFace(const DL_3dFaceData& d) override {
    quadrangle(d.x[0], d.y[0], d.x[1], d.y[1], d.x[2], d.y[2], d.x[3], d.y[3]);
  }
  void quadrangle(double x0, double y0, double x1, double y1, double x2, double y2, double x3, double y3) {
    if (begins())
      take(sides({{{x0, y0}, 0}, {{x1, y1}, 0}, {{x2, y2}, 0}, {{x3, y3}, 0}}, true), true, plane(), look());
  }

  void addHatch(const DL_HatchData&) override {
    if (!begins())
      return;
    hatch_ = true, loop_.clear(), pending_ = look(), plane_ = plane();
  }
  void addHatchLoop(const DL_HatchLoopData&) override { end_loop(); }
  void addHatchEdge(const DL_HatchEdgeData& d) override {
    if (!hatch_)
      return;
    counted();
    switch (d.type) {
    case 0: {
      std::vector<Vertex> v;
      for (const std::vector<double>& one : d.vertices)
        if (one.size() >= 2)
          v.push_back({{one[0], one[1]}, one.size() > 2 ? one[2] : 0});
      loop_ = sides(v, true);
      break;
    }
    case 1:
      if (d.x1 != d.x2 || d.y1 != d.y2)
        loop_.push_back(Segment::line({d.x1, d.y1}, {d.x2, d.y2}));
      break;
    case 2:
    case 3: {
      // Clockwise edges count their angles the other way; here in radians.
      const Vec major = d.type == 2 ? Vec{d.radius, 0} : Vec{d.mx, d.my};
      auto arc = ellipse({d.cx, d.cy}, major, d.type == 2 ? 1 : d.ratio, d.angle1, d.angle2);
      if (arc && !d.ccw)
        arc->from = -arc->from, arc->sweep = -arc->sweep;
      if (arc)
        loop_.emplace_back(*arc);
      break;
    }
    case 4: {
      BSpline s;
      s.degree = static_cast<int>(std::min(d.degree, 100U)), s.knots = d.knots,
      s.weights = d.rational ? d.weights : std::vector<double>{};
      for (const std::vector<double>& p : d.controlPoints)
        if (p.size() >= 2)
          s.points.push_back({p[0], p[1]});
      for (const Segment& seg : spline_cubics(s, 0.0005))
        loop_.push_back(seg);
      break;
    }
    default:
      break;
    }
  }
  void end_loop() {
    if (hatch_ && !loop_.empty())
      take(loop_, true, plane_, pending_);
    loop_.clear();
  }

  void addText(const DL_TextData& d) override { told(Lost::Text, {d.ipx, d.ipy}, d.height); }
  void addMText(const DL_MTextData& d) override { told(Lost::Text, {d.ipx, d.ipy}, d.height); }
  void addArcAlignedText(const DL_ArcAlignedTextData& d) override { told(Lost::Text, {d.cx, d.cy}, d.height); }
  void addImage(const DL_ImageData& d) override { told(Lost::Picture, {d.ipx, d.ipy}, 1); }
  void addXLine(const DL_XLineData&) override { told(Lost::Endless); }
  void addRay(const DL_RayData&) override { told(Lost::Endless); }
  void addDimAlign(const DL_DimensionData&, const DL_DimAlignedData&) override { told(Lost::Dimension); }
  void addDimLinear(const DL_DimensionData&, const DL_DimLinearData&) override { told(Lost::Dimension); }
  void addDimRadial(const DL_DimensionData&, const DL_DimRadialData&) override { told(Lost::Dimension); }
  void addDimDiametric(const DL_DimensionData&, const DL_DimDiametricData&) override { told(Lost::Dimension); }
  void addDimAngular(const DL_DimensionData&, const DL_DimAngular2LData&) override { told(Lost::Dimension); }
  void addDimAngular3P(const DL_DimensionData&, const DL_DimAngular3PData&) override { told(Lost::Dimension); }
  void addDimOrdinate(const DL_DimensionData&, const DL_DimOrdinateData&) override { told(Lost::Dimension); }
  void addLeader(const DL_LeaderData&) override { told(Lost::Dimension); }
  void told(Lost what) {
    if (begins())
      left_out.add(what);
  }
  void told(Lost what, Point at, double height) { // places: the file's units, y up
    if (begins())
      left_out.add(what, {at.x, at.y, at.x + height, at.y + height});
  }

  void addInsert(const DL_InsertData& d) override {
    if (!begins())
      return;
    DxfCopy copy;
    copy.block = lower_case(d.name);
    const Affine turn = plane() * Affine::translation({d.ipx, d.ipy}) * Affine::rotation(radians(d.angle));
    copy.placed = turn * Affine::scaling(d.sx, d.sy);
    copy.columns = std::clamp(d.cols, 1, 10'000), copy.rows = std::clamp(d.rows, 1, 10'000);
    copy.column = turn.linear({d.colSp, 0}), copy.row = turn.linear({0, d.rowSp});
    copy.look = look();
    into_->copies.push_back(std::move(copy));
  }

  void end_pending() {
    if (polyline_) {
      polyline_ = false;
      take(sides(vertices_, closed_), closed_, plane_, pending_);
    }
    vertices_.clear();
    if (spline_given_) {
      spline_given_ = false;
      Contour c = contour_of(spline_, through_, start_, end_, closed_);
      if (c.segments.empty())
        left_out.add(Lost::Unread);
      take(std::move(c), pending_);
    }
    end_loop();
    hatch_ = false;
  }

  const std::stop_token& stop_;
  DxfBlock* into_ = &model;
  std::size_t entities_ = 0, parts_ = 0;
  DxfLook pending_;
  Affine plane_;
  bool polyline_ = false, closed_ = false, spline_given_ = false, hatch_ = false;
  std::vector<Vertex> vertices_;
  BSpline spline_;
  std::vector<Point> through_;
  Vec start_, end_;
  std::vector<CurvePiece> loop_;
};

struct Placed {
  Contour contour; // mm, y down
  std::string layer;
  Colour colour;
};

class Expander {
public:
  Expander(const Taker& taker, LeftOutList& left_out) : taker_(taker), left_out_(left_out) {}
  std::vector<Placed> placed;

  void expand(const DxfBlock& block, const Affine& m, const DxfLook& outer, int depth) {
    for (const DxfLine& l : block.lines) {
      const DxfLook look = inherited(l.look, outer);
      if (!shown(look.layer))
        continue;
      if (placed.size() >= most) {
        left_out_.add(Lost::TooMuch);
        return;
      }
      Contour c = l.contour;
      for (Segment& s : c.segments)
        s = s.transformed(m);
      placed.push_back({std::move(c), look.layer, colour(look)});
    }
    for (const DxfCopy& copy : block.copies) {
      const auto of = taker_.blocks.find(copy.block);
      if (of == taker_.blocks.end() || depth >= deepest) {
        left_out_.add(of == taker_.blocks.end() ? Lost::Missing : Lost::TooMuch, {}, copy.block);
        continue;
      }
      const DxfLook look = inherited(copy.look, outer);
      if (!shown(look.layer))
        continue;
      for (int r = 0; r < copy.rows; ++r)
        for (int c = 0; c < copy.columns; ++c) {
          if (placed.size() >= most || ++copies_ > most) {
            left_out_.add(Lost::TooMuch);
            return;
          }
          const Affine shift = Affine::translation(copy.column * c + copy.row * r);
          expand(of->second, m * shift * copy.placed * Affine::translation(-of->second.base), look, depth + 1);
        }
    }
  }

private:
  static constexpr std::size_t most = 200'000;
  static constexpr int deepest = 16;

  // Of layer 0 in a block: the copy's layer; by block: the copy's colour.
  DxfLook inherited(DxfLook own, const DxfLook& outer) const {
    constexpr int by_block = 0;
    if (own.layer == "0" && !outer.layer.empty())
      own.layer = outer.layer;
    if (own.colour == by_block && own.true_colour < 0)
      own.colour = outer.colour, own.true_colour = outer.true_colour;
    return own;
  }
  bool shown(const std::string& layer) const {
    const auto at = taker_.layers.find(layer);
    return at == taker_.layers.end() || at->second.shown;
  }
  Colour colour(const DxfLook& look) const {
    constexpr int by_layer = 256, colours = 256, paper = 7; // black on white, white on black
    int index = look.colour, rgb = look.true_colour;
    if (rgb < 0 && (index >= by_layer || index < 0)) {
      const auto at = taker_.layers.find(look.layer);
      index = at == taker_.layers.end() ? paper : at->second.colour;
      rgb = at == taker_.layers.end() ? -1 : at->second.true_colour;
    }
    const auto byte = [](int v) { return static_cast<std::uint8_t>(v & 0xff); };
    if (rgb >= 0)
      return {byte(rgb >> 16), byte(rgb >> 8), byte(rgb)};
    if (index <= 0 || index >= colours || index == paper)
      return {0, 0, 0};
    const auto part = [&](int i) { return byte(static_cast<int>(std::lround(dxfColors[index][i] * 255))); };
    return {part(0), part(1), part(2)};
  }

  const Taker& taker_;
  LeftOutList& left_out_;
  std::size_t copies_ = 0;
};

// $INSUNITS, of the codes that name a length; nothing: it does not say.
std::optional<double> mm_of(int units) {
  switch (units) {
  case 1:
    return 25.4;
  case 2:
    return 304.8;
  case 4:
    return 1;
  case 5:
    return 10;
  case 6:
    return 1000;
  case 8:
    return 25.4e-6;
  case 9:
    return 0.0254;
  case 10:
    return 914.4;
  case 13:
    return 0.001;
  case 14:
    return 100;
  default:
    return std::nullopt;
  }
}

// dxflib makes room for as many knots, points, vertices and edges as an entity says it has; so none may say that it has
// more of them than lines in the file.
std::string with_honest_counts(std::string_view bytes) {
  std::string out;
  out.reserve(bytes.size());
  struct Claim {
    std::size_t begin = 0, end = 0; // in out
    long long count = 0;
  };
  std::vector<Claim> claims;
  std::size_t pairs = 0;
  const auto settle = [&] {
    for (auto c = claims.rbegin(); c != claims.rend(); ++c)
      if (c->count < 0 || c->count > static_cast<long long>(pairs))
        out.replace(c->begin, c->end - c->begin, std::to_string(pairs));
    claims.clear();
    pairs = 0;
  };
  const auto take_line = [&](std::size_t& at) {
    const std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    constexpr std::size_t longest = 1000; // dxflib never ends on a line longer than its own room, 1024
    const std::string_view line = bytes.substr(at, std::min(end - at, longest));
    at = end + 1;
    out.append(line).push_back('\n');
    return trimmed(line);
  };
  for (std::size_t at = 0; at < bytes.size();) {
    const std::string_view code = take_line(at);
    if (code == "0")
      settle();
    if (at >= bytes.size())
      break;
    const std::size_t begin = out.size();
    const std::string_view value = take_line(at);
    ++pairs;
    for (const char* counting : {"72", "73", "74", "76", "90", "91", "93", "95", "96", "97"})
      if (code == counting) {
        long long count = 0;
        const auto [end, status] = std::from_chars(value.data(), value.data() + value.size(), count);
        constexpr long long few = 256; // flags, colours and the like
        if (status == std::errc::result_out_of_range || count > few || count < -few)
          claims.push_back({begin, out.size() - 1, status == std::errc() ? count : -1});
        break;
      }
  }
  settle();
  return out;
}

Result<Done> read_into(Taker& taker, std::string_view bytes) {
  std::istringstream stream(with_honest_counts(bytes));
  try {
    DL_Dxf reader;
    if (!reader.in(stream, &taker))
      return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "can't be read as DXF; save it again as DXF R2000"), {}};
    taker.finish();
  } catch (const DxfStop&) {
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  } catch (const DxfTooMuch&) {
    return bad_input(FRELM_WORDS("core", "has more than 200,000 lines; split the drawing up first"));
  } catch (const std::exception&) {
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "is damaged; save it again as DXF R2000"), {}};
  }
  return Done{};
}

} // namespace

bool looks_like_dxf(std::string_view bytes) {
  if (bytes.starts_with(binary_mark))
    return true;
  constexpr std::size_t head = 4096;
  const std::string_view first = trimmed(bytes.substr(bytes.starts_with("\xEF\xBB\xBF") ? 3 : 0, head));
  const std::string_view code = trimmed(first.substr(0, first.find_first_of("\r\n")));
  return (code == "0" || code == "999") && first.find("SECTION") != std::string_view::npos;
}

Result<Drawing> read_dxf(std::string_view bytes, const DrawingReadOptions& options) {
  constexpr std::size_t most_bytes = 64'000'000;
  if (bytes.starts_with(binary_mark))
    return Error{ErrorCode::Unsupported, FRELM_WORDS("core", "is a binary DXF; save it as text (ASCII)"), {}};
  if (!looks_like_dxf(bytes))
    return Error{ErrorCode::Unreadable, FRELM_WORDS("core", "is not a DXF"), {}};
  if (bytes.size() > most_bytes)
    return bad_input(FRELM_WORDS("core", "holds more than 64 MB; split the drawing up first"));
  Taker taker(options.stop);
  if (const Result<Done> read = read_into(taker, bytes); !read)
    return read.error();

  Drawing out;
  const auto said = mm_of(taker.units);
  const bool inches = !said && taker.metric == 0;
  const double unit = said.value_or(inches ? mm_per_inch : 1);
  out.size = said ? SizeFrom::Lengths : SizeFrom::Nothing;
  if (!said) {
    out.sizes = {{"mm", FRELM_WORDS("core", "1 mm"), 1 / unit},
                 {"in", FRELM_WORDS("core", "1 in"), mm_per_inch / unit},
                 {"cm", FRELM_WORDS("core", "1 cm"), 10 / unit}};
    std::stable_partition(out.sizes.begin(), out.sizes.end(), [](const SizeChoice& c) { return c.factor == 1; });
  }
  const Affine to_mm{unit, 0, 0, -unit, 0, 0};
  LeftOutList left_out;
  Expander all(taker, left_out);
  all.expand(taker.model, to_mm, {}, 0);

  std::map<std::pair<std::string, Colour>, std::vector<Contour>> by_look;
  for (Placed& p : all.placed)
    by_look[{p.layer, p.colour}].push_back(std::move(p.contour));
  for (auto& [look, contours] : by_look) {
    if (options.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    add_lines(out, left_out, std::move(contours), look.first == "0" ? std::string() : look.first, look.second,
              options.clean);
  }
  for (LeftOut l : taker.left_out.list()) {
    for (Box& place : l.places) {
      const Point a = to_mm({place.x0, place.y1}), b = to_mm({place.x1, place.y0});
      place = {a.x, a.y, b.x, b.y};
    }
    left_out.add(l);
  }
  if (!trimmed(bytes).ends_with("EOF"))
    left_out.add(Lost::CutShort);
  out.left_out = left_out.list();
  if (out.frame.empty())
    out.frame = {0, 0, 1, 1};
  return out;
}

} // namespace frelm
