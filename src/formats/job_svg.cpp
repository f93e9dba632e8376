#include "formats/job_svg.h"

#include "document/job_file.h"

#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>

namespace frelm {
namespace {

constexpr std::string_view job_namespace = "https://frelm.invalid/job";

// Of every shape its colour, contours, extents and area.
std::string as_text(const Drawing& drawing) {
  std::string out;
  for (const DrawnShape& s : drawing.shapes) {
    const Box b = s.outline.bounds();
    out += fmt::format("{}{} {} {:.3f} {:.3f} {:.3f} {:.3f} {:.3f}", out.empty() ? "" : " ",
                       (s.colour.r * 256 + s.colour.g) * 256 + s.colour.b, s.outline.contours.size(), b.x0, b.y0, b.x1,
                       b.y1, s.outline.area());
  }
  return out;
}

bool same(const std::string& kept, const Drawing& now) {
  std::vector<double> a, b;
  for (const auto& [text, to] : {std::pair{kept, &a}, std::pair{as_text(now), &b}}) {
    std::istringstream in(text);
    in.imbue(std::locale::classic());
    for (double v = 0; in >> v;)
      to->push_back(v);
  }
  constexpr double slack = 0.01, share = 1e-4; // mm, mm²; other programs round
  constexpr std::size_t fields = 7;
  for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i) {
    const bool area = i % fields == fields - 1;
    if (!(std::abs(a[i] - b[i]) <= slack + (area ? share * std::abs(a[i]) : 0)))
      return false;
  }
  return a.size() == b.size();
}

} // namespace

std::string write_job_svg(const Document& document, const DocumentEvaluator& evaluator, const Versions& versions,
                          const std::stop_token& stop) {
  const CutSheet sheet = seen_sheet(document, evaluator, stop);
  const Result<Drawing> read = read_svg(write_svg_as_drawn(sheet, {}));
  return write_svg_as_drawn(sheet, fmt::format("  <metadata><job xmlns=\"{}\" drawing=\"{}\">{}</job></metadata>\n",
                                               job_namespace, read ? as_text(*read) : std::string(),
                                               xml_text(write_job(document, evaluator.faces(), versions))));
}

std::optional<JobInSvg> job_in_svg(std::string_view bytes) {
  if (bytes.find(job_namespace) == std::string_view::npos)
    return std::nullopt;
  pugi::xml_document xml;
  if (!xml.load_buffer(bytes.data(), bytes.size(), pugi::parse_default | pugi::parse_ws_pcdata_single))
    return std::nullopt;
  const auto is_job = [](const pugi::xml_node& node) {
    const std::string_view name = node.name();
    return name == "job" || name.ends_with(":job");
  };
  for (const pugi::xml_node metadata : xml.document_element().children("metadata"))
    if (const pugi::xml_node job = metadata.find_node(is_job)) {
      const Result<Drawing> drawing = read_svg(bytes);
      return JobInSvg{job.text().get(), !drawing || !same(job.attribute("drawing").value(), *drawing)};
    }
  return std::nullopt;
}

} // namespace frelm
