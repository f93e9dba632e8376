#include "formats/export_json.h"

#include <nlohmann/json.hpp>

namespace frelm {
namespace {

using Json = nlohmann::json;

// Reads what is there and of the right kind, in its bounds.
class Fields {
public:
  explicit Fields(const Json& json) : json_(json) {}
  void flag(const char* key, bool& to) const {
    if (const auto at = json_.find(key); at != json_.end() && at->is_boolean())
      to = at->get<bool>();
  }
  void number(const char* key, double low, double high, double& to) const {
    if (const auto at = json_.find(key); at != json_.end() && at->is_number())
      to = std::clamp(at->get<double>(), low, high);
  }
  void words(const char* key, std::string& to) const {
    if (const auto at = json_.find(key); at != json_.end() && at->is_string())
      to = at->get<std::string>();
  }
  template <class Choice> void choice(const char* key, Choice last, Choice& to) const {
    double which = static_cast<double>(to);
    number(key, 0, static_cast<double>(last), which);
    to = static_cast<Choice>(static_cast<int>(which));
  }
  void colours(const char* key, std::vector<Colour>& to) const {
    if (const auto at = json_.find(key); at != json_.end() && at->is_array())
      for (const Json& c : *at)
        if (c.is_string())
          if (const Result<Colour> colour = colour_from_hex(c.get<std::string>()); colour.ok())
            to.push_back(*colour);
  }

  // null: none; missing or nonsense: as it is.
  void ground(const char* key, std::optional<Colour>& to) const {
    const auto at = json_.find(key);
    if (at != json_.end() && at->is_null())
      to.reset();
    else if (at != json_.end() && at->is_string())
      if (const Result<Colour> colour = colour_from_hex(at->get<std::string>()); colour.ok())
        to = *colour;
  }

private:
  const Json& json_;
};

Json parsed(const std::string& text) {
  Json json = Json::parse(text, nullptr, false);
  return json.is_object() ? json : Json::object();
}

Json as_json(const std::optional<Colour>& ground) {
  return ground ? Json(to_hex(*ground)) : Json();
}

std::string dumped(const Json& json) {
  return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

} // namespace

std::string write_choice(const ExportChoice& c) {
  Json json;
  json["paths"] = c.paths;
  json["knife"] = c.what.knife, json["pen"] = c.what.pen, json["split"] = c.split;
  json["asDriven"] = c.as_driven;
  for (const Colour& left : c.what.left_out)
    json["leftOut"].push_back(to_hex(left));
  const ExportOptions& o = c.options;
  json["svg"] = {{"ink", o.svg.ink}, {"arcs", o.svg.arcs}, {"plain", o.svg.plain}, {"pixels", o.svg.pixels}};
  json["dxf"] = {{"version", o.dxf.version},
                 {"flatten", o.dxf.flatten},
                 {"unit", o.dxf.unit},
                 {"arcs", o.dxf.arcs},
                 {"curvesAsArcs", o.dxf.curves_as_arcs}};
  json["hpgl"] = {{"flatten", o.hpgl.flatten},   {"fromMiddle", o.hpgl.from_middle}, {"turned", o.hpgl.turned},
                  {"mirrored", o.hpgl.mirrored}, {"spaces", o.hpgl.spaces},          {"pageSize", o.hpgl.page_size},
                  {"backHome", o.hpgl.back_home}};
  json["page"] = {{"ink", o.page.ink}, {"pages", o.page.page_a_layer}, {"spot", o.page.spot}};
  json["picture"] = {{"width", o.picture.width}, {"ink", o.picture.ink}, {"ground", as_json(o.picture.ground)}};
  return dumped(json);
}

ExportChoice read_choice(const std::string& text) {
  ExportChoice out;
  const Json json = parsed(text);
  const Fields all(json);
  if (const auto paths = json.find("paths"); paths != json.end() && paths->is_array())
    for (const Json& p : *paths)
      if (p.is_string())
        out.paths.push_back(p.get<std::string>());
  all.flag("knife", out.what.knife), all.flag("pen", out.what.pen), all.flag("split", out.split);
  all.flag("asDriven", out.as_driven);
  all.colours("leftOut", out.what.left_out);
  const auto part = [&](const char* key) {
    const auto at = json.find(key);
    return at != json.end() && at->is_object() ? *at : Json::object();
  };
  ExportOptions& o = out.options;
  {
    const Json svg = part("svg");
    const Fields f(svg);
    f.choice("ink", ExportInk::Lines, o.svg.ink);
    f.flag("arcs", o.svg.arcs), f.flag("plain", o.svg.plain), f.flag("pixels", o.svg.pixels);
  }
  {
    const Json dxf = part("dxf");
    const Fields f(dxf);
    f.choice("version", DxfVersion::R2000, o.dxf.version);
    f.number("flatten", least_flatten, most_flatten, o.dxf.flatten);
    f.choice("unit", Unit::Inch, o.dxf.unit);
    f.flag("arcs", o.dxf.arcs), f.flag("curvesAsArcs", o.dxf.curves_as_arcs);
  }
  {
    const Json hpgl = part("hpgl");
    const Fields f(hpgl);
    f.number("flatten", least_flatten, most_flatten, o.hpgl.flatten);
    f.flag("fromMiddle", o.hpgl.from_middle), f.flag("turned", o.hpgl.turned), f.flag("mirrored", o.hpgl.mirrored);
    f.flag("spaces", o.hpgl.spaces), f.flag("pageSize", o.hpgl.page_size), f.flag("backHome", o.hpgl.back_home);
  }
  {
    const Json page = part("page");
    const Fields f(page);
    f.choice("ink", ExportInk::Lines, o.page.ink);
    f.flag("pages", o.page.page_a_layer), f.words("spot", o.page.spot);
  }
  {
    const Json picture = part("picture");
    const Fields f(picture);
    double width = o.picture.width;
    f.number("width", 1, most_picture_width, width);
    o.picture.width = static_cast<int>(width);
    f.choice("ink", ExportInk::Lines, o.picture.ink);
    f.ground("ground", o.picture.ground);
  }
  return out;
}

std::string write_proof_form(const ProofForm& form) {
  Json json = {{"title", form.title},     {"addressee", form.addressee}, {"date", form.date},
               {"remarks", form.remarks}, {"sign", form.sign},           {"paper", form.paper},
               {"sizes", form.sizes},     {"materials", form.materials}};
  json["ground"] = as_json(form.ground);
  return dumped(json);
}

ProofForm read_proof_form(const std::string& text) {
  ProofForm out;
  const Json json = parsed(text);
  const Fields f(json);
  f.words("title", out.title), f.words("addressee", out.addressee), f.words("date", out.date);
  f.words("remarks", out.remarks), f.words("sign", out.sign);
  f.choice("paper", Paper::Letter, out.paper);
  f.flag("sizes", out.sizes), f.flag("materials", out.materials);
  f.ground("ground", out.ground);
  return out;
}

} // namespace frelm
