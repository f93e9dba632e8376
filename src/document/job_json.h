// Inside the job file's reader and writer: JSON values with their place in the file, and enums by their names.
// Thrown errors (Refused) never leave document/job_file.cpp.
#pragma once

#include "document/document.h"
#include "document/validity.h"
#include "geom/path_data.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace frelm::job_json {

using Json = nlohmann::ordered_json;

// One table per enum: the names in the file.
template <class E> struct Names;
#define FRELM_NAMES(E, ...)                                                                                            \
  template <> struct Names<E> { static constexpr std::pair<E, const char*> table[] = {__VA_ARGS__}; }
template <class E> const char* name_of(E value) {
  for (const auto& [v, name] : Names<E>::table)
    if (v == value)
      return name;
  return "";
}

// A value that makes no sense, with its place.
struct Refused {
  Said what;
  std::string where;
};

// A JSON value and its place in the file, for errors.
class At {
public:
  At(const Json& json, std::string place) : json_(json), place_(std::move(place)) {}

  const Json& json() const { return json_; }
  [[noreturn]] void refuse(Said what) const { throw Refused{std::move(what), place_}; }
  bool has(const char* key) const { return json_.is_object() && json_.contains(key) && !json_[key].is_null(); }
  At operator[](const char* key) const {
    if (!has(key))
      refuse(say(FRELM_WORDS("core", "'%1' is missing"), std::string(key)));
    return {json_[key], place_ + "/" + key};
  }
  At item(std::size_t i) const {
    if (i >= size())
      refuse(FRELM_WORDS("core", "is too short"));
    return {json_[i], fmt::format("{}/{}", place_, i)};
  }
  std::size_t size() const {
    if (!json_.is_array())
      refuse(FRELM_WORDS("core", "must be a list"));
    return json_.size();
  }
  double number() const {
    if (!json_.is_number())
      refuse(FRELM_WORDS("core", "must be a number"));
    const double v = json_.get<double>();
    if (!std::isfinite(v) || std::abs(v) > largest_number)
      refuse(FRELM_WORDS("core", "is out of range"));
    return v;
  }
  double positive() const {
    const double v = number();
    if (!(v > 0))
      refuse(FRELM_WORDS("core", "must be more than 0"));
    return v;
  }
  std::uint64_t whole() const {
    if (!json_.is_number_unsigned())
      refuse(FRELM_WORDS("core", "must be a whole number"));
    return json_.get<std::uint64_t>();
  }
  bool flag() const {
    if (!json_.is_boolean())
      refuse(FRELM_WORDS("core", "must be true or false"));
    return json_.get<bool>();
  }
  std::string text() const {
    if (!json_.is_string())
      refuse(FRELM_WORDS("core", "must be text"));
    return json_.get<std::string>();
  }
  template <class E> E choice() const {
    const std::string name = text();
    for (const auto& [v, n] : Names<E>::table)
      if (name == n)
        return v;
    refuse(say(FRELM_WORDS("core", "'%1' is not known"), name));
  }

private:
  const Json& json_;
  std::string place_;
};

FRELM_NAMES(Destination, {Destination::Knife, "knife"}, {Destination::Pen, "pen"}, {Destination::Guide, "guide"},
            {Destination::Off, "off"});

inline Json point(Point p) {
  return Json::array({p.x, p.y});
}
inline Point point(const At& at) {
  if (at.size() != 2)
    at.refuse(FRELM_WORDS("core", "must be x and y"));
  return {at.item(0).number(), at.item(1).number()};
}

inline Json outline(const Outline& o) {
  return path_data(o, -1);
}
inline Outline outline(const At& at) {
  Result<Outline> o = parse_outline(at.text(), EndsMeet::StaysOpen);
  if (!o)
    at.refuse(o.error().said());
  return std::move(*o);
}

inline Json face_name(const FaceName& name) {
  Json out{{"family", name.family}, {"style", name.style}};
  for (const AxisValue& a : name.axes)
    out["axes"].push_back(Json::array({a.tag, a.value}));
  return out;
}
inline FaceName face_name(const At& at) {
  FaceName out{at["family"].text(), at["style"].text()};
  if (at.has("axes")) { // since version 7
    const At axes = at["axes"];
    for (std::size_t i = 0; i < axes.size(); ++i)
      out.axes.push_back({axes.item(i).item(0).text(), axes.item(i).item(1).number()});
  }
  return out;
}

Json finish(const Finish& f);
Finish finish(const At& at);
Json materials(const std::vector<Material>& list);
Material material(const At& at);
Json name_list(const NameList& list);
NameList name_list(const At& at);
Json guide_shape(const GuideShape& shape);
GuideShape guide_shape(const At& at);
Json rails(const RailsBend& r);
RailsBend rails(const At& at);
Json net(const NetBend& n, const char* base);
NetBend net(const At& at, BendKind base);
Json carried(const CarriedShapes& s);
CarriedShapes carried(const At& at);

} // namespace frelm::job_json
