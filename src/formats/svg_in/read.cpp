// The document is walked depth first with what each element hands on: its transform, its paint, what lengths are
// measured by. What is seen is collected in the order it is painted; clips and masks are applied to what an element
// brought when it ends. `use` walks what it refers to, counted, so that references can't go on for ever.
#include "document/validity.h"
#include "formats/svg.h"
#include "formats/svg_in/clip.h"
#include "formats/svg_in/definitions.h"
#include "formats/svg_in/page.h"
#include "formats/svg_in/strokes.h"
#include "formats/svg_in/tree.h"
#include "geom/arc_cubics.h"
#include "geom/boolean.h"

#include <array>
#include <fmt/format.h>
#include <map>
#include <unordered_set>

namespace frelm {
namespace {

// What an element hands on to those inside it.
struct Handed {
  Affine to_mm;
  PaintState paint;
  LengthScale scale;
};

struct SeenShape {
  DrawnShape shape;
  std::shared_ptr<const Outline> geometry; // what bounding boxes are made of: without strokes
  double light = 1;                        // luminance x opacity, for masks
  double alpha = 1;
};

double luminance(Colour c) { // SVG 1.1, 14.4: of linear light; masks only ask whether there is any
  return (0.2125 * c.r + 0.7154 * c.g + 0.0721 * c.b) / 255;
}

Box placed(const Affine& m, double x, double y, double w, double h) {
  Box out;
  for (const Point p : {Point{x, y}, Point{x + w, y}, Point{x, y + h}, Point{x + w, y + h}})
    out.add(m(p));
  return out;
}

Outline rectangle(const Affine& m, const Box& b) {
  const Point p[]{m({b.x0, b.y0}), m({b.x1, b.y0}), m({b.x1, b.y1}), m({b.x0, b.y1})};
  Contour c;
  for (std::size_t i = 0; i < 4; ++i)
    c.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
  Outline out{{std::move(c)}};
  out.make_area_positive();
  return out;
}

class DrawingReader {
public:
  DrawingReader(const SvgDefinitions& definitions, LeftOutList& told, const DrawingReadOptions& options)
      : left_out(told), options_(options), of_(definitions) {}

  void read(const pugi::xml_node& root, const Handed& outer) {
    if (options_.progress)
      elements_ = count_elements(root);
    if (const auto here = entered(root, outer)) {
      inside(root, *here);
      leave(root, *here, 0);
    }
  }

  LeftOutList& left_out;
  std::vector<SeenShape> seen;
  bool strokes = false;
  bool stopped() const { return options_.stop.stop_requested(); }

private:
  double length(const pugi::xml_node& node, const char* name, const Handed& here, LengthAlong along,
                double otherwise = 0) {
    const std::string_view says = of_.style(node).value(name);
    if (says.empty())
      return otherwise;
    const auto v = svg_length(says, here.scale, along);
    if (!v && lower_case(says) != "auto")
      left_out.add(Lost::Unread, {}, fmt::format("{} \u201c{}\u201d", name, says));
    return v.value_or(otherwise);
  }

  // SVG 1.1, 5.8: what only shows under conditions.
  bool conditions_hold(const pugi::xml_node& node) const {
    if (const pugi::xml_attribute a = node.attribute("requiredExtensions"); a)
      return false;
    if (const pugi::xml_attribute a = node.attribute("systemLanguage"); a) {
      std::string_view list = a.value();
      while (!list.empty()) {
        const std::size_t end = std::min(list.find(','), list.size());
        const std::string one = lower_case(trimmed(list.substr(0, end)));
        if (one == options_.language || one.starts_with(options_.language + "-"))
          return true;
        list.remove_prefix(std::min(end + 1, list.size()));
      }
      return false;
    }
    return true;
  }

  // An element's own state; nothing: no part of it is seen.
  std::optional<Handed> entered(const pugi::xml_node& node, const Handed& outer) {
    const ElementStyle& style = of_.style(node);
    if (lower_case(style.value("display")) == "none" || !conditions_hold(node))
      return std::nullopt;
    Handed here = outer;
    here.paint = painted(style, outer.paint, outer.scale);
    here.scale.font_size = here.paint.font_size;
    if (here.paint.opacity < least_opacity)
      return std::nullopt;
    const std::string_view says = style.value("transform");
    if (const auto own = svg_transform(says))
      here.to_mm = outer.to_mm * *own;
    else
      left_out.add(Lost::Unread, {}, fmt::format("transform \u201c{}\u201d", says));
    return here;
  }

  static std::size_t count_elements(const pugi::xml_node& root) {
    std::size_t out = 0;
    for (pugi::xml_node at = root; at;) { // without a stack: groups may be 1000 deep
      out += at.type() == pugi::node_element;
      if (at.first_child()) {
        at = at.first_child();
        continue;
      }
      while (at && at != root && !at.next_sibling())
        at = at.parent();
      at = at == root ? pugi::xml_node() : at.next_sibling();
    }
    return out;
  }
  void tell_progress() const {
    constexpr std::size_t each = 64; // elements
    if (options_.progress && elements_ > 0 && visited_ % each == 0)
      options_.progress(std::min(1.0, double(visited_) / double(elements_)));
  }

  void inside(const pugi::xml_node& node, const Handed& here) {
    if (depth_ >= deepest) {
      left_out.add(Lost::TooMuch);
      return;
    }
    ++depth_;
    for (pugi::xml_node child = node.first_child(); child && !stopped(); child = child.next_sibling())
      if (child.type() == pugi::node_element)
        element(child, here);
    --depth_;
  }

  void element(const pugi::xml_node& node, const Handed& outer) {
    const std::string_view name = node.name();
    static const std::unordered_set<std::string_view> shown{
        "g", "a", "svg", "switch", "use", "text", "image", "video", "canvas", "iframe", "foreignObject"};
    if (shown.count(name) == 0 && !is_svg_shape(name))
      return; // definitions, words about the drawing, what editors keep for themselves
    tell_progress();
    if (++visited_ > most_elements) {
      if (visited_ == most_elements + 1)
        left_out.add(Lost::TooMuch);
      return;
    }
    const auto here = entered(node, outer);
    if (!here)
      return;
    const std::size_t from = seen.size();
    if (name == "g" || name == "a")
      inside(node, *here);
    else if (name == "svg")
      viewport(node, node, *here);
    else if (name == "switch")
      choice(node, *here);
    else if (name == "use")
      use(node, *here);
    else if (is_svg_shape(name))
      shape(node, *here);
    else
      not_taken(node, name, *here);
    leave(node, *here, from);
  }

  void choice(const pugi::xml_node& node, const Handed& here) {
    for (const pugi::xml_node child : node.children())
      if (child.type() == pugi::node_element && std::string_view(child.name()).find(':') == std::string_view::npos &&
          conditions_hold(child)) {
        element(child, here);
        return;
      }
  }

  void not_taken(const pugi::xml_node& node, std::string_view name, const Handed& here) {
    const bool text = name == "text";
    if (!here.paint.visible || (text && (!node.first_child() || !(shown_fill(here) || shown_stroke(here)))))
      return;
    const double x = length(node, "x", here, LengthAlong::X), y = length(node, "y", here, LengthAlong::Y);
    const double w = text ? here.paint.font_size : length(node, "width", here, LengthAlong::X),
                 h = text ? here.paint.font_size : length(node, "height", here, LengthAlong::Y);
    left_out.add(text              ? Lost::Text
                 : name == "image" ? Lost::Picture
                                   : Lost::OtherContent,
                 placed(here.to_mm, x, text ? y - h : y, w, h));
  }

  // SVG 1.1, 5.6: the element referred to, moved by x and y, inheriting from here; a symbol or svg fills the width and
  // height given.
  void use(const pugi::xml_node& node, const Handed& outer) {
    const std::string to = SvgDefinitions::href(node);
    const pugi::xml_node target = to.starts_with("#") ? of_.find(to.substr(1)) : pugi::xml_node();
    if (!target || using_.count(target.hash_value()) > 0 || using_.size() >= deepest_use) {
      if (!to.empty())
        left_out.add(to.starts_with("#") ? Lost::Missing : Lost::OtherFile, {}, to);
      return;
    }
    using_.insert(target.hash_value());
    Handed here = outer;
    here.to_mm = outer.to_mm * Affine::translation({length(node, "x", outer, LengthAlong::X),
                                                    length(node, "y", outer, LengthAlong::Y)});
    const std::string_view name = target.name();
    if (name == "symbol" || name == "svg") {
      ++visited_;
      const std::size_t from = seen.size();
      if (const auto own = entered(target, here)) {
        viewport(target, node, *own);
        leave(target, *own, from);
      }
    } else {
      element(target, here);
    }
    using_.erase(target.hash_value());
  }

  // An inner svg or a symbol: its viewBox fitted into the width and height that `sized` says, and cut off there.
  void viewport(const pugi::xml_node& node, const pugi::xml_node& sized, Handed here) {
    const auto measure = [&](const char* name, LengthAlong along, double whole) {
      if (sized != node && sized.attribute(name))
        return length(sized, name, here, along, whole);
      return std::string_view(node.name()) == "svg" ? length(node, name, here, along, whole) : whole;
    };
    const double w = measure("width", LengthAlong::X, here.scale.width),
                 h = measure("height", LengthAlong::Y, here.scale.height);
    if (!(w > 0) || !(h > 0))
      return;
    if (std::string_view(node.name()) == "svg")
      here.to_mm = here.to_mm * Affine::translation(
                                    {length(node, "x", here, LengthAlong::X), length(node, "y", here, LengthAlong::Y)});
    const Affine frame = here.to_mm;
    here.scale.width = w, here.scale.height = h;
    if (const auto box = svg_view_box(node.attribute("viewBox").value())) {
      here.to_mm = here.to_mm * fitted(*box, w, h, node.attribute("preserveAspectRatio").value());
      here.scale.width = box->width, here.scale.height = box->height;
    }
    const std::size_t from = seen.size();
    inside(node, here);
    const std::string overflow = lower_case(of_.style(node).value("overflow"));
    if (overflow != "visible" && overflow != "auto")
      apply(region_of(rectangle(frame, {0, 0, w, h})), from, node);
  }

  bool shown_fill(const Handed& here) {
    return !here.paint.fill.server.empty() || here.paint.fill_alpha() >= least_opacity;
  }
  bool shown_stroke(const Handed& here) {
    return here.paint.line.width > 0 &&
           (!here.paint.stroke.server.empty() || here.paint.stroke_alpha() >= least_opacity);
  }

  // What is seen of a paint, by its alpha.
  std::optional<SeenColour> colour_of(const Paint& paint, double opacity, const Box& where) {
    std::optional<SeenColour> c = paint.server.empty() ? paint.colour : of_.server_colour(paint, where);
    if (!c || c->alpha * opacity < least_opacity)
      return std::nullopt;
    c->alpha *= opacity;
    return c;
  }

  double tolerance(const Affine& m) const { // user units that are default_arc_tolerance in mm
    return default_arc_tolerance / std::max(std::sqrt(std::abs(m.determinant())), 1e-9);
  }

  // What two lists of areas make of each other. Nothing: it can't be made, or would take too long.
  std::optional<Outline> combined(BooleanOp op, const std::vector<Outline>& a, const std::vector<Outline>& b) const {
    const auto tangled = [](const std::vector<Outline>& list) {
      return std::any_of(list.begin(), list.end(), is_tangled);
    };
    if (tangled(a) || tangled(b))
      return std::nullopt;
    WeldOptions options;
    options.stop = options_.stop;
    Result<WeldResult> made = combine(op, a, b, options);
    if (!made)
      return std::nullopt;
    return std::move(made->outline);
  }

  // Filled contours with an area, of the nonzero rule.
  Outline area_of(const std::vector<Subpath>& subpaths, const Affine& to_mm, bool even_odd) {
    Outline area = turned_over(contours_of(subpaths, tolerance(to_mm), Ends::Closed), to_mm);
    std::erase_if(area.contours, [](const Contour& c) { return is_flat(c, tiny_shape / 2); });
    if (!even_odd || area.contours.empty())
      return area;
    if (is_tangled(area)) {
      left_out.add(Lost::Tangled, area.bounds());
      return area;
    }
    WeldOptions options;
    options.stop = options_.stop;
    Result<WeldResult> same_area = self_union(area, FillRule::EvenOdd, options);
    return same_area ? std::move(same_area->outline) : area;
  }

  static bool fits_a_sheet(const Box& box) { return std::max({-box.x0, box.x1, -box.y0, box.y1}) <= largest_number; }

  void shape(const pugi::xml_node& node, const Handed& here) {
    const bool has_fill = shown_fill(here), has_stroke = shown_stroke(here);
    if (!here.paint.visible || !(has_fill || has_stroke))
      return;
    const ShapeReading read = svg_shape(node, of_.style(node), here.scale);
    if (read.wrong)
      left_out.add(read.broken_path ? Lost::BrokenPath : Lost::Unread, {}, *read.wrong);
    if (read.subpaths.empty())
      return;
    const std::string id = node.attribute("id").value();
    const double unit = std::abs(here.to_mm.determinant());
    if (!(unit > 0) || !std::isfinite(unit)) {
      left_out.add(Lost::Tiny, {}, id);
      return;
    }
    const auto lines = std::make_shared<const Outline>(
        contours_of(read.subpaths, tolerance(here.to_mm), Ends::AsDrawn).transformed(here.to_mm));
    const Box box = lines->bounds();
    if (!fits_a_sheet(box)) {
      left_out.add(Lost::Beyond, {}, id);
      return;
    }
    if (here.paint.markers)
      left_out.add(Lost::Marker, box, id);
    Outline area = has_fill ? area_of(read.subpaths, here.to_mm, here.paint.even_odd) : Outline{};
    const std::size_t before = seen.size();
    const auto fill_colour =
        area.empty() ? std::nullopt : colour_of(here.paint.fill, here.paint.opacity * here.paint.fill_opacity, box);
    const auto stroke_colour =
        has_stroke ? colour_of(here.paint.stroke, here.paint.opacity * here.paint.stroke_opacity, box) : std::nullopt;
    const double width = stroke_width(here.paint.line, here.to_mm, mm_per_px);
    const bool line = stroke_colour && !fill_colour && width <= options_.widest_line;
    strokes = strokes || (stroke_colour && !fill_colour);
    const bool flat = has_fill && area.empty() && !has_stroke;
    if (fill_colour)
      add(std::move(area), lines, id, *fill_colour, 0);
    if (line) {
      add(stroke_lines(read.subpaths, here.paint.line, here.to_mm, mm_per_px), lines, id, *stroke_colour, width);
    } else if (stroke_colour && is_tangled(*lines)) {
      left_out.add(Lost::Tangled, box, id);
      add(*lines, lines, id, *stroke_colour, width);
    } else if (stroke_colour && width > tiny_shape) {
      stroke_area(read.subpaths, here, lines, id, *stroke_colour,
                  fill_colour && fill_colour->colour == stroke_colour->colour);
    }
    if (seen.size() == before && visited_ <= most_elements && (fill_colour || stroke_colour || flat))
      left_out.add(Lost::Tiny, box, id);
  }

  void stroke_area(const std::vector<Subpath>& subpaths, const Handed& here,
                   const std::shared_ptr<const Outline>& geometry, const std::string& id, const SeenColour& colour,
                   bool joins_fill) {
    Result<Outline> painted = stroke_outline(subpaths, here.paint.line, here.to_mm, mm_per_px, options_.stop);
    if (!painted) {
      if (!stopped())
        left_out.add(Lost::Unread, geometry->bounds(),
                     fmt::format("the stroke of \u201c{}\u201d: {}", id, painted.error().text()));
      return;
    }
    if (joins_fill)
      if (auto both = combined(BooleanOp::Union, {seen.back().shape.outline, *painted}, {})) {
        seen.back().shape.outline = std::move(*both);
        return;
      }
    add(std::move(*painted), geometry, id, colour, 0);
  }

  void add(Outline outline, const std::shared_ptr<const Outline>& geometry, const std::string& id,
           const SeenColour& colour, double line_width) {
    if (outline.contours.empty())
      return;
    const Box box = outline.bounds();
    if (!fits_a_sheet(box)) {
      left_out.add(Lost::Beyond, {}, id);
      return;
    }
    if (box.width() < tiny_shape && box.height() < tiny_shape)
      return;
    if (seen.size() >= most_shapes) {
      if (visited_ <= most_elements)
        left_out.add(Lost::TooMuch);
      visited_ = most_elements + 1; // nothing more is looked at
      return;
    }
    seen.push_back({{std::move(outline), id, colour.colour, line_width},
                    geometry,
                    luminance(colour.colour) * colour.alpha,
                    colour.alpha});
  }

  // What an element's clip, mask and effects make of the shapes that it brought.
  void leave(const pugi::xml_node& node, const Handed& here, std::size_t from) {
    if (seen.size() == from)
      return;
    const ElementStyle& style = of_.style(node);
    const auto told = [&](Lost what, const std::string& detail = {}) {
      left_out.add(what, bounds_from(from), detail.empty() ? node.attribute("id").value() : detail);
    };
    if (const std::string_view filter = style.value("filter"); !filter.empty() && lower_case(filter) != "none")
      if (const auto id = reference_in(filter); !id || of_.find(*id)) {
        told(Lost::Effect);
        for (std::size_t i = from; i < seen.size() && in_mask_; ++i)
          seen[i].light = seen[i].alpha; // often the filter is what makes a mask light
      }
    for (const char* property : {"clip-path", "mask"}) {
      const std::string_view value = style.value(property);
      if (value.empty() || lower_case(value) == "none" || seen.size() == from)
        continue;
      if (!reference_in(value)) {
        told(Lost::Unclipped, std::string(value));
        continue;
      }
      const bool masks = std::string_view(property) == "mask";
      const pugi::xml_node definition = referred(node, property, masks ? "mask" : "clipPath");
      if (!definition)
        continue;
      if (const auto region = masks ? mask(definition, here, from) : clip(definition, here, from))
        apply(*region, from, node);
      else
        told(Lost::Unclipped);
    }
  }
  // What a property refers to; none where that is no such element (CSS Masking 1, 6.1: as if it said nothing).
  pugi::xml_node referred(const pugi::xml_node& node, const char* property, std::string_view wanted) const {
    const auto id = reference_in(of_.style(node).value(property));
    const pugi::xml_node to = id ? of_.find(*id) : pugi::xml_node();
    return wanted == to.name() ? to : pugi::xml_node();
  }

  Box bounds_from(std::size_t from) const {
    Box box;
    for (std::size_t i = from; i < seen.size(); ++i)
      box.add(seen[i].shape.outline.bounds());
    return box;
  }

  void apply(const ClipRegion& region, std::size_t from, const pugi::xml_node& node) {
    std::size_t kept = from;
    for (std::size_t i = from; i < seen.size() && !stopped(); ++i) {
      Result<Outline> part = clipped(seen[i].shape, region, options_.stop);
      if (part)
        seen[i].shape.outline = std::move(*part);
      else if (!stopped())
        left_out.add(Lost::Unclipped, seen[i].shape.outline.bounds(), node.attribute("id").value());
      if (seen[i].shape.outline.contours.empty())
        continue;
      if (kept != i)
        seen[kept] = std::move(seen[i]);
      ++kept;
    }
    if (!stopped())
      seen.resize(kept);
  }

  // The units of a clip's or mask's content, or of its frame.
  Affine units(std::string_view says, std::string_view box_of_object, const Handed& here, std::size_t from) const {
    if (says != box_of_object)
      return here.to_mm;
    if (!(std::abs(here.to_mm.determinant()) > 0))
      return here.to_mm;
    const Affine& m = here.to_mm;
    const double det = m.determinant();
    Affine back{m.d / det, -m.b / det, -m.c / det, m.a / det, 0, 0};
    const Point shift = back.linear({m.e, m.f});
    back.e = -shift.x, back.f = -shift.y;
    Box box;
    for (std::size_t i = from; i < seen.size(); ++i)
      box.add(seen[i].geometry->transformed(back).bounds());
    return m * Affine{box.width(), 0, 0, box.height(), box.x0, box.y0};
  }

  // SVG 1.1, 14.3: the union of its shapes, each by clip-rule. Nothing: it can't be made.
  // Many elements are clipped by one: what does not depend on the elements' own boxes is made once for each place.
  std::optional<ClipRegion> clip(const pugi::xml_node& definition, const Handed& outer, std::size_t from) {
    const Affine& m = outer.to_mm;
    if (std::string_view(definition.attribute("clipPathUnits").value()) == "objectBoundingBox" ||
        referred(definition, "clip-path", "clipPath"))
      return new_clip(definition, outer, from);
    const ClipPlace place{definition.hash_value(),
                          {m.a, m.b, m.c, m.d, m.e, m.f, outer.scale.width, outer.scale.height}};
    const auto known = clips_.find(place);
    return known != clips_.end() ? known->second
                                 : clips_.emplace(place, new_clip(definition, outer, from)).first->second;
  }
  std::optional<ClipRegion> new_clip(const pugi::xml_node& definition, const Handed& outer, std::size_t from) {
    if (using_.count(definition.hash_value()) > 0 || using_.size() >= deepest_use)
      return std::nullopt;
    using_.insert(definition.hash_value());
    Handed start{outer.to_mm, {}, outer.scale};
    start.to_mm = units(definition.attribute("clipPathUnits").value(), "objectBoundingBox", outer, from);
    std::vector<Outline> shapes;
    bool whole = true;
    if (const auto here = entered(definition, start)) {
      Handed inner = *here;
      inner.paint.opacity = 1;
      for (const pugi::xml_node child : definition.children())
        if (child.type() == pugi::node_element)
          whole = clip_part(child, inner, shapes) && whole;
    }
    std::optional<ClipRegion> out;
    if (whole && shapes.size() == 1 && shapes.front().contours.size() == 1)
      out = region_of(std::move(shapes.front())); // mostly a rectangle, which is to stay one
    else if (auto area = whole ? combined(BooleanOp::Union, shapes, {}) : std::nullopt)
      out = region_of(std::move(*area));
    if (const pugi::xml_node further = referred(definition, "clip-path", "clipPath"); out && further)
      out = within(*out, clip(further, outer, from));
    using_.erase(definition.hash_value());
    return out;
  }
  std::optional<ClipRegion> within(const ClipRegion& a, const std::optional<ClipRegion>& b) const {
    auto both = b ? combined(BooleanOp::Intersection, {a.area}, {b->area}) : std::nullopt;
    return both ? std::optional(region_of(std::move(*both))) : std::nullopt;
  }
  bool clip_part(const pugi::xml_node& node, const Handed& outer, std::vector<Outline>& shapes) {
    const std::string_view name = node.name();
    if (name != "use" && name != "text" && !is_svg_shape(name))
      return true;
    if (++visited_ > most_elements)
      return false;
    Handed unclipped = outer;
    unclipped.paint.opacity = 1;
    auto here = entered(node, unclipped);
    if (!here || !here->paint.visible)
      return true;
    if (name == "text")
      return false;
    if (name == "use") {
      const std::string to = SvgDefinitions::href(node);
      const pugi::xml_node target = to.starts_with("#") ? of_.find(to.substr(1)) : pugi::xml_node();
      here->to_mm = here->to_mm * Affine::translation({length(node, "x", *here, LengthAlong::X),
                                                       length(node, "y", *here, LengthAlong::Y)});
      return !is_svg_shape(target.name()) || clip_part(target, *here, shapes);
    }
    const ShapeReading read = svg_shape(node, of_.style(node), here->scale);
    Outline area = area_of(read.subpaths, here->to_mm, here->paint.clip_even_odd);
    if (const pugi::xml_node further = referred(node, "clip-path", "clipPath")) {
      auto region = within(region_of(std::move(area)), clip(further, *here, seen.size()));
      if (!region)
        return false;
      area = std::move(region->area);
    }
    if (!area.empty() && fits_a_sheet(area.bounds()))
      shapes.push_back(std::move(area));
    return true;
  }

  // SVG 1.1, 14.4: what its shapes leave light, one painted on the other; where it is half light it shows too.
  std::optional<ClipRegion> mask(const pugi::xml_node& definition, const Handed& outer, std::size_t from) {
    if (using_.count(definition.hash_value()) > 0 || using_.size() >= deepest_use)
      return std::nullopt;
    using_.insert(definition.hash_value());
    const ElementStyle& style = of_.style(definition);
    const bool by_alpha = lower_case(style.value("mask-type")) == "alpha";
    Handed start{
        units(definition.attribute("maskContentUnits").value(), "objectBoundingBox", outer, from), {}, outer.scale};
    start.paint = painted(style, {}, outer.scale);
    start.paint.opacity = 1;
    Handed frame{outer.to_mm, {}, outer.scale};
    const bool in_user_units = std::string_view(definition.attribute("maskUnits").value()) == "userSpaceOnUse";
    frame.to_mm = units(in_user_units ? "" : "box", "box", outer, from);
    if (!in_user_units)
      frame.scale.width = frame.scale.height = 1;
    const double x = length(definition, "x", frame, LengthAlong::X, -0.1 * frame.scale.width),
                 y = length(definition, "y", frame, LengthAlong::Y, -0.1 * frame.scale.height),
                 w = length(definition, "width", frame, LengthAlong::X, 1.2 * frame.scale.width),
                 h = length(definition, "height", frame, LengthAlong::Y, 1.2 * frame.scale.height);
    std::vector<SeenShape> outside = std::move(seen);
    seen.clear();
    LeftOutList told; // what stands in a mask is not missing in the drawing
    std::swap(told, left_out);
    const bool nested = std::exchange(in_mask_, true);
    inside(definition, start);
    in_mask_ = nested;
    const std::vector<LeftOut> lost = left_out.list();
    const bool lossy = std::any_of(lost.begin(), lost.end(), [](const LeftOut& l) {
      return l.what == Lost::Text || l.what == Lost::Picture || l.what == Lost::OtherContent;
    });
    left_out = std::move(told);
    std::vector<SeenShape> shapes = std::move(seen);
    seen = std::move(outside);
    using_.erase(definition.hash_value());
    Outline light;
    for (const SeenShape& s : shapes) {
      const double much = by_alpha ? s.alpha : s.light;
      const bool darkens = !by_alpha && s.light < least_opacity && s.alpha > 1 - least_opacity;
      if (much < least_opacity && !darkens)
        continue;
      auto now = combined(darkens ? BooleanOp::Difference : BooleanOp::Union, {light}, {s.shape.outline});
      if (!now)
        return std::nullopt;
      light = std::move(*now);
    }
    if (lossy && shapes.empty())
      return std::nullopt;
    if (!(w > 0) || !(h > 0))
      return ClipRegion{};
    return within(region_of(std::move(light)), region_of(rectangle(frame.to_mm, {x, y, x + w, y + h})));
  }

  static constexpr std::size_t deepest_use = 16, most_shapes = 100'000, most_elements = 300'000;
  static constexpr int deepest = 1000;
  const DrawingReadOptions& options_;
  const SvgDefinitions& of_;
  std::unordered_set<std::size_t> using_; // what is being copied, so that nothing holds itself
  int depth_ = 0;
  bool in_mask_ = false;
  using ClipPlace = std::pair<std::size_t, std::array<double, 8>>;
  std::map<ClipPlace, std::optional<ClipRegion>> clips_;
  std::size_t visited_ = 0, elements_ = 0;
};

} // namespace

Result<Drawing> read_svg(std::string_view bytes, const DrawingReadOptions& options) {
  const Result<std::shared_ptr<pugi::xml_document>> tree = svg_tree(bytes);
  if (!tree)
    return tree.error();
  const pugi::xml_node root = (*tree)->document_element();
  if (std::string_view(root.name()) != "svg")
    return bad_input(FRELM_WORDS("core", "has no <svg> element; choose an SVG file"));
  LeftOutList left_out;
  const SvgDefinitions definitions(root, left_out);
  const SvgPage page = page_of(root, definitions.style(root), left_out);
  const Box frame{page.origin.x, page.origin.y, page.origin.x + page.width, page.origin.y + page.height};
  if (!(std::max({page.width, page.height, std::abs(page.origin.x), std::abs(page.origin.y)}) <= largest_number))
    return bad_input(say(FRELM_WORDS("core", "says it is %1 x %2 mm; give it a size that a sheet can have"),
                         fmt::format("{:g}", page.width), fmt::format("{:g}", page.height)));
  DrawingReader reader(definitions, left_out, options);
  reader.read(root, {page.to_mm, {}, page.scale});
  if (reader.stopped())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  Drawing out;
  out.frame = frame, out.size = page.size, out.strokes = reader.strokes;
  if (page.size != SizeFrom::Lengths)
    out.sizes = {{"px", FRELM_WORDS("core", "1/96 in"), 1},
                 {"pt", FRELM_WORDS("core", "1/72 in"), 96.0 / 72},
                 {"mm", FRELM_WORDS("core", "1 mm"), 1 / mm_per_px},
                 {"in", FRELM_WORDS("core", "1 in"), 96}};
  constexpr double edge = 1e-6; // mm
  for (SeenShape& s : reader.seen) {
    const Box box = s.shape.outline.bounds();
    if (page.bounded && !box.grown(edge).overlaps(frame)) {
      left_out.add(Lost::OffPage, box, s.shape.id);
      continue;
    }
    if (!page.bounded)
      out.frame.add(box);
    out.shapes.push_back(std::move(s.shape));
  }
  out.left_out = left_out.list();
  return out;
}

} // namespace frelm
