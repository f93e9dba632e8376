#include "formats/dxf.h"

#include "document/measure.h"
#include "geom/biarcs.h"

#include <dxflib/dl_dxf.h>
#include <filesystem>
#include <fstream>
#include <unistd.h>

namespace frelm {
namespace {

// The seven that every reader knows; layers are told apart by their names.
int nearest_index(Colour c) {
  constexpr struct {
    int index, r, g, b;
  } known[]{{1, 255, 0, 0}, {2, 255, 255, 0}, {3, 0, 255, 0}, {4, 0, 255, 255},
            {5, 0, 0, 255}, {6, 255, 0, 255}, {7, 0, 0, 0}};
  int best = 7, least = 1 << 30;
  for (const auto& k : known)
    if (const int d = (k.r - c.r) * (k.r - c.r) + (k.g - c.g) * (k.g - c.g) + (k.b - c.b) * (k.b - c.b); d < least)
      least = d, best = k.index;
  return best;
}

class Writer {
public:
  Writer(const CutPlan& plan, const DxfOptions& options, DL_Dxf& dxf, DL_WriterA& to)
      : plan_(plan), options_(options), dxf_(dxf), to_(to) {}

  void write() {
    dxf_.writeHeader(to_);
    to_.dxfString(9, "$INSUNITS");
    to_.dxfInt(70, options_.unit == Unit::Inch ? 1 : 4);
    to_.sectionEnd();
    tables();
    to_.sectionBlocks();
    if (!r12()) // which knows no such blocks, and no objects
      for (const char* block : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
        dxf_.writeBlock(to_, DL_BlockData(block, 0, 0, 0, 0));
        dxf_.writeEndBlock(to_, block);
      }
    to_.sectionEnd();
    to_.sectionEntities();
    for (const CutPath& path : plan_.order)
      contour(plan_.sheet.pieces[path.piece].outline.contours[path.contour], plan_.layer_of[path.piece]);
    to_.sectionEnd();
    if (!r12()) {
      dxf_.writeObjects(to_);
      dxf_.writeObjectsEnd(to_);
    }
    to_.dxfEOF();
    to_.close();
  }

private:
  bool r12() const { return options_.version == DxfVersion::R12; }

  // Letters that every reader takes, and no two layers of one name.
  std::string layer_name(std::size_t layer) const {
    std::string out;
    for (const char c : plan_.layers[layer].name) {
      const auto u = static_cast<unsigned char>(c);
      out += std::isalnum(u) != 0 && u < 0x80 ? static_cast<char>(r12() ? std::toupper(u) : u) : '_';
    }
    return out.substr(0, 24) + "_" + std::to_string(layer + 1);
  }

  void tables() {
    to_.sectionTables();
    dxf_.writeVPort(to_);
    to_.tableLinetypes(3);
    for (const char* type : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
      dxf_.writeLinetype(to_, DL_LinetypeData(type, type, 0, 0, 0.0));
    to_.tableEnd();
    to_.tableLayers(static_cast<int>(plan_.layers.size()) + 1);
    dxf_.writeLayer(to_, DL_LayerData("0", 0), DL_Attributes("", 7, 0, "CONTINUOUS", 1.0));
    for (std::size_t i = 0; i < plan_.layers.size(); ++i)
      dxf_.writeLayer(to_, DL_LayerData(layer_name(i), 0),
                      DL_Attributes("", nearest_index(plan_.layers[i].colour), 0, "CONTINUOUS", 1.0));
    to_.tableEnd();
    to_.tableStyle(1);
    dxf_.writeStyle(to_, DL_StyleData("Standard", 0, 2.5, 1.0, 0.0, 0, 2.5, "txt", ""));
    to_.tableEnd();
    dxf_.writeView(to_);
    dxf_.writeUcs(to_);
    to_.tableAppid(1);
    dxf_.writeAppid(to_, "ACAD");
    to_.tableEnd();
    dxf_.writeDimStyle(to_, 1, 1, 1, 1, 1);
    if (!r12()) {
      dxf_.writeBlockRecord(to_);
      to_.tableEnd();
    }
    to_.sectionEnd();
  }

  Point placed(Point p) const {
    const double mm = options_.unit == Unit::Inch ? mm_per_inch : 1;
    return {(p.x - plan_.sheet.frame.x0) / mm, (plan_.sheet.frame.y1 - p.y) / mm};
  }

  void contour(const Contour& c, std::size_t layer) {
    const DL_Attributes look(layer_name(layer), 256, 0, "BYLAYER", 1.0);
    const std::vector<ViewPiece> view = options_.curves_as_arcs ? as_arcs(c, options_.flatten)
                                        : options_.arcs         ? arc_view(c, {.tolerance = dxf_arc_tolerance})
                                                                : std::vector<ViewPiece>();
    const auto straight = [](const Segment& s) { return s.is_line(); };
    const auto round = [](const ViewPiece& v) { return !std::holds_alternative<CubicStretch>(v); };
    if (r12() || std::all_of(c.segments.begin(), c.segments.end(), straight) ||
        (!view.empty() && std::all_of(view.begin(), view.end(), round)))
      polyline(vertices(c, view), c.closed, look);
    else
      spline(c, look);
  }

  struct Vertex {
    Point at;
    double bulge = 0; // of what leaves it
  };
  // y is turned over, so clockwise is negative.
  std::vector<Vertex> vertices(const Contour& c, const std::vector<ViewPiece>& view) const {
    std::vector<Vertex> out;
    if (view.empty()) {
      for (const Point p : flatten(c, options_.flatten)) // the flag closes it
        out.push_back({p});
      return out;
    }
    Point end;
    for (const ViewPiece& piece : view)
      if (const auto* arc = std::get_if<ArcStretch>(&piece)) {
        out.push_back({arc->from, -std::tan(arc->sweep / 4)});
        end = arc->to;
      } else if (const auto* line = std::get_if<LineStretch>(&piece)) {
        out.push_back({line->from});
        end = line->to;
      } else {
        const Segment& s = std::get<CubicStretch>(piece).cubic;
        const int n = s.flat_steps(options_.flatten);
        for (int i = 0; i < n; ++i)
          out.push_back({s.at(double(i) / n)});
        end = s.p3;
      }
    if (!c.closed)
      out.push_back({end});
    return out;
  }

  void polyline(const std::vector<Vertex>& places, bool closed, const DL_Attributes& look) {
    dxf_.writePolyline(to_, DL_PolylineData(static_cast<int>(places.size()), 0, 0, closed ? 1 : 0), look);
    for (const Vertex& v : places) {
      const Point at = placed(v.at);
      dxf_.writeVertex(to_, DL_VertexData(at.x, at.y, 0, v.bulge));
    }
    dxf_.writePolylineEnd(to_);
  }

  void spline(const Contour& c, const DL_Attributes& look) {
    const int n = static_cast<int>(c.segments.size());
    constexpr int closed = 1, planar = 8;
    dxf_.writeSpline(to_, DL_SplineData(3, 3 * n + 5, 3 * n + 1, 0, planar | (c.closed ? closed : 0)), look);
    for (int i = 0; i <= n; ++i)
      for (int k = 0; k < (i == 0 || i == n ? 4 : 3); ++k)
        dxf_.writeKnot(to_, DL_KnotData(i));
    const auto control = [&](Point p) {
      const Point at = placed(p);
      dxf_.writeControlPoint(to_, DL_ControlPointData(at.x, at.y, 0, 1));
    };
    control(c.segments.front().p0);
    for (const Segment& s : c.segments)
      control(s.p1), control(s.p2), control(s.p3);
  }

  const CutPlan& plan_;
  const DxfOptions& options_;
  DL_Dxf& dxf_; // knows the version
  DL_WriterA& to_;
};

// dxflib writes into files only.
class ScratchFile {
public:
  ScratchFile() : path_((std::filesystem::temp_directory_path() / "frelm-XXXXXX").string()) {
    if (const int made = ::mkstemp(path_.data()); made >= 0)
      ::close(made), there_ = true;
  }
  ~ScratchFile() {
    if (there_)
      ::unlink(path_.c_str());
  }
  ScratchFile(const ScratchFile&) = delete;
  ScratchFile& operator=(const ScratchFile&) = delete;
  bool there() const { return there_; }
  const std::string& path() const { return path_; }
  std::string bytes() const {
    std::ifstream file(path_, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), {}};
  }

private:
  std::string path_;
  bool there_ = false;
};

} // namespace

Result<std::string> write_dxf(const CutPlan& plan, const DxfOptions& options) {
  const ScratchFile scratch;
  const Error refused{ErrorCode::Unwritable, FRELM_WORDS("core", "there is no room to write; free some and try again"),
                      as_it_is(scratch.path())};
  if (!scratch.there())
    return refused;
  {
    DL_Dxf dxf;
    const std::unique_ptr<DL_WriterA> to(
        dxf.out(scratch.path().c_str(), options.version == DxfVersion::R12 ? DL_VERSION_R12 : DL_VERSION_2000));
    if (to == nullptr || to->openFailed())
      return refused;
    Writer(plan, options, dxf, *to).write();
  }
  std::string out = scratch.bytes();
  if (!out.ends_with("EOF\n")) // dxflib says nothing when the disk is full
    return refused;
  return out;
}

} // namespace frelm
