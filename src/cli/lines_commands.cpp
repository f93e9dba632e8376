// frelm-cli snip IN.svg --at X,Y [--at X,Y]… -o OUT.svg: the stretches nearest to places taken out
// frelm-cli space IN.svg --at X,Y [--at X,Y]… [--bridge MM] -o OUT.svg: the spaces around places, united
#include "cli/geometry.h"
#include "geom/boolean.h"
#include "geom/snip.h"
#include "geom/spaces.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct LinesOptions {
  std::vector<std::string> at;
  double bridged = 0;
  GeometryFiles files;
};

Result<std::vector<Point>> places(const std::vector<std::string>& typed) {
  std::vector<Point> out;
  for (const std::string& text : typed) {
    Point p;
    const char* end = text.data() + text.size();
    const auto x = std::from_chars(text.data(), end, p.x);
    const bool comma = x.ec == std::errc() && x.ptr != end && *x.ptr == ',';
    const auto y = comma ? std::from_chars(x.ptr + 1, end, p.y) : x;
    if (!comma || y.ec != std::errc() || y.ptr != end || !finite(p))
      return misuse(fmt::format("'{}' is no place; give X,Y in mm", text), "--at");
    out.push_back(p);
  }
  return out;
}

struct LinesInput {
  std::vector<Point> at;
  GeometryInput read;
  std::vector<Outline> drawn;
};
Result<LinesInput> lines_input(const LinesOptions& o, CommandContext& context) {
  Result<std::vector<Point>> at = places(o.at);
  if (!at)
    return at.error();
  Result<GeometryInput> read = read_geometry(o.files, context);
  if (!read)
    return read.error();
  LinesInput out{std::move(*at), std::move(*read), {}};
  for (const auto& file : out.read.files)
    out.drawn.insert(out.drawn.end(), file.begin(), file.end());
  return out;
}

Result<int> run_snip(const LinesOptions& o, CommandContext& context) {
  const Result<LinesInput> input = lines_input(o, context);
  if (!input)
    return input.error();
  std::vector<Outline> outlines = input->drawn;
  const Result<Arrangement> lines = Arrangement::build(outlines);
  if (!lines)
    return lines.error();
  std::map<std::size_t, std::vector<ArrangedStretch>> gone;
  nlohmann::ordered_json json;
  json["snipped"] = nlohmann::ordered_json::array();
  for (const Point p : input->at) {
    std::optional<ArrangedStretch> stretch = lines->stretch_at(p);
    if (!stretch)
      return misuse("there is no line to snip", o.files.inputs.front());
    json["snipped"].push_back({{"length", stretch->curve.length()}, {"whole", stretch->whole}});
    gone[stretch->from.outline].push_back(std::move(*stretch));
  }
  for (const auto& [outline, stretches] : gone)
    outlines[outline] = without_stretches(outlines[outline], stretches);
  std::erase_if(outlines, [](const Outline& outline) { return outline.empty(); });
  const Result<Arrangement> rest = Arrangement::build(outlines);
  if (!rest)
    return rest.error();
  json["loose_ends"] = rest->loose_ends().size();
  return write_geometry(outlines, o.files, input->read, json, {}, context);
}

Result<int> run_space(const LinesOptions& o, CommandContext& context) {
  const Result<LinesInput> input = lines_input(o, context);
  if (!input)
    return input.error();
  const Result<Spaces> spaces = Spaces::build(input->drawn, o.bridged);
  if (!spaces)
    return spaces.error();
  std::vector<Outline> taken;
  for (std::size_t i = 0; i < input->at.size(); ++i) {
    std::optional<Outline> space = spaces->at(input->at[i]);
    if (!space)
      return misuse(fmt::format("no lines enclose {}", o.at[i]), "--at");
    taken.push_back(std::move(*space));
  }
  const Result<WeldResult> united = combine(BooleanOp::Union, taken, {});
  if (!united)
    return united.error();
  nlohmann::ordered_json json;
  json["area"] = united->outline.area();
  json["nodes"] = united->outline.node_count();
  json["bridges"] = nlohmann::ordered_json::array();
  for (const Bridge& b : spaces->bridges())
    json["bridges"].push_back({{"from", {b.from.x, b.from.y}}, {"to", {b.to.x, b.to.y}}});
  return write_geometry({united->outline}, o.files, input->read, json, {}, context);
}

} // namespace

void add_lines_commands(CLI::App& app, CommandContext& context) {
  const auto add = [&](const char* name, const char* what, Result<int> (*run)(const LinesOptions&, CommandContext&)) {
    auto o = std::make_shared<LinesOptions>();
    CLI::App* c = app.add_subcommand(name, what);
    c->add_option("--at", o->at, "X,Y in mm; as often as wanted")
        ->required()
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    add_geometry_files(*c, o->files);
    c->callback([o, run, &context] { context.run = [o, run, &context] { return run(*o, context); }; });
    return std::pair(c, o);
  };
  add("snip", "Take out the stretches of lines, from crossing to crossing, nearest to places", run_snip);
  const auto [space, o] = add("space", "The spaces that lines enclose around places, as one outline", run_space);
  space->add_option("--bridge", o->bridged, "mm; openings up to this width are bridged");
}

} // namespace frelm
