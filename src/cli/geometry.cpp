#include "cli/geometry.h"

#include "geom/weld.h"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>
#include <ostream>

namespace frelm {

void add_geometry_files(CLI::App& command, GeometryFiles& files, int fewest, int most, const std::string& what) {
  command.add_option("files", files.inputs, what)->required()->expected(fewest, most);
  command.add_option("-o", files.output, "SVG file to write")->required();
  command.add_option("--repeat", files.repeat, "time it N times and report the median")->check(CLI::PositiveNumber);
}

Outline GeometryInput::all() const {
  Outline out;
  for (const std::vector<Outline>& file : files)
    for (const Outline& shape : file)
      out.append(shape);
  return out;
}

Result<Outline> GeometryInput::painted() const {
  std::vector<Outline> shapes;
  for (const std::vector<Outline>& file : files)
    shapes.insert(shapes.end(), file.begin(), file.end());
  if (shapes.size() == 1)
    return shapes.front();
  Result<WeldResult> united = weld(shapes);
  if (!united)
    return united.error();
  return std::move(united->outline);
}

Result<GeometryInput> read_geometry(const GeometryFiles& files, CommandContext& context) {
  GeometryInput out;
  for (const std::string& path : files.inputs) {
    const Result<Drawing> drawing = read_drawing_file(path, context);
    if (!drawing)
      return drawing.error();
    std::vector<Outline>& shapes = out.files.emplace_back();
    for (const DrawnShape& s : drawing->shapes)
      shapes.push_back(s.outline);
    out.frame.add(drawing->frame);
    out.name += (out.name.empty() ? "" : " + ") + path.substr(path.find_last_of('/') + 1);
  }
  return out;
}

Result<int> write_geometry(const std::vector<Outline>& outlines, const GeometryFiles& files, const GeometryInput& input,
                           nlohmann::ordered_json& report, std::vector<double> seconds, CommandContext& context) {
  CutSheet sheet{input.frame, {}};
  std::size_t contours = 0;
  for (const Outline& o : outlines) {
    const int id = static_cast<int>(sheet.pieces.size()) + 1;
    sheet.pieces.push_back({static_cast<PieceId>(id), input.name, {}, Destination::Knife, o});
    sheet.frame.add(o.bounds());
    contours += o.contours.size();
  }
  if (const Result<Done> done = context.storage.write(files.output, write_svg(sheet)); !done)
    return done.error();
  report["contours"] = contours;
  if (!seconds.empty()) {
    std::sort(seconds.begin(), seconds.end());
    report["median_s"] = seconds[seconds.size() / 2];
  }
  context.out << report.dump() << "\n";
  return 0;
}

nlohmann::ordered_json weld_report_json(const WeldReport& report) {
  nlohmann::ordered_json json;
  json["nodes_in"] = report.nodes_in;
  json["nodes_out"] = report.nodes_out;
  json["worst_deviation"] = report.worst_move;
  json["fallbacks"] = {{"snapped_joins", report.snapped_joins},
                       {"polyline_contours", report.polyline_contours},
                       {"small_loops", report.small_loops},
                       {"closed_slits", report.closed_slits}};
  return json;
}

} // namespace frelm
