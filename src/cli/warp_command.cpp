// frelm-cli warp IN.svg --top "path data" --bottom "path data" [--verticals kept|follow] [--tolerance MM] -o OUT.svg
// frelm-cli warp IN.svg --into "path data" [--corners P,P,P,P] [--tolerance MM] -o OUT.svg
#include "cli/geometry.h"
#include "geom/fill_map.h"
#include "geom/path_data.h"
#include "geom/rails.h"

#include <CLI/CLI.hpp>
#include <charconv>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace frelm {
namespace {

struct WarpCommandOptions {
  std::string top, bottom, into;
  std::string corners; // four places, % of the boundary from its start, clockwise; empty: found
  Verticals verticals = Verticals::Follow;
  WarpOptions warp;
  GeometryFiles files;
};

Result<Curve> rail(const std::string& data, const char* option) {
  Result<Curve> curve = parse_curve(data);
  if (!curve)
    return at_place(curve.error(), option);
  return std::move(*curve);
}

struct Bend {
  WarpMap map;
  const char* solved = nullptr; // of a filled shape: which way
};

Result<Bend> between_rails(const WarpCommandOptions& o, const Box& source) {
  const Result<Curve> top = rail(o.top, "--top"), bottom = rail(o.bottom, "--bottom");
  if (!top)
    return top.error();
  if (!bottom)
    return bottom.error();
  Result<WarpMap> map = rails_map(source, {*top, *bottom, o.verticals});
  if (!map)
    return map.error();
  return Bend{std::move(*map)};
}

Result<std::array<double, 4>> parse_corners(std::string_view text) {
  const Error wrong = misuse("takes four places along --into in %, top left first: 0,30,50,80", "--corners");
  std::array<double, 4> out{};
  for (std::size_t k = 0; k < 4; ++k) {
    const std::size_t comma = std::min(text.find(','), text.size());
    const auto [end, status] = std::from_chars(text.data(), text.data() + comma, out[k]);
    if (status != std::errc() || end != text.data() + comma || (k < 3) != (comma < text.size()))
      return wrong;
    text.remove_prefix(std::min(comma + 1, text.size()));
  }
  return out;
}

// The letters decide which way the inside is solved: forward, unless they fold that way.
Result<Bend> into_shape(const WarpCommandOptions& o, const Outline& outline) {
  const Box source = outline.bounds();
  const Result<Outline> shape = parse_outline(o.into);
  if (!shape)
    return at_place(shape.error(), "--into");
  if (shape->contours.size() != 1)
    return misuse("takes one closed line", "--into");
  Result<FillTarget> target = fill_target(shape->contours.front());
  if (!target)
    return target.error();
  if (!o.corners.empty()) {
    const Result<std::array<double, 4>> corners = parse_corners(o.corners);
    if (!corners)
      return corners.error();
    const double whole = target->boundary.length();
    for (std::size_t k = 0; k < 4; ++k)
      target->corners[k] = whole * (*corners)[k] / 100;
  }
  Result<FillMap> filled = fill_map(source, *target);
  if (!filled)
    return filled.error();
  if (filled->solved == FillSolve::Forward) {
    const Result<WarpResult> tried = warp(outline, filled->map, o.warp);
    if (tried && tried->report.folds > 0)
      if (Result<FillMap> other = fill_map(source, *target, {FillSolve::Inverse}); other)
        filled = std::move(other);
  }
  return Bend{std::move(filled->map), filled->solved == FillSolve::Forward ? "forward" : "inverse"};
}

Result<int> run_warp(const WarpCommandOptions& o, CommandContext& context) {
  const Result<GeometryInput> input = read_geometry(o.files, context);
  if (!input)
    return input.error();
  if (o.into.empty() == (o.top.empty() && o.bottom.empty()))
    return misuse("give --top and --bottom, or --into", "warp");
  if (!o.corners.empty() && o.into.empty())
    return misuse("goes with --into", "--corners");
  const Outline outline = input->all();
  const Result<Bend> bend = o.into.empty() ? between_rails(o, outline.bounds()) : into_shape(o, outline);
  if (!bend)
    return bend.error();
  const WarpMap* map = &bend->map;
  std::vector<double> seconds;
  const Result<WarpResult> result = run_timed([&] { return warp(outline, *map, o.warp); }, o.files.repeat, seconds);
  if (!result)
    return result.error();
  if (result->report.folds > 0)
    return misuse(o.into.empty() ? "the outline folds over itself between these rails; move them apart there"
                                 : "the outline folds over itself in this shape; move its corners",
                  fmt::format("x {:.1f} to {:.1f}, y {:.1f} to {:.1f}", result->report.fold_box.x0,
                              result->report.fold_box.x1, result->report.fold_box.y0, result->report.fold_box.y1));
  const WarpStretch stretch = stretch_of(outline, *map);
  nlohmann::ordered_json json;
  json["nodes_in"] = result->report.nodes_in;
  json["nodes_out"] = result->report.nodes_out;
  json["worst_deviation"] = result->report.worst;
  if (bend->solved != nullptr)
    json["solved"] = bend->solved;
  json["fallbacks"] = nlohmann::ordered_json::object();
  json["narrowest"] = stretch.narrowest;
  json["widest"] = stretch.widest;
  json["steepest_shear_deg"] = degrees(stretch.steepest_shear);
  return write_geometry({result->outline}, o.files, *input, json, std::move(seconds), context);
}

} // namespace

void add_warp_command(CLI::App& app, CommandContext& context) {
  auto o = std::make_shared<WarpCommandOptions>();
  CLI::App* c = app.add_subcommand("warp", "Bend outlines between two rails, or into a closed shape");
  const std::map<std::string, Verticals> verticals{{"kept", Verticals::Kept}, {"follow", Verticals::Follow}};
  c->add_option("--top", o->top, "path data of the top rail, mm");
  c->add_option("--bottom", o->bottom, "path data of the bottom rail, mm");
  c->add_option("--into", o->into, "path data of a closed shape to fill, mm");
  c->add_option("--corners", o->corners, "where its corners are, % along it clockwise, top left first: 0,30,50,80");
  c->add_option("--verticals", o->verticals, "kept or follow")->transform(CLI::CheckedTransformer(verticals));
  c->add_option("--tolerance", o->warp.tolerance, "mm from the exact bend");
  add_geometry_files(*c, o->files);
  c->callback([=, &context] { context.run = [=, &context] { return run_warp(*o, context); }; });
}

} // namespace frelm
