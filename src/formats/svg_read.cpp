// The document is walked depth first with what each element hands on: its transform, its style, the viewport. Basic
// shapes become path data's cubics; `use` walks what it refers to, counted, so that references can't go on for ever.
#include "formats/svg.h"

#include "document/validity.h"
#include "formats/svg_style.h"
#include "geom/arc_cubics.h"
#include "geom/boolean.h"
#include "geom/path_data.h"

#include <charconv>
#include <fmt/format.h>
#include <optional>
#include <pugixml.hpp>
#include <unordered_map>

namespace frelm {
namespace {

constexpr double mm_per_px = 25.4 / 96; // CSS 2.1, 4.3.2: 1px = 1/96 in

// A number as SVG has them: from_chars also takes "inf" and "nan".
std::from_chars_result read_number(const char* from, const char* to, double& v) {
  const std::from_chars_result read = std::from_chars(from, to, v);
  return read.ec == std::errc() && !std::isfinite(v) ? std::from_chars_result{from, std::errc::invalid_argument} : read;
}

std::vector<double> numbers(std::string_view text) {
  std::vector<double> out;
  std::size_t at = 0;
  while (at < text.size()) {
    double v = 0;
    if (text[at] == '+')
      ++at;
    const auto [end, status] = read_number(text.data() + at, text.data() + text.size(), v);
    if (status != std::errc()) {
      if (at < text.size() && std::isalpha(static_cast<unsigned char>(text[at])) != 0)
        break; // what stands before an error holds (SVG 1.1, F.2)
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
  const auto [end, status] = read_number(text.data(), text.data() + text.size(), v);
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
      return bad_input(FRELM_WORDS("core", "a transform can't be read"), as_it_is(std::string(text)));
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
      return bad_input(FRELM_WORDS("core", "a transform can't be read"), as_it_is(std::string(text)));
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

// What an element hands on to those inside it.
struct Handed {
  Affine to_mm;
  Colour colour;
  bool even_odd = false;
};

class DrawingReader {
public:
  DrawingReader(const pugi::xml_node& root, double arc_scale)
      : arc_tolerance_(default_arc_tolerance / std::max(arc_scale, 1e-9)) {
    // Not by pugixml's find_node for each reference: that would be quadratic.
    for (pugi::xml_node n = root; n; n = next_of(n, root)) {
      if (const char* id = n.attribute("id").value(); *id != 0)
        by_id_.emplace(id, n);
      if (local_name(n) == "style")
        sheets_.add(text_of(n));
    }
    for (const std::string& selector : sheets_.passed_over())
      drawing.skipped.push_back(fmt::format("the style of \u201c{}\u201d", selector));
  }

  Result<Done> read(const pugi::xml_node& root, const Affine& to_mm) {
    return inside(root, handed_on(sheets_.of(root), {to_mm, Colour{0, 0, 0}, false}));
  }

  SvgDrawing drawing;

private:
  static pugi::xml_node next_of(pugi::xml_node n, const pugi::xml_node& root) { // depth first
    if (n.first_child())
      return n.first_child();
    while (n != root && !n.next_sibling())
      n = n.parent();
    return n == root ? pugi::xml_node() : n.next_sibling();
  }
  static std::string text_of(const pugi::xml_node& style) {
    std::string out;
    for (const pugi::xml_node part : style.children())
      out += part.value();
    return out;
  }

  static Handed handed_on(const ElementStyle& style, const Handed& outer) {
    Handed out = outer;
    for (const char* name : {"stroke", "fill"})
      if (const auto c = css_colour(style.value(name)))
        out.colour = *c;
    if (const std::string rule = style.value("fill-rule"); rule == "evenodd" || rule == "nonzero")
      out.even_odd = rule == "evenodd";
    return out;
  }

  Result<Done> inside(const pugi::xml_node& node, const Handed& outer) {
    if (++depth_ > deepest) {
      --depth_;
      return bad_input(say(FRELM_WORDS("core", "groups stand more than %1 deep in each other; ungroup some"),
                           std::to_string(deepest)));
    }
    Result<Done> done = Done{};
    for (pugi::xml_node child = node.first_child(); child && done.ok(); child = child.next_sibling())
      if (child.type() == pugi::node_element)
        done = element(child, outer);
    --depth_;
    return done;
  }

  Result<Done> element(const pugi::xml_node& node, const Handed& outer) {
    const std::string_view name = local_name(node);
    if (name == "defs" || name == "metadata" || name == "title" || name == "desc" || name == "style" ||
        name == "symbol")
      return Done{};
    const ElementStyle style = sheets_.of(node);
    if (style.value("display") == "none")
      return Done{};
    if (++visited_ > most_elements)
      return bad_input(
          say(FRELM_WORDS("core", "with its copies of copies the drawing has more than %1 elements; split it up first"),
              std::to_string(most_elements)));
    const Result<Affine> own = parse_transform(node.attribute("transform").value());
    if (!own)
      return own.error();
    Handed here = handed_on(style, outer);
    here.to_mm = outer.to_mm * *own;
    if (name == "svg")
      here.to_mm = here.to_mm * inner_frame(node, node);
    if (name == "g" || name == "a" || name == "svg" || name == "switch")
      return inside(node, here);
    if (name == "use")
      return use(node, here);
    Result<Outline> outline = shape(node, name);
    if (!outline)
      return outline.error();
    if (outline->empty()) {
      if (!known(name))
        drawing.skipped.push_back(fmt::format("<{}> {}", name, node.attribute("id").value()));
      return Done{};
    }
    return take(node, outline->transformed(here.to_mm), here);
  }

  Result<Done> take(const pugi::xml_node& node, Outline placed, const Handed& here) {
    if (drawing.shapes.size() >= most_shapes)
      return bad_input(FRELM_WORDS("core", "the drawing has more than 100,000 shapes; split it up first"));
    const std::string id = node.attribute("id").value();
    const Box box = placed.bounds();
    if (!(std::max({-box.x0, box.x1, -box.y0, box.y1}) <= largest_number)) {
      drawing.skipped.push_back(fmt::format("<{}> {}: reaches beyond {:g} mm", local_name(node), id, largest_number));
      return Done{};
    }
    if (here.even_odd) { // SVG 1.1, 11.3; outlines here are filled by the nonzero rule
      Result<WeldResult> same_area = self_union(placed, FillRule::EvenOdd);
      if (!same_area)
        return same_area.error();
      placed = std::move(same_area->outline);
    }
    drawing.shapes.push_back({std::move(placed), id, here.colour});
    return Done{};
  }

  // SVG 1.1, 5.6: the element referred to, moved by x and y, inheriting from here; a symbol or svg fills the width and
  // height given.
  Result<Done> use(const pugi::xml_node& node, const Handed& outer) {
    std::string href = node.attribute("href").value();
    if (href.empty())
      href = node.attribute("xlink:href").value();
    const auto target = by_id_.find(href.starts_with("#") ? href.substr(1) : "");
    if (target == by_id_.end() || use_depth_ >= deepest_use) {
      drawing.skipped.push_back(fmt::format("<use> of {}", href));
      return Done{};
    }
    Handed here = outer;
    here.to_mm = outer.to_mm * Affine::translation({number(node, "x"), number(node, "y")});
    ++use_depth_;
    Result<Done> done = Done{};
    const std::string_view name = local_name(target->second);
    if (name == "symbol" || name == "svg") {
      const Result<Affine> own = parse_transform(target->second.attribute("transform").value());
      if (own) {
        here.to_mm = here.to_mm * *own * inner_frame(target->second, node);
        done = inside(target->second, handed_on(sheets_.of(target->second), here));
      } else {
        done = own.error();
      }
    } else {
      done = element(target->second, here);
    }
    --use_depth_;
    return done;
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

  static bool known(std::string_view name) {
    return name == "path" || name == "rect" || name == "circle" || name == "ellipse" || name == "line" ||
           name == "polyline" || name == "polygon";
  }
  static double number(const pugi::xml_node& node, const char* name, double otherwise = 0) {
    return length_px(node.attribute(name).value()).value_or(otherwise);
  }

  Result<Outline> shape(const pugi::xml_node& node, std::string_view name) const {
    if (name == "path") {
      Result<std::vector<Subpath>> data = parse_path_data(node.attribute("d").value());
      if (!data)
        return placed_within(say(FRELM_WORDS("core", "path %1"), std::string(node.attribute("id").value())),
                             data.error());
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

  static constexpr int deepest_use = 16, deepest = 1000;
  static constexpr std::size_t most_shapes = 100'000, most_elements = 1'000'000;
  StyleSheets sheets_;
  std::unordered_map<std::string, pugi::xml_node> by_id_; // the first that has it
  int use_depth_ = 0, depth_ = 0;
  std::size_t visited_ = 0;
  double arc_tolerance_; // in user units, so that it is default_arc_tolerance in mm
};

} // namespace

Result<SvgDrawing> read_svg(std::string_view bytes) {
  pugi::xml_document xml;
  const pugi::xml_parse_result parsed = xml.load_buffer(bytes.data(), bytes.size());
  if (!parsed)
    return Error{ErrorCode::Unreadable,
                 say(FRELM_WORDS("core", "is not well-formed XML (%1); save it again as SVG"),
                     std::string(parsed.description())),
                 say(FRELM_WORDS("core", "byte %1"), std::to_string(parsed.offset))};
  const pugi::xml_node root = xml.document_element();
  const std::string_view name = root.name();
  if (name != "svg" && !name.ends_with(":svg"))
    return bad_input(FRELM_WORDS("core", "has no <svg> element; choose an SVG file"));
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
  if (!(std::max({width, height, std::abs(origin.x), std::abs(origin.y)}) <= largest_number))
    return bad_input(say(FRELM_WORDS("core", "says it is %1 x %2 mm; give it a size that a sheet can have"),
                         fmt::format("{:g}", width), fmt::format("{:g}", height)));
  DrawingReader reader(root, std::sqrt(std::abs(m.determinant())));
  if (const Result<Done> done = reader.read(root, m); !done)
    return done.error();
  reader.drawing.frame = {origin.x, origin.y, origin.x + width, origin.y + height};
  return std::move(reader.drawing);
}

} // namespace frelm
