// Options of what the machine does, for all materials of a job: --as-driven, --machine, --tip, --kerf, …
#pragma once

#include "document/document.h"

#include <memory>

namespace CLI {
class App;
}

namespace frelm {

struct ToolOptions {
  bool as_driven = false; // also where nothing else is said: by the job's own materials
  std::optional<Machine> machine;
  std::optional<Lead> lead;
  std::optional<Seam> seam;
  std::optional<PartSide> side;
  std::optional<double> tip, swivel, overcut, kerf, lead_length, speed, acceleration;
  std::optional<int> passes;
  std::optional<double> roll, panels; // width of the materials, overlap of their panels; not as driven by themselves
  std::optional<std::size_t> panel;   // one of them
  bool any() const;                   // as driven
  bool changes() const;               // the materials
};
std::shared_ptr<ToolOptions> add_tool_options(CLI::App& command);
// Every colour that is cut gets a material with these. Errors: out of range.
Result<Document> with_tools(Document document, const ToolOptions& options);

} // namespace frelm
