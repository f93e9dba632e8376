// What the geometry commands share: SVG files in, one SVG file and a one-line JSON report out.
#pragma once

#include "cli/open_job.h"

#include <chrono>
#include <nlohmann/json_fwd.hpp>

namespace frelm {

struct GeometryFiles {
  std::vector<std::string> inputs;
  std::string output;
  int repeat = 0; // times the operation is run again and timed
};
// Adds the files, -o and --repeat to a subcommand; `what` the files are.
void add_geometry_files(CLI::App& command, GeometryFiles& files, int fewest = 1, int most = 1,
                        const std::string& what = "SVG files");

struct GeometryInput {
  std::vector<std::vector<Outline>> files; // each file's shapes, mm
  Box frame;                               // of all drawings
  std::string name;                        // "a.svg + b.svg"

  Outline all() const; // every shape of every file in one outline, as they are
  // The same as SVG paints them, each path filled by itself, whichever way it runs: shapes united, open lines kept.
  Result<Outline> painted() const;
};
Result<GeometryInput> read_geometry(const GeometryFiles& files, CommandContext& context);

// Runs f once, and `repeat` times more with the clock running; f gives a Result. Its last result.
template <class F> auto run_timed(const F& f, int repeat, std::vector<double>& seconds) {
  auto result = f();
  for (int i = 0; i < repeat && result; ++i) {
    const auto begin = std::chrono::steady_clock::now();
    result = f();
    seconds.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
  }
  return result;
}

// Writes the outlines, each a path, in a sheet around the input's frame and them; prints the report with `median_s`
// where there are seconds. Gives exit code 0.
Result<int> write_geometry(const std::vector<Outline>& outlines, const GeometryFiles& files, const GeometryInput& input,
                           nlohmann::ordered_json& report, std::vector<double> seconds, CommandContext& context);

struct WeldReport;
nlohmann::ordered_json weld_report_json(const WeldReport& report);

} // namespace frelm
