#include "formats/svg.h"

#include "geom/arc_cubics.h"
#include "geom/boolean.h"
#include "geom/path_data.h"

#include <charconv>
#include <fmt/format.h>
#include <optional>
#include <pugixml.hpp>

namespace frelm {
namespace {

constexpr double mm_per_px = 25.4 / 96; // CSS 2.1, 4.3.2: 1px = 1/96 in

std::vector<double> numbers(std::string_view text) {
  std::vector<double> out;
  std::size_t at = 0;
  while (at < text.size()) {
    double v = 0;
    if (text[at] == '+')
      ++at;
    const auto [end, status] = std::from_chars(text.data() + at, text.data() + text.size(), v);
    if (status != std::errc()) {
      ++at;
      continue;
    }
    out.push_back(v);
    at = static_cast<std::size_t>(end - text.data());
  }
  return out;
}

// A length in user units (px unless a unit is given); percentages have no meaning here.
std::optional<double> length_px(std::string_view text) {
  double v = 0;
  if (!text.empty() && text[0] == '+')
    text.remove_prefix(1);
  const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), v);
  if (status != std::errc())
    return std::nullopt;
  std::string_view unit = text.substr(static_cast<std::size_t>(end - text.data()));
  while (!unit.empty() && unit.back() == ' ')
    unit.remove_suffix(1);
  if (unit.empty() || unit == "px")
    return v;
  if (unit == "mm")
    return v / mm_per_px;
  if (unit == "cm")
    return v * 10 / mm_per_px;
  if (unit == "in")
    return v * 96;
  if (unit == "pt")
    return v * 96 / 72;
  if (unit == "pc")
    return v * 16;
  if (unit == "q" || unit == "Q")
    return v / 4 / mm_per_px;
  return std::nullopt;
}

Result<Affine> parse_transform(std::string_view text) {
  Affine m;
  std::size_t at = 0;
  while (at < text.size()) {
    while (at < text.size() && (std::isspace(static_cast<unsigned char>(text[at])) != 0 || text[at] == ','))
      ++at;
    if (at >= text.size())
      break;
    const std::size_t open = text.find('(', at), shut = text.find(')', at);
    if (open == std::string_view::npos || shut == std::string_view::npos || shut < open)
      return bad_input("a transform can't be read", std::string(text));
    std::string_view name = text.substr(at, open - at);
    while (!name.empty() && name.back() == ' ')
      name.remove_suffix(1);
    const std::vector<double> v = numbers(text.substr(open + 1, shut - open - 1));
    at = shut + 1;
    Affine step;
    if (name == "matrix" && v.size() == 6)
      step = {v[0], v[1], v[2], v[3], v[4], v[5]};
    else if (name == "translate" && (v.size() == 1 || v.size() == 2))
      step = Affine::translation({v[0], v.size() == 2 ? v[1] : 0});
    else if (name == "scale" && (v.size() == 1 || v.size() == 2))
      step = Affine::scaling(v[0], v.size() == 2 ? v[1] : v[0]);
    else if (name == "rotate" && (v.size() == 1 || v.size() == 3)) {
      const Point c = v.size() == 3 ? Point{v[1], v[2]} : Point{};
      step = Affine::translation(c) * Affine::rotation(radians(v[0])) * Affine::translation(-c);
    } else if (name == "skewX" && v.size() == 1)
      step.c = std::tan(radians(v[0]));
    else if (name == "skewY" && v.size() == 1)
      step.b = std::tan(radians(v[0]));
    else
      return bad_input("a transform can't be read", std::string(text));
    m = m * step;
  }
  return m;
}

Outline polygon(const std::vector<double>& v, bool closed) {
  Contour c;
  c.closed = closed;
  for (std::size_t i = 0; i + 3 < v.size(); i += 2)
    c.segments.push_back(Segment::line({v[i], v[i + 1]}, {v[i + 2], v[i + 3]}));
  if (c.segments.empty())
    return {};
  if (closed && c.segments.back().p3 != c.segments.front().p0)
    c.segments.push_back(Segment::line(c.segments.back().p3, c.segments.front().p0));
  return {{c}};
}

class DrawingReader {
public:
  explicit DrawingReader(double arc_scale) : arc_tolerance_(default_arc_tolerance / std::max(arc_scale, 1e-9)) {}

  Result<Done> walk(const pugi::xml_node& node, const Affine& outer, Colour inherited) {
    for (const pugi::xml_node child : node.children()) {
      if (child.type() != pugi::node_element)
        continue;
      const std::string_view name = local_name(child);
      if (name == "defs" || name == "metadata" || name == "title" || name == "desc" || name == "style" ||
          name == "symbol" || property(child, "display") == "none")
        continue;
      const Result<Affine> own = parse_transform(child.attribute("transform").value());
      if (!own)
        return own.error();
      const Affine m = outer * *own;
      const Colour colour = colour_of(child, inherited);
      if (name == "g" || name == "a" || name == "svg" || name == "switch") {
        if (const Result<Done> r = walk(child, name == "svg" ? m * inner_frame(child, child) : m, colour); !r)
          return r.error();
        continue;
      }
      if (name == "use") {
        if (const Result<Done> r = use(child, m, colour); !r)
          return r.error();
        continue;
      }
      Result<Outline> outline = shape(child, name);
      if (!outline)
        return outline.error();
      if (outline->empty()) {
        if (!known(name))
          drawing.skipped.push_back(fmt::format("<{}> {}", name, child.attribute("id").value()));
        continue;
      }
      if (drawing.shapes.size() >= most_shapes)
        return bad_input("the drawing has more than 100,000 shapes; split it up first");
      Outline placed = outline->transformed(m);
      if (even_odd(child)) { // SVG 1.1, 11.3; outlines here are filled by the nonzero rule
        Result<WeldResult> same_area = self_union(placed, FillRule::EvenOdd);
        if (!same_area)
          return same_area.error();
        placed = std::move(same_area->outline);
      }
      drawing.shapes.push_back({std::move(placed), child.attribute("id").value(), colour});
    }
    return Done{};
  }

  SvgDrawing drawing;

private:
  // SVG 1.1, 5.6: the element referred to, moved by x and y; a symbol or svg fills the width and height given.
  Result<Done> use(const pugi::xml_node& node, const Affine& outer, Colour inherited) {
    std::string href = node.attribute("href").value();
    if (href.empty())
      href = node.attribute("xlink:href").value();
    const pugi::xml_node target = href.starts_with("#") ? by_id(node.root(), href.substr(1)) : pugi::xml_node();
    if (!target || depth_ >= deepest_use) {
      drawing.skipped.push_back(fmt::format("<use> of {}", href));
      return Done{};
    }
    Affine m = outer * Affine::translation({number(node, "x"), number(node, "y")});
    const std::string_view name = local_name(target);
    ++depth_;
    Result<Done> done = Done{};
    if (name == "symbol" || name == "svg") {
      const Result<Affine> own = parse_transform(target.attribute("transform").value());
      if (own)
        done = walk(target, m * *own * inner_frame(target, node), colour_of(target, inherited));
      else
        done = own.error();
    } else {
      done = element(target, m, inherited);
    }
    --depth_;
    return done;
  }

  // What walk does with one child, for an element found elsewhere.
  Result<Done> element(const pugi::xml_node& node, const Affine& outer, Colour inherited) {
    pugi::xml_document holder; // a parent with just this child
    holder.append_child("g").append_copy(node);
    // References inside the copy are looked up in the drawing itself.
    return walk_in(holder.first_child(), node.root(), outer, inherited);
  }
  Result<Done> walk_in(const pugi::xml_node& parent, const pugi::xml_node& root, const Affine& outer,
                       Colour inherited) {
    const pugi::xml_node before = root_;
    root_ = root_ ? root_ : root;
    Result<Done> done = walk(parent, outer, inherited);
    root_ = before;
    return done;
  }
  pugi::xml_node by_id(const pugi::xml_node& root, const std::string& id) const {
    return (root_ ? root_ : root).find_node([&](const pugi::xml_node& n) { return id == n.attribute("id").value(); });
  }

  // Places an inner svg or symbol: its x and y, and its viewBox fitted into width and height, proportions kept.
  static Affine inner_frame(const pugi::xml_node& node, const pugi::xml_node& sized) {
    Affine m;
    if (local_name(node) == "svg")
      m = Affine::translation({number(node, "x"), number(node, "y")});
    const std::vector<double> box = numbers(node.attribute("viewBox").value());
    if (box.size() != 4 || !(box[2] > 0) || !(box[3] > 0))
      return m;
    const double w = number(sized, "width", number(node, "width", box[2])),
                 h = number(sized, "height", number(node, "height", box[3]));
    const double k = std::min(w / box[2], h / box[3]);
    return m * Affine{k, 0, 0, k, (w - box[2] * k) / 2 - box[0] * k, (h - box[3] * k) / 2 - box[1] * k};
  }

  static std::string_view local_name(const pugi::xml_node& node) {
    const std::string_view name = node.name();
    const std::size_t colon = name.find(':');
    return colon == std::string_view::npos ? name : name.substr(colon + 1);
  }
  static bool known(std::string_view name) {
    return name == "path" || name == "rect" || name == "circle" || name == "ellipse" || name == "line" ||
           name == "polyline" || name == "polygon";
  }
  static std::string property(const pugi::xml_node& node, const std::string& name) {
    const std::string style = node.attribute("style").value();
    for (std::size_t at = 0; at < style.size();) {
      const std::size_t end = std::min(style.find(';', at), style.size());
      const std::string item = style.substr(at, end - at);
      const std::size_t colon = item.find(':');
      if (colon != std::string::npos) {
        const std::size_t first = item.find_first_not_of(' ');
        if (item.substr(first, colon - first) == name) {
          const std::size_t value = item.find_first_not_of(' ', colon + 1);
          return value == std::string::npos ? "" : item.substr(value);
        }
      }
      at = end + 1;
    }
    return node.attribute(name.c_str()).value();
  }
  // An inherited property: the nearest element that gives one decides.
  static bool even_odd(pugi::xml_node node) {
    for (; node; node = node.parent())
      if (const std::string rule = property(node, "fill-rule"); !rule.empty() && rule != "inherit")
        return rule.starts_with("evenodd");
    return false;
  }
  static Colour colour_of(const pugi::xml_node& node, Colour inherited) {
    for (const char* name : {"fill", "stroke"})
      if (const Result<Colour> c = colour_from_hex(property(node, name)))
        return *c;
    return inherited;
  }
  static double number(const pugi::xml_node& node, const char* name, double otherwise = 0) {
    return length_px(node.attribute(name).value()).value_or(otherwise);
  }

  Result<Outline> shape(const pugi::xml_node& node, std::string_view name) const {
    if (name == "path") {
      Result<std::vector<Subpath>> data = parse_path_data(node.attribute("d").value());
      if (!data)
        return Error{data.error().code, data.error().message,
                     fmt::format("path {}, {}", node.attribute("id").value(), data.error().where)};
      return outline_of(*data);
    }
    if (name == "polygon" || name == "polyline")
      return polygon(numbers(node.attribute("points").value()), name == "polygon");
    if (name == "line")
      return polygon({number(node, "x1"), number(node, "y1"), number(node, "x2"), number(node, "y2")}, false);
    if (name == "circle" || name == "ellipse") {
      const double rx = number(node, name == "circle" ? "r" : "rx"), ry = number(node, name == "circle" ? "r" : "ry");
      if (!(rx > 0) || !(ry > 0))
        return Outline{};
      return outline_of({Subpath{{ArcPiece{{number(node, "cx"), number(node, "cy")}, rx, ry, 0, 0, 2 * pi}}, true}});
    }
    if (name == "rect")
      return rectangle(node);
    return Outline{};
  }

  Outline rectangle(const pugi::xml_node& node) const {
    const double x = number(node, "x"), y = number(node, "y"), w = number(node, "width"), h = number(node, "height");
    if (!(w > 0) || !(h > 0))
      return {};
    double rx = number(node, "rx", -1), ry = number(node, "ry", -1);
    if (rx < 0)
      rx = std::max(ry, 0.0);
    if (ry < 0)
      ry = rx;
    rx = std::min(rx, w / 2), ry = std::min(ry, h / 2);
    if (rx == 0 || ry == 0)
      return polygon({x, y, x + w, y, x + w, y + h, x, y + h}, true);
    const double q = pi / 2;
    return outline_of({Subpath{
        {Segment::line({x + rx, y}, {x + w - rx, y}), ArcPiece{{x + w - rx, y + ry}, rx, ry, 0, -q, q},
         Segment::line({x + w, y + ry}, {x + w, y + h - ry}), ArcPiece{{x + w - rx, y + h - ry}, rx, ry, 0, 0, q},
         Segment::line({x + w - rx, y + h}, {x + rx, y + h}), ArcPiece{{x + rx, y + h - ry}, rx, ry, 0, q, q},
         Segment::line({x, y + h - ry}, {x, y + ry}), ArcPiece{{x + rx, y + ry}, rx, ry, 0, 2 * q, q}},
        true}});
  }

  Outline outline_of(const std::vector<Subpath>& subpaths) const { return to_outline(subpaths, arc_tolerance_); }

  static constexpr int deepest_use = 16;
  static constexpr std::size_t most_shapes = 100'000;
  int depth_ = 0;
  pugi::xml_node root_;  // of the drawing, while a copy of an element is walked
  double arc_tolerance_; // in user units, so that it is default_arc_tolerance in mm
};

} // namespace

Result<SvgDrawing> read_svg(std::string_view bytes) {
  pugi::xml_document xml;
  const pugi::xml_parse_result parsed = xml.load_buffer(bytes.data(), bytes.size());
  if (!parsed)
    return Error{ErrorCode::Unreadable,
                 fmt::format("is not well-formed XML ({}); save it again as SVG", parsed.description()),
                 fmt::format("byte {}", parsed.offset)};
  const pugi::xml_node root = xml.document_element();
  const std::string_view name = root.name();
  if (name != "svg" && !name.ends_with(":svg"))
    return bad_input("has no <svg> element; choose an SVG file");
  const std::vector<double> box = numbers(root.attribute("viewBox").value());
  const bool has_box = box.size() == 4 && box[2] > 0 && box[3] > 0;
  const std::optional<double> w = length_px(root.attribute("width").value()),
                              h = length_px(root.attribute("height").value());
  // user → mm: the viewBox fills width x height, keeping its proportions and centred (preserveAspectRatio's default).
  Affine m = Affine::scaling(mm_per_px, mm_per_px);
  double width = w.value_or(has_box ? box[2] : 300) * mm_per_px,
         height = h.value_or(has_box ? box[3] : 150) * mm_per_px;
  Point origin;
  if (has_box) {
    if (w && !h)
      height = width * box[3] / box[2];
    if (h && !w)
      width = height * box[2] / box[3];
    const double k = std::min(width / box[2], height / box[3]);
    // Frames whose origin is not 0 keep it, so that mm files come back with the coordinates they hold.
    origin = {box[0] * k, box[1] * k};
    m = Affine{k, 0, 0, k, (width - box[2] * k) / 2, (height - box[3] * k) / 2};
  }
  DrawingReader reader(std::sqrt(std::abs(m.determinant())));
  if (const Result<Done> done = reader.walk(root, m, Colour{0, 0, 0}); !done)
    return done.error();
  reader.drawing.frame = {origin.x, origin.y, origin.x + width, origin.y + height};
  return std::move(reader.drawing);
}

} // namespace frelm
