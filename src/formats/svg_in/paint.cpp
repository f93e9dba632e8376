#include "formats/svg_in/paint.h"

namespace frelm {
namespace {

std::optional<Paint> paint_of(std::string_view value, const PaintState& here) {
  const std::string_view text = trimmed(value);
  const std::string word = lower_case(text);
  if (word.empty() || word == "inherit" || word == "unset" || word == "context-fill" || word == "context-stroke")
    return std::nullopt;
  if (word == "none")
    return Paint{};
  if (word == "currentcolor")
    return Paint{here.current, {}};
  if (const auto id = reference_in(text)) {
    const std::size_t shut = text.find(')');
    const std::string_view behind = shut == std::string_view::npos ? "" : trimmed(text.substr(shut + 1));
    Paint out = paint_of(behind, here).value_or(Paint{});
    out.server = *id;
    return out;
  }
  if (const auto c = css_colour(text))
    return Paint{c, {}};
  return std::nullopt;
}

double font_size(std::string_view value, const PaintState& outer, const LengthScale& scale) {
  const std::string word = lower_case(trimmed(value));
  LengthScale of = scale;
  of.font_size = outer.font_size;
  if (word.ends_with('%'))
    return share_of_one(word).value_or(1) * outer.font_size;
  return svg_length(word, of, LengthAlong::Other).value_or(outer.font_size);
}

void read_line(const ElementStyle& style, const LengthScale& scale, StrokeStyle& line) {
  const auto length = [&](std::string_view text) { return svg_length(text, scale, LengthAlong::Other); };
  if (const auto w = length(style.value("stroke-width")); w && *w >= 0)
    line.width = *w;
  const std::string cap = lower_case(style.value("stroke-linecap")), join = lower_case(style.value("stroke-linejoin"));
  if (cap == "butt" || cap == "round" || cap == "square")
    line.cap = cap == "butt" ? CapStyle::Flat : cap == "round" ? CapStyle::Round : CapStyle::Square;
  if (join == "miter" || join == "miter-clip" || join == "arcs" || join == "round" || join == "bevel")
    line.join = join == "round" ? JoinStyle::Round : join == "bevel" ? JoinStyle::Bevel : JoinStyle::Mitre;
  if (const auto v = svg_numbers(style.value("stroke-miterlimit")); v.size() == 1 && v[0] >= 1)
    line.mitre_limit = v[0];
  const std::string vector = lower_case(style.value("vector-effect"));
  if (!vector.empty())
    line.of_the_screen = vector == "non-scaling-stroke";
  if (const auto v = length(style.value("stroke-dashoffset")))
    line.dash_offset = *v;
  std::string_view dashes = trimmed(style.value("stroke-dasharray"));
  if (dashes.empty() || lower_case(dashes) == "inherit")
    return;
  line.dashes.clear();
  double sum = 0;
  while (!dashes.empty()) { // SVG 1.1, 11.4: a negative one, or nothing but 0, is a whole line
    const std::size_t end = std::min(dashes.find_first_of(" \t\r\n\f,"), dashes.size());
    const auto v = length(dashes.substr(0, end));
    if (!v || *v < 0) {
      line.dashes.clear();
      return;
    }
    sum += *v;
    line.dashes.push_back(*v);
    dashes.remove_prefix(end);
    dashes.remove_prefix(std::min(dashes.find_first_not_of(" \t\r\n\f,"), dashes.size()));
  }
  if (!(sum > 0))
    line.dashes.clear();
  else if (line.dashes.size() % 2 != 0)
    line.dashes.insert(line.dashes.end(), line.dashes.begin(), line.dashes.end());
}

} // namespace

std::optional<std::string> reference_in(std::string_view value) {
  const std::string_view text = trimmed(value);
  if (text.size() < 5 || lower_case(text.substr(0, 4)) != "url(")
    return std::nullopt;
  const std::size_t shut = text.find(')');
  std::string_view inside = trimmed(text.substr(4, shut == std::string_view::npos ? shut : shut - 4));
  if (!inside.empty() && (inside.front() == '"' || inside.front() == '\''))
    inside = trimmed(inside.substr(1, inside.size() < 2 ? 0 : inside.size() - 2));
  return inside.starts_with('#') ? std::string(inside.substr(1)) : std::string();
}

std::optional<double> share_of_one(std::string_view value) {
  const std::string_view text = trimmed(value);
  const std::vector<double> v = svg_numbers(text);
  if (v.size() != 1)
    return std::nullopt;
  return std::clamp(text.ends_with('%') ? v[0] / 100 : v[0], 0.0, 1.0);
}

PaintState painted(const ElementStyle& style, const PaintState& outer, const LengthScale& scale) {
  PaintState out = outer;
  if (const std::string_view size = style.value("font-size"); !size.empty())
    out.font_size = font_size(size, outer, scale);
  LengthScale own = scale;
  own.font_size = out.font_size;
  if (const auto c = css_colour(style.value("color")))
    out.current = *c;
  if (const auto p = paint_of(style.value("fill"), out))
    out.fill = *p;
  if (const auto p = paint_of(style.value("stroke"), out))
    out.stroke = *p;
  if (const auto v = share_of_one(style.value("fill-opacity")))
    out.fill_opacity = *v;
  if (const auto v = share_of_one(style.value("stroke-opacity")))
    out.stroke_opacity = *v;
  if (const auto v = share_of_one(style.value("opacity")))
    out.opacity = outer.opacity * *v;
  const auto rule = [](std::string_view value, bool& even_odd) {
    const std::string word = lower_case(value);
    if (word == "evenodd" || word == "nonzero")
      even_odd = word == "evenodd";
  };
  rule(style.value("fill-rule"), out.even_odd);
  rule(style.value("clip-rule"), out.clip_even_odd);
  const std::string visibility = lower_case(style.value("visibility"));
  if (visibility == "visible" || visibility == "hidden" || visibility == "collapse")
    out.visible = visibility == "visible";
  for (const char* name : {"marker", "marker-start", "marker-mid", "marker-end"})
    if (const std::string_view value = style.value(name); !value.empty())
      out.markers = reference_in(value).has_value();
  out.line.of_the_screen = false;
  read_line(style, own, out.line);
  return out;
}

} // namespace frelm
