// Shaping and outlines come from HarfBuzz's own OpenType functions at scale = units per em: advances are the font's
// exact integers, outlines its own points, implied ones in halves, fractions of CFF and composites as they are;
// quadratics become cubics exactly. (FreeType halves implied points in whole units and floors fractions unless it
// scales.) FreeType tells names, heights and characters. A variable face's styles and what is between them are fonts of
// HarfBuzz on one file; their heights follow by what HarfBuzz says they differ ("MVAR").
#include "type/font_face.h"

#include "type/feature_names.h"

#include <set>

#include "type/bidi.h"

#include <array>
#include <ft2build.h>
#include <hb-ot.h>
#include <map>
#include <mutex>
#include FT_FREETYPE_H
#include FT_TRUETYPE_TABLES_H

namespace frelm {
namespace {

// One FreeType library for all faces; FreeType asks that opening and closing faces on it be serialised.
struct Library {
  FT_Library ft = nullptr;
  std::mutex mutex;
  Library() {
    if (FT_Init_FreeType(&ft) != 0)
      ft = nullptr;
  }
};
Library& library() {
  static Library* shared = new Library; // never closed: faces may outlive static destruction
  return *shared;
}

// Takes down what HarfBuzz draws, y turned down.
class Drawing {
public:
  static Outline of(hb_font_t* font, hb_codepoint_t glyph) {
    static hb_draw_funcs_t* const funcs = made();
    Drawing drawing;
    hb_font_get_glyph_shape(font, glyph, funcs, &drawing);
    drawing.close();
    return std::move(drawing.out_);
  }

private:
  static hb_draw_funcs_t* made() {
    hb_draw_funcs_t* funcs = hb_draw_funcs_create();
    hb_draw_funcs_set_move_to_func(
        funcs,
        [](hb_draw_funcs_t*, void* to, hb_draw_state_t*, float x, float y, void*) {
          Drawing& d = *static_cast<Drawing*>(to);
          d.close();
          d.out_.contours.emplace_back();
          d.at_ = point(x, y);
        },
        nullptr, nullptr);
    hb_draw_funcs_set_line_to_func(
        funcs,
        [](hb_draw_funcs_t*, void* to, hb_draw_state_t*, float x, float y, void*) {
          Drawing& d = *static_cast<Drawing*>(to);
          d.add(Segment::line(d.at_, point(x, y)));
        },
        nullptr, nullptr);
    hb_draw_funcs_set_quadratic_to_func(
        funcs,
        [](hb_draw_funcs_t*, void* to, hb_draw_state_t*, float cx, float cy, float x, float y, void*) {
          Drawing& d = *static_cast<Drawing*>(to);
          d.add(Segment::quadratic(d.at_, point(cx, cy), point(x, y)));
        },
        nullptr, nullptr);
    hb_draw_funcs_set_cubic_to_func(
        funcs,
        [](hb_draw_funcs_t*, void* to, hb_draw_state_t*, float ax, float ay, float bx, float by, float x, float y,
           void*) {
          Drawing& d = *static_cast<Drawing*>(to);
          d.add(Segment::cubic(d.at_, point(ax, ay), point(bx, by), point(x, y)));
        },
        nullptr, nullptr);
    hb_draw_funcs_make_immutable(funcs);
    return funcs;
  }
  static Point point(float x, float y) { return {static_cast<double>(x), -static_cast<double>(y)}; }
  void add(const Segment& s) {
    if (out_.contours.empty())
      out_.contours.emplace_back();
    if (s.p0 != s.p3 || s.p1 != s.p0 || s.p2 != s.p0)
      out_.contours.back().segments.push_back(s);
    at_ = s.p3;
  }
  void close() {
    if (out_.contours.empty())
      return;
    std::vector<Segment>& segments = out_.contours.back().segments;
    if (segments.empty())
      out_.contours.pop_back();
    else if (segments.back().p3 != segments.front().p0)
      segments.push_back(Segment::line(segments.back().p3, segments.front().p0));
  }
  Outline out_;
  Point at_;
};

bool must_join(hb_script_t script) {
  constexpr std::array joining{HB_SCRIPT_ARABIC,  HB_SCRIPT_SYRIAC,   HB_SCRIPT_MONGOLIAN, HB_SCRIPT_NKO,
                               HB_SCRIPT_MANDAIC, HB_SCRIPT_PHAGS_PA, HB_SCRIPT_ADLAM};
  return std::find(joining.begin(), joining.end(), script) != joining.end();
}

struct ScriptRun {
  std::size_t first = 0, count = 0;
  bool right_to_left = false;
  hb_script_t script = HB_SCRIPT_COMMON;
};

// Bidi runs cut where the script changes, in visual order; common and inherited characters join their neighbours.
std::vector<ScriptRun> script_runs(const std::u32string& line) {
  std::vector<ScriptRun> out;
  for (const BidiRun& bidi : bidi_runs(line)) {
    std::vector<ScriptRun> parts;
    for (std::size_t i = bidi.first; i < bidi.first + bidi.count; ++i) {
      const hb_script_t s = hb_unicode_script(hb_unicode_funcs_get_default(), line[i]);
      const bool neutral = s == HB_SCRIPT_COMMON || s == HB_SCRIPT_INHERITED || s == HB_SCRIPT_UNKNOWN;
      if (parts.empty())
        parts.push_back({i, 0, bidi.right_to_left, neutral ? HB_SCRIPT_COMMON : s});
      ScriptRun& last = parts.back();
      if (!neutral && last.script == HB_SCRIPT_COMMON)
        last.script = s;
      if (!neutral && last.script != s)
        parts.push_back({i, 0, bidi.right_to_left, s});
      ++parts.back().count;
    }
    if (bidi.right_to_left)
      std::reverse(parts.begin(), parts.end());
    out.insert(out.end(), parts.begin(), parts.end());
  }
  return out;
}

// A font file as both libraries have it open; shared by a face and what it is varied to.
struct FontFile {
  FontFile(hb_blob_t* b, hb_face_t* h, FT_Face f) : blob(b), hb(h), ft(f) {}
  FontFile(const FontFile&) = delete;
  FontFile& operator=(const FontFile&) = delete;
  ~FontFile() {
    {
      const std::lock_guard lock(library().mutex);
      FT_Done_Face(ft);
    }
    hb_face_destroy(hb);
    hb_blob_destroy(blob);
  }
  hb_blob_t* blob;
  hb_face_t* hb;
  FT_Face ft;
  mutable std::mutex mutex; // guards ft
};

// coordinates: along all the axes, in their own units; empty for a face without.
hb_font_t* make_font(hb_face_t* face, const std::vector<float>& coordinates) {
  hb_font_t* font = hb_font_create(face);
  const int upem = static_cast<int>(hb_face_get_upem(face));
  hb_font_set_scale(font, upem, upem);
  hb_ot_font_set_funcs(font);
  if (!coordinates.empty())
    hb_font_set_var_coords_design(font, coordinates.data(), static_cast<unsigned>(coordinates.size()));
  hb_font_make_immutable(font);
  return font;
}

std::vector<hb_ot_var_axis_info_t> axis_infos(hb_face_t* face) {
  unsigned n = hb_ot_var_get_axis_count(face);
  std::vector<hb_ot_var_axis_info_t> out(n);
  hb_ot_var_get_axis_infos(face, 0, &n, out.data());
  return out;
}

std::string name_of(hb_face_t* face, hb_ot_name_id_t id) {
  std::array<char, 64> text{};
  unsigned size = static_cast<unsigned>(text.size());
  hb_ot_name_get_utf8(face, id, hb_language_from_string("en", -1), &size, text.data());
  return text.data();
}

std::string text_of(hb_tag_t tag) {
  char text[5] = {};
  hb_tag_to_string(tag, text);
  return text;
}

class FontFace final : public Face {
public:
  // style: of a variable face, the style's place on all its axes.
  FontFace(std::shared_ptr<const FontFile> file, std::vector<float> style)
      : file_(std::move(file)), style_(std::move(style)), font_(make_font(file_->hb, style_)) {
    name_ = {file_->ft->family_name != nullptr ? file_->ft->family_name : "",
             file_->ft->style_name != nullptr ? file_->ft->style_name : ""};
    metrics_.ascent = file_->ft->ascender;
    metrics_.descent = -static_cast<double>(file_->ft->descender);
    measure();
  }
  // The face at another place on its axes.
  FontFace(const FontFace& base, std::vector<AxisValue> values, const std::vector<float>& at)
      : file_(base.file_), style_(base.style_), font_(make_font(file_->hb, at)), name_(base.name_), varied_(true) {
    name_.axes = std::move(values);
    const auto higher = [&](hb_ot_metrics_tag_t tag) -> double {
      return hb_ot_metrics_get_variation(font_, tag) - hb_ot_metrics_get_variation(base.font_, tag);
    };
    metrics_.ascent = base.metrics_.ascent + higher(HB_OT_METRICS_TAG_HORIZONTAL_ASCENDER);
    metrics_.descent = base.metrics_.descent - higher(HB_OT_METRICS_TAG_HORIZONTAL_DESCENDER);
    measure();
  }
  FontFace(const FontFace&) = delete;
  FontFace& operator=(const FontFace&) = delete;
  ~FontFace() override { hb_font_destroy(font_); }

  const FaceName& name() const override { return name_; }
  const FaceMetrics& metrics() const override { return metrics_; }

  std::vector<ShapedCluster> shape(const std::u32string& line, const ShapeStyle& style) const override {
    std::vector<ShapedCluster> out;
    for (const ScriptRun& run : script_runs(line))
      shape_run(line, run, style, out);
    return out;
  }

  std::vector<FaceAxis> axes() const override {
    std::vector<FaceAxis> out;
    for (const hb_ot_var_axis_info_t& a : axis_infos(file_->hb)) {
      const std::string tag = text_of(a.tag), name = frelm::name_of(file_->hb, a.name_id);
      if ((a.flags & HB_OT_VAR_AXIS_FLAG_HIDDEN) == 0)
        out.push_back({tag, name.empty() ? tag : name, a.min_value, style_[a.axis_index], a.max_value});
    }
    return out;
  }

  std::shared_ptr<const Face> varied(const std::vector<AxisValue>& values) const override {
    const std::vector<hb_ot_var_axis_info_t> infos = axis_infos(file_->hb);
    std::vector<float> at = style_;
    for (const AxisValue& v : values) {
      const auto axis =
          std::find_if(infos.begin(), infos.end(), [&](const auto& a) { return text_of(a.tag) == v.tag; });
      if (axis == infos.end())
        return nullptr;
      at[axis->axis_index] = std::clamp(static_cast<float>(v.value), axis->min_value, axis->max_value);
    }
    return std::make_shared<const FontFace>(*this, values, at);
  }

  std::size_t bytes() const override {
    if (!varied_)
      return 0;
    const std::lock_guard lock(mutex_);
    std::size_t sum = sizeof *this;
    for (const auto& [glyph, outline] : outlines_)
      sum += sizeof(Outline) + outline->node_count() * sizeof(Segment);
    return sum;
  }

  std::vector<FaceFeature> features() const override {
    hb_face_t* face = hb_font_get_face(font_);
    std::set<hb_tag_t> tags;
    for (const hb_tag_t table : {HB_OT_TAG_GSUB, HB_OT_TAG_GPOS}) {
      std::array<hb_tag_t, 256> some{};
      unsigned n = static_cast<unsigned>(some.size());
      hb_ot_layout_table_get_feature_tags(face, table, 0, &n, some.data());
      tags.insert(some.begin(), some.begin() + n);
    }
    std::vector<FaceFeature> out;
    for (const hb_tag_t tag : tags) {
      if (std::optional<FaceFeature> feature = switchable_feature(text_of(tag))) {
        if (const std::string own = own_name(tag); !own.empty())
          feature->name = own;
        out.push_back(std::move(*feature));
      }
    }
    return out;
  }

  std::vector<GlyphAlternate> alternates(char32_t c) const override {
    constexpr std::uint32_t most = 32; // of one feature
    const std::u32string letter(1, c);
    const auto glyph_with = [&](const std::string& tag, std::uint32_t value) -> std::uint32_t {
      const std::vector<ShapedCluster> shaped = shape(letter, {Ligatures::On, {{tag, value}}});
      return shaped.size() == 1 && shaped.front().glyphs.size() == 1 ? shaped.front().glyphs.front().glyph : 0;
    };
    const std::uint32_t usual = glyph_with("kern", 1);
    std::vector<GlyphAlternate> out;
    std::set<std::uint32_t> seen{usual, 0};
    for (const FaceFeature& f : features()) {
      if (!brings_alternates(f.tag))
        continue;
      std::uint32_t before = usual;
      for (std::uint32_t value = 1; value <= most; ++value) {
        const std::uint32_t glyph = glyph_with(f.tag, value);
        if (glyph == before || glyph == usual)
          break; // a feature with one choice, or past its last
        before = glyph;
        if (seen.insert(glyph).second)
          out.push_back({f.tag, value, glyph});
      }
    }
    return out;
  }

  std::shared_ptr<const Outline> outline(std::uint32_t glyph) const override {
    const std::lock_guard lock(mutex_);
    if (const auto it = outlines_.find(glyph); it != outlines_.end())
      return it->second;
    auto outline = std::make_shared<Outline>(load(glyph));
    outlines_.emplace(glyph, outline);
    return outline;
  }

private:
  void shape_run(const std::u32string& line, const ScriptRun& run, const ShapeStyle& style,
                 std::vector<ShapedCluster>& out) const {
    hb_buffer_t* buffer = hb_buffer_create();
    hb_buffer_set_cluster_level(buffer, HB_BUFFER_CLUSTER_LEVEL_MONOTONE_GRAPHEMES);
    hb_buffer_add_utf32(buffer, reinterpret_cast<const std::uint32_t*>(line.data()), static_cast<int>(line.size()),
                        static_cast<unsigned>(run.first), static_cast<int>(run.count));
    hb_buffer_set_direction(buffer, run.right_to_left ? HB_DIRECTION_RTL : HB_DIRECTION_LTR);
    hb_buffer_set_script(buffer, run.script == HB_SCRIPT_COMMON ? HB_SCRIPT_LATIN : run.script);
    hb_buffer_set_language(buffer, hb_language_from_string("en", -1));
    std::vector<hb_feature_t> features;
    if (style.ligatures == Ligatures::Off && !must_join(run.script))
      for (const char* tag : {"liga", "clig"})
        features.push_back({HB_TAG(tag[0], tag[1], tag[2], tag[3]), 0, HB_FEATURE_GLOBAL_START, HB_FEATURE_GLOBAL_END});
    for (const FeatureUse& f : style.features) {
      const bool whole = f.count == static_cast<std::size_t>(-1);
      features.push_back({hb_tag_from_string(f.tag.c_str(), static_cast<int>(f.tag.size())), f.value,
                          whole ? HB_FEATURE_GLOBAL_START : static_cast<unsigned>(f.first),
                          whole ? HB_FEATURE_GLOBAL_END : static_cast<unsigned>(f.first + f.count)});
    }
    hb_shape(font_, buffer, features.data(), static_cast<unsigned>(features.size()));
    unsigned n = 0;
    const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer, &n);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer, &n);
    const std::size_t start = out.size();
    double pen = 0;
    for (unsigned i = 0; i < n; ++i) {
      if (i == 0 || infos[i].cluster != infos[i - 1].cluster) {
        pen = 0;
        out.push_back({infos[i].cluster, 0, 0, false, {}});
      }
      ShapedCluster& cluster = out.back();
      cluster.glyphs.push_back(
          {infos[i].codepoint, pen + places[i].x_offset, -static_cast<double>(places[i].y_offset)});
      cluster.missing = cluster.missing || infos[i].codepoint == 0;
      pen += places[i].x_advance;
      cluster.advance += places[i].x_advance;
    }
    hb_buffer_destroy(buffer);
    // Code points of a cluster: up to the next cluster in reading order.
    const std::size_t end = run.first + run.count;
    for (std::size_t i = start; i < out.size(); ++i) {
      std::size_t next = end;
      for (const std::size_t j : {i - 1, i + 1})
        if (j >= start && j < out.size() && out[j].first > out[i].first)
          next = std::min(next, out[j].first);
      out[i].count = next - out[i].first;
    }
  }

  // What the face calls a stylistic set or character variant; empty for others.
  std::string own_name(hb_tag_t tag) const {
    hb_face_t* face = hb_font_get_face(font_);
    unsigned feature = HB_OT_LAYOUT_NO_FEATURE_INDEX;
    if (!hb_ot_layout_language_find_feature(face, HB_OT_TAG_GSUB, 0, HB_OT_LAYOUT_DEFAULT_LANGUAGE_INDEX, tag,
                                            &feature))
      return {};
    hb_ot_name_id_t label = HB_OT_NAME_ID_INVALID;
    if (!hb_ot_layout_feature_get_name_ids(face, HB_OT_TAG_GSUB, feature, &label, nullptr, nullptr, nullptr, nullptr) ||
        label == HB_OT_NAME_ID_INVALID)
      return {};
    return frelm::name_of(face, label);
  }

  Outline load(std::uint32_t glyph) const {
    Outline out = Drawing::of(font_, glyph);
    out.make_area_positive();
    return out;
  }

  // Height above the baseline of the top of each letter that the face has; the median, or nothing.
  std::optional<double> median_top(std::initializer_list<char32_t> letters) const {
    std::vector<double> tops;
    for (const char32_t c : letters)
      if (const FT_UInt g = FT_Get_Char_Index(file_->ft, c); g != 0)
        if (const Box b = load(g).bounds(); !b.empty())
          tops.push_back(-b.y0);
    if (tops.empty())
      return std::nullopt;
    std::sort(tops.begin(), tops.end());
    return tops[tops.size() / 2];
  }

  void measure() {
    const std::lock_guard lock(file_->mutex);
    metrics_.units_per_em = file_->ft->units_per_EM > 0 ? file_->ft->units_per_EM : 1000;
    const auto* os2 = static_cast<const TT_OS2*>(FT_Get_Sfnt_Table(file_->ft, FT_SFNT_OS2));
    const bool has_heights = os2 != nullptr && os2->version != 0xffff && os2->version >= 2;
    if (const auto caps = median_top({U'H', U'I', U'E'}); caps && *caps > 0) {
      metrics_.cap_height = *caps;
    } else if (has_heights && os2->sCapHeight > 0) {
      metrics_.cap_height = os2->sCapHeight + hb_ot_metrics_get_variation(font_, HB_OT_METRICS_TAG_CAP_HEIGHT);
      metrics_.cap_source = HeightSource::FaceValue;
    } else {
      metrics_.cap_height = tallest_letter();
      metrics_.cap_source = HeightSource::TallestLetter;
    }
    if (const auto x = median_top({U'x', U'z', U'v'}); x && *x > 0)
      metrics_.x_height = *x;
    else if (has_heights && os2->sxHeight > 0)
      metrics_.x_height = os2->sxHeight + hb_ot_metrics_get_variation(font_, HB_OT_METRICS_TAG_X_HEIGHT);
    else
      metrics_.x_height = metrics_.cap_height;
  }

  double tallest_letter() const {
    double top = 0;
    FT_UInt glyph = 0;
    for (FT_ULong c = FT_Get_First_Char(file_->ft, &glyph); glyph != 0; c = FT_Get_Next_Char(file_->ft, c, &glyph))
      if (const Box b = load(glyph).bounds(); !b.empty())
        top = std::max(top, -b.y0);
    return top > 0 ? top : metrics_.units_per_em * 0.7;
  }

  std::shared_ptr<const FontFile> file_;
  std::vector<float> style_;
  hb_font_t* font_;
  FaceName name_;
  FaceMetrics metrics_;
  bool varied_ = false;
  mutable std::mutex mutex_; // guards outlines_
  mutable std::map<std::uint32_t, std::shared_ptr<const Outline>> outlines_;
};

} // namespace

Result<std::shared_ptr<const Face>> open_font(const std::string& path, int index) {
  const Error unreadable{ErrorCode::Unreadable,
                         FRELM_WORDS("core", "is not a font file that can be read; choose another face"),
                         as_it_is(path)};
  hb_blob_t* blob = hb_blob_create_from_file_or_fail(path.c_str());
  if (blob == nullptr)
    return Error{ErrorCode::NotFound, FRELM_WORDS("core", "the font file can't be read; check that it is there"),
                 as_it_is(path)};
  unsigned size = 0;
  const char* data = hb_blob_get_data(blob, &size);
  FT_Face face = nullptr;
  FT_Error failed = 1;
  {
    const std::lock_guard lock(library().mutex);
    if (library().ft != nullptr)
      failed = FT_New_Memory_Face(library().ft, reinterpret_cast<const FT_Byte*>(data), static_cast<FT_Long>(size),
                                  index, &face);
    if (failed == 0 && FT_IS_SCALABLE(face) == 0) {
      FT_Done_Face(face);
      failed = 1;
    }
  }
  if (failed != 0) {
    hb_blob_destroy(blob);
    return unreadable;
  }
  constexpr unsigned instance_from = 16;
  const unsigned number = static_cast<unsigned>(index), instance = number >> instance_from;
  const auto file = std::make_shared<const FontFile>(blob, hb_face_create(blob, number & 0xffffU), face);
  std::vector<float> style;
  for (const hb_ot_var_axis_info_t& a : axis_infos(file->hb))
    style.push_back(a.default_value);
  if (unsigned n = static_cast<unsigned>(style.size()); instance > 0)
    hb_ot_var_named_instance_get_design_coords(file->hb, instance - 1, &n, style.data());
  return std::shared_ptr<const Face>(std::make_shared<FontFace>(file, std::move(style)));
}

} // namespace frelm
