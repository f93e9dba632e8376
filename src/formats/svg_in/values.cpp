#include "formats/svg_in/values.h"

#include <charconv>
#include <string>

namespace frelm {
namespace {

constexpr std::string_view blanks = " \t\r\n\f";
constexpr double px_per_mm = 96 / 25.4; // CSS Values 3, 6.2

// A number as SVG has them: from_chars also takes "inf" and "nan".
std::optional<double> take_number(std::string_view& text) {
  double v = 0;
  std::string_view rest = text;
  if (rest.starts_with('+'))
    rest.remove_prefix(1);
  const auto [end, status] = std::from_chars(rest.data(), rest.data() + rest.size(), v);
  if (status != std::errc() || !std::isfinite(v))
    return std::nullopt;
  const char* after = end;
  // "1em" is one em, not the beginning of an exponent; from_chars sees to that.
  rest.remove_prefix(static_cast<std::size_t>(after - rest.data()));
  text = rest;
  return v;
}

void skip(std::string_view& text, std::string_view what) {
  text.remove_prefix(std::min(text.find_first_not_of(what), text.size()));
}

std::optional<double> in_px(double v, const std::string& unit) {
  if (unit.empty() || unit == "px")
    return v;
  if (unit == "mm")
    return v * px_per_mm;
  if (unit == "cm")
    return v * 10 * px_per_mm;
  if (unit == "in")
    return v * 96;
  if (unit == "pt")
    return v * 96 / 72;
  if (unit == "pc")
    return v * 16;
  if (unit == "q")
    return v / 4 * px_per_mm;
  return std::nullopt;
}

std::optional<double> in_degrees(double v, const std::string& unit) {
  if (unit.empty() || unit == "deg")
    return v;
  if (unit == "rad")
    return degrees(v);
  if (unit == "grad")
    return v * 0.9;
  if (unit == "turn")
    return v * 360;
  return std::nullopt;
}

struct Argument {
  double value = 0;
  std::string unit;
};

std::optional<std::vector<Argument>> arguments(std::string_view text) {
  std::vector<Argument> out;
  for (;;) {
    skip(text, " \t\r\n\f,");
    if (text.empty())
      return out;
    const auto v = take_number(text);
    if (!v)
      return std::nullopt;
    std::size_t n = 0;
    while (n < text.size() && std::isalpha(static_cast<unsigned char>(text[n])) != 0)
      ++n;
    out.push_back({*v, lower_case(text.substr(0, n))});
    text.remove_prefix(n);
  }
}

std::optional<Affine> one_transform(const std::string& name, const std::vector<Argument>& a) {
  const auto plain = [&](std::size_t i) { return a[i].value; };
  const std::size_t n = a.size();
  if (name == "matrix" && n == 6)
    return Affine{plain(0), plain(1), plain(2), plain(3), plain(4), plain(5)};
  if (name.starts_with("translate") && (n == 1 || n == 2)) {
    const auto first = in_px(a[0].value, a[0].unit), second = n == 2 ? in_px(a[1].value, a[1].unit) : 0;
    if (!first || !second)
      return std::nullopt;
    if (name == "translate")
      return Affine::translation({*first, *second});
    if (n == 1 && (name == "translatex" || name == "translatey"))
      return Affine::translation(name == "translatex" ? Vec{*first, 0} : Vec{0, *first});
    return std::nullopt;
  }
  if (name == "scale" && (n == 1 || n == 2))
    return Affine::scaling(plain(0), plain(n - 1));
  if ((name == "scalex" || name == "scaley") && n == 1)
    return name == "scalex" ? Affine::scaling(plain(0), 1) : Affine::scaling(1, plain(0));
  if (n < 1)
    return std::nullopt;
  const auto angle = in_degrees(a[0].value, a[0].unit);
  if (!angle)
    return std::nullopt;
  if (name == "rotate" && (n == 1 || n == 3)) {
    const Point c = n == 3 ? Point{plain(1), plain(2)} : Point{};
    return Affine::translation(c) * Affine::rotation(radians(*angle)) * Affine::translation(-c);
  }
  if ((name == "skewx" || name == "skewy") && n == 1) {
    Affine m;
    (name == "skewx" ? m.c : m.b) = std::tan(radians(*angle));
    return m;
  }
  return std::nullopt;
}

} // namespace

std::string_view trimmed(std::string_view text) {
  const std::size_t first = text.find_first_not_of(blanks);
  if (first == std::string_view::npos)
    return {};
  return text.substr(first, text.find_last_not_of(blanks) - first + 1);
}

std::string lower_case(std::string_view text) {
  std::string out(text);
  for (char& c : out)
    if (c >= 'A' && c <= 'Z')
      c = static_cast<char>(c - 'A' + 'a');
  return out;
}

std::vector<double> svg_numbers(std::string_view text) {
  std::vector<double> out;
  for (;;) {
    skip(text, " \t\r\n\f,");
    const auto v = take_number(text);
    if (!v)
      return out;
    out.push_back(*v);
  }
}

std::optional<double> svg_length(std::string_view text, const LengthScale& scale, LengthAlong along) {
  text = trimmed(text);
  const auto v = take_number(text);
  if (!v)
    return std::nullopt;
  const std::string unit = lower_case(text);
  if (unit == "%") {
    const double whole = along == LengthAlong::X   ? scale.width
                         : along == LengthAlong::Y ? scale.height
                                                   : std::hypot(scale.width, scale.height) / std::sqrt(2.0);
    return *v / 100 * whole;
  }
  if (unit == "em")
    return *v * scale.font_size;
  if (unit == "rem")
    return *v * scale.root_font_size;
  if (unit == "ex" || unit == "ch")
    return *v * scale.font_size / 2; // CSS Values 3, 5.1.1: where the face does not say
  if (unit == "vw" || unit == "vh")
    return *v / 100 * (unit == "vw" ? scale.width : scale.height);
  return in_px(*v, unit);
}

bool is_measured(std::string_view length) {
  length = trimmed(length);
  if (!take_number(length))
    return false;
  const std::string unit = lower_case(length);
  return unit != "px" && !unit.empty() && in_px(1, unit);
}

std::optional<Affine> svg_transform(std::string_view text) {
  Affine m;
  if (lower_case(trimmed(text)) == "none")
    return m;
  for (;;) {
    skip(text, " \t\r\n\f,;");
    if (text.empty())
      return m;
    const std::size_t open = text.find('('), shut = text.find(')');
    if (open == std::string_view::npos || shut == std::string_view::npos || shut < open)
      return std::nullopt;
    const auto values = arguments(text.substr(open + 1, shut - open - 1));
    if (!values)
      return std::nullopt;
    const auto step = one_transform(lower_case(trimmed(text.substr(0, open))), *values);
    if (!step)
      return std::nullopt;
    m = m * *step;
    text.remove_prefix(shut + 1);
  }
}

std::optional<ViewBox> svg_view_box(std::string_view text) {
  const std::vector<double> v = svg_numbers(text);
  if (v.size() != 4 || !(v[2] > 0) || !(v[3] > 0))
    return std::nullopt;
  return ViewBox{v[0], v[1], v[2], v[3]};
}

Affine fitted(const ViewBox& box, double width, double height, std::string_view preserve_aspect_ratio) {
  const std::string says = lower_case(trimmed(preserve_aspect_ratio));
  double kx = width / box.width, ky = height / box.height;
  if (says.find("none") == std::string::npos)
    kx = ky = says.find("slice") == std::string::npos ? std::min(kx, ky) : std::max(kx, ky);
  const auto share = [&](const char* least, const char* most) {
    return says.find(least) != std::string::npos ? 0.0 : says.find(most) != std::string::npos ? 1.0 : 0.5;
  };
  return {kx,
          0,
          0,
          ky,
          (width - box.width * kx) * share("xmin", "xmax") - box.x * kx,
          (height - box.height * ky) * share("ymin", "ymax") - box.y * ky};
}

} // namespace frelm
